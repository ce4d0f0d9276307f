"""Short rows of one's own: what each row works, told stitch by stitch, so that one part of a piece grows higher."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Annotated, ClassVar, Literal

from ..declared import Count, Len
from ..errors import IllegalPiece
from ..needle.columns import ActiveColumns, Column, RowShaping
from ..needle.stations import Begin, StationCount, StationPlan
from ..notation import Side, side_of
from ..piece.piece import BandView, Shaping, stations_below
from ..piece.widths import body_row_um, body_um
from .chart_rows import ChartRows, reached_chart_rows
from .placed import check_order, two_ends
from .plane import Plane
from .row_ends import RowEnds, worked_ends
from .section_places import Section, Sections
from .section_walk import first_columns
from .sections import mirrored_sections, moved_sections

Reach = tuple[Count, Count]
"""The stitches that a row works, counted from the right, the first 0: the first of them, and the first beyond them."""


@dataclass(frozen=True, kw_only=True)
class ShortRowed(Shaping):
    """A band of short rows: its count stays as at the first station, and `rows` says what each row works.

    `sections`: of some segments only so many columns are there, from the first row to the last.
    """

    kind: ClassVar[str] = "short rows"
    told_row_by_row: ClassVar[bool] = True
    slopes: ClassVar[bool] = True

    rows: Annotated[tuple[Reach, ...], Len(1, 200)]
    sections: Annotated[tuple[Section, ...], Len(0, 60)] = ()

    def _asked(self, view: BandView) -> Sections:
        return Sections(plane=Plane(view), own=self.sections, stations=tuple(s.name for s in self.stations))

    def count_stations(self, view: BandView) -> tuple[StationCount, ...]:
        """The two ends: its count stays, and where all rows reach it is as high as they are."""
        check_order(self.stations)
        if len(self.stations) != 2:
            raise IllegalPiece("Short rows have a beginning and an end: two places with a width.")
        below = stations_below(view)
        if below:
            whole = below[-1].count, below[-1].width_um
        elif self.sections:
            asked = self._asked(view)
            sections = [counts[0] for counts in asked.counts()]
            whole = sum(sections) + asked.fixed, asked.width_um(sections)
        else:
            whole = view.stitches, float(body_um(view))
        return two_ends(self.stations, whole, whole, rows=len(self.rows), high_um=len(self.rows) * body_row_um(view))

    def columns(self, view: BandView, plan: StationPlan, begin: Begin, *, begun: tuple[Column, ...]) -> ActiveColumns:
        """All columns are there in every row, those that a band below has left or all there are.

        Raises IllegalPiece for rows that do not begin where the one before has turned.
        """
        first = begun or first_columns(self._asked(view))
        _check(view, self.rows, len(first), number=begin.row)
        whole = (0, len(first))
        return ActiveColumns(
            first, tuple(RowShaping() if reach == whole else RowShaping(reach=reach) for reach in self.rows)
        )

    def chart_rows(
        self, view: BandView, active: ActiveColumns, begin: Begin, *, last_crossings: Mapping[int, int]
    ) -> ChartRows:
        """Each lane goes on only in the rows that reach it."""
        return reached_chart_rows(Plane(view), active, begin.offset)

    def row_ends(self, view: BandView, plan: StationPlan, active: ActiveColumns) -> RowEnds:
        """The ends of what has been worked so often."""
        return worked_ends(view, active, parts=bool(self.sections))

    @property
    def in_sections(self) -> bool:
        """Where some of its segments have but part of their columns."""
        return bool(self.sections)

    def mirrored(self, segments: int) -> ShortRowed | None:
        """The same rows from the other end; None where they slope one side only."""
        return replace(self, sections=mirrored_sections(self.sections, segments)) if _even(self.rows) else None

    def moved(self, first: int, beyond: int, more: int) -> ShortRowed:
        """Its sections where their segments are now."""
        return replace(self, sections=moved_sections(self.sections, first, beyond, more=more))


def _even(short: Sequence[tuple[int, int]]) -> bool:
    """Whether short rows leave as much at one side as at the other, so that they are the same rows from either end."""
    lows, highs = {low for low, _ in short}, {high for _, high in short}
    right, left = sorted(lows - {0}), sorted(highs - {max(highs, default=0)})
    return [b - a for a, b in pairwise(right)] == [b - a for a, b in pairwise(left)] and len(right) == len(left)


def _check(view: BandView, rows: tuple[Reach, ...], count: int, *, number: int) -> None:
    if view.round:
        raise IllegalPiece("Short rows are turned, so they are worked flat: begin a round part after them.")
    at = 0 if side_of(number) is Side.RS else count
    for n, (low, high) in enumerate(rows, start=number):
        if not 0 <= low < high <= count:
            raise IllegalPiece(f"Row {n} is to work stitches {low + 1} to {high}, but there are {count}.")
        begin, end = (low, high) if side_of(n) is Side.RS else (high, low)
        if begin != at:
            raise IllegalPiece(f"Row {n} begins at stitch {begin}, but the yarn is at stitch {at}: let it begin there.")
        at = end


def sloped_rows(steps: Sequence[int], count: int, edge: Literal["both", "right", "left"]) -> tuple[Reach, ...]:
    """Short rows that leave stitches in steps at an edge, or at both, and at the end work all of them once more.

    >>> sloped_rows((3, 3, 2), 20, "both")
    ((0, 17), (3, 17), (3, 14), (6, 14), (6, 20), (0, 20))
    """
    out: list[Reach] = []
    right = left = 0
    for step in steps[:-1]:
        left += step if edge != "right" else 0
        out.append((right, count - left))
        right += step if edge != "left" else 0
        out.append((right, count - left))
    return (*out, (right, count), (0, count))


def raised_rows(right: int, left: int, count: int, *, pairs: int, outermost: int) -> tuple[Reach, ...]:
    """Short rows that raise what lies between two places, each pair reaching further until `outermost` is left there.

    The last row goes on to the left end, where the piece can be joined in the round.

    >>> raised_rows(10, 20, 40, pairs=2, outermost=4)
    ((0, 20), (10, 20), (10, 26), (4, 26), (4, 40))
    """
    out: list[Reach] = []
    at = 0
    for n in range(pairs):
        further = round((right - outermost) * n / max(1, pairs - 1))
        low, high = right - further, left + further
        out += [(at, high), (low, high)]
        at = low
    return (*out, (at, count))


def rows_over(shaping: Shaping | None, stitch: int) -> int:
    """In how many rows short rows work a stitch, counted from the right; none where the band has no such rows."""
    rows = shaping.rows if isinstance(shaping, ShortRowed) else ()
    return sum(low <= stitch < high for low, high in rows)
