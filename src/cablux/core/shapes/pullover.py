"""The pullover: back and front with panels in their middle, sleeves from the cuff, a neckband; dropped or set in."""

from __future__ import annotations

from collections.abc import Sequence

from ..errors import Infeasible
from ..layout.joins import EdgeName, Join, PieceEdge
from ..layout.piece import Piece
from ..layout.stretch import stretched_um
from ..layout.widths import body_um
from ..units import Unit, length_text
from .asks import Answers, Ask, millimetres
from .picked_bands import neckband
from .shape import Made, MadePiece, Shape, Wanted
from .sizes import by_size
from .sleeves import SleeveWish, cap_begins_mm, sleeve_piece
from .sweater_asks import body_asks, sleeve_asks
from .sweater_body import MODIFIED_MM, SweaterBody, level_um, make_body

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


def sweater_cautions(answers: Answers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    """What a skilled knitter would warn of; the last piece is one that goes over the head or an arm."""
    back = pieces[0]
    wide, chest = 2.0 * body_um(back.band_views[0]) / 1000.0, length_text(millimetres(answers, "chest"), unit)
    out = [f"It will be {length_text(wide, unit)} round the chest, for a chest of {chest}."]
    drawn = stretched_um(pieces[-1].band_views[0]) / 1000.0
    head = float(by_size("head")[str(answers["for"])])
    if drawn < head:
        out.append(
            f"Drawn out, the neckband is about {length_text(drawn, unit, 0)} round, less than a head of "
            f"{length_text(head, unit, 0)}: make the neck wider or deeper, and bind off loosely."
        )
    if str(answers["for"]).startswith("baby"):
        out.append(
            "For a baby take soft, washable yarn; no cords at the neck, and buttons only where they are sewn on fast."
        )
    return tuple(out)


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
