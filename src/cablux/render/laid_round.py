"""Relief laid as it lies: a crown as it is seen from above, a bent band along its bend, wings beside their spine."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from ..core.fabric.network import Ints
from ..core.fabric.relax import Relaxed
from ..core.fabric.runs import WAITS
from .relief import draw_placed, drawn_svg
from .strokes import SCALE
from .visible_loops import visible_loops
from .yarn import Yarn


def crown_from_above(cloth: Relaxed, row: int, yarn: Yarn) -> str:
    """The rounds from `row` on as they are seen from above: the last in the middle, each round closed.

    A loop lies as far from the middle as the cloth is long between it and the last round.
    """
    net = cloth.net
    first, last = net.starts, net.starts + net.counts - 1
    wide, middle = cloth.x[last] - cloth.x[first] + 1.0, (cloth.x[first] + cloth.x[last]) / 2.0
    part = wide / wide.max()  # each round is as wide as the widest while loops are drawn, so that columns stand upright
    upright = replace(cloth, x=(cloth.x - middle[net.row]) / part[net.row])
    s = visible_loops(upright)
    s = replace(s, lean=s.lean * part[net.row], row=cloth.height_stitches / net.rows)
    level = np.add.reduceat(cloth.y, first) / net.counts
    hole = float(wide[-1]) / (2.0 * math.pi)
    angle = 2.0 * math.pi * s.x / float(wide.max())
    away = np.maximum(0.3 * hole, float(level[-1]) - s.y + hole) * SCALE
    places = np.stack((away * np.sin(angle), away * np.cos(angle), -angle), axis=1)
    return drawn_svg(draw_placed(s, places, net.row >= row), yarn)


def bent_round(cloth: Relaxed, radius: float, row: float, *, yarn: Yarn, inside: str) -> str:
    """A bent band that was laid out straight, along its bend.

    The radius of its inside edge, and the height of a row, are in stitch widths.
    """
    s = replace(visible_loops(cloth), row=row)
    right = inside == "right"
    inner = float(s.x.max() if right else s.x.min())
    angle, away = s.y / radius, (radius + np.abs(s.x - inner)) * SCALE
    hand = -1.0 if right else 1.0
    places = np.stack((hand * away * np.cos(angle), -away * np.sin(angle), -hand * angle), axis=1)
    return drawn_svg(draw_placed(s, places, cloth.net.slipped != WAITS), yarn)


def wings_beside_spine(
    cloth: Relaxed, lane: Ints, wings: tuple[range, range], *, size: tuple[float, float], yarn: Yarn
) -> str:
    """Two wings that were laid out with level rows, turned until their inner sides lie beside the spine, hanging.

    `lane` is the segment of each loop, `wings` those of the right and of the left one; what lies outside a wing goes
    with it, what lies between them is the spine, as long as the sides beside it. `size`: how wide a wing is in its last
    row and how high it is, in stitch widths, since cloth whose rows are kept level lies narrower and taller than that.
    """
    net, s = cloth.net, visible_loops(cloth)
    high = s.y - s.y.min()
    high *= size[1] / float(high.max())
    x, y, angle = s.x.copy(), high.copy(), np.zeros(net.loops)
    spine = (lane > wings[0][-1]) & (lane < wings[1][0])
    for wing, side in zip(wings, (1.0, -1.0), strict=True):
        mine = lane <= wing[-1] if side > 0 else lane >= wing[0]
        inside = mine & (lane >= wing[0]) & (lane <= wing[-1])
        inner, outer = np.full(net.rows, np.inf), np.full(net.rows, -np.inf)
        np.minimum.at(inner, net.row[inside], side * s.x[inside])
        np.maximum.at(outer, net.row[inside], side * s.x[inside])
        wide = outer - inner + 1.0
        by = size[0] / float(wide[-1])
        turn = math.atan2((wide[-1] - wide[0]) * by / 2.0, size[1])
        away = by * (side * s.x - inner[net.row] - (wide[net.row] - wide[0]) / 2.0)
        x[mine] = side * (away * math.cos(turn) + high * math.sin(turn) + inner[0])[mine]
        y[mine] = (high * math.cos(turn) - away * math.sin(turn))[mine]
        angle[mine] = side * turn
        y[spine] = high[spine] / math.cos(turn)
    places = np.stack((-x * SCALE, y * SCALE, angle + math.pi), axis=1)
    return drawn_svg(draw_placed(replace(s, row=size[1] / net.rows), places, net.row >= 0), yarn)
