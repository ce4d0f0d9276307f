"""The chart: rows of symbols as seen from the right side, row 1 at the bottom, stitch 1 at the right.

Symbols follow the trade's published conventions (blank for knit, dot for purl, a slanted strand for each
group of a crossing, stroke for a decrease, ring for a yarn over); the drawing is our own.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from ..core.notation import Face, NoStitch, Op, Side, Stitch
from .svg import Element, number, picture_root
from .symbols import CELL, CROSSED, draw_symbol

MARGIN = 34.0
HEAD = 22.0
FOOT = 20.0
LETTER = 5.6  # how wide a letter of a section's name is at the most, by trial


@dataclass(frozen=True)
class ChartPart:
    """A section's operations in one row, right to left."""

    name: str
    family: str
    ops: tuple[Op, ...]

    @cached_property
    def cells(self) -> int:
        """How many cells it takes."""
        return sum(op.cells for op in self.ops)

    @cached_property
    def shown(self) -> ChartPart:
        """Only what has a cell."""
        return self if all(op.cells for op in self.ops) else replace(self, ops=tuple(o for o in self.ops if o.cells))


@dataclass(frozen=True)
class ChartLine:
    """One row of the picture."""

    number: int
    side: Side
    parts: tuple[ChartPart, ...]


def chart_svg(lines: Sequence[ChartLine], label: str, ident: str = "", *, widths: Sequence[int] = ()) -> str:
    """Rows as one chart, as text; with an id where parts of it are shown again elsewhere."""
    root = chart_element(lines, label, widths=widths)
    if ident:
        root.attributes["id"] = ident
    return root.write()


def chart_strip(lines: Sequence[ChartLine], now: int, label: str, *, widths: Sequence[int] = ()) -> str:
    """A few rows as a chart, the one under the hands marked."""
    root = chart_element(lines, label, widths=widths)
    up = next(at for at, line in enumerate(lines) if line.number == now)
    wide = float(root.attributes["width"])
    y = HEAD + (len(lines) - 1 - up) * CELL
    root.add("rect", x=1.5, y=y - 1, width=wide - 3, height=CELL + 2, rx=4, class_="chart-now")
    return root.write()


def chart_element(lines: Sequence[ChartLine], label: str, scale: float = 1.0, *, widths: Sequence[int] = ()) -> Element:
    """Rows as one chart, section lines between the parts, numbers on the side a row begins.

    A part that has fewer stitches in some rows has empty cells at its left end there. With `widths` given, for each
    part, all rows fill them together, and what is made of two parts may lie across the line between them.
    """
    if not widths:
        widths, lines = widest_parts(lines), padded_lines(lines)
    count, high = sum(widths), len(lines)
    root = picture_root(count * CELL + 2 * MARGIN, high * CELL + HEAD + FOOT, role="img", class_="chart")
    wide, tall = count * CELL + 2 * MARGIN, high * CELL + HEAD + FOOT
    root.attributes |= {"width": wide * scale, "height": tall * scale, "aria-label": label}
    purl_pattern(root.add("defs"))
    _heads(root, lines[0].parts, widths, count=count)
    body = root.add("g", transform=f"translate({number(MARGIN)} {number(HEAD)})")
    body.add("rect", width=count * CELL, height=high * CELL, class_="chart-ground")
    for up, line in enumerate(lines):
        y = (high - 1 - up) * CELL
        right = count * CELL
        for part in line.parts:
            right = draw_part(body, part, right, y=y)
        at_right = line.side is Side.RS
        x = count * CELL + 6 if at_right else -6
        anchor = "start" if at_right else "end"
        body.add("text", x=x, y=y + CELL * 0.72, text_anchor=anchor, class_="chart-number chart-row").text = str(
            line.number or "·"
        )
    draw_grid(body, count, high)
    crossings = body.add("g")
    for up, line in enumerate(lines):
        draw_crossings(crossings, line, count * CELL, y=(high - 1 - up) * CELL)
    _section_lines(body, widths, high)
    _stitch_numbers(root, count, high)
    return root


def widest_parts(lines: Sequence[ChartLine]) -> list[int]:
    """For each part its cells in the row in which it has most."""
    return [max(cells_of(line.parts[i]) for line in lines) for i in range(len(lines[0].parts))]


def cells_of(part: ChartPart) -> int:
    """The cells that a part fills."""
    return sum(op.cells for op in part.ops)


def padded_part(part: ChartPart, width: int) -> ChartPart:
    """A part with empty cells at its left end up to a width."""
    return replace(part, ops=part.ops + (NoStitch(),) * (width - cells_of(part)))


