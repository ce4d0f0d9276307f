"""Sleeves that are picked up round the armhole and worked down: at once in the round, or after a cap in short rows."""

from __future__ import annotations

from dataclasses import replace

from ...errors import Infeasible
from ...garment.silhouette import edge_path, path_um
from ...library import StitchPattern, find_pattern
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.parts import HeldGroup, PartEnd, Source
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ...piece.widths import segment_um
from ...shaping.short_rows import ShortRowed, raised_rows, rows_over
from ..shape import Wanted, plain
from .picked_bands import FIRST
from .round_sleeves import SLEEVE_SIDES, as_high_as_it_is, bare_round, round_sleeve
from .sleeves import SleeveWish, lay_out_sleeve
from .sweater_answers import PulloverAnswers
from .sweater_asks import SLEEVES
from .sweater_body import SweaterBody, level_um

CAP_HIGH = 0.7
"""Common practice: a cap is two thirds to three quarters as high as the armhole is deep."""
CAP_TOP = 1 / 3
"""Common practice: its short rows begin over the middle third of the stitches."""
PICKED = (0.6, 1.05)
"""Our choice: stitches that lie as long as six tenths of the armhole to all of it can be picked up round it evenly."""


def picked_sleeves(
    wanted: Wanted[PulloverAnswers], body: SweaterBody, wish: SleeveWish, *, panels: tuple[StitchPattern, ...]
) -> tuple[Piece, ...]:
    """The right and the left sleeve, each begun under the arm, a cap before each where the armholes are set in.

    Raises Infeasible for armholes in which they cannot be picked up.
    """
    if body.torso.decreased:
        return _capped_sleeves(wanted, body, wish, panels=panels)
    if body.torso.armhole:
        raise Infeasible(
            "Along a modified armhole sleeves are sewn in: work them from the cuff, or choose dropped or set-in ones.",
            clash=("construction", "sleeves"),
        )
    inner = lay_out_sleeve(wanted, replace(wish, top_mm=max(body.armhole_mm, wish.wrist_mm)), panels)[1:-1]
    inside, length = wanted.answers.sleeves == SLEEVES[2], wish.length_mm + wish.straight_mm
    count = sum(s.stitches for s in inner) + 2
    return tuple(
        _round_sleeve(wanted, side, inner, length=length, begins=_sources(body, side, count), inside=inside)
        for side in SLEEVE_SIDES
    )


def _round_sleeve(
    wanted: Wanted[PulloverAnswers],
    side: str,
    inner: tuple[Segment, ...],
    *,
    length: float,
    begins: tuple[Source, ...],
    inside: bool = False,
) -> Piece:
    """A sleeve of such a length in the round, a knit stitch on either side of the line under the arm."""
    own = (plain(1), *inner, plain(1))
    around = sum(segment_um(s, wanted.evidence.measure) for s in own) / 1000.0
    bare = bare_round(
        wanted, f"{side.capitalize()} sleeve", (Band(own=own, rows=2),), width_mm=around, inside_out=inside
    )
    made = round_sleeve(wanted, bare, length)
    return as_high_as_it_is(replace(made.tapered(up=False), begins=begins))


