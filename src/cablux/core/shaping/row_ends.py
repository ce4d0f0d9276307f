"""Where the ends of a row lie: of what is on the needle after it, or of what short rows have worked so often."""

from __future__ import annotations

from ..needle.columns import ActiveColumns, Column
from ..needle.stations import StationPlan
from ..piece.piece import BandView
from ..piece.widths import segment_um

RowEnds = dict[int, tuple[float, float]]
"""After some rows of a band the left and the right end, micrometres from the middle."""


def edge_ends(view: BandView, plan: StationPlan, active: ActiveColumns) -> RowEnds:
    """The ends as they are worked: after each station, and before and after each row that binds off."""
    bound = {at for at, row in enumerate(active.rows) if row.bound}
    corners = {s.row for s in plan.stations} | bound | {at + 1 for at in bound}
    return {row: ends_of(view, active.columns[row]) for row in corners}


def even_ends(view: BandView, plan: StationPlan) -> RowEnds:
    """The ends of rows that lie about one middle; of a tube laid flat, half as wide as its way round."""
    half = 2.0 if view.round else 1.0
    return {s.row: (-s.width_um / 2.0 / half, s.width_um / 2.0 / half) for s in plan.stations}


def worked_ends(view: BandView, active: ActiveColumns, *, parts: bool) -> RowEnds:
    """Where short rows have ended: for each number of rows, the ends of the columns that were worked so often.

    `parts`: of some segments only some columns are there, so they lie about the middle of those.
    """
    active_now = active.columns[0]
    worked = [0] * len(active_now)
    for row in active.rows:
        low, high = row.reach or (0, len(active_now))
        for at in range(low, high):
            worked[at] += 1
    often = {0, *worked}
    if parts:
        return {n: _part_ends(view, active, [w >= n for w in worked]) for n in often}
    return {n: ends_of(view, tuple(c for c, w in zip(active_now, worked, strict=True) if w >= n)) for n in often}


def _part_ends(view: BandView, active: ActiveColumns, part: list[bool]) -> tuple[float, float]:
    """The left and the right end of a part of the needle whose sections have some of their columns only."""
    each = [segment_um(view.segments[lane], view.outlook) / view.segments[lane].stitches for lane, _ in active.first]
    right = sum(each) / 2.0 - sum(each[: part.index(True)])
    return right - sum(um for um, there in zip(each, part, strict=True) if there), right


def ends_of(view: BandView, active_now: tuple[Column, ...]) -> tuple[float, float]:
    """The left and the right end of some columns side by side, counted out from the middle one, which stays."""
    first = 1 if view.sides else 0
    each = [segment_um(s, view.outlook) / s.stitches for s in view.segments]
    widths = [each[lane] for lane, _ in active_now]
    inner = [at for at, (lane, _) in enumerate(active_now) if not view.segments[lane].is_side]
    if not inner:
        return -sum(widths) / 2.0, sum(widths) / 2.0
    middle = inner[len(inner) // 2]
    lane, column = active_now[middle]
    before = sum(s.stitches * each[at] for at, s in enumerate(view.segments) if first <= at < lane)
    sides = [s.stitches * each[at] for at, s in enumerate(view.segments) if s.is_side]
    whole = sum(s.stitches * each[at] for at, s in enumerate(view.segments))
    right = whole / 2.0 - (sides[0] if sides else 0.0) - before - column * each[lane]
    return right - sum(widths[middle:]), right + sum(widths[:middle])
