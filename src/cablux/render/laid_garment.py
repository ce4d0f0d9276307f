"""A whole project laid out flat: all pieces to one scale, each seam with its number on both edges that meet."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import groupby, pairwise

from ..core.layout.joins import Join, PieceEdge
from ..core.layout.piece import Piece
from ..core.layout.silhouette import Side, Slice, edge_path, end_path, silhouette
from ..core.units import Unit
from .outline import outline_of
from .svg import Element, Point, picture_root

Placing = Callable[[float, float], Point]

ACROSS = 1040.0
_GAP, _NAME, _EDGE = 46.0, 26.0, 18.0
_BADGE, _DIGIT, _LETTER = 9.0, 8.0, 7.4
_TALLEST = 300.0
"""Our choice: the tallest piece is so high, so that a sweater fits a screen in two lines."""


def draw_garment(pieces: Sequence[Piece], joins: Sequence[Join], names: Sequence[str], unit: Unit) -> str:
    """The pieces side by side in lines, called by `names`; the seams of `joins` are numbered from 1."""
    drawn = [silhouette(piece) for piece in pieces]
    sizes = [(max(_span(s) for s in parts), parts[-1].high) for parts in drawn]
    scale = min(_TALLEST / max(high for _, high in sizes), (ACROSS - 2.0 * _EDGE) / max(wide for wide, _ in sizes))
    rooms = [max(wide * scale, _LETTER * len(name)) for (wide, _), name in zip(sizes, names, strict=True)]
    places, tall = _in_lines([(room, high * scale) for room, (_, high) in zip(rooms, sizes, strict=True)])
    label = f"All {len(pieces)} pieces laid out flat"
    root = picture_root(ACROSS, tall, class_="schematic garment", role="img", aria_label=label)
    for at, (piece, parts) in enumerate(zip(pieces, drawn, strict=True)):
        left, foot = places[at]
        middle = left + rooms[at] / 2.0

        def point(x: float, y: float, middle: float = middle, foot: float = foot) -> Point:
            return middle + x * scale, foot - y * scale

        _draw_piece(root, piece, parts, point, unit)
        words = root.add("text", x=middle, y=foot + 18.0, class_="schematic-middle")
        words.text = names[at]
        for edge, numbers in _numbered(joins, at).items():
            _draw_seam(root, [point(*p) for p in edge_line(piece, edge)], numbers)
    return root.write()


def _numbered(joins: Sequence[Join], piece: int) -> dict[PieceEdge, list[int]]:
    """The joined edges of a piece, each with the numbers of its seams: a sleeve that is worked twice has two."""
    out: dict[PieceEdge, list[int]] = {}
    for number, join in enumerate(joins, start=1):
        for edge in (e for e in join.edges if e.piece == piece):
            out.setdefault(edge, []).append(number)
    return out


def _span(part: Slice) -> float:
    return max(right - left for left, right in (part.below, part.above))


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


def _draw_piece(root: Element, piece: Piece, parts: Sequence[Slice], place: Placing, unit: Unit) -> None:
    for kind, run in groupby(parts, key=lambda s: s.kind):
        found = list(run)
        sides = [c for s in found for c in ((s.below, s.low), (s.above, s.high))]
        corners = [(ends[0], y) for ends, y in sides] + [(ends[1], y) for ends, y in reversed(sides)]
        root.add("path", class_=f"schematic-{kind}", d=_line([place(*c) for c in corners]) + "Z")
    for panel in outline_of(piece, unit).panels:
        css = f"schematic-panel family-{panel.family}"
        root.add("path", class_=css, d=_line([place(*c) for c in panel.corners]) + "Z")


def _line(points: Sequence[Point]) -> str:
    return "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points)


def edge_line(piece: Piece, edge: PieceEdge) -> list[Point]:
    """An edge of a piece, or the part of it, as corners in micrometres from its middle and from the cast-on."""
    last = silhouette(piece)[-1]
    start, end = edge.start_mm * 1000.0, edge.end_mm * 1000.0
    if edge.edge == "cast-on" or edge.edge == "bind-off":
        return list(end_path(piece, edge.edge, start, end or math.inf))
    side: Side = "right" if edge.edge == "right edge" else "left"
    sides = list(edge_path(piece, side, start, end or last.high))
    if edge.over:
        left, right = last.above
        near, far = (right, left) if side == "right" else (left, right)
        sides.append((near + (far - near) * edge.over, last.high))
    return sides


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
