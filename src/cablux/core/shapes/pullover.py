"""The pullover: back and front with panels in their middle, sleeves from the cuff, a neckband; dropped or set in."""

from __future__ import annotations

from ..errors import Infeasible
from ..layout.joins import Join, PieceEdge
from ..layout.piece import Piece
from .asks import Ask, millimetres
from .body_joins import WAYS, body_joins
from .picked_bands import neckband
from .shape import Made, MadePiece, Shape, Wanted
from .sleeves import SleeveWish, cap_begins_mm, sleeve_piece
from .sweater_asks import body_asks, sleeve_asks
from .sweater_body import MODIFIED_MM, SweaterBody, level_um, make_body, sweater_cautions

CONSTRUCTIONS = ("drop", "modified-drop", "set-in")
SLEEVE = 4
"""The place of the sleeve among the pieces, after those of the body."""


def _make(wanted: Wanted) -> Made:
    body = make_body(wanted, str(wanted.answers["construction"]))
    panels = tuple(dict.fromkeys(s.pattern for s in reversed(body.torso.segments) if s.is_panel))
    sleeve = sleeve_piece(wanted, _sleeve_wish(wanted, body), panels)
    pieces = (*map(MadePiece, body.pieces), MadePiece(sleeve, 2), MadePiece(neckband(body)))
    return Made(pieces, (*body_joins(body), *_sleeve_joins(body, sleeve)))


def _sleeve_wish(wanted: Wanted, body: SweaterBody) -> SleeveWish:
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


def _sleeve_joins(body: SweaterBody, sleeve: Piece) -> tuple[Join, ...]:
    """A sleeve into each armhole, half to the back, half to the front and on beside its neck; and up its own seam."""
    torso, cap = body.torso, cap_begins_mm(sleeve)
    under, over = (level_um(body.back, torso.body + rows) / 1000.0 for rows in (0, torso.depth))
    out = []
    for mine, other, part, _ in WAYS:
        more = (PieceEdge(part, other, end_mm=level_um(body.sides[part - 2], torso.neck_rows) / 1000.0),)
        back, front = (PieceEdge(SLEEVE, edge, start_mm=cap, over="half") for edge in (other, mine))
        out.append(Join(back, PieceEdge(0, mine, under, over), swallows=1))
        out.append(Join(front, PieceEdge(1, other, under), swallows=1, more=more))
    arm = Join(PieceEdge(SLEEVE, "right edge", end_mm=cap), PieceEdge(SLEEVE, "left edge", end_mm=cap), swallows=1)
    return (*out, arm)


PULLOVER = Shape(
    id="pullover",
    name="Pullover",
    what="Back, front and sleeves with panels in their middle; dropped, modified or set-in sleeves, a ribbed neck.",
    asks=(
        body_asks()[0],
        Ask("construction", "Sleeves", CONSTRUCTIONS[0], "our choice", "choice", CONSTRUCTIONS),
        *body_asks()[1:],
        *sleeve_asks(),
    ),
    make=_make,
    shows=(0, 1, 4),
    cautions=sweater_cautions,
)
