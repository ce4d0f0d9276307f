"""The front of a body beside its back: how much wider or shorter it is, how its shoulders end, and its neck."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from itertools import accumulate

from ...errors import Infeasible
from ...garment.silhouette import pulled_um
from ...gauge import Measure
from ...piece.segment import Segment
from ...piece.widths import segment_um, stitch_widths
from ..shape import Wanted
from .sweater_answers import SweaterAnswers
from .torso import Torso

NECK_DEPTH = {"crew": 1.0, "V": 2.0, "boat": 0.4}
"""Our choice: a V is twice as deep as a crew neck of the depth that is asked, a boat neck less than half."""
NECK_HELD = {"crew": 0.5, "V": 0.0, "boat": 0.7}
"""Our choice: what of the front neck is held in its middle; the rest is decreased to both sides."""


def front_beside(wanted: Wanted[SweaterAnswers], back: Torso, row_mm: float, *, construction: str) -> Torso:
    """The front of such a back before its neck is shaped.

    What it is wider goes at the armholes; what the back is longer hangs below it. Where the back alone slopes, the
    front reaches over the shoulder, so that both together slope half as much, and is as wide there as the slope lies.
    Raises Infeasible for what cannot be.
    """
    front = _wider(wanted, back, construction)
    less = 2 * round(wanted.answers.back_longer_mm / row_mm / 2.0)
    if back.body - less < 4:
        raise Infeasible(
            "The back hangs lower than the front is long below the armholes: let it hang less low.",
            clash=("back_longer", "length"),
        )
    segments = tuple(_begun_later(s, less) for s in front.segments)
    front = replace(front, body=back.body - less, segments=segments)
    if back.kind != "crossed":
        return front
    each, own = (stitch_widths(torso.segments, wanted.evidence.measure) for torso in (back, front))
    across, rise = sum(each[back.armhole :][: back.shoulder]), back.slope_rows * row_mm * 1000.0
    reach = list(accumulate(own[front.armhole : front.stitches // 2]))
    long = pulled_um(math.hypot(across, rise), wanted.evidence.gauge.stitch_mm * 1000.0)
    more = min(range(len(reach)), key=lambda n: abs(reach[n] - long)) + 1 - back.shoulder
    if back.neck - 2 * more < 4:
        raise Infeasible(
            "So narrow a neck is used up by the slope of the shoulders: make it wider.", clash=("neck_width",)
        )
    depth = back.depth + back.slope_rows
    return replace(front, kind="straight", shoulder=back.shoulder + more, neck=back.neck - 2 * more, depth=depth)


def _begun_later(s: Segment, rows: int) -> Segment:
    """A segment that goes on as if so many rows of it lay below; begun on the right side."""
    now = (s.phase + rows) % s.chart.height
    return replace(s, phase=now - now % 2) if rows else s


def _wider(wanted: Wanted[SweaterAnswers], back: Torso, construction: str) -> Torso:
    """With more background at both sides, which the armholes take away again."""
    wider = wanted.answers.front_wider_mm
    if not wider:
        return back
    if construction == "drop":
        raise Infeasible(
            "A dropped shoulder has no armhole that takes away what the front is wider: choose another sleeve, or "
            "let the front be as wide as the back.",
            clash=("construction", "front_wider"),
        )
    measure = wanted.evidence.measure
    more = _columns(back.segments, wider * 1000.0 / 2.0, measure)
    right, left = (_grown(back.segments[at], more) if more else None for at in (1, -2))
    if right is None or left is None:
        raise Infeasible(
            f"The front cannot be wider by {wanted.length(wider)}: its sides have no background that grows by so much. "
            "Choose another background, or panels that leave the sides free.",
            clash=("front_wider", "background", "panels"),
        )
    segments = (back.segments[0], right, *back.segments[2:-2], left, back.segments[-1])
    width = back.width_mm + 2.0 * more * segment_um(back.segments[1], measure) / back.segments[1].stitches / 1000.0
    decreased = back.decreased + (more if construction == "set-in" else 0)
    bound = back.bound + (0 if construction == "set-in" else more)
    return replace(back, segments=segments, width_mm=width, bound=bound, decreased=decreased)


def _columns(segments: Sequence[Segment], um: float, measure: Measure) -> int:
    """The columns of the outermost background that come nearest to a width, 0 where no background lies there."""
    first, last = segments[1], segments[-2]
    if not (first.is_background and last.is_background):
        return 0
    each = segment_um(first, measure) / first.stitches
    fitting = [n for n in range(1, 2 * round(um / each) + 2) if _grown(first, n) and _grown(last, n)]
    return min(fitting, key=lambda n: abs(n * each - um), default=0)


def _grown(background: Segment, more: int) -> Segment | None:
    repeats = background.chart.repeats_for(background.stitches + more)
    return replace(background, repeats=repeats) if repeats else None


def with_neck(wanted: Wanted[SweaterAnswers], front: Torso, row_mm: float) -> Torso:
    """The front with its neck: what is held of it, and the rows beside it. Raises Infeasible where it begins too low.

    Where the neck leaves too few rows for the armholes' decreases, some of those are bound off at once.
    """
    answers, bound, narrower = wanted.answers, front.bound, front.decreased
    line = answers.neckline
    held = 2 * round(NECK_HELD[line] * front.neck / 2.0) + front.neck % 2
    neck_rows = max(4, 2 * round(NECK_DEPTH[line] * answers.neck_depth_mm / row_mm / 2.0))
    slow = 1 if line == "boat" else 2  # a boat neck is decreased in every row
    least = slow * ((front.neck - held) // 2) + 2
    neck_rows = max(neck_rows, least + least % 2)
    below = 2 + 2 * narrower if bound else 0
    if line == "V" and bound and front.depth - below >= least:
        neck_rows = min(neck_rows, front.depth - below)  # twice as deep is our choice: as deep as the armholes leave it
    room = (front.depth - neck_rows - 2) // 2
    if bound and 1 <= room < narrower and 2 * room >= narrower - bound:  # wide bodies bind off more, and decrease less
        bound, narrower, below = bound + narrower - room, room, 2 + 2 * room
    if bound and front.depth - neck_rows < below:
        raise Infeasible(
            "The front neck would begin before the armholes are shaped: make the armholes deeper, or the neck less "
            "deep.",
            clash=("armhole_depth", "neck_depth"),
        )
    return replace(front, bound=bound, decreased=narrower, neck_rows=neck_rows, held=held)
