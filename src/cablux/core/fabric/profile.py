"""What a relaxed piece says about its shape: width at each row, height along each run of columns, flare, scallop."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .network import Floats, Ints
from .relax import Relaxed

TAPERS = 0.15
"""Our choice: a band whose rows differ by more is shaped, and told by its widest row."""


@dataclass(frozen=True, kw_only=True)
class Profile:
    """A piece's profile in stockinette stitch widths.

    `widths`, `levels`, shape (rows,): width of each row and where its middle lies, the cast-on first.
    `middle_stitches`: the width half-way up.
    `flare`: how much wider the first and the last row lie than the middle of the piece. `scallop`: how far
    the first and the last row wave, highest less lowest point. `edge_pull`: how much shorter the two
    side edges are than the middle of the piece is high, right then left.
    """

    widths: Floats
    levels: Floats
    middle_stitches: float
    flare: tuple[float, float]
    scallop: tuple[float, float]
    edge_pull: tuple[float, float]


@dataclass(frozen=True, kw_only=True)
class BandProfile:
    """Rows of one count: their stitches, mean width, and what that is against plain stockinette.

    `draw_in`, `draw_up`: width and height over those of as many stockinette stitches and rows. `flare_stitches`: how
    much wider its widest row lies than the middle of the piece, in stitch widths.
    """

    stitches: int
    rows: int
    width_stitches: float
    draw_in: float
    draw_up: float
    flare_stitches: float


def band_profile(piece: Relaxed, shape: Profile, first: int, *, last: int, ratio: float) -> BandProfile:
    """The band from row `first` to row `last` of a relaxed piece (the cast-on is row 0), at least two rows."""
    widths, counts = shape.widths[first : last + 1], piece.net.counts[first : last + 1]
    high = float(shape.levels[last] - shape.levels[first])
    return BandProfile(
        stitches=int(counts.max()),
        rows=last - first + 1,
        width_stitches=float(widths.max() if np.ptp(widths) > TAPERS * widths.max() else widths.mean()),
        draw_in=float((widths / counts).mean()),
        draw_up=high * ratio / (last - first),
        flare_stitches=float(widths.max()) - shape.middle_stitches,
    )


def profile_of(piece: Relaxed) -> Profile:
    """The profile of a relaxed piece."""
    net = piece.net
    first, last = net.starts, net.starts + net.counts - 1
    open_widths = piece.x[last] - piece.x[first] + 1.0  # half a stitch beyond the first and the last loop
    widths = np.full(net.rows, piece.width_stitches) if net.tied else open_widths
    levels = np.add.reduceat(piece.y, net.starts) / net.counts
    middle = float(np.median(widths[net.rows // 3 : max(net.rows // 3 + 1, 2 * net.rows // 3)]))
    waves = [float(np.ptp(piece.y[net.row == row])) for row in (0, net.rows - 1)]
    high = _height(piece, (net.counts - 1) // 2)
    pulls = [high - _height(piece, place) for place in (np.zeros(net.rows, np.int64), net.counts - 1)]
    return Profile(
        widths=widths,
        levels=levels,
        middle_stitches=middle,
        flare=(float(widths[0]) - middle, float(widths[-1]) - middle),
        scallop=(waves[0], waves[1]),
        edge_pull=(pulls[0], pulls[1]),
    )


def _height(piece: Relaxed, place: Ints) -> float:
    """From the first to the last row at a place in each row."""
    at = piece.net.starts + place
    return float(piece.y[at[-1]] - piece.y[at[0]])
