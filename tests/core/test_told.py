"""What a knitter is told of a pattern, of a reading, of a chart's rows and of how panels end, and when she is not."""

from __future__ import annotations

from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from cablux.core.gauge.reading import Part, Reading, reading_worth
from cablux.core.layout.heights import plan_rows
from cablux.core.library import LIBRARY
from cablux.core.notation import Face
from cablux.core.pattern.chartwords import chart_words
from cablux.core.pattern.facts import pattern_facts

from .strategies import charts, pieces


@given(
    st.integers(1, 9), st.integers(2, 40), st.sampled_from([0.25, 0.5, 1.0]), st.sampled_from(["washed", "as knitted"])
)
def test_a_reading_is_advised_only_what_it_has_not_done(places, halves, precision, state):
    """Common practice: over 10 cm or more, in three places, part stitches too, washed as the piece will be."""
    stockinette = LIBRARY["stockinette"].chart
    along = "height" if halves % 2 else "width"
    reading = Reading((Part(stockinette, halves),), 5.0 * halves, along, precision, places, state)
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
