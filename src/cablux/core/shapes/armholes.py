"""What goes into the armholes of a body: the sleeve as it is wished for, and the joins that set it in."""

from __future__ import annotations

from collections.abc import Mapping

from ..errors import Infeasible
from ..layout.joins import EdgeName, Join, PieceEdge
from ..layout.piece import Piece
from .asks import millimetres
from .body_joins import WAYS
from .shape import Wanted
from .sleeves import SleeveWish, cap_begins_mm
from .sweater_body import MODIFIED_MM, SweaterBody, level_um

CONSTRUCTIONS = ("drop", "modified-drop", "set-in")


def sleeve_wish(wanted: Wanted, body: SweaterBody) -> SleeveWish:
    """The sleeve for a body's armholes. Raises Infeasible where none of its length is left."""
    answers, armhole = wanted.answers, body.armhole_mm
    wrist, cuff = millimetres(answers, "wrist"), millimetres(answers, "cuff")
    if answers["construction"] == "set-in":
        top, arm = millimetres(answers, "upper_arm"), millimetres(answers, "arm")
        return SleeveWish(wrist, top, arm, cuff, armhole, body.torso.bound)
    along = MODIFIED_MM if answers["construction"] == "modified-drop" else 0.0
    length = millimetres(answers, "reach") - body.back.width_mm / 2.0
    if length < cuff + 20.0:
        raise Infeasible("The body reaches down to the wrists: type a greater length from the neck, or less ease.")
    return SleeveWish(wrist, max(armhole - 2.0 * along, wrist), length, cuff, armhole, straight=along)


def sleeve_joins(
    body: SweaterBody, sleeve: Piece, at: int, fronts: Mapping[EdgeName, tuple[PieceEdge, ...]]
) -> tuple[Join, ...]:
    """The sleeve at that place into each armhole, half to the back, half to the front; and up its own seam.

    `fronts`: the edges of the front that make the other half of an armhole, by the side of the front that they lie at.
    """
    torso, cap = body.torso, cap_begins_mm(sleeve)
    under, over = (level_um(body.back, torso.body + rows) / 1000.0 for rows in (0, torso.depth))
    out = []
    for mine, other, _, _ in WAYS:
        first, *more = fronts[other]
        back, front = (PieceEdge(at, edge, start_mm=cap, over="half") for edge in (other, mine))
        out.append(Join(back, PieceEdge(0, mine, under, over), swallows=1))
        out.append(Join(front, first, swallows=1, more=tuple(more)))
    arm = Join(PieceEdge(at, "right edge", end_mm=cap), PieceEdge(at, "left edge", end_mm=cap), swallows=1)
    return (*out, arm)
