"""What all raglans are made of: a yoke's segments and sections, the raised neck, the sleeve's round and taper."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import Infeasible
from ..layout.borders import fits_border
from ..layout.heights import plan_rows
from ..layout.parts import HeldGroup, PartEnd, Source
from ..layout.piece import Band, Border, Piece
from ..layout.plane import Plane
from ..layout.sections import sections_um
from ..layout.segment import Segment
from ..layout.short_rows import raised_rows
from ..layout.stations import count_stations
from ..layout.widths import body_row_um
from ..library import find_pattern
from ..shaping.outline import ALL, Section, Shaping, Station
from .asks import millimetres
from .raglan_plan import LINE_STITCHES, Raglan
from .shape import GROUND, Wanted, border_rows, plain
from .torso import RIB

RAISED_MM = 22.0
"""Common practice: the back of the neck is raised by 2 to 2.5 cm, two to four pairs of short rows."""
SIDES = ("right", "left")
CUFF = 0.9
"""Our choice: a cuff is a tenth narrower than the wrist's measure, so that it lies close."""


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
        out.append(Section(at, at + many - 1, each, name=name))
        at += many + 1
    return tuple(out)


def gone_on(plan: Raglan, own: tuple[Segment, ...], body: int, sleeve: int = 0) -> tuple[Segment, ...]:
    """A yoke's segments whose charts go on after so many rows of the back and the front, and of the sleeves."""
    half = len(own) // 2

    def moved(at: int, s: Segment) -> Segment:
        rows = sleeve if at % half < len(plan.sleeve) else body
        return replace(s, phase=(s.phase + rows) % s.chart.height)

    return tuple(moved(at, s) for at, s in enumerate(own))


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


