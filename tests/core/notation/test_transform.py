"""Transformations: exact inverses where they should be, and the same cloth whichever way it is worked."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import IllegalChart
from cablux.core.library import LIBRARY
from cablux.core.notation import (
    ChartRow,
    Crossing,
    Side,
    audit_chart,
    format_chart,
    made_loops,
    parse_chart,
    parse_ops,
    takes,
    wrong_side_row,
)
from cablux.core.notation.transform import from_behind, is_reversible, tiled_chart, upside_down, worked_row
from cablux.core.pattern.chartwords import chart_row_words, chart_words
from cablux.core.pattern.wording import Wording
from tests.core.strategies import charts, rows

PANELS = sorted(LIBRARY)


@given(charts())
def test_behind_of_behind_and_a_mirror_in_a_mirror_are_the_chart_itself(chart):
    assert from_behind(from_behind(chart)) == chart
    for number, row in from_behind(chart).numbered():  # a tube knitted inside out
        assert worked_row(chart.row(number), Side.WS).ops() == row.ops()
    assert from_behind(chart.mirrored()) == from_behind(chart).mirrored()
    assert audit_chart(from_behind(chart)) == ()


@given(rows)
def test_a_left_handed_row_undoes_itself_and_makes_the_same_cloth(row):
    """In her own mirror she works what a right hand would; the mirror of that is the cloth of the row."""
    hers = worked_row(ChartRow(box=row), Side.RS, left_handed=True)
    left = hers.ops()
    assert worked_row(hers, Side.RS, left_handed=True).ops() == row
    below, above = takes(row), len(made_loops(row))
    cloth = sorted((i, set(loop.parents), loop.depth) for i, loop in enumerate(made_loops(row)))
    seen = [
        (above - 1 - i, {below - 1 - p for p in loop.parents}, loop.depth) for i, loop in enumerate(made_loops(left))
    ]
    assert sorted(seen) == cloth


@pytest.mark.parametrize("pattern_id", PANELS)
def test_a_panel_is_turned_upside_down_and_back(pattern_id):
    chart = LIBRARY[pattern_id].chart
    steady = all(op.takes == op.makes == len(op.made) for row in chart.rows for op in row.ops())
    plain = all(
        isinstance(op, Crossing) or op.token[:2] in ("k1", "p1", "sl") for row in chart.rows for op in row.ops()
    )
    if not (steady and plain):
        with pytest.raises(IllegalChart, match="cannot be turned upside down"):
            upside_down(chart)
        return
    turned = upside_down(chart)
    assert audit_chart(turned) == ()
    if not chart.setup and not any(loop.slipped for row in chart.rows for op in row.ops() for loop in op.made):
        again = upside_down(turned)
        assert [row.ops() for row in again.rows] == [row.ops() for row in chart.rows]
    # common practice: upside down a horseshoe opens the other way, and a right-side crossing stays one
    if all(n % 2 for n in chart.crossing_rows) and chart.height % 2 == 0:
        assert all(n % 2 for n in turned.crossing_rows)


@given(charts(), st.integers(1, 3), st.integers(1, 3))
def test_a_tiled_chart_is_the_same_cloth_as_a_larger_repeat(chart, across, up):
    big = tiled_chart(chart, across, up)
    assert audit_chart(big) == () and big.width() == chart.width(across) and big.height == chart.height * up
    assert big.ops(1) == chart.ops(1, across)
    with pytest.raises(IllegalChart):
        tiled_chart(chart, 0, 1)


@given(charts())
def test_flat_words_read_on_the_side_where_they_are_worked_give_the_chart(chart):
    for words in chart_words(chart, repeats=2):
        for number in words.numbers:
            ops = parse_ops(words.text)
            seen = wrong_side_row(ops) if words.side is Side.WS else ops
            assert seen == chart.ops(number, 2)


@given(charts(), st.booleans())
def test_words_counted_down_to_what_remains_are_read_back(chart, left_handed):
    lines = [f"multiple: {chart.width(3)}"]
    wording = Wording(until=True)
    for words in chart_words(chart, wording, repeats=3):
        lines.append(f"rows {', '.join(map(str, words.numbers))} ({words.side}): {words.text}")
    read = parse_chart("\n".join(lines))
    assert [row.ops() for row in read.rows] == [chart.ops(n, 3) for n in range(1, read.height + 1)]
    assert read.height == chart.height * (1 + chart.height % 2), "an odd number of rows is written for both its sides"


def test_inside_out_a_purl_background_is_knitted_and_the_cables_are_read_the_other_way():
    """Common practice: a tube whose background is purl is easier knitted from its inside, all knit."""
    chart = LIBRARY["rope-3-3-left"].chart
    texts = {words.text for words in chart_words(chart, work="inside out")}
    assert texts == {"k2, p6, k2", "k2, 3/3 LC purl, k2"}
    flat = worked_row(chart.row(2), Side.WS)
    assert flat.side is Side.WS and chart_row_words(chart.row(2), 2) == "k2, p6, k2"


@pytest.mark.parametrize("pattern_id", ["rib-1x1", "rib-2x2", "garter", "seed", "double-moss", "honeycomb-reversible"])
def test_textures_that_are_alike_on_both_sides_are_known_as_such(pattern_id):
    """Common practice."""
    assert is_reversible(LIBRARY[pattern_id].chart)


@pytest.mark.parametrize("pattern_id", ["stockinette", "rope-3-3-left", "honeycomb", "diamond-moss", "broken-rib"])
def test_textures_that_differ_are_not(pattern_id):
    assert not is_reversible(LIBRARY[pattern_id].chart)


def test_the_reversible_rib_cable_shows_a_rope_of_the_same_hand_behind():
    """Common practice: each group keeps its rib, so both faces show the same cable."""
    chart = LIBRARY["rib-rope-1x1"].chart
    assert from_behind(chart).ops(5) == chart.ops(5)
    assert "4/4 LC rib" in format_chart(chart)
