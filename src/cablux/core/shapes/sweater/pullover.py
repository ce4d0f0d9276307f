"""The pullover: back and front with panels in their middle, sleeves from the cuff, a neckband; dropped or set in."""

from __future__ import annotations

from ...garment.joins import EdgeName, PieceEdge
from ..asks import Ask
from ..shape import Made, MadePiece, ShapeOf, Wanted
from .armholes import CONSTRUCTIONS, sleeve_joins, sleeve_wish
from .body_joins import WAYS, body_joins
from .necks import neck_piece
from .sleeves import sleeve_piece
from .sleeves_down import picked_sleeves
from .sweater_answers import PulloverAnswers
from .sweater_asks import SLEEVES, body_asks, in_groups, sleeve_asks
from .sweater_body import SweaterBody, level_um, make_body
from .sweater_cautions import sweater_cautions

_SLEEVE = 4
"""The place of the sleeve among the pieces, after those of the body."""


def _make(wanted: Wanted[PulloverAnswers]) -> Made:
    body = make_body(wanted, wanted.answers.construction)
    panels = tuple(dict.fromkeys(s.pattern for s in reversed(body.torso.segments) if s.is_panel))
    wish, begun = sleeve_wish(wanted, body, body.armhole_mm), tuple(map(MadePiece, body.pieces))
    if wanted.answers.sleeves != SLEEVES[0]:
        sleeves = map(MadePiece, picked_sleeves(wanted, body, wish, panels=panels))
        return Made((*begun, *sleeves, MadePiece(neck_piece(wanted, body))), body_joins(body))
    sleeve = sleeve_piece(wanted, wish, panels)
    pieces = (*begun, MadePiece(sleeve, 2), MadePiece(neck_piece(wanted, body)))
    return Made(
        pieces, (*body_joins(body), *sleeve_joins(body, sleeve, _SLEEVE, armhole=body.armhole_mm, fronts=_fronts(body)))
    )


def _fronts(body: SweaterBody) -> dict[EdgeName, tuple[PieceEdge, ...]]:
    """The front's half of each armhole: its own edge from the underarm up, and on beside the neck."""
    under = level_um(body.front, body.front_torso.body) / 1000.0
    return {
        other: (
            PieceEdge(piece=1, edge=other, start_mm=under),
            PieceEdge(
                piece=part, edge=other, end_mm=level_um(body.sides[part - 2], body.front_torso.neck_rows) / 1000.0
            ),
        )
        for _, other, part, _ in WAYS
    }


PULLOVER = ShapeOf(
    id="pullover",
    name="Pullover",
    what="Back, front and sleeves with panels in their middle; dropped, modified or set-in sleeves, a ribbed neck.",
    record=PulloverAnswers,
    asks=in_groups(
        (
            body_asks()[0],
            Ask(
                name="construction",
                label="Sleeves",
                default=CONSTRUCTIONS[0],
                source="our choice",
                kind="choice",
                choices=CONSTRUCTIONS,
            ),
            *body_asks()[1:],
            *sleeve_asks(),
        )
    ),
    make=_make,
    one_layout=True,
    shows=(0, 1, 4),
    cautions=sweater_cautions,
)
