"""What a knitter is told of a pattern, a swatch, a reading, a chart's rows and the ends of panels, and when not."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from cablux.core.counts.swatch_adviser import swatch_size
from cablux.core.errors import IllegalPiece
from cablux.core.gauge import Gauge
from cablux.core.gauge.reading import Part, Reading, reading_worth
from cablux.core.library import LIBRARY
from cablux.core.notation import Face
from cablux.core.pattern.chartwords import chart_words
from cablux.core.pattern.facts import pattern_facts
from cablux.core.rows.heights import plan_rows

from .pieces import PLAIN
from .strategies import charts, pieces


@given(
    st.integers(1, 9), st.integers(2, 40), st.sampled_from([0.25, 0.5, 1.0]), st.sampled_from(["washed", "as knitted"])
)
def test_a_reading_is_advised_only_what_it_has_not_done(places, halves, precision, state):
    """Common practice: over 10 cm or more, in three places, part stitches too, washed as the piece will be."""
    stockinette = LIBRARY["stockinette"].chart
    along = "height" if halves % 2 else "width"
    reading = Reading(
        parts=(Part(pattern=stockinette, count=halves),),
        mm=5.0 * halves,
        along=along,
        precision=precision,
        places=places,
        state=state,
    )
    said = " ".join(reading_worth(reading, 1000.0).advice)
    assert ("in three places" in said) == (places < 3)
    assert ("Count over 10 cm" in said) == (5 * halves < 100)
    assert (f"part {'rows' if halves % 2 else 'stitches'}" in said) == (precision >= 0.5)
    assert ("Wash and dry" in said) == (state == "as knitted")


@given(charts(), st.integers(0, 4))
def test_rows_worked_flat_turn_at_every_edge_and_row_1_is_a_right_side_row(chart, setup):
    """Written out, each row of the set-up and of the chart stands once, and its side is that of a turning needle."""
    chart = replace(chart, setup=(chart.rows * setup)[:setup])
    told = chart_words(chart, work="flat", repeats=2)
    rows = {(w.label.startswith("Set-up"), n): w for w in told for n in w.numbers}
    height = chart.height * (2 if chart.height % 2 else 1)
    assert len(rows) == sum(len(w.numbers) for w in told) == setup + height
    for (led_in, number), words in rows.items():
        from_row_1 = number - 1 - (setup if led_in else 0)
        side = "RS" if from_row_1 % 2 == 0 else "WS"
        assert str(words.side) == side and f"({side})" in words.label


def test_behaviour_is_told_by_the_loops_that_show():
    """Common practice: stockinette curls and hardly draws in, garter and ribs lie flat, honeycomb draws in much."""
    for pattern_id, pattern in LIBRARY.items():
        told = pattern_facts(pattern).behaviour
        chart = pattern.chart
        shown = [face is Face.KNIT for n in range(1, chart.height + 1) for face in chart.faces_after(n)]
        one_face = max(shown.count(True), shown.count(False)) / len(shown)
        assert ("curls at the edges" in told) == (one_face > 0.9), pattern_id
        assert (told[0] == "hardly draws in") == (pattern_facts(pattern).draw_in > 0.95), pattern_id
        assert told[0] in ("hardly draws in", "draws in some", "draws in much"), pattern_id
    behaviour = {
        name: pattern_facts(LIBRARY[name]).behaviour for name in ("stockinette", "garter", "seed", "honeycomb")
    }
    assert behaviour["stockinette"] == ("hardly draws in", "curls at the edges")
    assert behaviour["garter"] == behaviour["seed"] == ("hardly draws in", "alike on both sides")
    assert behaviour["honeycomb"][0] == "draws in much"


@given(pieces())
def test_the_ends_that_are_told_are_the_panels_and_no_others(piece):
    for view, band in zip(piece.band_views, plan_rows(piece).bands, strict=True):
        panels = [s for s in view.segments if s.role == "panel"]
        assert [(e.name, e.stitches) for e in band.endings] == [(s.pattern.name, s.stitches) for s in panels]


@given(st.floats(20, 400), st.integers(4, 80), st.sampled_from([0.0, 0.25, 0.5, 1.0]), st.integers(1, 6), st.booleans())
def test_a_reading_is_as_sure_as_its_errors_are_small(mm, count, precision, places, on_needle):
    """Count and ruler anywhere within their limits (a uniform distribution), a hundredth of unevenness over 10 cm."""
    part = Part(pattern=LIBRARY["stockinette"].chart, count=count)
    told = Reading(parts=(part,), mm=mm, along="width", precision=precision, places=places, on_needle=on_needle)
    limits = [precision / count, 1.0 / mm]  # a ruler is read to a millimetre
    errors = [stats.uniform(-limit, 2 * limit).var() for limit in limits if limit]
    uneven = 0.01**2 * min(1.0, 100.0 / mm)
    assert told.sd**2 == pytest.approx((sum(errors) + uneven) / places + (0.03**2 if on_needle else 0.0))


def test_an_advised_swatch_is_no_smaller_than_fifteen_centimetres_nor_a_repeat_larger():
    """Common practice: 15 cm, so that 10 cm can be read inside; a panel with 5 cm of background on each side."""
    for pattern in (p for p in LIBRARY.values() if {"background", "panel"} & set(p.uses)):
        stitches, rows = swatch_size(pattern, PLAIN)
        unit, chart = PLAIN.unit(pattern, "panel" in pattern.uses), pattern.chart
        repeats = (stitches - chart.balance) / chart.multiple
        if "panel" in pattern.uses:
            assert 2 * 10 <= stitches - chart.width(1) < 2 * 11, "20 stitches to 10 cm: ten are 5 cm"
        else:
            assert repeats == int(repeats), pattern.id
            assert unit.repeat_um * repeats >= 150_000 > unit.repeat_um * (repeats - 1) or repeats == 1, pattern.id
        tall = PLAIN.gauge.row_mm * unit.draw_up
        assert rows % chart.height == 0 and rows * tall >= 150.0, pattern.id


@pytest.mark.parametrize("stitches", [10.0, 20.0, 40.0])
def test_a_gauge_is_refused_where_rows_and_stitches_cannot_belong_together(stitches):
    """Our choice: 0.8 to 2.5 rows to a stitch; stockinette has about 1.4 (Munden 1959)."""
    for ratio in (0.81, 1.4, 2.49):
        assert Gauge(stitches, ratio * stitches).ratio == pytest.approx(ratio)
    for ratio in (0.79, 2.51):
        with pytest.raises(IllegalPiece, match="swap"):
            Gauge(stitches, ratio * stitches)
