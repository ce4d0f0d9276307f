"""The fronts of a cardigan: each as the back beside it, open along its middle, with armhole, neck and shoulder."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from ...errors import Infeasible
from ...library import find_pattern
from ...needle.stations import Station
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ...piece.widths import segment_um, stitch_widths
from ...rows.heights import plan_rows
from ...shaping.edge_steps import EdgeStep
from ...shaping.edges import EdgeShaped
from ...shaping.manner import CUT_PANELS
from ..halves import panel_half
from ..shape import BACKGROUND, Wanted
from .sweater_answers import SweaterAnswers
from .sweater_body import SweaterBody
from .torso import Torso, seam
from .upper_body import neck_shaping, side_end, with_slope


def front_segments(
    wanted: Wanted[SweaterAnswers], body: SweaterBody, gap: int, *, band: Segment | None = None
) -> tuple[Segment, ...]:
    """The front whose side lies at its right edge, `gap` stitches short of the back's middle; no panel is cut.

    With a `band` that is knitted along it goes on over the middle by the width of that.

    Panels of the back that lie beside its middle stand at the same place, so that they meet at the shoulder. Where
    none does, one stands in the middle of the front. The background beside the opening makes up the width.
    """
    torso, measure = body.front_torso, wanted.evidence.measure
    background = wanted.background or find_pattern(BACKGROUND)
    target = torso.width_mm * 1000.0 / 2.0 - gap * measure.gauge.stitch_mm * 1000.0
    inner = _beside_the_middle(torso, torso.stitches // 2 - gap - 1)
    if not any(s.is_panel for s in inner):
        panels = dict.fromkeys(s.pattern for s in torso.segments if s.is_panel)
        tries = (panel_half(panel, background, measure, half_um=target) for panel in panels)
        inner = list(next((each for each in tries if each), inner))
    edge = Segment(role="edge", pattern=find_pattern("garter"), repeats=1)  # what is picked up takes it
    last = (
        inner.pop()
        if len(inner) > 1 and inner[-1].is_background
        else Segment(role="background", pattern=background, repeats=1)
    )
    rest = target - sum(segment_um(s, measure) for s in (seam(), *inner, edge))
    unit = segment_um(last, measure) / last.stitches
    strip = (band,) if band else ()
    return (seam(), *inner, _background(last, max(1, round(rest / unit))), *strip, edge)


def _beside_the_middle(torso: Torso, width: int) -> list[Segment]:
    """The back's segments from its side on, so many stitches of them; what a cut panel leaves is background."""
    out: list[Segment] = []
    at = 1
    for s in torso.segments[1:]:
        a, b = at, min(at + s.stitches, width)
        at += s.stitches
        if b <= a:
            break
        if s.is_panel and b == at:
            out.append(s)
        elif out and out[-1].is_background:
            before = out.pop()
            out.append(_background(before, before.stitches + b - a))
        else:
            out.append(_background(s, b - a))
    return out


def _background(like: Segment, stitches: int) -> Segment:
    repeats = like.chart.repeats_for(stitches) if like.is_background else None
    return (
        replace(like, repeats=repeats)
        if repeats
        else Segment(role="background", pattern=find_pattern(BACKGROUND), repeats=stitches)
    )


def _shoulder(body: SweaterBody, own: Sequence[Segment]) -> int:
    """The stitches of a front's shoulder that are as wide as the back's, which may have other panels there."""
    front = stitch_widths(own, body.back.measure)[body.front_torso.armhole :]
    return min(range(1, len(front)), key=lambda n: abs(sum(front[:n]) - body.shoulder_um))


def front_piece(
    wanted: Wanted[SweaterAnswers], body: SweaterBody, gap: int, *, right: bool, band: Segment | None = None
) -> Piece:
    """A front from its hem to its shoulder; `right`: its side lies at its right edge, as one looks at it.

    A `band` that is knitted along is bound off where the neck begins.

    Raises Infeasible where the bands take more than the neck.
    """
    own = front_segments(wanted, body, gap, band=band)
    strip = band.stitches + 1 if band else 0
    torso = body.front_torso
    if not torso.sloped:
        torso = replace(torso, shoulder=_shoulder(body, own))
    if not right:
        own = tuple(s.reflected() for s in reversed(own))
    count = sum(s.stitches for s in own)
    side = count - torso.armhole
    taken = side - torso.shoulder
    if taken < 1 + strip:
        raise Infeasible("The bands are as wide as the neck: make the neck wider.", clash=("neck_width", "bands"))
    most = torso.neck_rows - 4  # a stitch in every row, after what is bound off; the rest is bound off with that
    bound = min(max(0, strip, strip + torso.held // 2 - gap, taken - most), taken - 1)
    slow = 2 * (taken - bound) > torso.neck_rows - 4
    outer: Literal["right", "left"] = "right" if right else "left"
    paced = slow or wanted.answers.neckline != "V"
    neck = neck_shaping(torso, side, right=right, paced=paced, bound=bound)
    rows = torso.depth - torso.neck_rows
    own_mm = sum(segment_um(s, body.back.measure) for s in own) / 1000.0
    bands = [Band(own=own, rows=torso.body + (0 if torso.armhole else rows))]
    if torso.armhole:
        bands.append(Band(own=own, shaping=_armhole(torso, own_mm, count, rows=rows, outer=outer), runs_on=True))
    bands += with_slope(torso, Band(own=own, shaping=neck, runs_on=True), right=right)
    name = "Left front" if right else "Right front"  # the wearer's left lies at the right of who looks at it
    piece = replace(body.back, name=name, bands=tuple(bands), ends=side_end(torso))
    piece = replace(piece, width_mm=own_mm, tolerance_mm=max(10.0, own_mm / 12.0))
    return replace(piece, height_mm=round(plan_rows(piece).height_um / 1000.0, 1))


def _armhole(torso: Torso, width_mm: float, count: int, *, rows: int, outer: Literal["right", "left"]) -> EdgeShaped:
    """The armhole of a front at its side, then straight up to the neck."""
    after = count - torso.armhole
    stations = (
        Station(name="Armhole", width_mm=width_mm, row=0),
        Station(name="Armhole is done", width_mm=0.0, count=after, paced=True),
        Station(name="Neck begins", width_mm=0.0, count=after, row=rows),
    )
    steps = (EdgeStep(station=0, counts=(torso.bound,), edge=outer),) if torso.bound else ()
    return EdgeShaped(stations=stations, edges=outer, steps=steps, manner=CUT_PANELS)
