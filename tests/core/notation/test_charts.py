"""Charts: text in and out, the audit, and the library."""

from __future__ import annotations

import random
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import CabluxError, IllegalChart, InvalidText
from cablux.core.library import LIBRARY, find_pattern, load_pattern
from cablux.core.notation import (
    K,
    Side,
    audit_chart,
    faces,
    format_chart,
    lint_chart,
    makes,
    parse_chart,
    parse_ops,
    takes,
)
from cablux.core.notation.grid import format_grid, parse_grid, read_any
from cablux.core.pattern.chartwords import chart_words
from cablux.core.pattern.facts import pattern_facts
from tests.core.strategies import charts

ROPE = """name: Rope between purls
multiple: 10
row 1: p2, k6, p2
rows 2, 4, 6, 8 (WS): k2, p6, k2
rows 3, 5: p2, k6, p2
row 7: p2, 3/3 LC, p2
"""


@given(charts())
def test_reading_a_chart_undoes_writing_it(chart):
    assert parse_chart(format_chart(chart)) == chart
    assert parse_chart(format_chart(chart, hold=True)) == chart
    assert audit_chart(chart) == ()


@given(charts(), st.integers(1, 4))
def test_a_chart_stays_sound_mirrored_shifted_and_repeated(chart, n):
    assert audit_chart(chart.mirrored()) == () and chart.mirrored().mirrored() == chart
    shifted = chart.shifted(n)
    assert audit_chart(shifted) == () and shifted.shifted(-n) == chart
    assert all(sum(op.takes for op in row.ops(n)) == chart.width(n) for row in chart.rows)


def test_the_example_of_the_format_is_read_as_it_is_meant():
    chart = parse_chart(ROPE)
    assert (chart.name, chart.multiple, chart.balance, chart.height) == ("Rope between purls", 10, 0, 8)
    assert chart.crossing_rows == (7,)
    assert chart.ops(2) == parse_ops("p2, k6, p2"), "a wrong-side row is stored as seen from the right side"
    assert chart.row(2).side is Side.WS


@given(st.data())
def test_one_stitch_too_many_or_too_few_is_reported_in_its_row(data):
    chart = data.draw(charts().filter(lambda c: c.height > 1))
    at = data.draw(st.integers(1, chart.height))
    row = chart.row(at)
    extra = replace(row, box=(*row.box, K))
    rows = list(chart.rows)
    rows[at - 1] = extra
    problems = audit_chart(replace(chart, rows=tuple(rows)))
    assert problems and problems[0].row == at
    wanted = chart.width(1)
    assert f"{wanted + 1} stitches" in problems[0].message and f"wanted {wanted}" in problems[0].message
    assert problems[0].stitch == wanted + 1


def test_the_audit_names_line_column_row_stitch_and_count():
    text = ROPE.replace("row 7: p2, 3/3 LC, p2", "row 7: p2, 3/3 LC, p3")
    (first, *_) = audit_chart(parse_chart(text))
    assert (first.line, first.row, first.stitch) == (6, 7, 11)
    assert text.splitlines()[5][first.column - 1 :] == "p3"
    assert "wanted 10" in first.message


def test_every_unreadable_line_is_reported_at_once_and_nothing_is_half_read():
    with pytest.raises(InvalidText) as caught:
        parse_chart("multiple: 4\nrow 1: k4, zz\nnonsense\nrow 2 (WS): p4, C5F\nrow 2: k4\n")
    assert [p.line for p in caught.value.problems] == [2, 3, 4, 5]
    assert "row 1" in caught.value.problems[0].message


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "No row was found"),
        ("row 1: k4\nrow 3: k4", "Row 2 is missing"),
        ("row 1: k4\nrow 1: p4", "given twice"),
        ("multiple: 0\nrow 1: k4", "whole number"),
        ("row 99999: k4", "run from 1"),
        ("row 1:", "empty"),
        ("row 1: *k1; rep from *, *p1; rep from *", "Only one repeat"),
    ],
)
def test_a_chart_that_cannot_be_read_says_why(text, says):
    with pytest.raises(InvalidText, match=says):
        parse_chart(text)


def test_a_repeat_that_does_not_close_and_a_box_off_its_multiple_are_found():
    open_ended = parse_chart("row 1: k4\nrow 2 (WS): p2, yo, p2")
    assert "does not close" in audit_chart(open_ended)[0].message
    off = parse_chart("multiple: 4 + 1\nrow 1: *k5; rep from *")
    assert "repeats over 5" in audit_chart(off)[0].message


def test_the_library_is_sound_named_and_large_enough():
    assert len(LIBRARY) >= 60
    for pattern in LIBRARY.values():
        assert audit_chart(pattern.chart) == (), pattern.id
        assert pattern.note and pattern.tags and pattern.uses
    assert sum("panel" not in p.uses for p in LIBRARY.values()) >= 16
    assert sum("panel" in p.uses for p in LIBRARY.values()) >= 44
    assert len({p.name for p in LIBRARY.values()}) == len(LIBRARY) == len({p.chart.rows for p in LIBRARY.values()})
    backgrounds = {"stockinette", "reverse-stockinette", "garter", "seed", "double-moss", "rib-2x2"}
    ropes = {"rope-2-2-left", "rope-2-2-right", "rope-3-3-left", "rope-3-3-right", "rope-pair-3-3"}
    others = {"braid-9", "honeycomb", "diamond-moss", "rib-lattice"}
    assert backgrounds | ropes | others <= set(LIBRARY)


