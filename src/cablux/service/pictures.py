"""Relief pictures of patterns, from either side and in a mirror."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

from ..core.layout.piece import Role
from ..core.library import Pattern
from ..core.notation.transform import from_behind
from ..render.relief import segment_relief

View = Literal["front", "mirrored", "behind"]


@lru_cache(maxsize=256)
def relief(pattern: Pattern, view: View, role: Role, repeats: int, ratio: float, tall: int) -> str:
    """The SVG of a segment's cloth, `tall` picture units (tenths of a stitch) high."""
    chart = pattern.chart
    if view == "mirrored":
        chart = chart.mirrored()
    elif view == "behind":
        chart = from_behind(chart)
    return segment_relief(chart, role, repeats, ratio, float(tall))
