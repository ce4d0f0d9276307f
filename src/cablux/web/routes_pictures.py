"""Relief pictures, which browsers may keep for good: an address says all that the picture shows."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from ..core.piece.segment import MOST_PURL_MARGIN, Role, Segment
from ..core.practice import ROWS_TO_STITCHES
from ..render.bars_picture import BarKind, bars_svg
from ..render.yarn import UNDYED, Yarn
from ..service.panels import ReliefView, relief_picture
from .deps import DrawerDep

router = APIRouter()


@router.get("/relief/{pattern_id}.svg", name="relief")
def show_relief(
    drawer: DrawerDep,
    pattern_id: str,
    ratio: Annotated[float, Query(ge=0.5, le=4.0)] = ROWS_TO_STITCHES,
    role: Role = "panel",
    repeats: Annotated[int, Query(ge=1, le=1500)] = 1,
    tall: Annotated[int, Query(ge=20, le=4000)] = 200,
    mirrored: bool = False,
    behind: bool = False,
    purl_margin: Annotated[int, Query(ge=0, le=MOST_PURL_MARGIN)] = 0,
    phase: Annotated[int, Query(ge=0, le=2000)] = 0,
    colour: Annotated[str, Query(pattern="^[0-9a-fA-F]{6}$")] = UNDYED[1:],
    thick: Annotated[float, Query(ge=0.6, le=1.3)] = 1.0,
) -> Response:
    """A segment's cloth in relief."""
    view: ReliefView = "behind" if behind else "mirrored" if mirrored else "front"
    placed = Segment(
        role=role, pattern=drawer.pattern(pattern_id), repeats=repeats, phase=phase, purl_margin=purl_margin
    )
    svg = relief_picture(placed, view, round(ratio, 4), tall=tall, yarn=Yarn(f"#{colour}", thick))
    headers = {"cache-control": "public, max-age=31536000, immutable"}
    return Response(svg, media_type="image/svg+xml", headers=headers)


@router.get("/bars/{kind}.svg", name="bars")
def show_bars(kind: BarKind, colour: Annotated[str, Query(pattern="^[0-9a-fA-F]{6}$")] = UNDYED[1:]) -> Response:
    """How bars are counted."""
    headers = {"cache-control": "public, max-age=3600"}
    return Response(bars_svg(kind, Yarn(f"#{colour}")), media_type="image/svg+xml", headers=headers)
