"""Body sizes for garments, by a published table: chest, arm, back, and what else a sweater is measured by."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ...units import MM_PER

SOURCE = "Craft Yarn Council, Standards & Guidelines, body sizes"


@dataclass(frozen=True, kw_only=True)
class Body:
    """A body, in inches as the table prints them: the middle of each range.

    `back_length_in`: from the neck to the waist; of men to the hips. `wrist_in`: from the middle of the neck's back.
    """

    chest_in: float
    wrist_in: float
    back_length_in: float
    cross_back_in: float
    arm_in: float
    upper_arm_in: float
    armhole_in: float
    head_in: float

    def mm(self, name: str) -> float:
        """A measure in millimetres."""
        return float(getattr(self, f"{name}_in")) * MM_PER["in"]


def _bodies(who: str, names: str, rows: Mapping[str, tuple[float, ...]]) -> dict[str, Body]:
    table = zip(*rows.values(), strict=True)
    return {
        f"{who} {n}": Body(**{f"{measure}_in": inches for measure, inches in zip(rows, each, strict=True)})
        for n, each in zip(names.split(), table, strict=True)
    }


BODIES: Mapping[str, Body] = {
    **_bodies(
        "woman",
        "XS S M L 1X 2X 3X 4X 5X",
        {
            "chest": (29, 33, 37, 41, 45, 49, 53, 57, 61),
            "wrist": (27.25, 28.25, 29.25, 30.25, 31.25, 31.75, 32.75, 32.75, 33.25),
            "back_length": (16.5, 17, 17.25, 17.5, 17.75, 18, 18, 18.5, 18.5),
            "cross_back": (14.25, 14.75, 16.25, 17.25, 17.5, 18, 18, 18.5, 18.5),
            "arm": (16.5, 17, 17, 17.5, 17.5, 18, 18, 18.5, 18.5),
            "upper_arm": (9.75, 10.25, 11, 12, 13.5, 15.5, 17, 18.5, 19.5),
            "armhole": (6.25, 6.75, 7.25, 7.75, 8.25, 8.75, 9.25, 9.75, 10.25),
            "head": (22,) * 9,
        },
    ),
    **_bodies(
        "man",
        "S M L XL 2X",
        {
            "chest": (35, 39, 43, 47, 51),
            "wrist": (32.25, 33.25, 34.25, 35.25, 36.25),
            "back_length": (25.25, 26.625, 27.125, 27.625, 28.25),
            "cross_back": (15.75, 16.75, 17.75, 18.25, 18.75),
            "arm": (18, 18.5, 19.5, 20, 20.5),
            "upper_arm": (12, 13, 15, 16, 17),
            "armhole": (8.75, 9.25, 9.75, 10.25, 10.75),
            "head": (23.25,) * 5,
        },
    ),
    **_bodies(
        "child",
        "2 4 6 8 10 12 14 16",
        {
            "chest": (21, 23, 25, 26.5, 28, 30, 31.5, 32.5),
            "wrist": (18, 19.5, 20.5, 22, 24, 26, 27, 28),
            "back_length": (8.5, 9.5, 10.5, 12.5, 14, 15, 15.5, 16),
            "cross_back": (9.25, 9.75, 10.25, 10.75, 11.25, 12, 12.25, 13),
            "arm": (8.5, 10.5, 11.5, 12.5, 13.5, 15, 16, 16.5),
            "upper_arm": (7, 7.5, 8, 8.5, 8.75, 9, 9.25, 9.5),
            "armhole": (4.25, 4.75, 5, 5.5, 6, 6.5, 7, 7.5),
            "head": (18.8, 19.5, 20, 20.25, 20.5, 21, 21.25, 21.25),
        },
    ),
    **_bodies(
        "baby",
        "3m 6m 12m 18m",
        {
            "chest": (16, 17, 18, 19),
            "wrist": (10.5, 11.5, 12.5, 14),
            "back_length": (6, 7, 7.5, 8),
            "cross_back": (7.25, 7.75, 8.25, 8.5),
            "arm": (6, 6.5, 7.5, 8),
            "upper_arm": (5.5, 6, 6.5, 7),
            "armhole": (3.25, 3.5, 3.75, 4),
            "head": (15.75, 16.85, 17.9, 18.4),
        },
    ),
}
"""Heads are not in that table: common practice for adults and children, the WHO's medians for babies."""


def head_mm(size: str) -> float:
    """The head of a size, round, in millimetres."""
    return float(round(BODIES[size].mm("head")))


def by_size(name: str, more_mm: float = 0.0, times: float = 1.0) -> dict[str, float | str]:
    """A measure for each size, with so much added to it, in whole millimetres."""
    return {size: float(round(times * body.mm(name) + more_mm)) for size, body in BODIES.items()}
