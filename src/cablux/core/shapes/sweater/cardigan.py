"""The cardigan: back, two fronts, sleeves, a neckband and bands down the fronts, one of them with buttonholes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from ...garment.joins import EdgeName, Join, PieceEdge, edge_um
from ...piece.piece import Piece
from ...piece.segment import Segment
from ...units import Unit, length_text
from ..asks import Ask
from ..bodies.garment_sizes import BODIES, head_mm
from ..shape import Made, MadePiece, ShapeOf, Wanted
from .armholes import CONSTRUCTIONS, sleeve_joins, sleeve_wish
from .body_joins import WAYS, crossed_join, sloped_join
from .cardigan_bands import button_places_mm, cardigan_neckband, front_band, neck_sources
from .cardigan_fronts import front_piece
from .hood import hood
from .knitted_bands import band_segment, hole_heights_mm, hole_rows
from .picked_bands import BAND_MM
from .sleeves import sleeve_piece
from .sweater_answers import CardiganAnswers
from .sweater_asks import COLLARS, body_asks, in_groups, sleeve_asks
from .sweater_body import SweaterBody, level_um, make_body
from .sweater_cautions import sweater_cautions

FRONTS: dict[EdgeName, int] = {"right edge": 1, "left edge": 2}
"""The places of the fronts, by the edge at which their side lies."""
_SLEEVE = 3
_SIDES = ("right front", "left front")
_NECKS = ("crew", "V")
BANDS = ("picked up", "knitted along")
_PRACTICE = "common practice"


def _make(wanted: Wanted[CardiganAnswers]) -> Made:
    body = make_body(wanted, wanted.answers.construction)
    gap = max(1, round(BAND_MM / 2.0 / wanted.evidence.gauge.stitch_mm))
    along = wanted.answers.bands == BANDS[1]
    buttons, holed = round(wanted.answers.buttons), wanted.answers.buttonholes
    strips = _strips(wanted, body, buttons, holed=holed) if along else (None, None)
    right, left = (
        front_piece(wanted, body, gap, right=side, band=strip)
        for side, strip in zip((False, True), strips, strict=True)
    )
    panels = tuple(dict.fromkeys(s.pattern for s in reversed(body.torso.segments) if s.is_panel))
    armhole = body.back_armhole_mm + edge_um(left, _armhole(body, left, 1, edge="right edge")) / 1000.0
    sleeve = sleeve_piece(wanted, sleeve_wish(wanted, body, armhole), panels)
    begins, hooded = neck_sources(body, right, left), wanted.answers.collar == COLLARS[1]
    if hooded:
        neck = hood(wanted, body, begins, head_mm=head_mm(wanted.answers.for_))
    else:
        neck = cardigan_neckband(body, begins, wanted.answers.neckband_mm)
    bands = [
        front_band(body, front, None if hooded else neck, buttons=buttons if holed == side else None, side=side)
        for side, front in zip(_SIDES, (right, left), strict=True)
        if not along
    ]
    pieces = (*map(MadePiece, (body.back, left, right)), MadePiece(sleeve, 2), *map(MadePiece, (neck, *bands)))
    return Made(pieces, (*_joins(body, (left, right)), *_set_in(body, sleeve, armhole, left=left, right=right)))


def _strips(wanted: Wanted[CardiganAnswers], body: SweaterBody, buttons: int, *, holed: str) -> tuple[Segment, Segment]:
    """The bands that are knitted along: of the right front and of the left. Raises Infeasible for too many holes."""
    torso = body.front_torso
    rows = torso.body + torso.depth - torso.neck_rows
    long = level_um(body.front, rows) - level_um(body.front, 0)
    holes = hole_rows(rows, long / rows / 1000.0, buttons, wanted_text=wanted.length(long / 1000.0))
    right, left = (band_segment(body.back.measure, holes if holed == side else None) for side in _SIDES)
    return right, left


def _joins(body: SweaterBody, fronts: tuple[Piece, Piece]) -> tuple[Join, ...]:
    """Shoulders and sides."""
    torso, front_torso, steps = body.torso, body.front_torso, body.torso.slope_rows
    above, (hangs, under) = torso.body + torso.depth, body.back_seam_mm
    shoulders, seams = [], []
    for mine, other, _, late in WAYS:
        at = FRONTS[other]
        sewn = level_um(fronts[at - 1], front_torso.body) / 1000.0
        seams.append(
            Join(
                one=PieceEdge(piece=0, edge=mine, start_mm=hangs, end_mm=under),
                other=PieceEdge(piece=at, edge=other, end_mm=sewn),
                swallows=1,
            )
        )
        if torso.sloped:
            shoulders.append(sloped_join(body, mine, at))
            continue
        if torso.kind == "crossed":
            shoulders.append(crossed_join(body, mine, at))
            continue
        low, high = (level_um(body.back, above + n) / 1000.0 for n in (late, steps - 1 + late))
        begin = level_um(fronts[at - 1], front_torso.body + front_torso.depth + 1 - late) / 1000.0
        shoulder = PieceEdge(piece=at, edge=other, start_mm=begin, over=1.0)
        shoulders.append(Join(one=PieceEdge(piece=0, edge=mine, start_mm=low, end_mm=high), other=shoulder, swallows=1))
    return (*shoulders, *seams)


def _armhole(body: SweaterBody, front: Piece, at: int, *, edge: EdgeName) -> PieceEdge:
    """The edge of a front, at that place among the pieces, that makes its half of an armhole."""
    torso = body.front_torso
    under, over = (level_um(front, torso.body + rows) / 1000.0 for rows in (0, torso.depth))
    return PieceEdge(piece=at, edge=edge, start_mm=under, end_mm=over)


def _set_in(body: SweaterBody, sleeve: Piece, armhole: float, *, left: Piece, right: Piece) -> tuple[Join, ...]:
    pieces = {1: left, 2: right}
    fronts = {edge: (_armhole(body, pieces[at], at, edge=edge),) for edge, at in FRONTS.items()}
    return sleeve_joins(body, sleeve, _SLEEVE, armhole=armhole, fronts=fronts)


def _cautions(answers: CardiganAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    """Those of every sweater but the head's, which need not pass a neckband; then the buttons."""
    told = [line for line in sweater_cautions(answers, pieces, unit) if "less than a head" not in line]
    band = next((p for p in pieces if p.name.startswith("Buttonhole")), None)
    along = [sorted(hole_heights_mm(p)) for p in pieces if p.name.endswith("front")]
    places = button_places_mm(band) if band else max(along, key=len)
    apart = {length_text(b - a, unit) for a, b in pairwise(places)}
    if apart:
        told.append(f"The buttonholes are {' or '.join(sorted(apart))} apart, for buttons as wide as two stitches.")
    told.append("Sew the buttons on opposite the holes when both bands are done, and try one through a hole first.")
    return tuple(told)


