"""Row text: reading undoes writing, both dialects agree, and every mistake is located."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import AmbiguousText, InvalidText
from cablux.core.notation import (
    Crossing,
    Face,
    K,
    Lean,
    P,
    Stitch,
    crossing,
    format_flat,
    parse_op,
    parse_ops,
    shortest_text,
    takes,
)
from cablux.core.notation.repeats import shortest_text as shortest_cached
from tests.core.strategies import ops, rows


@given(ops)
def test_an_operation_is_read_from_its_own_name_in_either_dialect(op):
    assert parse_ops(op.token) == (op,)
    assert parse_ops(op.hold_token) == (op,)


@given(rows, st.booleans())
def test_reading_undoes_writing(row, hold):
    assert parse_ops(format_flat(row, hold=hold)) == row
    assert parse_ops(shortest_text(row, hold=hold)) == row


@given(rows, st.integers(2, 5), rows)
def test_the_short_form_never_has_more_to_read_than_the_row_written_out(unit, times, tail):
    row = unit * times + tail
    assert parse_ops(shortest_text(row)) == row
    assert shortest_text(row).count(",") <= format_flat(row).count(",")


@pytest.mark.parametrize(
    ("text", "stitches"),
    [
        # common practice
        ("k4, p4, 4/4 LC, p4, k4", 24),  # wrap: 4 edge, 4 purl, 8 cable, 4 purl, 4 edge
        ("(p6, k6) 3 times, p6", 42),  # purl-knit blocks of six, seven blocks
        ("p10, *k9, p10; rep from * 5 times", 105),  # 9-stitch braids on ten-stitch backgrounds
        ("k3, *k2, p2; rep from * 4 times, k3", 22),  # reversible honeycomb with three edge stitches
        ("*p4, 2/2 LC; rep from * 3 more times, p4", 36),
        ("k2, [p1, (k1, p1) x 2] twice, k2", 14),
        ("K2, *P4, C4F; repeat from * 2 times; k1", 19),
    ],
)
def test_rows_as_people_write_them_are_counted(text, stitches):
    assert takes(parse_ops(text)) == stitches


@pytest.mark.parametrize(
    ("one", "other"),
    [  # common practice
        ("C6F", "3/3 LC"),
        ("C6B", "3/3RC"),
        ("c8f", "4/4 LC"),
        ("C4B", "2/2 RC"),
        ("C2F", "1/1 LC"),
        ("T3F", "2/1 LPC"),
        ("T3B", "2/1 RPC"),
        ("T2B", "1/1 RPC"),
        ("T5L", "2/1/2 LPC"),
        ("LC[k3|k3]", "3/3 LC"),
        ("M1", "M1L"),
    ],
)
def test_two_names_for_one_operation_are_equal(one, other):
    assert parse_op(one) == parse_op(other)


def test_the_crossing_names_say_what_is_on_top_and_what_is_purled():
    left = parse_op("2/1 LPC")
    assert left == Crossing(over=(K, K), under=(P,), lean=Lean.LEFT)
    assert parse_op("3/3/3 LC") == crossing(3, 3, "L", centre=3)
    assert parse_op("6/2/6 RPC").centre == (P, P)
    assert parse_op("LC[k1 p1|k1 p1]").over == (K, P)
    assert parse_op("RC[k1tbl|p1]").over == (Stitch(Face.KNIT, tbl=True),)


@pytest.mark.parametrize("text", ["C5F", "C3B", "T4F", "T5B"])
def test_an_ambiguous_name_is_refused_with_the_choices(text):
    with pytest.raises(AmbiguousText) as caught:
        parse_ops(f"k3, {text}")
    problem = caught.value.problems[0]
    assert problem.column == 5 and text in problem.message and " or " in problem.message


@pytest.mark.parametrize(
    ("text", "column", "says"),
    [
        ("k3, q2, p2", 5, "q2"),
        ("k3, (p2, k2", 12, "not closed"),
        ("k3, (p2, k2), p2", 12, "how often"),
        ("*k2, p2", 1, "rep from"),
        ("k2, rep from * 3 times", 5, "no *"),
        ("k0", 1, "works no stitch"),
        ("k2, 2/2 LT", 5, "twist"),
        ("k2, 13/2 LC", 5, "1 to 12"),
        ("()  3 times", 1, "empty"),
        ("*k1, *p1; rep from * 2 times", 6, "second *"),
        ("k999999999", 2, "too large for a chart"),
        ("((((k500) 99 times) 99 times) 99 times) 9 times", None, "more than"),
    ],
)
def test_a_mistake_is_located_and_named(text, column, says):
    with pytest.raises(InvalidText) as caught:
        parse_ops(text)
    problem = caught.value.problems[0]
    assert says in problem.message
    assert column is None or problem.column == column


@given(st.text(st.sampled_from("kp123/*()[], LCRTFB;x times rep from"), max_size=40))
def test_no_text_does_anything_but_parse_or_be_refused(text):
    try:
        parse_ops(text)
    except (InvalidText, AmbiguousText) as error:
        assert all(p.message for p in error.problems)


def test_the_short_form_is_what_a_knitter_would_write():
    row = parse_ops("k3, p4, 2/2 LC, p4, 2/2 LC, p4, 2/2 LC, p4, 2/2 LC, p4, k3")
    assert shortest_cached(row) == "k3, (p4, 2/2 LC) 4 times, p4, k3"
    assert shortest_text(row, hold=True) == "k3, (p4, C4F) 4 times, p4, k3"
    assert shortest_text(parse_ops("k2 tbl, p1")) == "k2 tbl, p1"
