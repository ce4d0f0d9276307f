"""Closes a chart into a tube: its endless texture is cut along one line, so that whole repeats meet all the way up."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache

from .charts import Chart, ChartRow
from .crossings import Crossing, split_crossing
from .operations import makes, takes

Cut = tuple[int, ...]
"""For each row, set-up first, which operation of its box stands first behind the cut."""


@lru_cache(maxsize=512)
def closed_chart(chart: Chart) -> Chart | None:
    """The chart for work in the round, where it meets itself: no balance, every row's box begun at the same column.

    Rows may mark their repeat at different columns; what goes round is the endless texture of the boxes, and the grid
    of columns is turned as a whole until no operation lies across the round's beginning. Where some crossing lies
    across every column, the place is taken at which the fewest do: in those rounds the beginning is moved. None where
    something else than a crossing lies there.
    """
    if not any(row.before or row.after for row in (*chart.setup, *chart.rows)):
        return chart
    cut = next(_cuts(chart), None)
    if cut is None:
        return _with_moves(chart)
    setup = tuple(map(_turned, chart.setup, cut))
    rows = tuple(map(_turned, chart.rows, cut[len(chart.setup) :]))
    return replace(chart, rows=rows, setup=setup, balance=0)


def _with_moves(chart: Chart) -> Chart | None:
    """The chart cut straight up through its crossings, where the fewest lie, nearest to where row 1 begins."""
    every = (*chart.setup, *chart.rows)
    if any(takes(row.box) != chart.multiple or makes(row.box) != chart.multiple for row in every):
        return None
    begin = takes(chart.rows[0].before)
    tries = []
    for at in range(chart.multiple):
        rows = [_cut_through(row, at + begin) for row in every]
        if all(row is not None for row in rows):
            cut = [row for row in rows if row is not None]
            tries.append((sum(row.joined for row in cut), min(at, chart.multiple - at), cut))
    if not tries:
        return None
    _, _, cut = min(tries, key=lambda found: found[:2])
    below = len(chart.setup)
    return replace(chart, rows=tuple(cut[below:]), setup=tuple(cut[:below]), balance=0)


def _cut_through(row: ChartRow, column: int) -> ChartRow | None:
    """A row whose box begins at a column, if need be inside a crossing; None where it would be inside anything else."""
    start = takes(row.before)
    column, at = (column - start) % takes(row.box), 0
    for i, op in enumerate(row.box):
        if at == column:
            return _turned(row, i)
        if at < column < at + op.takes:
            if not isinstance(op, Crossing):
                return None
            begin, end = split_crossing(op, column - at)
            return replace(row, box=(begin, *row.box[i + 1 :], *row.box[:i], end), before=(), after=(), written=None)
        at += op.takes
    return None


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
