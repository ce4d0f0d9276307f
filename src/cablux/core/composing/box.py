"""The repeat of a sheet: which columns go on as often as one likes, and which stand outside them."""

from __future__ import annotations

from dataclasses import replace

from ..notation import takes
from .sheet import Sheet, check_box_edges, refuse_move


def set_box(sheet: Sheet, first: int, last: int) -> Sheet:
    """Makes stitches `first` to `last` (from the right) the repeat; all of them mean that there are no edges.

    Raises IllegalChart where a row does not have the foundation's count or crosses the edge of the repeat.
    """
    count = len(sheet.base)
    if not 1 <= first <= last <= count:
        raise refuse_move(f"The repeat lies between stitches 1 and {count}, the right one first.")
    rows = []
    for number, row in enumerate(sheet.rows, start=1):
        if takes(row.ops) != count:
            raise refuse_move(
                f"Row {number} has a different count from the starting row, so no repeat can be marked in it."
            )
        cut = replace(row, before=first - 1, after=count - last)
        check_box_edges(cut, number)
        rows.append(cut)
    return replace(sheet, rows=tuple(rows))
