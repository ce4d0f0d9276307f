"""The pattern in words, counted again as a knitter counts on her fingers; hints, markers, how each stitch is made."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.notation import Side, faces, mirrored_row, parse_ops, wrong_side_row
from cablux.core.pattern import CHANGES, compile_piece
from cablux.core.pattern.howto import how_to, ways_to_work
from cablux.core.pattern.wording import Wording
from cablux.core.pattern.words import (
    _alike_throughout,
    _repeat_text,
    marker_words,
    number_list,
    pattern_words,
    plain_hint,
    row_words,
)
from cablux.core.piece.border import Border
from cablux.core.piece.segment import library_segment
from cablux.service.exchange.project_file import fresh_project
from cablux.service.pattern.plain_text import file_text
from tests.core.pieces import background, panel, throw
from tests.core.strategies import crossings, ops, piece_of, pieces

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
def test_words_cover_every_row_once_and_name_the_repeat(piece):
    pattern = compile_piece(piece)
    covered: list[int] = []
    for section in pattern_words(pattern):
        for row in section.rows:
            covered += row.numbers
            assert all(row_words(pattern.row(n)) == row.text for n in row.numbers)
        if section.repeat:
            cycle = pattern.piece.row_period(section.band)
            covered += range(section.first + cycle, section.last + 1)
            for n in range(section.first + cycle, section.last + 1):
                assert pattern.row(n).ops == pattern.row(n - cycle).ops
            assert section.repeat.endswith(f"to {'round' if piece.round else 'row'} {section.last}.")
    assert sorted(covered) == list(range(1, len(pattern.rows) + 1))


@given(pieces())
def test_rows_told_in_their_order_are_those_rows_and_each_is_told_once(piece):
    pattern = compile_piece(piece)
    told = [row for section in pattern_words(pattern, order="order") for row in section.rows]
    for row in told:
        here = [pattern.row(n) for n in row.numbers]
        assert {(row_words(r), r.side, r.after) for r in here} == {(row.text, row.side, row.after)}
    assert sorted(n for row in told for n in row.numbers) == list(range(1, len(pattern.rows) + 1))


def test_border_rows_are_told_together_only_where_a_few_are_worked_again_and_again():
    piece = replace(
        throw(background(9), panel("braid-9"), background(9), width=240), bottom=Border(pattern_id="garter", rows=8)
    )
    pattern = compile_piece(piece)
    border = pattern_words(pattern, order="order")[0]
    assert [row.numbers for row in border.rows] == [(1, 3, 5, 7), (2, 4, 6)] and border.last == 7
    marked = pattern_words(pattern, Wording(markers=True), order="order")[0]
    assert marked.rows[0].numbers == (1,), "the row that places markers stands alone"
    rows = [*pattern.rows[:5], replace(pattern.row(len(pattern.rows) // 2), number=6)]
    assert _alike_throughout(rows, Wording(), {}) == (6, 1), "the last of them differs"
    assert _alike_throughout(rows[:5], Wording(), {}) == (0, 2)


def test_a_hint_is_given_only_where_the_fabric_says_it_all():
    part = compile_piece_part("k2, p2")
    below = faces(part.ops)
    assert plain_hint(part, Side.WS, below) == "knit the knits, purl the purls"
    assert plain_hint(part, Side.RS, below[::-1]) == ""
    assert plain_hint(compile_piece_part("k4"), Side.WS, faces(parse_ops("k4"))) == "purl"
    assert plain_hint(compile_piece_part("2/2 LC"), Side.RS, faces(parse_ops("k4"))) == ""


def compile_piece_part(text: str):
    from cablux.core.pattern import WorkedPart

    return WorkedPart(segment=1, name="part", family="rope", ops=parse_ops(text))


def test_row_numbers_are_listed_briefly_and_none_is_left_to_be_guessed():
    assert number_list((2, 4, 6, 8, 10, 12)) == "2, 4, 6, 8, 10, 12"
    assert number_list(tuple(range(2, 61, 2))) == "2, 4, … 60, every 2nd"
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
    twists = [way for name in ("1/1 LT", "1/1 RT") for way in ways_to_work(parse_ops(name)[0])]
    assert {"through the back", "in front", "then the first again"} <= {w.name.split(", ")[-1] for w in twists}
    assert all(way.needles == 0 for way in twists)
    assert [w.needles for w in ways_to_work(parse_ops("2/2 RC")[0])] == [1, 1, 0]
    assert "six" not in how_to(parse_ops("6/2/6 LPC")[0]) and "Slip 8" in how_to(parse_ops("6/2/6 LPC")[0])
    assert "hold it in front of everything" in how_to(parse_ops("6/2f/6 RPC")[0])
    three = how_to(parse_ops("3/3/3 RPC")[0])
    assert three.startswith("Slip 6") and "put the last 3 of them back" in three


@given(crossings())
def test_a_way_without_a_needle_names_all_the_stitches_it_takes_off(op):
    for way in ways_to_work(op):
        for some, of in re.findall(r"the last (\d+) of the (\d+)", way.text):
            assert int(of) == op.takes and int(some) < int(of) and f"put the {some} back" in way.text


def test_the_wrong_side_text_of_a_row_is_its_mirror_in_order_and_face():
    assert wrong_side_row(parse_ops("k3, p2, k1")) == parse_ops("p1, k2, p3")


@given(pieces())
def test_a_marker_is_slipped_only_where_one_stands(piece):
    """The needle followed row by row: where markers hang, by the stitches to the right of each."""
    pattern = compile_piece(piece)
    told, there = marker_words(pattern), set()
    for row in pattern.rows:
        below, above, met, now = 0, 0, set(), set()
        for part, word in zip(row.parts, told[row.number].between, strict=False):
            below, above = below + part.takes, above + part.makes
            now.add(above)
            if word == "sm":
                met.add(below)
        assert len(told[row.number].between) == len(row.parts) - 1
        assert met <= there and told[row.number].out == bool(there - met), row.number
        there = now
        said = re.findall(r"\b[sp]m\b", row_words(row, Wording(markers=True), told[row.number]))
        assert tuple(said if row.side is Side.RS else said[::-1]) == told[row.number].between


def test_markers_stand_between_sections_and_terms_cross_the_ocean():
    background, edge = library_segment("background", "seed", 6), library_segment("edge", "garter", 4)
    piece = piece_of(
        edge, background, library_segment("panel", "rope-3-3-left", 1), background, edge, width=150, height=200
    )
    row = next(r for r in compile_piece(piece).rows if r.section == "body" and r.crossing_parts)
    text = row_words(row, Wording(markers=True))
    assert text.count(", sm, ") == len(row.parts) - 1
    assert tuple(parse_ops(text.replace("sm, ", ""))) == row.worked
    told = " ".join(
        r.text for section in pattern_words(compile_piece(piece), Wording(markers=True)) for r in section.rows
    )
    first = next(r for r in pattern_words(compile_piece(piece), Wording(markers=True))[0].rows)
    assert first.numbers == (1,) and first.text.count("pm") == 2 and "sm" not in first.text
    assert told.count("pm") == 4 and told.count("remove the other markers") == 1
    left = row_words(row, Wording(left_handed=True))
    assert mirrored_row(parse_ops(left)) == row.worked
    british = Wording(british=True).terms("Bind off in seed; gauge over stockinette, seedling")
    assert british == "Cast off in moss; tension over stocking stitch, seedling"


def test_slipped_stitches_are_known_by_the_face_they_had():
    background, edge = library_segment("background", "slipped-rib", 8), library_segment("edge", "garter", 4)
    piece = piece_of(
        edge, background, library_segment("panel", "rope-3-3-left", 1), background, edge, width=150, height=200
    )
    pattern = compile_piece(piece)
    row = next(r for r in pattern.rows if r.section == "body" and r.number % 2 == 0)
    faces_ = pattern.faces_before(row.number)
    assert len(faces_) == row.before
    assert plain_hint(row.parts[1], row.side, faces_[4 : 4 + row.parts[1].takes]) == "purl"


def test_what_is_worked_in_the_round_is_told_in_rounds():
    background, cable = (
        library_segment("background", "reverse-stockinette", 10),
        library_segment("panel", "rope-3-3-left", 1),
    )
    tube = replace(
        piece_of(background, cable, background, cable, width=200, both=Border(pattern_id="garter", rows=6)), round=True
    )
    told = {s.heading[0]: s for s in pattern_words(compile_piece(tube))}
    assert told["Set-up"].heading[1].startswith("rounds ") and told["Bottom border"].heading[1].startswith("rounds 1–")
    assert all("row" not in f"{s.heading}{s.repeat}" for s in told.values())
    flat = pattern_words(
        compile_piece(piece_of(library_segment("edge", "garter", 3), background, library_segment("edge", "garter", 3)))
    )
    assert flat[0].heading[1].startswith("rows 1–") and "round" not in str([s.heading for s in flat])


@given(st.integers(1, 400), st.integers(1, 40), st.integers(1, 400))
def test_a_repeat_names_the_rows_that_are_left_by_their_number(first, cycle, more):
    said = _repeat_text(first, first + cycle - 1 + more, cycle, what="row")
    spans = [(int(a), int(b or a)) for a, b in re.findall(r"rows? (\d+)(?:–(\d+))? (?:\d|once|twice)", said)]
    whole, rest = divmod(more, cycle)
    times = {1: "once more", 2: "twice more"}.get(whole, f"{whole} times more")
    assert spans == [(first, first + cycle - 1)] * bool(whole) + [(first, first + rest - 1)] * bool(rest)
    assert (times in said) == bool(whole) and all(f"{a}–{a} " not in said for a, _ in spans)


@pytest.mark.parametrize("token", ["MB3", "MB5", "MB7", "MB3 back", "MB5 back", "MB7 back"])
def test_a_bobble_shows_its_knit_face_on_the_side_on_which_it_stands(token):
    """Its rows followed as they are turned; the side towards which it stands is the far one for “back”."""
    text = how_to(parse_ops(token)[0])
    into = re.search(r"Into one stitch work ([^(]*)", text)[1].replace(" ", "").split(",")
    rows, near = [[w for w in into if w.strip() != "yo"], *re.findall(r"turn, ([kp])\d", text)], True
    for row in rows:
        shown = {w[0] for w in row}
        stands_here = near != token.endswith("back")
        assert shown == ({"k"} if stands_here else {"p"}), text
        near = not near
    assert len(rows) == 3 and ("other side" in text) == token.endswith("back")


def test_rows_that_change_the_count_are_named_by_what_they_do():
    edge, background = library_segment("edge", "garter", 4), library_segment("background", "stockinette", 60)
    for count, names in ((80, ("Decrease", "Increase")), (50, ("Increase", "Decrease"))):
        piece = piece_of(edge, background, edge, both=Border(pattern_id="garter", rows=6, count=count))
        said = [s.heading[0] for s in pattern_words(compile_piece(piece)) if s.section in CHANGES]
        titles = [r.title for r in compile_piece(piece).rows if r.before != r.after]
        assert tuple(said) == names and [f"{n.lower()} row" for n in names] == titles


def test_the_knitters_own_names_stay_as_they_are_in_british_words():
    size = {"unit": "cm", "width": 40, "height": 30, "tolerance": 2, "stitches": 18, "rows": 25}
    text = file_text(fresh_project(name="Gauge seed", yarn="Seed wool", **size), Wording(british=True))
    assert text.startswith("Gauge seed\n") and "Yarn: Seed wool" in text
    assert "\nTension: 18 stitches" in text and "Cast off" in text and "stocking stitch" in text
