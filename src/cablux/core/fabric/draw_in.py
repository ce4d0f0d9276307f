"""What a relaxed tile says about its chart: draw-in, draw-up, and the width of a span of columns."""

from __future__ import annotations

import hashlib
import threading
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from pathlib import Path
from types import MappingProxyType

import numpy as np

from ..errors import IllegalChart, IllegalPiece
from ..notation import Chart, audit_chart, format_chart
from ..practice import ROWS_TO_STITCHES
from .constants import FITTED
from .network import Network, build_tile
from .relax import Relaxed, relax_tile

MAX_LOOPS = 6_000  # our choice: a tile of 60 by 100; more belongs to the whole-piece solver
_TURN = threading.RLock()  # one tile at a time: whoever waits for it finds it done instead of relaxing it as well
_OPEN = replace(FITTED, curl=0.0)  # ribs drawn open: nothing curls; crossings hold their columns together as before
RATIO_RANGE = (0.5, 4.0)  # rows to stitches of any cloth made with needles, with room to spare


@dataclass(frozen=True, kw_only=True)
class DrawIn:
    """Draw-in and draw-up of a tile against the same number of stockinette stitches and rows.

    `width_stitches` is the tile's width in stockinette stitches, `stitches` the count of its widest row.
    """

    stitches: int
    rows: int
    width_stitches: float
    draw_in: float
    draw_up: float
    converged: bool
    iterations: int
    residual: float


def relaxed_tile(chart: Chart, ratio: float, repeats: int = 0, *, drawn_open: bool = False) -> Relaxed:
    """The relaxed tile of a chart; `repeats` 0 is the endless texture of its box. Cached by chart and gauge.

    `drawn_open`: pulled sideways so far that no rib is folded any more, and no further.

    Raises IllegalPiece where the gauge or the size is out of reach.
    """
    if not RATIO_RANGE[0] <= ratio <= RATIO_RANGE[1]:
        raise IllegalPiece(
            f"{ratio:.2f} rows to a stitch is not a knitted gauge, which "
            f"lies between {RATIO_RANGE[0]} and {RATIO_RANGE[1]}, and most often near {ROWS_TO_STITCHES:g}."
        )
    if chart.width(max(repeats, 1)) * chart.height > MAX_LOOPS:
        raise IllegalPiece(f"The chart has more than {MAX_LOOPS} stitches in all, too many to compute its draw-in.")
    with _TURN:
        return _relaxed(chart, ratio, repeats, drawn_open=drawn_open)


@lru_cache(maxsize=256)
def _relaxed(chart: Chart, ratio: float, repeats: int, *, drawn_open: bool) -> Relaxed:
    return relax_tile(build_tile(chart, repeats), ratio, _OPEN if drawn_open else FITTED)


_remembered: dict[str, DrawIn] = {}


@lru_cache(maxsize=1)
def model_fingerprint() -> str:
    """Changes whenever any source of this model does, so that nothing remembered outlives it."""
    digest = hashlib.sha256()
    for file in sorted(Path(__file__).parent.glob("*.py")):
        digest.update(file.read_bytes())
    return digest.hexdigest()[:16]


def known_draw_ins() -> Mapping[str, DrawIn]:
    """What has been computed so far, to be kept between runs; a copy, for others may be computing meanwhile."""
    return MappingProxyType(_remembered.copy())


def restore_draw_ins(draws: Mapping[str, DrawIn]) -> None:
    """Takes back what an earlier run computed; entries of another model are never looked up."""
    _remembered.update(draws)


@lru_cache(maxsize=512)
def compute_draw_in(chart: Chart, ratio: float, repeats: int = 0, *, drawn_open: bool = False) -> DrawIn:
    """Draw-in and draw-up of a chart at a rows-to-stitches ratio, at ease or with its ribs `drawn_open`.

    Cached by chart and gauge. Raises IllegalChart where its rows do not add up, IllegalPiece as `relaxed_tile` does.

    >>> from cablux.core import find_pattern
    >>> round(compute_draw_in(find_pattern("rope-3-3-left").chart, 1.4, repeats=1).draw_in, 2)
    0.82
    """
    problems = audit_chart(chart)
    if problems:
        raise IllegalChart(problems)
    key = f"{model_fingerprint()} {ratio:.6f} {repeats} {hashlib.sha256(format_chart(chart).encode()).hexdigest()}"
    key += " drawn open" * drawn_open
    if key not in _remembered:
        with _TURN:
            if key not in _remembered:
                _remembered[key] = _draw(relaxed_tile(chart, round(ratio, 6), repeats, drawn_open=drawn_open), ratio)
    return _remembered[key]


def _draw(tile: Relaxed, ratio: float) -> DrawIn:
    wide = tile.net.loops / tile.net.rows  # mean count, where rows differ
    return DrawIn(
        stitches=int(tile.net.counts.max()),
        rows=tile.net.rows,
        width_stitches=tile.width_stitches,
        draw_in=tile.width_stitches / wide,
        draw_up=tile.height_stitches * ratio / tile.net.rows,
        converged=tile.converged,
        iterations=tile.iterations,
        residual=tile.residual,
    )


def span_width(tile: Relaxed, first: int, last: int) -> float:
    """Mean width of the columns `first` to `last` (from 0, `last` excluded), in stockinette stitches.

    Each loop owns half of the course on either side. Only for tiles whose rows have equal counts.
    """
    net: Network = tile.net
    n = int(net.counts[0])
    if (net.counts != n).any():
        raise IllegalPiece("Columns can be measured only where every row has the same count.")
    ends = tile.x[net.course] + np.stack((np.zeros(net.loops), net.course_wrap * tile.width_stitches), axis=1)
    gaps = (ends[:, 1] - ends[:, 0]).reshape(net.rows, n).mean(axis=0)
    owned = (gaps + np.roll(gaps, 1)) / 2.0
    return float(owned[first:last].sum())
