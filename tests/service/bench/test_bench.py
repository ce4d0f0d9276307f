"""The bench as a person meets it: what is shown, how edges lie, the pictures of rows and bands, the small tools."""

from __future__ import annotations

import re
from dataclasses import replace
from itertools import pairwise
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.counts.arrange import ready_arrangements
from cablux.core.counts.program import grows_sideways
from cablux.core.counts.squares import compare_squares, matched_square
from cablux.core.errors import IllegalPiece
from cablux.core.library import LIBRARY
from cablux.core.pattern import compile_piece
from cablux.core.piece.piece import BandView, Piece
from cablux.core.piece.problems import piece_problems
from cablux.core.piece.widths import body_um, segment_um
from cablux.core.rows.row_search import panel_alignment
from cablux.demo.loader import THROW
from cablux.render.rowpicture import rows_svg
from cablux.render.stack import draw_stack
from cablux.service.bench import offers as bench
from cablux.service.bench import order_edits as order
from cablux.service.bench import piece_edits as choices
from cablux.service.bench import segment_edits as edits
from cablux.service.bench.view import added_at, bench_view, widest_background
from cablux.service.caston import cast_on_answer
from cablux.service.caston.edge_preview import edge_picture, edge_preview, way_picture
from cablux.service.derivations import explain_number
from cablux.service.errors import NotFound
from cablux.service.projects.numbers import piece_numbers
from cablux.service.projects.project import Projects
from cablux.service.small_tools.even_spread import spread_evenly
from tests.core.pattern.test_words import count_by_hand
from tests.core.strategies import panels, pieces
from tests.examples import examples
from tests.service.projects.test_projects import small

SVG = "{http://www.w3.org/2000/svg}"


@pytest.fixture
def skerry(demo_database):
    projects = Projects(demo_database)
    return projects, projects.open(THROW + 1)


@given(pieces(), st.integers(0, 5), st.lists(st.integers(0, 99), max_size=3))
def test_the_view_shows_what_is_there_whatever_was_asked_for(piece, band, selected):
    file = small().with_piece(piece)

    class Shown:
        id, position, unit, paint = 1, 0, "cm", None

        def __init__(self) -> None:
            self.file, self.piece, self.numbers = file, piece, piece_numbers(piece)

    view = bench_view(Shown(), band, selected)
    assert 0 <= view.at < len(piece.bands) and all(0 <= n < len(view.band_view.segments) for n in view.selected)
    assert view.segment == view.band_view.segments[view.first]
    for partner, told in enumerate(view.told.segments):
        assert not told.partner or view.band.home(partner)[0] in {view.band.home(n)[0] for n in view.selected}
    assert view.band_view.segments[widest_background(view.band_view)].stitches >= 1
    drawn = draw_stack(piece, piece_numbers(piece).cast_on, piece_numbers(piece).rows)
    bodies = [s for s in drawn.slabs if s.band >= 0]
    assert [s.stitches for s in bodies] == [view.stitches for view in piece.band_views]
    for slab in bodies:
        assert sum(wide for _, wide, _ in slab.parts) == pytest.approx(slab.box[2], rel=0.01)
        assert min(x for x, _, _ in slab.parts) == pytest.approx(slab.box[0], abs=0.5)
    tops = [s.box[1] for s in drawn.slabs]
    assert tops == sorted(tops, reverse=True), "the cast-on lies at the bottom"
    assert drawn.lines[0].text == f"cast on {piece_numbers(piece).cast_on.cast_on}"
    scales = {round(s.box[2] / s.width_um, 9) for s in drawn.slabs} | {
        round(s.box[3] / s.height_um, 9) for s in drawn.slabs
    }
    assert len(scales) == 1, "one scale, across and up"
    assert all(min(x, y) >= 0 and x + wide < drawn.labels for s in drawn.slabs for x, y, wide, _ in [s.box])
    words = [line.text_y for line in drawn.lines]
    assert all(a - b >= 18.0 - 1e-6 for a, b in pairwise(words)) and words[0] <= drawn.height


@given(pieces())
def test_the_picture_of_the_rows_marks_every_crossing_that_is_knitted(piece):
    rows = piece_numbers(piece).rows.bands[0].body
    found = panel_alignment(piece.band_views[0], rows)
    root = ElementTree.fromstring(rows_svg(found))
    crossed = root.findall(f"{SVG}path[@class]")
    marks = [p for p in crossed if p.get("class").startswith("rows-cross")]
    assert [len(re.findall("M", p.get("d"))) for p in marks] == [len(s.crossings) for s in found.strips]
    body = [r for r in compile_piece(piece).rows if r.section == "body" and r.band == 0]
    knitted = {i for i, row in enumerate(body, start=1) if row.crossing_parts}
    assert _panel_rows(body, piece) == {n for s in found.strips for n in s.crossings} & knitted


