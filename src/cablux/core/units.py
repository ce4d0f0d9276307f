"""Lengths: millimetres inside, centimetres or inches at the edge of the program."""

from __future__ import annotations

import math
from typing import Literal

Unit = Literal["cm", "in"]

MM_PER: dict[Unit, float] = {"cm": 10.0, "in": 25.4}
GAUGE_SPAN: dict[Unit, tuple[float, str]] = {"cm": (100.0, "10 cm"), "in": (101.6, "4 in")}


def to_mm(value: float, unit: Unit) -> float:
    """A length in the person's unit as millimetres.

    >>> to_mm(43, "in")
    1092.2
    """
    return value * MM_PER[unit]


def from_mm(mm: float, unit: Unit) -> float:
    """Millimetres in the person's unit."""
    return mm / MM_PER[unit]


def fine_text(mm: float, unit: Unit) -> str:
    """The width of a stitch or the height of a row: `5.54 mm`, or `0.218 in`."""
    return f"{mm:.2f} mm" if unit == "cm" else f"{from_mm(mm, unit):.3f} in"


def length_text(mm: float, unit: Unit, digits: int = 1) -> str:
    """`54.2 cm`, trailing zeros left out.

    >>> length_text(1092.2, "in"), length_text(1092.2, "cm")
    ('43 in', '109.2 cm')
    """
    text = f"{from_mm(mm, unit):.{digits}f}"
    return f"{text.rstrip('0').rstrip('.') if '.' in text else text} {unit}"


def cord_text(mm: float, unit: Unit, at_least: bool = False) -> str:
    """The length of a circular needle as it is sold: `80 cm`, or `32 in` to the nearest, or next, whole inch."""
    length = from_mm(mm, unit)
    return f"{math.ceil(length - 1e-6) if at_least else length:.0f} {unit}"
