"""What is seen of relaxed cloth from one side: where each loop lies, how it leans, how far it stands out."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..core.fabric.network import Floats, Ints, Network
from ..core.fabric.relax import Relaxed
from ..core.fabric.rest import smooth_columns, smooth_rows

# A loop's kind, as it is drawn. Numbers, because they travel to the browser as bytes.
KNIT, PURL, HOLE, KNOB, NEW, SLIPPED = range(6)

_WEIGHTS = (1.0, 2.0, 3.0, 2.0, 1.0)  # along the strand, for the eye only; widths come from unsmoothed positions
_FELT = 0.55  # our choice: how much of a crossing's depth the strand keeps one row above and below it
_STANDS = 0.5  # our choice: how far ribs and ridges stand out, where a strand over another stands out by 1


@dataclass(frozen=True, kw_only=True)
class VisibleLoops:
    """Loops from one side, in stitch widths, each array of shape (loops,).

    `x` grows to the right as one looks at it, `y` upwards. `lean`: how far the strand moves to the right in one
    row. `stands`: −1 far behind, 0 in the plane, +1 in front. `ground`: 1 deep in cloth that is all purl from
    here. `kind` as above; `size` is a bobble's. `under` lists (loop, parent) where a decrease hides a parent's strand.
    """

    net: Network
    x: Floats
    y: Floats
    lean: Floats
    stands: Floats
    ground: Floats
    kind: Ints
    size: Ints
    under: Ints
    width: float
    height: float
    row: float


def visible_loops(cloth: Relaxed, *, behind: bool = False) -> VisibleLoops:
    """The cloth from its right side, or from `behind`, where left and right, knit and purl, front and back change."""
    net = cloth.net
    strand = net.strand
    begins = strand < 0
    parent = np.where(begins, np.arange(net.loops), net.leg[strand, 0])
    child = np.arange(net.loops)
    up = np.flatnonzero(~begins)[::-1]
    child[parent[up]] = up  # where two loops are made of one, the first carries the strand on
    side = np.where(begins, 0.0, net.leg_side[strand] * cloth.width_stitches if net.tied or net.endless else 0.0)
    dx = np.where(begins, 0.0, cloth.x - (cloth.x[parent] + side))
    down1, up1 = -dx, np.where(child == np.arange(net.loops), 0.0, dx[child])
    down2, up2 = down1 - dx[parent], up1 + np.where(child == np.arange(net.loops), 0.0, dx[child[child]])
    w = _WEIGHTS
    x = cloth.x + (w[0] * down2 + w[1] * down1 + w[3] * up1 + w[4] * up2) / sum(w)
    flip = -1.0 if behind else 1.0
    across, sign = smooth_rows(net), net.sign * flip
    along = smooth_columns(net)
    ribs, ridges = along * (1.0 - np.abs(across)), -across * (1.0 - np.abs(along)) * np.sign(net.sign * across)
    texture = _STANDS * (flip * ribs + np.where(sign < 0, 1.0, -1.0) * np.abs(ridges))
    stands = np.clip(_crossed(net, parent, begins) * flip + texture, -1.0, 1.0)
    return VisibleLoops(
        net=net,
        x=-flip * x,
        y=cloth.y,
        lean=-flip * (up1 - down1) / 2.0,
        stands=stands,
        ground=np.clip(-flip * along, 0.0, 1.0) * np.clip(-flip * across, 0.0, 1.0),
        kind=_kinds(net, sign, begins),
        size=net.knob * int(flip),
        under=_hidden(net),
        width=cloth.width_stitches,
        height=cloth.height_stitches,
        row=cloth.height_stitches / net.rows,
    )


def _crossed(net: Network, parent: Ints, begins: NDArray[np.bool_]) -> Floats:
    """Depth with a crossing felt one row above and below, so that a strand rises into it and out of it."""
    own = net.depth.astype(float)
    felt = own.copy()
    loops = np.flatnonzero(~begins)
    below = parent[loops]
    flat = own == 0.0
    np.add.at(felt, below[flat[below]], _FELT * own[loops][flat[below]])
    felt[loops[flat[loops]]] += _FELT * own[below][flat[loops]]
    return np.asarray(np.clip(felt, -1.0, 1.0), float)


def _kinds(net: Network, sign: Floats, begins: NDArray[np.bool_]) -> Ints:
    kind = np.where(sign > 0, KNIT, PURL)
    made_new = begins & (net.row > 0) & (net.hole == 0)
    kind = np.where(made_new & (sign > 0), NEW, kind)
    kind = np.where((net.slipped == 1) & (sign > 0), SLIPPED, kind)
    kind = np.where(net.hole == 1, HOLE, kind)
    return np.asarray(np.where(net.knob != 0, KNOB, kind), np.int64)


def _hidden(net: Network) -> Ints:
    """(loop, parent) for each whole leg that is not the loop's own strand: what a decrease lies over."""
    legs = np.flatnonzero(net.leg_weight >= 1.0)
    hidden = legs[net.strand[net.leg[legs, 1]] != legs]
    return np.asarray(net.leg[hidden][:, ::-1], np.int64).reshape(-1, 2)
