"""Bands of a cardigan: ribbing picked up round its neck and down its fronts, buttonholes spaced along one of them."""

from __future__ import annotations

from dataclasses import replace
from itertools import accumulate, pairwise, product

from ...errors import Infeasible
from ...garment.silhouette import PieceSide, edge_path, path_um
from ...library import find_pattern
from ...piece.border import Border
from ...piece.parts import Source
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ...piece.widths import segment_um
from ...rows.heights import plan_rows
from ..shape import border_rows
from .picked_bands import BAND_MM, along_um
from .sweater_body import SweaterBody, level_um
from .torso import RIB
from .upper_body import BACK_NECK

BUTTONHOLE = "buttonhole"
_EYELET = 5
"""The row of that chart in which the eyelet lies."""
_LOWEST_MM = 20.0
"""Our choice: the lowest buttonhole two centimetres above the hem's edge, the highest in the middle of the neckband."""
LEAST_RIB = 6
_EVEN = 4
"""Our choice: for even spaces there may be a button or two more or fewer than stand as far apart as most."""
APART_MM = 80.0
"""Common practice: buttons stand 6 to 10 cm apart."""
NUMBERS = {"back": 1, "left front": 2, "right front": 3, "neckband": 5}
"""The numbers of a cardigan's pieces in the project; the sleeve is 4."""


