"""The two ways to work a raglan: from the neck down with sleeves from held stitches, or up from hem and cuffs."""

from __future__ import annotations

from dataclasses import replace

from ...errors import Infeasible
from ...garment.joins import Join, PieceEdge, edge_um
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.parts import HeldGroup, PartEnd, Source
from ...piece.piece import Band, Piece
from ...piece.widths import body_row_um, segment_um
from ...rows.heights import plan_rows
from ...shaping.manner import CUT_PANELS
from ...shaping.sections import ALL, Holder, SectionShaped
from ..shape import Made, MadePiece, Wanted, border_rows
from ..sweater.picked_bands import rib_band, suited_to_rib
from ..sweater.round_sleeves import SLEEVE_SIDES, as_high_as_it_is, bare_round
from ..sweater.sweater_body import HEM
from ..sweater.torso import RIB
from .raglan_answers import RaglanAnswers
from .raglan_parts import (
    body_segments,
    gone_on,
    plan_sleeve,
    raised_by,
    raised_neck,
    side_segments,
    yoke_sections,
    yoke_segments,
)
from .raglan_plan import Raglan

_ALIKE = replace(CUT_PANELS, schedule="mixed", every_row=True)
"""Back and front have other charts below them, and are to grow alike."""

BODY, YOKE = 1, 4
"""The numbers of body and yoke where they are worked up from the hem: body, right sleeve, left sleeve, yoke."""


def raglan_down(wanted: Wanted[RaglanAnswers], plan: Raglan, *, raise_neck: bool) -> Made:
    """From the neck: its raised back, yoke and body in one, the sleeves from their held stitches, the neckband."""
    raised = raised_neck(wanted, plan, ()) if raise_neck else None
    number = 1 if raised is None else 2
    yoke = _yoke_and_body(wanted, plan, raised)
    sleeves = [_sleeve_down(wanted, plan, number, side=side) for side in SLEEVE_SIDES]
    count = suited_to_rib(float(plan.neck_count), 8)
    band = rib_band(
        "Neckband",
        yoke,
        (Source(kind="picked up", piece=1, name="neck", stitches=count),),
        high=wanted.answers.neckband_mm,
    )
    pieces = (*((raised,) if raised else ()), yoke, *sleeves, band)
    return Made(tuple(map(MadePiece, pieces)))


def _hem(wanted: Wanted[RaglanAnswers]) -> Border:
    return Border(pattern_id=RIB, rows=border_rows(RIB, wanted.answers.hem_mm, wanted.evidence, step=1), factor=HEM)


def _yoke_and_body(wanted: Wanted[RaglanAnswers], plan: Raglan, raised: Piece | None) -> Piece:
    """The yoke, then the sleeves onto holders with the underarms cast on, and the body to its hem."""
    own = gone_on(plan, yoke_segments(plan), 0)
    if raised is not None:  # only the back has been worked in its charts
        worked, at = gone_on(plan, own, raised_by(raised, plan)), len(plan.sleeve) + 1
        own = (*own[:at], *worked[at : at + len(plan.back)], *own[at + len(plan.back) :])
    stations = (
        Station(name="Neck", width_mm=0.0, row=0),
        Station(name="Underarms", width_mm=0.0, row=plan.rounds),
        Station(name="Sleeves are put aside", width_mm=0.0, paced=True),
    )
    shaping = SectionShaped(
        stations=stations,
        sections=yoke_sections(plan, plan.neck, (ALL, ALL), (ALL, plan.underarm)),
        holders=tuple(
            Holder(name=f"{side} sleeve", section=n, station=1, cast_on=plan.underarm)
            for side, n in zip(SLEEVE_SIDES, (0, 2), strict=True)
        ),
        manner=_ALIKE,
    )
    body = Band(own=body_segments(own, plan), runs_on=True)
    begins = (Source(kind="held", piece=1, name="neck", stitches=plan.neck_count),) if raised is not None else ()
    bands = (Band(own=own, shaping=shaping), body)
    piece = bare_round(wanted, "Yoke and body", bands, width_mm=plan.around_mm, top=_hem(wanted), begins=begins)
    piece = replace(piece, height_mm=wanted.answers.length_mm)
    _check_body(wanted, replace(piece, bands=(bands[0], replace(body, rows=4))), piece)
    return piece


def _check_body(wanted: Wanted[RaglanAnswers], shortest: Piece, piece: Piece) -> None:
    """Yoke and hem must leave some rows for the body between them."""
    short = plan_rows(shortest).height_um
    if short > piece.height_mm * 1000.0:
        raise Infeasible(
            f"Yoke and hem take {wanted.length(short / 1000.0)} of {wanted.length(piece.height_mm)}: make the body "
            "longer, the yoke less deep, or the hem lower.",
            clash=("length", "yoke_depth", "hem"),
        )


def _sleeve_down(wanted: Wanted[RaglanAnswers], plan: Raglan, yoke: int, *, side: str) -> Piece:
    """From the yoke's held stitches, and those picked up under the arm, down to the cuff."""
    half = plan.underarm // 2
    begins = (
        Source(kind="picked up", piece=yoke, name=f"{side} underarm", stitches=half),
        Source(kind="held", piece=yoke, name=f"{side} sleeve", stitches=plan.sleeve_count),
        Source(kind="picked up", piece=yoke, name=f"{side} underarm", stitches=plan.underarm - half),
    )
    made = plan_sleeve(wanted, plan, side, worked=plan.rounds).tapered(up=False)
    return as_high_as_it_is(replace(made, begins=begins))


