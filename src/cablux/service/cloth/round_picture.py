"""Pictures of pieces whose rows do not lie level: a crown from above, a band along its bend, wings beside a spine."""

from __future__ import annotations

from ...core.pattern.cloth import BAND, Cloth
from ...core.piece.piece import Piece, count_stations
from ...core.piece.widths import segment_um
from ...core.rows.heights import first_row
from ...core.shaping.bend import Bent
from ...core.shaping.spine import Spined
from ...render.laid_round import bent_round, crown_from_above, wings_beside_spine
from ...render.yarn import Yarn

BELOW = 6  # our choice: rounds of the body that are seen round a crown


def round_kind(piece: Piece) -> str:
    """What such a picture of a piece shows: its `crown`, its `bend`, its `wings`; empty where it lies as it is."""
    shaping = piece.bands[-1].shaping
    if shaping is None:
        return ""
    if isinstance(shaping, Bent):
        return "bend"
    if isinstance(shaping, Spined):
        return "wings"
    return "crown" if piece.round and shaping.in_sections and not piece.top.rows else ""


def round_svg(cloth: Cloth, yarn: Yarn) -> str:
    """The picture of a piece that was laid out loop by loop."""
    piece = cloth.pattern.piece
    view = piece.band_views[-1]
    shaping = view.shaping
    if isinstance(shaping, Bent):
        gauge = piece.outlook.gauge
        return bent_round(
            cloth.relaxed, shaping.radius_mm / gauge.stitch_mm, 1.0 / gauge.ratio, yarn=yarn, inside=shaping.inside
        )
    if isinstance(shaping, Spined):
        right, left = (range(s.first, s.last + 1) for s in shaping.sections)
        stitch, last = piece.outlook.gauge.stitch_mm * 1000.0, count_stations(view)[-1]
        wide = sum(segment_um(view.segments[at], view.outlook) for at in right) / stitch
        return wings_beside_spine(
            cloth.relaxed, cloth.segment % BAND, (right, left), size=(wide, last.at_um / stitch), yarn=yarn
        )
    crown = view.at
    while crown and piece.bands[crown - 1].shaping is not None and piece.bands[crown].runs_on:
        crown -= 1
    return crown_from_above(cloth.relaxed, max(0, first_row(piece.band_views[crown]) - BELOW), yarn)
