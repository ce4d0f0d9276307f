"""The needle: live loops, each in its column, and the row that is worked on them as the plane and the shaping want.

An operation of a chart is worked where all its columns live, lie side by side and are not claimed by shaping. Where
they do not, what lives of it is worked as it appears, and a cable that grows narrow is crossed as what is left of it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

from ..notation import Crossing, Decrease, Face, Increase, Into, Lean, Op, Side, Stitch, YarnOver, faces, makes, takes
from .lives import PLAIN_ROW, Column, MadeColumn, RowShaping, TakenColumn
from .plane import Block, BlockRow, Lane, block_row

CLEAR = 1
"""Columns that a crossing keeps clear of an edge that will be sewn (our choice: the seam takes one stitch)."""


@dataclass(frozen=True)
class LaneRow:
    """What is worked in one lane: its operations from the right, and the columns that live in it afterwards.

    `number` is the chart row that was wanted: less than 0 in the lane's other texture, 0 as the loops appear.
    """

    lane: int
    number: int
    ops: tuple[Op, ...]
    columns: tuple[int, ...]


@dataclass
class Needle:
    """Live loops over a plane: their columns from the right, and the faces they show on the right side.

    `clear`: whether crossings keep clear of the edges. `narrow`: whether a cable may be crossed as what is left of it.
    """

    lanes: tuple[Lane, ...]
    columns: tuple[Column, ...]
    shown: tuple[Face, ...] = ()
    clear: bool = False
    narrow: bool = False

    def __post_init__(self) -> None:
        self.shown = self.shown or (Face.KNIT,) * len(self.columns)

    def work(self, side: Side, numbers: Sequence[int], shaping: RowShaping = PLAIN_ROW) -> tuple[LaneRow, ...]:
        """Works a row: `numbers` has for each lane its chart row, that of its other texture (less than 0), or 0."""
        below: dict[int, dict[int, Face]] = {}
        for (at, c), face in zip(self.columns, self.shown, strict=True):
            below.setdefault(at, {})[c] = face
        claims = Claims(shaping, side)
        out = []
        for at in sorted({*below, *claims.lanes}):
            mine, number = below.get(at, {}), numbers[at]
            ops = None if at in claims.lanes or self._at_end(at) else _whole_row(self.lanes[at], number, mine)
            if ops is not None:
                columns = tuple(mine) if len(mine) == makes(ops) else tuple(range(makes(ops)))
            else:
                ops, columns = self._piecewise(at, number, mine, claims)
            out.append(LaneRow(at, number, ops, columns))
        self.shown = faces(tuple(op for row in out for op in row.ops), self.shown)
        self.columns = tuple((row.lane, c) for row in out for c in row.columns)
        return tuple(row for row in out if row.ops or row.columns)

    def _at_end(self, at: int) -> bool:
        """Whether the lane lies at an edge of which crossings keep clear."""
        return self.clear and at in (self.columns[0][0], self.columns[-1][0])

    def _piecewise(
        self, at: int, number: int, mine: Mapping[int, Face], claims: Claims
    ) -> tuple[tuple[Op, ...], tuple[int, ...]]:
        """A lane's row block by block."""
        made = claims.made_in(at)
        columns = tuple(sorted({c for c in mine if (at, c) not in claims.taken}.union(made)))
        wanted = sorted({*mine, *made})
        work = LaneWork(at, mine, claims, _row_of(self.lanes[at], number, wanted[0], wanted[-1]))
        work.narrow = self.narrow
        if self.clear:
            (a, first), (z, last) = self.columns[0], self.columns[-1]
            work.from_, work.to = (first + CLEAR if a == at else None), (last - CLEAR if z == at else None)
        return tuple(work.ops(wanted)), columns


def _whole_row(lane: Lane, number: int, mine: Mapping[int, Face]) -> tuple[Op, ...] | None:
    """The chart's own row, where all its columns live."""
    if number <= 0:
        return None
    ops = _chart_ops(lane, number)
    wide = takes(ops)
    places = tuple(mine)
    return ops if len(places) == wide and places[0] == 0 and places[-1] == wide - 1 else None


@lru_cache(maxsize=4096)
def _chart_ops(lane: Lane, number: int) -> tuple[Op, ...]:
    return lane.chart.ops(number, lane.repeats)


def _row_of(lane: Lane, number: int, first: int, last: int) -> BlockRow | None:
    """The blocks wanted in the columns from `first` to `last`; None where loops are worked as they appear."""
    if number > 0:
        return block_row(lane, number, first, last)
    if number < 0 and lane.rest is not None:
        return block_row(Lane(lane.rest, 1, open_right=True, open_left=True), -number, first, last)
    return None