@pytest.mark.parametrize("pattern_id", sorted(LIBRARY))
def test_crossing_strands_arrive_in_the_face_in_which_they_are_worked(pattern_id):
    """Common practice: a knit group on top stays knit; a background stitch beneath may be filled."""
    chart = LIBRARY[pattern_id].chart
    for number, row in chart.numbered():
        below = chart.faces_below(number, 2)
        at = 0
        for op in row.ops(2):
            for loop in op.made:
                if loop.depth == 1:
                    assert below[at + loop.parents[0]] == loop.face, f"row {number}"
            at += op.takes


# Common practice: a wrong-side row of the 14-stitch moss diamond, written as it is worked.
MOSS_ROW_8 = "k2, p3, k1, p1, k1, p1, k1, p2, k2"


def test_the_moss_diamond_shows_the_faces_of_its_traditional_rows():
    chart = LIBRARY["diamond-moss"].chart
    worked = parse_ops(MOSS_ROW_8)
    assert faces(chart.ops(8)) == tuple(f.other for f in reversed(faces(worked)))


def test_a_pattern_file_that_does_not_pass_is_refused():
    good = 'uses = ["panel"]\nfamily = "rope"\ntags = ["x"]\nnote = "n"\nchart = """\nrow 1: k2\nrow 2: {}\n"""\n'
    assert load_pattern("x", good.format("k2")).least == 2
    with pytest.raises(IllegalChart):
        load_pattern("x", good.format("k3"))
    with pytest.raises(InvalidText):
        load_pattern("x", good.format("k2").replace('note = "n"', 'colour = "n"'))
    with pytest.raises(CabluxError, match="no pattern"):
        find_pattern("no-such")


@given(charts())
def test_the_grid_gives_back_the_chart_that_was_written(chart):
    assert parse_grid(format_grid(chart)) == chart
    assert read_any(format_grid(chart)) == chart == read_any(format_chart(chart))


def test_a_grid_cell_that_cannot_be_read_is_located():
    with pytest.raises(InvalidText) as caught:
        parse_grid("row,side\n1,RS,k1,zz,C5F\n2,RX,k1\nx,RS,k1\n3,RS,<")
    assert [(p.line, p.column) for p in caught.value.problems] == [(2, 4), (2, 5), (3, 2), (4, 1), (5, 3)]


def test_a_token_changed_anywhere_in_a_valid_chart_is_valid_still_or_reported_at_its_row():
    """Ten thousand slips of the pen, in charts whose rows all keep their count."""
    dice = random.Random(20261123)
    steady = [p.chart for p in LIBRARY.values() if all(op.takes == op.makes for r in p.chart.rows for op in r.ops())]
    changes = parse_ops("k1, p1, yo, yo2, k2tog, ssk, M1L, 2/2 LC, 2/1 RPC, 3/3 RC, kfb, S2KP, MB5, 2/2 LC dec")
    reported = 0
    for _ in range(10_000):
        chart = dice.choice(steady)
        at = dice.randrange(chart.height)
        row = chart.rows[at]
        part = dice.choice([name for name in ("before", "box", "after") if getattr(row, name)])
        ops = list(getattr(row, part))
        place = dice.randrange(len(ops))
        ops[place : place + 1] = dice.choice([[], [dice.choice(changes)], [dice.choice(changes), ops[place]]])
        wrong = replace(chart, rows=(*chart.rows[:at], replace(row, **{part: tuple(ops)}), *chart.rows[at + 1 :]))
        kept = (takes(ops), makes(ops)) == (takes(getattr(row, part)), makes(getattr(row, part)))
        rows = {problem.row for problem in audit_chart(wrong)}
        assert rows == (set() if kept else {at + 1}), (chart.name, at + 1, ops)
        reported += not kept
    assert reported > 5_000


def test_short_rows_turn_once_and_the_next_row_comes_back_from_there():
    def rows(text: str) -> set[int]:
        return {p.row for p in audit_chart(parse_chart(text))}

    good = "row 1: k5, w&t, leave 6\nrow 2 (WS): leave 7, p5\nrow 3: k3, turn, leave 9\nrow 4 (WS): leave 9, ds, p2"
    assert rows(good) == set()
    assert rows(good.replace("leave 7, p5", "leave 6, p6")) == {2}
    assert rows(good.replace("w&t, leave 6", "w&t, k6")) >= {1}
    assert rows(good.replace("row 2 (WS): leave 7, p5", "row 2: k5, leave 7")) == {2}
    assert rows("row 1: k4\nrow 2: leave 2, k2") == {2}
    assert rows("row 1: k2, leave 2\nrow 2: k4") == {1}


@pytest.mark.parametrize("name", ["garter-rib-2-2", "garter-rib-4-2"])
def test_what_differs_from_behind_is_not_called_reversible(name):
    assert "reversible" not in LIBRARY[name].tags and not pattern_facts(LIBRARY[name]).reversible


def test_rows_after_a_turn_come_back_on_the_other_side_in_the_round_too():
    text = "round 1: k3, w&t, leave 2\nround 2: leave 3, p3\nround 3: k6"
    chart = parse_chart(text, work="round")
    assert [row.side for row in chart.rows] == [Side.RS, Side.WS, Side.RS] and audit_chart(chart) == ()
    assert [w.text for w in chart_words(chart, work="round")] == ["k3, w&t, leave 2", "leave 3, p3", "k6"]


def test_crossings_that_show_on_both_sides_are_not_done_blind():
    blind = {"wrong-side crossing"}
    both = parse_chart("row 1: (k1, p1) 4 times\nrow 2: 4/4 LC rib\nrow 3: (k1, p1) 4 times\nrow 4: (k1, p1) 4 times")
    one = parse_chart("rows 1, 3, 4: p2, k4, p2\nrow 2: p2, 2/2 LC, p2")
    assert not blind & {c.name for c in lint_chart(both)} and blind <= {c.name for c in lint_chart(one)}
    assert not blind & {c.name for c in lint_chart(LIBRARY["honeycomb-reversible"].chart.shifted(1))}
