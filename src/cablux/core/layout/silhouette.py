"""The silhouette of a piece: its edges from the cast-on up, with steps and slants, and how long a part of them is."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import Literal

from ..gauge import Measure
from ..shaping.lives import Column
from .caston import plan_cast_on
from .heights import plan_rows
from .piece import BandView, Piece
from .shaped import ShapedBand, shape_band
from .widths import body_um, segment_um

Side = Literal["right", "left"]
Place = tuple[float, float]
"""Micrometres from the middle (less than 0 to the left) and from the cast-on."""


@dataclass(frozen=True)
class Slice:
    """A part of the silhouette: from `low` to `high` above the cast-on, and its left and right ends at both, all in µm.

    `kind`: a border, or the body.
    """

    low: float
    high: float
    below: tuple[float, float]
    above: tuple[float, float]
    kind: str


@lru_cache(maxsize=128)
def silhouette(piece: Piece) -> tuple[Slice, ...]:
    """The slices of a piece from the bottom; a tube is laid flat, half as wide as its way round."""
    ends, rows, half = plan_cast_on(piece), plan_rows(piece), 2.0 if piece.round else 1.0
    out: list[Slice] = []
    at = 0.0

    def middle(um: float) -> tuple[float, float]:
        return -um / 2.0 / half, um / 2.0 / half

    if piece.bottom.rows:
        at = rows.bottom * rows.bottom_row_um
        out.append(Slice(0.0, at, middle(ends.bottom.border_um), middle(ends.bottom.border_um), "border"))
    for view, band in zip(piece.band_views, rows.bands, strict=True):
        if view.shaping is None:
            wide = middle(float(body_um(view, view.outlook)))
            out.append(Slice(at, at + band.height_um, wide, wide, "body"))
        else:
            found = shape_band(view)
            stations = found.stations.stations
            if view.shaping.short:
                ends_at = _worked_ends(found)
            elif view.round or view.shaping.sections:
                ends_at = {s.row: middle(s.width_um) for s in stations}
            else:  # its edges, and so its steps, lie where they are worked
                ends_at = {row: _ends(found, row) for row in _corners(found)}
            row_um = stations[-1].at_um / max(1, stations[-1].row)
            for a, b in pairwise(sorted(ends_at)):
                out.append(Slice(at + a * row_um, at + b * row_um, ends_at[a], ends_at[b], "body"))
        at += band.height_um
    if piece.top.rows:
        high = rows.top * rows.top_row_um
        out.append(Slice(at, at + high, middle(ends.top.border_um), middle(ends.top.border_um), "border"))
    return tuple(out)


def _corners(found: ShapedBand) -> set[int]:
    """The rows of a band after which its edges turn: stations, and before and after each row that binds off."""
    bound = {at for at, row in enumerate(found.lives.rows) if row.bound}
    return {s.row for s in found.stations.stations} | bound | {at + 1 for at in bound}


def _worked_ends(found: ShapedBand) -> dict[int, tuple[float, float]]:
    """Where short rows have ended: for each number of rows, the ends of the columns that were worked so often."""
    living = found.lives.living[0]
    worked = [0] * len(living)
    for row in found.lives.rows:
        low, high = row.reach or (0, len(living))
        for at in range(low, high):
            worked[at] += 1
    if found.view.shaping is not None and found.view.shaping.sections:
        return {n: _part_ends(found, [w >= n for w in worked]) for n in {0, *worked}}
    return {n: _ends_of(found, tuple(c for c, w in zip(living, worked, strict=True) if w >= n)) for n in {0, *worked}}


def _part_ends(found: ShapedBand, part: list[bool]) -> tuple[float, float]:
    """The left and the right end of a part of the needle whose sections have some of their columns only."""
    view = found.view
    each = [
        segment_um(view.segments[lane], view.outlook) / view.segments[lane].stitches for lane, _ in found.lives.first
    ]
    right = sum(each) / 2.0 - sum(each[: part.index(True)])
    return right - sum(um for um, there in zip(each, part, strict=True) if there), right


def widest_um(view: BandView, measure: Measure | None = None) -> float:
    """How wide a band is where it is widest; less than its layout where some columns live in none of its rows."""
    whole, shaping = float(body_um(view, measure)), view.shaping
    if shaping is None or view.round or shaping.sections or shaping.bend or shaping.writes_rows:
        return whole
    found = shape_band(view)
    row, count = max(((s.row, s.count) for s in found.stations.stations), key=lambda each: each[1])
    if count >= view.stitches:
        return whole
    right, left = reversed(_ends(found, row))
    return (right - left) * whole / float(body_um(view, view.outlook))


def _ends(found: ShapedBand, row: int) -> tuple[float, float]:
    """The left and the right end of what lives after a row."""
    return _ends_of(found, found.lives.living[row])


def _ends_of(found: ShapedBand, living: tuple[Column, ...]) -> tuple[float, float]:
    """The left and the right end of some columns side by side, counted out from the middle one, which stays."""
    view, plane = found.view, found.plane
    each = [segment_um(s, view.outlook) / s.stitches for s in view.segments]
    widths = [each[lane] for lane, _ in living]
    inner = [at for at, (lane, _) in enumerate(living) if not view.segments[lane].is_side]
    if not inner:
        return -sum(widths) / 2.0, sum(widths) / 2.0
    middle = inner[len(inner) // 2]
    lane, column = living[middle]
    before = sum(s.stitches * each[at] for at, s in enumerate(view.segments) if plane.first <= at < lane)
    sides = [s.stitches * each[at] for at, s in enumerate(view.segments) if s.is_side]
    whole = sum(s.stitches * each[at] for at, s in enumerate(view.segments))
    right = whole / 2.0 - (sides[0] if sides else 0.0) - before - column * each[lane]
    return right - sum(widths[middle:]), right + sum(widths[:middle])


def edge_path(piece: Piece, side: Side, start_um: float = 0.0, end_um: float = math.inf) -> tuple[Place, ...]:
    """An edge of a piece as corners from one height to another, from the bottom up."""
    at = 1 if side == "right" else 0
    line: list[Place] = []
    for s in silhouette(piece):
        line += [(s.below[at], s.low), (s.above[at], s.high)]
    return tuple(_sewn(tuple(_cut(line, start_um, min(end_um, line[-1][1])))))


def _sewn(line: tuple[Place, ...]) -> Iterator[Place]:
    """A line as it is sewn: a corner between two ledges lies inside the seam, which runs from step to step."""
    corners = [place for at, place in enumerate(line) if not at or math.dist(place, line[at - 1]) > _SAME]
    for at, place in enumerate(corners):
        before, after = corners[max(0, at - 1)], corners[min(len(corners) - 1, at + 1)]
        soon = place[1] + NEXT_STEP * (place[1] - before[1])
        more = any(_is_ledge(a, b) and a[1] <= soon for a, b in pairwise(corners[at:]))
        if not (at and _is_ledge(before, place) and abs(after[0] - place[0]) < _SAME and more):
            yield place


NEXT_STEP = 2.5
"""Steps follow each other every second row; a ledge is as high as the row that binds it off. Half a row is to spare."""
_SAME = 1.0  # micrometres: sums of the same widths in another order


def _is_ledge(a: Place, b: Place) -> bool:
    return abs(b[0] - a[0]) > abs(b[1] - a[1])


def _cut(line: list[Place], low: float, high: float) -> Iterator[Place]:
    """What of a line that rises lies between two heights."""
    for (x1, y1), (x2, y2) in pairwise(line):
        if y2 <= low:
            continue
        if y1 > high or (y1 == high and y2 > high):
            break
        a, b = max(y1, low), min(y2, high)
        slope = (x2 - x1) / (y2 - y1) if y2 > y1 else 0.0
        yield (x1 + slope * (a - y1), a)
        yield (x1 + slope * (b - y1) if y2 > y1 else x2, b)


def top_line(piece: Piece) -> tuple[Place, ...]:
    """The top of a piece from its right end to its left one: level, or sloped where short rows end it."""
    slices, shaping = silhouette(piece), piece.bands[-1].shaping
    last = slices[-1]
    level = ((last.above[1], last.high), (last.above[0], last.high))
    if shaping is None or not shaping.short or piece.top.rows:
        return level
    begin = last.high - plan_rows(piece).bands[-1].height_um
    sloped = [s for s in slices if s.low >= begin - _SAME]
    rights = [place for s in sloped for place in ((s.below[1], s.low), (s.above[1], s.high))]
    lefts = [place for s in reversed(sloped) for place in ((s.above[0], s.high), (s.below[0], s.low))]
    return (*rights, *lefts)


def end_path(piece: Piece, end: Literal["cast-on", "bind-off"], start_um: float, end_um: float) -> tuple[Place, ...]:
    """What of an end lies between two distances from its right end, measured level; nothing that stands upright.

    A tube lies flat: what is behind is told where it lies behind the front.
    """
    first = silhouette(piece)[0]
    line = top_line(piece) if end == "bind-off" else ((first.below[1], first.low), (first.below[0], first.low))
    right, wide = line[0][0], line[0][0] - line[-1][0]
    if piece.round and start_um + min(end_um, 2.0 * wide) > 2.0 * wide:  # most of it lies behind
        start_um, end_um = max(0.0, 2.0 * wide - end_um), min(wide, 2.0 * wide - start_um)
    low, high = right - end_um, right - start_um
    out: list[Place] = []
    for (x1, y1), (x2, y2) in pairwise(line):
        a, b = min(x1, high), max(x2, low)
        if a <= b:  # outside, or the side below its slope
            continue
        slope = (y2 - y1) / (x2 - x1)
        out += [(a, y1 + slope * (a - x1)), (b, y1 + slope * (b - x1))]
    return tuple(out)


PULLED, MOST_PULLED = 0.13, 4.0
"""An edge that crossings decrease is pulled in: of its straight line 13 in 100 are lost, four stitches at the most. A
fit to ten backs laid out loop by loop (14 to 24 stitches to 10 cm, shoulders of 7 to 27 cm), within 5 mm of each."""


def pulled_um(straight_um: float, stitch_um: float) -> float:
    """How long an edge lies that crossings decrease, by the length of its straight line."""
    return straight_um - min(PULLED * straight_um, MOST_PULLED * stitch_um)


def crossed_away(piece: Piece) -> tuple[float, float]:
    """Between which heights crossings decrease a piece's edges; twice the same where none do."""
    at = plan_rows(piece).bottom * plan_rows(piece).bottom_row_um
    for view, band in zip(piece.band_views, plan_rows(piece).bands, strict=True):
        if view.shaping is not None and any(step.kind == "crossed" for step in view.shaping.steps):
            rows = [n for n, row in enumerate(shape_band(view).lives.rows) if row.crossed]
            begin = at + band.lead * band.row_um
            return begin + rows[0] * band.row_um, begin + (rows[-1] + 1) * band.row_um
        at += band.height_um
    return at, at


def path_um(path: tuple[Place, ...]) -> float:
    """How long a line is."""
    return sum(math.dist(a, b) for a, b in pairwise(path))


def top_um(piece: Piece) -> float:
    """How wide the top edge of a piece is."""
    left, right = silhouette(piece)[-1].above
    return right - left