def _neck_asks() -> tuple[Ask, ...]:
    own = {
        "neckline": {"choices": _NECKS},
        "neck_depth": {"hint": "Of a crew neck; a V is twice as deep."},
    }
    return tuple(replace(ask, **own.get(ask.name, {})) for ask in body_asks()[1:])  # type: ignore[arg-type]


CARDIGAN = ShapeOf(
    id="cardigan",
    name="Cardigan",
    what="Back and two fronts with whole panels, sleeves, ribbed bands with buttonholes down the fronts.",
    record=CardiganAnswers,
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
            *_neck_asks(),
            Ask(
                name="bands",
                label="Front bands",
                default=BANDS[0],
                source="our choice",
                kind="choice",
                choices=BANDS,
                hint="Knitted along: a strip of rib, bound off where the neck begins.",
            ),
            Ask(
                name="buttons",
                label="Buttons",
                default=0.0,
                source=f"{_PRACTICE}: 6 to 10 cm apart, 5 to 9 for an adult",
                kind="number",
                least=0,
                most=20,
                hint="0: as many as suit the front.",
            ),
            Ask(
                name="buttonholes",
                label="Buttonholes in the",
                default=_SIDES[0],
                source=f"{_PRACTICE}: right for women, left for men",
                kind="choice",
                choices=_SIDES,
                by={name: _SIDES[name.startswith("man")] for name in BODIES},
            ),
            *(ask for ask in sleeve_asks() if ask.name != "sleeves"),
        )
    ),
    make=_make,
    one_layout=True,
    shows=(0, 1, 2),
    cautions=_cautions,
)
