"""Leading a strand over the background: one step on every right-side row, for as long as there is any to cross."""

from __future__ import annotations

from collections.abc import Iterator

from ..notation import Crossing, Face, K, Lean, Op
from .place import child_of, lay_operation, loop_at
from .rows import insert_rows
from .sheet import MAX_PANEL_ROWS, Sheet, refuse_move


def lead_strand(sheet: Sheet, number: int, cell: int, *, steps: int, width: int = 2) -> tuple[Sheet, int, int]:
    """Leads the strand under a cell `steps` stitches to the left (or, less than 0, to the right) from row `number` on.

    The strand is the `width` knit loops of its run on the side to which it goes. It takes one step on this row and
    every second one above, with rows added at the top as they are needed, and stops where the background ends.
    Returns the sheet, the steps taken, and the cell where the strand now lies. Raises IllegalChart if it cannot move.
    """
    left = steps > 0
    start = loop_at(sheet, number, cell)
    if number % 2 == 0:  # crossings belong on right-side rows
        start = child_of(sheet, number, start)
        number += 1
        if number > sheet.height:
            sheet = insert_rows(sheet, sheet.height, 2)
    first, last = _strand(sheet, number, start, width=width, left=left)
    done, at = 0, number
    while done < abs(steps):
        if at > sheet.height:
            if sheet.height + 2 > MAX_PANEL_ROWS:
                break
            sheet = insert_rows(sheet, sheet.height, 2)
        stepped = _step(sheet, at, first, last=last, left=left)
        if stepped is None:
            break
        sheet, first, last = stepped
        done, at = done + 1, at + 2
    if not done:
        raise refuse_move(
            f"Row {number}: the strand cannot travel {'left' if left else 'right'} here; "
            "there is no background beside it."
        )
    return sheet, done, (first if not left else last) + 1


def _strand(sheet: Sheet, number: int, loop: int, *, width: int, left: bool) -> tuple[int, int]:
    """First and last loop of the strand."""
    below = sheet.shown_below(number)
    if loop >= len(below) or below[loop] is not Face.KNIT:
        raise refuse_move(
            f"Row {number}, stitch {loop + 1} is background; put the cursor on a knit strand to make it travel."
        )
    first = last = loop
    while first > 0 and below[first - 1] is Face.KNIT:
        first -= 1
    while last + 1 < len(below) and below[last + 1] is Face.KNIT:
        last += 1
    wide = min(width, last - first + 1)
    return (last - wide + 1, last) if left else (first, first + wide - 1)


def _step(sheet: Sheet, number: int, first: int, *, last: int, left: bool) -> tuple[Sheet, int, int] | None:
    """One step, or None where the neighbour is the edge, another strand, or part of something else."""
    below = sheet.shown_below(number)
    beside = last + 1 if left else first - 1
    if not 0 <= beside < len(below) or below[beside] is not Face.PURL:
        return None
    wide = last - first + 1
    op = Crossing(over=(K,) * wide, under=(K,), lean=Lean.LEFT if left else Lean.RIGHT)
    start = first if left else beside
    covered = [o for o, at in _starts(sheet, number) if at < start + wide + 1 and at + o.takes > start]
    if any(o.takes != 1 or o.makes != 1 for o in covered):
        return None
    moved = 1 if left else -1
    return lay_operation(sheet, number, start, op=op, name=op.token), first + moved, last + moved


def _starts(sheet: Sheet, number: int) -> Iterator[tuple[Op, int]]:
    at = 0
    for op in sheet.row(number).ops:
        yield op, at
        at += op.takes
