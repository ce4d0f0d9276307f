"""The parts of a raglan: the raised neck, yoke with body, sleeves from held stitches or up to the yoke, neckband."""

from __future__ import annotations

from dataclasses import replace

from ..errors import Infeasible
from ..layout.borders import fits_border
from ..layout.heights import plan_rows
from ..layout.parts import HeldGroup, PartEnd, Source
from ..layout.piece import Band, Border, Piece
from ..layout.plane import Plane
from ..layout.sections import sections_um
from ..layout.segment import Segment
from ..layout.short_rows import raised_rows
from ..layout.widths import body_row_um
from ..library import find_pattern
from ..shaping.outline import ALL, Holder, Section, Shaping, Station
from .asks import millimetres
from .raglan_plan import LINE_STITCHES, Raglan
from .shape import GROUND, Wanted, border_rows, plain
from .sweater_body import HEM
from .torso import RIB

RAISED_MM = 22.0
"""Common practice: the back of the neck is raised by 2 to 2.5 cm, two to four pairs of short rows."""
SIDES = ("right", "left")
CUFF = 0.9
"""Our choice: a cuff is a tenth narrower than the wrist's measure, so that it lies close."""


def yoke_segments(plan: Raglan) -> tuple[Segment, ...]:
    """From the right: line, right sleeve, line, back, line, left sleeve, line, front."""
    right, left = plan.lines
    side = (left, *plan.sleeve, right, *plan.back)
    return (*side, *side)


def yoke_sections(plan: Raglan, *counts: tuple[int, int]) -> tuple[Section, ...]:
    """The four sections between the lines, with the counts of back and sleeve at each station."""
    out, at = [], 0
    for name, body in (("right sleeve", False), ("back", True), ("left sleeve", False), ("front", True)):
        many = len(plan.back if body else plan.sleeve)
        each = tuple(pair[0] if body else pair[1] for pair in counts)
        out.append(Section(at + 1, at + many, each, name=name))
        at += many + 1
    return tuple(out)


def bare_round(wanted: Wanted, name: str, bands: tuple[Band, ...], width_mm: float, **more: object) -> Piece:
    """A piece in the round without edges; they and its height are given in `more`, or follow."""
    own: dict[str, object] = {"bottom": Border(rows=0), "top": Border(rows=0), "height_mm": 600.0} | more
    return Piece(
        name=name,
        width_mm=width_mm,
        evidence=wanted.evidence,
        bands=bands,
        tolerance_mm=max(15.0, width_mm / 20.0),
        round=True,
        setup_rows=0,
        **own,  # type: ignore[arg-type]
    )


def as_high_as_it_is(piece: Piece) -> Piece:
    """With the height that its rows come to."""
    return replace(piece, height_mm=max(10.0, round(plan_rows(piece).height_um / 1000.0, 1)))


def neck_columns(plan: Raglan) -> tuple[int, int, int]:
    """Of the needle at the neck: where the back begins and ends, counted from the right, and all stitches."""
    back, sleeve = plan.neck
    first = 2 * LINE_STITCHES + sleeve
    return first, first + back, plan.neck_count


