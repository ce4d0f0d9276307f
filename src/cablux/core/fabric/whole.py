"""Relaxes a whole piece with free edges: the same network as a tile, solved by Newton steps on two levels."""

from __future__ import annotations

import numpy as np

from .constants import FITTED, Constants
from .multilevel import TwoLevel
from .network import Network
from .relax import ProgressReport, Relaxed, newton_steps
from .springs import spring_system

_TOLERANCE = 2e-3  # largest force left, our choice: widths then hold to a thousandth of a stitch
_MOST_STEPS = 40
_DRAWN_IN, _DRAWN_UP = 0.9, 0.97  # where the search begins, by trial: a grid drawn in a little, as cabled cloth is


def relax_piece(
    net: Network,
    ratio: float,
    *,
    k: Constants = FITTED,
    progress: ProgressReport | None = None,
) -> Relaxed:
    """The relaxed piece for rows-to-stitches `ratio`, its first row about y = 0, its middle about x = 0.

    `progress` is told what part is done and stops the work by returning False, and then, as after too many
    steps, `converged` is False.
    """
    s, n = spring_system(net, ratio, k), net.loops
    x = _DRAWN_IN * (net.place - (net.counts[net.row] - 1) / 2.0)
    width = float(net.counts.max())
    levels = TwoLevel(s, net)
    u, steps, residual = newton_steps(
        s,
        np.concatenate((x, [width], _DRAWN_UP * net.row / ratio, [_DRAWN_UP * net.rows / ratio])),
        levels.solve,
        tolerance=_TOLERANCE,
        most=_MOST_STEPS,
        progress=progress,
    )
    x, y = u[:n] - u[:n].mean(), u[n + 1 : -1] - u[n + 1 : -1][net.row == 0].mean()
    extent = float(u[n]) if net.tied else float(np.ptp(x)) + 1.0
    return Relaxed(
        net=net,
        x=x,
        y=y,
        width_stitches=extent,
        height_stitches=float(np.ptp(y)) + 1.0 / ratio,
        converged=residual <= _TOLERANCE,
        iterations=steps,
        residual=residual,
    )
