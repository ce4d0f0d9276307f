"""Schedules: in which rows a piece is shaped between two heights, and how far that strays from a straight line."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import Annotated, Literal

from ..declared import Ge, Le
from ..errors import IllegalPiece

ScheduleManner = Literal["blocks", "mixed"]
WRITTEN_OUT = 24
"""Our choice: so many numbers in even steps are all written; of more the step is named, so that none is guessed."""


@dataclass(frozen=True)
class Rate:
    """“Every 6th row 7 times.”"""

    every: Annotated[int, Ge(1), Le(1_000)]
    times: Annotated[int, Ge(1), Le(1_000)]

    @property
    def rows(self) -> int:
        """Rows that it takes."""
        return self.every * self.times


@dataclass(frozen=True)
class Schedule:
    """The rows (from 1) of a stretch of `rows` rows in which it is shaped; `rates` where they come in blocks.

    `plain` rows follow the last change. `strays`: how far the changes done are at most ahead of or behind the
    straight line, in changes, looked at as each row ends, before and after its change.
    """

    rows: int
    at: tuple[int, ...]
    rates: tuple[Rate, ...] = ()

    @property
    def changes(self) -> int:
        """How often it is shaped."""
        return len(self.at)

    @property
    def plain(self) -> int:
        """Rows without shaping after the last change."""
        return self.rows - self.at[-1] if self.at else self.rows

    @property
    def strays(self) -> float:
        """Furthest from the straight line, in changes."""
        return _strays(self.at, self.rows)


def _strays(at: tuple[int, ...], rows: int) -> float:
    """The line is left furthest where a row is worked, without its change or with it, or at the end."""
    n = len(at)
    ahead = max((k - n * row / rows for k, row in enumerate(at, start=1)), default=0.0)
    behind = max((n * row / rows - k for k, row in enumerate(at)), default=0.0)
    return max(ahead, behind, 0.0)


def allowed_rows(rows: int, step: int, lag: int = 0) -> range:
    """The rows in which it may be shaped: every `step`-th, those of the right side where step is 2.

    `lag` is how many rows earlier than the step's own row that is: 1 where the first row is a right-side row.
    """
    return range(step - lag, rows + 1, step)


@lru_cache(maxsize=1024)
def block_schedule(changes: int, rows: int, *, step: int = 1, lag: int = 0) -> Schedule:
    """`changes` in `rows` rows at one rate or at two neighbouring rates, in two blocks: the one that strays least.

    Fewer plain rows follow than lie between two changes, so that the end looks like the rest. Raises IllegalPiece
    where there are fewer rows in which it may be shaped.

    >>> found = block_schedule(14, 96, step=2)
    >>> [(rate.every, rate.times) for rate in found.rates], round(found.strays, 2)
    ([(6, 8), (8, 6)], 1.0)
    """
    _check_room(changes, rows, step, lag=lag)
    if not changes:
        return Schedule(rows, ())
    found = [rated_schedule(rates, rows, lag=lag) for rates in _two_rates(changes, rows, step, lag=lag)]
    ended = [s for s in found if s.plain < min(rate.every for rate in s.rates)]
    return min(ended, key=lambda s: (round(s.strays, 9), s.plain, len(s.rates)))


def rated_schedule(rates: tuple[Rate, ...], rows: int, *, lag: int = 0) -> Schedule:
    """The schedule of such rates, one after the other. Raises IllegalPiece where they take more rows than there are."""
    at, now = [], -lag
    for rate in rates:
        for _ in range(rate.times):
            now += rate.every
            at.append(now)
    if at and (at[-1] > rows or at[0] < 1):
        raise IllegalPiece(
            f"Shaped {rates_text(rates)} it takes {at[-1]} rows, but there are {rows}; shape more often or fewer times."
        )
    return Schedule(rows, tuple(at), tuple(rate for rate in rates if rate.times))


def _two_rates(changes: int, rows: int, step: int, *, lag: int) -> Iterator[tuple[Rate, ...]]:
    """Every way to make so many changes at two neighbouring rates."""
    for every in range(step, rows + lag + 1, step):
        if every * changes - lag > rows:
            return
        yield (Rate(every, changes),)
        for slow in range(1, changes):
            if every * changes + step * slow - lag > rows:
                break
            yield (Rate(every, changes - slow), Rate(every + step, slow))
            yield (Rate(every + step, slow), Rate(every, changes - slow))


@lru_cache(maxsize=1024)
def mixed_schedule(changes: int, rows: int, *, step: int = 1, lag: int = 0) -> Schedule:
    """`changes` in `rows` rows, each in the allowed row nearest to its place on the straight line.

    Raises IllegalPiece where there are fewer rows in which it may be shaped.

    >>> mixed_schedule(5, 42, step=2).at
    (4, 12, 20, 30, 38)
    """
    _check_room(changes, rows, step, lag=lag)
    open_rows = allowed_rows(rows, step, lag)
    at: list[int] = []
    for k in range(1, changes + 1):
        ideal = (2 * k - 1) * rows / (2 * changes)
        first = at[-1] + step if at else open_rows[0]
        last = open_rows[-1] - step * (changes - k)
        near = min(range(first, last + 1, step), key=lambda row: (abs(row - ideal), row))
        at.append(near)
    return Schedule(rows, tuple(at))


def make_schedule(changes: int, rows: int, manner: ScheduleManner, *, step: int = 1, lag: int = 0) -> Schedule:
    """The schedule in one of the two manners."""
    return (block_schedule if manner == "blocks" else mixed_schedule)(changes, rows, step=step, lag=lag)


def _check_room(changes: int, rows: int, step: int, *, lag: int) -> None:
    room = len(allowed_rows(rows, step, lag))
    if changes > room:
        where = "right-side rows" if step == 2 else "rows"
        cure = "shape on wrong-side rows too, " if step == 2 else ""
        raise IllegalPiece(
            f"{changes} changes do not fit into {room} {where}: {cure}change two stitches at a time, "
            "or allow more rows."
        )


def ordinal(number: int) -> str:
    """`1st`, `2nd`, `3rd`, `4th`, `11th`, `22nd`."""
    tail = {1: "st", 2: "nd", 3: "rd"}.get(number % 10, "th") if number % 100 not in (11, 12, 13) else "th"
    return f"{number}{tail}"


def rates_text(rates: tuple[Rate, ...], what: str = "row") -> str:
    """`every 6th row 8 times, then every 8th row 6 times`; `every row 3 times`."""

    def one(rate: Rate) -> str:
        often = f"every {what}" if rate.every == 1 else f"every {ordinal(rate.every)} {what}"
        return f"{often} {'once' if rate.times == 1 else 'twice' if rate.times == 2 else f'{rate.times} times'}"

    return ", then ".join(one(rate) for rate in rates if rate.times)


def gaps_text(schedule: Schedule, what: str = "row") -> str:
    """A schedule in words: its rates, or where they change often the rows themselves.

    >>> gaps_text(block_schedule(14, 96, step=2))
    'every 6th row 8 times, then every 8th row 6 times'
    """
    if schedule.rates:
        return rates_text(schedule.rates, what)
    return f"in {what}{'s' if schedule.changes != 1 else ''} " + ", ".join(map(str, schedule.at))


def number_list(numbers: tuple[int, ...]) -> str:
    """`2, 4, 6`; from three in a run `2–7`; of very many in even steps `2, 4, … 98, every 2nd`.

    >>> number_list((3, 7, 11))
    '3, 7, 11'
    """
    if len(numbers) >= 3 and all(b - a == 1 for a, b in pairwise(numbers)):
        return f"{numbers[0]}–{numbers[-1]}"
    steps = {b - a for a, b in pairwise(numbers)}
    if len(numbers) > WRITTEN_OUT and len(steps) == 1:
        return f"{numbers[0]}, {numbers[1]}, … {numbers[-1]}, every {ordinal(*steps)}"
    return ", ".join(map(str, numbers))
