"""Charts: rows of operations, bottom row first, with the repeat box that lets them grow sideways."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property

from ..errors import IllegalChart, Problem
from .crossings import Crossing
from .operations import Face, Op, Side, faces, makes, mirrored_row, takes, wrong_side_row


@dataclass(frozen=True)
class ChartRow:
    """One row as seen from the right side, right to left: what stands before, in and after the repeat box.

    `side` is how the row was written down. `line` and `places` (line, then the column of each operation
    in the order written) say where; they are 0 and empty for a chart that was not read from a text.
    """

    box: tuple[Op, ...]
    before: tuple[Op, ...] = ()
    after: tuple[Op, ...] = ()
    side: Side = Side.RS
    line: int = field(default=0, compare=False, repr=False)
    columns: tuple[int, ...] = field(default=(), compare=False, repr=False)

    def ops(self, repeats: int = 1) -> tuple[Op, ...]:
        """The row with the box worked `repeats` times."""
        return self.before + self.box * repeats + self.after

    def mirrored(self) -> ChartRow:
        """Left and right exchanged."""
        return replace(
            self,
            box=mirrored_row(self.box),
            before=mirrored_row(self.after),
            after=mirrored_row(self.before),
            line=0,
            columns=(),
        )


@dataclass(frozen=True)
class Chart:
    """A named chart: `multiple` + `balance` stitches wide, `len(rows)` rows high, repeating in both."""

    name: str
    multiple: int
    rows: tuple[ChartRow, ...]
    balance: int = 0

    @property
    def height(self) -> int:
        """The row repeat."""
        return len(self.rows)

    def width(self, repeats: int = 1) -> int:
        """Stitches below row 1 with the box worked `repeats` times."""
        return self.multiple * repeats + self.balance

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

    def faces_below(self, number: int, repeats: int = 1) -> tuple[Face, ...]:
        """The faces on the needle before row `number` is worked."""
        return faces(self.ops(number - 1, repeats))

    @cached_property
    def crossing_rows(self) -> tuple[int, ...]:
        """Row numbers that hold a crossing."""
        return tuple(i for i, row in self.numbered() if any(isinstance(op, Crossing) for op in row.ops()))

    def numbered(self) -> Iterator[tuple[int, ChartRow]]:
        """Rows with their numbers."""
        return iter(enumerate(self.rows, start=1))

    def mirrored(self) -> Chart:
        """Left and right exchanged; its own inverse."""
        return replace(self, rows=tuple(row.mirrored() for row in self.rows))

    def shifted(self, rows: int) -> Chart:
        """The same fabric begun `rows` rows later in its repeat."""
        at = rows % len(self.rows)
        return replace(self, rows=self.rows[at:] + self.rows[:at])


def audit(chart: Chart) -> tuple[Problem, ...]:
    """Every place where the chart does not add up; empty when it can be knitted over and over.

    Each row must take what the row below made, in the box and outside it, and the first what the last made.
    """
    problems: list[Problem] = []
    if not chart.rows:
        return (Problem("The chart has no rows; write “row 1: …”."),)
    if chart.multiple < 1 or chart.balance < 0:
        return (Problem("The multiple is a whole number from 1, as in “multiple: 8” or “multiple: 8 + 4”."),)
    box, outside, below = chart.multiple, chart.balance, "the multiple"
    for number, row in chart.numbered():
        got_box, got_outside = takes(row.box), takes(row.before + row.after)
        if got_box + got_outside != box + outside:
            problems.append(_count_problem(number, row, got_box + got_outside, box + outside, below))
        elif got_box != box:
            problems.append(
                _at(row, number, 1, f"Row {number} repeats over {got_box} stitches, but {below} gives {box}.")
            )
        box, outside = makes(row.box), makes(row.before + row.after)
        below = f"row {number}"
        if box + outside == 0:
            problems.append(_at(row, number, 1, f"Row {number} leaves no stitch on the needle."))
            return tuple(problems)
    first = chart.multiple + chart.balance
    if not problems and (box, outside) != (chart.multiple, chart.balance):
        last = len(chart.rows)
        text = f"Row {last} leaves {box + outside} stitches, but row 1 begins with {first}: the repeat does not close."
        problems.append(_at(chart.rows[-1], last, box + outside, text))
    return tuple(problems)


def check(chart: Chart) -> Chart:
    """The chart itself, or IllegalChart with all its problems."""
    problems = audit(chart)
    if problems:
        raise IllegalChart(problems)
    return chart


def _count_problem(number: int, row: ChartRow, got: int, wanted: int, below: str) -> Problem:
    gives = f"{below} gives {wanted}" if below == "the multiple" else f"{below} leaves {wanted}"
    many = abs(got - wanted)
    if got > wanted:
        text, stitch = f"Row {number} works {got} stitches, but {gives}: {many} too many", wanted + 1
    else:
        text, stitch = f"Row {number} works {got} stitches, but {gives}: {many} too few", got
    return _at(row, number, stitch, f"{text}, wanted {wanted}, at stitch {stitch}.")


def _at(row: ChartRow, number: int, stitch: int, message: str) -> Problem:
    """A problem at the operation that takes `stitch`, counted in the order in which the row was written."""
    ops = row.ops() if row.side is Side.RS else wrong_side_row(row.ops())
    taken, column = 0, row.columns[-1] if row.columns else 0
    for op, place in zip(ops, row.columns, strict=False):
        taken += op.takes
        if taken >= stitch:
            column = place
            break
    return Problem(message, row.line, column, number, stitch)