class Claims:
    """What the shaping of a row claims: the columns that it takes, works together with others, or makes."""

    def __init__(self, shaping: RowShaping, side: Side) -> None:
        self.side = side
        self.taken = {t.column: t for t in shaping.taken}
        self.made = {m.column: m for m in shaping.made}
        self.groups: dict[Column, list[TakenColumn]] = {}
        for t in shaping.taken:
            self.groups.setdefault(t.into, []).append(t)
        self.doubled = {m.beside: m for m in shaping.made if m.kind == "kfb" and m.beside is not None}
        self.done: set[Column] = set()

    @cached_property
    def held(self) -> set[Column]:
        """The living columns that no chart may use in this row."""
        return {*self.taken, *self.groups, *self.doubled}

    @cached_property
    def lanes(self) -> set[int]:
        """The lanes in which anything is shaped."""
        return {c[0] for c in (*self.held, *self.made)}

    def made_in(self, lane: int) -> list[int]:
        """The columns made in a lane."""
        return [c for at, c in self.made if at == lane]

    def group(self, column: Column) -> Column | None:
        """The column into which this one is worked, or that others are worked into."""
        if column in self.groups:
            return column
        return self.taken[column].into if column in self.taken else None


class LaneWork:
    """One lane's row, worked block by block where it is shaped or lives in part."""

    narrow = False
    from_: int | None = None
    to: int | None = None

    def __init__(self, lane: int, mine: Mapping[int, Face], claims: Claims, row: BlockRow | None) -> None:
        self.lane, self.mine, self.claims, self.row = lane, mine, claims, row

    def ops(self, wanted: Sequence[int]) -> Iterator[Op]:
        """The operations of the lane's columns (living, or made now), from the right."""
        if self.row is None:
            yield from self._each(wanted, None)
            return
        made = set(self.claims.made_in(self.lane))
        for block in self.row.over(wanted[0], wanted[-1]):
            inside = range(block.start, block.end)
            living = [c for c in inside if c in self.mine]
            new = [c for c in inside if c in made]
            if not living and not new:
                continue
            free = not new and not any((self.lane, c) in self.claims.held for c in living)
            if free and len(living) == block.width and self._is_clear(block):
                yield from block.ops
                continue
            narrowed = _narrowed(block, living) if free and self.narrow and self._is_clear(block) else None
            if narrowed is not None:
                yield narrowed
            else:
                yield from self._each(sorted({*living, *new}), block)

    def _is_clear(self, block: Block) -> bool:
        """Whether an operation keeps clear of the edges; a stitch by itself always does."""
        if block.width == 1:
            return True
        return (self.from_ is None or block.start >= self.from_) and (self.to is None or block.end - 1 <= self.to)

    def _each(self, columns: Iterable[int], block: Block | None) -> Iterator[Op]:
        """Columns one by one: shaped, as their own stitch of the chart, or as they appear."""
        for c in columns:
            column = (self.lane, c)
            made = self.claims.made.get(column)
            if made is not None and made.kind != "kfb":
                yield self._increase(made)
            elif made is not None and made.beside is not None:
                yield from self._doubled(made)
            elif column in self.claims.doubled:
                yield from self._doubled(self.claims.doubled[column])
            if c not in self.mine or column in self.claims.doubled:
                continue
            into = self.claims.group(column)
            if into is not None:
                yield from self._decrease(into)
            elif block is not None and block.width == 1:
                yield from block.ops
            else:
                yield Stitch(self.mine[c])

    def _increase(self, made: MadeColumn) -> Op:
        if made.kind == "yo":
            return YarnOver()
        return Increase(made.lean, self._charted(made.column) or Face.KNIT)

    def _doubled(self, made: MadeColumn) -> Iterator[Op]:
        """Two worked into one, the front and the back of it, as whoever works the row sees it."""
        assert made.beside is not None
        if made.column in self.claims.done:
            return
        self.claims.done.add(made.column)
        shown = self._charted(made.beside) or Face.KNIT
        face = shown if self.claims.side is Side.RS else shown.other
        worked = Into((Stitch(face), Stitch(face, tbl=True)))
        yield worked if self.claims.side is Side.RS else worked.wrong_side()

    def _decrease(self, into: Column) -> Iterator[Op]:
        if into in self.claims.done:
            return
        self.claims.done.add(into)
        members = sorted([into, *(t.column for t in self.claims.groups[into])])
        face = self._charted(into) or (self.mine.get(into[1]) if into[0] == self.lane else None) or Face.KNIT
        lean = self.claims.groups[into][0].lean
        if len(members) == 2:
            yield Decrease(lean, face)
        elif members.index(into) == 1:
            yield Decrease(Lean.LEFT, face, 3, "centred")
        else:
            yield Decrease(lean, face, 3)

    def _charted(self, column: Column) -> Face | None:
        """The face that the chart's stitch shows in a column of this lane; None where it is part of something wider."""
        if self.row is None or column[0] != self.lane:
            return None
        block = self.row.over(column[1], column[1])[0]
        op = block.ops[0]
        return op.face if block.width == 1 and isinstance(op, Stitch) else None


def _narrowed(block: Block, living: Sequence[int]) -> Op | None:
    """A crossing of what is left of its groups; None where one of the two has nobody left, or it is no crossing."""
    if len(block.ops) != 1 or not isinstance(block.ops[0], Crossing):
        return None
    crossing = block.ops[0]
    alive, left, at = {c - block.start for c in living}, [], 0
    for group in crossing.groups_taken:
        left.append(tuple(s for i, s in enumerate(group, start=at) if i in alive))
        at += len(group)
    first, centre, last = left
    return crossing.regrouped(first, centre, last) if first and last else None
