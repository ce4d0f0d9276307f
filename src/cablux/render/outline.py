"""The outline of a piece to scale: slices between its stations, and where its panels lie in them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

from ..core.ends.cast_on import plan_cast_on
from ..core.garment.silhouette import Slice, silhouette
from ..core.piece.piece import BandView, Piece
from ..core.piece.widths import body_um, segment_um
from ..core.rows.heights import plan_rows
from ..core.rows.shaped_band import ShapedBand, plan_stations, shape_band, worked_view
from ..core.units import Unit, length_text
from .svg import Point


@dataclass(frozen=True)
class PanelArea:
    """Where a panel lies: its corners in micrometres, from the middle and from the cast-on, and its family."""

    corners: tuple[Point, ...]
    family: str


@dataclass(frozen=True)
class Outline:
    """A piece in outline: its slices from the bottom, the areas of its panels, and labels at their heights."""

    slices: tuple[Slice, ...]
    panels: tuple[PanelArea, ...]
    labels: tuple[tuple[float, str], ...]

    @property
    def height(self) -> float:
        """Its height."""
        return self.slices[-1].high_um

    @property
    def widest(self) -> float:
        """Its greatest width."""
        return max(right - left for s in self.slices for left, right in (s.below_um, s.above_um))


def outline_of(piece: Piece, unit: Unit) -> Outline:
    """The outline of a piece; a tube is laid flat, half as wide as its way round."""
    ends, rows, half = plan_cast_on(piece), plan_rows(piece), 2.0 if piece.round else 1.0
    panels: list[PanelArea] = []
    labels: list[tuple[float, str]] = []
    at, around = 0.0, " round" if piece.round else ""

    if piece.bottom.rows:
        high = rows.bottom * rows.bottom_row_um
        labels.append((0.0, f"{ends.cast_on} stitches" if piece.begins else f"cast on {ends.cast_on}"))
        at = high
    for view, band in zip(piece.band_views, rows.bands, strict=True):
        wide = float(body_um(view, view.outlook))
        if view.shaping is None:
            words = f"{view.stitches} stitches, {length_text(wide / 1000.0, unit)}"
            labels.append((at + band.height_um / 2.0, words + around))
            worked, lead = worked_view(view), at + band.lead * band.row_um
            straight = worked.shaping is None
            panels += (
                _whole(view, wide, half, low=at, high=at + band.height_um) if straight else _shaped(worked, half, lead)
            )
        else:
            stations = plan_stations(view).stations
            for s in stations:
                said = f"{s.count} stitches, {length_text(s.width_um / 1000.0, unit)}{around}"
                if abs(s.off_mm) > piece.tolerance_mm:
                    said += f" (wanted {length_text(s.station.width_mm, unit)})"
                if not labels or labels[-1][1] != said:  # two places of one width, one above the other, are told once
                    labels.append((at + s.at_um, said))
            panels += _shaped(view, half, at) if not view.shaping.slopes else []
        at += band.height_um
    if piece.top.rows:
        high = rows.top * rows.top_row_um
        labels.append((at + high, f"bind off {ends.top.count}"))
    return Outline(silhouette(piece), tuple(panels), tuple(labels))


def _whole(view: BandView, wide: float, half: float, *, low: float, high: float) -> list[PanelArea]:
    """The panels and edges of an unshaped band; of a tube those of the half in front."""
    out, right = [], wide * (0.5 - _front(view))
    for s in view.segments:
        left = right - segment_um(s, view.outlook)
        a, b = max(left, -wide / 2.0 / half), min(right, wide / 2.0 / half)
        if (s.is_panel or s.is_side) and b > a:
            out.append(PanelArea(((a, low), (b, low), (b, high), (a, high)), s.pattern.family))
        right = left
    return out


def _front(view: BandView) -> float:
    """What of a tube lies in front, as a part of the way round from the layout's middle to the right."""
    ends = _places(view, {at: s.stitches for at, s in enumerate(view.segments)})
    whole = sum(right - left for left, right in ends.values())
    return _middle(view, ends, whole) / whole


def _places(view: BandView, active_now: Mapping[int, int]) -> dict[int, tuple[float, float]]:
    """The left and the right end of each segment of which so many columns live, from the middle of the row."""
    each = [segment_um(s, view.outlook) / s.stitches for s in view.segments]
    right = sum(each[at] * n for at, n in active_now.items()) / 2.0
    out = {}
    for at in range(len(each)):
        left = right - each[at] * active_now.get(at, 0)
        out[at] = left, right
        right = left
    return out


def _middle(view: BandView, ends: Mapping[int, tuple[float, float]], whole: float) -> float:
    """The middle of a tube's panels, where they fill less than half of it; else the layout's."""
    panels = [ends[at] for at, s in enumerate(view.segments) if s.is_panel and ends[at][0] < ends[at][1]]
    if not view.round or not panels:
        return 0.0
    low, high = min(a for a, _ in panels), max(b for _, b in panels)
    return (low + high) / 2.0 if high - low <= whole / 2.0 else 0.0


def _shaped(view: BandView, half: float, at: float) -> list[PanelArea]:
    """The panels of a shaped band, between the heights at which they are worked, as wide as what lives of them."""
    found = shape_band(view)
    row_um = found.stations.stations[-1].at_um / max(1, found.rows)
    out: list[PanelArea] = []
    if view.shaping is not None and not view.shaping.in_sections:
        return _upright(found, at, row_um)
    for place, s in enumerate(view.segments):
        worked = [r for r, numbers in enumerate(found.numbers) if numbers[place] > 0]
        if not s.is_panel or not worked:
            continue
        low, high = worked[0], worked[-1] + 1
        rows = sorted({low, high, *(t.row for t in found.stations.stations if low < t.row < high)})
        ends = [_ends(found, place, row, half=half) for row in rows]
        rights = [(right, at + row * row_um) for (_, right), row in zip(ends, rows, strict=True)]
        lefts = [(left, at + row * row_um) for (left, _), row in zip(ends, rows, strict=True)]
        if any(right > left for left, right in ends):
            out.append(PanelArea((*rights, *reversed(lefts)), s.pattern.family))
    return out


def _upright(found: ShapedBand, at: float, row_um: float) -> list[PanelArea]:
    """Where only the edges are shaped, panels stand upright in the layout's own places."""
    view, out = found.view, []
    right = sum(segment_um(s, view.outlook) for s in view.segments) / 2.0
    there = [Counter(lane for lane, _ in active_now) for active_now in found.active.columns[1:]]
    for place, s in enumerate(view.segments):
        left = right - segment_um(s, view.outlook)
        worked = [
            r
            for r, (numbers, active) in enumerate(zip(found.numbers, there, strict=True))
            if numbers[place] > 0 and 2 * active[place] >= s.stitches
        ]
        if s.is_panel and worked:
            low, high = at + worked[0] * row_um, at + (worked[-1] + 1) * row_um
            out.append(PanelArea(((left, low), (right, low), (right, high), (left, high)), s.pattern.family))
        right = left
    return out


def _ends(found: ShapedBand, place: int, row: int, *, half: float) -> tuple[float, float]:
    """The left and the right end of a segment after a row, from the middle; of a tube within the half in front."""
    view, ends = found.view, _places(found.view, Counter(lane for lane, _ in found.active.columns[row]))
    whole = sum(right - left for left, right in ends.values())
    middle, side = _middle(view, ends, whole), whole / 2.0 / half
    left, right = (max(-side, min(side, end - middle)) for end in ends[place])
    return left, right
