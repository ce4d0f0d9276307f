"""The lives of columns: in which row each column of a band is made, in which it is taken, and how.

A column is a place of the band's plane: the lane of its segment, counted from the right, and the column of that
segment's chart. Columns lie on the needle in the order of their names, from the right edge to the left.
"""

from __future__ import annotations

from bisect import bisect_left, insort
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from ..errors import IllegalPiece
from ..notation import Lean

Column = tuple[int, int]
"""A lane, and a column of its chart; where a background goes on beyond its chart, columns are less than 0 or go on."""

IncreaseKind = Literal["M1", "yo", "kfb"]
INCREASES: tuple[IncreaseKind, ...] = ("M1", "yo", "kfb")
MadeKind = Literal[IncreaseKind, "cast on"]


@dataclass(frozen=True, kw_only=True)
class MadeColumn:
    """A column that begins in a row: from the bar, by a yarn over, from its neighbour `beside`, or cast on."""

    column: Column
    kind: MadeKind = "M1"
    lean: Lean = Lean.LEFT
    beside: Column | None = None


@dataclass(frozen=True)
class TakenColumn:
    """A column that ends in a row: it is worked together with `into`; the decrease leans so."""

    column: Column
    into: Column
    lean: Lean = Lean.LEFT


@dataclass(frozen=True)
class CrossedColumns:
    """A cable that is crossed and halved at once: its columns, from the right, and those of them that are left."""

    columns: tuple[Column, ...]
    left: tuple[Column, ...]
    lean: Lean = Lean.LEFT

    @property
    def gone(self) -> tuple[Column, ...]:
        """Those that end."""
        return tuple(c for c in self.columns if c not in self.left)


@dataclass(frozen=True, kw_only=True)
class RowShaping:
    """What one row makes and takes, what it puts on a holder or binds off, and how far a short row reaches.

    `reach` has the loops that a short row works, counted from the right: the first of them, and the first beyond them.
    It ends with a wrap and a turn where loops are left there, or with a turn alone if it does not wrap (`wraps`); the
    row after it comes back from that turn.
    """

    made: tuple[MadeColumn, ...] = ()
    taken: tuple[TakenColumn, ...] = ()
    reach: tuple[int, int] | None = None
    held: tuple[Column, ...] = ()
    wraps: bool = True
    crossed: tuple[CrossedColumns, ...] = ()
    bound: tuple[Column, ...] = ()

    @property
    def away(self) -> tuple[Column, ...]:
        """The columns that leave the needle unworked into any other: those on a holder, and those bound off."""
        return (*self.held, *self.bound)

    @property
    def change(self) -> int:
        """By how much the count changes."""
        return len(self.made) - len(self.gone)

    @property
    def gone(self) -> tuple[Column, ...]:
        """The columns that end in it, or wait on a holder from it on."""
        return (*(t.column for t in self.taken), *self.away, *(c for each in self.crossed for c in each.gone))

    @property
    def is_plain(self) -> bool:
        """Whether every column goes on, and all of them are worked."""
        return not (self.made or self.taken or self.reach or self.away or self.crossed)


PLAIN_ROW = RowShaping()


@dataclass(frozen=True)
class ActiveColumns:
    """The columns on the needle before the first row, and the shaping of each row after it.

    Raises IllegalPiece where a row takes what is not there, makes what is, or works columns together that do not
    lie side by side.
    """

    first: tuple[Column, ...]
    rows: tuple[RowShaping, ...]

    def __post_init__(self) -> None:
        problem = next(self._problems(), "")
        if problem:
            raise IllegalPiece(problem)

    @cached_property
    def columns(self) -> tuple[tuple[Column, ...], ...]:
        """The columns that live before the first row and after each, from the right."""
        out, now = [self.first], list(self.first)
        for row in self.rows:
            if row is PLAIN_ROW:
                out.append(out[-1])
                continue
            for column in row.gone:
                at = bisect_left(now, column)
                if at < len(now) and now[at] == column:
                    del now[at]
            for made in row.made:
                insort(now, made.column)
            out.append(tuple(now))
        return tuple(out)

    @property
    def counts(self) -> tuple[int, ...]:
        """How many live before the first row and after each."""
        return tuple(map(len, self.columns))

    @property
    def changing_rows(self) -> tuple[int, ...]:
        """The rows, from 1, in which anything is made or taken."""
        return tuple(n for n, row in enumerate(self.rows, start=1) if not row.is_plain)

    def _problems(self) -> Iterator[str]:
        if list(self.first) != sorted(set(self.first)):
            yield "The columns on the needle must be told from right to left, each once."
            return
        for number in self.changing_rows:
            row, below, above = self.rows[number - 1], self.columns[number - 1], self.columns[number]
            yield from _row_problems(number, row, below, above=above)
            if not above:
                yield f"Row {number} leaves no stitch on the needle."


def _row_problems(
    number: int, row: RowShaping, below: tuple[Column, ...], *, above: tuple[Column, ...]
) -> Iterator[str]:
    if row.reach is not None and not 0 <= row.reach[0] < row.reach[1] <= len(below):
        yield f"Row {number} is to work stitches {row.reach[0] + 1} to {row.reach[1]}, but there are {len(below)}."
        return
    alive, taken = set(below), list(row.gone)
    kept = alive.difference(taken)
    made = [m.column for m in row.made]
    if len(set(taken)) < len(taken) or not alive.issuperset(taken):
        yield f"Row {number} takes a column that is not on the needle."
        return
    if len(set(made)) < len(made) or not kept.isdisjoint(made):
        yield f"Row {number} makes a column that is on the needle already."
    place = {column: at for at, column in enumerate(below)}
    groups: dict[Column, list[int]] = {}
    for t in row.taken:
        if t.into not in kept:
            yield f"Row {number} works a column together with one that is not on the needle."
            return
        groups.setdefault(t.into, [place[t.into]]).append(place[t.column])
    for places in groups.values():
        if max(places) - min(places) != len(places) - 1 or len(places) > 3:
            yield f"Row {number} works columns together that do not lie side by side, or more than three."
        if any(below[min(places)] < new < below[max(places)] for new in made):
            yield f"Row {number} makes a column between two that it works together."
    beside = [m.beside for m in row.made if m.kind == "kfb"]
    if any(b is None or b not in kept or b in groups for b in beside) or len(set(beside)) < len(beside):
        yield f"Row {number} makes two of a column that is not there, or not free."
    at_above = {column: at for at, column in enumerate(above)}
    for m in row.made:
        if m.kind == "kfb" and m.beside in at_above and abs(at_above[m.beside] - at_above[m.column]) != 1:
            yield f"Row {number} makes two of a column that does not lie beside the new one."
