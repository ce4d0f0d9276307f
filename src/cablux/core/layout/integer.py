"""Solves a band's program with HiGHS: goals met one after the other, each proven or its gap told.

HiGHS is given millimetres with three decimals, for it likes numbers near one, and whole numbers wherever a quantity
is one: a goal that can only be whole is proven as soon as its bound is less than one away.
"""

from __future__ import annotations

import math
import time
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import TYPE_CHECKING, Literal

import numpy as np

from ..errors import OutOfTime
from .problems import MAX_STITCHES
from .program import Program

if TYPE_CHECKING:
    from scipy.optimize import LinearConstraint, OptimizeResult

Goal = Literal["error", "uneven", "outer", "change", "panels"]

_SCALE = 1_000.0
_HELD = 5e-4  # half a micrometre, or nothing at all of a stitch
_TIME_LIMIT = 2.0  # seconds an answer may take, our choice: ten times what a quiet machine needs for a throw
_OUT_OF_TIME = 1  # the status by which scipy.optimize.milp says so
_FIRST = 5.0  # seconds in which a first layout has to be found; without one there is nothing to show


@dataclass(frozen=True)
class Doubt:
    """A goal whose best was not proven in time, and how far off it may be: µm for "error", else stitches.

    The gap is infinite where the goal was not begun.
    """

    goal: Goal
    gap: float


@dataclass(frozen=True)
class Found:
    """Repeats of every segment, and the first goal by which they are not proven to be best."""

    repeats: tuple[int, ...]
    doubt: Doubt | None = None


Row = tuple[dict[int, float], float, float]
"""One constraint: the weight of each variable in it, its lowest and its highest value."""


