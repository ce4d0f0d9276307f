"""Pictures of pieces that do not lie flat: a crown from above, a bent band along its bend."""

from __future__ import annotations

from ...core.pattern.cloth import Cloth
from ...core.piece.piece import Piece
from ...core.rows.heights import first_row
from ...core.shaping.bend import Bent
from ...render.laid_round import bent_round, crown_from_above
from ...render.yarn import Yarn

BELOW = 6  # our choice: rounds of the body that are seen round a crown


def round_kind(piece: Piece) -> str:
    """What such a picture of a piece shows: its `crown`, its `bend`; empty where it lies flat as it is."""
    shaping = piece.bands[-1].shaping
    if shaping is None:
        return ""
    if isinstance(shaping, Bent):
        return "bend"
    return "crown" if piece.round and shaping.in_sections and not piece.top.rows else ""


def round_svg(cloth: Cloth, yarn: Yarn) -> str:
    """The picture of a piece that was laid out loop by loop."""
    piece = cloth.pattern.piece
    view = piece.band_views[-1]
    bend = view.shaping
    if isinstance(bend, Bent):
        gauge = piece.outlook.gauge
        return bent_round(cloth.relaxed, bend.radius_mm / gauge.stitch_mm, 1.0 / gauge.ratio, yarn, inside=bend.inside)
    crown = view.at
    while crown and piece.bands[crown - 1].shaping is not None and piece.bands[crown].runs_on:
        crown -= 1
    return crown_from_above(cloth.relaxed, max(0, first_row(piece.band_views[crown]) - BELOW), yarn)
