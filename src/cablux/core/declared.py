"""How fields of the core's records are declared: units, limits, and what a name may be; files are made from them.

A length is kept in millimetres. Limits hold for the number as a file has it: of a length, in the file's own unit.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from annotated_types import Ge, Gt, Le, Len


@dataclass(frozen=True)
class Millimetres:
    """A length, kept in millimetres; a file has it in its own unit, its name without `_mm`."""


@dataclass(frozen=True)
class PlainWords:
    """Words on one line without markup, so many characters of them."""

    least: int
    most: int


Length = Annotated[float, Millimetres()]
Name = Annotated[str, PlainWords(1, 80)]
NoName = Annotated[str, PlainWords(0, 80)]
Count = Annotated[int, Ge(0), Le(1_500)]
"""Stitches of a row, or of a part of one."""
SectionCount = Annotated[int, Ge(-1), Le(1_500)]
Place = Annotated[int, Ge(0), Le(59)]
"""The place of a segment, or of a section, from the right; the first is 0."""
StationPlace = Annotated[int, Ge(0), Le(11)]
Row = Annotated[int, Ge(0), Le(5_000)]

__all__ = [
    "Count",
    "Ge",
    "Gt",
    "Le",
    "Len",
    "Length",
    "Millimetres",
    "Name",
    "NoName",
    "Place",
    "PlainWords",
    "Row",
    "SectionCount",
    "StationPlace",
]
