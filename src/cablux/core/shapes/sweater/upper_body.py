"""The upper parts of a body: armholes, shoulders and neck of the back, of the front, and of what goes on beside it."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from ...library import find_pattern
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.parts import HeldGroup, PartEnd, Source
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ...piece.widths import body_row_um, stitch_widths
from ...shaping.edge_steps import EdgeStep, StepKind
from ...shaping.edges import EdgeShaped
from ...shaping.manner import CUT_PANELS
from ...shaping.short_rows import ShortRowed, sloped_rows
from ..shape import BACKGROUND
from .torso import Torso, seam

BACK_NECK, FRONT_NECK = "back neck", "front neck"
HALVES = ("right-hand half of the front neck", "left-hand half of the front neck")


def back_bands(torso: Torso) -> tuple[Band, ...]:
    """The body to the armholes, then armholes, the shoulders as they are to slope, and the neck that is held."""
    body, upper = Band(own=torso.segments, rows=torso.body), _upper(torso, torso.depth, whole=not torso.sloped)
    if not torso.sloped:
        return body, Band(own=torso.segments, shaping=upper, runs_on=True)
    over = Band(own=torso.segments, shaping=sloped_shoulder(torso, torso.stitches - 2 * torso.armhole), runs_on=True)
    if not torso.armhole:
        return replace(body, rows=torso.body + torso.depth), over
    return body, Band(own=torso.segments, shaping=upper, runs_on=True), over


def back_end(torso: Torso) -> PartEnd:
    """What a back leaves on holders, from the right: its neck, and beside it shoulders that are not bound off."""
    neck = HeldGroup(BACK_NECK, torso.neck)
    if not torso.sloped:
        return PartEnd("held", (neck,))
    right, left = (HeldGroup(f"{side} shoulder", torso.shoulder, "three-needle") for side in ("right", "left"))
    return PartEnd("held", (right, neck, left))


def sloped_shoulder(torso: Torso, count: int, edge: Literal["both", "right", "left"] = "both") -> ShortRowed:
    """Short rows that make the slope of a shoulder, in the rows in which its steps would be bound off."""
    rows = sloped_rows(torso.steps, count, edge)
    stations = (
        Station(name="Shoulders", width_mm=0.0, row=0),
        Station(name="Shoulders are sloped", width_mm=0.0, row=len(rows)),
    )
    return ShortRowed(stations=stations, rows=rows)


def _upper(torso: Torso, rows: int, *, whole: bool = True) -> EdgeShaped:
    """Armholes, then straight up for what is left of so many rows; with `whole` the shoulders too."""
    after = torso.stitches - 2 * torso.armhole
    stations = [Station(name="Armholes", width_mm=torso.width_mm, row=0)]
    steps = [EdgeStep(station=0, counts=(torso.bound,))] if torso.bound else []
    if torso.armhole:
        stations.append(Station(name="Armholes are done", width_mm=0.0, count=after, paced=True))
    if whole:
        stations.append(Station(name="Shoulders", width_mm=0.0, count=after, row=rows))
        kind: StepKind = "crossed" if torso.kind == "crossed" else "bound off"
        steps.append(EdgeStep(station=len(stations) - 1, counts=torso.steps, kind=kind))
        stations.append(Station(name="Neck", width_mm=0.0, count=torso.neck, paced=True))
    else:
        name = "Shoulders" if rows == torso.depth else "Neck begins"
        stations.append(Station(name=name, width_mm=0.0, count=after, row=rows))
    return EdgeShaped(stations=tuple(stations), steps=tuple(steps), manner=CUT_PANELS)


def front_bands(torso: Torso) -> tuple[Band, ...]:
    """The body and what of the armholes lies below the neck."""
    rows = torso.depth - torso.neck_rows
    body = Band(own=torso.segments, rows=torso.body + (rows if not torso.armhole else 0))
    if not torso.armhole:
        return (body,)
    return (body, Band(own=torso.segments, shaping=_upper(torso, rows, whole=False), runs_on=True))


def front_end(torso: Torso, *, split: bool = False) -> PartEnd:
    """What a front leaves on holders, from the right as one looks at it; with `split` its neck in two halves."""
    side, held = torso.side, torso.held
    halves = {HALVES[0]: held // 2, HALVES[1]: held - held // 2} if split else {FRONT_NECK: held}
    neck = tuple(HeldGroup(name, stitches) for name, stitches in halves.items() if stitches)
    return PartEnd("held", (HeldGroup("right-hand shoulder", side), *neck, HeldGroup("left-hand shoulder", side)))


def neck_shaping(torso: Torso, side: int, *, right: bool, paced: bool = True, bound: int = 0) -> EdgeShaped:
    """A front beside its neck: so many stitches, shaped at the neck edge, and the shoulder in steps at the other.

    `right`: the shoulder lies at the right edge. `bound`: what of the neck is bound off before anything else.
    """
    inner: Literal["right", "left"] = "left" if right else "right"
    outer: Literal["right", "left"] = "right" if right else "left"
    shoulder, left = torso.shoulder, side - bound
    done = Station(name="Neck is shaped", width_mm=0.0, count=shoulder, paced=True)
    if not paced:
        rows = torso.neck_rows - 2 - torso.neck_rows % 2
        done = replace(done, paced=False, row=max(2 * (left - shoulder), rows))
    stations = [
        Station(name="Neck begins", width_mm=0.0, count=side, row=0),
        done,
        Station(name="Shoulder", width_mm=0.0, count=shoulder, row=torso.neck_rows),
    ]
    steps = [EdgeStep(station=0, counts=(bound,), edge=inner)] if bound else []
    if torso.steps[:-1] and not torso.sloped:
        stations.append(Station(name="Last step", width_mm=0.0, count=torso.steps[-1], paced=True))
        steps.append(EdgeStep(station=2, counts=torso.steps[:-1], edge=outer))
    every_row = 2 * (left - shoulder) + 2 * bool(bound) > torso.neck_rows
    return EdgeShaped(
        stations=tuple(stations),
        edges=inner,
        steps=tuple(steps),
        manner=replace(CUT_PANELS, every_row=every_row),
    )


def with_slope(torso: Torso, neck: Band, *, right: bool) -> tuple[Band, ...]:
    """The band beside a front's neck, and above it the slope of the shoulder where that is made in short rows."""
    if not torso.sloped:
        return (neck,)
    slope = sloped_shoulder(torso, torso.shoulder, "right" if right else "left")
    return neck, Band(own=neck.own, shaping=slope, runs_on=True)


