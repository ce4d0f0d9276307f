"""Three marks on a line: each where its number is, on one scale for the page."""

from __future__ import annotations

from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.render.gauge_marks import MARGIN, WIDTH, draw_axis, draw_mark_line, scale_of

RATIO = st.floats(0.4, 1.3)
SVG = "{http://www.w3.org/2000/svg}"


@given(st.lists(RATIO, min_size=1, max_size=6))
def test_the_scale_holds_every_value_and_keeps_their_order(values):
    scale = scale_of(values)
    places = [scale.x(v) for v in sorted([*values, 1.0])]
    assert places == sorted(places) and places[0] > MARGIN and places[-1] < WIDTH - MARGIN
    assert round(scale.low / 0.05, 6) == round(scale.low / 0.05), "it begins at a twentieth"


def test_model_swatches_and_result_lie_where_their_numbers_are():
    scale = scale_of([0.7, 0.9])
    line = draw_mark_line(scale, (0.7, 0.8, 0.9), (0.74, 0.76), result=(0.73, 0.75, 0.77), label="Rope: 0.75")
    root = ElementTree.fromstring(line)
    assert root.get("aria-label") == "Rope: 0.75" and root.get("role") == "img"
    model = root.find(f"{SVG}circle[@class='mark-model']")
    assert float(model.get("cx")) == pytest.approx(scale.x(0.8), abs=0.01)
    span = root.find(f"{SVG}rect[@class='mark-span']")
    ends = float(span.get("x")), float(span.get("x")) + float(span.get("width"))
    assert ends == (pytest.approx(scale.x(0.73), abs=0.02), pytest.approx(scale.x(0.77), abs=0.02))
    readings = root.findall(f"{SVG}path[@class='mark-reading']")
    starts = [float(r.get("d")[1:].split()[0]) for r in readings]
    assert starts == [pytest.approx(scale.x(r), abs=0.01) for r in (0.74, 0.76)]
    numbers = {t.text: float(t.get("x")) for t in ElementTree.fromstring(draw_axis(scale)).findall(f"{SVG}text")}
    assert numbers["1.0"] == pytest.approx(scale.x(1.0), abs=0.01) and "0.7" in numbers
