"""Bands that are picked up: ribbing round a neck and round an armhole, worked in the round."""

from __future__ import annotations

from dataclasses import replace

from ...garment.silhouette import edge_path, path_um
from ...gauge import Measure
from ...library import find_pattern
from ...piece.border import Border
from ...piece.parts import Source
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ...piece.widths import pattern_um, stitch_widths
from ...rows.heights import plan_rows
from ..shape import border_rows
from .sweater_body import SweaterBody
from .torso import RIB
from .upper_body import BACK_NECK, FRONT_NECK, HALVES

MOST_FEWER = 0.15
"""Our choice: along an edge no more than 15 in 100 fewer are picked up than it wants by its length."""
BAND_MM = 25.0
"""Our choice: a band of 2.5 cm."""
FIRST = {"Back": 1, "Front": 2, "right": 3, "left": 4}
"""The numbers of a body's pieces in the project."""


def along_um(measure: Measure) -> float:
    """What a picked-up stitch takes of an edge: the mean of its widths in resting rib and stockinette (our choice)."""
    rib = find_pattern(RIB)
    each = pattern_um(rib, rib.chart.multiple, measure) / rib.chart.multiple
    return 0.5 * (each + measure.gauge.stitch_mm * 1000.0)


def rib_band(name: str, back: Piece, sources: tuple[Source, ...], *, high: float = BAND_MM) -> Piece:
    """A band of ribbing in the round over such stitches, so many millimetres high, in the yarn of `back`."""
    rib, count = find_pattern(RIB), sum(source.stitches for source in sources)
    rows = border_rows(RIB, high, back.evidence, step=1)
    piece = Piece(
        name=name,
        width_mm=pattern_um(rib, count, back.measure) / 1000.0,
        height_mm=high,
        evidence=back.evidence,
        bands=(
            Band(
                own=(Segment(role="background", pattern=rib, repeats=count // rib.chart.multiple, closed=True),),
                rows=rows,
            ),
        ),
        tolerance_mm=30.0,
        bottom=Border(rows=0),
        top=Border(rows=0),
        round=True,
        setup_rows=0,
        begins=sources,
    )
    return replace(piece, height_mm=max(10.0, round(plan_rows(piece).height_um / 1000.0, 1)))


def suited_to_rib(wanted: float, least: int) -> int:
    """The nearest number that suits the rib and is no less than what there is."""
    multiple = find_pattern(RIB).chart.multiple
    return max(multiple * max(1, round(wanted / multiple)), multiple * -(-least // multiple))


def hood_sources(body: SweaterBody) -> tuple[Source, ...]:
    """The stitches of a hood that begins and ends in the middle of the front neck."""
    torso, held = body.torso, body.front_torso.held
    along = round(path_um(edge_path(body.right, "left")) / along_um(body.back.measure))
    right, left = held // 2, held - held // 2
    sources = (
        Source(kind="held", piece=FIRST["Front"], name=HALVES[1], stitches=left),
        Source(kind="picked up", piece=FIRST["left"], name="neck edge", stitches=along),
        Source(kind="held", piece=FIRST["Back"], name=BACK_NECK, stitches=torso.neck),
        Source(kind="picked up", piece=FIRST["right"], name="neck edge", stitches=along),
        Source(kind="held", piece=FIRST["Front"], name=HALVES[0], stitches=right),
    )
    return tuple(source for source in sources if source.stitches)


def neckband(body: SweaterBody, high: float) -> Piece:
    """Ribbing round the neck: over what is held, and picked up along both edges of the front neck.

    It has a stitch for what one takes of the neck's way round: beside cables that draw in fewer are picked up.
    """
    torso, stitch = body.torso, along_um(body.back.measure)
    held = torso.neck + body.front_torso.held
    along = path_um(edge_path(body.right, "left")) / stitch
    drawn = held - _held_um(body) / (1000.0 * body.back.measure.gauge.stitch_mm)
    picked = suited_to_rib(held + 2.0 * along - min(drawn, MOST_FEWER * 2.0 * along), held + 2) - held
    front = (
        (Source(kind="held", piece=FIRST["Front"], name=FRONT_NECK, stitches=body.front_torso.held),)
        if body.front_torso.held
        else ()
    )
    sources = (
        Source(kind="held", piece=FIRST["Back"], name=BACK_NECK, stitches=torso.neck),
        Source(kind="picked up", piece=FIRST["right"], name="neck edge", stitches=picked // 2),
        *front,
        Source(kind="picked up", piece=FIRST["left"], name="neck edge", stitches=picked - picked // 2),
    )
    return rib_band("Neckband", body.back, sources, high=high)


def _held_um(body: SweaterBody) -> float:
    """How wide the held stitches of a neck lie."""
    wide = 0.0
    for torso, held in ((body.torso, body.torso.neck), (body.front_torso, body.front_torso.held)):
        each = stitch_widths(torso.segments, body.back.measure)
        first = (len(each) - held) // 2
        wide += sum(each[first : first + held])
    return wide


def armband(body: SweaterBody, *, right: bool) -> Piece:
    """Ribbing round an armhole, once the shoulder and the side are sewn: at the back's right edge, or its left one."""
    along = body.armhole_mm * 1000.0 / along_um(body.back.measure)
    count = suited_to_rib(along, 8)
    front, back = count // 2, count - count // 2
    side = "left" if right else "right"  # the back's right edge meets the front's left one
    upper = max(1, round(front * body.front_torso.neck_rows / max(1, body.front_torso.depth)))
    sources = (
        Source(kind="picked up", piece=FIRST["Back"], name="armhole", stitches=back),
        Source(kind="picked up", piece=FIRST[side], name="armhole", stitches=upper),
        *(
            (Source(kind="picked up", piece=FIRST["Front"], name="armhole", stitches=front - upper),)
            if front > upper
            else ()
        ),
    )
    return rib_band(f"{'Right' if right else 'Left'} armband", body.back, sources)
