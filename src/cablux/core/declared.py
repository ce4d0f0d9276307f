"""How fields of the core's records are declared: units, limits, and what a name may be; files are made from them.

A length is kept in millimetres. Limits hold for the number as a file has it: of a length, in the file's own unit.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import cache
from typing import Annotated, Any, Literal, get_args, get_origin, get_type_hints

from annotated_types import Ge, Gt, Le, Len

from .errors import UnknownChoice


@dataclass(frozen=True)
class Millimetres:
    """A length, kept in millimetres; a file has it in its own unit, its name without `_mm`."""


@dataclass(frozen=True)
class OverSpan:
    """Stitches or rows to 100 mm; a file has them over the length to which its unit's gauge is counted."""


@dataclass(frozen=True)
class PlainWords:
    """Words on one line without markup, so many characters of them."""

    least: int
    most: int


@dataclass(frozen=True)
class Id:
    """A name in small letters, digits and hyphens, by which a pattern is found."""


@dataclass(frozen=True)
class Called:
    """What a file calls a field, where that is not its own name."""

    name: str


@dataclass(frozen=True)
class Unfiled:
    """What no file has: it follows from the rest."""


@dataclass(frozen=True)
class FromOne:
    """A place, counted from 0; a file counts from 1."""


Length = Annotated[float, Millimetres()]
GaugeCount = Annotated[float, OverSpan()]
LengthAlong = Annotated[float, Millimetres(), Ge(0), Le(10_000)]
"""From where to where along an edge."""
Name = Annotated[str, PlainWords(1, 80)]
NoName = Annotated[str, PlainWords(0, 80)]
Count = Annotated[int, Ge(0), Le(1_500)]
"""Stitches of a row, or of a part of one."""
Stitches = Annotated[int, Ge(1), Le(1_500)]
"""At least one."""
PieceNumber = Annotated[int, Ge(1), Le(9_999)]
"""The number of a piece, which names it for good."""
PatternId = Annotated[str, Id()]
SectionCount = Annotated[int, Ge(-1), Le(1_500)]
Place = Annotated[int, Ge(0), Le(59)]
"""The place of a segment, or of a section, from the right; the first is 0."""
StationPlace = Annotated[int, Ge(0), Le(11)]
Row = Annotated[int, Ge(0), Le(5_000)]


@cache
def _choices(record: Any) -> tuple[tuple[str, frozenset[str]], ...]:
    """The fields of a record that take one of several words, with those words."""
    hints = get_type_hints(record)
    listed = ((f.name, hints[f.name]) for f in fields(record))
    return tuple((name, frozenset(get_args(hint))) for name, hint in listed if get_origin(hint) is Literal)


def check_choices(record: Any) -> None:
    """Raises UnknownChoice where a field of a record has none of the words that it declares."""
    kind: Any = type(record)
    for name, choices in _choices(kind):
        if getattr(record, name) not in choices:
            raise UnknownChoice(getattr(record, name), kind.__name__, name, choices=choices)


class Choosing:
    """A record whose words are looked at when it is made: a misspelt one would change numbers in silence."""

    def __post_init__(self) -> None:
        check_choices(self)


__all__ = [
    "Called",
    "Choosing",
    "Count",
    "FromOne",
    "GaugeCount",
    "Ge",
    "Gt",
    "Id",
    "Le",
    "Len",
    "Length",
    "LengthAlong",
    "Millimetres",
    "Name",
    "NoName",
    "OverSpan",
    "PatternId",
    "PieceNumber",
    "Place",
    "PlainWords",
    "Row",
    "SectionCount",
    "StationPlace",
    "Stitches",
    "Unfiled",
    "check_choices",
]