def _panel_rows(body, piece) -> set[int]:
    roles = [s.role for s in piece.band_views[0].segments]
    panel = [{p.segment for p in row.crossing_parts if roles[p.segment] == "panel"} for row in body]
    return {i for i, found in enumerate(panel, start=1) if found}


def test_a_straight_edge_flares_a_stepped_one_lies_flat_and_both_are_drawn(skerry):
    """More stitches at a cable's foot, fewer at its top, and it does not flare (M. Stanley, *Knitter's Handbook*)."""
    projects, project = skerry
    for end in ("bottom", "top"):
        stepped, straight = (edge_preview(project, end, style) for style in ("stepped", "straight"))
        assert stepped.verdict == "lies flat" and straight.verdict == "ruffles"
        assert straight.flare_um > 30_000 > 15_000 > abs(stepped.flare_um)
        drawn, other = (edge_picture(project, end, style) for style in ("straight", "stepped"))
        assert ElementTree.fromstring(drawn).tag == f"{SVG}svg" and drawn != other
    tube = projects.change_piece(project.id, "round", choices.set_round(on=True))
    assert edge_preview(tube, "bottom", "straight").verdict == "ruffles", "a tube flares as well"
    bare = replace(project.piece.bottom, rows=0)
    held = choices.set_border("bottom", rows=0)(project.piece)
    assert held.bottom == replace(bare, rows=0) and piece_numbers(held).cast_on.cast_on == held.band_views[0].stitches
    with pytest.raises(NotFound, match="no longer offered"):
        way_picture(project, "sideways", "top")


def test_the_story_of_the_cast_on_adds_up_and_advises_by_what_the_edge_must_do(skerry):
    projects, project = skerry
    story = cast_on_answer(project.file)
    (body,) = story.bands
    assert sum(line.below for line in body.segments) == body.below == story.bottom.edge.count
    assert sum(line.stitches for line in body.segments) == project.piece.band_views[0].stitches
    assert "firm edge" in story.bottom.advice[0] and story.cords_mm
    for change in (*story.ends[0].changes, *story.ends[1].changes):
        assert count_by_hand(change.text) == (change.before, change.after)
    assert story.rows.ways[0].name == "as it is"
    taken = projects.change_piece(project.id, "rows", bench.take_row_choice(story.rows.ways[1].name))
    assert taken.numbers.rows.total == story.rows.ways[1].rows
    ribbed = projects.change_piece(project.id, "rib", choices.set_border("bottom", pattern="rib-2x2", factor=0.9))
    assert "has to stretch" in cast_on_answer(ribbed.file).bottom.advice[0]


def test_each_band_is_told_from_the_stitches_of_what_lies_below_it(skerry):
    projects, project = skerry
    grown = projects.change_piece(project.id, "band", choices.add_band(0))
    changed = projects.change_piece(grown.id, "repeats", edits.set_repeats(1, [1], 19))
    story = cast_on_answer(changed.file)
    first, second = story.bands
    assert second.below == first.stitches and sum(line.below for line in second.segments) == first.stitches
    assert 1000 * sum(line.width_mm for line in second.segments) == pytest.approx(1000 * second.width_mm)
    assert 1000 * second.width_mm == body_um(changed.piece.band_views[1])
    assert project.numbers.steady is False and changed.numbers.steady is False
    (row,) = story.between
    assert count_by_hand(row.text) == (first.stitches, second.stitches) and second.difference
    shares = [explain_number(changed, f"share-at-1-{i}") for i in range(len(second.segments))]
    assert [told.answer for told in shares] == [str(line.below) for line in second.segments]
    assert any("Band 1 has" in line.text and line.why == "body-at-0" for told in shares for line in told.lines)


def test_a_clash_is_told_with_its_cures_and_a_cure_frees_it(skerry):
    projects, project = skerry
    tight = projects.change_piece(project.id, "small", choices.set_target(width_mm=600.0))
    found = bench.bench_offers(tight.piece.band_views[0], "cm")
    assert not found.offers and "a width of 60 cm" in found.refusal
    cured = projects.change_piece(project.id, "free", bench.take_cure(0, 0))
    assert bench.bench_offers(cured.piece.band_views[0]).offers and cured.file.own.size.width != 60
    with pytest.raises(NotFound, match="no longer clash"):
        projects.change_piece(project.id, "free", bench.take_cure(0, 0))


