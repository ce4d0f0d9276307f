"""A hood: on from the neck of a sweater with the panel of its back's middle, folded and grafted over the head."""

from __future__ import annotations

from dataclasses import replace
from itertools import takewhile

from ...library import find_pattern
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.parts import PartEnd, Source
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ...piece.widths import body_row_um, segment_um
from ...rows.heights import plan_rows
from ...shaping.manner import CUT_PANELS
from ...shaping.sections import ALL, Section, SectionShaped
from ..asks import ShapeAnswers
from ..shape import BACKGROUND, Wanted
from .sweater_body import SweaterBody
from .torso import Torso
from .upper_body import BACK_NECK

WIDE, HIGH = 1.0, 0.6
"""Our choice: from edge to edge a hood is as wide as the head is round, and six tenths of that high."""
_EDGE = 4
"""Our choice: a garter edge of four stitches, which does not roll."""


def hood(wanted: Wanted[ShapeAnswers], body: SweaterBody, begins: tuple[Source, ...], *, head_mm: float) -> Piece:
    """The hood over such stitches of the neck, from the middle of the front to the middle again, for such a head."""
    measure, count = body.back.measure, sum(source.stitches for source in begins)
    middle, place = middle_panel(body.torso)
    background = (
        wanted.background if wanted.background and wanted.background.chart.multiple == 1 else find_pattern(BACKGROUND)
    )
    edge = Segment(role="edge", pattern=find_pattern("garter"), repeats=_EDGE)
    taken = sum(segment_um(s, measure) for s in (*middle, edge, edge))
    unit = segment_um(Segment(role="background", pattern=background, repeats=1), measure)
    inside = sum(s.stitches for s in middle)
    # a panel stands on the held stitches that it has been worked in
    before = takewhile(lambda source: source.name != BACK_NECK, begins)
    right = sum(s.stitches for s in before) + place - _EDGE if middle else (count - 2 * _EDGE) // 2
    left = count - 2 * _EDGE - inside - right
    each = max(right + 1, left + 1, round((WIDE * head_mm * 1000.0 - taken) / 2.0 / unit))
    # an even number in all, since its halves are grafted to each other
    backgrounds = [Segment(role="background", pattern=background, repeats=n) for n in (each, each + inside % 2)]
    own = (edge, backgrounds[0], *middle, backgrounds[1], edge)
    at = len(own) - 2
    sections = (
        Section(first=1, last=1, counts=(right, ALL), edges="left", name="right half"),
        Section(first=at, last=at, counts=(left, ALL), edges="right", name="left half"),
    )
    stations = (
        Station(name="Neck", width_mm=0.0, row=0),
        Station(name="Hood is wide enough", width_mm=0.0, paced=True),
    )
    shaping = SectionShaped(stations=stations, sections=sections, manner=CUT_PANELS)
    width = sum(segment_um(s, measure) for s in own) / 1000.0
    piece = Piece(
        name="Hood",
        width_mm=round(width, 1),
        height_mm=HIGH * head_mm,
        evidence=body.back.evidence,
        bands=(Band(own=own, shaping=shaping), Band(own=own, runs_on=True)),
        tolerance_mm=max(15.0, width / 20.0),
        bottom=Border(rows=0),
        top=Border(rows=0),
        setup_rows=0,
        begins=begins,
        ends=PartEnd("grafted together"),
    )
    short = plan_rows(replace(piece, bands=(piece.bands[0], replace(piece.bands[1], rows=2)))).height_um / 1000.0
    row_mm = body_row_um(piece.band_views[0]) / 1000.0
    return replace(piece, height_mm=round(max(HIGH * head_mm, short + 4.0 * row_mm), 1))


def middle_panel(torso: Torso) -> tuple[tuple[Segment, ...], int]:
    """The panel in the middle of the back, going on where it has stopped, and its place among the neck's stitches.

    None where the back has none there, or the neck cuts it.
    """
    at, first = 0, (torso.stitches - torso.neck) // 2
    rows = torso.body + torso.depth + torso.slope_rows
    for s in torso.segments:
        whole = first <= at and at + s.stitches <= first + torso.neck
        if s.is_panel and whole and abs(2 * at + s.stitches - torso.stitches) <= 1:
            now = (s.phase + rows) % s.chart.height
            return (replace(s, phase=now - now % 2),), at - first
        at += s.stitches
    return (), 0
