"""The needle: live loops, each in its column, and the row that is worked on them as the plane and the shaping want.

An operation of a chart is worked where all its columns live, lie side by side and are not claimed by shaping. Where
they do not, what lives of it is worked as it appears, and a cable that grows narrow is crossed as what is left of it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

from ..errors import IllegalPiece
from ..notation import (
    Crossing,
    Decrease,
    DoubleStitch,
    Face,
    Increase,
    Into,
    Lean,
    Leave,
    Op,
    Side,
    Slip,
    Stitch,
    WrapTurn,
    YarnOver,
    faces,
    makes,
    takes,
)
from .lives import PLAIN_ROW, Column, MadeColumn, RowShaping, TakenColumn
from .plane import Block, BlockRow, Lane, block_row

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


@dataclass(frozen=True)
class LaneRow:
    """What is worked in one lane: its operations from the right, and the columns that live in it afterwards.

    `number` is the chart row that was wanted: less than 0 in the lane's other texture, 0 as the loops appear.
    """

    lane: int
    number: int
    ops: tuple[Op, ...]
    columns: tuple[int, ...]

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
        self._turn(claims, side, shaping.reach)
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
            row, charted = self._lane_row(at, number, loops, claims, whole=free)
            if free and charted:
                self._kept[key] = row
            out.append(row)
        self._settle(out)
        return tuple(row for row in out if row.ops or row.columns)

    def _turn(self, claims: Claims, side: Side, reach: tuple[int, int] | None) -> None:
        """What a short row does not reach, and the loop that it wraps. Raises IllegalPiece for one that cannot be."""
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
            claims.wrapped = columns[high] if side is Side.RS else columns[low - 1]
            self.turned = ends

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

    def _lane_row(self, at: int, number: int, loops: LiveLoops, claims: Claims, *, whole: bool) -> tuple[LaneRow, bool]:
        """A lane's row, and whether it is the chart's own: as a whole where all of it lives, else block by block."""
        ops = _whole_row(self.lanes[at], number, loops.columns) if whole else None
        if ops is not None:
            many = makes(ops)
            return LaneRow(at, number, ops, loops.columns if len(loops.columns) == many else tuple(range(many))), True
        made = claims.made_in(at)
        columns = loops.columns
        if at in claims.lanes:
            columns = tuple(sorted({c for c in columns if (at, c) not in claims.taken}.union(made)))
        wanted = sorted({*loops.columns, *made}) if made else loops.columns
        work = LaneWork(at, loops, claims, _row_of(self.lanes[at], number, wanted[0], wanted[-1]))
        work.narrow = self.narrow
        if self.clear:
            lanes = list(self.live)
            work.from_ = self.live[at].columns[0] + CLEAR if at == lanes[0] else None
            work.to = self.live[at].columns[-1] - CLEAR if at == lanes[-1] else None
        return LaneRow(at, number, tuple(work.ops(wanted)), columns), work.charted


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
        self.unreached: set[Column] = set()
        self.wrapped: Column | None = None

    @cached_property
    def held(self) -> set[Column]:
        """The living columns that no chart may use in this row."""
        return {*self.taken, *self.groups, *self.doubled, *self.unreached}

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

    def __init__(self, lane: int, loops: LiveLoops, claims: Claims, row: BlockRow | None) -> None:
        self.lane, self.loops, self.claims, self.row = lane, loops, claims, row

    @property
    def mine(self) -> Mapping[int, Face]:
        """The living columns with the faces that they show."""
        return self.loops.mine

    def ops(self, wanted: Sequence[int]) -> Iterator[Op]:
        """The operations of the lane's columns (living, or made now), from the right."""
        if self.row is None:
            yield from self._each(wanted, None)
            return
        made = set(self.claims.made_in(self.lane))
        quiet = self.lane not in self.claims.lanes and self.loops.unbroken
        for block in self.row.over(wanted[0], wanted[-1]):
            if quiet and block.start >= wanted[0] and block.end - 1 <= wanted[-1] and self._is_clear(block):
                yield from block.ops
                continue
            self.charted = False
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
            if column in self.claims.unreached:
                yield WrapTurn() if column == self.claims.wrapped else Leave()
                continue
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
