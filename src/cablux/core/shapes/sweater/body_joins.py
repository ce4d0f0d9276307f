"""The joins of a sweater's body: its shoulders and its sides, whatever goes into its armholes."""

from __future__ import annotations

from ...garment.joins import EdgeName, Join, PieceEdge
from ...piece.widths import stitch_widths
from .sweater_body import SweaterBody, level_um

Ways = tuple[tuple[EdgeName, EdgeName, int, int], ...]
WAYS: Ways = (("right edge", "left edge", 3, 0), ("left edge", "right edge", 2, 1))
"""An edge of the back, the front's that meets it, the place of that side's shoulder; then by how many rows the back's
steps begin later."""


def sloped_join(body: SweaterBody, mine: EdgeName, part: int) -> Join:
    """A shoulder of the back, at its right edge or its left one, and that of a front: bound off with three needles."""
    torso, measure = body.torso, body.back.measure
    each = [um / 1000.0 for um in stitch_widths(torso.segments, measure)]
    first = torso.armhole + 1  # the outermost stitch goes into the armhole's seam
    wide, all_of_it = sum(each[first : torso.armhole + torso.shoulder]), sum(each[first : len(each) - first])
    start, end = (0.0, wide) if mine == "right edge" else (all_of_it - wide, 0.0)
    return Join(
        one=PieceEdge(piece=0, edge="bind-off", start_mm=start, end_mm=end),
        other=PieceEdge(piece=part, edge="bind-off"),
        how="three-needle",
    )


def crossed_join(body: SweaterBody, mine: EdgeName, part: int) -> Join:
    """A shoulder of the back, sloped along its edge, sewn to that of a front, which is bound off straight."""
    above = body.torso.body + body.torso.depth
    low, high = (level_um(body.back, above + rows) / 1000.0 for rows in (0, body.torso.slope_rows))
    return Join(
        one=PieceEdge(piece=0, edge=mine, start_mm=low, end_mm=high),
        other=PieceEdge(piece=part, edge="bind-off"),
        swallows=1,
    )


def body_joins(body: SweaterBody) -> tuple[Join, ...]:
    """Shoulders and sides."""
    torso, steps = body.torso, body.torso.slope_rows
    hangs, under = body.back_seam_mm
    sewn = level_um(body.front, body.front_torso.body) / 1000.0
    shoulders, seams = [], []
    for mine, other, part, late in WAYS:
        seams.append(
            Join(
                one=PieceEdge(piece=0, edge=mine, start_mm=hangs, end_mm=under),
                other=PieceEdge(piece=1, edge=other, end_mm=sewn),
                swallows=1,
            )
        )
        if torso.sloped:
            shoulders.append(sloped_join(body, mine, part))
            continue
        above = torso.body + torso.depth
        if torso.kind == "crossed":
            shoulders.append(crossed_join(body, mine, part))
            continue
        low, high = (level_um(body.back, above + n) / 1000.0 for n in (late, steps - 1 + late))
        begin = level_um(body.sides[part - 2], body.front_torso.neck_rows + 1 - late) / 1000.0
        shoulder = PieceEdge(piece=part, edge=other, start_mm=begin, over=1.0)
        shoulders.append(Join(one=PieceEdge(piece=0, edge=mine, start_mm=low, end_mm=high), other=shoulder, swallows=1))
    return (*shoulders, *seams)