@examples(10)
@given(st.floats(200, 1500), panels, st.sampled_from(["reverse-stockinette", "seed", "stockinette"]))
def test_every_arrangement_can_be_knitted_and_none_is_wider_than_wanted_by_more_than_a_step(width, name, background):
    piece = replace(small().piece(), width_mm=round(width))
    for found in ready_arrangements(
        piece.band_views[0], [LIBRARY[name], LIBRARY["rope-2-2-left"]], LIBRARY[background]
    ):
        laid = piece.band_views[0].with_band(found.band)
        assert not list(piece_problems(laid.piece)) and laid.symmetric
        assert found.width_um == body_um(laid) and found.stitches == laid.stitches
        assert abs(found.width_um / 1000 - piece.width_mm) < 45.0, (found.name, found.width_um)
        _as_wide_as_it_should(piece, laid, found.name)


def _as_wide_as_it_should(piece: Piece, laid: BandView, name: str) -> None:
    """All over: no repeat more would fit. In the middle: of all repeats those nearest to a third of the width."""
    wanted, middle = piece.width_mm * 1000.0, len(laid.segments) // 2
    shown = laid.segments[middle]
    wide = [segment_um(replace(shown, repeats=max(1, shown.repeats + by)), laid.measure) for by in (-1, 0, 1)]
    side, background = laid.segments[:2]
    background = replace(background, repeats=max(1, 4 // background.chart.multiple))
    edge, least = segment_um(side, laid.measure), segment_um(background, laid.measure)
    if name == "all over":
        gaps = 2 * (
            segment_um(laid.segments[0], laid.measure) + segment_um(replace(laid.segments[1], repeats=4), laid.measure)
        )
        assert wide[2] + gaps > wanted, "with one repeat more no ground is left"
    elif name == "one wide in the middle" and wide[2] > wide[1] and grows_sideways(shown):
        off = [abs(each - wanted / 3) for each in wide]
        assert off[1] <= min(off) + 2
    elif name == "pairs facing in":
        pairs = sum(s.role == "panel" for s in laid.segments) // 2
        each = segment_um(next(s for s in laid.segments if s.role == "panel"), laid.measure)
        best = max(1, min(14, int(wanted / (4 * each))))  # of fifteen pairs the band would have 63 segments, over 60
        assert pairs == best or (pairs < best and (2 * pairs + 2) * each + (2 * pairs + 3) * least + 2 * edge > wanted)


def test_a_panel_that_was_added_is_the_one_that_is_chosen():
    piece = order.insert_pattern(0, LIBRARY["rope-3-3-right"], 1)(small().piece())
    wider = order.insert_pattern(0, LIBRARY["braid-9"], 1)(piece)
    at = added_at(wider.band_views[0], LIBRARY["braid-9"], 1)
    assert wider.band_views[0].segments[at].pattern_id == "braid-9"
    assert added_at(wider.band_views[0], LIBRARY["honeycomb"], 3) == 3


def test_squares_of_other_sizes_are_matched_edge_for_edge():
    one = small().piece()
    other = order.insert_pattern(0, LIBRARY["honeycomb"], 1)(replace(one, width_mm=500.0, height_mm=700.0))
    assert not compare_squares([one, other]).fits
    fitted = matched_square(other, one)
    both = compare_squares([one, fitted])
    assert both.same_edges and both.width_off < 0.03 and both.height_off < 0.03
    assert fitted.band_views[0].sides == one.band_views[0].sides and fitted.bottom == one.bottom


@given(st.integers(1, 400), st.integers(1, 400), st.booleans(), st.integers(0, 3))
def test_the_spread_of_any_two_counts_is_counted_by_hand(start, goal, in_the_round, edge):
    edge = 0 if in_the_round else edge
    try:
        found = spread_evenly(start, goal, edge=edge, in_the_round=in_the_round)
    except IllegalPiece as error:
        assert min(start, goal) - 2 * edge <= 1 and str(error).endswith(".")
        return
    counts = [start]
    for row in found.rows:
        assert count_by_hand(row.text) == (row.before, row.after) and row.before == counts[-1]
        assert row.between[1] - row.between[0] <= 1
        counts.append(row.after)
    assert counts[-1] == goal and found.sentence.endswith(".")
