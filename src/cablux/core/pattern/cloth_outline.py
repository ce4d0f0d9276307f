"""The outline of a relaxed piece: where its sides and its ends lie, and the columns of its panels, loop by loop."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from ..garment.silhouette import widest_um
from ..piece.own_outline import OutlinePoint
from .cloth import BAND, Cloth

TOGETHER = 8
"""Our choice: so many loops of an end are taken together, as many as a wide cable's groups."""


@dataclass(frozen=True, kw_only=True)
class ClothOutline:
    """Lines of a relaxed piece: its sides from the cast-on up, its ends from the right, its panels band by band.

    A tube is laid flat, half as wide as its way round. `panels`: each panel's segment, its right line and its left one.
    """

    right: tuple[OutlinePoint, ...]
    left: tuple[OutlinePoint, ...]
    bottom: tuple[OutlinePoint, ...]
    top: tuple[OutlinePoint, ...]
    panels: tuple[tuple[int, tuple[OutlinePoint, ...], tuple[OutlinePoint, ...]], ...]

    @property
    def corners(self) -> tuple[OutlinePoint, ...]:
        """All round: up the right side, over the top, down the left side and back along the bottom."""
        return (*self.right, *self.top, *reversed(self.left), *reversed(self.bottom))


def cloth_outline(cloth: Cloth) -> ClothOutline:
    """The outline of a relaxed piece, as wide in its main part as the estimate says, which knows the swatches."""
    net, relaxed, piece = cloth.relaxed.net, cloth.relaxed, cloth.pattern.piece
    main = cloth.shape.widths[_main_rows(cloth)].mean()
    scale = widest_um(piece.main_view, piece.outlook) / float(main) / (2.0 if piece.round else 1.0)
    y = (relaxed.y - relaxed.y[net.row == 0].mean()) * scale * (2.0 if piece.round else 1.0)
    first, last = net.starts, net.starts + net.counts - 1
    if piece.round:
        across, levels = cloth.shape.widths * scale / 2.0, np.add.reduceat(y, net.starts) / net.counts
        right, left = (tuple(zip(sign * across, levels, strict=True)) for sign in (1.0, -1.0))
        right, left = _plain(right), _plain(left)
        return ClothOutline(right=right, left=left, bottom=(right[0], left[0]), top=(right[-1], left[-1]), panels=())
    x = -(relaxed.x - (relaxed.x[first[0]] + relaxed.x[last[0]]) / 2.0) * scale
    half = scale / 2.0  # half a stitch beyond the first loop and the last
    right, left = (_points(x[at] + sign * half, y[at]) for at, sign in ((first, 1.0), (last, -1.0)))
    bottom, top = (_end(x[net.row == row], y[net.row == row], half) for row in (0, net.rows - 1))
    return ClothOutline(right=right, left=left, bottom=bottom, top=top, panels=tuple(_panels(cloth, x, y, half=half)))


def _main_rows(cloth: Cloth) -> np.ndarray:
    piece = cloth.pattern.piece
    rows = [row.number for row in cloth.pattern.rows if row.band == piece.main_view.at and row.section == "body"]
    widest = max((row.after for row in cloth.pattern.rows if row.number in set(rows)), default=0)
    same = [row.number for row in cloth.pattern.rows if row.number in set(rows) and row.after == widest]
    return np.array(same or rows, np.int64)


def _panels(
    cloth: Cloth, x: np.ndarray, y: np.ndarray, *, half: float
) -> Sequence[tuple[int, tuple[OutlinePoint, ...], tuple[OutlinePoint, ...]]]:
    net, out = cloth.relaxed.net, []
    for view in cloth.pattern.piece.band_views:
        for at, s in enumerate(view.segments):
            mine = np.flatnonzero(cloth.segment == view.at * BAND + at)
            if not s.is_panel or not len(mine):
                continue
            starts = np.flatnonzero(np.diff(net.row[mine], prepend=-1))
            ends = np.append(starts[1:], len(mine)) - 1
            right, left = mine[starts], mine[ends]
            out.append((at, _points(x[right] + half, y[right]), _points(x[left] - half, y[left])))
    return out


def _end(x: np.ndarray, y: np.ndarray, half: float) -> tuple[OutlinePoint, ...]:
    """A row as a line from its right end to its left one: loops of a cable stand up and down, and change places."""
    order = np.argsort(-x)
    x, y = x[order], y[order]
    parts = np.array_split(np.arange(len(x)), max(1, len(x) // TOGETHER))
    line = [(x[0] + half, y[parts[0]].mean()), *((x[part].mean(), y[part].mean()) for part in parts)]
    return _plain([*line, (x[-1] - half, y[parts[-1]].mean())])


def _points(x: np.ndarray, y: np.ndarray) -> tuple[OutlinePoint, ...]:
    return tuple(zip(x.tolist(), y.tolist(), strict=True))


def _plain(points: Sequence[tuple[float, float]]) -> tuple[OutlinePoint, ...]:
    return tuple((float(x), float(y)) for x, y in points)


def line_um(line: Sequence[OutlinePoint]) -> float:
    """How long a line is."""
    return sum(math.dist(a, b) for a, b in pairwise(line))
