"""The vest: back and front as of a pullover, with ribbing round its neck and its armholes in place of sleeves."""

from __future__ import annotations

from ..asks import Ask
from ..shape import Made, MadePiece, ShapeOf, Wanted
from .body_joins import body_joins
from .necks import neck_piece
from .picked_bands import armband
from .sweater_answers import SweaterAnswers
from .sweater_asks import body_asks, in_groups
from .sweater_body import make_body
from .sweater_cautions import sweater_cautions

_CONSTRUCTIONS = ("set-in", "modified-drop")


def _make(wanted: Wanted[SweaterAnswers]) -> Made:
    body = make_body(wanted, wanted.answers.construction)
    bands = (
        armband(body, right=True),
        armband(body, right=False),
        neck_piece(wanted, body),
    )
    return Made((*map(MadePiece, body.pieces), *map(MadePiece, bands)), body_joins(body))


VEST = ShapeOf(
    id="vest",
    name="Vest",
    what="Back and front with panels in their middle, shaped armholes, ribbing round neck and armholes.",
    record=SweaterAnswers,
    asks=in_groups(
        (
            body_asks()[0],
            Ask(
                name="construction",
                label="Armholes",
                default=_CONSTRUCTIONS[0],
                source="our choice",
                kind="choice",
                choices=_CONSTRUCTIONS,
            ),
            *body_asks()[1:],
        )
    ),
    make=_make,
    one_layout=True,
    shows=(0, 1),
    cautions=sweater_cautions,
)
