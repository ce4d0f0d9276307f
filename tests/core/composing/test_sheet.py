"""Composing: the sheet gives a chart back exactly, its moves undo each other, and what it makes always adds up."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core import composing
from cablux.core.composing import Sheet, blank_sheet
from cablux.core.errors import AmbiguousText, CabluxError, IllegalChart, InvalidText
from cablux.core.library import LIBRARY
from cablux.core.notation import Crossing, Face, Lean, audit_chart, parse_op, parse_ops
from cablux.core.notation.lint import lint_chart
from tests.core.strategies import charts, ops


@pytest.mark.parametrize("pattern_id", sorted(LIBRARY))
def test_a_sheet_gives_back_the_chart_that_was_laid_on_it(pattern_id):
    chart = LIBRARY[pattern_id].chart
    laid = Sheet.of(chart).chart
    assert [row.ops(2) for row in laid.rows] == [row.ops(2) for row in chart.rows]
    assert (laid.multiple, laid.balance) == (chart.multiple, chart.balance)
    assert not chart.setup or laid.setup == chart.setup, "a set-up stays for as long as it fits"
    assert Sheet.of(laid).rows == Sheet.of(chart).rows and Sheet.of(laid).chart == laid


@st.composite
def moves(draw: st.DrawFn):
    """A move on a sheet, with whatever places and sizes a hand might hit upon."""
    row, cell, n = draw(st.integers(0, 9)), draw(st.integers(0, 14)), draw(st.integers(1, 3))
    lean, face = draw(st.sampled_from(Lean)), draw(st.sampled_from(Face))
    return draw(
        st.sampled_from(
            [
                lambda s: composing.cross_loops(s, row, cell, over=n, under=draw_under, lean=lean, centre=n - 1),
                lambda s: composing.lead_strand(s, row, cell, steps=n if lean is Lean.LEFT else -n)[0],
                lambda s: composing.paint_faces(s, row, cell, face=face),
                lambda s: composing.turn_one_stitch(s, row, cell),
                lambda s: composing.lift_operation(s, row, cell),
                lambda s: composing.insert_rows(s, row, n),
                lambda s: composing.remove_rows(s, row, n),
                lambda s: composing.copy_rows(s, min(row, n), row),
                lambda s: composing.insert_columns(s, cell, n, face=face),
                lambda s: composing.remove_columns(s, cell, n),
                lambda s: composing.set_box(s, min(cell, n), cell),
            ]
        )
        if (draw_under := draw(st.integers(1, 3)))
        else []
    )


@given(st.lists(moves(), max_size=14))
def test_no_sequence_of_moves_loses_or_makes_a_stitch(sequence):
    sheet = blank_sheet("x", "p3, k4, p3", 6)
    for move in sequence:
        try:
            sheet = move(sheet)
        except CabluxError as error:
            assert str(error).endswith((".", "?")), "a refusal is a sentence"
            continue
        chart = sheet.chart
        assert audit_chart(chart) == ()
        assert chart.width() == len(sheet.base)
        assert Sheet.of(chart).chart == chart and Sheet.of(chart).rows == sheet.rows


@given(charts(), st.integers(1, 6), st.integers(1, 12), ops)
def test_any_operation_can_be_put_anywhere_and_taken_off_again(chart, row, cell, op):
    sheet = Sheet.of(chart)
    try:
        put = composing.put_operation(sheet, row, cell, op=op)
    except IllegalChart:
        return
    shown = put.chart.ops(row)
    assert op in shown or not op.takes, "it stands as it was written"
    counts = [len(s.rows[row - 1].ops) for s in (sheet, put)]
    if op.takes == op.makes == 1 and counts[0] == counts[1]:
        assert composing.lift_operation(put, row, cell).chart.width() == chart.width()


def test_knit_stays_knit_and_background_stays_background_wherever_a_strand_is_led():
    sheet = blank_sheet("Wanderer", "p4, k2, p4", 4)
    led, steps, cell = composing.lead_strand(sheet, 1, 5, steps=3)
    assert (steps, cell, led.height) == (3, 9, 6), "rows are added at the top as they are needed"
    texts = [led.chart.ops(n) for n in (1, 2, 3, 4, 5, 6)]
    assert texts[0] == parse_ops("p4, 2/1 LPC, p3") and texts[1] == parse_ops("p5, k2, p3")
    assert texts[5] == parse_ops("p7, k2, p1")
    assert {w.name for w in lint_chart(led.chart)} == {"does not meet", "lopsided"}
    home, _, _ = composing.lead_strand(composing.insert_rows(led, 6, 4), 9, 8, steps=-3)
    home = composing.insert_rows(home, home.height, 2)  # rest rows, or the next repeat would cross again too soon
    assert {w.name for w in lint_chart(home.chart)} == {"lopsided"} and audit_chart(home.chart) == ()
    with pytest.raises(IllegalChart, match="is background"):
        composing.lead_strand(sheet, 1, 1, steps=2)
    far, steps, _ = composing.lead_strand(sheet, 1, 5, steps=40)
    assert steps == 4, "it stops at the edge"
    with pytest.raises(IllegalChart, match="no background beside it"):
        composing.lead_strand(
            far, far.height + 1 - far.height % 2, 10, steps=1
        ) if far.height % 2 else composing.lead_strand(
            composing.insert_rows(far, far.height, 2), far.height + 1, 10, steps=1
        )


def test_a_crossing_takes_the_faces_of_its_strands_and_a_written_one_is_taken_at_its_word():
    sheet = blank_sheet("x", "p2, k4, p2", 4)
    crossed = composing.cross_loops(sheet, 3, 2, over=2, under=1, lean=Lean.LEFT)
    assert crossed.chart.ops(3)[1] == Crossing(over=parse_ops("p1, k1"), under=parse_ops("k1"), lean=Lean.LEFT)
    assert crossed.chart.ops(4) == parse_ops("p1, k1, p1, k3, p2"), "each strand keeps its face in the next row"
    written = composing.put_operation(sheet, 3, 5, op=parse_op("2/1 LPC"))
    assert parse_op("2/1 LPC") in written.chart.ops(3)
    # a bobble stands on its background, which goes on as it was
    knob = composing.put_operation(sheet, 2, 1, op=parse_op("MB5"))
    assert knob.chart.ops(3) == parse_ops("p2, k4, p2")
    # what is cut in two by another operation is worked plainly
    cut = composing.put_operation(
        composing.cross_loops(sheet, 3, 3, over=2, under=2, lean=Lean.LEFT), 3, 3, op=parse_op("1/1 RT")
    )
    assert cut.chart.ops(3) == parse_ops("p2, 1/1 RT, k2, p2")


def test_one_bump_is_one_stitch_and_paint_goes_on_upwards():
    sheet = blank_sheet("x", "k4", 4)
    assert composing.turn_one_stitch(sheet, 2, 3).chart.ops(2) == parse_ops("k2, p1, k1")
    assert composing.turn_one_stitch(sheet, 2, 3).chart.ops(3) == parse_ops("k4")
    crossed = composing.cross_loops(sheet, 3, 1, over=2, under=2, lean=Lean.LEFT)
    twice = composing.turn_one_stitch(
        composing.turn_one_stitch(crossed, 3, 1), 3, 1
    )  # within a crossing too, and there and back
    assert twice.chart == crossed.chart != composing.turn_one_stitch(crossed, 3, 1).chart
    painted = composing.paint_faces(sheet, 2, 1, face=Face.PURL).chart
    assert [painted.ops(n)[0].token for n in (1, 2, 3, 4)] == ["k1", "p1", "p1", "p1"]
    assert composing.paint_faces(sheet, 0, 1, face=Face.PURL).chart.ops(4) == parse_ops("p1, k3")


def test_columns_run_beside_a_crossing_and_come_out_again_where_nothing_moves_them():
    sheet = composing.cross_loops(blank_sheet("x", "p2, k4, p2", 4), 3, 3, over=2, under=2, lean=Lean.LEFT)
    wider = composing.insert_columns(sheet, 0, 2)
    assert wider.chart.ops(3) == parse_ops("p4, 2/2 LC, p2")
    assert composing.remove_columns(wider, 1, 2).chart == sheet.chart
    with pytest.raises(IllegalChart, match="moves these columns"):
        composing.remove_columns(sheet, 4)


def test_the_repeat_is_marked_by_columns_and_not_through_a_crossing():
    sheet = composing.cross_loops(blank_sheet("x", "p2, k4, p2", 4), 3, 3, over=2, under=2, lean=Lean.LEFT)
    boxed = composing.set_box(sheet, 3, 8).chart
    assert (boxed.multiple, boxed.balance) == (6, 2) and audit_chart(boxed) == ()
    assert boxed.ops(3, 2) == parse_ops("p2, 2/2 LC, p2, 2/2 LC, p2")
    with pytest.raises(IllegalChart, match="cross the edge of the repeat"):
        composing.set_box(sheet, 4, 8)


def test_a_row_is_rewritten_from_text_and_a_mistake_in_it_is_located():
    chart = blank_sheet("x", "p2, k4, p2", 4).chart
    assert composing.rewrite_row(chart, 2, "k2, p4, k2").ops(2) == parse_ops("p2, k4, p2")
    assert composing.rewrite_row(chart, 3, "P2, C4F, P2").ops(3) == parse_ops("p2, 2/2 LC, p2")
    assert audit_chart(composing.rewrite_row(chart, 3, "p9"))[0].row == 3
    with pytest.raises(InvalidText) as caught:
        composing.rewrite_row(chart, 3, "p2, zorp")
    assert (caught.value.problems[0].row, caught.value.problems[0].column) == (3, 5)
    with pytest.raises(AmbiguousText, match="Row 3"):
        composing.rewrite_row(chart, 3, "C5F")
