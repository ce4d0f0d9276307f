"""What goes into the armholes of a body: the sleeve as it is wished for, and the joins that set it in."""

from __future__ import annotations

from collections.abc import Mapping

from ...errors import Infeasible
from ...garment.joins import EdgeName, Join, PieceEdge, edge_um
from ...garment.silhouette import edge_path, path_um, top_um
from ...piece.piece import Piece
from ..shape import Wanted
from .body_joins import WAYS
from .sleeves import SleeveWish, cap_begins_mm
from .sweater_answers import SleevedAnswers
from .sweater_body import MODIFIED_MM, SweaterBody, level_um

_EVEN = 0.03
"""Our choice: where both sides of an armhole differ by so little each gets half of the sleeve; the seam eases it."""
CONSTRUCTIONS = ("drop", "modified-drop", "set-in")


def sleeve_wish(wanted: Wanted[SleevedAnswers], body: SweaterBody, armhole: float) -> SleeveWish:
    """The sleeve for an armhole so many millimetres round. Raises Infeasible where none of its length is left."""
    answers = wanted.answers
    wrist, cuff = answers.wrist_mm, answers.cuff_mm
    if answers.construction == "set-in":
        top, arm = answers.upper_arm_mm, answers.arm_mm
        return SleeveWish(
            wrist_mm=wrist, top_mm=top, length_mm=arm, cuff_mm=cuff, armhole_mm=armhole, bound=body.torso.bound
        )
    along = MODIFIED_MM if answers.construction == "modified-drop" else 0.0
    length = answers.reach_mm - body.back.width_mm / 2.0
    if length < cuff + 20.0:
        raise Infeasible(
            "The body reaches down to the wrists: type a greater length from the neck, or less ease.",
            clash=("reach", "ease"),
        )
    return SleeveWish(
        wrist_mm=wrist,
        top_mm=max(armhole - 2.0 * along, wrist),
        length_mm=length,
        cuff_mm=cuff,
        armhole_mm=armhole,
        straight_mm=along,
    )


def _share(sleeve: Piece, cap_mm: float, back_um: float, *, armhole_um: float) -> float:
    """What of a sleeve’s top goes to the back: a half, unless the shoulder’s seam lies off the armhole’s middle."""
    top = top_um(sleeve)
    side = path_um(edge_path(sleeve, "right", cap_mm * 1000.0))
    part = ((2.0 * side + top) * back_um / armhole_um - side) / top
    return 0.5 if abs(back_um - armhole_um / 2.0) < _EVEN * back_um else round(min(1.0, max(0.0, part)), 3)


def sleeve_joins(
    body: SweaterBody, sleeve: Piece, at: int, *, armhole: float, fronts: Mapping[EdgeName, tuple[PieceEdge, ...]]
) -> tuple[Join, ...]:
    """The sleeve at that place into each armhole, to the back and to the front what is theirs; and up its own seam.

    `armhole`: how many millimetres it is round; `fronts`: the edges of the front that make the other half of it, by the
    side of the front that they lie at.
    """
    torso, cap = body.torso, cap_begins_mm(sleeve)
    under, over = (level_um(body.back, torso.body + rows) / 1000.0 for rows in (0, torso.depth))
    out = []
    for mine, other, _, _ in WAYS:
        first, *more = fronts[other]
        behind = PieceEdge(piece=0, edge=mine, start_mm=under, end_mm=over)
        shared = _share(sleeve, cap, edge_um(body.back, behind), armhole_um=armhole * 1000.0)
        back, front = (
            PieceEdge(piece=at, edge=other, start_mm=cap, over=shared),
            PieceEdge(piece=at, edge=mine, start_mm=cap, over=round(1.0 - shared, 3)),
        )
        out.append(Join(one=back, other=behind, swallows=1))
        out.append(Join(one=front, other=first, swallows=1, more=tuple(more)))
    arm = Join(
        one=PieceEdge(piece=at, edge="right edge", end_mm=cap),
        other=PieceEdge(piece=at, edge="left edge", end_mm=cap),
        swallows=1,
    )
    return (*out, arm)
