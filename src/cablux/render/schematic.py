"""The schematic: a piece to scale in outline, with its measures, its stations, and what its joins leave open."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from itertools import groupby, pairwise

from ..core.layout.caston import plan_cast_on
from ..core.layout.heights import plan_rows
from ..core.layout.joins import Join, way_round_um
from ..core.layout.piece import BandView, Piece
from ..core.layout.shaped import shape_band
from ..core.layout.stretches import plan_stations
from ..core.layout.widths import body_um, segment_um
from ..core.units import Unit, length_text
from .svg import Element, Point, picture_root

PanelBox = tuple[float, float, float, float, str]
"""Left, low, right, high, in micrometres, and the family."""
Placing = Callable[[float, float], Point]

ACROSS, UP = 440.0, 320.0
_LEFT, _RIGHT, _TOP, _BOTTOM = 26.0, 150.0, 26.0, 34.0
_BARE = (8.0, 8.0, 8.0, 8.0)


@dataclass(frozen=True)
class Slice:
    """A part of the outline: from `low` to `high` above the cast-on, and its left and right ends at both, all in µm.

    `kind`: a border, or the body.
    """

    low: float
    high: float
    below: tuple[float, float]
    above: tuple[float, float]
    kind: str


@dataclass(frozen=True)
class Outline:
    """A piece in outline: its slices from the bottom, and panels as boxes (left, low, right, high, family)."""

    slices: tuple[Slice, ...]
    panels: tuple[PanelBox, ...]
    labels: tuple[tuple[float, str], ...]

    @property
    def height(self) -> float:
        """Its height."""
        return self.slices[-1].high

    @property
    def widest(self) -> float:
        """Its greatest width."""
        return max(right - left for s in self.slices for left, right in (s.below, s.above))


def outline_of(piece: Piece, unit: Unit) -> Outline:
    """The outline of a piece; a tube is laid flat, half as wide as its way round."""
    ends, rows, half = plan_cast_on(piece), plan_rows(piece), 2.0 if piece.round else 1.0
    slices: list[Slice] = []
    panels: list[PanelBox] = []
    labels: list[tuple[float, str]] = []
    at = 0.0

    def flat(um: float) -> tuple[float, float]:
        return -um / 2.0 / half, um / 2.0 / half

    if piece.bottom.rows:
        high = rows.bottom * rows.bottom_row_um
        slices.append(Slice(0.0, high, flat(ends.bottom.border_um), flat(ends.bottom.border_um), "border"))
        labels.append((0.0, f"cast on {ends.cast_on}"))
        at = high
    for view, band in zip(piece.band_views, rows.bands, strict=True):
        wide = float(body_um(view, view.outlook))
        if view.shaping is None:
            slices.append(Slice(at, at + band.height_um, flat(wide), flat(wide), "body"))
            words = f"{view.stitches} stitches, {length_text(wide / 1000.0, unit)}"
            labels.append((at + band.height_um / 2.0, words + (" round" if piece.round else "")))
            panels += _panels(view, wide / half, at, at + band.height_um)
        else:
            stations = plan_stations(view).stations
            for a, b in pairwise(stations):
                slices.append(Slice(at + a.at_um, at + b.at_um, flat(a.width_um), flat(b.width_um), "body"))
            for s in stations:
                said = f"{s.count} stitches, {length_text(s.width_um / 1000.0, unit)}"
                if abs(s.off_mm) > piece.tolerance_mm:
                    said += f" (wanted {length_text(s.station.width_mm, unit)})"
                if not labels or labels[-1][1] != said:  # two places of one width, one above the other, are told once
                    labels.append((at + s.at_um, said))
            panels += _worked_panels(view, at)
        at += band.height_um
    if piece.top.rows:
        high = rows.top * rows.top_row_um
        slices.append(Slice(at, at + high, flat(ends.top.border_um), flat(ends.top.border_um), "border"))
        labels.append((at + high, f"bind off {ends.top.count}"))
    return Outline(tuple(slices), tuple(panels), tuple(labels))


def _panels(view: BandView, wide: float, low: float, high: float) -> list[PanelBox]:
    """The panels and edges of an unshaped band; of a tube those of the half that has the layout's middle in front."""
    out: list[PanelBox] = []
    right, side = sum(segment_um(s, view.outlook) for s in view.segments) / 2.0, wide / 2.0
    for s in view.segments:
        left = right - segment_um(s, view.outlook)
        a, b = max(left, -side), min(right, side)
        if (s.is_panel or s.is_side) and b > a:
            out.append((a, low, b, high, s.pattern.family))
        right = left
    return out


def _worked_panels(view: BandView, at: float) -> list[PanelBox]:
    """The panels of a shaped band, in the rows in which they are worked."""
    found = shape_band(view)
    row_um = found.stations.stations[-1].at_um / max(1, found.rows)
    whole = sum(segment_um(s, view.outlook) for s in view.segments)
    out: list[PanelBox] = []
    right = whole / 2.0
    for place, s in enumerate(view.segments):
        across = segment_um(s, view.outlook)
        worked = [r for r, numbers in enumerate(found.numbers) if numbers[place] > 0]
        if s.is_panel and worked:
            low, high = at + worked[0] * row_um, at + (worked[-1] + 1) * row_um
            out.append((right - across, low, right, high, s.pattern.family))
        right -= across
    return out


