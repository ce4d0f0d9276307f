"""Sections: what lies between two lines of a band and is shaped by itself, its columns counted from its right end."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import lru_cache

from ..errors import IllegalPiece
from ..notation import Chart
from ..shaping.lanes import crossing_blocks
from ..shaping.outline import ALL, Holder, Section, ShapedEdges, Shaping
from .edge_walk import Edge
from .plane import Plane
from .problems import MAX_STITCHES
from .widths import segment_um


def section_places(plane: Plane, section: Section) -> range:
    """The places of a section's columns, counted across the plane."""
    return range(plane.starts[section.first - plane.first], plane.starts[section.last + 1 - plane.first])


def first_in_turn(plane: Plane, section: Section) -> Edge:
    """The end at which a section that is taken in in turn begins: that with more ground outside its cables.

    So the grounds are gone before a cable loses a stitch.
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


def holder_of(shaping: Shaping, section: int, station: int) -> Holder | None:
    """What puts a section on a holder after a station; None where nothing does."""
    return next((h for h in shaping.holders if (h.section, h.station) == (section, station)), None)


def begins_with(shaping: Shaping, section: int, station: int, count: int) -> int:
    """A section's count above a station: what is cast on where it was put on a holder, else its count there."""
    holder = holder_of(shaping, section, station)
    return count if holder is None else holder.cast_on


def section_counts(plane: Plane, shaping: Shaping) -> list[tuple[int, ...]]:
    """Each section's count at every station. Raises IllegalPiece for sections that cannot be."""
    problem = next(_problems(plane, shaping), "")
    if problem:
        raise IllegalPiece(problem)
    out = []
    for at, section in enumerate(shaping.sections):
        full, gone, counts = len(section_places(plane, section)), False, list[int]()
        for station, wanted in enumerate(section.counts):
            count = full if wanted == ALL else max(1, wanted)
            counts.append(0 if gone else count)
            gone = gone or begins_with(shaping, at, station, count) == 0  # what has gone as a whole does not come back
        out.append(tuple(counts))
    return out


def _problems(plane: Plane, shaping: Shaping) -> Iterator[str]:
    last, many = plane.first + len(plane.view.inner) - 1, len(shaping.stations)
    above = plane.first - 1
    for number, s in enumerate(shaping.sections, start=1):
        if not above < s.first <= s.last <= last:
            yield f"Section {number} must lie to the left of the one before it, between the edges."
            return
        above = s.last
        if len(s.counts) != many:
            yield f"Section {number} needs {many} counts, one for each place with a width."
            return
        full = len(section_places(plane, s))
        for station, count in zip(shaping.stations, s.counts, strict=True):
            if count != ALL and not 0 <= count <= min(full, MAX_STITCHES):
                yield f"Section {number} has {full} stitches; at “{station.name}” it cannot have {count}."
    names = set()
    for h in shaping.holders:
        if not (0 <= h.section < len(shaping.sections) and 0 <= h.station < many - 1):
            yield f"There is no section {h.section + 1}, or nothing above its place, to put “{h.name}” on a holder."
            return
        full = len(section_places(plane, shaping.sections[h.section]))
        if not 0 <= h.cast_on <= full:
            yield f"In the place of “{h.name}” up to {full} stitches can be cast on, not {h.cast_on}."
        if h.name in names:
            yield f"Two holders are called “{h.name}”; give one of them another name."
        names.add(h.name)


def fixed_count(plane: Plane, shaping: Shaping) -> int:
    """The stitches that lie in no section: the edges, and the lines."""
    return plane.view.stitches - sum(len(section_places(plane, s)) for s in shaping.sections)


def section_changes(shaping: Shaping, counts: Sequence[Sequence[int]], station: int) -> int:
    """The rows in which anything changes on the way to a station, if every row were shaped."""
    most = 0
    for at, (section, each) in enumerate(zip(shaping.sections, counts, strict=True)):
        if station:
            before = begins_with(shaping, at, station - 1, each[station - 1])
            held = holder_of(shaping, at, station - 1) is not None
            most = max(most, changes_needed(section, each[station] - before) + held)
    return most


def window(section: Section, full: int, count: int) -> range:
    """Which of a section's columns live where it has `count`: those in its middle, or at its fixed end."""
    low = {"right": full - count, "left": 0}.get(section.edges, (full - count) // 2)
    return range(low, low + count)


def sections_um(plane: Plane, shaping: Shaping, counts: Sequence[int]) -> float:
    """Width of a row in which the sections have such counts, micrometres."""
    inside = {at for s in shaping.sections for at in range(s.first, s.last + 1)}
    total = float(
        sum(segment_um(s, plane.view.measure) for at, s in enumerate(plane.view.segments) if at not in inside)
    )
    for section, count in zip(shaping.sections, counts, strict=True):
        places = section_places(plane, section)
        live = window(section, len(places), count)
        total += plane.inner_um(places.start + live.start, places.start + live.stop)
    return total
