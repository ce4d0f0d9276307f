"""The compiled pattern: no layout ever loses a stitch, and the words say exactly what the rows do."""

from __future__ import annotations

import re
from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import IllegalPiece
from cablux.core.gauge import Gauge
from cablux.core.layout.caston import border_repeats, border_runs_through
from cablux.core.layout.piece import Piece, Segment, is_symmetric, segment
from cablux.core.library import LIBRARY, Pattern
from cablux.core.notation import Side, faces, mirrored_row, parse_chart, parse_ops, wrong_side_row
from cablux.core.notation.audit import check as check_chart
from cablux.core.pattern import compile_piece
from cablux.core.pattern.compiler import audit
from cablux.core.pattern.howto import how_to, ways
from cablux.core.pattern.wording import Wording
from cablux.core.pattern.words import hint, number_list, part_text, period, row_text, words
from cablux.core.tracking import Event, State, fold

from .strategies import ops, pieces

# A counter of our own for printed rows, which shares nothing with the parser: what a knitter counts on her fingers.
_TOKEN = re.compile(
    r"(?P<open>\()|\)\s(?P<times>\d+) times|\[(?P<spelled>[^\]]*)\]|MB(?P<knob>\d)"
    r"|(?P<plain>[kp]|sl)(?P<n>\d+)(?: tbl| wyi[fb])?(?![a-z/])"
    r"|(?P<a>\d+)/(?P<b>\d+)[fb]?(?:/(?P<c>\d+))? [LR]P?[CT]|C(?P<hold>\d+)[FB]|T(?P<purl>\d+)[FBLR]"
    r"|(?P<dec>k2tog|ssk|p2tog|ssp)|(?P<inc>M1P?[LR]|yo)"
)


def count_by_hand(text: str) -> tuple[int, int]:
    """(stitches taken, stitches made) of a printed row."""
    stack, taken, made = [], 0, 0
    for m in _TOKEN.finditer(text):
        if m["open"]:
            stack.append((taken, made))
            taken = made = 0
        elif m["times"]:
            before = stack.pop()
            taken, made = before[0] + taken * int(m["times"]), before[1] + made * int(m["times"])
        elif m["dec"]:
            taken, made = taken + 2, made + 1
        elif m["inc"]:
            made += 1
        elif m["spelled"] or m["knob"]:
            n = sum(map(int, re.findall(r"[kp](\d+)", m["spelled"] or "k1")))
            taken, made = taken + n, made + n
        else:
            n = sum(int(m[g]) for g in ("n", "a", "b", "c", "hold", "purl") if m[g])
            taken, made = taken + n, made + n
    return taken, made


@given(pieces())
def test_random_layouts_never_lose_a_stitch(piece):
    pattern = compile_piece(piece)
    assert not list(audit(pattern.rows, pattern.cast_on.cast_on))
    on_needle = pattern.cast_on.cast_on
    for row in pattern.rows:
        text = row_text(row)
        assert count_by_hand(text) == (on_needle, row.after), (row.number, text)
        assert parse_ops(text) == row.worked
        assert parse_ops(row_text(row, Wording(hold=True))) == row.worked
        on_needle = row.after
    assert on_needle == pattern.cast_on.cast_on
    assert [r.number for r in pattern.rows] == list(range(1, pattern.rows_plan.total + 1))
    assert all((r.side is Side.RS) == (r.number % 2 == 1) for r in pattern.rows)