def side_end(torso: Torso) -> PartEnd:
    """How a front ends at its shoulder: bound off, or held to be joined to the back's."""
    if not torso.sloped:
        return PartEnd()
    return PartEnd("held", (HeldGroup("shoulder", torso.shoulder, "three-needle"),))


def shoulder_piece(front: Piece, torso: Torso, number: int, *, right: bool, paced: bool = True) -> Piece:
    """One side of the front from the neck up: shaped at its neck edge, its shoulder bound off in steps at the other."""
    own, side = part_segments(torso, right=right), torso.side
    shaping = neck_shaping(torso, side, right=right, paced=paced)
    hand = f"{'right' if right else 'left'}-hand shoulder"
    piece = replace(
        front,
        name=f"Front, {hand}",
        bands=with_slope(torso, Band(own=own, shaping=shaping), right=right),
        bottom=Border(rows=0),
        top=Border(rows=0),
        begins=(Source(kind="held", piece=number, name=hand, stitches=side),),
        ends=side_end(torso),
    )
    each = stitch_widths(own, piece.measure)
    width = sum(each[:side] if right else each[len(each) - side :]) / 1000.0
    rows = torso.neck_rows + torso.slope_rows
    high = max(10.0, rows * body_row_um(piece.band_views[0]) / 1000.0)
    return replace(piece, width_mm=width, tolerance_mm=max(10.0, width / 3.0), height_mm=round(high, 1))


def part_segments(torso: Torso, *, right: bool) -> tuple[Segment, ...]:
    """The segments of one side of the front, panels whole even where some of their columns lie in the held neck.

    The charts go on from the rows that lie below.
    """
    segments = torso.segments if right else tuple(reversed(torso.segments))
    low, high = torso.armhole, torso.armhole + torso.side
    rows = torso.body + torso.depth - torso.neck_rows
    edge = Segment(
        role="edge", pattern=find_pattern("garter"), repeats=1
    )  # as wide as the stitch that it is; a pick-up takes it
    out: list[Segment] = [edge if torso.armhole else seam()]
    at = 0
    for s in segments:
        a, b = max(at, low + 1), min(at + s.stitches, high - 1)
        at += s.stitches
        if b <= a or s.is_seam:
            continue
        now = (s.phase + rows) % s.chart.height  # begun on the right side; of an odd number of rows, one lower
        moved = replace(s, phase=now - now % 2)
        if s.is_panel:
            out.append(moved)
        else:
            repeats = s.chart.repeats_for(b - a)
            plain = Segment(role="background", pattern=find_pattern(BACKGROUND), repeats=b - a)
            out.append(replace(moved, repeats=repeats) if repeats else plain)
    out.append(edge)
    return tuple(out) if right else tuple(reversed(out))
