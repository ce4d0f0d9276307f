"""Chooses every flexible segment's repeats for a wanted width: an exact integer program, solved by HiGHS.

Widths are whole micrometres; goals are met in order (one solve each, the earlier ones held), so that no
weighting decides for the knitter. `optimal` says whether HiGHS proved it.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Literal

import numpy as np

from ..errors import Infeasible
from .piece import MAX_STITCHES, Piece, Segment, asymmetry
from .widths import segment_unit

Goal = Literal["error", "uneven", "change", "ground"]
AnswerName = Literal["closest", "most even", "least change", "panels wider"]

if TYPE_CHECKING:
    from scipy.optimize import LinearConstraint

_GOALS: dict[AnswerName, tuple[Goal, ...]] = {
    "closest": ("error", "uneven", "change"),
    "most even": ("uneven", "error", "change"),
    "least change": ("change", "uneven", "error"),
    "panels wider": ("ground", "error", "uneven"),
}
_SCALE = 1_000.0  # the program is solved in millimetres with three decimals: HiGHS likes numbers near one
_TIME_LIMIT = 5.0
_WIDER = 2  # our choice: an all-over panel may grow by two repeats before it is another design


@dataclass(frozen=True)
class Answer:
    """A layout the solver found: the segments, their width, and whether it was proven to be the best."""

    name: AnswerName
    segments: tuple[Segment, ...]
    width_um: int
    optimal: bool

    @property
    def stitches(self) -> int:
        """The body's count."""
        return sum(s.stitches for s in self.segments)


@dataclass(frozen=True)
class _Model:
    """The integer program of one answer.

    Variables: repeats of each segment; error beyond the slack, above and below; the widest and the narrowest
    ground; the part of the error nobody sees; and the change of each segment.
    """

    piece: Piece
    low: tuple[int, ...]
    high: tuple[int, ...]
    widths: tuple[int, ...]
    fixed: int
    pairs: tuple[tuple[int, int], ...]
    grounds: tuple[int, ...]

    @property
    def n(self) -> int:
        return len(self.low)

    @property
    def size(self) -> int:
        return 2 * self.n + 5

    def width(self, repeats: Iterable[int]) -> int:
        return self.fixed + sum(w * r for w, r in zip(self.widths, repeats, strict=True))

    def goal(self, goal: Goal) -> np.ndarray:
        """The row of costs of a goal."""
        c = np.zeros(self.size)
        if goal == "error":
            c[self.n : self.n + 2] = 1.0
        elif goal == "uneven" and self.grounds:
            c[self.n + 2], c[self.n + 3] = 1.0, -1.0
        elif goal == "change":
            c[self.n + 5 :] = [s.chart.multiple for s in self.piece.segments]
        elif goal == "ground":
            for i in self.grounds:
                c[i] = self.piece.segments[i].chart.multiple
        return c


def slack_um(piece: Piece) -> float:
    """An error of half a step counts as none: our choice, so that nobody pays for it with uneven backgrounds.

    A step is one stockinette stitch, or two where both halves must stay alike.
    """
    return piece.measure.gauge.stitch_mm * (1000.0 if wants_symmetry(piece) else 500.0)


