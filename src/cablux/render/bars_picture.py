"""Our pictures of bars: the rows above a crossing, numbered as they are counted on knit columns, in rib, on ridges."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

from ..core.fabric.network import build_piece
from ..core.fabric.whole import relax_piece
from ..core.notation import parse_ops
from .relief import draw_loops, labelled_svg
from .strokes import SCALE
from .yarn import Yarn

BarKind = Literal["knit", "rib", "ridges"]
BARS: dict[BarKind, tuple[str, tuple[str, ...], tuple[int, ...]]] = {
    "knit": (
        "Knit columns: each V above the crossing is a row; pulled apart, each bar behind it.",
        ("p3 k4 p3", "p3 2/2 LC p3", *["p3 k4 p3"] * 5),
        (3, 4, 5, 6, 7),
    ),
    "rib": (
        "In rib count the knit columns of the strand on top, from where it comes out.",
        ("p1 k1 p1 k1 p1 k1 p1 k1 p1", "p1 2/2 LC rib p1 k1 p1 k1", *["p1 k1 p1 k1 p1 k1 p1 k1 p1"] * 5),
        (3, 4, 5, 6, 7),
    ),
    "ridges": (
        "Garter: each ridge is two rows.",
        ("k8", "p8", "k8", "p8", "k8", "p8", "k8", "p8"),
        (2, 4, 6, 8),
    ),
}
"""For each what it shows, its rows as the right side shows them, and the rows that are numbered."""


@lru_cache(maxsize=8)
def bars_svg(kind: BarKind, yarn: Yarn) -> str:
    """A piece of cloth whose bars, or ridges, are numbered."""
    _, rows, counted = BARS[kind]
    net = build_piece([[parse_ops(row)] for row in rows])
    cloth = relax_piece(net, 1.4)
    labels = []
    for n, row in enumerate(counted, start=1):
        here = net.row == row
        x, y = float(cloth.x[here].max()) * SCALE + 0.9 * SCALE, -float(cloth.y[here].mean()) * SCALE
        labels.append((x, y + 2.4, str(n)))
    return labelled_svg(draw_loops(cloth), yarn, labels)
