"""The chart of a whole band: rows that are alike are drawn once and shown again, the row at hand is marked."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import accumulate, pairwise

from ..core.notation import NoStitch, Side
from .chart import (
    LETTER,
    ChartLine,
    ChartPart,
    draw_crossings,
    draw_grid,
    draw_name,
    draw_part,
    name_fits,
    purl_pattern,
)
from .svg import Element, number, picture_root
from .symbols import CELL

SIDE, HEAD, FOOT = 40.0, 26.0, 18.0


def folded_lines(
    lines: Sequence[ChartLine], widths: Sequence[int], folded: frozenset[int]
) -> tuple[list[ChartLine], list[int]]:
    """The lines with sections folded away, each to one empty cell, and the cells that each section then has."""
    out = [
        replace(line, parts=tuple(_folded(part) if at in folded else part for at, part in enumerate(line.parts)))
        for line in lines
    ]
    return out, [1 if at in folded else wide for at, wide in enumerate(widths)]


def _folded(part: ChartPart) -> ChartPart:
    return replace(part, ops=(NoStitch(),))


def whole_chart_svg(lines: Sequence[ChartLine], widths: Sequence[int], label: str, *, now: int = 0, at: int = 0) -> str:
    """All rows from below; `now` is the row under the hands, 0 for none; `at` tells this chart from others of the page.

    The widths are those of the sections, from the right.
    """
    cells, high = sum(widths), len(lines)
    named = zip((part.name for part in lines[0].parts), widths, strict=True)
    head = HEAD + LETTER * max((len(name) for name, wide in named if not name_fits(name, wide)), default=0)
    wide, tall = cells * CELL + 2 * SIDE, high * CELL + head + FOOT
    root = picture_root(wide, tall, role="img", class_="chart", width=wide, height=tall)
    root.attributes["aria-label"] = label
    defs = root.add("defs")
    purl_pattern(defs)
    body = root.add("g", transform=f"translate({number(SIDE)} {number(head)})")
    body.add("rect", width=cells * CELL, height=high * CELL, class_="chart-ground")
    known: dict[tuple[ChartPart, ...], str] = {}
    crossed = body.add("g")
    for up, line in enumerate(lines):
        y = (high - 1 - up) * CELL
        if line.parts not in known:
            known[line.parts] = f"row-{at}-{len(known)}"
            _define(defs, line, known[line.parts], wide=cells * CELL)
        body.add("use", href=f"#{known[line.parts]}", y=y)
        crossed.add("use", href=f"#{known[line.parts]}-x", y=y)
        _row_number(body, line, cells * CELL, y=y)
    body.children.remove(crossed)
    draw_grid(body, cells, high)
    body.children.append(crossed)
    _heads(root, body, lines[0].parts, widths=widths, cells=cells, head=head, high=high)
    for n in range(1, cells + 1):
        if n == 1 or n % 5 == 0:
            x = (cells - n + 0.5) * CELL
            body.add("text", x=x, y=high * CELL + 13, text_anchor="middle", class_="chart-number").text = str(n)
    here = next((up for up, line in enumerate(lines) if line.number == now), None)
    if here is not None:
        y = (high - 1 - here) * CELL
        body.add("rect", x=-SIDE + 2, y=y - 1, width=wide - 4, height=CELL + 2, rx=4, class_="chart-now")
    return root.write()


def _define(defs: Element, line: ChartLine, name: str, *, wide: float) -> None:
    """A row's cells, and the crossings that lie over the grid; styles reach what is shown again from within only."""
    right, cells = wide, defs.add("g", id=name, class_="chart")
    for part in line.parts:
        right = draw_part(cells, part, right, y=0.0)
    draw_crossings(defs.add("g", id=f"{name}-x", class_="chart"), line, wide, y=0.0)


def _row_number(body: Element, line: ChartLine, wide: float, *, y: float) -> None:
    at_right = line.side is Side.RS
    x, anchor = (wide + 6, "start") if at_right else (-6.0, "end")
    text = body.add("text", x=x, y=y + CELL * 0.72, text_anchor=anchor, class_="chart-number")
    text.text = str(line.number)


def _heads(
    root: Element,
    body: Element,
    parts: Sequence[ChartPart],
    *,
    widths: Sequence[int],
    cells: int,
    head: float,
    high: int,
) -> None:
    """The sections: a line between two, and each one's name above, across or upright."""
    lines = [f"M{number(cells * CELL)} 0V{number(high * CELL)}"]
    for part, (first, last) in zip(parts, pairwise([0, *accumulate(widths)]), strict=True):
        left, right = (cells - last) * CELL, (cells - first) * CELL
        lines.append(f"M{number(left)} 0V{number(high * CELL)}")
        css = f"family-{part.family}"
        root.add("rect", x=SIDE + left + 1, y=head - 6, width=right - left - 2, height=3, class_=css)
        middle = SIDE + (left + right) / 2.0
        draw_name(root, part.name, middle, foot=head - 10, across=name_fits(part.name, last - first))
    body.add("path", d="".join(lines), class_="chart-section")
