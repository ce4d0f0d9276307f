"""Sections: what lies between two lines of a band, its columns counted from its right end, and which are held."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated

from ..declared import Choosing, Count, Len, Name, NoName, Place, SectionCount, StationPlace
from ..errors import IllegalPiece
from ..needle.chart_columns import crossing_blocks
from ..notation import Chart
from ..piece.problems import MAX_STITCHES
from ..piece.widths import segment_um
from .manner import Edge, ShapedEdges
from .plane import Plane

ALL = -1
"""A section's count where all its columns live."""


@dataclass(frozen=True, kw_only=True)
class Section(Choosing):
    """What lies between two lines and is shaped by itself: the segments from `first` to `last`, from the right.

    `counts` has its count at each station, −1 where all of its columns are there. `name`: what the words call it.
    """

    first: Place
    last: Place
    counts: Annotated[tuple[SectionCount, ...], Len(2, 12)]
    edges: ShapedEdges = "both"
    name: NoName = ""


@dataclass(frozen=True, kw_only=True)
class Holder:
    """A section (from 0) that is put on a holder in the row after a station; `cast_on` stitches take its place."""

    name: Name
    section: Place
    station: StationPlace
    cast_on: Count = 0


@dataclass(frozen=True, kw_only=True)
class Sections:
    """The sections of a band with so many stations, and what of them is put on holders on the way."""

    plane: Plane
    own: tuple[Section, ...]
    stations: tuple[str, ...]
    holders: tuple[Holder, ...] = ()

    def holder(self, section: int, station: int) -> Holder | None:
        """What puts a section on a holder after a station; None where nothing does."""
        return next((h for h in self.holders if (h.section, h.station) == (section, station)), None)

    def begins_with(self, section: int, station: int, count: int) -> int:
        """A section's count above a station: what is cast on where it was put on a holder, else its count there."""
        holder = self.holder(section, station)
        return count if holder is None else holder.cast_on

    def counts(self) -> list[tuple[int, ...]]:
        """Each section's count at every station. Raises IllegalPiece for sections that cannot be."""
        problem = next(self._problems(), "")
        if problem:
            raise IllegalPiece(problem)
        out = []
        for at, section in enumerate(self.own):
            full, gone, counts = len(section_places(self.plane, section)), False, list[int]()
            for station, wanted in enumerate(section.counts):
                count = full if wanted == ALL else max(1, wanted)
                counts.append(0 if gone else count)
                gone = gone or self.begins_with(at, station, count) == 0  # what has gone as a whole does not come back
            out.append(tuple(counts))
        return out

    def _problems(self) -> Iterator[str]:
        plane, many = self.plane, len(self.stations)
        last, above = plane.first + len(plane.view.inner) - 1, plane.first - 1
        for number, s in enumerate(self.own, start=1):
            if not above < s.first <= s.last <= last:
                yield f"Section {number} must lie to the left of the one before it, between the edges."
                return
            above = s.last
            if len(s.counts) != many:
                yield f"Section {number} needs {many} counts, one for each place with a width."
                return
            full = len(section_places(plane, s))
            for station, count in zip(self.stations, s.counts, strict=True):
                if count != ALL and not 0 <= count <= min(full, MAX_STITCHES):
                    yield f"Section {number} has {full} stitches; at “{station}” it cannot have {count}."
        names = set()
        for h in self.holders:
            if not (0 <= h.section < len(self.own) and 0 <= h.station < many - 1):
                yield f"There is no section {h.section + 1}, or nothing above its place, to put “{h.name}” on a holder."
                return
            full = len(section_places(plane, self.own[h.section]))
            if not 0 <= h.cast_on <= full:
                yield f"In the place of “{h.name}” up to {full} stitches can be cast on, not {h.cast_on}."
            if h.name in names:
                yield f"Two holders are called “{h.name}”; give one of them another name."
            names.add(h.name)

    @property
    def fixed(self) -> int:
        """The stitches that lie in no section: the edges, and the lines."""
        return self.plane.view.stitches - sum(len(section_places(self.plane, s)) for s in self.own)

    def changes(self, counts: Sequence[Sequence[int]], station: int) -> int:
        """The rows in which anything changes on the way to a station, if every row were shaped."""
        most = 0
        for at, (section, each) in enumerate(zip(self.own, counts, strict=True)):
            if station:
                before = self.begins_with(at, station - 1, each[station - 1])
                held = self.holder(at, station - 1) is not None
                most = max(most, changes_needed(section, each[station] - before) + held)
        return most

    def width_um(self, counts: Sequence[int]) -> float:
        """Width of a row in which the sections have such counts."""
        plane, inside = self.plane, {at for s in self.own for at in range(s.first, s.last + 1)}
        total = float(
            sum(segment_um(s, plane.view.measure) for at, s in enumerate(plane.view.segments) if at not in inside)
        )
        for section, count in zip(self.own, counts, strict=True):
            places = section_places(plane, section)
            live = window(section, len(places), count)
            total += plane.inner_um(places.start + live.start, places.start + live.stop)
        return total


def section_places(plane: Plane, section: Section) -> range:
    """The places of a section's columns, counted across the plane."""
    return range(plane.starts[section.first - plane.first], plane.starts[section.last + 1 - plane.first])


def first_in_turn(plane: Plane, section: Section) -> Edge:
    """The end at which a section that is taken in in turn begins: that with more background outside its cables.

    So the backgrounds are gone before a cable loses a stitch.
    """
    inside = plane.view.segments[section.first : section.last + 1]
    crossed = [c for s in inside for c in _crossed_places(s.chart, s.repeats)]
    right, left = (next((n for n, c in enumerate(way) if c), 0) for way in (crossed, crossed[::-1]))
    return "left" if left > right else "right"


@lru_cache(maxsize=512)
def _crossed_places(chart: Chart, repeats: int) -> tuple[bool, ...]:
    """For each column of a chart whether it lies in a crossing."""
    held = {
        column
        for number in chart.crossing_rows
        for block in crossing_blocks(chart, repeats, number)
        for column in range(block.start, block.end)
    }
    return tuple(column in held for column in range(chart.width(repeats)))


def edge_step(edges: ShapedEdges) -> int:
    """How many stitches one change adds to a section, or takes away."""
    return 2 if edges == "both" else 1


def changes_needed(section: Section, change: int) -> int:
    """How many changes lead from one count to another; shaped at both edges the last may be at one of them only."""
    return -(-abs(change) // edge_step(section.edges))


def window(section: Section, full: int, count: int) -> range:
    """Which of a section's columns live where it has `count`: those in its middle, or at its fixed end."""
    low = {"right": full - count, "left": 0}.get(section.edges, (full - count) // 2)
    return range(low, low + count)