def raglan_up(wanted: Wanted[RaglanAnswers], plan: Raglan, *, raise_neck: bool) -> Made:
    """From hem and cuffs: body, sleeves, the yoke that joins them, the raised back of the neck, the neckband."""
    body = _body_up(wanted, plan)
    worked = plan_rows(body).bands[0].body
    sleeves = [_sleeve_up(wanted, plan, side) for side in SLEEVE_SIDES]
    yoke = _yoke_up(wanted, plan, worked, sleeve=plan_rows(sleeves[0]).bands[0].body)
    last, number = yoke, YOKE
    if raise_neck:
        last = raised_neck(
            wanted,
            plan,
            (Source(kind="held", piece=YOKE, name="neck", stitches=plan.neck_count),),
            phase=worked + plan.rounds,
        )
        number = YOKE + 1
    begins = (Source(kind="held", piece=number, name="neck", stitches=plan.neck_count),)
    band = rib_band("Neckband", yoke, begins, high=wanted.answers.neckband_mm)
    pieces = (body, *sleeves, yoke, *((last,) if raise_neck else ()), band)
    return Made(tuple(map(MadePiece, pieces)), tuple(_underarms(plan, (body, *sleeves))))


def _body_up(wanted: Wanted[RaglanAnswers], plan: Raglan) -> Piece:
    own = body_segments(yoke_segments(plan), plan)
    row_um = body_row_um(bare_round(wanted, "Body", (Band(own=own),), width_mm=plan.around_mm).band_views[0])
    under = HeldGroup("right underarm", plan.underarm, joined="grafted")
    body = plan.back_count + 2 * plan.lines[0].stitches
    groups = (under, HeldGroup("back", body - plan.lines[0].stitches + plan.lines[1].stitches))
    left = replace(under, name="left underarm")
    ends = PartEnd("held", (*groups, left, HeldGroup("front", groups[1].stitches)))
    piece = bare_round(wanted, "Body", (Band(own=own),), width_mm=plan.around_mm, bottom=_hem(wanted), ends=ends)
    high = wanted.answers.length_mm - plan.rounds * row_um / 1000.0
    piece = replace(piece, height_mm=round(max(high, 10.0), 1))
    _check_body(wanted, replace(piece, bands=(Band(own=own, rows=4),)), piece)
    return piece


def _sleeve_up(wanted: Wanted[RaglanAnswers], plan: Raglan, side: str) -> Piece:
    half = plan.underarm // 2
    ends = (
        HeldGroup(f"{side} underarm", half, joined="grafted"),
        HeldGroup(f"{side} sleeve", plan.sleeve_count),
        HeldGroup(f"rest of the {side} underarm", plan.underarm - half, joined="grafted"),
    )
    made = plan_sleeve(wanted, plan, side, worked=0).tapered(up=True)
    high = as_high_as_it_is(made).height_mm
    return replace(made, height_mm=high, ends=PartEnd("held", ends))


def _yoke_up(wanted: Wanted[RaglanAnswers], plan: Raglan, body: int, *, sleeve: int) -> Piece:
    own = gone_on(plan, yoke_segments(plan), body, sleeve=sleeve)
    shaping = SectionShaped(
        stations=(Station(name="Underarms", width_mm=0.0, row=0), Station(name="Neck", width_mm=0.0, row=plan.rounds)),
        sections=yoke_sections(plan, (ALL, ALL), plan.neck),
        manner=_ALIKE,
    )
    lines = plan.back_count + sum(line.stitches for line in plan.lines)
    begins = (
        Source(kind="held", piece=BODY + 1, name="right sleeve", stitches=plan.sleeve_count),
        Source(kind="held", piece=BODY, name="back", stitches=lines),
        Source(kind="held", piece=BODY + 2, name="left sleeve", stitches=plan.sleeve_count),
        Source(kind="held", piece=BODY, name="front", stitches=lines),
    )
    piece = bare_round(wanted, "Yoke", (Band(own=own, shaping=shaping),), width_mm=plan.around_mm, begins=begins)
    high = as_high_as_it_is(piece).height_mm
    wide = sum(segment_um(s, wanted.evidence.measure) for s in own) / 1000.0
    ends = PartEnd("held", (HeldGroup("neck", plan.neck_count),))
    return replace(piece, height_mm=high, width_mm=wide, ends=ends)


def _underarms(plan: Raglan, pieces: tuple[Piece, ...]) -> list[Join]:
    """The body's underarms and the sleeves' halves of theirs, grafted."""
    body, *sleeves = pieces
    view = body.band_views[0]
    each = [segment_um(s, view.measure) / 1000.0 for s in view.segments]
    half, under = len(each) // 2, sum(each[: len(side_segments(plan, mirrored=False))])
    starts = (0.0, sum(each[:half]))
    out = []
    for at, (sleeve, start) in enumerate(zip(sleeves, starts, strict=True), start=1):
        wide = edge_um(sleeve, PieceEdge(piece=at, edge="bind-off")) / 1000.0
        share = plan.underarm // 2 / plan.underarm * under
        first = PieceEdge(piece=at, edge="bind-off", end_mm=share)
        rest = PieceEdge(piece=at, edge="bind-off", start_mm=wide - (under - share), end_mm=wide)
        out.append(
            Join(
                one=PieceEdge(piece=0, edge="bind-off", start_mm=start, end_mm=start + under),
                other=first,
                how="grafted",
                more=(rest,),
            )
        )
    return out
