"""Worked rows as plain values: each with its side, its parts and its counts."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from ..library import FamilyName
from ..notation import Crossing, HalfCrossing, Op, Side, makes, takes, wrong_side_row

PieceSection = Literal[
    "bottom border", "bottom change row", "set-up rows", "body", "change row", "top change row", "top border"
]
CHANGES: tuple[PieceSection, ...] = ("bottom change row", "change row", "top change row")
"""The rows that change the count: at the bottom border, between two bands, and at the top border."""


@dataclass(frozen=True, kw_only=True)
class WorkedPart:
    """One segment's share of a row, as seen from the right side; `segment` is its place from the right in its band.

    `columns` are those of its chart that live after the row, told where a band is shaped: elsewhere all of them live.
    `held` are those that are put on a holder in it, or bound off.
    """

    segment: int
    name: str
    family: FamilyName
    ops: tuple[Op, ...]
    chart_row: int = 0
    columns: tuple[int, ...] = ()
    held: tuple[int, ...] = ()

    @cached_property
    def takes(self) -> int:
        """Stitches it takes."""
        return takes(self.ops)

    @cached_property
    def makes(self) -> int:
        """Stitches it leaves."""
        return makes(self.ops)

    def worked(self, side: Side) -> tuple[Op, ...]:
        """Its operations in the order and the form in which they are worked."""
        return self.ops if side is Side.RS else wrong_side_row(self.ops)


@dataclass(frozen=True, kw_only=True)
class WorkedRow:
    """One row: its number from the cast-on, the side that faces the knitter, and its parts from the right.

    `band` is the body band it belongs to, from 0; borders go with the band beside them.
    """

    number: int
    section: PieceSection
    side: Side
    parts: tuple[WorkedPart, ...]
    band: int = 0

    @property
    def title(self) -> str:
        """What kind of row it is, such as “body”; of those that change the count, what it does."""
        if self.section not in CHANGES:
            return self.section
        more = self.after - self.before
        return "increase row" if more > 0 else "decrease row" if more < 0 else "plain row"

    @cached_property
    def ops(self) -> tuple[Op, ...]:
        """The whole row as seen from the right side, right to left."""
        return tuple(op for part in self.parts for op in part.ops)

    @cached_property
    def worked(self) -> tuple[Op, ...]:
        """The whole row as it is worked."""
        return self.ops if self.side is Side.RS else wrong_side_row(self.ops)

    @cached_property
    def before(self) -> int:
        """Stitches on the needle before the row."""
        return sum(p.takes for p in self.parts)

    @cached_property
    def after(self) -> int:
        """Stitches on the needle after it."""
        return sum(p.makes for p in self.parts)

    @cached_property
    def crossing_parts(self) -> tuple[WorkedPart, ...]:
        """The parts that hold a crossing."""
        return tuple(p for p in self.parts if any(isinstance(op, Crossing | HalfCrossing) for op in p.ops))
