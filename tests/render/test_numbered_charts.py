"""Charts read back from their drawing: a purl stands in the row and at the stitch whose numbers stand beside it."""

from __future__ import annotations

import re
from collections.abc import Iterator
from xml.etree import ElementTree

from hypothesis import given
from hypothesis import strategies as st

from cablux.core.notation import Op, Side, parse_ops
from cablux.render.chart import CELL, ChartLine, ChartPart
from cablux.render.chart_cuts import Window
from cablux.render.printed_chart import PrintedChart, sheet_svg
from cablux.render.whole_chart import whole_chart_svg

NS = {"s": "http://www.w3.org/2000/svg"}
PURL = "{http://www.w3.org/2000/svg}rect[@fill='url(#chart-purl)']"
CABLE = "cccc"  # the four cells of a cable


@st.composite
def rows_of_knits_and_purls(draw: st.DrawFn) -> list[str]:
    wide, high = draw(st.integers(6, 24)), draw(st.integers(1, 12))
    row = st.tuples(*[st.sampled_from("kp")] * wide).map("".join)
    # some have a cable in their second section, of which a sheet may show a part
    row = st.tuples(row, st.integers(2, wide - 4)).map(lambda r: r[0][: r[1]] + CABLE + r[0][r[1] + 4 :]) | row
    kinds = draw(st.lists(row, min_size=1, max_size=3))  # some rows are alike: those are drawn once
    return draw(st.lists(st.sampled_from(kinds), min_size=high, max_size=high))


def ops_of(cells: str) -> tuple[Op, ...]:
    return parse_ops(", ".join(re.findall(CABLE + "|.", cells)).replace(CABLE, "2/2 LC"))


def lines_of(rows: list[str], first: int) -> tuple[ChartLine, ...]:
    """The rows from below in two sections, numbered from `first`."""
    return tuple(
        ChartLine(
            n,
            Side.RS if n % 2 else Side.WS,
            (
                ChartPart("a", "rope", ops_of(row[:2])),
                ChartPart("b", "rib", ops_of(row[2:])),
            ),
        )
        for n, row in enumerate(rows, first)
    )


def middles(rect: ElementTree.Element, down: float = 0.0) -> Iterator[tuple[float, float]]:
    """The middle of each cell that a run of purls fills."""
    x, y = (float(rect.get(name, "0")) for name in ("x", "y"))
    for at in range(round(float(rect.get("width")) / CELL)):
        yield x + (at + 0.5) * CELL, y + down + CELL / 2


def purls_read(body: ElementTree.Element, cells: list[tuple[float, float]]) -> set[tuple[int, int]]:
    """Rows and stitches of the cells, as the numbers say that stand beside, above and below them."""
    texts = [(float(t.get("x")), float(t.get("y")), int(t.text)) for t in body.findall("s:text", NS)]
    ground = body.find("s:rect[@class='chart-ground']", NS)
    wide, tall = float(ground.get("width")), float(ground.get("height"))
    beside = [(y - 0.22 * CELL, n) for x, y, n in texts if not 0 < x < wide]
    along = [(x, n) for x, y, n in texts if not 0 < y < tall]
    assert sorted(beside) == sorted(beside, key=lambda row: -row[1]), "the first row lies at the bottom"
    out = set()
    for x, y in cells:
        rows = {n for height, n in beside if abs(height - y) < 0.1 * CELL}
        stitches = {n + round((place - x) / CELL) for place, n in along}
        assert len(rows) == len(stitches) == 1, "all numbers say the same"
        out.add((rows.pop(), stitches.pop()))
    return out


@given(rows_of_knits_and_purls(), st.integers(1, 400))
def test_a_whole_chart_is_what_its_numbers_say(rows: list[str], first: int) -> None:
    lines = lines_of(rows, first)
    root = ElementTree.fromstring(whole_chart_svg(lines, [2, len(rows[0]) - 2], "test", now=first))
    known = {group.get("id"): group for group in root.find("s:defs", NS) if group.get("id")}
    body = root.find("s:g", NS)
    cells = [
        cell
        for use in body.findall("s:use", NS)
        for rect in known[use.get("href").removeprefix("#")].iterfind(PURL)
        for cell in middles(rect, float(use.get("y", "0")))
    ]
    told = {(n, at) for n, row in enumerate(rows, first) for at, face in enumerate(row, 1) if face == "p"}
    assert purls_read(body, cells) == told and len(cells) == len(told)
    mark = body.find("s:rect[@class='chart-now']", NS)
    assert float(mark.get("y")) == (len(rows) - 1) * CELL - 1


@given(rows_of_knits_and_purls(), st.integers(1, 400), st.data())
def test_a_printed_sheet_is_what_its_numbers_say(rows: list[str], first: int, data: st.DataObject) -> None:
    wide, high = len(rows[0]), len(rows)
    left, low = data.draw(st.integers(0, wide - 3)), data.draw(st.integers(0, high - 1))
    right, top = data.draw(st.integers(left + 3, wide)), data.draw(st.integers(low + 1, high))
    stitches = tuple(range(7, 7 + wide))
    chart = PrintedChart(
        lines=lines_of(rows, first),
        widths=(2, wide - 2),
        names=("a", "b"),
        stitches=stitches,
        boxes=(),
        worked=(1,) * high,
    )
    root = ElementTree.fromstring(sheet_svg(chart, Window(first=left, last=right, low=low, high=top)))
    body = root.find("s:g", NS)
    seen = (right - left) * CELL
    cells = [cell for rect in body.iterfind(f".//{PURL}") for cell in middles(rect)]
    cells = [(x, y) for x, y in cells if 0 < x < seen]  # the rest is clipped away
    told = {
        (n, at)
        for n, row in enumerate(rows, first)
        for at, face in enumerate(row, 7)
        if face == "p" and left <= at - 7 < right and low <= n - first < top
    }
    assert purls_read(body, cells) == told and len(cells) == len(told)
