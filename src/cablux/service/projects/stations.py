"""Where a piece is to have a width: its ends, its middle or its stations, wanted beside expected."""

from __future__ import annotations

from ...core.ends.cast_on import plan_cast_on
from ...core.piece.piece import Piece
from ...core.piece.widths import body_um
from ...core.rows.heights import plan_rows
from ...core.rows.shaped_band import plan_stations
from ..answers import StationWidth


def station_table(piece: Piece) -> tuple[StationWidth, ...]:
    """Where it is to have a width, wanted beside expected; of a piece that is not shaped, its ends and its middle."""
    out: list[StationWidth] = []
    ends, rows = plan_cast_on(piece), plan_rows(piece)
    at = piece.bottom.rows * rows.bottom_row_um
    for view, band in zip(piece.band_views, rows.bands, strict=True):
        wide = body_um(view, view.outlook)
        if view.shaping is None:
            out.append(_station("body", at, piece.width_mm, um=wide, count=view.stitches))
        else:
            for s in plan_stations(view).stations:
                out.append(_station(s.station.name, at + s.at_um, s.station.width_mm, um=s.width_um, count=s.count))
        at += band.height_um
    for name, edge, beside, height in (
        ("cast-on", ends.bottom, piece.bands[0], 0.0),
        ("bind-off", ends.top, piece.bands[-1], rows.height_um),
    ):
        if edge.border.rows:
            # beside a shaped band a border has that band's count, and lies as wide as it may
            wanted = edge.border_um / 1000.0 if beside.shaping else piece.width_mm * edge.border.factor
            found = _station(name, height, wanted, um=edge.border_um, count=edge.count)
            out.insert(0 if name == "cast-on" else len(out), found)
    return tuple(out)


def _station(name: str, at_um: float, wanted_mm: float, *, um: float, count: int) -> StationWidth:
    return StationWidth(
        name=name,
        at_mm=round(at_um / 1000.0, 1),
        wanted_mm=round(wanted_mm, 1),
        expected_mm=round(um / 1000.0, 1),
        count=count,
    )
