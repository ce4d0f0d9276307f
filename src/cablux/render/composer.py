"""The composer's chart: larger cells, the foundation below row 1, the cursor, and rows that do not add up."""

from __future__ import annotations

from ..core.notation import Chart, Side, Stitch
from .chart import FOOT, HEAD, MARGIN, ChartLine, ChartPart, chart_element
from .chartfile import chart_lines
from .symbols import CELL

SCALE = 1.5  # a row is then 24 pixels high, as a field of text needs it


def sheet_svg(chart: Chart, family: str, cursor: tuple[int, int], *, wrong: frozenset[int]) -> str:
    """The chart with its foundation as row 0. `cursor` is a row and a cell; rows in `wrong` are marked."""
    lines = chart_lines(chart, family)
    plain = tuple(Stitch(face) for face in chart.faces_below(1))
    parts = lines[0].parts
    if len(parts) == 1:
        base: tuple[ChartPart, ...] = (ChartPart("", family, plain),)
    else:
        a, b = (sum(op.takes for op in part.ops) for part in (parts[0], parts[2]))
        end = len(plain) - b
        base = tuple(
            ChartPart(part.name, part.family, ops)
            for part, ops in zip(parts, (plain[:a], plain[a:end], plain[end:]), strict=True)
        )
    every = [ChartLine(0, Side.WS, base), *lines]
    root = chart_element(every, f"{chart.name}: {chart.height} rows over a starting row", SCALE)
    count = round((float(root.attributes["width"]) / SCALE - 2 * MARGIN) / CELL)
    high = len(every)
    root.attributes |= {"data-count": count, "data-rows": high, "data-cell": CELL, "data-margin": MARGIN}
    root.attributes |= {"data-head": HEAD, "data-foot": FOOT}
    for row in sorted(wrong):
        y = HEAD + (high - 1 - row) * CELL
        root.add("rect", x=MARGIN, y=y, width=count * CELL, height=CELL, class_="chart-wrong")
    row, cell = cursor
    x, y = MARGIN + (count - cell) * CELL, HEAD + (high - 1 - row) * CELL
    root.add("path", d="", id="lead", class_="chart-lead")
    root.add("rect", id="cursor", x=x, y=y, width=CELL, height=CELL, rx=2, class_="chart-cursor")
    return root.write()
