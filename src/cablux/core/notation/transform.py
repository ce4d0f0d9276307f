"""Transformations of whole charts, each an exact inverse of itself where it should be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..errors import IllegalChart, Problem
from .charts import Chart, ChartRow
from .crossings import Crossing
from .operations import Face, Op, Side, mirrored_row, wrong_side_row
from .rowtext import MAX_ROW_STITCHES
from .stitches import Slip, Stitch


def from_behind(chart: Chart) -> Chart:
    """The chart as seen from the wrong side, and as a tube is knitted inside out; its own inverse."""
    return chart.mapped(ChartRow.from_behind)


def worked_row(row: ChartRow, side: Side, *, left_handed: bool = False) -> ChartRow:
    """A row in the order and the form in which a person works it with that side facing.

    A left-handed knitter works each row from its other end, and does what a mirror would show.
    """
    seen = row.from_behind() if side is Side.WS else row
    shown = seen.mirrored() if left_handed else seen
    return replace(shown, side=side)


def sides_facing(rows: Sequence[ChartRow], *, flat: bool = True, inside: bool = False) -> tuple[Side, ...]:
    """The side that faces the knitter in each of some rows, the first a right-side row.

    Flat work turns after every row; in the round one side faces throughout, the wrong one `inside` out, but for a
    row that comes back from a turn.
    """
    base = side = Side.WS if inside and not flat else Side.RS
    out = []
    for row in rows:
        out.append(side)
        side = side.other if flat or row.turns else base
    return tuple(out)


def upside_down(chart: Chart) -> Chart:
    """The chart turned upside down, crossings on right-side rows kept there; its own inverse.

    Each row must only cross, knit, purl or slip: an increase upside down would be something else. Raises
    IllegalChart.
    """
    problems = tuple(
        Problem(
            message=f"Row {number} has {op.token}, which cannot be turned upside down; take it off first.", row=number
        )
        for number, row in chart.numbered()
        for op in dict.fromkeys(row.ops())
        if not isinstance(op, Crossing | Stitch | Slip)
    )
    if problems:
        raise IllegalChart(problems)
    height = chart.height
    rows = tuple(_inverse(chart, (height - k - 1) % height or height) for k in range(height))
    return replace(chart, rows=rows, setup=())


def _inverse(chart: Chart, number: int) -> ChartRow:
    """The row that undoes row `number`, in the faces of the row below it."""
    row = chart.row(number)
    loops = [loop for op in chart.ops(number - 1) for loop in op.made]
    at, parts = 0, []
    for part in (row.before, row.box, row.after):
        out = []
        for op in part:
            out.append(_upended(op, tuple(Stitch(loop.face, loop.twisted) for loop in loops[at : at + op.takes])))
            at += op.takes
        parts.append(tuple(out))
    return ChartRow(box=parts[1], before=parts[0], after=parts[2], side=row.side)


def _upended(op: Op, below: tuple[Stitch, ...]) -> Op:
    if isinstance(op, Crossing):
        first, middle = len(op.groups_taken[0]), len(op.centre)
        same = op.regrouped(below[:first], below[first : first + middle], below[first + middle :])
        return replace(same, lean=op.lean.other)
    return below[0] if isinstance(op, Stitch) else op


def tiled_chart(chart: Chart, across: int, up: int) -> Chart:
    """The chart with its box repeated `across` times and its rows `up` times, as one larger repeat.

    >>> from cablux.core import find_pattern
    >>> tiled = tiled_chart(find_pattern("rope-2-2-left").chart, 2, 3)
    >>> tiled.width(), tiled.height, tiled.crossing_rows
    (16, 12, (3, 7, 11))
    """
    if across < 1 or up < 1 or chart.width(across) > MAX_ROW_STITCHES:
        raise IllegalChart((Problem(message="A repeat is doubled, trebled and so on; give whole numbers from 1."),))
    rows = tuple(replace(row, box=row.box * across, written=None) for row in chart.rows)
    setup = tuple(replace(row, box=row.box * across, written=None) for row in chart.setup)
    return replace(chart, multiple=chart.multiple * across, rows=rows * up, setup=setup)


def is_reversible(chart: Chart) -> bool:
    """Whether the cloth looks the same from both sides, begun some rows later and with left and right at will.

    Only faces and crossings of the endless box are compared; edges outside it are left out.

    >>> from cablux.core import find_pattern
    >>> [is_reversible(find_pattern(name).chart) for name in ("garter", "stockinette", "rope-3-3-left")]
    [True, False, False]
    """
    here = _turns(_look([row.box for row in chart.rows]))
    behind = [wrong_side_row(row.box) for row in chart.rows]
    for other in (behind, [mirrored_row(row) for row in behind]):
        look = _look(other)
        if any(look[shift:] + look[:shift] in here for shift in range(len(look))):
            return True
    return False


SideLook = tuple[tuple[tuple[Face, int], ...], ...]


def _look(rows: list[tuple[Op, ...]]) -> SideLook:
    """What each loop shows: its face, and how far its strand has moved."""
    return tuple(tuple((loop.face, loop.depth) for op in ops for loop in op.made) for ops in rows)


def _turns(look: SideLook) -> set[SideLook]:
    """The same endless texture begun at any stitch; rows of different counts are begun at the first only."""
    widths = {len(row) for row in look}
    if len(widths) != 1:
        return {look}
    return {tuple(row[at:] + row[:at] for row in look) for at in range(widths.pop())}