def padded_lines(lines: Sequence[ChartLine]) -> list[ChartLine]:
    """Lines whose parts fill the same cells each; what is missing is empty at a part's left end."""
    widths = widest_parts(lines)
    return [replace(line, parts=tuple(map(padded_part, line.parts, widths))) for line in lines]


def symbol_svg(op: Op) -> str:
    """One operation's symbol on its own, for the key."""
    cells = max(op.cells, 1)
    root = picture_root(cells * CELL + 2, CELL + 2, class_="chart", width=cells * CELL + 2, height=CELL + 2)
    root.attributes["aria-hidden"] = "true"
    body = root.add("g", transform="translate(1 1)")
    body.add("rect", width=cells * CELL, height=CELL, class_="chart-cell")
    draw_symbol(body, op, cells * CELL, y=0.0)
    return root.write()


def purl_pattern(defs: Element) -> None:
    """The ground of a run of purl stitches."""
    pattern = defs.add("pattern", id="chart-purl", width=CELL, height=CELL, patternUnits="userSpaceOnUse")
    pattern.add("rect", width=CELL, height=CELL, class_="chart-purl")
    pattern.add("circle", cx=CELL / 2, cy=CELL / 2, r=2.1, class_="chart-ink")


def _heads(root: Element, parts: Sequence[ChartPart], widths: Sequence[int], *, count: int) -> None:
    right = MARGIN + count * CELL
    for part, width in zip(parts, widths, strict=True):
        left = right - width * CELL
        root.add("rect", x=left + 1, y=HEAD - 5, width=width * CELL - 2, height=3, class_=f"family-{part.family}")
        if name_fits(part.name, width):
            draw_name(root, part.name, (left + right) / 2, foot=HEAD - 9, across=True)
        else:
            root.add("title").text = part.name
        right = left


def name_fits(name: str, cells: int) -> bool:
    """Whether a section's name has room across so many cells."""
    return cells * CELL > LETTER * len(name) + 4


def draw_name(root: Element, name: str, middle: float, *, foot: float, across: bool) -> None:
    """A section's name above its middle, across or upright."""
    text = root.add("text", class_="chart-name")
    text.text = name
    if across:
        text.attributes |= {"x": middle, "y": foot, "text-anchor": "middle"}
    else:
        text.attributes["transform"] = f"translate({number(middle + 3.5)} {number(foot)}) rotate(-90)"


def draw_grid(body: Element, count: int, high: int) -> None:
    """The lines between cells."""
    lines = [f"M{number(i * CELL)} 0V{number(high * CELL)}" for i in range(count + 1)]
    lines += [f"M0 {number(i * CELL)}H{number(count * CELL)}" for i in range(high + 1)]
    body.add("path", d="".join(lines), class_="chart-grid")


def _section_lines(body: Element, widths: Sequence[int], high: int) -> None:
    at, lines = sum(widths) * CELL, []
    for width in (0, *widths):
        at -= width * CELL
        lines.append(f"M{number(at)} 0V{number(high * CELL)}")
    body.add("path", d="".join(lines), class_="chart-section")


def _stitch_numbers(root: Element, count: int, high: int) -> None:
    y = HEAD + high * CELL + 14
    for n in range(1, count + 1):
        if n == 1 or n % 5 == 0:
            x = MARGIN + (count - n + 0.5) * CELL
            root.add("text", x=x, y=y, text_anchor="middle", class_="chart-number").text = str(n)


def draw_part(body: Element, part: ChartPart, right: float, *, y: float) -> float:
    """Draws a section's cells leftwards from `right`; returns where the next one begins."""
    at = 0
    ops = part.ops
    while at < len(ops):
        op, run = ops[at], 1
        if isinstance(op, Stitch) and not op.tbl:
            while at + run < len(ops) and ops[at + run] == op:
                run += 1
            if op.face is Face.PURL:
                width = run * CELL
                body.add("rect", x=right - width, y=y, width=width, height=CELL, fill="url(#chart-purl)")
        elif not isinstance(op, CROSSED):
            draw_symbol(body, op, right, y=y)
        right -= run * op.cells * CELL
        at += run
    return right


def draw_crossings(body: Element, line: ChartLine, right: float, *, y: float) -> None:
    """The crossings of a row, drawn over the grid, since their strands run across its cells."""
    for part in line.parts:
        for op in part.ops:
            if isinstance(op, CROSSED):
                draw_symbol(body, op, right, y=y)
            right -= op.cells * CELL
