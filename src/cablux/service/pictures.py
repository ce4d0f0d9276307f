"""Relief pictures of library patterns."""

from __future__ import annotations

from functools import lru_cache

from ..core.layout.piece import Role
from ..core.library import LIBRARY
from ..render.relief import segment_relief
from .errors import NotFound


@lru_cache(maxsize=256)
def relief(pattern_id: str, role: Role, repeats: int, ratio: float, tall: int, mirrored: bool) -> str:
    """The SVG of a segment's cloth, `tall` picture units (tenths of a stitch) high. Raises NotFound."""
    if pattern_id not in LIBRARY:
        raise NotFound("The drawer has no such pattern.")
    chart = LIBRARY[pattern_id].chart
    return segment_relief(chart.mirrored() if mirrored else chart, role, repeats, ratio, float(tall))
