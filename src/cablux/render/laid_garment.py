"""A whole project laid out flat, as planned or relaxed: to one scale, each seam numbered on both edges that meet."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import groupby, pairwise

from ..core.garment.joins import Join, PieceEdge, edge_um, rows_between
from ..core.garment.silhouette import PieceSide, edge_path, end_path, silhouette
from ..core.pattern.cloth_outline import ClothOutline, line_um
from ..core.piece.piece import Piece
from ..core.units import Unit
from .outline import outline_of
from .svg import Element, Point, picture_root

ACROSS = 1040.0
_GAP, _NAME, _EDGE = 46.0, 26.0, 18.0
_BADGE, _DIGIT, _LETTER = 9.0, 8.0, 7.4
_TALLEST = 300.0
"""Our choice: the tallest piece is so high, so that a sweater fits a screen in two lines."""


@dataclass(frozen=True)
class LaidPiece:
    """A piece as it is drawn, in micrometres from its middle and its cast-on: areas by their style, and its edges."""

    areas: tuple[tuple[str, tuple[Point, ...]], ...]
    edge: Callable[[PieceEdge], list[Point]]

    @property
    def size(self) -> Point:
        """How wide it is, about its middle, and how high."""
        corners = [c for _, area in self.areas for c in area]
        return 2.0 * max(abs(x) for x, _ in corners), max(y for _, y in corners) - self.low

    @property
    def low(self) -> float:
        """Where its lowest point lies: short rows sag below the middle of their first row."""
        return min(y for _, area in self.areas for _, y in area)


def planned_piece(piece: Piece, unit: Unit) -> LaidPiece:
    """A piece as its counts and its rows are planned."""
    areas: list[tuple[str, tuple[Point, ...]]] = []
    for kind, run in groupby(silhouette(piece), key=lambda s: s.kind):
        sides = [c for s in run for c in ((s.below_um, s.low_um), (s.above_um, s.high_um))]
        corners = [(ends[0], y) for ends, y in sides] + [(ends[1], y) for ends, y in reversed(sides)]
        areas.append((f"schematic-{kind}", tuple(corners)))
    panels = outline_of(piece, unit).panels
    areas += [(f"schematic-panel family-{panel.family}", tuple(panel.corners)) for panel in panels]
    return LaidPiece(tuple(areas), partial(edge_line, piece))


def relaxed_piece(piece: Piece, outline: ClothOutline) -> LaidPiece:
    """A piece as its loops lie."""
    areas = [("schematic-body", outline.corners)]
    for at, right, left in outline.panels:
        family = piece.main_view.segments[at].pattern.family
        areas.append((f"schematic-panel family-{family}", (*right, *reversed(left))))
    return LaidPiece(tuple(areas), partial(relaxed_edge, piece, outline))


def draw_garment(laid: Sequence[LaidPiece], joins: Sequence[Join], names: Sequence[str]) -> str:
    """The pieces side by side in lines, called by `names`; the seams of `joins` are numbered from 1."""
    sizes = [each.size for each in laid]
    scale = min(_TALLEST / max(high for _, high in sizes), (ACROSS - 2.0 * _EDGE) / max(wide for wide, _ in sizes))
    rooms = [max(wide * scale, _LETTER * len(name)) for (wide, _), name in zip(sizes, names, strict=True)]
    places, tall = _in_lines([(room, high * scale) for room, (_, high) in zip(rooms, sizes, strict=True)])
    label = f"All {len(laid)} pieces laid out flat"
    root = picture_root(ACROSS, tall, class_="schematic garment", role="img", aria_label=label)
    for at, each in enumerate(laid):
        left, foot = places[at]
        middle = left + rooms[at] / 2.0

        def point(x: float, y: float, middle: float = middle, *, foot: float = foot, low: float = each.low) -> Point:
            return middle + x * scale, foot - (y - low) * scale

        for css, corners in each.areas:
            root.add("path", class_=css, d=_line([point(*c) for c in corners]) + "Z")
        words = root.add("text", x=middle, y=foot + 18.0, class_="schematic-middle")
        words.text = names[at]
        for edge, numbers in _numbered(joins, at).items():
            _draw_seam(root, [point(*p) for p in each.edge(edge)], numbers)
    return root.write()


def _numbered(joins: Sequence[Join], piece: int) -> dict[PieceEdge, list[int]]:
    """The joined edges of a piece, each with the numbers of its seams: a sleeve that is worked twice has two."""
    out: dict[PieceEdge, list[int]] = {}
    for number, join in enumerate(joins, start=1):
        for edge in (e for e in join.edges if e.piece == piece):
            out.setdefault(edge, []).append(number)
    return out


def _in_lines(sizes: Sequence[tuple[float, float]]) -> tuple[list[Point], float]:
    """Where each piece lies: the left end of its foot; then how tall all lines are."""
    places: list[Point] = []
    lines: list[list[int]] = [[]]
    x = _EDGE
    for at, (wide, _) in enumerate(sizes):
        if lines[-1] and x + wide > ACROSS - _EDGE:
            lines.append([])
            x = _EDGE
        lines[-1].append(at)
        x += wide + _GAP
    y = 0.0
    for line in lines:
        y += max(sizes[at][1] for at in line) + _EDGE
        x = _EDGE
        for at in line:
            places.append((x, y))
            x += sizes[at][0] + _GAP
        y += _NAME
    return places, y


def _line(points: Sequence[Point]) -> str:
    return "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points)


def edge_line(piece: Piece, edge: PieceEdge) -> list[Point]:
    """An edge of a piece, or the part of it, as corners in micrometres from its middle and from the cast-on."""
    last = silhouette(piece)[-1]
    start, end = edge.start_mm * 1000.0, edge.end_mm * 1000.0
    if edge.edge == "cast-on" or edge.edge == "bind-off":
        return list(end_path(piece, edge.edge, start, end_um=end or math.inf))
    side: PieceSide = "right" if edge.edge == "right edge" else "left"
    sides = list(edge_path(piece, side, start, end_um=end or last.high_um))
    if edge.over:
        left, right = last.above_um
        near, far = (right, left) if side == "right" else (left, right)
        sides.append((near + (far - near) * edge.over, last.high_um))
    return sides


def relaxed_edge(piece: Piece, outline: ClothOutline, edge: PieceEdge) -> list[Point]:
    """The same of a relaxed piece: a part of a side by its rows, a part of an end by its share of it."""
    start, end = edge.start_mm * 1000.0, edge.end_mm * 1000.0
    if edge.edge == "cast-on" or edge.edge == "bind-off":
        line = outline.bottom if edge.edge == "cast-on" else outline.top
        whole = edge_um(piece, PieceEdge(piece=edge.piece, edge=edge.edge)) or 1.0
        first, last = start / whole, min(1.0, (end or whole) / whole)
        return _part_of(line, first, last)
    low, high = rows_between(piece, start, end or math.inf)
    side, other = (outline.right, outline.left) if edge.edge == "right edge" else (outline.left, outline.right)
    points = list(side[low : high + 1])
    if edge.over:
        (x1, y1), (x2, y2) = side[-1], other[-1]
        points.append((x1 + (x2 - x1) * edge.over, y1 + (y2 - y1) * edge.over))
    return points


def _part_of(line: Sequence[Point], first: float, last: float) -> list[Point]:
    """What of a line lies between two parts of its length, from 0 to 1."""
    whole, at, out = line_um(line), 0.0, list[Point]()
    low, high = first * whole, last * whole
    for (x1, y1), (x2, y2) in pairwise(line):
        long = math.dist((x1, y1), (x2, y2))
        if long and at + long > low and at < high:
            a, b = max(0.0, (low - at) / long), min(1.0, (high - at) / long)
            ends = [(x1 + (x2 - x1) * t, y1 + (y2 - y1) * t) for t in (a, b)]
            out += ends if not out else ends[1:]
        at += long
    return out


def _draw_seam(root: Element, line: Sequence[Point], numbers: Sequence[int]) -> None:
    root.add("path", class_="schematic-seam", d=_line(line))
    x, y = _halfway(line)
    half = _BADGE + _DIGIT * (len(numbers) - 1)
    box = {"x": x - half, "y": y - _BADGE, "width": 2.0 * half, "height": 2.0 * _BADGE, "rx": _BADGE}
    root.add("rect", class_="seam-badge", **box)
    words = root.add("text", x=x, y=y + 4.0, class_="seam-number")
    words.text = ", ".join(map(str, numbers))


def _halfway(line: Sequence[Point]) -> Point:
    """The point in the middle of a line."""
    lengths = [((x2 - x1) ** 2 + (y2 - y1) ** 2) ** 0.5 for (x1, y1), (x2, y2) in pairwise(line)]
    left = sum(lengths) / 2.0
    for ((x1, y1), (x2, y2)), long in zip(pairwise(line), lengths, strict=True):
        if left <= long and long:
            part = left / long
            return x1 + (x2 - x1) * part, y1 + (y2 - y1) * part
        left -= long
    return line[-1]
