"""Stretches: in which rows a shaped band changes its count between two stations, each section by its own schedule."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

from ..errors import IllegalPiece, Infeasible
from ..shaping.outline import Section, Shaping
from ..shaping.schedule import Schedule, allowed_rows, make_schedule, mixed_schedule, rated_schedule
from .piece import BandView
from .plane import Plane
from .sections import begins_with, changes_needed, edge_step, holder_of, section_counts
from .stations import StationCount, bound_off, count_stations, shaping_step, step_rows


@dataclass(frozen=True)
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
    stretches: tuple[Stretch, ...]

    @property
    def rows(self) -> int:
        """The rows of the band."""
        return self.stations[-1].row

    @property
    def counts(self) -> tuple[int, int]:
        """The first count and the last."""
        return self.stations[0].count, self.stations[-1].count


@dataclass(frozen=True)
class Begin:
    """Where a band begins: the number of its first row, and how many rows of its charts lie in the bands below it."""

    row: int
    offset: int = 0


@lru_cache(maxsize=256)
def station_plan(view: BandView, begin: Begin) -> StationPlan:
    """The stations of a shaped band that begins there, and what is done between them.

    Raises IllegalPiece or Infeasible.
    """
    shaping, stations = view.shaping, count_stations(view)
    assert shaping is not None, "a band without shaping has no stations"
    if shaping.bend is not None or shaping.writes_rows:
        return StationPlan(stations, ())
    if shaping.sections:
        return StationPlan(stations, tuple(_section_stretches(view, shaping, stations, begin)))
    stretches = (_stretch(view, shaping, at, begin, a, b) for at, (a, b) in enumerate(pairwise(stations)))
    return StationPlan(stations, tuple(stretches))


def _stretch(view: BandView, shaping: Shaping, at: int, begin: Begin, a: StationCount, b: StationCount) -> Stretch:
    lost, below = bound_off(shaping, at), step_rows(view, shaping, at, a.row)
    rows, change = b.row - a.row - below, b.count - a.count + lost
    changes = abs(change) // shaping.step
    first, step = begin.row + a.row + below, shaping_step(view, shaping)
    lag = first % 2 if step == 2 else 0
    given = shaping.rates[at] if at < len(shaping.rates) else ()
    twice: tuple[int, ...] = ()
    if given:
        schedule = rated_schedule(given, rows, lag=lag)
        _check_given(schedule, changes, step, lag, b.station.name)
    elif changes > rows and shaping.edges == "in turn":
        schedule = Schedule(rows, tuple(range(1, rows + 1)))
        twice = mixed_schedule(changes - rows, rows).at
    else:
        schedule = make_schedule(changes, rows, shaping.manner, step=step, lag=lag)
    return Stretch(at + 1, first, schedule, shaping.step, change > 0, a.count - lost, twice)


def _check_given(schedule: Schedule, changes: int, step: int, lag: int, name: str) -> None:
    if schedule.changes != changes:
        raise IllegalPiece(
            f"The rows you typed change the count {schedule.changes} times, but “{name}” wants {changes} times."
        )
    if any((row + lag) % step for row in schedule.at):
        raise IllegalPiece(
            f"The rows you typed on the way to “{name}” fall on wrong-side rows; type even numbers, or let wrong-side "
            "rows be shaped too."
        )


def _section_stretches(
    view: BandView, shaping: Shaping, stations: Sequence[StationCount], begin: Begin
) -> Iterator[Stretch]:
    counts = section_counts(Plane(view), shaping)
    for above, (a, b) in enumerate(pairwise(stations), start=1):
        for at, section in enumerate(shaping.sections):
            before = begins_with(shaping, at, above - 1, counts[at][above - 1])
            held = holder_of(shaping, at, above - 1) is not None
            change, first = counts[at][above] - before, begin.row + a.row + held
            if b.row - a.row - held < 0:
                raise Infeasible(f"There is no row above “{a.station.name}” in which its stitches can be held.")
            changes, rows = changes_needed(section, change), b.row - a.row - held
            step, lag = _rhythm(view, shaping, section, changes, rows, Begin(first, begin.offset + first - begin.row))
            if changes > len(allowed_rows(rows, step, lag)):
                raise Infeasible(
                    f"From “{a.station.name}” to “{b.station.name}” there are {rows} {view.piece.row_word}s, too few "
                    f"for {changes} changes. Make the piece taller between the two, or their counts more alike."
                )
            given = shaping.rates[above - 1] if above <= len(shaping.rates) and changes else ()
            if given:
                schedule = rated_schedule(given, rows, lag=lag)
                _check_given(schedule, changes, step, lag, b.station.name)
            else:
                schedule = make_schedule(changes, rows, shaping.manner, step=step, lag=lag)
            step = edge_step(section.edges)
            yield Stretch(above, first, schedule, step, change > 0, before, (), at, single=abs(change) % step == 1)


def _rhythm(
    view: BandView, shaping: Shaping, section: Section, changes: int, rows: int, begin: Begin
) -> tuple[int, int]:
    """Every how many rows a section may be shaped, and how much earlier the first of them is: (step, lag).

    Flat, in right-side rows. In the round every second round, if they suffice: those in which fewer of its cables
    cross, since a crossing that loses a stitch in its own round is not crossed.
    """
    if shaping_step(view, shaping) == 2:
        return 2, begin.row % 2
    if not view.round or shaping.every_row or changes > len(allowed_rows(rows, 2, 0)):
        return 1, 0
    crossed: Counter[int] = Counter()
    for s in view.segments[section.first : section.last + 1]:
        crossed.update((row - begin.offset) % 2 for row in s.chart.crossing_rows if s.chart.height % 2 == 0)
    return 2, 1 if crossed[1] < crossed[0] and changes <= len(allowed_rows(rows, 2, 1)) else 0
