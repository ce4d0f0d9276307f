"""Sleeves: from the cuff, wider in a schedule to the upper arm; bound off straight, or with a cap for an armhole."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from itertools import product

from ...errors import Infeasible
from ...garment.silhouette import edge_path, path_um, top_um
from ...library import StitchPattern, find_pattern
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ...piece.widths import body_row_um
from ...rows.heights import plan_rows
from ...shaping.edge_steps import EdgeStep
from ...shaping.edges import EdgeShaped
from ...shaping.manner import CUT_PANELS
from ..asks import ShapeAnswers
from ..halves import panel_half
from ..shape import BACKGROUND, Wanted, border_rows, plain
from .torso import RIB, seam

FLAT_TOP_MM = (80.0, 100.0)
"""Common practice: the top of a cap is bound off flat over 5 to 10 cm."""
CAP_EASE = 0.02
"""Common practice: a cap's edge is 0 to 2.5 cm longer than its armhole, of 45 to 50 cm: a fiftieth."""
CAP_STEP, MOST_STEPS = 3, 8
"""Our choice: where a cap would be too high, three stitches a side are bound off below its top, eight times at most."""


@dataclass(frozen=True, kw_only=True)
class SleeveWish:
    """What a sleeve is to be: widths at wrist and top, its length to the armhole, its cuff; the armhole that it fits.

    `bound`: what is bound off at each side below a cap, as at the body's armholes; 0 where its top is straight.
    `straight_mm`: rows of it, in millimetres, that lie along what a modified armhole binds off.
    """

    wrist_mm: float
    top_mm: float
    length_mm: float
    cuff_mm: float
    armhole_mm: float
    bound: int = 0
    straight_mm: float = 0.0


def lay_out_sleeve(
    wanted: Wanted[ShapeAnswers], wish: SleeveWish, panels: Sequence[StitchPattern]
) -> tuple[Segment, ...]:
    """The sleeve at its widest: a panel in its middle, background on both sides; plain where none fits the wrist."""
    measure, background = wanted.evidence.measure, wanted.background or find_pattern(BACKGROUND)
    wide, narrow = wish.top_mm * 1000.0, wish.wrist_mm * 1000.0
    for panel in panels:
        found = panel_half(panel, background, measure, half_um=wide)
        cable = sum(s.stitches for s in found or () if s.is_panel) * measure.gauge.stitch_mm * 1000.0
        if found is not None and cable < narrow:
            return (seam(), *_even(found), seam())
    return (seam(), plain(2 * max(2, round(wish.top_mm / measure.gauge.stitch_mm / 2.0))), seam())


def _even(found: tuple[Segment, ...]) -> tuple[Segment, ...]:
    """An even number of stitches, as a 2 × 2 rib wants them: a panel of an odd number stands half a stitch aside."""
    last = found[-1]
    more = last.chart.repeats_for(last.stitches + 1) if sum(s.stitches for s in found) % 2 else None
    return (*found[:-1], replace(last, repeats=more)) if more else found


def sleeve_piece(wanted: Wanted[ShapeAnswers], wish: SleeveWish, panels: Sequence[StitchPattern]) -> Piece:
    """The sleeve as it is wished for. Raises Infeasible where its cap cannot be as long as the armhole."""
    own = lay_out_sleeve(wanted, wish, panels)
    cuff = Border(pattern_id=RIB, rows=border_rows(RIB, wish.cuff_mm, wanted.evidence), factor=0.9)
    bare = Piece(
        name="Sleeve",
        width_mm=wish.top_mm,
        height_mm=wish.length_mm,
        evidence=wanted.evidence,
        bands=(Band(own=own, rows=2),),
        tolerance_mm=max(15.0, wish.top_mm / 12.0),
        bottom=cuff,
        top=Border(rows=0),
        setup_rows=0,
    )
    row_mm = body_row_um(bare.band_views[0]) / 1000.0
    cuff_mm = plan_rows(bare).bottom * plan_rows(bare).bottom_row_um / 1000.0
    arm = max(4, 2 * round((wish.length_mm - cuff_mm) / row_mm / 2.0))
    stations = [Station(name="Wrist", width_mm=wish.wrist_mm), Station(name="Upper arm", width_mm=wish.top_mm, row=arm)]
    if wish.straight_mm > 0.0:
        stations.append(Station(name="Top", width_mm=wish.top_mm, row=arm + 2 * round(wish.straight_mm / row_mm / 2.0)))
    shaping = EdgeShaped(stations=tuple(stations), manner=CUT_PANELS)
    arm_piece = replace(bare, bands=(Band(own=own, shaping=shaping),))
    if not wish.bound:
        return _tall(arm_piece)
    return _with_cap(arm_piece, shaping, wish, row_mm=row_mm, wanted_text=wanted.length)