def _capped_sleeves(
    wanted: Wanted[PulloverAnswers], body: SweaterBody, wish: SleeveWish, *, panels: tuple[StitchPattern, ...]
) -> tuple[Piece, ...]:
    """For each side a cap in short rows, and the sleeve that goes on from it in the round."""
    if wanted.answers.sleeves == SLEEVES[2]:
        raise Infeasible(
            "The cap of a set-in sleeve is worked back and forth: work the sleeves from the armhole.",
            clash=("construction", "sleeves"),
        )
    inner = lay_out_sleeve(wanted, wish, panels)[1:-1]
    count = sum(s.stitches for s in inner) + 2
    along = count * wanted.evidence.gauge.stitch_mm / body.armhole_mm
    if not PICKED[0] <= along <= PICKED[1]:
        how = "narrower" if along > PICKED[1] else "wider"
        deep = "deeper" if along > PICKED[1] else "less deep"
        raise Infeasible(
            f"{count} stitches cannot be picked up evenly along an armhole of {wanted.length(body.armhole_mm)}: make "
            f"the upper arm {how}, or the armhole {deep}.",
            clash=("upper_arm", "armhole_depth"),
        )
    out: list[Piece] = []
    for at, side in enumerate(SLEEVE_SIDES):
        cap = _cap(wanted, body, side, inner=inner)
        worked = rows_over(cap.bands[0].shaping, count // 2)
        on = tuple(replace(s, phase=(s.phase + worked) % s.chart.height) for s in inner)
        held = (Source(kind="held", piece=len(body.pieces) + 1 + 2 * at, name=f"{side} cap", stitches=count),)
        out += [cap, _round_sleeve(wanted, side, on, length=wish.length_mm, begins=held)]
    return tuple(out)


def _cap(wanted: Wanted[PulloverAnswers], body: SweaterBody, side: str, *, inner: tuple[Segment, ...]) -> Piece:
    """Short rows over the top of the arm, each pair further down the armhole, to what is bound off under the arm."""
    edge, row_mm = Segment(role="edge", pattern=find_pattern("garter"), repeats=1), wanted.evidence.gauge.row_mm
    own = (edge, *inner, edge)
    count, under = sum(s.stitches for s in own), body.torso.bound
    top = max(2, 2 * round(CAP_TOP * count / 2.0)) + count % 2
    first = (count - top) // 2
    deep = wanted.answers.armhole_depth_mm
    pairs = max(2, min(round(CAP_HIGH * deep / row_mm / 2.0), first - under))
    if first <= under:
        raise Infeasible(
            "The upper arm is too narrow for a cap above such underarms: make it wider.", clash=("upper_arm",)
        )
    reaches = raised_rows(first, count - first, count, pairs=pairs, outermost=under)
    stations = (
        Station(name="Shoulder", width_mm=0.0, row=0),
        Station(name="Cap is done", width_mm=0.0, row=len(reaches)),
    )
    shaping = ShortRowed(stations=stations, rows=reaches)
    wide = sum(segment_um(s, wanted.evidence.measure) for s in own) / 1000.0
    return Piece(
        name=f"{side.capitalize()} cap",
        width_mm=round(wide, 1),
        height_mm=max(10.0, round(len(reaches) * row_mm, 1)),
        evidence=wanted.evidence,
        bands=(Band(own=own, shaping=shaping),),
        tolerance_mm=max(15.0, wide / 10.0),
        bottom=Border(rows=0),
        top=Border(rows=0),
        setup_rows=0,
        begins=_sources(body, side, count),
        ends=PartEnd("held", (HeldGroup(f"{side} cap", count),)),
    )


def _sources(body: SweaterBody, side: str, count: int) -> tuple[Source, ...]:
    """From under the arm up the front (of the right sleeve) or the back, over the shoulder and down again.

    Each edge gets its part of the stitches by its length.
    """
    front = body.front_torso
    under, upper = (
        path_um(edge_path(body.front, "right", level_um(body.front, front.body))),
        path_um(edge_path(body.right, "right", 0.0, end_um=level_um(body.right, front.neck_rows))),
    )
    whole = body.armhole_mm * 1000.0
    back = round(count * body.back_armhole_mm * 1000.0 / whole)
    above = max(1, round(count * upper / whole))
    hand = "left" if side == "right" else "right"  # as one looks at the front
    below = count - back - above
    lines = (
        [Source(kind="picked up", piece=FIRST["Front"], name="armhole", stitches=below)] if below > 0 and under else []
    )
    above += 0 if lines else max(0, below)
    lines.append(Source(kind="picked up", piece=FIRST[hand], name="armhole", stitches=above))
    behind = Source(kind="picked up", piece=FIRST["Back"], name="armhole", stitches=back)
    return (*lines, behind) if side == "right" else (behind, *reversed(lines))