def draw_schematic(piece: Piece, unit: Unit, joins: tuple[Join, ...] = (), *, bare: bool = False) -> str:
    """The schematic as SVG; `bare` leaves the words off. A piece whose ends meet lies on its side."""
    outline = outline_of(piece, unit)
    lying = piece.meets
    across, up = (outline.height, outline.widest) if lying else (outline.widest, outline.height)
    left, right, top, bottom = _BARE if bare else (_LEFT, _RIGHT, _TOP, _BOTTOM)
    if lying and not bare:
        right = _LEFT
    scale = min((ACROSS - left - right) / across, (UP - top - bottom) / up)
    wide, high = across * scale + left + right, up * scale + top + bottom
    label = f"{piece.name} in outline"
    root = picture_root(max(wide, ACROSS if not bare else wide), high, class_="schematic", role="img", aria_label=label)
    middle = left + across * scale / 2.0

    def point(x: float, y: float) -> Point:
        if lying:
            return left + y * scale, high - bottom - (x + outline.widest / 2.0) * scale
        return middle + x * scale, high - bottom - y * scale

    for kind, run in groupby(outline.slices, key=lambda s: s.kind):
        parts = list(run)
        sides = [(s.below, s.low) for s in parts] + [(parts[-1].above, parts[-1].high)]
        corners = [(ends[0], y) for ends, y in sides] + [(ends[1], y) for ends, y in reversed(sides)]
        root.add("path", class_=f"schematic-{kind}", d=_path([point(*c) for c in corners]))
    for a, low, b, upper, family in outline.panels:
        corners = [(a, low), (b, low), (b, upper), (a, upper)]
        root.add("path", class_=f"schematic-panel family-{family}", d=_path([point(*c) for c in corners]))
    _draw_joins(root, outline, point, joins)
    if not bare:
        ring = way_round_um(piece, joins, joins[0].one.piece) if joins and lying else None
        _draw_measures(root, outline, point, unit, lying=lying, edge=left + across * scale, ring=ring)
    return root.write()


def _path(points: list[Point]) -> str:
    return "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points) + "Z"


def _draw_joins(root: Element, outline: Outline, place: Placing, joins: tuple[Join, ...]) -> None:
    """Joined ends as seams, with a gap where they stay open."""
    for join in joins:
        for end in (join.one, join.other):
            if end.edge not in ("cast-on", "bind-off"):
                continue
            first, last = outline.slices[0], outline.slices[-1]
            y, (a, b) = (first.low, first.below) if end.edge == "cast-on" else (last.high, last.above)
            marks = [b]
            for o in sorted(join.openings, key=lambda o: o.start_mm):
                marks += [b - o.start_mm * 1000.0, b - o.end_mm * 1000.0]
            marks.append(a)
            for start, stop in zip(marks[::2], marks[1::2], strict=True):
                (x1, y1), (x2, y2) = place(start, y), place(stop, y)
                root.add("path", class_="schematic-seam", d=f"M{x1:.1f} {y1:.1f}L{x2:.1f} {y2:.1f}")


def _draw_measures(
    root: Element, outline: Outline, place: Placing, unit: Unit, *, lying: bool, edge: float, ring: float | None
) -> None:
    height = length_text(outline.height / 1000.0, unit)
    wide = length_text(outline.widest / 1000.0, unit)
    (x0, y0), (x1, y1) = place(-outline.widest / 2.0, 0.0), place(outline.widest / 2.0, outline.height)
    low = max(y0, y1) + 14.0
    root.add("path", class_="schematic-measure", d=f"M{min(x0, x1):.1f} {low:.1f}H{max(x0, x1):.1f}")
    words = root.add("text", x=(x0 + x1) / 2.0, y=low + 14.0, class_="schematic-middle")
    whole = length_text((ring or outline.height) / 1000.0, unit)
    words.text = f"{whole} round" if lying else wide
    side = min(x0, x1) - 12.0
    root.add("path", class_="schematic-measure", d=f"M{side:.1f} {min(y0, y1):.1f}V{max(y0, y1):.1f}")
    at = (y0 + y1) / 2.0
    words = root.add(
        "text", x=side - 4.0, y=at, class_="schematic-middle", transform=f"rotate(-90 {side - 4.0:.1f} {at:.1f})"
    )
    words.text = wide if lying else height
    if lying:
        return
    placed: list[float] = []
    for y, said in outline.labels:
        _, line = place(0.0, y)
        text_y = min([line, *(p - 15.0 for p in placed[-1:])])
        placed.append(text_y)
        root.add("path", class_="schematic-tick", d=f"M{edge + 2.0:.1f} {line:.1f}L{edge + 12.0:.1f} {text_y:.1f}")
        root.add("text", x=edge + 16.0, y=text_y + 4.0).text = said
