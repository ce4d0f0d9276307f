"""A shaped band row by row: which columns each row makes and takes, and which chart rows its lanes are worked in."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from ..notation import Side, side_of
from ..shaping.lanes import steady_counts
from ..shaping.lives import PLAIN_ROW, Column, Lives
from ..shaping.needle import CLEAR
from ..shaping.outline import Shaping, StepKind
from .bend import bent_lives, bent_numbers
from .edge_walk import Edge, EdgeWalk
from .heel import heel_lives, heel_numbers
from .heights import chart_offset, first_row, last_crossings
from .piece import BandView
from .plane import Plane
from .section_walk import section_lives
from .short_rows import short_lives, short_numbers
from .stations import stations_below
from .stretches import Begin, StationPlan, Stretch, station_plan


@dataclass(frozen=True)
class ShapedBand:
    """A shaped band: its plane, its stations, the lives of its columns, and for each row the chart rows of its lanes.

    `numbers[r]` are those of row r + 1: less than 0 where a lane is worked in the ground beside it.
    """

    view: BandView
    plane: Plane
    stations: StationPlan
    lives: Lives
    numbers: tuple[tuple[int, ...], ...]

    @property
    def rows(self) -> int:
        """Its rows."""
        return len(self.lives.rows)


def plan_stations(view: BandView) -> StationPlan:
    """The stations of a shaped band and what is done between them. Raises IllegalPiece or Infeasible."""
    return station_plan(view, Begin(first_row(view), chart_offset(view)))


@lru_cache(maxsize=64)
def shape_band(view: BandView) -> ShapedBand:
    """A band with shaping, row by row. Raises IllegalPiece or Infeasible, as the stations do."""
    plane, stations = Plane(view), plan_stations(view)
    if view.shaping is not None and view.shaping.bend is not None:
        return ShapedBand(view, plane, stations, bent_lives(plane), bent_numbers(plane))
    if view.shaping is not None and view.shaping.heel is not None:
        lives = heel_lives(plane, view.shaping.heel)
        return ShapedBand(view, plane, stations, lives, heel_numbers(plane, lives))
    if view.shaping is not None and view.shaping.short:
        lives = short_lives(plane, _left_below(view))
        return ShapedBand(view, plane, stations, lives, short_numbers(plane, lives))
    if view.shaping is not None and view.shaping.sections:
        lives = section_lives(plane, stations, Begin(first_row(view), chart_offset(view)))
    else:
        walk = EdgeWalk(plane, stations.counts[0], _left_below(view))
        edges, steps = _edges_of_rows(view, stations), _steps_of_rows(view, stations)
        rows = []
        for at, each in enumerate(edges):
            step = steps.get(at)
            keep = all(sign < 0 for later in edges[at:] for _, sign in later)
            if step and step[0] == "crossed":
                rows.append(walk.cross(step[1]))
            elif step:
                rows.append(walk.bind_off(*step[1][0], keep=keep))
            else:
                rows.append(walk.row(each) if each else PLAIN_ROW)
        lives = walk.placed(tuple(rows))
    return ShapedBand(view, plane, stations, lives, _numbers(plane, lives))


def _left_below(view: BandView) -> tuple[Column, ...]:
    """The columns that the band below has left, where the band goes on with the same ones; else none."""
    return shape_band(view.piece.band_views[view.at - 1]).lives.living[-1] if stations_below(view) else ()


def _edges_of_rows(view: BandView, plan: StationPlan) -> list[list[tuple[Edge, int]]]:
    """For each row the edges that are shaped in it, each with +1 where it grows and −1 where it shrinks."""
    out: list[list[tuple[Edge, int]]] = [[] for _ in range(plan.rows)]
    shaping = view.shaping
    assert shaping is not None, "only shaped bands come here"
    before = first_row(view)
    for stretch in plan.stretches:
        for row in stretch.schedule.at:
            number = stretch.first + row - 1
            out[number - before] = [
                (edge, 1 if stretch.grows else -1) for edge in _edges_shaped(view, shaping, stretch, row)
            ]
    return out


def _steps_of_rows(view: BandView, plan: StationPlan) -> dict[int, tuple[StepKind, tuple[tuple[Edge, int], ...]]]:
    """For rows of the band, from 0: whether stitches are bound off or crossed away, at which edges, and how many."""
    shaping, before = view.shaping, first_row(view)
    assert shaping is not None, "only shaped bands come here"
    out: dict[int, tuple[StepKind, tuple[tuple[Edge, int], ...]]] = {}
    for step in shaping.steps:
        begin = before + plan.stations[step.station].row
        out |= {row - before: (step.kind, each) for row, each in step.rows(begin).items()}
    return out


def _edges_shaped(view: BandView, shaping: Shaping, stretch: Stretch, row: int) -> tuple[Edge, ...]:
    if shaping.edges == "right":
        return ("right",)
    if shaping.edges == "left":
        return ("left",)
    if shaping.edges == "both" or row in stretch.twice:
        return ("right", "left")
    side = Side.RS if view.round else side_of(stretch.first + row - 1)
    return ("right",) if side is Side.RS else ("left",)


def _numbers(plane: Plane, lives: Lives) -> tuple[tuple[int, ...], ...]:
    """The chart rows of all lanes, row by row."""
    view = plane.view
    first, sides = first_row(view), len(view.sides) > 0
    shift = 0 if view.round else (first + 1) % 2  # a chart's first row is a right-side row
    shaping = view.shaping
    assert shaping is not None, "only shaped bands come here"
    offset, crossed_until = chart_offset(view), last_crossings(view)
    columns: list[list[int]] = []
    last = len(plane.lanes) - 1
    for at, lane in enumerate(plane.lanes):
        s = view.segments[at]
        height = lane.chart.height
        if sides and at in (0, last):
            columns.append([(first + r - 1) % height + 1 for r in range(len(lives.rows))])
            continue
        if (s.is_panel and shaping.whole_panels) or not steady_counts(lane.chart):
            columns.append(list(_windowed(plane, lives, at, shift)))
            continue
        numbers = [(r + offset - shift) % height + 1 for r in range(len(lives.rows))]
        if at in crossed_until:
            numbers = [
                0 if first + r > crossed_until[at] and number in lane.chart.crossing_rows else number
                for r, number in enumerate(numbers)
            ]
        columns.append(numbers)
    return tuple(zip(*columns, strict=True))


def _windowed(plane: Plane, lives: Lives, at: int, shift: int) -> Iterator[int]:
    """Chart rows where all columns of a lane live, on whole repeats in the middle of those rows; else its ground's."""
    lane = plane.lanes[at]
    window = whole_window(plane, lives, at)
    height, step = lane.chart.height, 1 if plane.view.round else 2
    rest = lane.rest.height if lane.rest is not None else 1
    first, last = window
    first += (first - 1 - shift) % step  # its first row is one of the right side
    times = max(0, last - first + 1) // height
    spare = last - first + 1 - times * height
    first += spare // 2 - spare // 2 % step
    for row in range(1, len(lives.rows) + 1):
        inside = first <= row < first + times * height
        yield (row - first) % height + 1 if inside else -((row - 1 - shift) % rest + 1)


def whole_window(plane: Plane, lives: Lives, at: int) -> tuple[int, int]:
    """The longest run of rows (from 1) before and after which all columns of a lane live, and some beside it.

    Its last is less than its first where there is no such row.
    """
    lane = plane.lanes[at]
    place = plane.starts[at - plane.first]
    last_inner = at == plane.first + len(plane.view.inner) - 1
    low = place - (0 if at == plane.first else CLEAR)
    high = place + lane.width + (0 if last_inner else CLEAR)
    needed = plane.columns(low, high)
    whole = [_holds(living, needed) for living in lives.living]
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


def _holds(living: tuple[Column, ...], needed: tuple[Column, ...]) -> bool:
    """Whether a run of columns that lie side by side lives: columns of a row are sorted."""
    at = bisect_left(living, needed[0])
    return living[at : at + len(needed)] == needed
