"""Heels: turned by short rows that draw in beside each turn, or shaped by short rows alone."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import ClassVar, Literal

from ..errors import IllegalPiece
from ..needle.columns import ActiveColumns, Column, RowShaping, TakenColumn
from ..needle.stations import Begin, StationCount, StationPlan
from ..notation import Lean
from ..piece.piece import BandView, Shaping
from ..piece.widths import body_row_um, body_um
from .chart_rows import ChartRows, reached_chart_rows
from .placed import check_order, two_ends
from .plane import Plane
from .row_ends import RowEnds, edge_ends

HeelKind = Literal["turned", "short rows"]
PAST_MIDDLE = 2
"""Common practice: the first row goes two stitches past the middle before it decreases."""
LEFT = 3
"""Common practice: short rows leave a third of the heel between them."""
FEWEST = 10
"""Our choice: fewer stitches cannot be turned."""


@dataclass(frozen=True, kw_only=True)
class Heeled(Shaping):
    """A heel: its rows follow from its stitches, turned with decreases or shaped with short rows."""

    kind: ClassVar[str] = "heel"
    told_row_by_row: ClassVar[bool] = True

    heel: HeelKind = "turned"

    def count_stations(self, view: BandView) -> tuple[StationCount, ...]:
        """A heel's beginning and end; its height is what it adds to the sole."""
        check_order(self.stations)
        if view.round or len(self.stations) != 2:
            raise IllegalPiece("A heel is worked flat, from one end to the other, without sections.")
        active, wide = heel_columns(view, self.heel), float(body_um(view))
        begin, end = active.counts[0], active.counts[-1]
        high = heel_depth(active, self.heel) * body_row_um(view)
        return two_ends(self.stations, (begin, wide), (end, wide * end / begin), rows=len(active.rows), high_um=high)

    def columns(self, view: BandView, plan: StationPlan, begin: Begin, *, begun: tuple[Column, ...]) -> ActiveColumns:
        """All of its layout at the beginning; decreases close the gaps of the turn."""
        return heel_columns(view, self.heel)

    def chart_rows(
        self, view: BandView, active: ActiveColumns, begin: Begin, *, last_crossings: Mapping[int, int]
    ) -> ChartRows:
        """Each lane goes on only in the rows that reach it."""
        return reached_chart_rows(Plane(view), active)

    def row_ends(self, view: BandView, plan: StationPlan, active: ActiveColumns) -> RowEnds:
        """Its ends as they are worked."""
        return edge_ends(view, plan, active)


def heel_columns(view: BandView, kind: HeelKind) -> ActiveColumns:
    """The lives of a heel's columns, all of its layout at the beginning. Raises IllegalPiece for too few of them."""
    first = tuple((at, c) for at, s in enumerate(view.segments) for c in range(s.stitches))
    if len(first) < FEWEST:
        raise IllegalPiece(f"A heel of {len(first)} stitches cannot be turned: it needs {FEWEST} or more.")
    rows = _turned(first) if kind == "turned" else _short_rows(len(first))
    return ActiveColumns(first, tuple(rows))


def heel_depth(active: ActiveColumns, kind: HeelKind) -> int:
    """How many rows of the sole a heel has made: all rows of a turn, half of those of a heel of short rows."""
    return len(active.rows) if kind == "turned" else len(active.rows) // 2


def _turned(first: tuple[Column, ...]) -> Iterator[RowShaping]:
    """Each row works to one stitch before the gap, two together across it, one more, and turns; until all are worked.

    The needle is followed as a row of columns. `right` are the stitches that wait at the right, `left` at the left.
    """
    now, middle = list(first), len(first) // 2
    left = len(now) - middle - PAST_MIDDLE - 3
    yield _row(now, 0, len(now) - left, at_left=True)
    right = middle - PAST_MIDDLE - 3 + len(first) % 2
    yield _row(now, max(0, right), len(now) - left, at_left=False)
    right = max(0, right)
    while left > 0 or right > 0:
        if left > 0:
            beyond = max(0, left - 2)
            yield _row(now, right, len(now) - beyond, at_left=True, all_of_it=left == 1)
            left = beyond
        else:
            yield RowShaping(reach=(right, len(now)), wraps=False) if right else RowShaping()
        if right > 0:
            beyond = max(0, right - 2)
            yield _row(now, beyond, len(now) - left, at_left=False, all_of_it=right == 1)
            right = beyond
        else:
            yield RowShaping(reach=(0, len(now) - left), wraps=False) if left else RowShaping()


def _row(now: list[Column], low: int, high: int, *, at_left: bool, all_of_it: bool = False) -> RowShaping:
    """One row over the stitches from `low` to `high`: two together before the last one that it works."""
    last = 1 if all_of_it else 2
    taken = (
        TakenColumn(now[high - last], now[high - last - 1], Lean.LEFT)
        if at_left
        else TakenColumn(now[low + last - 1], now[low + last], Lean.RIGHT)
    )
    reach = (low, high) if (low, high) != (0, len(now)) else None
    now.remove(taken.column)
    return RowShaping(taken=(taken,), reach=reach, wraps=False)


def _short_rows(count: int) -> Iterator[RowShaping]:
    """Each row one stitch shorter until a third is left, then each one stitch longer."""
    most = max(1, round(count / LEFT))
    for n in range(1, most + 1):
        yield RowShaping(reach=(n - 1, count - n))
        yield RowShaping(reach=(n, count - n))
    for n in range(most, 0, -1):
        yield RowShaping(reach=(n, count - n + 1))
        yield RowShaping(reach=(n - 1, count - n + 1)) if n > 1 else RowShaping()
