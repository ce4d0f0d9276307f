"""One lane's row on active loops: what shaping claims of it, and how it is worked where it lives in part."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import cached_property
from typing import Protocol

from ..notation import (
    BindOff,
    CastOnLoop,
    CrossedDecrease,
    Crossing,
    Decrease,
    Face,
    Hold,
    Increase,
    Into,
    Lean,
    Leave,
    Op,
    Side,
    Stitch,
    Turn,
    WrapTurn,
    YarnOver,
)
from .chart_columns import BlockRow, ColumnBlock
from .columns import Column, MadeColumn, RowShaping, TakenColumn


class ActiveLoops(Protocol):
    """The active loops of a lane, as much as is asked of them here."""

    @property
    def mine(self) -> Mapping[int, Face]:
        """The face in each column."""

    @property
    def unbroken(self) -> bool:
        """Whether no column between the first and the last is missing."""


class Claims:
    """What the shaping of a row claims: the columns that it takes, works together, makes, or puts on a holder."""

    def __init__(self, shaping: RowShaping, side: Side) -> None:
        self.side = side
        self.gone = set(shaping.gone)
        self.taken = {t.column: t for t in shaping.taken}
        self.made = {m.column: m for m in shaping.made}
        self.away, self.bound = set(shaping.away), set(shaping.bound)
        self.crossed = {c: each for each in shaping.crossed for c in each.columns}
        self.groups: dict[Column, list[TakenColumn]] = {}
        for t in shaping.taken:
            self.groups.setdefault(t.into, []).append(t)
        self.doubled = {m.beside: m for m in shaping.made if m.kind == "kfb" and m.beside is not None}
        self.shown: dict[Column, Face] = {}
        self.done: set[Column] = set()
        self.unreached: set[Column] = set()
        self.wrapped: Column | None = None
        self.turned: Column | None = None

    @cached_property
    def held(self) -> set[Column]:
        """The active columns that no chart may use in this row."""
        return {*self.taken, *self.groups, *self.doubled, *self.unreached, *self.away, *self.crossed}

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
    charted = True
    """Whether every operation was the chart's own, so that it follows from the columns alone."""

    def __init__(self, lane: int, loops: ActiveLoops, claims: Claims, *, row: BlockRow | None) -> None:
        self.lane, self.loops, self.claims, self.row = lane, loops, claims, row

    @property
    def mine(self) -> Mapping[int, Face]:
        """The active columns with the faces that they show."""
        return self.loops.mine

    def ops(self, wanted: Sequence[int]) -> tuple[Op, ...]:
        """The operations of the lane's columns (active, or made now), from the right."""
        return tuple(self._worked(wanted) if self.claims.away.isdisjoint(self._mine()) else self._around_holder(wanted))

    def _mine(self) -> Iterator[Column]:
        return ((self.lane, c) for c in self.mine)

    def _around_holder(self, wanted: Sequence[int]) -> Iterator[Op]:
        """A holder takes a run of loops at once; what is cast on in their place comes after it."""
        cast_on: list[Op] = []
        for op in self._worked(wanted):
            if isinstance(op, CastOnLoop):
                cast_on.append(op)
                continue
            if not isinstance(op, Hold):
                yield from cast_on
                cast_on = []
            yield op
        yield from cast_on

    def _worked(self, wanted: Sequence[int]) -> Iterator[Op]:
        if self.row is None:
            yield from self._each(wanted, None)
            return
        made = set(self.claims.made_in(self.lane))
        # most lanes of most rows: nothing is shaped and no column is missing, so the chart's blocks are taken whole
        quiet = self.lane not in self.claims.lanes and self.loops.unbroken
        for block in self.row.over(wanted[0], wanted[-1]):
            if quiet and block.start >= wanted[0] and block.end - 1 <= wanted[-1] and self._is_clear(block):
                yield from block.ops
                continue
            # from here on the row depends on which columns live, not on the chart alone
            self.charted = False
            inside = range(block.start, block.end)
            active_now = [c for c in inside if c in self.mine]
            new = [c for c in inside if c in made]
            if not active_now and not new:
                continue
            # a block of which shaping claims a column is worked stitch by stitch; one that has only lost columns may
            # be crossed with what is left of its groups
            free = not new and not any((self.lane, c) in self.claims.held for c in active_now)
            if free and len(active_now) == block.width and self._is_clear(block):
                yield from block.ops
                continue
            narrowed = _narrowed(block, active_now) if free and self.narrow and self._is_clear(block) else None
            if narrowed is not None:
                yield narrowed
            else:
                yield from self._each(sorted({*active_now, *new}), block)

    def _is_clear(self, block: ColumnBlock) -> bool:
        """Whether an operation keeps clear of the edges; a stitch by itself always does."""
        if block.width == 1:
            return True
        return (self.from_ is None or block.start >= self.from_) and (self.to is None or block.end - 1 <= self.to)

    def _each(self, columns: Iterable[int], block: ColumnBlock | None) -> Iterator[Op]:
        """Columns one by one: shaped, as their own stitch of the chart, or as they appear."""
        for c in columns:
            column = (self.lane, c)
            if column in self.claims.unreached:
                yield from self._left(column)
                continue
            if column in self.claims.crossed:
                yield from self._crossed(column)
                continue
            # what leaves comes first, for what is cast on or made in its place stands in the same column
            if column in self.claims.away:
                yield BindOff() if column in self.claims.bound else Hold()
            made = self.claims.made.get(column)
            if made is not None and made.kind != "kfb":
                yield self._increase(made)
            elif made is not None and made.beside is not None:
                yield from self._doubled(made)
            elif column in self.claims.doubled:
                yield from self._doubled(self.claims.doubled[column])
            if c not in self.mine or column in self.claims.doubled or column in self.claims.away:
                continue
            into = self.claims.group(column)
            if into is not None:
                yield from self._decrease(into)
            elif block is not None and block.width == 1:
                yield from block.ops
            else:
                yield Stitch(self.mine[c])

    def _crossed(self, column: Column) -> Iterator[Op]:
        """A cable crossed and halved: one operation at the first of its columns."""
        crossed = self.claims.crossed[column]
        if column == crossed.columns[0]:
            yield CrossedDecrease(len(crossed.left), crossed.lean, Face.KNIT)

    def _left(self, column: Column) -> Iterator[Op]:
        """A loop that is not reached, and the turn before it, as the right side sees it."""
        # read from the right: a right-side row ends before its first loop left, a wrong-side row begins after its last
        turns = column == self.claims.turned
        if turns and self.claims.side is Side.RS:
            yield Turn()
        yield WrapTurn() if column == self.claims.wrapped else Leave()
        if turns and self.claims.side is Side.WS:
            yield Turn()

    def _increase(self, made: MadeColumn) -> Op:
        if made.kind == "yo":
            return YarnOver()
        if made.kind == "cast on":
            return CastOnLoop()
        return Increase(made.lean, self._charted(made.column) or Face.KNIT)

    def _doubled(self, made: MadeColumn) -> Iterator[Op]:
        """Two worked into one, the front and the back of it, as whoever works the row sees it."""
        assert made.beside is not None
        if made.column in self.claims.done:
            return
        self.claims.done.add(made.column)
        # front and back are those of the side that is worked: in a wrong-side row the other face is knitted
        shown = self._charted(made.beside) or Face.KNIT
        face = shown if self.claims.side is Side.RS else shown.other
        worked = Into((Stitch(face), Stitch(face, tbl=True)))
        yield worked if self.claims.side is Side.RS else worked.wrong_side()

    def _decrease(self, into: Column) -> Iterator[Op]:
        if into in self.claims.done:
            return
        # met at the first of its columns from the right, and worked there once
        self.claims.done.add(into)
        members = sorted([into, *(t.column for t in self.claims.groups[into])])
        face = self.claims.shown.get(into, Face.KNIT)
        lean = self.claims.groups[into][0].lean
        if len(members) == 2:
            yield Decrease(lean=lean, face=face)
        # one from each side into the middle one leans nowhere
        elif members.index(into) == 1:
            yield Decrease(lean=Lean.LEFT, face=face, count=3, kind="centred")
        else:
            yield Decrease(lean=lean, face=face, count=3)

    def _charted(self, column: Column) -> Face | None:
        """The face that the chart's stitch shows in a column of this lane; None where it is part of something wider."""
        return charted_face(self.row, column[1]) if column[0] == self.lane else None


def charted_face(row: BlockRow | None, column: int) -> Face | None:
    """The face that a row's stitch shows in a column; None where it is part of something wider."""
    if row is None:
        return None
    block = row.over(column, column)[0]
    op = block.ops[0]
    return op.face if block.width == 1 and isinstance(op, Stitch) else None


def _narrowed(block: ColumnBlock, active_now: Sequence[int]) -> Op | None:
    """A crossing of what is left of its groups; None where one of the two has nobody left, or it is no crossing."""
    if len(block.ops) != 1 or not isinstance(block.ops[0], Crossing):
        return None
    crossing = block.ops[0]
    alive, left, at = {c - block.start for c in active_now}, [], 0
    for group in crossing.groups_taken:
        left.append(tuple(s for i, s in enumerate(group, start=at) if i in alive))
        at += len(group)
    first, centre, last = left
    return crossing.regrouped(first, centre, last) if first and last else None
