"""Charts: rows of operations, bottom row first, with the repeat box that lets them grow sideways."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

from .crossings import CrossedDecrease, Crossing, HalfCrossing, whole_crossings
from .operations import Face, Op, Side, counts, faces, makes, mirrored_row, wrong_side_row
from .stitches import Stitch, Turn, WrapTurn

ChartPlace = tuple[int, int]
Counts = tuple[int, int]  # stitches in the repeat box, and outside it


@dataclass(frozen=True)
class Written:
    """Where a row was written: the position of each operation in the order written, and where the lines begin."""

    spots: tuple[int, ...]
    lines: tuple[int, ...]

    def place(self, at: int) -> ChartPlace:
        """Line and column, from 1, of the row's operation `at`, from 0."""
        return place_in(self.lines, self.spots[at])


def place_in(lines: Sequence[int], spot: int) -> ChartPlace:
    """Line and column, from 1, of a position in a text whose lines begin at `lines`."""
    line = bisect_right(lines, spot)
    return line, spot - lines[line - 1] + 1


@dataclass(frozen=True, kw_only=True)
class ChartRow:
    """One row as seen from the right side, right to left: what stands before, in and after the repeat box.

    `side` is how the row was written down, and `written` where, if it was read from a text.
    """

    box: tuple[Op, ...]
    before: tuple[Op, ...] = ()
    after: tuple[Op, ...] = ()
    side: Side = Side.RS
    written: Written | None = field(default=None, compare=False, repr=False)

    def ops(self, repeats: int = 1) -> tuple[Op, ...]:
        """The row with the box worked `repeats` times."""
        box = whole_crossings(self.box * repeats) if self.joined else self.box * repeats
        return self.before + box + self.after

    @cached_property
    def joined(self) -> bool:
        """Whether a crossing lies across the beginning of its box, and so of the round that it is."""
        return isinstance(self.box[0], HalfCrossing) if self.box else False

    @cached_property
    def counts(self) -> tuple[Counts, Counts]:
        """What the row takes, and what it makes: each in the box and outside it."""
        box, outside = counts(self.box), counts(self.before + self.after)
        return (box[0], outside[0]), (box[1], outside[1])

    @cached_property
    def turns(self) -> bool:
        """Whether the work is turned before the row ends, as in a short row."""
        return any(isinstance(op, Turn | WrapTurn) for op in self.ops())

    def turned_about(self, turn: Callable[[tuple[Op, ...]], tuple[Op, ...]]) -> ChartRow:
        """The row with `turn` applied to each of its parts and the parts in the opposite order."""
        return replace(self, box=turn(self.box), before=turn(self.after), after=turn(self.before), written=None)

    def mirrored(self) -> ChartRow:
        """Left and right exchanged."""
        return self.turned_about(mirrored_row)

    def from_behind(self) -> ChartRow:
        """As seen, and as worked, from the other side."""
        return self.turned_about(wrong_side_row)


@dataclass(frozen=True, kw_only=True)
class Chart:
    """A named chart: `multiple` + `balance` stitches wide, `len(rows)` rows high, repeating in both.

    `setup` has the rows worked once below row 1, at most two. `allow` names the warnings (see `lint`) that its
    author has looked at and waved through.
    """

    name: str
    multiple: int
    rows: tuple[ChartRow, ...]
    balance: int = 0
    setup: tuple[ChartRow, ...] = ()
    allow: tuple[str, ...] = ()

    @cached_property
    def _hash(self) -> int:
        return hash((self.name, self.multiple, self.balance, self.rows, self.setup, self.allow))

    def __hash__(self) -> int:  # asked for at every look into a cache; a chart has hundreds of operations
        return self._hash

    @property
    def height(self) -> int:
        """The row repeat."""
        return len(self.rows)

    @property
    def size_text(self) -> str:
        """`8` or `8 + 4`."""
        return f"{self.multiple} + {self.balance}" if self.balance else str(self.multiple)

    def width(self, repeats: int = 1) -> int:
        """Stitches below row 1 with the box worked `repeats` times."""
        return self.multiple * repeats + self.balance

    def count_after(self, number: int) -> int:
        """Stitches that row `number` (going round) leaves, with the box worked once."""
        return makes(self.ops(number))

    def repeats_for(self, stitches: int) -> int | None:
        """How often the box fits into exactly `stitches`, or None."""
        inside = stitches - self.balance
        return inside // self.multiple if inside > 0 and inside % self.multiple == 0 else None

    def row(self, number: int) -> ChartRow:
        """Row `number`, counted from 1 and going round."""
        return self.rows[(number - 1) % len(self.rows)]

    def ops(self, number: int, repeats: int = 1) -> tuple[Op, ...]:
        """The operations of row `number` (from 1, going round), right to left."""
        return self.row(number).ops(repeats)

    def faces_after(self, number: int, repeats: int = 1) -> tuple[Face, ...]:
        """The faces that row `number` leaves; slipped loops keep the face that the rows below gave them."""
        last, depth = self.ops(number, repeats), 1
        rows = [last]
        while any(loop.slipped for op in rows[-1] for loop in op.made) and depth < self.height:
            rows.append(self.ops(number - depth, repeats))
            depth += 1
        shown = faces(rows[-1])
        for ops in reversed(rows[:-1]):
            shown = faces(ops, shown)
        return shown

    def faces_below(self, number: int, repeats: int = 1) -> tuple[Face, ...]:
        """The faces on the needle before row `number` is worked: below row 1 those of the set-up, if there is one."""
        if number == 1 and self.setup:
            return faces(self.setup[-1].ops(repeats))
        return self.faces_after(number - 1, repeats)

    def setup_ops(self, number: int, of: int, repeats: int = 1) -> tuple[Op, ...]:
        """Set-up row `number` of `of`; where the chart gives none, every loop is worked in the face row 1 expects."""
        at = number - 1 - (of - len(self.setup))
        if self.setup:
            return self.setup[max(0, at)].ops(repeats)
        return tuple(Stitch(face) for face in self.faces_below(1, repeats))

    @cached_property
    def crossing_rows(self) -> tuple[int, ...]:
        """Row numbers that hold a crossing."""
        crossed = Crossing | CrossedDecrease | HalfCrossing
        return tuple(i for i, row in self.numbered() if any(isinstance(op, crossed) for op in row.ops()))

    @cached_property
    def rest_rows(self) -> int:
        """Plain rows from the last crossing to the first of the next repeat; the whole height if there is none."""
        crossed = self.crossing_rows
        return self.height - crossed[-1] + crossed[0] - 1 if crossed else self.height

    def numbered(self) -> Iterator[tuple[int, ChartRow]]:
        """Rows with their numbers."""
        return iter(enumerate(self.rows, start=1))

    def mapped(self, change: Callable[[ChartRow], ChartRow]) -> Chart:
        """The chart with every row changed, the set-up too."""
        return replace(self, rows=tuple(map(change, self.rows)), setup=tuple(map(change, self.setup)))

    def mirrored(self) -> Chart:
        """Left and right exchanged; its own inverse."""
        return self.mapped(ChartRow.mirrored)

    def shifted(self, rows: int) -> Chart:
        """The same fabric begun `rows` rows later in its repeat; its set-up no longer fits and is left out.

        Multiple and balance are those of the row with which it then begins.
        """
        at = rows % len(self.rows)
        if not at:
            return self
        multiple, balance = self.rows[at].counts[0]
        return replace(self, rows=self.rows[at:] + self.rows[:at], setup=(), multiple=multiple, balance=balance)
