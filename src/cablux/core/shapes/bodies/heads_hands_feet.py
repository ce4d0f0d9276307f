"""Bodies: heads, hands and feet to begin with, each with its source; whoever can measure should."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

_WHO = "WHO Child Growth Standards, head circumference for age, median of girls and boys"
_PRACTICE = "common practice"


@dataclass(frozen=True)
class Head:
    """A head: its way round, the height of an unfolded hat for it, both in millimetres, and where they come from."""

    around_mm: float
    height_mm: float
    source: str


HEADS: Mapping[str, Head] = {
    "woman": Head(560.0, 230.0, f"{_PRACTICE}: 54 to 57 cm round, hats 21.5 to 24 cm high"),
    "man": Head(590.0, 245.0, f"{_PRACTICE}: 57 to 61 cm round, hats 23 to 25.5 cm high"),
    "teen": Head(540.0, 222.0, f"{_PRACTICE}: 52 to 56 cm round, hats 21.5 to 23 cm high"),
    "child of 5": Head(503.0, 207.0, f"{_WHO}, 5 years; height {_PRACTICE}"),
    "child of 2": Head(478.0, 197.0, f"{_WHO}, 24 months; height {_PRACTICE}"),
    "1 year": Head(455.0, 187.0, f"{_WHO}, 12 months; height {_PRACTICE}"),
    "6 months": Head(428.0, 178.0, f"{_WHO}, 6 months; height {_PRACTICE}"),
    "3 months": Head(400.0, 160.0, f"{_WHO}, 3 months; height {_PRACTICE}"),
    "newborn": Head(342.0, 140.0, f"{_WHO}, birth; height {_PRACTICE}"),
}
BABIES = ("1 year", "6 months", "3 months", "newborn")


@dataclass(frozen=True)
class Hand:
    """A hand: its way round over the knuckles, and the wrist's, in millimetres."""

    around_mm: float
    length_mm: float
    source: str


HANDS: Mapping[str, Hand] = {
    "woman": Hand(185.0, 175.0, f"{_PRACTICE}: 18 to 19 cm over the knuckles"),
    "woman, small": Hand(172.0, 165.0, f"{_PRACTICE}: 16.5 to 17.8 cm over the knuckles"),
    "woman, large": Hand(198.0, 182.0, f"{_PRACTICE}: 19 to 20.5 cm over the knuckles"),
    "man": Hand(215.0, 195.0, f"{_PRACTICE}: 21 to 22 cm over the knuckles"),
    "man, large": Hand(232.0, 205.0, f"{_PRACTICE}: 22.5 to 24 cm over the knuckles"),
    "teen": Hand(175.0, 165.0, f"{_PRACTICE}: 17 to 18 cm over the knuckles"),
    "child of 8": Hand(158.0, 140.0, f"{_PRACTICE}: 15 to 16.5 cm over the knuckles"),
    "child of 5": Hand(145.0, 125.0, f"{_PRACTICE}: 14 to 15 cm over the knuckles"),
    "child of 3": Hand(135.0, 110.0, f"{_PRACTICE}: 13 to 14 cm over the knuckles"),
}


@dataclass(frozen=True)
class Foot:
    """A foot: round its ball, and its length, in millimetres."""

    around_mm: float
    length_mm: float
    source: str


_CYC = "Craft Yarn Council, Standards & Guidelines, foot sizes: length; way round as feet measure, common practice"
FEET: Mapping[str, Foot] = {
    "woman": Foot(225.0, 255.0, f"{_CYC}; US 6 to 9"),
    "woman, small": Foot(215.0, 230.0, f"{_CYC}; US 3 to 6"),
    "woman, large": Foot(235.0, 280.0, f"{_CYC}; US 8 to 12"),
    "man": Foot(250.0, 265.0, f"{_CYC}; US 8½ to 10"),
    "man, small": Foot(240.0, 240.0, f"{_CYC}; US 6 to 8"),
    "man, large": Foot(260.0, 280.0, f"{_CYC}; US 10½ to 12"),
    "child": Foot(180.0, 190.0, "Craft Yarn Council, Standards & Guidelines, foot sizes; US 10 to 2"),
    "child, small": Foot(150.0, 150.0, "Craft Yarn Council, Standards & Guidelines, foot sizes; US 7 to 11"),
}


def sources(table: Mapping[str, Head] | Mapping[str, Hand] | Mapping[str, Foot]) -> str:
    """Where a table's figures come from, each source once."""
    said = dict.fromkeys(each.source.split(":")[0].split(";")[0].split(",")[0] for each in table.values())
    return "; ".join(said)
