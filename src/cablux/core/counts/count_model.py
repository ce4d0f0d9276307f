"""A band's program as a matrix for an integer solver: its variables by name, its goals as costs, its rows.

The solver is given millimetres with three decimals, for it likes numbers near one, and whole numbers wherever a
quantity is one: a goal that can only be whole is proven as soon as its bound is less than one away.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Literal

import numpy as np

from ..piece.problems import MAX_STITCHES
from .program import Program

if TYPE_CHECKING:
    from scipy.optimize import LinearConstraint

Goal = Literal["error", "uneven", "outer", "change", "panels"]
SCALE = 1_000.0  # micrometres in a millimetre

Constraint = tuple[dict[int, float], float, float]
"""One constraint: the weight of each variable in it, its lowest and its highest value."""


@dataclass(frozen=True)
class Variables:
    """Where each variable of a program with so many columns stands.

    `repeats(c)`: the repeats of a column. `too_wide`, `too_narrow`, `unseen`: how far the width lies above and below
    the one wanted, and the part of that nobody sees. `widest`, `narrowest`, `outermost`: the widest and the narrowest
    gap, and the widest outer one. `multiples`: how often the body's count holds its multiple. `change(c)`: how far a
    column's repeats lie from what there is. `steps(c)`: how often they hold the number they must be a multiple of.
    """

    columns: int

    @property
    def size(self) -> int:
        """How many there are."""
        return self.steps(self.columns)

    def repeats(self, column: int) -> int:
        return column

    @property
    def too_wide(self) -> int:
        return self.columns

    @property
    def too_narrow(self) -> int:
        return self.columns + 1

    @property
    def unseen(self) -> int:
        return self.columns + 2

    @property
    def widest(self) -> int:
        return self.columns + 3

    @property
    def narrowest(self) -> int:
        return self.columns + 4

    @property
    def outermost(self) -> int:
        return self.columns + 5

    @property
    def multiples(self) -> int:
        return self.columns + 6

    def change(self, column: int) -> int:
        return self.columns + 7 + column

    def steps(self, column: int) -> int:
        return 2 * self.columns + 7 + column


@dataclass(frozen=True)
class Model:
    """The matrix of a program.

    Segments that must stay alike share a column; the variables of a program with k columns are `Variables(k)`.
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
    def var(self) -> Variables:
        """Its variables."""
        return Variables(len(self.columns))

    @cached_property
    def column_of(self) -> dict[int, int]:
        """The column of each segment."""
        return {i: c for c, places in enumerate(self.columns) for i in places}

    @cached_property
    def stitches(self) -> np.ndarray:
        """Stitches that one repeat more of each column adds to the body."""
        segments = self.program.view.segments
        return np.array([float(sum(segments[i].chart.multiple for i in places)) for places in self.columns])

    @cached_property
    def bounds(self) -> tuple[np.ndarray, np.ndarray]:
        """The lowest and the highest value of every variable."""
        var, reach = self.var, self.program.reach
        low, high = np.zeros(var.size), np.full(var.size, np.inf)
        for c, places in enumerate(self.columns):
            low[var.repeats(c)] = max(reach[i][0] for i in places)
            high[var.repeats(c)] = min(reach[i][1] for i in places)
        slack = self.program.slack_um / SCALE
        low[var.unseen], high[var.unseen] = -slack, slack
        low[var.multiples], high[var.multiples] = -50.0, float(MAX_STITCHES)
        return low, high

    @property
    def possible(self) -> bool:
        """Whether every column has repeats to choose from."""
        low, high = self.bounds
        return bool(np.all(low <= high))

    @cached_property
    def whole(self) -> np.ndarray:
        """Which variables are whole numbers: all but the errors."""
        var = self.var
        whole = np.ones(var.size, np.int64)
        whole[[var.too_wide, var.too_narrow, var.unseen]] = 0
        return whole

    def goal(self, goal: Goal) -> np.ndarray:
        """The row of costs of a goal, in millimetres or stitches."""
        var, program = self.var, self.program
        costs = np.zeros(var.size)
        if goal == "error":
            costs[[var.too_wide, var.too_narrow]] = 1.0
        elif goal == "uneven" and program.gaps:
            costs[var.widest], costs[var.narrowest] = 1.0, -1.0
        elif goal == "outer" and program.outer:
            costs[var.outermost], costs[var.narrowest] = 1.0, -1.0
        for c, (stitches, (first, *_)) in enumerate(zip(self.stitches, self.columns, strict=True)):
            if goal == "change":
                costs[var.change(c)] = stitches
            elif goal == "panels" and program.view.segments[first].is_panel:
                costs[var.repeats(c)] = -stitches
        return costs

    def rows(self) -> Iterator[Constraint]:
        """All that must hold."""
        yield from self._width()
        yield from self._gaps()
        yield from self._steps()
        if self.program.has("total"):
            multiple, plus = self.program.view.piece.total
            short = float(plus - sum(s.chart.balance for s in self.program.view.segments))
            yield (
                {**{self.var.repeats(c): n for c, n in enumerate(self.stitches)}, self.var.multiples: -float(multiple)},
                short,
                short,
            )

    def _width(self) -> Iterator[Constraint]:
        var, piece, units = self.var, self.program.view.piece, self.program.units
        left = (piece.width_mm * 1000.0 - sum(fixed for fixed, _ in units)) / SCALE
        width = {var.repeats(c): sum(units[i][1] for i in places) / SCALE for c, places in enumerate(self.columns)}
        yield {**width, var.too_wide: -1.0, var.too_narrow: 1.0, var.unseen: -1.0}, left, left
        if self.program.has("width"):
            off = piece.tolerance_mm * 1000.0 / SCALE + 1e-6
            yield width, left - off, left + off

    def _gaps(self) -> Iterator[Constraint]:
        var, segments, inf = self.var, self.program.view.segments, np.inf
        seen: set[tuple[int, ...]] = set()
        for group in self.program.groups:
            columns = tuple(sorted(self.column_of[i] for i in group))
            if columns in seen:
                continue
            seen.add(columns)
            wide: dict[int, float] = {}
            for i in group:
                mine = var.repeats(self.column_of[i])
                wide[mine] = wide.get(mine, 0.0) - segments[i].chart.multiple
            balance = float(sum(segments[i].chart.balance for i in group))
            # the widest is as wide as each gap; more at the outside: no inner gap is wider than an outer one
            if group[0] in self.program.outer:
                yield {var.widest: 1.0, **wide}, -inf, balance
                yield {var.outermost: 1.0, **wide}, balance, inf
            else:
                yield {var.widest: 1.0, **wide}, balance, inf
                yield {var.narrowest: 1.0, **wide}, -inf, balance

    def _steps(self) -> Iterator[Constraint]:
        var, view = self.var, self.program.view
        for c, (i, *_) in enumerate(self.columns):
            now = float(view.segments[i].repeats)
            if self.program.limits[i][0] < self.program.limits[i][1]:
                yield {var.change(c): 1.0, var.repeats(c): -1.0}, -now, np.inf
                yield {var.change(c): 1.0, var.repeats(c): 1.0}, now, np.inf
                if self.program.has("by", i):
                    yield {var.repeats(c): 1.0, var.steps(c): -float(view.segments[i].by)}, 0.0, 0.0

    def constraints(self) -> LinearConstraint:
        """The rows as one matrix."""
        from scipy.optimize import LinearConstraint

        rows = list(self.rows())
        matrix = np.zeros((len(rows), self.var.size))
        for at, (entries, _, _) in enumerate(rows):
            matrix[at, list(entries)] = list(entries.values())
        return LinearConstraint(matrix, np.array([r[1] for r in rows]), np.array([r[2] for r in rows]))

    def repeats(self, x: np.ndarray) -> tuple[int, ...]:
        """The repeats of every segment."""
        return tuple(round(x[self.var.repeats(self.column_of[i])]) for i in range(self.program.n))
