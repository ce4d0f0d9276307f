"""Putting operations on a sheet: crossings, any stitch by name, knit and purl, single bumps; and taking them off."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from ..notation import Crossing, Face, K, Lean, Op, P, Stitch, takes
from ..notation.crossings import MAX_CENTRE, MAX_GROUP, CentreAt
from .sheet import Sheet, refuse_move, turned_faces


def loop_at(sheet: Sheet, number: int, cell: int) -> int:
    """The loop below row `number` (from 0, from the right) that lies under chart cell `cell` (from 1).

    In a row that only crosses they are the same but for the offset. Raises IllegalChart beyond the row.
    """
    at = loop = 0
    for op in sheet.row(number).ops:
        if at < cell <= at + max(op.cells, 1):
            return loop + min(cell - 1 - at, max(op.takes - 1, 0))
        at += op.cells
        loop += op.takes
    raise refuse_move(f"Row {number} has {at} stitches; there is no stitch {cell}.")


def put_operation(sheet: Sheet, number: int, cell: int, *, op: Op) -> Sheet:
    """Puts an operation as it is written, its right end at a cell; what it covers becomes plain."""
    start = loop_at(sheet, number, cell)
    below = sheet.shown_below(number)[start : start + op.takes]
    return lay_operation(
        sheet, number, start, op=turned_faces(op, below) if len(below) == op.takes else op, name=op.token
    )


def cross_loops(
    sheet: Sheet,
    number: int,
    cell: int,
    *,
    over: int,
    under: int,
    lean: Lean,
    centre: int = 0,
    centre_at: CentreAt = "between",
    twist: bool = False,
) -> Sheet:
    """Crosses groups in the faces that their loops have: knit stays knit, purl stays purl. Raises IllegalChart."""
    if not (1 <= over <= MAX_GROUP and 1 <= under <= MAX_GROUP and 0 <= centre <= MAX_CENTRE):
        raise refuse_move(f"Groups have 1 to {MAX_GROUP} stitches, a centre at most {MAX_CENTRE}.")
    if twist and (over, under, centre) != (1, 1, 0):
        raise refuse_move("A twist is one stitch over one, without a cable needle; for more, use a crossing.")
    op = Crossing(
        over=(K,) * over,
        under=(K,) * under,
        lean=lean,
        centre=(K,) * centre,
        twist=twist,
        centre_at=centre_at if centre else "between",
    )
    name = f"{over}/{centre}/{under}" if centre else f"{over}/{under}"
    return lay_operation(sheet, number, loop_at(sheet, number, cell), op=op, name=name)


def lift_operation(sheet: Sheet, number: int, cell: int) -> Sheet:
    """Takes an operation off: its loops are worked plainly again, and a yarn over is gone."""
    out: list[Op] = []
    at = 0
    for op in sheet.row(number).ops:
        mine = at < cell <= at + max(op.cells, 1)
        at += op.cells
        out += [K] * op.takes if mine else [op]
    return sheet.with_row(number, tuple(out))


def paint_faces(sheet: Sheet, number: int, cell: int, *, face: Face) -> Sheet:
    """Makes a stitch knit or purl from this row on, wherever its strand goes; in row 0 from the foundation on."""
    if number == 0:
        if not 1 <= cell <= len(sheet.base):
            raise refuse_move(f"The starting row has {len(sheet.base)} stitches; there is no stitch {cell}.")
        return replace(sheet, base=(*sheet.base[: cell - 1], face, *sheet.base[cell:]))
    start = loop_at(sheet, number, cell)
    stitch = K if sheet.shown_below(number)[start] is face else P
    return _with_stitch(sheet, number, start, change=lambda _: stitch)


def turn_one_stitch(sheet: Sheet, number: int, cell: int) -> Sheet:
    """Turns one stitch over, in this row alone: a purl bump on knit, or the other way about."""
    start = loop_at(sheet, number, cell)
    changed = _turned_over(sheet, number, start)
    return changed if number == sheet.height else _turned_over(changed, number + 1, child_of(sheet, number, start))


def lay_operation(sheet: Sheet, number: int, start: int, *, op: Op, name: str) -> Sheet:
    """The row with `op` on the loops from `start` on; operations that it cuts are worked plainly outside it.

    What takes no loop, such as a yarn over, goes in before the operation that works loop `start`.
    """
    ops = sheet.row(number).ops
    end, total = start + op.takes, takes(ops)
    if end > total:
        raise refuse_move(f"Row {number}: {name} needs {op.takes} stitches, and from here there are {total - start}.")
    out: list[Op] = []
    at, put_in = 0, False
    for old in ops:
        first, last = at, at + old.takes
        at = last
        if not put_in and last > start:
            out += [K] * (start - first) if op.takes else []
            out.append(op)
            put_in = True
        if last <= start or first >= end or not old.takes:
            out.append(old)
        else:
            out += [K] * max(0, last - end)
    return sheet.with_row(number, (*out, op) if not put_in else tuple(out))


def _turned_over(sheet: Sheet, number: int, loop: int) -> Sheet:
    return _with_stitch(sheet, number, loop, change=lambda stitch: replace(stitch, face=stitch.face.other))


def _with_stitch(sheet: Sheet, number: int, loop: int, *, change: Callable[[Stitch], Stitch]) -> Sheet:
    """The row with the plain stitch on a loop changed, in a crossing within its group. Raises IllegalChart."""
    out: list[Op] = []
    at = 0
    for op in sheet.row(number).ops:
        inside = loop - at
        at += op.takes
        if not 0 <= inside < op.takes:
            out.append(op)
        elif isinstance(op, Stitch):
            out.append(change(op))
        elif isinstance(op, Crossing):
            first, centre, last = op.groups_taken
            flat = [*first, *centre, *last]
            flat[inside] = change(flat[inside])
            a, b = len(first), len(first) + len(centre)
            out.append(op.regrouped(tuple(flat[:a]), tuple(flat[a:b]), tuple(flat[b:])))
        else:
            raise refuse_move(f"Row {number}, stitch {loop + 1} is {op.token}; remove it first.")
    return sheet.with_row(number, tuple(out))


def child_of(sheet: Sheet, number: int, loop: int) -> int:
    """Where a loop lies after row `number`."""
    at = made = 0
    for op in sheet.row(number).ops:
        if at <= loop < at + op.takes:
            return made + next(i for i, m in enumerate(op.made) if loop - at in m.parents)
        at += op.takes
        made += op.makes
    raise refuse_move(f"Row {number} has no stitch {loop + 1}.")
