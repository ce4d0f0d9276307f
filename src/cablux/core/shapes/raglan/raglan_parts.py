"""What all raglans are made of: a yoke's segments and sections, the raised neck, the sleeve's round and taper."""

from __future__ import annotations

from dataclasses import replace

from ...library import find_pattern
from ...needle.stations import Station
from ...piece.parts import HeldGroup, PartEnd, Source
from ...piece.piece import Band, Piece, count_stations
from ...piece.segment import Segment
from ...shaping.sections import Section
from ...shaping.short_rows import ShortRowed, raised_rows, rows_over
from ..shape import BACKGROUND, Wanted, plain
from ..sweater.round_sleeves import Sleeve, bare_round, round_sleeve
from .raglan_answers import RaglanAnswers
from .raglan_plan import LINE_STITCHES, Raglan

RAISED_MM = 22.0
"""Common practice: the back of the neck is raised by 2 to 2.5 cm, two to four pairs of short rows."""


def yoke_segments(plan: Raglan) -> tuple[Segment, ...]:
    """From the right: right sleeve, line, back, line, left sleeve, line, front, line."""
    right, left = plan.lines
    side = (*plan.sleeve, right, *plan.back, left)
    return (*side, *side)


def yoke_sections(plan: Raglan, *counts: tuple[int, int]) -> tuple[Section, ...]:
    """The four sections between the lines, with the counts of back and sleeve at each station."""
    out, at = [], 0
    for name, body in (("right sleeve", False), ("back", True), ("left sleeve", False), ("front", True)):
        many = len(plan.back if body else plan.sleeve)
        each = tuple(pair[0] if body else pair[1] for pair in counts)
        out.append(Section(first=at, last=at + many - 1, counts=each, name=name))
        at += many + 1
    return tuple(out)


def gone_on(plan: Raglan, own: tuple[Segment, ...], body: int, *, sleeve: int = 0) -> tuple[Segment, ...]:
    """A yoke's segments whose charts go on after so many rows of the back and the front, and of the sleeves."""
    half = len(own) // 2

    def moved(at: int, s: Segment) -> Segment:
        rows = sleeve if at % half < len(plan.sleeve) else body
        return replace(s, phase=(s.phase + rows) % s.chart.height)

    return tuple(moved(at, s) for at, s in enumerate(own))


def raised_neck(wanted: Wanted[RaglanAnswers], plan: Raglan, begins: tuple[Source, ...], *, phase: int = 0) -> Piece:
    """Short rows over the back of the neck and into both sleeves; the back's charts have come to row `phase`."""
    row_mm = wanted.evidence.gauge.row_mm
    pairs = max(2, min(5, round(RAISED_MM / row_mm / 2.0)))
    first, count = plan.neck[1] + LINE_STITCHES, plan.neck_count
    end = first + plan.neck[0]
    inside = max(1, plan.neck[0] // 6)
    reaches = raised_rows(first + inside, end - inside, count, pairs=pairs, outermost=1 + plan.neck[1] // 4)
    on = [(s.phase + phase) % s.chart.height for s in plan.back]  # worked flat, a chart begins on the right side
    back = tuple(replace(s, phase=n - n % 2) for s, n in zip(plan.back, on, strict=True))
    right, left, front = (background_beside(plan, n) for n in (plan.neck[1] - 1, plan.neck[1], plan.neck[0]))
    edges = [Segment(role="edge", pattern=find_pattern("garter"), repeats=n) for n in (1, LINE_STITCHES)]
    line = plain(LINE_STITCHES)
    own = (edges[0], right, line, *back, line, left, line, front, edges[1])
    begin = Station(name="Neck", width_mm=0.0, row=0)
    shaping = ShortRowed(
        stations=(begin, replace(begin, name="Neck is raised", row=len(reaches))),
        rows=reaches,
        sections=(Section(first=3, last=2 + len(back), counts=(plan.neck[0],) * 2, name="back"),),
    )
    piece = bare_round(wanted, "Back of the neck", (Band(own=own, shaping=shaping),), width_mm=wanted.answers.neck_mm)
    ends = PartEnd("held", (HeldGroup("neck", count),))
    piece = replace(piece, round=False, begins=begins, ends=ends)
    wide = count_stations(piece.band_views[0])[0].width_um / 1000.0
    return replace(piece, width_mm=round(wide, 1), height_mm=max(10.0, round(len(reaches) * row_mm, 1)))


def raised_by(piece: Piece, plan: Raglan) -> int:
    """In how many rows a raised neck has worked the middle of the back."""
    middle = plan.neck[1] + LINE_STITCHES + plan.neck[0] // 2
    return rows_over(piece.bands[0].shaping, middle)


def body_segments(own: tuple[Segment, ...], plan: Raglan) -> tuple[Segment, ...]:
    """The body's segments: the yoke's, an underarm in the place of each sleeve."""
    sleeve, half = len(plan.sleeve), len(own) // 2
    sides = (side_segments(plan, mirrored=False), side_segments(plan, mirrored=True))
    return tuple(s for side, part in zip(sides, (own[:half], own[half:]), strict=True) for s in (*side, *part[sleeve:]))


def side_segments(plan: Raglan, *, mirrored: bool) -> tuple[Segment, ...]:
    """An underarm and the side below it: background, with a line in its middle where that is wished."""
    if plan.side is None:
        return (background_beside(plan, plan.underarm),)
    line = plan.side.reflected() if mirrored else plan.side
    right = (plan.underarm - line.stitches) // 2
    backgrounds = (right, plan.underarm - line.stitches - right)
    first, last = ([background_beside(plan, n)] if n else [] for n in backgrounds)
    return (*first, line, *last)


def background_beside(plan: Raglan, stitches: int) -> Segment:
    """So many stitches in the background at the sides of the body."""
    background = plan.back[0]
    repeats = background.chart.repeats_for(stitches) if background.is_background else None
    if repeats:
        return replace(background, repeats=repeats, phase=0, mirrored=False)
    return Segment(role="background", pattern=find_pattern(BACKGROUND), repeats=stitches)


def plan_sleeve(wanted: Wanted[RaglanAnswers], plan: Raglan, side: str, *, worked: int) -> Sleeve:
    """A sleeve below its underarm, whose charts have been worked for so many rows.

    Its round begins under the arm; the knit stitch at each end of it is the line that it is shaped by.
    """
    half = plan.underarm // 2
    on = tuple(replace(s, phase=(s.phase + worked) % s.chart.height) for s in plan.sleeve)
    right, left = ([background_beside(plan, n)] if n else [] for n in (half - 1, plan.underarm - half - 1))
    own = (plain(1), *right, *on, *left, plain(1))
    name = f"{side.capitalize()} sleeve"
    bare = bare_round(wanted, name, (Band(own=own, rows=2),), width_mm=wanted.answers.upper_arm_mm)
    return round_sleeve(wanted, bare, wanted.answers.arm_mm)
