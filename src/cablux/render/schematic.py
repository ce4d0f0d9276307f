"""The schematic: a piece to scale in outline, with its measures, its stations, and what its joins leave open."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from itertools import groupby

from ..core.garment.joins import Join, PieceEdge, way_round_um
from ..core.garment.silhouette import end_path, own_outline
from ..core.piece.piece import Piece
from ..core.units import Unit, length_text
from .outline import Outline, outline_of
from .own_schematic import draw_own_schematic
from .svg import Element, Point, picture_root

Placing = Callable[[float, float], Point]

ACROSS, UP = 440.0, 320.0
_LEFT, _RIGHT, _TOP, _BOTTOM = 26.0, 150.0, 26.0, 34.0
_ROUND = 190.0
_BARE = (8.0, 8.0, 8.0, 8.0)


def draw_schematic(
    piece: Piece, unit: Unit, joins: tuple[Join, ...] = (), *, place: int = 0, bare: bool = False, scale: float = 0.0
) -> str:
    """The schematic as SVG, with its seams; `bare` leaves the words off. A piece whose ends meet lies on its side.

    `place`: where the piece stands among those that the joins speak of.
    `scale`: picture units to a micrometre, where several pieces are to be drawn to one; 0 fills the picture.
    """
    own = own_outline(piece)
    if own is not None:
        return draw_own_schematic(piece.name, own, unit, bare=bare, scale=scale)
    outline = outline_of(piece, unit)
    lying = piece.meets
    across, up = (outline.height, outline.widest) if lying else (outline.widest, outline.height)
    left, right, top, bottom = _BARE if bare else (_LEFT, _RIGHT, _TOP, _BOTTOM)
    if not bare:
        right = _LEFT if lying else _ROUND if piece.round else right
    scale = scale or min((ACROSS - left - right) / across, (UP - top - bottom) / up)
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
        sides = [(s.below_um, s.low_um) for s in parts] + [(parts[-1].above_um, parts[-1].high_um)]
        corners = [(ends[0], y) for ends, y in sides] + [(ends[1], y) for ends, y in reversed(sides)]
        root.add("path", class_=f"schematic-{kind}", d=_path([point(*c) for c in corners]))
    for panel in outline.panels:
        css = f"schematic-panel family-{panel.family}"
        root.add("path", class_=css, d=_path([point(*c) for c in panel.corners]))
    _draw_joins(root, piece, outline, place=point, joins=joins, number=place)
    if not bare:
        ring = way_round_um(piece, joins, joins[0].one.piece) if joins and lying else None
        _draw_measures(root, outline, point, unit=unit, lying=lying, edge=left + across * scale, ring=ring)
    return root.write()


def _path(points: list[Point]) -> str:
    return "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points) + "Z"


def _draw_joins(
    root: Element, piece: Piece, outline: Outline, *, place: Placing, joins: tuple[Join, ...], number: int
) -> None:
    """The joined edges of a piece, by its place among the project's, as seams; with a gap where they stay open."""
    for join in joins:
        for end in (e for e in join.edges if e.piece == number):
            if end.edge != "cast-on" and end.edge != "bind-off":
                for part in _sewn_sides(outline, end, join):
                    d = "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in (place(*at) for at in part))
                    root.add("path", class_="schematic-seam", d=d)
                continue
            marks = [end.start_mm * 1000.0]
            for o in sorted(join.openings, key=lambda o: o.start_mm):
                marks += [o.start_mm * 1000.0, o.end_mm * 1000.0]
            marks.append(end.end_mm * 1000.0 or math.inf)
            for start, stop in zip(marks[::2], marks[1::2], strict=True):
                d = "L".join(
                    f"{x:.1f} {y:.1f}" for x, y in (place(*at) for at in end_path(piece, end.edge, start, end_um=stop))
                )
                root.add("path", class_="schematic-seam", d=f"M{d}")


def _sewn_sides(outline: Outline, edge: PieceEdge, join: Join) -> Iterator[list[Point]]:
    """One side of a piece, or the part of it, from the bottom up, cut where the seam stays open."""
    side = 1 if edge.edge == "right edge" else 0
    line = [(s.below_um[side], s.low_um) for s in outline.slices]
    line.append((outline.slices[-1].above_um[side], outline.slices[-1].high_um))
    levels = [y for _, y in line]

    def at(y: float) -> Point:
        above = next((n for n, level in enumerate(levels) if level >= y), len(levels) - 1)
        (x1, y1), (x2, y2) = line[max(0, above - 1)], line[above]
        return x1 + (x2 - x1) * (y - y1) / (y2 - y1 or 1.0), y

    marks = [edge.start_mm * 1000.0]
    for o in sorted(join.openings, key=lambda o: o.start_mm):
        marks += [o.start_mm * 1000.0, o.end_mm * 1000.0]
    marks.append(min(edge.end_mm * 1000.0 or levels[-1], levels[-1]))
    for low, high in zip(marks[::2], marks[1::2], strict=True):
        yield [at(low), *((x, y) for x, y in line if low < y < high), at(high)]


def _draw_measures(
    root: Element, outline: Outline, place: Placing, *, unit: Unit, lying: bool, edge: float, ring: float | None
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


def draw_beside(pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    """Pieces without words, one beside the other, all to one scale."""
    outlines = [outline_of(piece, unit) for piece in pieces]
    wide = (ACROSS - 2.0 * _BARE[0] * len(pieces)) / sum(outline.widest for outline in outlines)
    high = (UP - 2.0 * _BARE[0]) / max(outline.height for outline in outlines)
    return tuple(draw_schematic(piece, unit, bare=True, scale=min(wide, high)) for piece in pieces)