def raised_neck(wanted: Wanted, plan: Raglan, begins: tuple[Source, ...], phase: int = 0) -> Piece:
    """Short rows over the back of the neck and into both sleeves; the back's charts have come to row `phase`."""
    row_mm = wanted.evidence.gauge.row_mm
    pairs = max(2, min(5, round(RAISED_MM / row_mm / 2.0)))
    first, count = plan.neck[1] + LINE_STITCHES, plan.neck_count
    end = first + plan.neck[0]
    inside = max(1, plan.neck[0] // 6)
    reaches = raised_rows(first + inside, end - inside, count, pairs, 1 + plan.neck[1] // 4)
    on = [(s.phase + phase) % s.chart.height for s in plan.back]  # worked flat, a chart begins on the right side
    back = tuple(replace(s, phase=n - n % 2) for s, n in zip(plan.back, on, strict=True))
    right, left, front = (ground_beside(plan, n) for n in (plan.neck[1] - 1, plan.neck[1], plan.neck[0]))
    edges = [Segment("edge", find_pattern("garter"), n) for n in (1, LINE_STITCHES)]
    line = plain(LINE_STITCHES)
    own = (edges[0], right, line, *back, line, left, line, front, edges[1])
    begin = Station("Neck", 0.0, row=0)
    shaping = Shaping(
        (begin, replace(begin, name="Neck is raised", row=len(reaches))),
        sections=(Section(3, 2 + len(back), (plan.neck[0],) * 2, name="back"),),
        whole_panels=False,
        short=reaches,
    )
    piece = bare_round(wanted, "Back of the neck", (Band(own, shaping=shaping),), millimetres(wanted.answers, "neck"))
    ends = PartEnd("held", (HeldGroup("neck", count),))
    piece = replace(piece, round=False, begins=begins, ends=ends)
    wide = count_stations(piece.band_views[0])[0].width_um / 1000.0
    return replace(piece, width_mm=round(wide, 1), height_mm=max(10.0, round(len(reaches) * row_mm, 1)))


def raised_by(piece: Piece, plan: Raglan) -> int:
    """In how many rows a raised neck has worked the middle of the back."""
    shaping = piece.bands[0].shaping
    assert shaping is not None, "a raised neck is shaped"
    middle = plan.neck[1] + LINE_STITCHES + plan.neck[0] // 2
    return sum(low <= middle < high for low, high in shaping.short)


def body_segments(own: tuple[Segment, ...], plan: Raglan) -> tuple[Segment, ...]:
    """The body's segments: the yoke's, an underarm in the place of each sleeve."""
    sleeve, half = len(plan.sleeve), len(own) // 2
    sides = (side_segments(plan, mirrored=False), side_segments(plan, mirrored=True))
    return tuple(s for side, part in zip(sides, (own[:half], own[half:]), strict=True) for s in (*side, *part[sleeve:]))


def side_segments(plan: Raglan, *, mirrored: bool) -> tuple[Segment, ...]:
    """An underarm and the side below it: ground, with a line in its middle where that is wished."""
    if plan.side is None:
        return (ground_beside(plan, plan.underarm),)
    line = plan.side.reflected() if mirrored else plan.side
    right = (plan.underarm - line.stitches) // 2
    grounds = (right, plan.underarm - line.stitches - right)
    first, last = ([ground_beside(plan, n)] if n else [] for n in grounds)
    return (*first, line, *last)


def ground_beside(plan: Raglan, stitches: int) -> Segment:
    """So many stitches in the ground at the sides of the body."""
    ground = plan.back[0]
    repeats = ground.chart.repeats_for(stitches) if ground.is_ground else None
    if repeats:
        return replace(ground, repeats=repeats, phase=0, mirrored=False)
    return Segment("background", find_pattern(GROUND), stitches)


@dataclass(frozen=True)
class Sleeve:
    """A sleeve of a raglan below its underarm: its piece without shaping, its counts at both ends, its rows."""

    piece: Piece
    cuff: Border
    count: int
    wrist: int
    rows: int

    def tapered(self, *, up: bool) -> Piece:
        """Shaped on its way down to the cuff, or up from it."""
        shaping = taper(self.piece.bands[0].own, self.count, self.wrist, self.rows, up=up)
        ends = {"bottom" if up else "top": self.cuff}
        return replace(self.piece, bands=(Band(self.piece.bands[0].own, shaping=shaping),), **ends)  # type: ignore[arg-type]


def plan_sleeve(wanted: Wanted, plan: Raglan, side: str, worked: int) -> Sleeve:
    """A sleeve below its underarm, whose charts have been worked for so many rows.

    Its round begins under the arm; the knit stitch at each end of it is the line that it is shaped by.
    """
    half = plan.underarm // 2
    on = tuple(replace(s, phase=(s.phase + worked) % s.chart.height) for s in plan.sleeve)
    right, left = ([ground_beside(plan, n)] if n else [] for n in (half - 1, plan.underarm - half - 1))
    own = (plain(1), *right, *on, *left, plain(1))
    name = f"{side.capitalize()} sleeve"
    bare = bare_round(wanted, name, (Band(own, rows=2),), millimetres(wanted.answers, "upper_arm"))
    return round_sleeve(wanted, bare, millimetres(wanted.answers, "arm"))


def round_sleeve(wanted: Wanted, piece: Piece, length: float) -> Sleeve:
    """A sleeve of such a length, cuff included, over the segments of a bare piece; their first and last are its line.

    Raises Infeasible where no count suits the cuff, or the cuff takes all of the length.
    """
    cuff = Border(RIB, border_rows(RIB, millimetres(wanted.answers, "cuff"), wanted.evidence, 1), factor=CUFF)
    view, edged, own = piece.band_views[0], plan_rows(replace(piece, bottom=cuff)), piece.bands[0].own
    rows = round((length * 1000.0 - edged.bottom * edged.bottom_row_um) / body_row_um(view))
    if rows < 4:
        raise Infeasible("The cuffs are as long as the arms: make the arms longer, or the cuffs lower.")
    plane, wide, count = Plane(view), millimetres(wanted.answers, "wrist") * 1000.0, view.stitches
    options = [n for n in range(6, count + 1) if fits_border(view, cuff, n)]
    if not options:
        raise Infeasible(f"No number of stitches up to {count} suits the cuff: make the sleeve wider.")
    wrist = min(options, key=lambda n: abs(sections_um(plane, taper(own, count, n, 1), (n - 2,)) - wide))
    return Sleeve(piece, cuff, count, wrist, rows)


def taper(own: tuple[Segment, ...], count: int, wrist: int, rows: int, *, up: bool = False) -> Shaping:
    """From the upper arm to the wrist, or from there up, beside the two stitches under the arm."""
    names, ends = ("Upper arm", "Wrist"), (ALL, wrist - 2 if wrist < count else ALL)
    if up:
        names, ends = (names[1], names[0]), (ends[1], ends[0])
    stations = (Station(names[0], 0.0, row=0), Station(names[1], 0.0, row=rows))
    return Shaping(stations, sections=(Section(1, len(own) - 2, ends, name="sleeve"),), whole_panels=False)
