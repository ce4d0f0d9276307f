"""The joins of a sweater's body: its shoulders and its sides, whatever goes into its armholes."""

from __future__ import annotations

from ..layout.joins import EdgeName, Join, PieceEdge
from .sweater_body import SweaterBody, level_um

Ways = tuple[tuple[EdgeName, EdgeName, int, int], ...]
WAYS: Ways = (("right edge", "left edge", 3, 0), ("left edge", "right edge", 2, 1))
"""An edge of the back, the front's that meets it, the place of that side's shoulder; then by how many rows the back's
steps begin later."""


def body_joins(body: SweaterBody) -> tuple[Join, ...]:
    """Shoulders and sides."""
    torso, steps = body.torso, 2 * len(body.torso.steps)
    under = level_um(body.back, torso.body) / 1000.0
    shoulders, seams = [], []
    for mine, other, part, late in WAYS:
        above = torso.body + torso.depth
        low, high = (level_um(body.back, above + n) / 1000.0 for n in (late, steps - 1 + late))
        begin = level_um(body.sides[part - 2], torso.neck_rows + 1 - late) / 1000.0
        shoulder = PieceEdge(part, other, start_mm=begin, over="whole")
        shoulders.append(Join(PieceEdge(0, mine, low, high), shoulder, swallows=1))
        seams.append(Join(PieceEdge(0, mine, end_mm=under), PieceEdge(1, other, end_mm=under), swallows=1))
    return (*shoulders, *seams)
