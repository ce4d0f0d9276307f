"""The plane of a band: what its charts want to be worked in each column of each lane, cut into blocks.

A block is the shortest run of operations that takes and makes the same columns: a knit stitch, a crossing, a yarn over
with its decrease. It is worked as one, or not at all.
"""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass
from functools import lru_cache

from ..errors import IllegalPiece
from ..notation import Chart, Crossing, HalfCrossing, Op, takes
from ..notation.crossings import whole_crossings


@dataclass(frozen=True)
class ColumnBlock:
    """Operations over the columns from `start` (from the right) to `start` + `width`."""

    start: int
    width: int
    ops: tuple[Op, ...]

    @property
    def end(self) -> int:
        """The column after its last."""
        return self.start + self.width


@dataclass(frozen=True, kw_only=True)
class Lane:
    """A segment's chart in the plane, worked `repeats` times; its texture may go on beyond it to either side.

    `rest` is what its columns are worked in where the chart is not: a panel's background, until the panel begins.
    """

    chart: Chart
    repeats: int
    open_right: bool = False
    open_left: bool = False
    rest: Chart | None = None

    @property
    def width(self) -> int:
        """Columns of the chart itself."""
        return self.chart.width(self.repeats)


def blocks_of(ops: tuple[Op, ...], start: int) -> tuple[ColumnBlock, ...]:
    """The blocks of a run of operations whose first column is `start`.

    What takes nothing and makes nothing (an empty cell) is left out. Raises IllegalPiece where the run makes more
    or fewer columns than it takes.
    """
    out: list[ColumnBlock] = []
    at, taken, made = 0, 0, 0
    first = start
    for i, op in enumerate(ops):
        taken, made = taken + op.takes, made + op.makes
        if taken == made and taken > 0:
            out.append(ColumnBlock(first, taken, ops[at : i + 1]))
            first, at, taken, made = first + taken, i + 1, 0, 0
        elif taken == made == 0:
            at = i + 1
    if taken or made:
        raise IllegalPiece("This row changes the pattern’s own count, so it cannot be cut into columns.")
    return tuple(out)


@lru_cache(maxsize=4096)
def crossing_blocks(chart: Chart, repeats: int, number: int) -> tuple[ColumnBlock, ...]:
    """The crossings of a chart row, each over its columns from the right."""
    if number not in chart.crossing_rows:
        return ()
    blocks = blocks_of(chart.ops(number, repeats), 0)
    return tuple(block for block in blocks if isinstance(block.ops[0], Crossing | HalfCrossing))


@dataclass(frozen=True)
class BlockRow:
    """The blocks of one row of a lane, side by side from the right."""

    blocks: tuple[ColumnBlock, ...]
    starts: tuple[int, ...]

    def over(self, first: int, last: int) -> tuple[ColumnBlock, ...]:
        """The blocks that hold any column from `first` to `last`."""
        return self.blocks[max(0, bisect_right(self.starts, first) - 1) : bisect_right(self.starts, last)]


def block_row(lane: Lane, number: int, first: int, *, last: int) -> BlockRow:
    """The blocks of chart row `number` that cover the columns from `first` to `last`."""
    more_right, more_left = _repeats_beyond(lane, first, last)
    return _block_row(lane, (number - 1) % lane.chart.height + 1, more_right, more_left=more_left)


def _repeats_beyond(lane: Lane, first: int, last: int) -> tuple[int, int]:
    """How many boxes more the columns want on the right and on the left, in steps of eight, so that few differ."""
    wide = 8 * lane.chart.multiple
    right, left = max(0, -first), max(0, last + 1 - lane.width)
    if (right and not lane.open_right) or (left and not lane.open_left):
        raise IllegalPiece(
            "The shaping adds stitches beyond the outermost segment, and only a background goes on there: keep one "
            "beside the edge, or make the band straight first."
        )
    return -(-right // wide) * 8, -(-left // wide) * 8


@lru_cache(maxsize=4096)
def _block_row(lane: Lane, number: int, more_right: int, *, more_left: int) -> BlockRow:
    row = lane.chart.row(number)
    before, after = row.before, row.after
    start = 0
    if more_right:  # beyond the chart there are only whole boxes: what stood before them goes on in their rhythm
        more_right += takes(row.before) // lane.chart.multiple + 1
        start, before = takes(row.before) - more_right * takes(row.box), ()
    if more_left:
        more_left, after = more_left + takes(row.after) // lane.chart.multiple + 1, ()
    box = row.box * (more_right + lane.repeats + more_left)
    blocks = blocks_of(before + (whole_crossings(box) if row.joined else box) + after, start)
    return BlockRow(blocks, tuple(b.start for b in blocks))


@lru_cache(maxsize=1024)
def widest_block(chart: Chart) -> int:
    """The columns of the widest run of several operations that only together give back what they take; else 1."""
    rows = (row.ops() for row in (*chart.setup, *chart.rows))
    return max((b.width for ops in rows for b in blocks_of(ops, 0) if len(b.ops) > 1), default=1)


@lru_cache(maxsize=1024)
def steady_counts(chart: Chart) -> bool:
    """Whether every row makes as many columns as it takes, so that each loop keeps to a column."""
    rows = (*chart.setup, *chart.rows)
    return all(sum(row.counts[0]) == sum(row.counts[1]) == chart.width() for row in rows)