@given(pieces())
def test_body_rows_are_the_charts_rows_and_setup_rows_lay_out_their_faces(piece):
    pattern = compile_piece(piece)
    setup = [r for r in pattern.rows if r.section == "set-up rows"]
    body = [r for r in pattern.rows if r.section == "body"]
    assert len(setup) == 2 and not any(r.crossing_parts for r in setup), "two plain rows before a crossing"
    for part, s in zip(setup[-1].parts[1:-1], piece.inner, strict=True):
        assert faces(part.ops) == s.chart.faces_below(1, s.repeats)
    for i in (0, len(body) // 2, len(body) - 1):
        for part, s in zip(body[i].parts[1:-1], piece.inner, strict=True):
            assert part.ops == s.chart.ops(i + 1, s.repeats)
            assert part.chart_row == i % s.chart.height + 1


@given(pieces())
def test_a_symmetric_layout_is_increased_as_its_own_mirror_image(piece):
    mirrored = [replace(s, mirrored=not s.mirrored) for s in reversed(piece.inner)]
    inner = (*piece.inner, *mirrored)
    both = replace(piece, segments=(piece.segments[0], *inner, piece.segments[0]), border_id="garter")
    assert is_symmetric(both.segments)
    pattern = compile_piece(both)
    if pattern.cast_on.shares != pattern.cast_on.shares[::-1]:
        assert pattern.cast_on.difference % 2, "only an odd rest may tip the balance"
        return
    for row in pattern.rows:
        if row.section == "increase row":
            halves = row.parts[: len(row.parts) // 2], row.parts[len(row.parts) // 2 :]
            for a, b in zip(halves[0], reversed(halves[1]), strict=True):
                assert len(a.ops) == len(b.ops) and mirrored_row(a.ops) == b.ops


@given(pieces())
def test_words_cover_every_row_once_and_name_the_repeat(piece):
    pattern = compile_piece(piece)
    covered: list[int] = []
    for section in words(pattern):
        for row in section.rows:
            covered += row.numbers
            assert all(row_text(pattern.row(n)) == row.text for n in row.numbers)
        if section.repeat:
            cycle = period(pattern)
            covered += range(section.first + cycle, section.last + 1)
            for n in range(section.first + cycle, section.last + 1):
                assert pattern.row(n).ops == pattern.row(n - cycle).ops
            assert section.repeat.endswith(f"to row {section.last}.")
    assert sorted(covered) == list(range(1, len(pattern.rows) + 1))


@given(pieces())
def test_the_sections_of_a_row_together_are_the_row(piece):
    pattern = compile_piece(piece)
    for row in pattern.rows[:: max(1, len(pattern.rows) // 12)]:
        parts = ", ".join(part_text(p, row.side) for p in (row.parts if row.side is Side.RS else row.parts[::-1]))
        assert parse_ops(parts) == row.worked
        crossing = pattern.next_crossing(row.number)
        assert crossing is None or (crossing.number >= row.number and crossing.crossing_parts)


@given(pieces())
def test_the_rows_that_change_the_count_are_worked_in_the_borders_own_faces(piece):
    pattern = compile_piece(piece)
    down = next(r for r in pattern.rows if r.section == "decrease row")
    inside = [f for part in down.parts[1:-1] for f in faces(part.ops)]
    wanted = faces(piece.border.chart.ops(1, border_repeats(piece, pattern.cast_on.cast_on)))
    if border_runs_through(piece):
        wanted = wanted[down.parts[0].makes : len(wanted) - down.parts[-1].makes]
    assert tuple(inside) == wanted


def test_a_straight_cast_on_of_the_bodys_count_is_worked_without_any_shaping():
    cable = segment("panel", "honeycomb", 3)
    ground, edge = segment("background", "reverse-stockinette", 20), segment("edge", "garter", 5)
    piece = Piece("t", 300, 300, Gauge(20, 28), (edge, ground, cable, ground, edge), cast_on="straight")
    pattern = compile_piece(piece)
    assert pattern.cast_on.cast_on == piece.stitches
    for row in pattern.rows:
        if row.section in ("increase row", "decrease row"):
            assert all(op.takes == op.makes == 1 for op in row.ops)


def test_an_edge_of_the_borders_own_texture_runs_on_without_a_seam():
    seed = segment("edge", "seed", 2)
    piece = Piece(
        "t", 300, 300, Gauge(20, 28), (seed, segment("background", "stockinette", 40), seed), border_id="seed"
    )
    for row in compile_piece(piece).rows:
        if row.section in ("bottom border", "top border"):
            shown = faces(row.ops)
            assert all(a != b for a, b in pairwise(shown)), "seed alternates right across"


def test_a_hint_is_given_only_where_the_fabric_says_it_all():
    part = compile_piece_part("k2, p2")
    below = faces(part.ops)
    assert hint(part, Side.WS, below) == "knit the knits, purl the purls"
    assert hint(part, Side.RS, below[::-1]) == ""
    assert hint(compile_piece_part("k4"), Side.WS, faces(parse_ops("k4"))) == "purl"
    assert hint(compile_piece_part("2/2 LC"), Side.RS, faces(parse_ops("k4"))) == ""


def compile_piece_part(text: str):
    from cablux.core.pattern import WorkedPart

    return WorkedPart(1, "part", parse_ops(text))


def test_row_numbers_are_listed_briefly():
    assert number_list((2, 4, 6, 8, 10, 12)) == "2, 4, … 12"
    assert number_list((3, 4, 5)) == "3–5"
    assert number_list((1, 4)) == "1, 4"


@given(ops)
def test_every_operation_is_explained(op):
    assert how_to(op).endswith(".")


def test_crossings_are_explained_by_where_the_cable_needle_is_held():
    """Common practice: LC holds the over-group in front, RC the under-group behind."""
    assert how_to(parse_ops("2/1 LPC")[0]).startswith("Slip 2 to a cable needle and hold in front; p1; then k2")
    assert how_to(parse_ops("2/1 RPC")[0]).startswith("Slip 1 to a cable needle and hold behind; k2; then p1")
    # common practice: twists in three ways, none with a cable needle; slipped back first; 6/2/6 in both its habits
    twists = [way for name in ("1/1 LT", "1/1 RT") for way in ways(parse_ops(name)[0])]
    assert {"through the back", "in front", "then the first again"} <= {w.name.split(", ")[-1] for w in twists}
    assert all(way.needles == 0 for way in twists)
    assert [w.needles for w in ways(parse_ops("2/2 RC")[0])] == [1, 1, 0]
    assert "six" not in how_to(parse_ops("6/2/6 LPC")[0]) and "Slip 8" in how_to(parse_ops("6/2/6 LPC")[0])
    assert "hold it in front of everything" in how_to(parse_ops("6/2f/6 RPC")[0])
    three = how_to(parse_ops("3/3/3 RPC")[0])
    assert three.startswith("Slip 6") and "put the last 3 of them back" in three


@given(st.lists(st.tuples(st.sampled_from(["row done", "undo"]), st.integers(1, 5)), max_size=40))
def test_progress_is_a_fold_that_never_skips_a_row(taps):
    events = [Event(kind, row) for kind, row in taps]
    done = 0
    for i in range(len(events) + 1):
        now = fold(events[:i]).done
        assert abs(now - done) <= 1 and now >= 0
        done = now
    # a tap sent twice counts once
    doubled = [e for event in events for e in (event, event) if event.kind == "row done"]
    once = [e for e in events if e.kind == "row done"]
    assert fold(doubled) == fold(once)
    assert fold([]) == State(0) and State(4).current == 5


def test_the_wrong_side_text_of_a_row_is_its_mirror_in_order_and_face():
    assert wrong_side_row(parse_ops("k3, p2, k1")) == parse_ops("p1, k2, p3")


def test_a_charts_own_set_up_rows_are_worked_below_it():
    own = LIBRARY["twisted-diamond"]
    ground, edge = segment("background", "reverse-stockinette", 12), segment("edge", "garter", 4)
    piece = Piece("t", 300, 300, Gauge(20, 28), (edge, ground, Segment("panel", own, 2), ground, edge))
    setup = [r for r in compile_piece(piece).rows if r.section == "set-up rows"]
    assert [part_text(r.parts[2], r.side) for r in setup] == [
        "p3, k2 tbl, p6, k2 tbl, p3",
        "k3, p2 tbl, k6, p2 tbl, k3",
    ]


def test_a_body_ends_where_every_panel_has_its_own_count_again():
    """A panel that grows to more stitches in the middle of its repeat may not be cut off there."""
    grows = "row 3: k2, k1-yo-k1, k2\nrow 4 (WS): p7\nrow 5: k7\nrow 6 (WS): p2, p3tog, p2"
    chart = parse_chart(f"rows 1, 7, 8: k5\nrow 2 (WS): p5\n{grows}")
    grown = Segment("panel", Pattern("own-leaf", check_chart(chart), ("panel",), "figure"), 1)
    ground, edge = segment("background", "reverse-stockinette", 20), segment("edge", "garter", 4)
    for height in range(150, 260, 7):
        piece = Piece("t", 250, height, Gauge(20, 28), (edge, ground, grown, ground, edge))
        pattern = compile_piece(piece)
        assert pattern.rows_plan.body % 8 not in (3, 4, 5)
        assert not list(audit(pattern.rows, pattern.cast_on.cast_on))


def test_short_rows_are_not_laid_beside_other_panels():
    chart = parse_chart("row 1: k3, w&t, leave 2\nrow 2 (WS): leave 3, p3\nrow 3: k6\nrow 4 (WS): p6")
    short = Segment("panel", Pattern("own-short", check_chart(chart), ("panel",), "figure"), 1)
    ground, edge = segment("background", "reverse-stockinette", 20), segment("edge", "garter", 4)
    with pytest.raises(IllegalPiece, match="has short rows"):
        compile_piece(Piece("t", 250, 300, Gauge(20, 28), (edge, ground, short, ground, edge)))


def test_markers_stand_between_sections_and_terms_cross_the_ocean():
    ground, edge = segment("background", "seed", 6), segment("edge", "garter", 4)
    piece = Piece("t", 150, 200, Gauge(20, 28), (edge, ground, segment("panel", "rope-3-3-left", 1), ground, edge))
    row = next(r for r in compile_piece(piece).rows if r.section == "body" and r.crossing_parts)
    text = row_text(row, Wording(markers=True))
    assert text.count(", sm, ") == len(row.parts) - 1
    assert tuple(parse_ops(text.replace("sm, ", ""))) == row.worked
    left = row_text(row, Wording(left_handed=True))
    assert mirrored_row(parse_ops(left)) == row.worked
    british = Wording(british=True).terms("Bind off in seed; gauge over stockinette, seedling")
    assert british == "Cast off in moss; tension over stocking stitch, seedling"


def test_slipped_stitches_are_known_by_the_face_they_had():
    ground, edge = segment("background", "slipped-rib", 8), segment("edge", "garter", 4)
    piece = Piece("t", 150, 200, Gauge(20, 28), (edge, ground, segment("panel", "rope-3-3-left", 1), ground, edge))
    pattern = compile_piece(piece)
    row = next(r for r in pattern.rows if r.section == "body" and r.number % 2 == 0)
    faces_ = pattern.faces_before(row.number)
    assert len(faces_) == row.before
    assert hint(row.parts[1], row.side, faces_[4 : 4 + row.parts[1].takes]) == "purl"
