"""A chart cut to sheets of paper: where it may be cut so that no crossing is, and what each sheet shows again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from .chart import FOOT, HEAD, MARGIN, ChartLine, ChartPart, widest_parts
from .svg import number
from .symbols import CELL

SHEET = 40  # stitches, our choice: across a sheet of A4 or Letter a cell is then 4 mm wide, which can be read
OVERLAP_CELLS, OVERLAP_ROWS = 2, 1
"""Our choice: two stitches and one row are shown again, so that the eye finds its place on the next sheet."""


@dataclass(frozen=True, kw_only=True)
class Window:
    """Cells `first` to `last` from the right and lines `low` to `high` from below, the first of each 0, ends not in it.

    `again` and `below`: how many of its first cells and lines the sheet before has too.
    """

    first: int
    last: int
    low: int
    high: int
    again: int = 0
    below: int = 0


def cut_chart(lines: Sequence[ChartLine], cells: int, across: int, *, up: int) -> tuple[Window, ...]:
    """Windows of at most `across` cells and `up` lines that show all of a chart, from its lower right corner.

    Cells are cut where no operation of any line lies across; where there is no such place within a sheet, anywhere.
    """
    closed = closed_places(lines)
    columns = _runs(cells, across, OVERLAP_CELLS, closed=closed)
    rows = _runs(len(lines), up, OVERLAP_ROWS, closed=frozenset())
    return tuple(
        Window(first=first, last=last, low=low, high=high, again=again, below=below)
        for low, high, below in rows
        for first, last, again in columns
    )


@dataclass(frozen=True, kw_only=True)
class SheetView:
    """What of a chart's picture goes on a sheet: its stitches, first and last, and where it lies in the picture."""

    first: int
    last: int
    view: str
    width: float
    height: float


def sheet_views(lines: Sequence[ChartLine], widths: Sequence[int] = ()) -> tuple[SheetView, ...]:
    """A chart's picture cut to sheets of up to `SHEET` stitches, the first stitches first; row numbers are left out."""
    count = sum(widths or widest_parts(lines))
    tall = len(lines) * CELL + HEAD + FOOT
    out = []
    for window in cut_chart(lines, count, SHEET, up=len(lines)):
        x, wide = MARGIN + (count - window.last) * CELL, (window.last - window.first) * CELL
        view = f"{number(x)} 0 {number(wide)} {number(tall)}"
        out.append(SheetView(first=window.first + 1, last=window.last, view=view, width=wide, height=tall))
    return tuple(out)


def closed_places(lines: Sequence[ChartLine]) -> frozenset[int]:
    """The places between cells, from the right, at which an operation of some line lies across."""
    out = set[int]()
    for line in lines:
        at = 0
        for part in line.parts:
            for op in part.ops:
                out.update(range(at + 1, at + op.cells))
                at += op.cells
    return frozenset(out)


def _runs(total: int, most: int, overlap: int, *, closed: frozenset[int]) -> list[tuple[int, int, int]]:
    """Runs of at most `most` that cover `total`, as even as their number allows; each with what it shows again."""
    out: list[tuple[int, int, int]] = []
    first = again = 0
    while True:
        left = total - first
        sheets = -(-max(1, left - overlap) // max(1, most - overlap))
        aim = first + (most if sheets == 1 else min(most, -(-(left + overlap * (sheets - 1)) // sheets)))
        last = total if left <= most else _open_place(aim, first + most, first + overlap, closed=closed)
        out.append((first, last, again))
        if last >= total:
            return out
        begin = next((at for at in range(last - overlap, first + overlap, -1) if at not in closed), last)
        begin = begin if last - begin <= max(overlap, most // 4) else last
        first, again = begin, last - begin


def _open_place(aim: int, most: int, least: int, *, closed: frozenset[int]) -> int:
    """The place nearest to `aim` at which nothing lies across; `most` where there is none."""
    free = [at for at in range(least + 1, most + 1) if at not in closed]
    return min(free, key=lambda at: (abs(at - aim), -at), default=most)


def windowed(line: ChartLine, first: int, last: int) -> tuple[ChartLine, int]:
    """What of a line lies in cells `first` to `last`, and how many cells to the right of `first` it reaches.

    An operation that the cut goes through is kept whole, so it overhangs.
    """
    at, over, parts = 0, None, []
    for part in line.parts:
        whole = part.cells
        if at + whole <= first or at >= last:
            parts.append(ChartPart(part.name, part.family, ()))
            at += whole
            continue
        if at >= first and at + whole <= last:
            over = first - at if whole and over is None else over
            parts.append(part.shown)
            at += whole
            continue
        kept = []
        for op in part.ops:
            if op.cells and at + op.cells > first and at < last:
                over = first - at if over is None else over
                kept.append(op)
            at += op.cells
        parts.append(ChartPart(part.name, part.family, tuple(kept)))
    return replace(line, parts=tuple(parts)), over or 0
