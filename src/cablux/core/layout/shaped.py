"""A shaped band row by row: which columns each row makes and takes, and which chart rows its lanes are worked in."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from ..notation import Lean, Side, side_of
from ..shaping.lanes import steady_counts
from ..shaping.lives import PLAIN_ROW, Column, Lives, MadeColumn, RowShaping, TakenColumn
from ..shaping.needle import CLEAR
from ..shaping.outline import Shaping
from .piece import BandView
from .plane import Plane
from .stations import StationPlan, Stretch, first_row, plan_stations

Edge = Literal["right", "left"]


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


@lru_cache(maxsize=64)
def shape_band(view: BandView) -> ShapedBand:
    """A band with shaping, row by row. Raises IllegalPiece or Infeasible, as the stations do."""
    plane, stations = Plane(view), plan_stations(view)
    walk = _EdgeWalk(plane, stations.counts[0])
    edges = _edges_of_rows(view, stations)
    rows = tuple(walk.row(at) if at else PLAIN_ROW for at in edges)
    lives = walk.placed(rows)
    return ShapedBand(view, plane, stations, lives, _numbers(plane, lives))


def _edges_of_rows(view: BandView, plan: StationPlan) -> list[list[tuple[Edge, int]]]:
    """For each row the edges that are shaped in it, each with +1 where it grows and −1 where it shrinks."""
    out: list[list[tuple[Edge, int]]] = [[] for _ in range(plan.rows)]
    shaping = view.shaping
    assert shaping is not None, "only shaped bands come here"
    for stretch in plan.stretches:
        for row in stretch.schedule.at:
            number = stretch.first + row - 1
            out[number - first_row(view)] = [
                (edge, 1 if stretch.grows else -1) for edge in _edges_shaped(view, shaping, stretch, row)
            ]
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


class _EdgeWalk:
    """Walks up a band and says which columns its edges make and take; inner columns are counted from the first row's.

    The edges keep their own stitches; where a piece begins or ends narrower than both, the columns next to its middle
    are the first to come and the last to go.
    """

    def __init__(self, plane: Plane, count: int) -> None:
        shaping = plane.view.shaping
        assert shaping is not None, "only shaped bands come here"
        self.plane, self.shaping = plane, shaping
        sides = [s.stitches for s in plane.view.sides] or [0, 0]
        short = max(0, sum(sides) - count)
        # kept in order from the right: (0, i) right edge, (1, place) inner, (2, i) left edge
        self.right = list(range(sides[0] - min(short, sides[0] - 1) if sides[0] else 0))
        rest = max(0, short - (sides[0] - len(self.right)))
        self.left = list(range(rest, sides[1]))
        self.full = sides
        self.low, self.high = 0, max(0, count - sum(sides))
        self.first = self._needle()
        self.both = False
        self.widest: tuple[int, int] = (self.low, self.high)

    def _needle(self) -> list[tuple[int, int]]:
        inner = [(1, place) for place in range(self.low, self.high)]
        return [*((0, i) for i in self.right), *inner, *((2, i) for i in self.left)]

    def row(self, edges: list[tuple[Edge, int]]) -> RowShaping:
        """The shaping of a row, columns still counted from the first row's."""
        made: list[MadeColumn] = []
        taken: list[TakenColumn] = []
        both = self.both = len(edges) == 2
        for edge, sign in edges:
            if sign > 0:
                made.append(self._made(edge, made))
                self._settle(made[-1:], [])
            else:
                taken.append(self._taken(edge, both=both))
        self._settle([], taken)
        return RowShaping(tuple(made), tuple(taken))

    def _made(self, edge: Edge, before: list[MadeColumn]) -> MadeColumn:
        lean = Lean.LEFT if edge == "left" else Lean.RIGHT
        if self.low == self.high:
            if len(self.right) < self.full[0]:
                return self._new((0, len(self.right)), lean, before)
            if len(self.left) < self.full[1]:
                return self._new((2, self.left[0] - 1), lean, before)
        return self._new((1, self.low - 1 if edge == "right" else self.high), lean, before)

    def _new(self, column: Column, lean: Lean, before: list[MadeColumn]) -> MadeColumn:
        kind = self.shaping.increase
        beside: Column | None = None
        if kind == "kfb":
            needle = self._needle()
            near = [c for c in needle if c > column] if lean is Lean.RIGHT else [c for c in needle if c < column]
            beside = (near[0] if lean is Lean.RIGHT else near[-1]) if near else None
            if beside is None or any(beside in (m.column, m.beside) for m in before) or self._crowded():
                kind, beside = "M1", None  # on the first few stitches there may be no other left to make two of
        return MadeColumn(column, kind, lean, beside)

    def _crowded(self) -> bool:
        """Whether both edges are shaped side by side, with hardly a stitch between them."""
        return self.both and self.high - self.low < 2

    def _taken(self, edge: Edge, *, both: bool) -> TakenColumn:
        """The outermost inner column, into the next one; where none is left, the innermost of the other edge."""
        inner = self.high - self.low
        along = Lean.LEFT if edge == "right" else Lean.RIGHT
        lean = {"along": along, "against": along.other, "k2tog": Lean.RIGHT}[self.shaping.lean]
        if inner == 0:
            return self._taken_of_edge(edge, lean)
        column = (1, self.low) if edge == "right" else (1, self.high - 1)
        if inner > (2 if both else 1):
            return TakenColumn(column, (1, column[1] + (1 if edge == "right" else -1)), lean)
        if edge == "right":
            into = (0, self.right[-1]) if (both or not self.left) and self.right else (2, self.left[0])
        else:
            into = (2, self.left[0]) if (both or not self.right) and self.left else (0, self.right[-1])
        return TakenColumn(column, into, lean)

    def _taken_of_edge(self, edge: Edge, lean: Lean) -> TakenColumn:
        if len(self.right) >= len(self.left):
            return TakenColumn((0, self.right[-1]), (2, self.left[0]) if self.left else (0, self.right[-2]), lean)
        return TakenColumn((2, self.left[0]), (0, self.right[-1]) if self.right else (2, self.left[1]), lean)

    def _settle(self, made: list[MadeColumn], taken: list[TakenColumn]) -> None:
        for column in [m.column for m in made]:
            if column[0] == 0:
                self.right.append(column[1])
            elif column[0] == 2:
                self.left.insert(0, column[1])
            else:
                self.low, self.high = min(self.low, column[1]), max(self.high, column[1] + 1)
        for column in [t.column for t in taken]:
            if column[0] == 0:
                self.right.remove(column[1])
            elif column[0] == 2:
                self.left.remove(column[1])
            elif column[1] == self.low:
                self.low += 1
            else:
                self.high -= 1
        if self.high - self.low > self.widest[1] - self.widest[0]:
            self.widest = (self.low, self.high)

    def placed(self, rows: tuple[RowShaping, ...]) -> Lives:
        """The lives in the plane's own columns: the widest row lies over the layout's middle, or at its fixed edge."""
        low, high = self.widest
        across = self.plane.width
        shift = {"right": across - high, "left": -low}.get(self.shaping.edges, (across - (high - low)) // 2 - low)
        last = len(self.plane.lanes) - 1

        def place(column: Column) -> Column:
            lane, at = column
            return (0, at) if lane == 0 else (last, at) if lane == 2 else self.plane.column(at + shift)

        def placed_row(row: RowShaping) -> RowShaping:
            made = (MadeColumn(place(m.column), m.kind, m.lean, m.beside and place(m.beside)) for m in row.made)
            return RowShaping(
                tuple(made), tuple(TakenColumn(place(t.column), place(t.into), t.lean) for t in row.taken)
            )

        return Lives(tuple(map(place, self.first)), tuple(row if row is PLAIN_ROW else placed_row(row) for row in rows))


def _numbers(plane: Plane, lives: Lives) -> tuple[tuple[int, ...], ...]:
    """The chart rows of all lanes, row by row."""
    view = plane.view
    first, sides = first_row(view), len(view.sides) > 0
    shift = 0 if view.round else (first + 1) % 2  # a chart's first row is a right-side row
    shaping = view.shaping
    assert shaping is not None, "only shaped bands come here"
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
        columns.append([(r - shift) % height + 1 for r in range(len(lives.rows))])
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
