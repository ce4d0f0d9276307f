"""Rows of a sheet: added, taken away, copied, and rewritten from text."""

from __future__ import annotations

from dataclasses import replace

from ..errors import AmbiguousText, InvalidText, Problem
from ..notation import Chart, K, parse_chart, side_of, takes
from .sheet import Sheet, SheetRow, check_size, refuse_move


def insert_rows(sheet: Sheet, above: int, count: int = 2) -> Sheet:
    """Plain rows above row `above`; 0 puts them at the bottom."""
    check_size(len(sheet.base), sheet.height + count)
    if not 0 <= above <= sheet.height or count < 1:
        raise refuse_move(f"Add rows above row 0 to {sheet.height}.")
    near = sheet.rows[above - 1] if above else sheet.rows[0]
    plain = SheetRow((K,) * sheet.count_below(above + 1), near.before, near.after)
    return replace(sheet, rows=(*sheet.rows[:above], *(plain,) * count, *sheet.rows[above:]))


def remove_rows(sheet: Sheet, first: int, count: int = 2) -> Sheet:
    """Takes rows out from row `first` on; the strands above go on from those below."""
    sheet.row(first)
    last = min(first + count - 1, sheet.height)
    if last - first + 1 >= sheet.height:
        raise refuse_move("A panel needs at least one row; remove fewer.")
    return replace(sheet, rows=(*sheet.rows[: first - 1], *sheet.rows[last:]))


def copy_rows(sheet: Sheet, first: int, last: int) -> Sheet:
    """Puts a copy of rows `first` to `last` in above them, the strands going on where they are."""
    sheet.row(first)
    sheet.row(last)
    if first > last:
        raise refuse_move(f"Rows {first} to {last} are not in order; type the lower one first.")
    check_size(len(sheet.base), sheet.height + last - first + 1)
    return replace(sheet, rows=(*sheet.rows[:last], *sheet.rows[first - 1 : last], *sheet.rows[last:]))


def rewrite_row(chart: Chart, number: int, text: str) -> Chart:
    """The chart with row `number` as `text` says, worked flat (even rows from the wrong side); other rows stay.

    Counts may disagree afterwards; that is for the audit. Raises InvalidText or AmbiguousText, `column` in `text`.
    """
    if not 1 <= number <= chart.height:
        raise refuse_move(f"The panel has rows 1 to {chart.height}; there is no row {number}.")
    head = f"multiple: {chart.size_text}\nset-up row 1: k{chart.width()}\nrow 1 ({side_of(number)}): "
    try:
        read = parse_chart(head + text.replace("\n", " "))
    except (InvalidText, AmbiguousText) as error:
        start = len(head.splitlines()[-1])
        problems = tuple(replace(p, line=0, column=max(1, p.column - start), row=number) for p in error.problems)
        raise type(error)(tuple(_named(p, number) for p in problems)) from None
    row = read.rows[0]
    if chart.balance and not (row.before or row.after) and takes(row.box) != chart.multiple:
        raise refuse_move(
            f"Row {number} must mark the repeat: *…; rep from *, with {chart.balance} stitches outside it."
        )
    return replace(chart, rows=(*chart.rows[: number - 1], replace(row, written=None), *chart.rows[number:]))


def _named(problem: Problem, number: int) -> Problem:
    return replace(problem, message=problem.message.replace("row 1: ", f"Row {number}: ", 1))