def _tall(piece: Piece) -> Piece:
    return replace(piece, height_mm=round(plan_rows(piece).height_um / 1000.0, 1))


def _with_cap(
    piece: Piece, arm: EdgeShaped, wish: SleeveWish, *, row_mm: float, wanted_text: Callable[[float], str]
) -> Piece:
    """The cap whose edge is as long as the armhole with its ease, or comes nearest to that.

    Tried with its top bound off flat, then with more and more steps below the top, which make it lower.
    """
    wanted, best = (1.0 + CAP_EASE) * wish.armhole_mm, list[tuple[float, Piece]]()
    stitch, count = piece.measure.gauge.stitch_mm, piece.band_views[0].stitches
    for steps, flat in product(range(MOST_STEPS + 1), FLAT_TOP_MM):
        top = max(4, 2 * round(flat / stitch / 2.0)) + count % 2
        changes = (count - top) // 2 - wish.bound - CAP_STEP * steps
        if changes < 1:
            continue

        def cap(rows: int, top: int = top, steps: int = steps) -> tuple[float, Piece]:
            made = _cap(piece, arm, wish.bound, rows=rows, top=top, steps=steps)
            return cap_um(made) / 1000.0, made

        low, high = changes, max(changes + 1, round(1.3 * wish.armhole_mm / row_mm / 2.0))
        best += [cap(2 * low)]
        while high - low > 1 and best[-1][0] < wanted:  # the higher, the longer: halved until it fits
            middle = (low + high) // 2
            found = cap(2 * middle)
            low, high = (middle, high) if found[0] < wanted else (low, middle)
            best.insert(len(best) - 1, found)
        if min(abs(long - wanted) for long, _ in best) <= row_mm * 2.0:
            break
    if not best:
        raise Infeasible(
            "The sleeve is too narrow for a cap: make its upper arm wider, or choose a dropped shoulder.",
            clash=("upper_arm", "construction"),
        )
    long, made = min(best, key=lambda each: abs(each[0] - wanted))
    if abs(long - wanted) > 1.5 * CAP_EASE * wish.armhole_mm:
        raise Infeasible(
            f"No cap of this sleeve is as long as its armhole, {wanted_text(wish.armhole_mm)}: the nearest is "
            f"{wanted_text(long)}. Make the upper arm {'narrower' if long > wanted else 'wider'}, or the armhole "
            f"{'deeper' if long > wanted else 'less deep'}.",
            clash=("upper_arm", "armhole_depth"),
            nearest=long,
        )
    return made


def _cap(piece: Piece, arm: EdgeShaped, bound: int, *, rows: int, top: int, steps: int) -> Piece:
    """A cap of so many rows above what its underarms bind off, with steps of three stitches below a flat top."""
    last, begins = len(arm.stations) - 1, arm.stations[-1].row or 0
    stations = [
        *arm.stations,
        Station(name="Cap", width_mm=0.0, count=top + 2 * CAP_STEP * steps, row=begins + 2 + rows),
    ]
    each = [EdgeStep(station=last, counts=(bound,))]
    if steps:
        stations.append(Station(name="Top of the cap", width_mm=0.0, count=top, paced=True))
        each.append(EdgeStep(station=last + 1, counts=(CAP_STEP,) * steps))
    shaping = replace(arm, stations=tuple(stations), steps=tuple(each))
    return _tall(replace(piece, bands=(replace(piece.bands[0], shaping=shaping),)))


def cap_begins_mm(piece: Piece) -> float:
    """How high the upper arm of a sleeve is reached, above which its edges are sewn into the armhole."""
    plan, shaping = plan_rows(piece), piece.bands[0].shaping
    row = plan.bands[0].lead + ((shaping.stations[1].row if shaping else 0) or 0)
    return (plan.bottom * plan.bottom_row_um + row * plan.bands[0].row_um) / 1000.0


def cap_um(piece: Piece) -> float:
    """The edge of a sleeve's cap, from underarm to underarm."""
    start = cap_begins_mm(piece) * 1000.0
    return path_um(edge_path(piece, "right", start)) + top_um(piece) + path_um(edge_path(piece, "left", start))
