"""The silhouette of a piece: its edges from the cast-on up, with steps and slants, and how long a part of them is."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import Literal

from ..ends.cast_on import plan_cast_on
from ..gauge import Measure
from ..piece.own_outline import OutlinePoint, OwnOutline
from ..piece.piece import BandView, Piece
from ..piece.widths import body_um
from ..rows.heights import plan_rows
from ..rows.shaped_band import shape_band
from ..units import Unit, length_text

PieceSide = Literal["right", "left"]


@dataclass(frozen=True, kw_only=True)
class Slice:
    """A part of the silhouette: from `low_um` to `high_um` above the cast-on, and its left and right ends at both.

    `kind`: a border, or the body.
    """

    low_um: float
    high_um: float
    below_um: tuple[float, float]
    above_um: tuple[float, float]
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
        out.append(
            Slice(
                low_um=0.0,
                high_um=at,
                below_um=middle(ends.bottom.border_um),
                above_um=middle(ends.bottom.border_um),
                kind="border",
            )
        )
    for view, band in zip(piece.band_views, rows.bands, strict=True):
        if view.shaping is None:
            wide = middle(float(body_um(view, view.outlook)))
            out.append(Slice(low_um=at, high_um=at + band.height_um, below_um=wide, above_um=wide, kind="body"))
        else:
            found = shape_band(view)
            last, ends_at = found.stations.stations[-1], found.row_ends
            row_um = last.at_um / max(1, last.row)
            for a, b in pairwise(sorted(ends_at)):
                out.append(
                    Slice(
                        low_um=at + a * row_um,
                        high_um=at + b * row_um,
                        below_um=ends_at[a],
                        above_um=ends_at[b],
                        kind="body",
                    )
                )
        at += band.height_um
    if piece.top.rows:
        high = rows.top * rows.top_row_um
        out.append(
            Slice(
                low_um=at,
                high_um=at + high,
                below_um=middle(ends.top.border_um),
                above_um=middle(ends.top.border_um),
                kind="border",
            )
        )
    return tuple(out)


def own_outline(piece: Piece) -> OwnOutline | None:
    """The outline of a piece whose rows do not lie level, as its shaping tells it; None where they do."""
    view = piece.band_views[0]
    alone = len(piece.bands) == 1 and view.shaping is not None
    return shape_band(view).own_outline if alone else None


@dataclass(frozen=True, kw_only=True)
class FinishedSize:
    """What a piece measures across and along, in micrometres, and what that is called where it is no width and height.

    `across`, `along`: the words behind each; empty where they are its width and its height.
    """

    across_um: float
    along_um: float
    across: str = ""
    along: str = ""

    def text(self, unit: Unit, by: str = "×", give: str = "") -> str:
        """`54.2 cm × 30 cm`, or with what each is; `give` stands behind what it measures across."""
        across, along = (length_text(um / 1000.0, unit) for um in (self.across_um, self.along_um))
        words = (across, self.across, give, by, along, self.along)
        return " ".join(word for word in words if word)


def finished_size(piece: Piece, width_um: float) -> FinishedSize:
    """The size of a piece, told by its own measures where its rows do not lie level; `width_um` is its main band's."""
    own = own_outline(piece)
    if own is None or own.across is None or own.along is None:
        return FinishedSize(across_um=width_um, along_um=plan_rows(piece).height_um)
    return FinishedSize(across_um=own.across.um, along_um=own.along.um, across=own.across.name, along=own.along.name)


def widest_um(view: BandView, measure: Measure | None = None) -> float:
    """How wide a band is where it is widest; less than its layout where some columns live in none of its rows."""
    whole, shaping = float(body_um(view, measure)), view.shaping
    if shaping is None or view.round or not shaping.at_edges:
        return whole
    found = shape_band(view)
    row, count = max(((s.row, s.count) for s in found.stations.stations), key=lambda each: each[1])
    if count >= view.stitches:
        return whole
    left, right = found.row_ends[row]
    return (right - left) * whole / float(body_um(view, view.outlook))


def edge_path(
    piece: Piece, side: PieceSide, start_um: float = 0.0, *, end_um: float = math.inf
) -> tuple[OutlinePoint, ...]:
    """An edge of a piece as corners from one height to another, from the bottom up."""
    at = 1 if side == "right" else 0
    line: list[OutlinePoint] = []
    for s in silhouette(piece):
        line += [(s.below_um[at], s.low_um), (s.above_um[at], s.high_um)]
    return tuple(_sewn(tuple(_cut(line, start_um, min(end_um, line[-1][1])))))


def _sewn(line: tuple[OutlinePoint, ...]) -> Iterator[OutlinePoint]:
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


def _is_ledge(a: OutlinePoint, b: OutlinePoint) -> bool:
    return abs(b[0] - a[0]) > abs(b[1] - a[1])


def _cut(line: list[OutlinePoint], low: float, high: float) -> Iterator[OutlinePoint]:
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


def top_line(piece: Piece) -> tuple[OutlinePoint, ...]:
    """The top of a piece from its right end to its left one: level, or sloped where short rows end it."""
    slices, shaping = silhouette(piece), piece.bands[-1].shaping
    last = slices[-1]
    level = ((last.above_um[1], last.high_um), (last.above_um[0], last.high_um))
    if shaping is None or not shaping.slopes or piece.top.rows:
        return level
    begin = last.high_um - plan_rows(piece).bands[-1].height_um
    sloped = [s for s in slices if s.low_um >= begin - _SAME]
    rights = [place for s in sloped for place in ((s.below_um[1], s.low_um), (s.above_um[1], s.high_um))]
    lefts = [place for s in reversed(sloped) for place in ((s.above_um[0], s.high_um), (s.below_um[0], s.low_um))]
    return (*rights, *lefts)


def end_path(
    piece: Piece, end: Literal["cast-on", "bind-off"], start_um: float, *, end_um: float
) -> tuple[OutlinePoint, ...]:
    """What of an end lies between two distances from its right end, measured level; nothing that stands upright.

    A tube lies flat: what is behind is told where it lies behind the front.
    """
    first = silhouette(piece)[0]
    line = (
        top_line(piece) if end == "bind-off" else ((first.below_um[1], first.low_um), (first.below_um[0], first.low_um))
    )
    right, wide = line[0][0], line[0][0] - line[-1][0]
    if piece.round and start_um + min(end_um, 2.0 * wide) > 2.0 * wide:  # most of it lies behind
        start_um, end_um = max(0.0, 2.0 * wide - end_um), min(wide, 2.0 * wide - start_um)
    low, high = right - end_um, right - start_um
    out: list[OutlinePoint] = []
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
        rows = [n for n, row in enumerate(shape_band(view).active.rows) if row.crossed] if _at_edges(view) else []
        if rows:
            begin = at + band.lead * band.row_um
            return begin + rows[0] * band.row_um, begin + (rows[-1] + 1) * band.row_um
        at += band.height_um
    return at, at


def _at_edges(view: BandView) -> bool:
    return view.shaping is not None and view.shaping.at_edges


def path_um(path: tuple[OutlinePoint, ...]) -> float:
    """How long a line is."""
    return sum(math.dist(a, b) for a, b in pairwise(path))


def top_um(piece: Piece) -> float:
    """How wide the top edge of a piece is."""
    left, right = silhouette(piece)[-1].above_um
    return right - left