def raised_neck(wanted: Wanted, plan: Raglan, begins: tuple[Source, ...], phase: int = 0) -> Piece:
    """Short rows over the back of the neck and into both sleeves; its charts have come to row `phase`."""
    row_mm = wanted.evidence.gauge.row_mm
    pairs = max(2, min(5, round(RAISED_MM / row_mm / 2.0)))
    first, end, count = neck_columns(plan)
    inside = max(1, (end - first) // 6)
    reaches = raised_rows(first + inside, end - inside, count, pairs, LINE_STITCHES + 1)
    back = tuple(replace(s, phase=(s.phase + phase) % s.chart.height) for s in plan.back)
    sleeve, front = (_ground(plan, n) for n in (plan.neck[1], plan.neck[0] - 1))
    edges = [Segment("edge", find_pattern("garter"), n) for n in (LINE_STITCHES, 1)]
    line = plain(LINE_STITCHES)
    own = (edges[0], sleeve, line, *back, line, sleeve, line, front, edges[1])
    wide = Station("Neck", 0.0, row=0)
    shaping = Shaping(
        (wide, replace(wide, name="Neck is raised", row=len(reaches))),
        sections=(Section(3, 2 + len(back), (plan.neck[0],) * 2, name="back"),),
        whole_panels=False,
        short=reaches,
    )
    piece = bare_round(wanted, "Back of the neck", (Band(own, shaping=shaping),), millimetres(wanted.answers, "neck"))
    ends = PartEnd("held", (HeldGroup("neck", count),))
    return replace(piece, round=False, begins=begins, ends=ends, height_mm=max(10.0, round(len(reaches) * row_mm, 1)))


def raised_by(piece: Piece, plan: Raglan) -> int:
    """In how many rows a raised neck has worked the middle of the back."""
    shaping = piece.bands[0].shaping
    assert shaping is not None, "a raised neck is shaped"
    first, end, _ = neck_columns(plan)
    return sum(low <= (first + end) // 2 < high for low, high in shaping.short)


def yoke_and_body(wanted: Wanted, plan: Raglan, raised: Piece | None) -> Piece:
    """From the neck down: the yoke, the sleeves onto holders with the underarms cast on, and the body to its hem."""
    own = yoke_segments(plan)
    if raised is not None:
        own = _gone_on(plan, own, raised_by(raised, plan))
    around = millimetres(wanted.answers, "chest") + millimetres(wanted.answers, "ease")
    stations = (
        Station("Neck", 0.0, row=0),
        Station("Underarms", 0.0, row=plan.rounds),
        Station("Sleeves are put aside", 0.0, paced=True),
    )
    shaping = Shaping(
        stations,
        manner="mixed",
        sections=yoke_sections(plan, plan.neck, (ALL, ALL), (ALL, plan.underarm)),
        holders=tuple(Holder(f"{side} sleeve", n, 1, plan.underarm) for side, n in zip(SIDES, (0, 2), strict=True)),
        whole_panels=False,
    )
    hem = Border(RIB, border_rows(RIB, millimetres(wanted.answers, "hem"), wanted.evidence, 1), factor=HEM)
    body = Band(body_segments(own, plan), runs_on=True)
    begins = (Source("held", 1, "neck", plan.neck_count),) if raised is not None else ()
    piece = bare_round(wanted, "Yoke and body", (Band(own, shaping=shaping), body), around, top=hem, begins=begins)
    return replace(piece, height_mm=millimetres(wanted.answers, "length"))


def _gone_on(plan: Raglan, own: tuple[Segment, ...], rows: int) -> tuple[Segment, ...]:
    """The charts of the back after the rows of the raised neck."""
    at, many = len(plan.sleeve) + 2, len(plan.back)
    return tuple(
        replace(s, phase=(s.phase + rows) % s.chart.height) if at <= n < at + many else s for n, s in enumerate(own)
    )


def body_segments(own: tuple[Segment, ...], plan: Raglan) -> tuple[Segment, ...]:
    """The body's segments: the yoke's, an underarm in the place of each sleeve."""
    sleeve, half = len(plan.sleeve), len(own) // 2
    under = _ground(plan, plan.underarm)
    return tuple(s for part in (own[:half], own[half:]) for s in (part[0], under, *part[1 + sleeve :]))


def _ground(plan: Raglan, stitches: int) -> Segment:
    """So many stitches in the ground at the sides of the body."""
    ground = plan.back[0]
    repeats = ground.chart.repeats_for(stitches) if ground.is_ground else None
    if repeats:
        return replace(ground, repeats=repeats, phase=0, mirrored=False)
    return Segment("background", find_pattern(GROUND), stitches)


def sleeve_down(wanted: Wanted, plan: Raglan, yoke: int, side: str) -> Piece:
    """From a yoke's held stitches, and those picked up under the arm, down to the cuff; it begins under the arm."""
    ends = (plan.underarm // 2, plan.underarm - plan.underarm // 2)
    begins = (
        Source("picked up", yoke, f"{side} underarm", ends[0]),
        Source("held", yoke, f"{side} sleeve", plan.sleeve_count),
        Source("picked up", yoke, f"{side} underarm", ends[1]),
    )
    own = sleeve_segments(plan, plan.rounds)
    answers, count = wanted.answers, plan.sleeve_count + plan.underarm
    cuff = Border(RIB, border_rows(RIB, millimetres(answers, "cuff"), wanted.evidence, 1), factor=CUFF)
    piece = bare_round(
        wanted, f"{side.capitalize()} sleeve", (Band(own, rows=2),), millimetres(answers, "upper_arm"), top=cuff
    )
    row_mm = body_row_um(piece.band_views[0]) / 1000.0
    cuff_mm = plan_rows(piece).top * plan_rows(piece).top_row_um / 1000.0
    rows = round((millimetres(answers, "arm") - cuff_mm) / row_mm)
    wrist = wrist_count(wanted, piece, count, cuff)
    return as_high_as_it_is(replace(piece, bands=(Band(own, shaping=tapered(own, count, wrist, rows)),), begins=begins))


def sleeve_segments(plan: Raglan, worked: int) -> tuple[Segment, ...]:
    """A sleeve's round, begun under the arm; the knit stitch at each end of it is the line that it is shaped by."""
    half = plan.underarm // 2
    on = tuple(replace(s, phase=(s.phase + worked) % s.chart.height) for s in plan.sleeve)
    right, left = ([_ground(plan, n)] if n else [] for n in (half - 1, plan.underarm - half - 1))
    return (plain(1), *right, *on, *left, plain(1))


def tapered(own: tuple[Segment, ...], count: int, wrist: int, rows: int, *, up: bool = False) -> Shaping:
    """From the upper arm to the wrist, or from there up, beside the two stitches under the arm."""
    names, ends = ("Upper arm", "Wrist"), (ALL, wrist - 2 if wrist < count else ALL)
    if up:
        names, ends = (names[1], names[0]), (ends[1], ends[0])
    stations = (Station(names[0], 0.0, row=0), Station(names[1], 0.0, row=rows))
    return Shaping(stations, sections=(Section(1, len(own) - 2, ends, name="sleeve"),), whole_panels=False)


def wrist_count(wanted: Wanted, piece: Piece, count: int, cuff: Border) -> int:
    """The stitches at the wrist: as wide as is asked with what the panel draws in, and such as suit the cuff."""
    view = piece.band_views[0]
    plane, own, wide = Plane(view), view.band.own, millimetres(wanted.answers, "wrist") * 1000.0
    options = [n for n in range(6, count + 1) if fits_border(view, cuff, n)]
    if not options:
        raise Infeasible(f"No number of stitches up to {count} suits the cuff: make the sleeve wider.")
    return min(options, key=lambda n: abs(sections_um(plane, tapered(own, count, n, 1), (n - 2,)) - wide))