@dataclass(frozen=True)
class Model:
    """The matrix of a program.

    Segments that must stay alike share a column. For k columns the variables are: the repeats of each (0 to k − 1);
    the error of the width beyond the slack, above and below it, and the part of it nobody sees; the widest and the
    narrowest gap, and the widest outer one; how often the body's count holds its multiple; then the change of each
    column's repeats, and how often each holds the number it must be a multiple of.
    """

    program: Program

    @cached_property
    def columns(self) -> tuple[tuple[int, ...], ...]:
        """The segments of each column."""
        n = self.program.n
        if not self.program.has("halves"):
            return tuple((i,) for i in range(n))
        return tuple((i, n - 1 - i) if i != n - 1 - i else (i,) for i in range((n + 1) // 2))

    @cached_property
    def k(self) -> int:
        return len(self.columns)

    @cached_property
    def column_of(self) -> dict[int, int]:
        """The column of each segment."""
        return {i: c for c, places in enumerate(self.columns) for i in places}

    @property
    def size(self) -> int:
        return 3 * self.k + 7

    @cached_property
    def stitches(self) -> np.ndarray:
        """Stitches that one repeat more of each column adds to the body."""
        segments = self.program.view.segments
        return np.array([float(sum(segments[i].chart.multiple for i in places)) for places in self.columns])

    @cached_property
    def bounds(self) -> tuple[np.ndarray, np.ndarray]:
        """The lowest and the highest value of every variable."""
        k, reach = self.k, self.program.reach
        low, high = np.zeros(self.size), np.full(self.size, np.inf)
        low[:k] = [max(reach[i][0] for i in places) for places in self.columns]
        high[:k] = [min(reach[i][1] for i in places) for places in self.columns]
        slack = self.program.slack_um / _SCALE
        low[k + 2], high[k + 2] = -slack, slack
        low[k + 6], high[k + 6] = -50.0, float(MAX_STITCHES)
        return low, high

    @cached_property
    def whole(self) -> np.ndarray:
        """Which variables are whole numbers: all but the errors."""
        whole = np.ones(self.size, np.int64)
        whole[self.k : self.k + 3] = 0
        return whole

    def goal(self, goal: Goal) -> np.ndarray:
        """The row of costs of a goal, in millimetres or stitches."""
        c, k, program = np.zeros(self.size), self.k, self.program
        if goal == "error":
            c[k : k + 2] = 1.0
        elif goal == "uneven" and program.gaps:
            c[k + 3], c[k + 4] = 1.0, -1.0
        elif goal == "outer" and program.outer:
            c[k + 5], c[k + 4] = 1.0, -1.0
        elif goal == "change":
            c[k + 7 : 2 * k + 7] = self.stitches
        elif goal == "panels":
            panels = [program.view.segments[places[0]].role == "panel" for places in self.columns]
            c[:k] = np.where(panels, -self.stitches, 0.0)
        return c

    def rows(self) -> Iterator[Row]:
        """All that must hold."""
        yield from self._width()
        yield from self._gaps()
        yield from self._steps()
        if self.program.has("total"):
            multiple, plus = self.program.view.piece.total
            short = float(plus - sum(s.chart.balance for s in self.program.view.segments))
            yield {**dict(enumerate(self.stitches)), self.k + 6: -float(multiple)}, short, short

    def _width(self) -> Iterator[Row]:
        k, piece, units = self.k, self.program.view.piece, self.program.units
        left = (piece.width_mm * 1000.0 - sum(fixed for fixed, _ in units)) / _SCALE
        width = {c: sum(units[i][1] for i in places) / _SCALE for c, places in enumerate(self.columns)}
        yield {**width, k: -1.0, k + 1: 1.0, k + 2: -1.0}, left, left
        if self.program.has("width"):
            off = piece.tolerance_mm * 1000.0 / _SCALE + 1e-6
            yield width, left - off, left + off

    def _gaps(self) -> Iterator[Row]:
        k, segments, inf = self.k, self.program.view.segments, np.inf
        seen: set[tuple[int, ...]] = set()
        for group in self.program.groups:
            columns = tuple(sorted(self.column_of[i] for i in group))
            if columns in seen:
                continue
            seen.add(columns)
            wide: dict[int, float] = {}
            for i in group:
                wide[self.column_of[i]] = wide.get(self.column_of[i], 0.0) - segments[i].chart.multiple
            balance = float(sum(segments[i].chart.balance for i in group))
            # the widest is as wide as each gap; more at the outside: no inner gap is wider than an outer one
            if group[0] in self.program.outer:
                yield {k + 3: 1.0, **wide}, -inf, balance
                yield {k + 5: 1.0, **wide}, balance, inf
            else:
                yield {k + 3: 1.0, **wide}, balance, inf
                yield {k + 4: 1.0, **wide}, -inf, balance

    def _steps(self) -> Iterator[Row]:
        k, view = self.k, self.program.view
        for c, (i, *_) in enumerate(self.columns):
            now = float(view.segments[i].repeats)
            if self.program.limits[i][0] < self.program.limits[i][1]:
                yield {k + 7 + c: 1.0, c: -1.0}, -now, np.inf
                yield {k + 7 + c: 1.0, c: 1.0}, now, np.inf
                if self.program.has("by", i):
                    yield {c: 1.0, 2 * k + 7 + c: -float(view.segments[i].by)}, 0.0, 0.0

    def constraints(self) -> LinearConstraint:
        """The rows as one matrix."""
        from scipy.optimize import LinearConstraint

        rows = list(self.rows())
        matrix = np.zeros((len(rows), self.size))
        for at, (entries, _, _) in enumerate(rows):
            matrix[at, list(entries)] = list(entries.values())
        return LinearConstraint(matrix, np.array([r[1] for r in rows]), np.array([r[2] for r in rows]))

    def repeats(self, x: np.ndarray) -> tuple[int, ...]:
        """The repeats of every segment."""
        return tuple(round(x[self.column_of[i]]) for i in range(self.program.n))


def solve_counts(program: Program, goals: tuple[Goal, ...]) -> Found | None:
    """Repeats by goals in order, any that will do where there are none; None where nothing satisfies the wishes.

    Raises OutOfTime where it is not known in time whether anything does.
    """
    from scipy.optimize import Bounds, LinearConstraint, milp  # here: half a second the first page need not wait

    model = Model(program)
    low, high = model.bounds
    if np.any(low[: model.k] > high[: model.k]):
        return None
    held = [model.constraints()]
    found: Found | None = None
    ends = time.monotonic() + _TIME_LIMIT
    costs = [(goal, model.goal(goal)) for goal in goals]
    told = [(goal, cost) for goal, cost in costs if cost.any()]  # a layout without gaps cannot be uneven
    for goal, cost in told or [("change", np.zeros(model.size))]:
        left = max(0.02, ends - time.monotonic()) if found else _FIRST
        # without presolve, which calls some layouts infeasible that can be had (found by brute force, scipy 1.17)
        result = milp(
            cost,
            integrality=model.whole,
            bounds=Bounds(low, high),
            constraints=held,
            options={"time_limit": left, "mip_rel_gap": 0.0, "presolve": False},
        )
        if result.x is None:
            if found is None and result.status == _OUT_OF_TIME:
                raise OutOfTime(
                    f"No layout was found in {_FIRST:g} seconds, which does not mean that there is none: this machine "
                    "is busy. Ask again in a moment."
                )
            return found and replace(found, doubt=found.doubt or Doubt(goal, math.inf))
        gap = _gap(goal, result)
        doubt = Doubt(goal, gap) if gap else None
        found = Found(model.repeats(result.x), (found and found.doubt) or doubt)
        held.append(LinearConstraint(cost[None, :], -np.inf, result.fun + _HELD))
    return found


def _gap(goal: Goal, result: OptimizeResult) -> float:
    """How far from the best a solution may be, in the goal's own unit; 0 where it is proven."""
    if result.status == 0:
        return 0.0
    bound = -np.inf if result.mip_dual_bound is None else result.mip_dual_bound
    if goal == "error":
        return float(max(1.0, (result.fun - max(0.0, bound)) * _SCALE))  # no error is less than none
    return float(max(0.0, result.fun - math.ceil(bound - 1e-6))) if math.isfinite(bound) else math.inf
