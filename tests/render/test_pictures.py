"""Pictures: their parsed structure and coordinates, not their text."""

from __future__ import annotations

import re
from itertools import pairwise
from xml.etree import ElementTree

import pytest
from hypothesis import given

from cablux.core.ends.cast_on import plan_cast_on
from cablux.core.fabric.draw_in import relaxed_tile
from cablux.core.library import LIBRARY
from cablux.core.notation import Side, parse_op, parse_ops
from cablux.core.notation.names import NAMED
from cablux.core.piece.widths import body_um, segment_um
from cablux.render.chart import CELL, MARGIN, ChartLine, ChartPart, chart_svg, symbol_svg
from cablux.render.chart_cuts import sheet_views
from cablux.render.fan import draw_fan
from cablux.render.relief import draw_loops, segment_relief
from tests.core.strategies import ops, pieces

NS = {"s": "http://www.w3.org/2000/svg"}


def _middle_at(path: str, y: float) -> float:
    """The middle of a band at a height: its right curve downward and its left one upward, cut by bisection."""
    n = [float(v) for v in re.findall(r"-?[\d.]+", path)]
    right, left = n[2:10], [*n[10:12], *n[12:18]]

    def cut(x0, y0, x1, y1, x2, y2, x3, y3):
        low, high = 0.0, 1.0
        for _ in range(50):
            t = (low + high) / 2
            w = ((1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t**3)
            at = sum(a * b for a, b in zip(w, (y0, y1, y2, y3), strict=True))
            low, high = (t, high) if (at < y) == (y3 > y0) else (low, t)
        return sum(a * b for a, b in zip(w, (x0, x1, x2, x3), strict=True))

    return (cut(*right) + cut(*left)) / 2


@given(pieces())
def test_the_fan_shows_every_segment_as_wide_as_it_will_be(piece):
    picture = draw_fan(piece.band_views[0], plan_cast_on(piece).cast_on, "cm")
    scale = (picture.cloth[1] - picture.cloth[0]) / body_um(piece.band_views[0])
    for band, segment in zip(picture.strips, piece.band_views[0].segments, strict=True):
        assert band.cloth_width == pytest.approx(segment_um(segment, piece.measure) * scale)
        assert band.stitches == segment.stitches
        if band.loss_size:
            assert abs(band.loss_x - _middle_at(band.path, 271.0)) < 0.5, "the loss stands inside its band"
    # the first segment ends at the right edge, the last at the left one
    assert picture.strips[0].cloth_x + picture.strips[0].cloth_width == pytest.approx(picture.cloth[1])
    assert picture.strips[-1].cloth_x == pytest.approx(picture.cloth[0])
    assert len(picture.stitches) == piece.band_views[0].stitches
    assert picture.target - picture.cloth[0] == pytest.approx(piece.width_mm * 1000 * scale)
    inches = draw_fan(piece.band_views[0], piece.band_views[0].stitches, "in")
    assert len([t for t in inches.ruler if t.label]) > 1, "one ruler, in the person’s unit"
    assert picture.wanted[0] < picture.target < picture.wanted[1]
    assert all(0 <= x <= picture.width for x in (*picture.cloth, *picture.needle, picture.target, picture.soft[1]))


def chart(*rows: str) -> ElementTree.Element:
    lines = [
        ChartLine(n, Side.RS if n % 2 else Side.WS, (ChartPart("a", "rope", parse_ops(r)),))
        for n, r in enumerate(rows, 1)
    ]
    return ElementTree.fromstring(chart_svg(lines, "test"))


def test_a_chart_reads_from_the_right_and_upwards():
    root = chart("p1, k3", "k4", "2/2 LC")
    body = root.find("s:g", NS)
    purl = body.find("s:rect[@fill='url(#chart-purl)']", NS)
    assert float(purl.get("x")) == 3 * CELL, "the first stitch stands at the right"
    assert float(purl.get("y")) == 2 * CELL, "the first row stands at the bottom"
    numbers = {t.text: float(t.get("x")) for t in body.findall("s:text", NS)}
    assert numbers["1"] > 4 * CELL and numbers["2"] < 0, "a row's number stands where the row begins"
    stitches = {t.text: float(t.get("x")) for t in root.findall("s:text[@class='chart-number']", NS)}
    assert stitches["1"] == MARGIN + 3.5 * CELL


@pytest.mark.parametrize("stitches", [1, 30, 31, 59, 60, 61, 125])
def test_every_stitch_of_a_chart_stands_on_one_sheet_of_paper(stitches):
    line = ChartLine(1, Side.RS, (ChartPart("a", "rope", parse_ops(f"k{stitches}")),))
    sheets = sheet_views([line])
    numbers = {n for sheet in sheets for n in range(sheet.first, sheet.last + 1)}
    assert sheets[0].first == 1 and numbers == {*range(1, stitches + 1)}, "none is left out"
    assert all(b.first == a.last - 1 for a, b in pairwise(sheets)), "two stitches are on the next sheet as well"
    root = ElementTree.fromstring(chart_svg([line], "test"))
    printed = {int(t.text): float(t.get("x")) for t in root.findall("s:text[@class='chart-number']", NS)}
    for sheet in sheets:
        x, _, wide, tall = map(float, sheet.view.split())
        assert wide == sheet.width == (sheet.last - sheet.first + 1) * CELL <= 800 and tall == float(root.get("height"))
        for n, middle in printed.items():
            assert (x < middle < x + wide) == (sheet.first <= n <= sheet.last), "as the chart's own numbers say"


def test_a_crossing_is_drawn_leaning_the_way_it_leans():
    def foot_and_head(text: str) -> tuple[float, float]:
        over = chart(text).find(".//s:path[@class='chart-over']", NS).get("d")
        points = [tuple(map(float, p.split())) for p in over.strip("MZ").split("L")]
        return points[0][0], points[1][0]

    foot, head = foot_and_head("2/2 LC")
    assert head < foot
    foot, head = foot_and_head("2/2 RC")
    assert head > foot


@given(ops)
def test_every_operation_has_a_symbol(op):
    root = ElementTree.fromstring(symbol_svg(op))
    shapes = [e for e in root.iter() if e.tag.split("}")[1] in ("path", "circle")]
    plain_knit = op.token in ("k1",)
    assert bool(shapes) != plain_knit, "only a knit stitch is blank"
    assert not any("style" in e.attrib for e in root.iter())


def test_no_two_operations_share_a_symbol():
    named = {op.token: op for op in NAMED.values()}
    others = "k1; p1; k1 tbl; p1 tbl; sl1 wyif; sl1 wyib; leave 1; k1-yo-k1; p1-yo-p1; LC[k1tbl|p1]; 2/2 LC; 2/2 RC"
    others += "; 2/1 LPC; 3/3/3 LC; 3/3f/3 LC; 3/3b/3 LC; 2/2 LC dec; 2/2 RC dec; 3/3 LC dec; 4/4 LC rib; 1/1 LC"
    named |= {text: parse_op(text) for text in others.split("; ")}
    pictures = {symbol_svg(op) for op in named.values()}
    assert len(pictures) == len(named) >= 55


def test_the_relief_draws_each_loop_once_and_lights_the_leans_apart():
    tile = relaxed_tile(LIBRARY["rope-3-3-left"].chart, 1.4, 1)
    drawn = draw_loops(tile)
    knits = int((tile.net.sign > 0).sum())
    assert len(drawn.legs) == 2 * knits and len(drawn.bumps) == tile.net.loops - knits
    assert drawn.width == pytest.approx(tile.width_stitches * 10)

    def brightness(pattern: str) -> float:
        legs = [g.tone for g in draw_loops(relaxed_tile(LIBRARY[pattern].chart, 1.4, 1)).legs if g.layer == "front"]
        return sum(legs) / len(legs)

    assert brightness("rope-3-3-left") > brightness("rope-3-3-right") + 0.05


def test_cloth_is_as_wide_as_its_segment():
    svg = ElementTree.fromstring(segment_relief(LIBRARY["rib-2x2"].chart, "background", 5, ratio=1.4, tall=120.0))
    tile = relaxed_tile(LIBRARY["rib-2x2"].chart, 1.4, 0)
    assert float(svg.get("width")) == pytest.approx(22 * tile.width_stitches / 4 * 10, abs=0.01)
    assert svg.get("height") == "120"
    assert not any("style" in e.attrib for e in svg.iter())
