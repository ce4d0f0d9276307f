"""Stations: heights at which a band is to have a width, what they come to, and what is done between them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from ..declared import Count, Ge, Le, Length, Name, Row
from .schedule import Schedule


@dataclass(frozen=True, kw_only=True)
class Station:
    """A height of the band at which it is to have a width; `count` and `row` are 0 and None where they are found.

    With a count of its own the width may be 0: it follows. `at_mm` is measured from the band's first row.
    `paced`: it is reached as fast as the rows allow, one change in every row in which it may be shaped; its height
    follows from that.
    """

    name: Name
    width_mm: Length
    at_mm: Annotated[Length, Ge(0), Le(10_000)] = 0.0
    count: Count = 0
    row: Row | None = None
    paced: bool = False


@dataclass(frozen=True, kw_only=True)
class StationCount:
    """A station as it will be: its count after `row` rows of the band, and its width and height in micrometres."""

    station: Station
    row: int
    count: int
    width_um: float
    at_um: float

    @property
    def off_mm(self) -> float:
        """How much wider than wanted it will be."""
        return self.width_um / 1000.0 - self.station.width_mm


@dataclass(frozen=True)
class Begin:
    """Where a band begins: the number of its first row, and how many rows of its charts lie in the bands below it."""

    row: int
    offset: int = 0


@dataclass(frozen=True, kw_only=True)
class Stretch:
    """What is done between station `above` − 1 and the next, from row `first` of the piece: its schedule.

    Each change adds `step` stitches to the `before` that are there, or takes them away. `twice` has the rows, of those
    in turn, in which both edges are shaped. `section`: which one it is of; None where the band's edges are shaped.
    `single`: the last change is at the right end only, since the count changes by an odd number.
    """

    above: int
    first: int
    schedule: Schedule
    step: int
    grows: bool
    before: int
    twice: tuple[int, ...] = ()
    section: int | None = None
    single: bool = False

    @property
    def after(self) -> int:
        """The count that it leads to."""
        changes = self.schedule.changes + len(self.twice)
        return self.before + (1 if self.grows else -1) * (changes * self.step - self.single)


@dataclass(frozen=True)
class StationPlan:
    """All stations of a band and the stretches between them. The counts are proven to come nearest to the widths."""

    stations: tuple[StationCount, ...]
    stretches: tuple[Stretch, ...] = ()

    @property
    def rows(self) -> int:
        """The rows of the band."""
        return self.stations[-1].row

    @property
    def counts(self) -> tuple[int, int]:
        """The first count and the last."""
        return self.stations[0].count, self.stations[-1].count


@dataclass(frozen=True, kw_only=True)
class PatternStretch:
    """The rows between two stations as printed books tell them; `calendar` has the rows that are shaped."""

    first: int
    last: int
    sentence: str
    calendar: tuple[int, ...]
    before: int
    after: int


@dataclass(frozen=True, kw_only=True)
class PutAside:
    """What goes onto a holder in the row after a station: the columns of the segments from `first` to `last`."""

    name: str
    station: int
    first: int
    last: int
    cast_on: int = 0
