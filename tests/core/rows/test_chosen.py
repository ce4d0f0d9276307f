"""What is chosen among several: the fill nearest to the width, rows and start rows by trying every one."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from cablux.core.counts.arrange import fill_width, ready_arrangements
from cablux.core.garment.cautions import layout_cautions
from cablux.core.gauge.methods import MethodMeasure
from cablux.core.library import LIBRARY
from cablux.core.needle.steps import CountStep
from cablux.core.notation import Face, Lean, parse_chart
from cablux.core.piece.widths import body_um, segment_um
from cablux.core.rows import heights
from cablux.core.rows.endings import panel_ending
from cablux.core.rows.heights import plan_rows
from cablux.core.rows.row_room import counts_return
from cablux.core.rows.row_search import row_choices
from tests.core.pieces import PLAIN, background, panel, throw
from tests.core.strategies import pieces
from tests.examples import examples


@given(st.sampled_from(["braid-9", "rope-3-3-left", "diamond-moss"]), st.integers(3, 9), st.integers(150, 900))
def test_panels_are_worked_as_often_as_comes_nearest_to_the_width(name, gap, width):
    """One panel more, or one fewer, with its gap would miss the width by more."""
    view = throw(background(20), width=width).band_views[0]
    filled = fill_width(view, [panel(name)], LIBRARY["reverse-stockinette"], gap=gap)
    assert filled is not None
    laid = view.with_band(filled)
    shown = [s for s in laid.inner if s.role == "panel"]
    beside = next(s for s in laid.inner if s.role == "background")
    step = segment_um(shown[0], view.measure) + segment_um(beside, view.measure)
    off = body_um(laid) - 1000.0 * width
    assert abs(off) <= abs(off + step) + 2
    assert len(shown) == 1 or abs(off) <= abs(off - step) + 2


@given(pieces())
@examples(7)
def test_the_nearest_way_to_end_is_the_nearest_of_all_numbers_of_rows(piece):
    assume(len(piece.bands) == 1)
    nearest = {w.name: w for w in row_choices(piece)}.get("nearest")
    assume(nearest is not None)
    view, wanted = nearest.piece.band_views[0], 1000.0 * piece.height_mm

    def off(rows: int) -> float:
        return abs(plan_rows(nearest.piece.with_band(replace(view.band, rows=rows), 0)).height_um - wanted)

    step = piece.row_step()
    beyond = range(
        step * (view.band.rows // (2 * step)) + step, 2 * view.band.rows + 40, step
    )  # half and double are off
    tried = [n for n in beyond if counts_return(view, n)]
    assert off(view.band.rows) <= min(map(off, tried)) + 2


@given(st.sampled_from(["braid-9", "rope-3-3-left", "honeycomb", "diamond-moss", "horseshoe-8"]), st.integers(150, 700))
def test_a_panel_starts_at_the_row_from_which_it_ends_best(name, height):
    """Every start row is tried: where one ends the panel better than it does now, a way to end begins there."""
    piece = replace(throw(background(8), panel(name), background(8)), height_mm=float(height))
    now = plan_rows(piece).bands[0]

    def scores(rows: int, lead: int) -> dict[int, tuple[int, int]]:
        shown, step = piece.band_views[0].segments[2], piece.row_step()
        return {
            phase: heights.ending_score((panel_ending(replace(shown, phase=phase), rows, lead),))
            for phase in range(0, shown.chart.height, step)
        }

    begun = {w.name: w for w in row_choices(piece)}.get("begun elsewhere")
    if min(scores(now.body, now.lead).values()) < heights.ending_score(now.endings):
        assert begun is not None
    if begun is not None:
        band = begun.rows.bands[0]
        every = scores(band.body, band.lead)
        assert every[begun.piece.band_views[0].segments[2].phase] == min(every.values())


@pytest.mark.parametrize("height", [300, 350, 550, 625])
def test_a_tall_panel_begins_elsewhere_where_that_saves_its_end(height):
    """Found by trying every start row: a diamond of 24 rows would be cut at these heights, begun at its first row."""
    piece = replace(throw(background(8), panel("diamond-moss"), background(8)), height_mm=float(height))
    begun = {w.name: w for w in row_choices(piece)}["begun elsewhere"]
    shown = begun.piece.band_views[0].segments[2]
    assert 0 < shown.phase < shown.chart.height and shown.phase % 2 == 0
    assert heights.ending_score(begun.rows.endings) < heights.ending_score(plan_rows(piece).endings)


@given(st.integers(250, 900))
@examples(4)
def test_an_all_over_panel_is_repeated_as_often_as_fits(width):
    """As often at least as it lies within the width between its edges and a little background on each side."""
    view = throw(background(20), width=width).band_views[0]
    (found,) = [
        a for a in ready_arrangements(view, [LIBRARY["honeycomb"]], LIBRARY["stockinette"]) if a.name == "all over"
    ]
    repeats = next(s.repeats for s in found.band.segments if s.is_panel)
    purl_margin = next(s.purl_margin for s in found.band.segments if s.is_panel)
    room = [
        n
        for n in range(1, repeats + 4)
        if body_um(
            throw(
                background(4, "stockinette"),
                panel("honeycomb", n, purl_margin=purl_margin),
                background(4, "stockinette"),
            ).band_views[0]
        )
        <= 1000.0 * width
    ]
    assert repeats >= max(room, default=1)


@given(st.integers(2, 30), st.data())
def test_in_a_segment_of_the_middle_each_half_leans_its_own_way(small, data):
    """Increases lean away from the middle column as they do in the half they stand in: left at the right, and so on."""
    large = data.draw(st.integers(small + 1, 2 * small))
    made = tuple(sorted(data.draw(st.permutations(range(large)))[: large - small]))
    ops = CountStep(before=small, after=large, made=made).ops([Face.KNIT] * large, middle=True)
    for i in made:
        if 2 * i != large:
            assert ops[i].lean is (Lean.LEFT if 2 * i < large else Lean.RIGHT)


@given(pieces())
def test_a_panel_that_is_cut_is_told_once_and_no_other(piece):
    for view, band in zip(piece.band_views, plan_rows(piece).bands, strict=True):
        told = [c for c in layout_cautions(view, band) if c.kind == "cut"]
        cut = {e.name for e in band.endings if e.look == "cut"}
        assert sorted(c.text.partition(" stops")[0] for c in told) == sorted(cut)
        for caution in told:
            (at,) = caution.at
            assert view.segments[at].role == "panel" and view.segments[at].pattern.name in caution.text


@given(st.integers(1, 40), st.data())
def test_a_made_stitch_goes_with_the_stitch_on_the_nearer_sides_far_hand(small, data):
    """Those of the first half with the stitch before them, the others with the one after: a row is its own mirror."""
    large = data.draw(st.integers(small, 2 * small))
    made = tuple(sorted(data.draw(st.permutations(range(large)))[: large - small]))
    step = CountStep(before=small, after=large, made=made)
    assert step.onward == tuple(large - 1 - i <= i for i in made)
    mirrored = tuple(large - 1 - i for i in reversed(made))
    if large % 2 == 0 or large // 2 not in made:
        assert step.mirrored() == CountStep(before=small, after=large, made=mirrored)


@pytest.mark.parametrize(("rows", "extra"), [(4, 2.0), (3, 2.0), (2, 2.0), (5, 1.0), (8, 1.0)])
def test_the_rule_of_thumb_asks_two_stitches_of_a_rope_that_crosses_every_fourth_row_or_closer(rows, extra):
    """Common practice: one extra stitch for a 4-stitch rope, two where it crosses every fourth row."""
    plain = "".join(f"\nrow {n} ({'WS): p4' if n % 2 == 0 else 'RS): k4'}" for n in range(2, rows + 1))
    chart = parse_chart(f"row 1 (RS): 2/2 LC{plain}")
    rope = replace(LIBRARY["rope-2-2-left"], id="rope", chart=chart)
    counted = MethodMeasure("thumb", PLAIN).unit(rope, True).width_um(1) / (1000.0 * PLAIN.gauge.stitch_mm)
    assert 4 - counted == pytest.approx(extra, abs=0.01)