def neck_sources(body: SweaterBody, right: Piece, left: Piece) -> tuple[Source, ...]:
    """The stitches round a cardigan's neck: up the right front, over the back's held ones, down the left front."""
    stitch = along_um(body.back.measure)
    ways: tuple[tuple[Piece, PieceSide], ...] = ((right, "right"), (left, "left"))
    each = [path_um(edge_path(front, side, _neck_um(body, front))) for front, side in ways]
    picked = _suited(body.torso.neck + sum(each) / stitch) - body.torso.neck
    return (
        Source(kind="picked up", piece=NUMBERS["right front"], name="neck edge", stitches=picked // 2),
        Source(kind="held", piece=NUMBERS["back"], name=BACK_NECK, stitches=body.torso.neck),
        Source(kind="picked up", piece=NUMBERS["left front"], name="neck edge", stitches=picked - picked // 2),
    )


def cardigan_neckband(body: SweaterBody, begins: tuple[Source, ...], high: float) -> Piece:
    """Ribbing round the neck, worked flat."""
    count = sum(source.stitches for source in begins)
    return _flat_band("Neckband", body, (_rib(count - 2),), begins=begins, high=high)


def _neck_um(body: SweaterBody, front: Piece) -> float:
    return level_um(front, body.front_torso.body + body.front_torso.depth - body.front_torso.neck_rows)


def front_band(body: SweaterBody, front: Piece, neck: Piece | None, *, buttons: int | None, side: str) -> Piece:
    """Ribbing along a front and the end of its neckband, where it has one, with so many buttonholes; None for none.

    With 0 buttons there are as many holes as suit its length.

    Picked up from the hem up on the right front, from the neck down on the left one. Raises Infeasible where the
    buttonholes would lie too near each other.
    """
    stitch, high = along_um(body.back.measure), float(plan_rows(neck).height_um) if neck else 0.0
    along = _neck_um(body, front)
    count = _suited((along + high) / stitch)
    above = max(2, round(high / (along + high) * count)) if neck else 0
    edge = Source(kind="picked up", piece=NUMBERS[side], name="front edge", stitches=count - above)
    top = Source(kind="picked up", piece=NUMBERS["neckband"], name="end", stitches=above)
    begins = tuple(s for s in ((edge, top) if side == "right front" else (top, edge)) if s.stitches)
    own: tuple[Segment, ...] = (_rib(count - 2),)
    if buttons is not None:
        ends = round(_LOWEST_MM * 1000.0 / stitch), above // 2 or LEAST_RIB
        most = buttons or 1 + round((along + high) / 1000.0 / APART_MM)
        own = _with_holes(count - 2, most, ends[0], high=ends[1], fewer=not buttons)
        if side == "left front":
            own = tuple(reversed(own))
    name = f"{'Button' if buttons is None else 'Buttonhole'} band, {side}"
    return _flat_band(name, body, own, begins=begins)


def _with_holes(count: int, buttons: int, low: int, *, high: int, fewer: bool) -> tuple[Segment, ...]:
    """Ribs with holes in purl columns between them, the lowest and the highest so far from the ends.

    Where the number is ours it is the nearest that spaces them evenly. Raises Infeasible where they would lie too near
    each other, unless there may be `fewer`.
    """
    numbers = sorted(range(1, buttons + 2), key=lambda n: (abs(n - buttons), n)) if fewer else [buttons]
    tries = [_hole_places(count, n, low, high=high) for n in numbers]
    apart = [places for places in tries if all(b - a >= 2 + LEAST_RIB for a, b in pairwise(places))]
    if not apart:
        raise Infeasible(
            f"{buttons} buttonholes lie too near each other along this front: choose fewer buttons.", clash=("buttons",)
        )
    even = [places for places in apart[:_EVEN] if len({b - a for a, b in pairwise(places)}) == 1]
    out: list[Segment] = []
    at = 0
    for place in (even or apart)[0]:
        out += [_rib(place - at), Segment(role="panel", pattern=find_pattern(BUTTONHOLE), repeats=1)]
        at = place + 2
    return (*out, _rib(count - at))


def _hole_places(count: int, buttons: int, low: int, *, high: int) -> list[int]:
    """Where so many holes begin, from the hem: the lowest and the highest near their places, a rib apart or more."""
    columns = range(LEAST_RIB - 4, count - 2, 4)  # where a purl column begins: k2, then p2 and k2 by turns
    lows = sorted(columns, key=lambda c: abs(c + 1 - low))[:4]
    highs = sorted(columns, key=lambda c: abs(count - c - 1 - high))[:2]
    gaps = max(1, buttons - 1)
    first, last = min(  # of the places near both ends those that lie a whole number of ribs apart
        product(lows, highs), key=lambda ends: ((ends[1] - ends[0]) % (4 * gaps) != 0, abs(ends[0] + 1 - low))
    )
    return [last - 4 * round((last - first) * n / gaps / 4) for n in range(gaps, -1, -1)][-buttons:]


def _rib(stitches: int) -> Segment:
    rib = find_pattern(RIB)
    repeats = rib.chart.repeats_for(stitches)
    assert repeats is not None or stitches == 2, "counts of bands suit their rib"
    return (
        Segment(role="background", pattern=rib, repeats=repeats)
        if repeats
        else Segment(role="background", pattern=find_pattern("stockinette"), repeats=2)
    )


def _suited(wanted: float) -> int:
    """The nearest count of a flat band: a knit stitch at each end, a rib that begins and ends alike between them."""
    multiple = find_pattern(RIB).chart.multiple
    return max(2 * multiple, multiple * round(wanted / multiple))


def _flat_band(
    name: str, body: SweaterBody, own: tuple[Segment, ...], *, begins: tuple[Source, ...], high: float = BAND_MM
) -> Piece:
    rows = border_rows(RIB, high, body.back.evidence)
    middle = rows // 2 + 1 - (rows // 2) % 2  # a right-side row
    edge = Segment(role="edge", pattern=find_pattern("garter"), repeats=1)
    holes = find_pattern(BUTTONHOLE)
    phase = (_EYELET - middle) % holes.chart.height
    placed = tuple(replace(s, phase=phase) if s.pattern_id == BUTTONHOLE else s for s in own)
    segments = (edge, *placed, edge)
    wide = sum(segment_um(s, body.back.measure) for s in segments) / 1000.0
    piece = Piece(
        name=name,
        width_mm=wide,
        height_mm=high,
        evidence=body.back.evidence,
        bands=(Band(own=segments, rows=rows),),
        tolerance_mm=max(15.0, wide / 10.0),
        bottom=Border(rows=0),
        top=Border(rows=0),
        setup_rows=0,
        begins=begins,
    )
    return replace(piece, height_mm=max(10.0, round(plan_rows(piece).height_um / 1000.0, 1)))


def button_places_mm(band: Piece) -> list[float]:
    """How far along a front the middles of its buttonholes lie, as the band is held to it."""
    view, stitch = band.band_views[0], along_um(band.measure) / 1000.0
    starts = [0, *accumulate(s.stitches for s in view.segments)]
    return [(at + 1) * stitch for at, s in zip(starts, view.segments, strict=False) if s.pattern_id == BUTTONHOLE]
