"""The compiled pattern: no layout ever loses a stitch, and the words say exactly what the rows do."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.ends.borders import border_repeats, runs_through
from cablux.core.ends.transition import reachable_counts
from cablux.core.errors import IllegalPiece
from cablux.core.library import LIBRARY, StitchPattern
from cablux.core.notation import Decrease, Face, Increase, Lean, Side, faces, mirrored_row, parse_chart, parse_ops
from cablux.core.notation.audit import audited_chart as check_chart
from cablux.core.pattern import compile_piece
from cablux.core.pattern.audit import audit_worked_rows
from cablux.core.pattern.wording import Wording
from cablux.core.pattern.words import part_text, pattern_words, row_words
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band
from cablux.core.piece.segment import Segment, library_segment
from cablux.core.piece.symmetry import is_symmetric
from cablux.core.tracking import Event, Progress, fold_events
from tests.core.pattern.test_words import count_by_hand
from tests.core.strategies import piece_of, pieces

reread = lru_cache(maxsize=4096)(parse_ops)  # most rows are worked again and again


@given(pieces())
def test_random_layouts_never_lose_a_stitch(piece):
    pattern = compile_piece(piece)
    assert not list(audit_worked_rows(pattern.rows, pattern.cast_on.cast_on, pattern.cast_on.top.count))
    on_needle = pattern.cast_on.cast_on
    for row in pattern.rows:
        text = row_words(row)
        assert count_by_hand(text) == (on_needle, row.after), (row.number, text)
        assert reread(text) == row.worked
        assert reread(row_words(row, Wording(hold=True))) == row.worked
        on_needle = row.after
    assert on_needle == pattern.cast_on.top.count
    assert [r.number for r in pattern.rows] == list(range(1, pattern.rows_plan.total + 1))
    assert all((r.side is Side.RS) == (piece.round or r.number % 2 == 1) for r in pattern.rows)


@given(pieces())
def test_body_rows_are_the_charts_rows_and_setup_rows_lay_out_their_faces(piece):
    pattern = compile_piece(piece)
    sides = slice(0, None) if piece.round else slice(1, -1)
    for band, view in enumerate(piece.band_views):
        lead = [r for r in pattern.rows if r.section in ("set-up rows", "change row") and r.band == band]
        body = [r for r in pattern.rows if r.section == "body" and r.band == band]
        crosses = any(s.chart.crossing_rows for s in view.inner)
        assert len(lead) >= (2 if crosses or not band else 0), "two plain rows before a crossing"
        assert not any(r.crossing_parts for r in lead)
        for part, s in zip(lead[-1].parts[sides] if lead else (), view.inner if lead else (), strict=True):
            assert faces(part.ops) == s.chart.faces_below(1, s.repeats)
        _follows_its_charts(body, view, sides)


def _follows_its_charts(body, view, sides):
    for i in (0, len(body) // 2, len(body) - 1):
        for part, s in zip(body[i].parts[sides], view.inner, strict=True):
            assert part.ops == s.chart.ops(i + 1, s.repeats)
            assert part.chart_row == i % s.chart.height + 1


@given(pieces())
def test_a_symmetric_layout_is_increased_as_its_own_mirror_image(piece):
    if not piece.band_views[0].symmetric or piece.bottom.spread != "cables":
        return
    pattern = compile_piece(replace(piece, bottom=replace(piece.bottom, pattern_id="garter")))
    change = pattern.cast_on.bottom.change
    if change is None:
        return
    between = pattern.cast_on.cast_on - piece.band_views[0].side_stitches
    reached = [reachable_counts(s.stitches, change.rows) for s in piece.band_views[0].inner]
    middle = reached[len(reached) // 2] if len(reached) % 2 else (0, 0)
    pairs = [sum(r[k] for r in reached[: len(reached) // 2]) * 2 for k in (0, 1)]
    # an even rest goes to pairs, an odd one to the middle, if that has room for it
    can = any(pairs[0] <= between - m <= pairs[1] and (between - m) % 2 == 0 for m in range(middle[0], middle[1] + 1))
    assert change.shares == change.shares[::-1] or not can
    if change.shares != change.shares[::-1]:
        return
    for row in pattern.rows:
        if row.section == "bottom change row":
            for a, b in zip(row.parts, reversed(row.parts), strict=True):
                assert len(a.ops) == len(b.ops)
                if a is not b:
                    assert mirrored_row(a.ops) == b.ops


@given(pieces())
def test_each_half_leans_its_own_way_and_a_row_is_called_what_it_does(piece):
    """Seen from the right side new stitches lean away from the edge nearer to them, and decreases towards it."""
    pattern = compile_piece(piece)
    for row in pattern.rows:
        made = row.after - row.before
        if "change row" in row.section:
            assert row.title == ("increase row" if made > 0 else "decrease row" if made < 0 else "plain row")
        else:
            assert row.title == row.section and (made == 0 or row.section == "body")
        if row.section not in ("bottom change row", "top change row") or not is_symmetric(
            piece.band_views[row.band].segments
        ):
            continue
        for at, op in enumerate(row.ops):
            if isinstance(op, Increase | Decrease) and 2 * at + 1 != len(row.ops):
                right = 2 * at + 1 < len(row.ops)
                assert op.lean is (Lean.LEFT if right == isinstance(op, Increase) else Lean.RIGHT), (row.number, at)


@given(pieces())
def test_the_sections_of_a_row_together_are_the_row(piece):
    pattern = compile_piece(piece)
    for section, border in (("bottom border", piece.bottom), ("top border", piece.top)):
        rows = [r for r in pattern.rows if r.section == section]
        told = [r.parts[0 if piece.round else len(r.parts) // 2].chart_row for r in rows]
        told = told[: told.index(0)] if 0 in told else told  # rows that lie over segments have no row of one chart
        assert all(n in range(1, border.pattern.chart.height + 1) for n in told)
        assert all(b == a % border.pattern.chart.height + 1 for a, b in pairwise(told)), "one after the other"
        assert told[:1] == [1] or not rows or section == "top border"
    shown = (Face.KNIT,) * pattern.rows[0].before
    for row in pattern.rows:  # knitted from the cast-on up
        assert (row.number % 7 != 1 and row.before == row.after) or pattern.faces_before(row.number) == shown
        shown = faces(row.ops, shown)
    for row in pattern.rows[:: max(1, len(pattern.rows) // 12)]:
        parts = ", ".join(part_text(p, row.side) for p in (row.parts if row.side is Side.RS else row.parts[::-1]))
        assert parse_ops(parts) == row.worked
        crossing = pattern.next_crossing(row.number)
        assert crossing is None or (crossing.number >= row.number and crossing.crossing_parts)


@given(pieces())
def test_the_rows_that_change_the_count_are_worked_in_the_borders_own_faces(piece):
    pattern = compile_piece(piece)
    top, view = pattern.cast_on.top, piece.band_views[-1]
    if not top.rows:
        return
    down = [r for r in pattern.rows if r.section == "top change row"][-1]
    inner = down.parts if piece.round else down.parts[1:-1]
    at = 1 + piece.row_step() * (top.rows - 1)
    row = top.border.pattern.chart.row(at)
    repeats = border_repeats(view, top.border, top.count)
    wanted = faces(row.box * repeats if piece.round else row.ops(repeats))
    if not piece.round and runs_through(view, top.border):
        wanted = wanted[down.parts[0].makes : len(wanted) - down.parts[-1].makes]
    assert tuple(f for part in inner for f in faces(part.ops)) == wanted


@given(pieces())
def test_no_row_asks_for_more_than_every_other_stitch(piece):
    """Common practice: one increase after every other stitch is the most that one row takes."""
    for row in compile_piece(piece).rows:
        made = sum(op.makes > op.takes for op in row.ops)
        joined = sum(op.makes < op.takes for op in row.ops)
        if row.section not in ("bottom change row", "change row", "top change row"):
            continue
        assert made <= row.before / 2 and joined <= row.after / 2
        for side in () if piece.round else (row.parts[0], row.parts[-1]):
            assert all(op.takes == op.makes for op in side.ops), "the edge stitches are left alone"


def test_increases_hide_in_the_knit_columns_of_the_cables_to_come():
    cable, background = (
        library_segment("panel", "honeycomb", 4),
        library_segment("background", "reverse-stockinette", 12),
    )
    edge = library_segment("edge", "garter", 5)
    piece = piece_of(edge, background, cable, library_segment("panel", "rope-3-3-left", 2), background, edge, width=400)
    change = compile_piece(piece).cast_on.bottom.change
    for s, part in zip(piece.band_views[0].inner, change.parts, strict=True):
        shown = s.chart.faces_below(1, s.repeats)
        if s.role == "panel":
            assert all(shown[at] is Face.KNIT for step in part.steps for at in step.made)
            assert sum(len(step.made) for step in part.steps) >= 2


def test_a_very_different_border_takes_several_rows_and_comes_back_in_as_many():
    edge = library_segment("edge", "garter", 4)
    thin = Border(pattern_id="rib-2x2", rows=8, count=46)
    piece = piece_of(edge, library_segment("panel", "honeycomb", 10), edge, both=thin)
    pattern = compile_piece(piece)
    ups = [r.number for r in pattern.rows if r.section == "bottom change row"]
    downs = [r.number for r in pattern.rows if r.section == "top change row"]
    assert len(ups) == len(downs) == 2 and ups[1] - ups[0] == downs[1] - downs[0] == 2
    assert {pattern.row(n).side for n in ups} == {Side.WS} and {pattern.row(n).side for n in downs} == {Side.RS}
    between = pattern.row(ups[0] + 1)
    assert between.section == "bottom border" and between.before == between.after > 46
    assert [pattern.row(n).before for n in downs] == [pattern.row(n).after for n in ups][::-1]


def test_in_the_round_every_row_is_seen_from_the_right_side_and_closes_without_balance():
    honeycomb = Band(own=(library_segment("panel", "honeycomb", 12),))
    piece = replace(piece_of(both=Border(pattern_id="rib-2x2", rows=5)), bands=(honeycomb,), round=True)
    pattern = compile_piece(piece)
    assert piece.band_views[0].stitches == 96 and pattern.cast_on.cast_on % 4 == 0, "neither keeps balance stitches"
    assert all(r.side is Side.RS and len(r.parts) == 1 for r in pattern.rows)
    said = pattern_words(pattern)
    assert said[0].rows[0].label.startswith("Round") and any("rounds" in s.repeat for s in said)


def test_bands_of_different_counts_follow_each_other():
    edge, background = library_segment("edge", "garter", 4), library_segment("background", "reverse-stockinette", 12)
    low = Band(own=(edge, background, library_segment("panel", "honeycomb", 4)), symmetric=True)
    high = Band(own=(edge, background, library_segment("panel", "braid-9", 1)), symmetric=True)
    piece = replace(piece_of(height=600), bands=(low, high))
    pattern = compile_piece(piece)
    change = [r for r in pattern.rows if r.section == "change row" and r.before != r.after]
    assert (change[0].before, change[-1].after) == tuple(view.stitches for view in piece.band_views)
    assert pattern.cast_on.top.body == piece.band_views[1].stitches
    heights = [b.height_um for b in pattern.rows_plan.bands]
    assert heights[0] == pytest.approx(heights[1], rel=0.15), "each takes its share of the height"
    heights = [
        b.height_um for b in compile_piece(replace(piece, bands=(replace(low, share=2.0), high))).rows_plan.bands
    ]
    assert heights[0] == pytest.approx(2 * heights[1], rel=0.2)


def test_a_straight_cast_on_of_the_bodys_count_is_worked_without_any_shaping():
    cable = library_segment("panel", "honeycomb", 3)
    background, edge = library_segment("background", "reverse-stockinette", 20), library_segment("edge", "garter", 5)
    piece = piece_of(edge, background, cable, background, edge, both=Border(style="straight"))
    pattern = compile_piece(piece)
    assert pattern.cast_on.cast_on == piece.band_views[0].stitches
    for row in pattern.rows:
        if row.section in ("bottom change row", "top change row"):
            assert all(op.takes == op.makes == 1 for op in row.ops)


def test_an_edge_of_the_borders_own_texture_runs_on_without_a_seam():
    seed = library_segment("edge", "seed", 2)
    piece = piece_of(seed, library_segment("background", "stockinette", 40), seed, both=Border(pattern_id="seed"))
    for row in compile_piece(piece).rows:
        if row.section in ("bottom border", "top border"):
            shown = faces(row.ops)
            assert all(a != b for a, b in pairwise(shown)), "seed alternates right across"


@given(st.lists(st.tuples(st.sampled_from(["row done", "undo"]), st.integers(1, 5)), max_size=40))
def test_progress_is_a_fold_that_never_skips_a_row(taps):
    events = [Event(kind=kind, row=row) for kind, row in taps]
    done = 0
    for i in range(len(events) + 1):
        now = fold_events(events[:i]).done
        assert abs(now - done) <= 1 and now >= 0
        done = now
    # a tap sent twice counts once
    doubled = [e for event in events for e in (event, event) if event.kind == "row done"]
    once = [e for e in events if e.kind == "row done"]
    assert fold_events(doubled) == fold_events(once)
    assert fold_events([]) == Progress(0)


def test_a_charts_own_set_up_rows_are_worked_below_it():
    own = LIBRARY["twisted-diamond"]
    background, edge = library_segment("background", "reverse-stockinette", 12), library_segment("edge", "garter", 4)
    piece = piece_of(
        edge, background, Segment(role="panel", pattern=own, repeats=2), background, edge, width=300, height=300
    )
    setup = [r for r in compile_piece(piece).rows if r.section == "set-up rows"]
    assert [part_text(r.parts[2], r.side) for r in setup] == [
        "p3, k2 tbl, p6, k2 tbl, p3",
        "k3, p2 tbl, k6, p2 tbl, k3",
    ]


def test_a_body_ends_where_every_panel_has_its_own_count_again():
    """A panel that grows to more stitches in the middle of its repeat may not be cut off there."""
    grows = "row 3: k2, k1-yo-k1, k2\nrow 4 (WS): p7\nrow 5: k7\nrow 6 (WS): p2, p3tog, p2"
    chart = parse_chart(f"rows 1, 7, 8: k5\nrow 2 (WS): p5\n{grows}")
    grown = Segment(
        role="panel",
        pattern=StitchPattern(id="own-leaf", chart=check_chart(chart), uses=("panel",), family="figure"),
        repeats=1,
    )
    background, edge = library_segment("background", "reverse-stockinette", 20), library_segment("edge", "garter", 4)
    for height in range(150, 260, 7):
        piece = piece_of(edge, background, grown, background, edge, width=250, height=height)
        pattern = compile_piece(piece)
        assert pattern.rows_plan.body % 8 not in (3, 4, 5)
        assert not list(audit_worked_rows(pattern.rows, pattern.cast_on.cast_on, pattern.cast_on.top.count))


def test_short_rows_are_not_laid_beside_other_panels():
    chart = parse_chart("row 1: k3, w&t, leave 2\nrow 2 (WS): leave 3, p3\nrow 3: k6\nrow 4 (WS): p6")
    short = Segment(
        role="panel",
        pattern=StitchPattern(id="own-short", chart=check_chart(chart), uses=("panel",), family="figure"),
        repeats=1,
    )
    background, edge = library_segment("background", "reverse-stockinette", 20), library_segment("edge", "garter", 4)
    with pytest.raises(IllegalPiece, match="has short rows"):
        compile_piece(piece_of(edge, background, short, background, edge, width=250, height=300))
