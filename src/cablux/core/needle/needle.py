"""The needle: live loops, each in its column, and the row that is worked on them as the plane and the shaping want.

An operation of a chart is worked where all its columns live, lie side by side and are not claimed by shaping. Where
they do not, what lives of it is worked as it appears, and a cable that grows narrow is crossed as what is left of it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from itertools import takewhile, zip_longest

from ..errors import IllegalPiece
from ..notation import (
    CastOnLoop,
    DoubleStitch,
    Face,
    Hold,
    Leave,
    Op,
    Side,
    Slip,
    Stitch,
    WrapTurn,
    faces,
    makes,
    takes,
)
from .chart_columns import BlockRow, Lane, block_row
from .column_work import Claims, LaneWork, charted_face
from .columns import PLAIN_ROW, Column, RowShaping

CLEAR = 1
"""Columns that a crossing keeps clear of an edge that will be sewn (our choice: the seam takes one stitch)."""


@dataclass(frozen=True)
class LiveLoops:
    """The live loops of one lane: their columns from the right, and what made them, from which their faces follow."""

    columns: tuple[int, ...]
    ops: tuple[Op, ...] = ()
    below: tuple[Face, ...] | None = None

    @cached_property
    def shown(self) -> tuple[Face, ...]:
        """The faces that they show on the right side; those of a cast-on are knit."""
        if not self.ops:
            return (Face.KNIT,) * len(self.columns)
        return faces(self.ops, self.below or ())

    @cached_property
    def mine(self) -> dict[int, Face]:
        """The face in each column."""
        return dict(zip(self.columns, self.shown, strict=True))

    @property
    def unbroken(self) -> bool:
        """Whether anything lives, and no column between the first and the last is missing."""
        return bool(self.columns) and self.columns[-1] - self.columns[0] == len(self.columns) - 1


NOBODY = LiveLoops(())
_BARE = {Slip, WrapTurn, DoubleStitch, Leave}


@dataclass(frozen=True, kw_only=True)
class LaneRow:
    """What is worked in one lane: its operations from the right, and the columns that live in it afterwards.

    `number` is the chart row that was wanted: less than 0 in the lane's other texture, 0 as the loops appear. `held`
    are the columns put on a holder or bound off.
    """

    lane: int
    number: int
    ops: tuple[Op, ...]
    columns: tuple[int, ...]
    held: tuple[int, ...] = ()

    @cached_property
    def takes(self) -> int:
        """The loops that it takes."""
        return takes(self.ops)

    @cached_property
    def makes(self) -> int:
        """The loops that it makes."""
        return makes(self.ops)

    @cached_property
    def passes(self) -> bool:
        """Whether a loop is passed on unworked, and so keeps the face it had."""
        return any(type(op) in _BARE for op in self.ops)

    @cached_property
    def worked(self) -> LiveLoops:
        """What lives after it, where all its loops were worked."""
        return LiveLoops(self.columns, self.ops)

    def after(self, before: LiveLoops) -> LiveLoops:
        """What lives after it."""
        return LiveLoops(self.columns, self.ops, before.shown) if self.passes else self.worked


class Needle:
    """Live loops over a plane, lane by lane from the right.

    `clear`: whether crossings keep clear of the edges. `narrow`: whether a cable may be crossed as what is left of it.
    """

    def __init__(
        self, lanes: tuple[Lane, ...], columns: Sequence[Column], *, clear: bool = False, narrow: bool = False
    ) -> None:
        self.lanes, self.clear, self.narrow = lanes, clear, narrow
        found: dict[int, list[int]] = {}
        for at, c in columns:
            found.setdefault(at, []).append(c)
        self.live = {at: LiveLoops(tuple(each)) for at, each in found.items()}
        self.turned: int | None = None  # where the row before turned, if it was a short one
        self._kept: dict[tuple[int, int, int, int], LaneRow] = {}  # rows of a lane that come round again

    @property
    def columns(self) -> tuple[Column, ...]:
        """The columns on the needle, from the right."""
        return tuple((at, c) for at, loops in self.live.items() for c in loops.columns)

    def work(self, side: Side, numbers: Sequence[int], shaping: RowShaping = PLAIN_ROW) -> tuple[LaneRow, ...]:
        """Works a row: `numbers` has for each lane its chart row, that of its other texture (less than 0), or 0."""
        claims = Claims(shaping, side)
        self._turn(claims, side, shaping)
        for at, c in claims.groups:
            wanted = charted_face(_row_of(self.lanes[at], numbers[at], c, last=c), c)
            claims.shown[at, c] = wanted or self.live[at].mine[c]
        here = sorted({*self.live, *claims.lanes})
        ends = (here[0], here[-1])
        out = []
        for at in here:
            loops, number = self.live.get(at, NOBODY), numbers[at]
            free = at not in claims.lanes and not (self.clear and at in ends) and number != 0 and loops.unbroken
            key = (at, number, loops.columns[0], loops.columns[-1]) if free else (at, number, 0, 0)
            if free and key in self._kept:
                out.append(self._kept[key])
                continue
            row, charted = self._lane_row(at, number, loops, claims=claims, whole=free)
            if free and charted:
                self._kept[key] = row
            out.append(row)
        if shaping.held:
            out = list(_held_at_once(out))
        self._settle(out)
        return tuple(row for row in out if row.ops or row.columns)

    def _turn(self, claims: Claims, side: Side, shaping: RowShaping) -> None:
        """What a short row does not reach, and the loop that it wraps. Raises IllegalPiece for one that cannot be."""
        reach = shaping.reach
        columns = self.columns if reach is not None or self.turned is not None else ()
        low, high = reach or (0, len(columns))
        begins, ends = (low, high) if side is Side.RS else (high, low)
        first, last = (0, len(columns)) if side is Side.RS else (len(columns), 0)
        if begins != (first if self.turned is None else self.turned):
            raise IllegalPiece("A row begins where the work was turned in the row before it, or at its edge.")
        self.turned = None
        if reach is None:
            return
        claims.unreached = {*columns[:low], *columns[high:]}
        if ends != last:
            beyond = columns[high] if side is Side.RS else columns[low - 1]
            claims.wrapped, claims.turned = (beyond, None) if shaping.wraps else (None, beyond)
            new = sum(column < beyond for column in claims.made)
            self.turned = sum(column not in claims.gone for column in columns[:ends]) + new

    def _settle(self, rows: Sequence[LaneRow]) -> None:
        """What lives after a row. Where columns of two lanes were worked together, faces are told row by row."""
        before = [self.live.get(row.lane, NOBODY) for row in rows]
        pairs = list(zip(rows, before, strict=True))
        if all(row.takes == len(loops.columns) and row.makes == len(row.columns) for row, loops in pairs):
            live = {row.lane: row.after(loops) for row, loops in pairs if row.columns}
        else:
            below = tuple(face for loops in self.live.values() for face in loops.shown)
            shown = faces(tuple(op for row in rows for op in row.ops), below)
            live, start = {}, 0
            for row in rows:
                end = start + len(row.columns)
                plain = tuple(Stitch(face) for face in shown[start:end])
                if row.columns:
                    live[row.lane] = LiveLoops(row.columns, plain)
                start = end
        self.live = live

    def _lane_row(self, at: int, number: int, loops: LiveLoops, *, claims: Claims, whole: bool) -> tuple[LaneRow, bool]:
        """A lane's row, and whether it is the chart's own: as a whole where all of it lives, else block by block."""
        ops = _whole_row(self.lanes[at], number, loops.columns) if whole else None
        if ops is not None:
            many = makes(ops)
            return LaneRow(
                lane=at,
                number=number,
                ops=ops,
                columns=loops.columns if len(loops.columns) == many else tuple(range(many)),
            ), True
        made = claims.made_in(at)
        columns = loops.columns
        if at in claims.lanes:
            columns = tuple(sorted({c for c in columns if (at, c) not in claims.gone}.union(made)))
        wanted = sorted({*loops.columns, *made}) if made else loops.columns
        work = LaneWork(at, loops, claims, row=_row_of(self.lanes[at], number, wanted[0], last=wanted[-1]))
        work.narrow = self.narrow
        if self.clear:
            lanes = list(self.live)
            work.from_ = self.live[at].columns[0] + CLEAR if at == lanes[0] else None
            work.to = self.live[at].columns[-1] - CLEAR if at == lanes[-1] else None
        held = tuple(c for c in loops.columns if (at, c) in claims.away)
        return LaneRow(lane=at, number=number, ops=work.ops(wanted), columns=columns, held=held), work.charted


def _held_at_once(rows: Sequence[LaneRow]) -> Iterator[LaneRow]:
    """A holder takes its loops at once, those of several lanes too: what is cast on in their place comes after them."""
    waiting: tuple[Op, ...] = ()
    for row, after in zip_longest(rows, rows[1:]):
        ops = row.ops
        if waiting:
            held = sum(isinstance(op, Hold) for op in takewhile(lambda op: isinstance(op, Hold), ops))
            ops, waiting = (*ops[:held], *waiting, *ops[held:]), ()
        if after is not None and after.ops and isinstance(after.ops[0], Hold):
            new = sum(1 for _ in takewhile(lambda op: isinstance(op, CastOnLoop), reversed(ops)))
            ops, waiting = ops[: len(ops) - new], ops[len(ops) - new :]
        yield row if ops is row.ops else replace(row, ops=ops)


def _whole_row(lane: Lane, number: int, columns: tuple[int, ...]) -> tuple[Op, ...] | None:
    """The chart's own row, where all its columns live."""
    if number <= 0 or not columns:
        return None
    ops, wide = _chart_ops(lane, number)
    return ops if len(columns) == wide and columns[0] == 0 and columns[-1] == wide - 1 else None


@lru_cache(maxsize=4096)
def _chart_ops(lane: Lane, number: int) -> tuple[tuple[Op, ...], int]:
    ops = lane.chart.ops(number, lane.repeats)
    return ops, takes(ops)


def _row_of(lane: Lane, number: int, first: int, *, last: int) -> BlockRow | None:
    """The blocks wanted in the columns from `first` to `last`; None where loops are worked as they appear."""
    if number > 0:
        return block_row(lane, number, first, last=last)
    if number < 0 and lane.rest is not None:
        return block_row(Lane(chart=lane.rest, repeats=1, open_right=True, open_left=True), -number, first, last=last)
    return None