def _bounds(piece: Piece, *, panels_too: bool, locks: bool = True, least: bool = True) -> tuple[list[int], list[int]]:
    low, high = [], []
    for s in piece.segments:
        m, b = s.chart.multiple, s.chart.balance
        wanted = piece.least_background if least else 1
        at_least = max(1, -(-(wanted - b) // m)) if s.role == "background" else 1
        at_most = (MAX_STITCHES - b) // m
        free = s.role == "background" or (s.role == "panel" and panels_too and _grows(s))
        if s.role == "panel" and free and panels_too:
            at_least, at_most = s.repeats, s.repeats + _WIDER
        if (s.locked and locks) or not free:
            at_least = at_most = s.repeats
        low.append(at_least)
        high.append(at_most)
    return low, high


def _grows(segment: Segment) -> bool:
    """Whether a panel is meant to be repeated sideways: an all-over pattern between its gutters."""
    return segment.chart.balance > 0


def _model(piece: Piece, low: list[int], high: list[int], *, symmetric: bool) -> _Model:
    units = [segment_unit(s, piece.measure) for s in piece.segments]
    n = len(units)
    pairs = tuple((i, n - 1 - i) for i in range(n // 2)) if symmetric else ()
    grounds = tuple(i for i, s in enumerate(piece.segments) if s.role == "background" and low[i] < high[i])
    return _Model(
        piece,
        tuple(low),
        tuple(high),
        tuple(u.repeat_um for u in units),
        sum(u.fixed_um for u in units),
        pairs,
        grounds,
    )


def _constraints(m: _Model, tolerance_um: float | None) -> list[LinearConstraint]:
    from scipy import sparse
    from scipy.optimize import LinearConstraint

    n, rows, lower, upper = m.n, [], [], []

    def add(entries: dict[int, float], low: float, high: float) -> None:
        row = np.zeros(m.size)
        for i, value in entries.items():
            row[i] += value
        rows.append(row)
        lower.append(low)
        upper.append(high)

    gap = (m.piece.width_mm * 1000.0 - m.fixed) / _SCALE
    width = {i: w / _SCALE for i, w in enumerate(m.widths)}
    add({**width, n: -1.0, n + 1: 1.0, n + 4: -1.0}, gap, gap)
    if tolerance_um is not None:
        add(width, gap - tolerance_um / _SCALE - 1e-6, gap + tolerance_um / _SCALE + 1e-6)
    for i, j in m.pairs:
        add({i: 1.0, j: -1.0}, 0.0, 0.0)
    for i in m.grounds:
        chart = m.piece.segments[i].chart
        add({n + 2: 1.0, i: -chart.multiple}, chart.balance, np.inf)
        add({n + 3: 1.0, i: -chart.multiple}, -np.inf, chart.balance)
    for i, s in enumerate(m.piece.segments):
        if m.low[i] < m.high[i]:
            add({n + 5 + i: 1.0, i: -1.0}, -s.repeats, np.inf)
            add({n + 5 + i: 1.0, i: 1.0}, s.repeats, np.inf)
    return [LinearConstraint(sparse.csr_matrix(np.array(rows)), np.array(lower), np.array(upper))]


def _solve(m: _Model, goals: tuple[Goal, ...], tolerance_um: float | None) -> tuple[list[int], bool] | None:
    """Repeats by goals in order, or None where nothing satisfies the constraints."""
    from scipy.optimize import Bounds, LinearConstraint, milp  # here: half a second that the first page need not wait

    slack = slack_um(m.piece) / _SCALE
    low = np.concatenate((m.low, np.zeros(m.n + 5)))
    high = np.concatenate((m.high, np.full(m.n + 5, np.inf)))
    low[m.n + 4], high[m.n + 4] = -slack, slack
    integrality = np.concatenate((np.ones(m.n, np.int64), np.zeros(m.n + 5, np.int64)))
    constraints = _constraints(m, tolerance_um)
    found: list[int] = []
    optimal = True
    for goal in goals:
        cost = m.goal(goal)
        result = milp(
            cost,
            integrality=integrality,
            bounds=Bounds(low, high),
            constraints=constraints,
            options={"time_limit": _TIME_LIMIT, "mip_rel_gap": 0.0},
        )
        if result.x is None:
            return (found, False) if found else None
        found = [round(v) for v in result.x[: m.n]]
        optimal = optimal and result.status == 0
        constraints = [*constraints, LinearConstraint(cost[None, :], -np.inf, result.fun + 5e-4)]
    return found, optimal


def answer(piece: Piece, name: AnswerName, *, tolerance_um: float | None = None) -> Answer | None:
    """The best layout by one answer's goals; None where no layout keeps all wishes.

    "closest" takes any width unless a tolerance is given; the others keep to the piece's tolerance.
    """
    low, high = _bounds(piece, panels_too=name == "panels wider")
    if any(a > b for a, b in zip(low, high, strict=True)):
        return None
    limit = tolerance_um if tolerance_um is not None or name == "closest" else piece.tolerance_mm * 1000.0
    m = _model(piece, low, high, symmetric=wants_symmetry(piece))
    solved = _solve(m, _GOALS[name], limit)
    if solved is None:
        return None
    repeats, optimal = solved
    segments = tuple(replace(s, repeats=r) for s, r in zip(piece.segments, repeats, strict=True))
    return Answer(name, segments, m.width(repeats), optimal)


def wants_symmetry(piece: Piece) -> bool:
    """Whether symmetry is wished for and the patterns allow it."""
    return piece.symmetric and not asymmetry(piece.segments, counts=False)


def answers(piece: Piece) -> tuple[Answer, ...]:
    """The best few different answers within the tolerance. Raises Infeasible with what clashes."""
    closest = answer(piece, "closest", tolerance_um=piece.tolerance_mm * 1000.0)
    if closest is None:
        raise Infeasible(_explain(piece))
    out = [closest]
    names: list[AnswerName] = ["most even", "least change"]
    if any(s.role == "panel" and _grows(s) and not s.locked for s in piece.segments):
        names.append("panels wider")
    for name in names:
        found = answer(piece, name)
        if found and found.segments not in [a.segments for a in out]:
            out.append(found)
    return tuple(out)


def _explain(piece: Piece) -> str:
    """Why no layout comes within the tolerance, and which single wish would free it."""
    low, high = _bounds(piece, panels_too=False)
    m = _model(piece, low, high, symmetric=wants_symmetry(piece))
    target, tolerance = piece.width_mm * 1000.0, piece.tolerance_mm * 1000.0
    narrowest, widest = m.width(low), m.width(high)
    wanted = f"{piece.width_mm / 10:g} ± {piece.tolerance_mm / 10:g} cm"
    if narrowest > target + tolerance:
        what = f"The narrowest this layout can be is {narrowest / 10_000:.1f} cm, but {wanted} is wanted."
    elif widest < target - tolerance:
        what = f"The widest this layout can be is {widest / 10_000:.1f} cm, but {wanted} is wanted."
    else:
        what = f"No whole number of stitches in the backgrounds comes within {wanted}."
    return f"{what} {_cures(piece)}"


def _cures(piece: Piece) -> str:
    tries: tuple[tuple[str, dict[str, bool], bool], ...] = (
        ("unlock the locked backgrounds", {"locks": False}, piece.symmetric),
        ("let backgrounds be narrower than the least you allow", {"least": False}, piece.symmetric),
        ("let the two halves differ", {}, False),
        ("let the all-over panels change their repeats", {"panels_too": True}, piece.symmetric),
    )
    freed = []
    for text, change, symmetric in tries:
        low, high = _bounds(piece, **{"panels_too": False} | change)
        wish = wants_symmetry(replace(piece, symmetric=symmetric))
        m = _model(piece, [min(a, b) for a, b in zip(low, high, strict=True)], high, symmetric=wish)
        if _solve(m, ("error",), piece.tolerance_mm * 1000.0):
            freed.append(text)
    if freed:
        return f"It would work to {', or to '.join(freed)}."
    return "Take a panel out or put one in, or change the width or its tolerance."
