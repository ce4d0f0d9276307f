"""Relaxes a tile: finds where every loop lies, and the tile's width and height, by Newton's method.

Lengths are in stockinette stitch widths; a row of stockinette is `1 / ratio` high, where `ratio` is rows
per length over stitches per length. `energy` is apart from `relax`, so that others can minimise it too.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from .constants import FITTED, Constants
from .network import Floats, Network
from .springs import System, spring_system

_TOLERANCE = 1e-7  # largest force left, our choice: widths then hold to a millionth of a stitch
_MOST_STEPS = 60
Weights = tuple[Floats, ...]


@dataclass(frozen=True, kw_only=True)
class Relaxed:
    """Where the loops lie: `x`, `y` of shape (loops,), x growing to the left as rows are worked.

    `width_stitches` and `height_stitches` are those of the repeating tile, or the extent of a piece, in stitch widths.
    `converged` is False when `residual` (the largest force left) did not fall below the tolerance.
    """

    net: Network
    x: Floats
    y: Floats
    width_stitches: float
    height_stitches: float
    converged: bool
    iterations: int
    residual: float


def energy(s: System, u: Floats) -> tuple[float, Floats]:
    """Energy and its gradient at the unknowns `u`, shape (size,)."""
    value, gradient, _ = _terms(s, u)
    return value, gradient


def _terms(s: System, u: Floats) -> tuple[float, Floats, Weights]:
    """Energy, gradient, and the Hessian's weights in the order of `System.hessian`."""
    k = s.k
    stretch, tilt, turn = s.course.of(u) - s.rest_w, s.tilt.of(u), s.bend.of(u)
    jam: Floats = np.minimum(0.0, s.packing.of(u) - s.least)
    packed: Floats = np.where(jam < 0.0, k.crush * len(s.rest_w) / s.least**2, 0.0)
    kc = np.where(stretch > 0.0, 1.0, k.course_squeezed)
    dx, dy = s.leg_x.of(u), s.leg_y.of(u)
    length = np.hypot(dx, dy) + 1e-12
    low = np.minimum(0.0, dy - k.lowest * s.rest_h)
    value = 0.5 * float(
        kc @ stretch**2
        + packed @ jam**2
        + k.level * tilt @ tilt
        + k.leg * s.weight @ (length - s.rest_h) ** 2
        + k.shear * s.weight @ dx**2
        + k.no_pass * s.weight @ low**2
        + k.bend * turn @ turn
    )
    pull = k.leg * s.weight * (1.0 - s.rest_h / length)
    shear, no_pass = k.shear * s.weight, k.no_pass * s.weight
    gradient = (
        s.course.pull(kc * stretch, s.size)
        + s.packing.pull(packed * jam, s.size)
        + s.tilt.pull(k.level * tilt, s.size)
        + s.bend.pull(k.bend * turn, s.size)
        + s.leg_x.pull((pull + shear) * dx, s.size)
        + s.leg_y.pull(pull * dy + no_pass * low, s.size)
    )
    # a squeezed leg's own Hessian is indefinite across the leg; only its positive part is kept
    across = np.maximum(pull, 0.0) / length**2
    along = k.leg * s.weight / length**2
    xx = along * dx**2 + across * dy**2 + shear
    yy = along * dy**2 + across * dx**2 + no_pass * (low < 0.0)
    xy = (along - across) * dx * dy
    level, bend = np.full(len(tilt), k.level), np.full(len(turn), k.bend)
    return value, gradient, (kc, level, bend, xx, yy, xy, xy, packed)


def regular_grid(net: Network, ratio: float) -> Floats:
    """Loops on a regular grid as wide as the widest row."""
    widest = float(net.counts.max())
    x = (net.place + 0.5) * widest / net.counts[net.row]
    return np.concatenate((x, [widest], net.row / ratio, [net.rows / ratio]))


Solve = Callable[[Weights, Floats], Floats]
ProgressReport = Callable[[float], bool]


def newton_steps(
    s: System, u: Floats, solve: Solve, *, tolerance: float, most: int, progress: ProgressReport | None = None
) -> tuple[Floats, int, float]:
    """Newton steps with a halving line search from `u`: (unknowns, steps, largest force left).

    `solve` gives the step for the Hessian's weights and a right side. `progress` is told after each step how
    much of the way is done, 0 to 1 by the logarithm of the force left; it stops the work by returning False.
    """
    value, gradient, weights = _terms(s, u)
    residual = first = float(np.abs(gradient).max())
    steps, done = 0, 0.0
    while residual > tolerance and steps < most:
        step = solve(weights, -gradient)
        slope, size = float(gradient @ step), 1.0
        new = _terms(s, u + step)
        while new[0] > value + 1e-4 * size * slope and size > 1e-6:
            size *= 0.5
            new = _terms(s, u + size * step)
        u = u + size * step
        value, gradient, weights = new
        residual, steps = float(np.abs(gradient).max()), steps + 1
        part = 1.0 if residual <= tolerance else float(np.log(residual / first) / np.log(tolerance / first))
        done = max(done, min(1.0, part))
        if progress and not progress(done):
            break
    return u, steps, residual


def relax_tile(net: Network, ratio: float, k: Constants = FITTED) -> Relaxed:
    """The relaxed tile for rows-to-stitches `ratio`; `converged` says whether the forces vanished.

    The free translation is pinned at the first loop.
    """
    s, n = spring_system(net, ratio, k), net.loops
    extra = np.full(s.size, 1e-10)
    extra[[0, n + 1]] += 1.0
    u, steps, residual = newton_steps(
        s,
        regular_grid(net, ratio),
        lambda weights, right: s.hessian.solve(weights, extra, right),
        tolerance=_TOLERANCE,
        most=_MOST_STEPS,
    )
    return Relaxed(
        net=net,
        x=u[:n],
        y=u[n + 1 : -1],
        width_stitches=float(u[n]),
        height_stitches=float(u[-1]),
        converged=residual <= _TOLERANCE,
        iterations=steps,
        residual=residual,
    )
