"""Closes a chart into a tube: its endless texture is cut along one line, so that whole repeats meet all the way up."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache

from .charts import Chart, ChartRow
from .operations import makes, takes

Cut = tuple[int, ...]
"""For each row, set-up first, which operation of its box stands first behind the cut."""


@lru_cache(maxsize=512)
def closed_chart(chart: Chart) -> Chart | None:
    """The chart for work in the round, where it meets itself: no balance, every row's box begun at the same column.

    Rows may mark their repeat at different columns; what goes round is the endless texture of the boxes, and the grid
    of columns is turned as a whole until no operation lies across the round's beginning. None where there is no such
    place, because some crossing lies across every column.
    """
    if not any(row.before or row.after for row in (*chart.setup, *chart.rows)):
        return chart
    cut = next(_cuts(chart), None)
    if cut is None:
        return None
    setup = tuple(map(_turned, chart.setup, cut))
    rows = tuple(map(_turned, chart.rows, cut[len(chart.setup) :]))
    return replace(chart, rows=rows, setup=setup, balance=0)


def _turned(row: ChartRow, first: int) -> ChartRow:
    return replace(row, box=row.box[first:] + row.box[:first], before=(), after=(), written=None)


def _cuts(chart: Chart) -> Iterator[Cut]:
    """Every cut that comes back to its own column, those nearest to where row 1 begins its repeat first."""
    begin, wide = takes(chart.rows[0].before), chart.multiple
    for at in sorted(range(begin, begin + wide), key=lambda at: min(at - begin, begin + wide - at)):
        paths: dict[int, Cut] = {at: ()}
        for row in chart.rows:
            paths = _through(row, paths)
        for end, path in paths.items():
            if (end - at) % wide == 0 and (below := _below(chart, at)) is not None:
                yield below + path


def _below(chart: Chart, at: int) -> Cut | None:
    """The cut through the set-up rows that ends at column `at` below row 1; None where there is none."""
    for start in range(at - chart.multiple, at + chart.multiple + 1):
        paths: dict[int, Cut] = {start: ()}
        for row in chart.setup:
            paths = _through(row, paths)
        if at in paths:
            return paths[at]
    return None


def _through(row: ChartRow, paths: dict[int, Cut]) -> dict[int, Cut]:
    """The cuts led on through one row: from the columns below it to those above it, between its operations."""
    below, above = takes(row.box), makes(row.box)
    out: dict[int, Cut] = {}
    for at, path in paths.items():
        tile, column = divmod(at - takes(row.before), below)
        taken = made = 0
        for i, op in enumerate(row.box):
            if taken == column or (taken == below and column == 0):  # what is made at the very end of a box
                turn = tile - (taken == below)
                out.setdefault(makes(row.before) + turn * above + made, (*path, i))
            taken += op.takes
            made += op.makes
    return out
