"""Columns of a sheet: added beside the strands that stand there, and taken away where nothing crosses them."""

from __future__ import annotations

from dataclasses import replace

from ..notation import Face, K, Op, makes, takes
from .sheet import Sheet, SheetRow, check_size, refuse_move


def insert_columns(sheet: Sheet, cell: int, count: int = 1, *, face: Face = Face.PURL) -> Sheet:
    """New columns to the left of stitch `cell` (0: at the right edge), knit or purl from the foundation up.

    Where a crossing spans the place, they run beside it, on the side that is nearer.
    """
    if not 0 <= cell <= len(sheet.base) or count < 1:
        raise refuse_move(f"Add columns beside stitches 0 to {len(sheet.base)}.")
    check_size(len(sheet.base) + count, sheet.height)
    rows, where = [], set[str]()
    at, total = cell, len(sheet.base)
    for number, row in enumerate(sheet.rows, start=1):
        if takes(row.ops) != total:
            raise refuse_move(f"Row {number} does not add up yet; correct it before you add columns.")
        boxed = row.before or row.after
        part = "before" if boxed and at < row.before else "after" if boxed and at > total - row.after else "box"
        where.add(part)
        ops, at = _with_gap(row.ops, at, count)
        before, after = (count if part == side else 0 for side in ("before", "after"))
        rows.append(SheetRow(ops, row.before + before, row.after + after))
        total = makes(row.ops)
    if len(where) > 1:
        raise refuse_move("This place lies inside the repeat in some rows and outside it in others; choose another.")
    base = (*sheet.base[:cell], *(face,) * count, *sheet.base[cell:])
    return replace(sheet, base=base, rows=tuple(rows))


def _with_gap(ops: tuple[Op, ...], place: int, count: int) -> tuple[tuple[Op, ...], int]:
    """The row with plain stitches put in at a gap between loops, and the gap's place in the row above."""
    out: list[Op] = []
    at = made = 0
    for i, op in enumerate(ops):
        if at + op.takes > place or (at == place and op.takes):
            # the gap lies before this operation, or inside it: then before or after it, whichever is nearer
            if place - at <= at + op.takes - place:
                return (*out, *(K,) * count, *ops[i:]), made
            return (*out, op, *(K,) * count, *ops[i + 1 :]), made + op.makes
        out.append(op)
        at += op.takes
        made += op.makes
    return (*out, *(K,) * count), made


def remove_columns(sheet: Sheet, cell: int, count: int = 1) -> Sheet:
    """Takes out the columns from stitch `cell` leftwards. Raises IllegalChart where a crossing moves them."""
    if not 1 <= cell <= cell + count - 1 <= len(sheet.base):
        raise refuse_move(f"The panel has stitches 1 to {len(sheet.base)}.")
    if count >= len(sheet.base):
        raise refuse_move("A panel needs at least one stitch; remove fewer.")
    gone = range(cell - 1, cell - 1 + count)
    rows = []
    for number, row in enumerate(sheet.rows, start=1):
        kept: list[Op] = []
        at = 0
        for op in row.ops:
            touched = [loop for loop in range(at, at + op.takes) if loop in gone]
            at += op.takes
            if not touched:
                kept.append(op)
            elif op.takes != 1 or op.makes != 1:
                raise refuse_move(f"Row {number}: {op.token} moves these columns; remove it first.")
        before = row.before - sum(1 for g in gone if g < row.before)
        after = row.after - sum(1 for g in gone if g >= len(sheet.base) - row.after)
        if before + after >= len(sheet.base) - count:
            raise refuse_move("The repeat needs at least one stitch; remove fewer, or mark another repeat first.")
        rows.append(SheetRow(tuple(kept), before, after))
    return replace(sheet, base=(*sheet.base[: cell - 1], *sheet.base[cell - 1 + count :]), rows=tuple(rows))
