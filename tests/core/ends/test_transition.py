"""Rows that change a count: sums, symmetry and spacing against brute force; rows that end well."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations, pairwise, product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.ends.cast_on import edge_plan
from cablux.core.ends.transition import MOST_ROWS, apportion, reachable_counts, rows_needed
from cablux.core.errors import IllegalPiece
from cablux.core.library import LIBRARY
from cablux.core.needle.spread import count_stages, even_made, even_runs, hidden_made, most_made
from cablux.core.needle.steps import CountStep, Steps
from cablux.core.notation import Face, Increase, faces, makes, takes
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band
from cablux.core.piece.problems import piece_problems
from cablux.core.piece.segment import Segment, library_segment
from cablux.core.rows import heights
from cablux.core.rows.endings import crossings_upto, panel_ending
from cablux.core.rows.heights import plan_rows
from cablux.core.rows.row_search import panel_alignment, row_choices
from tests.core.strategies import piece_of, pieces
from tests.examples import examples


@given(st.integers(2, 400), st.data())
def test_increases_are_spread_evenly_and_symmetrically(stitches, data):
    many = data.draw(st.integers(0, stitches - 1))
    runs = even_runs(stitches, many)
    assert sum(runs) == stitches and len(runs) == many + 1 and min(runs) >= 1
    inner = runs[1:-1]
    assert not inner or max(inner) - min(inner) <= 1, "gaps differ by one at most"
    round_runs = even_runs(stitches, many, closed=True)
    assert sum(round_runs) == stitches and len(round_runs) == many + 1
    if many:
        turn = [round_runs[0] + round_runs[-1], *round_runs[1:-1]]
        assert max(turn) - min(turn) <= 1, "round and round, the run over the join among them"


@pytest.mark.parametrize("stitches", range(3, 14))
def test_an_even_spread_is_symmetric_wherever_some_even_spread_is(stitches):
    """Brute force over every way to put the two lengths of run: if one is symmetric so is ours, and none ends better.

    Before the first and after the last lies half a run: of the symmetric ways ours comes nearest to that.
    """
    for many in range(2, stitches):
        runs = even_runs(stitches, many)
        ways = [
            (a, *c, a)
            for a in range(1, stitches)
            for short in range(1, stitches)
            for longer in range(many)
            if 2 * a + short * (many - 1) + longer == stitches
            for at in combinations(range(many - 1), longer)
            for c in [tuple(short + (i in at) for i in range(many - 1))]
            if c == c[::-1]
        ]
        assert runs == runs[::-1] or not ways, (stitches, many)
        if ways:
            off = min(abs(2 * way[0] - stitches / many) for way in ways)
            assert abs(2 * runs[0] - stitches / many) == pytest.approx(off), (stitches, many, runs)


@pytest.mark.parametrize("n", range(3, 12))
def test_hidden_stitches_are_symmetric_about_the_middle_and_no_symmetric_places_are_cheaper(n):
    """Every row of so many stitches whose costs read the same both ways, by brute force."""
    for half in product((0, 1), repeat=(n + 1) // 2):
        costs = [*half, *half[::-1]] if n % 2 == 0 else [*half, *half[-2::-1]]
        for many in range((n - 1) // 2 + 1):
            got = hidden_made(costs, many, symmetric=True)
            assert len(got) == many and all(0 < at < n - 1 for at in got)
            assert all(b - a > 1 for a, b in pairwise(got))
            legal = [c for c in combinations(range(1, n - 1), many) if all(b - a > 1 for a, b in pairwise(c))]
            alike = [c for c in legal if tuple(n - 1 - at for at in reversed(c)) == c]
            if alike:
                assert got in alike and sum(costs[p] for p in got) == min(sum(costs[p] for p in c) for c in alike)


@given(st.integers(2, 300), st.data())
def test_stages_reach_the_count_without_asking_too_much_of_a_row(small, data):
    large = data.draw(st.integers(small, 8 * small))
    counts = count_stages(small, large)
    assert (counts[0], counts[-1]) == (small, large)
    assert all(0 < b - a <= most_made(a) for a, b in pairwise(counts))
    most = small
    for _ in range(len(counts) - 2):
        most += most_made(most)
    assert most < large or len(counts) <= 2, "in no more rows than it takes"


def test_the_worked_counts_are_spread_as_a_knitter_would():
    """Common practice: 64 to 92 is one row; 20 to 33 asks for more than every other stitch, so two rows."""
    assert count_stages(64, 92) == (64, 92) and count_stages(20, 33) == (20, 26, 33)
    for many in (5, -1):
        with pytest.raises(IllegalPiece, match="do not fit"):
            even_runs(5, many)
    with pytest.raises(IllegalPiece, match="no gap"):
        count_stages(1, 9)


@given(st.lists(st.integers(0, 1), min_size=3, max_size=9), st.data())
def test_hidden_stitches_lie_in_the_cheapest_places_and_of_those_the_most_even(costs, data):
    n = len(costs)
    many = data.draw(st.integers(0, (n - 1) // 2))

    def merit(places):
        off = [(2 * many * p + many - (2 * i + 1) * n) ** 2 for i, p in enumerate(places)]
        return sum(costs[p] for p in places), sum(off)

    legal = [c for c in combinations(range(1, n - 1), many) if all(b - a > 1 for a, b in pairwise(c))]
    got = hidden_made(costs, many, symmetric=False)
    assert got in legal and merit(got) == min(map(merit, legal))
    mirrored = [*costs, 1, *reversed(costs)]
    for m in range(n):
        both = hidden_made(mirrored, m, symmetric=True)
        assert tuple(2 * n - at for at in reversed(both)) == both
        inner = [c for c in combinations(range(1, 2 * n), m) if all(b - a > 1 for a, b in pairwise(c))] if n < 6 else []
        alike = [c for c in inner if tuple(2 * n - at for at in reversed(c)) == c]
        assert not alike or sum(mirrored[p] for p in both) == min(sum(mirrored[p] for p in c) for c in alike)
    with pytest.raises(IllegalPiece, match="do not fit"):
        hidden_made(costs, n, symmetric=False)


@given(st.integers(2, 60), st.data())
def test_a_step_down_is_its_step_up_the_other_way(small, data):
    many = data.draw(st.integers(0, most_made(small)))
    up = CountStep(before=small, after=small + many, made=even_made(small, small + many))
    down = up.reversed()
    ops_up, ops_down = up.ops([Face.KNIT] * up.after), down.ops([Face.PURL] * down.after)
    assert (takes(ops_up), makes(ops_up)) == (small, small + many)
    assert (takes(ops_down), makes(ops_down)) == (small + many, small)
    assert sum(isinstance(op, Increase) for op in ops_up) == many
    assert max(map(up.partners.count, range(small))) <= 2, "no stitch is worked twice"
    assert up.mirrored().mirrored() == up
    columns = Steps((up, down))
    assert columns.from_columns[-1] == tuple(range(small)), "up and down again leads every stitch home"
    assert columns.reversed().counts == (small, small + many, small)


@given(st.lists(st.integers(1, 400), min_size=1, max_size=9), st.data())
def test_shares_add_up_within_their_bounds_and_mirror_each_other(weights, data):
    weights = weights + weights[::-1] if data.draw(st.booleans()) else weights + weights[-2::-1]
    low = [max(1, w // 9) for w in weights]
    high = [w // 2 + 3 for w in weights]
    total = data.draw(st.integers(sum(low), sum(high)))
    shares = apportion(weights, total, low, high=high, paired=True)
    assert sum(shares) == total and all(a <= s <= b for a, s, b in zip(low, shares, high, strict=True))
    if len(weights) % 2 == 0 and total % 2 == 0:
        assert shares == shares[::-1]


@examples(160)
@given(st.lists(st.integers(1, 9), min_size=2, max_size=3), st.sampled_from([True, True, False]), st.data())
def test_shares_are_alike_wherever_they_can_be_and_as_near_to_their_weights_as_whole_numbers_are(half, middle, data):
    """Brute force over every way to share: where a symmetric one exists ours is; the middle gives way to a pair."""
    weights = half + half[-2::-1] if middle else half + half[::-1]
    low = [data.draw(st.integers(1, 2)) for _ in half]
    high = [a + data.draw(st.integers(0, 4)) for a in low]
    low, high = ([*e, *(e[-2::-1] if middle else e[::-1])] for e in (low, high))
    total = data.draw(st.integers(sum(low), sum(high)))
    shares = apportion(weights, total, low, high=high, paired=True)
    ways = [w for w in product(*(range(a, b + 1) for a, b in zip(low, high, strict=True))) if sum(w) == total]
    assert shares in ways
    alike = [w for w in ways if w == w[::-1]]
    assert not alike or shares == shares[::-1], (shares, alike)

    def off(way: tuple[int, ...]) -> float:
        return sum((n - total * w / sum(weights)) ** 2 for n, w in zip(way, weights, strict=True))

    assert off(shares) <= min(map(off, alike or ways)) + 2.001, (
        "alike, and hardly further from the weights than need be"
    )
    alone = apportion(weights, total, low, high=high, paired=False)
    assert off(alone) == pytest.approx(min(map(off, ways))), "where nothing need be alike none is nearer"


def test_what_a_row_reaches_is_what_it_can_make():
    for stitches in range(1, 60):
        low, high = reachable_counts(stitches, 1)
        assert next(n for n in range(1, 100) if n <= stitches <= n + most_made(n)) == low
        assert high == stitches + most_made(stitches)


@given(st.lists(st.integers(2, 60), min_size=1, max_size=4), st.booleans())
def test_a_count_takes_as_few_rows_as_can_make_it(counts, dense):
    """At the most and the fewest that so many rows can lead from, one beyond needs a row more."""
    segments = [library_segment("background", "stockinette", n) for n in counts]
    for rows in range(1, MOST_ROWS + 1):
        low, high = (sum(reachable_counts(n, rows, dense=dense)[k] for n in counts) for k in (0, 1))
        assert all(rows_needed(segments, n, dense=dense) <= rows for n in (low, high))
        assert all(rows_needed(segments, n, dense=dense) > rows for n in (low - 1, high + 1))


@given(pieces())
def test_rows_come_near_the_height_and_end_whole_parts(piece):
    rows = plan_rows(piece)
    step = piece.row_step()
    assert all(b.body % step == 0 for b in rows.bands) and rows.bands[0].lead >= piece.setup_rows
    assert rows.total == rows.bottom + rows.top + sum(b.rows for b in rows.bands)
    tall = sum(s.chart.height for s in piece.everything)
    near = heights.HEIGHT_TOLERANCE_MM + 2 * len(rows.bands) * tall / 2.8
    assert abs(rows.height_um / 1000 - piece.height_mm) <= near
    for view, band in zip(piece.band_views, rows.bands, strict=True):
        assert heights.counts_return(view, band.body)


@pytest.mark.parametrize("name", sorted(p for p in LIBRARY if "panel" in LIBRARY[p].uses))
def test_an_ending_is_what_the_rows_written_out_say(name):
    s = Segment(role="panel", pattern=LIBRARY[name], repeats=1)
    high = s.chart.height
    for rows in range(high, 2 * high + 1, 2):
        for phase in range(0, high, max(2, high // 4 // 2 * 2)):
            placed = replace(s, phase=phase)
            crossed = [r for r in range(1, rows + 1) if (r - 1) % high + 1 in placed.chart.crossing_rows]
            assert crossed == crossings_upto(placed, rows)
            end = panel_ending(placed, rows, 2)
            if crossed:
                assert (end.before, end.after) == (2 + crossed[0] - 1, rows - crossed[-1])
            assert end.whole == (rows % high == 0) and (end.look != "cut" or not end.whole)
            # told from the cloth: the columns at the top as those below row 1, crossings as far from both ends
            same = faces_of(placed, rows) == faces_of(placed, 0)
            alike = same and abs(end.before - end.after) <= 1 and end.after >= 1 if crossed else end.whole
            rests = end.whole or (same and end.after >= 2) or not crossed
            assert end.look == ("alike" if alike else "rests" if rests else "cut"), (rows, phase)


def faces_of(s: Segment, rows: int) -> tuple[Face, ...]:
    """The faces on the needle after so many rows of a segment, knitted row by row from what it begins on."""
    shown = s.chart.faces_below(1, 1)
    for n in range(rows):
        shown = faces(s.chart.ops(n % s.chart.height + 1, 1), shown)
    return tuple(shown)


def test_a_rope_that_ends_as_it_began_is_told_from_one_that_is_cut():
    rope, diamond = (Segment(role="panel", pattern=LIBRARY[n], repeats=1) for n in ("rope-3-3-left", "diamond-moss"))
    first = rope.chart.crossing_rows[0]
    looks = {rows: panel_ending(rope, rows, 2).look for rows in range(8, 40, 2)}
    assert "alike" in looks.values() and first
    middle = diamond.chart.height // 2
    assert panel_ending(diamond, diamond.chart.height + middle, 2).look == "cut", "half a diamond is open at the top"


@given(pieces())
def test_every_way_to_end_keeps_the_layout_and_never_cuts_more_than_what_one_has(piece):
    ways = row_choices(piece)
    assert ways[0].piece == piece and len({w.name for w in ways}) == len(ways)
    for way in ways:
        assert [s.repeats for s in way.piece.everything] == [s.repeats for s in piece.everything]
        assert way.rows == plan_rows(way.piece) and not list(piece_problems(way.piece))
        if way.name == "begun elsewhere":
            assert heights.ending_score(way.rows.endings) < heights.ending_score(ways[0].rows.endings)


def test_start_rows_are_found_that_let_every_panel_end_as_it_began():
    edge, background = library_segment("edge", "garter", 4), library_segment("background", "reverse-stockinette", 8)
    names = ("rope-3-3-left", "braid-9", "honeycomb")
    inner = [s for name in names for s in (background, library_segment("panel", name, 1))]
    piece = piece_of(edge, *inner, background, edge, width=300, height=500)
    best = {w.name: w for w in row_choices(piece)}
    ways = min(best.values(), key=lambda w: heights.ending_score(w.rows.endings))
    assert ways.cut == 0
    off = abs(ways.rows.height_um / 1000 - 500)
    assert off <= heights.HEIGHT_TOLERANCE_MM


def test_panels_align_where_their_repeats_begin_together():
    """Common practice: repeats of 6 and 8 rows meet every 24, of 12 and 20 every 60."""
    edge, background = library_segment("edge", "garter", 4), library_segment("background", "reverse-stockinette", 8)
    six = next(p for p in LIBRARY.values() if "panel" in p.uses and p.chart.height == 6)
    eight = next(p for p in LIBRARY.values() if "panel" in p.uses and p.chart.height == 8)
    pair = [Segment(role="panel", pattern=six, repeats=1), background, Segment(role="panel", pattern=eight, repeats=1)]
    found = panel_alignment(piece_of(edge, *pair, edge).band_views[0], 100)
    assert found.together == (1, 25, 49, 73, 97)
    assert panel_alignment(piece_of(edge, *pair, edge).band_views[0], 97).together == found.together, (
        "the last row counts"
    )
    assert {len(s.begins) for s in found.strips} == {17, 13}


def test_a_band_out_of_reach_is_refused_with_both_counts():
    edge, wide = library_segment("edge", "garter", 2), library_segment("background", "reverse-stockinette", 90)
    narrow = replace(wide, repeats=9)
    piece = replace(piece_of(edge, wide, edge), bands=(Band(own=(edge, wide, edge)), Band(own=(edge, narrow, edge))))
    with pytest.raises(IllegalPiece, match="From a band of 94 stitches one of 13 cannot be reached in 3 rows"):
        plan_rows(piece)
    nearer = replace(piece, bands=(piece.bands[0], Band(own=(edge, replace(wide, repeats=30), edge))))
    assert plan_rows(nearer).total


def test_ways_to_end_leave_out_borders_too_low_for_their_own_counts():
    """A count of the border's own that two rows lead from; a border of two rows has room for one of them only."""
    edge, background = library_segment("edge", "garter", 4), library_segment("background", "reverse-stockinette", 106)
    low = Border(pattern_id="garter", rows=4, style="stepped")
    piece = piece_of(edge, background, edge, width=500, both=low)
    narrow = next(b for b in (replace(low, count=n) for n in range(40, 114)) if _had(replace(piece, top=b)))
    tight = replace(piece, top=narrow)
    assert edge_plan(tight.band_views[0], narrow).rows == 2
    with pytest.raises(IllegalPiece, match="do not suit"):
        edge_plan(tight.band_views[0], replace(narrow, rows=2))
    ways = row_choices(tight)
    assert ways[0].piece == tight and all(w.piece.top.rows >= 4 for w in ways)


def _had(piece):
    try:
        return bool(plan_rows(piece))
    except IllegalPiece:
        return False
