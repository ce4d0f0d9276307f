"""Chart rows of a shaped band: in which row of its chart each lane is worked, row by row."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator, Mapping

from ..needle.chart_columns import steady_counts
from ..needle.columns import ActiveColumns, Column
from ..needle.needle import CLEAR
from ..needle.stations import Begin
from .plane import Plane

ChartRows = tuple[tuple[int, ...], ...]
"""For each row the chart rows of all lanes, from 1; less than 0 where a lane is worked in the background beside it."""


def worked_chart_rows(
    plane: Plane, active: ActiveColumns, begin: Begin, *, last_crossings: Mapping[int, int], whole_panels: bool
) -> ChartRows:
    """The chart rows of all lanes of a band that goes on row by row, from where its charts stand as it begins."""
    view, first, offset = plane.view, begin.row, begin.offset
    sides = len(view.sides) > 0
    shift = 0 if view.round else (first + 1) % 2  # a chart's first row is a right-side row
    columns: list[list[int]] = []
    last = len(plane.lanes) - 1
    for at, lane in enumerate(plane.lanes):
        s = view.segments[at]
        height = lane.chart.height
        if sides and at in (0, last):
            columns.append([(first + r - 1) % height + 1 for r in range(len(active.rows))])
            continue
        if (s.is_panel and whole_panels) or not steady_counts(lane.chart):
            columns.append(list(_windowed(plane, active, at, shift=shift)))
            continue
        numbers = [(r + offset - shift) % height + 1 for r in range(len(active.rows))]
        if at in last_crossings:
            numbers = [
                0 if first + r > last_crossings[at] and number in lane.chart.crossing_rows else number
                for r, number in enumerate(numbers)
            ]
        columns.append(numbers)
    return tuple(zip(*columns, strict=True))


def reached_chart_rows(plane: Plane, active: ActiveColumns, below: int = 0) -> ChartRows:
    """The chart rows of all lanes in short rows: each goes on only in the rows that reach it, `below` rows done."""
    done, out = [below] * len(plane.lanes), []
    for active_now, row in zip(active.columns, active.rows, strict=False):
        low, high = row.reach or (0, len(active_now))
        for at in {lane for lane, _ in active_now[low:high]}:
            done[at] += 1
        out.append(tuple((max(1, n) - 1) % lane.chart.height + 1 for n, lane in zip(done, plane.lanes, strict=True)))
    return tuple(out)


def _windowed(plane: Plane, active: ActiveColumns, at: int, *, shift: int) -> Iterator[int]:
    """Chart rows where all columns of a lane live, on whole repeats amid those rows; else its background's."""
    lane = plane.lanes[at]
    window = whole_window(plane, active, at)
    height, step = lane.chart.height, 1 if plane.view.round else 2
    rest = lane.rest.height if lane.rest is not None else 1
    first, last = window
    first += (first - 1 - shift) % step  # its first row is one of the right side
    times = max(0, last - first + 1) // height
    spare = last - first + 1 - times * height
    first += spare // 2 - spare // 2 % step
    for row in range(1, len(active.rows) + 1):
        inside = first <= row < first + times * height
        yield (row - first) % height + 1 if inside else -((row - 1 - shift) % rest + 1)


def whole_window(plane: Plane, active: ActiveColumns, at: int) -> tuple[int, int]:
    """The longest run of rows (from 1) before and after which all columns of a lane live, and some beside it.

    Its last is less than its first where there is no such row.
    """
    lane = plane.lanes[at]
    place = plane.starts[at - plane.first]
    last_inner = at == plane.first + len(plane.view.inner) - 1
    low = place - (0 if at == plane.first else CLEAR)
    high = place + lane.width + (0 if last_inner else CLEAR)
    needed = plane.columns(low, high)
    whole = [_holds(active_now, needed) for active_now in active.columns]
    best, start = (1, 0), None
    for row in range(1, len(whole) + 1):
        alive = row < len(whole) and whole[row - 1] and whole[row]
        if alive and start is None:
            start = row
        elif not alive and start is not None:
            if row - start > best[1] - best[0] + 1:
                best = (start, row - 1)
            start = None
    return best


def _holds(active_now: tuple[Column, ...], needed: tuple[Column, ...]) -> bool:
    """Whether a run of columns that lie side by side lives: columns of a row are sorted."""
    at = bisect_left(active_now, needed[0])
    return active_now[at : at + len(needed)] == needed
