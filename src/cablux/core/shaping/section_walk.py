"""The sections of a shaped band row by row: which columns their ends make and take, and which go onto a holder."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from itertools import chain

from ..needle.chart_columns import crossing_blocks
from ..needle.columns import PLAIN_ROW, Column, CrossedColumns, MadeColumn, RowShaping, TakenColumn
from ..needle.stations import Begin, StationPlan, Stretch
from ..notation import Chart, Crossing, Lean
from .manner import Edge, Manner
from .plane import Plane
from .section_places import Section, Sections, edge_step, first_in_turn, section_places, window


def walk_sections(
    asked: Sections, plan: StationPlan, begin: Begin, *, manner: Manner, cabled: bool
) -> tuple[RowShaping, ...]:
    """What each row of a band with sections makes, takes, holds and crosses, from where it begins."""
    counts, events = asked.counts(), [_Events() for _ in range(plan.rows)]
    for at, section in enumerate(asked.own):
        walk = _SectionWalk(asked.plane, section, counts[at][0], manner=manner, cabled=cabled)
        for above, upper in enumerate(plan.stations[1:], start=1):
            row = plan.stations[above - 1].row
            # what is held leaves in the row after the station, before anything of that row is shaped
            if asked.holder(at, above - 1) is not None and upper.row > row:
                events[row].held += walk.columns
                events[row].made += walk.hold(asked.begins_with(at, above - 1, counts[at][above - 1]))
            stretch = next(s for s in plan.stretches if (s.above, s.section) == (above, at))
            _work(walk, stretch, events, begin=begin)
    return tuple(each.shaping for each in events)


def first_columns(asked: Sections) -> tuple[Column, ...]:
    """The columns that are there at the first station: lines, sides, and of each section as many as it has there."""
    plane, view = asked.plane, asked.plane.view
    begun = [
        plane.columns(places.start + live.start, places.start + live.stop)
        for section, each in zip(asked.own, asked.counts(), strict=True)
        for places in (section_places(plane, section),)
        for live in (window(section, len(places), each[0]),)
    ]
    inside = {place for s in asked.own for place in section_places(plane, s)}
    lines = [plane.column(place) for place in range(plane.width) if place not in inside]
    sides = [((0, len(view.segments) - 1)[k], c) for k, s in enumerate(view.sides) for c in range(s.stitches)]
    return tuple(sorted(chain(lines, sides, *begun)))


@dataclass(kw_only=True)
class _Events:
    """What one row makes, takes, holds and crosses, section by section."""

    made: list[MadeColumn] = field(default_factory=list)
    taken: list[TakenColumn] = field(default_factory=list)
    held: list[Column] = field(default_factory=list)
    crossed: list[CrossedColumns] = field(default_factory=list)

    @property
    def shaping(self) -> RowShaping:
        """The row's shaping."""
        if not (self.made or self.taken or self.held or self.crossed):
            return PLAIN_ROW
        held, crossed = tuple(sorted(self.held)), tuple(self.crossed)
        return RowShaping(made=tuple(self.made), taken=tuple(self.taken), reach=None, held=held, crossed=crossed)


def _work(walk: _SectionWalk, stretch: Stretch, events: list[_Events], *, begin: Begin) -> None:
    """The changes of a stretch, those that a halved cable has made already spared.

    A cable that stands alone is halved in the row in which it crosses; the schedule waits for that row if no more is
    due by then than the half.
    """
    step, changes, done = edge_step(walk.section.edges), 0, 0
    total = abs(stretch.after - stretch.before)
    for r in range(1, stretch.schedule.rows + 1):
        here, number = events[stretch.first + r - 1 - begin.row], stretch.first + r - 1
        changes += r in stretch.schedule.at
        due = min(total, changes * step)
        cable = None if stretch.grows else walk.cable()
        lean = walk.crosses(cable, number, begin) if cable is not None and cable.half <= total - done else None
        # one crossing takes half a cable at once: the changes that fall due afterwards have been made by it
        if cable is not None and lean is not None:
            here.crossed.append(walk.halve(cable, lean))
            done += cable.half
            continue
        # nothing is due, or a halved cable has run ahead of the schedule
        if due <= done:
            continue
        if cable is not None and _waits(walk, cable, stretch, row=r, done=done, begin=begin):
            continue
        # where a halved cable has left an odd one over, one end is enough
        edges = walk.edges(stretch, changes)[: due - done]
        both = len(edges) == 2
        for edge in edges:
            if stretch.grows:
                here.made.append(walk.make(edge, both=both, before=here.made))
            else:
                here.taken.append(walk.take(edge, both=both))
        walk.settle(edges, grows=stretch.grows)
        done += len(edges)


def _waits(walk: _SectionWalk, cable: _Cable, stretch: Stretch, *, row: int, done: int, begin: Begin) -> bool:
    """Whether a cable that stands alone crosses in a later row of the stretch by which no more than its half is due."""
    step, total = edge_step(walk.section.edges), abs(stretch.after - stretch.before)
    if cable.half > total - done:
        return False
    for later in range(row + 1, stretch.schedule.rows + 1):
        if min(total, step * sum(at <= later for at in stretch.schedule.at)) - done > cable.half:
            return False
        if walk.crosses(cable, stretch.first + later - 1, begin) is not None:
            return True
    return False


@dataclass(frozen=True)
class _Cable:
    """A cable of a chart without a centre: its columns, from the right, and which way it leans in which chart rows."""

    columns: tuple[Column, ...]
    height: int
    leans: Mapping[int, Lean]

    @property
    def half(self) -> int:
        """The stitches of one of its groups."""
        return len(self.columns) // 2


@lru_cache(maxsize=512)
def _cables(chart: Chart, repeats: int) -> dict[tuple[int, int], dict[int, Lean]]:
    """The cables of a chart without a centre: by their first column and their width, how each of its rows leans."""
    out: dict[tuple[int, int], dict[int, Lean]] = {}
    for number in chart.crossing_rows:
        for block in crossing_blocks(chart, repeats, number):
            op = block.ops[0]
            # each stitch of one group is worked together with one of the other: equal groups, and nothing between them
            if isinstance(op, Crossing) and len(op.over) == len(op.under) and not op.centre:
                out.setdefault((block.start, block.width), {})[number] = op.lean
    return out


class _SectionWalk:
    """One section: which of its columns live now, from place `low` up to but not `high` of the plane."""

    def __init__(self, plane: Plane, section: Section, count: int, *, manner: Manner, cabled: bool) -> None:
        self.plane, self.section, self.manner, self.cabled = plane, section, manner, cabled
        self.places, self.begins = section_places(plane, section), first_in_turn(plane, section)
        self._open(count)

    def _open(self, count: int) -> None:
        live = window(self.section, len(self.places), count)
        self.low, self.high = self.places.start + live.start, self.places.start + live.stop

    @property
    def columns(self) -> tuple[Column, ...]:
        """Those that live now."""
        return self.plane.columns(self.low, self.high)

    def edges(self, stretch: Stretch, change: int) -> tuple[Edge, ...]:
        """The ends at which a change is made, the changes of a stretch counted from 1.

        In turn, the next is made at the end that has been changed less often; of two alike at the one with which the
        section begins. At both, an odd last stitch is made where there is more room for it, else at the right end.
        """
        right, left = self.low - self.places.start, self.places.stop - self.high
        if self.section.edges == "both":
            if not (stretch.single and change == stretch.schedule.changes):
                return "right", "left"
            return ("left",) if stretch.grows and left > right else ("right",)
        if self.section.edges == "in turn":
            if right == left:
                return ("right",) if stretch.grows else (self.begins,)
            return ("right",) if (right > left) == stretch.grows else ("left",)
        return (self.section.edges,)

    def cable(self) -> _Cable | None:
        """The cable of two groups of two or three that is all that lives; None where it is none, or is not halved."""
        if not self.cabled:
            return None
        columns = self.columns
        if len(columns) not in (4, 6) or len({lane for lane, _ in columns}) > 1:
            return None
        s = self.plane.view.segments[columns[0][0]]
        leans = _cables(s.chart, s.repeats).get((columns[0][1], len(columns)))
        return None if leans is None else _Cable(columns, s.chart.height, leans)

    def crosses(self, cable: _Cable, number: int, begin: Begin) -> Lean | None:
        """Which way a cable's chart crosses it in row `number` of the piece; None where it does not."""
        # flat work that goes on with a wrong-side row has that as the chart's last: its crossings stay on right sides
        shift = 0 if self.plane.view.round else (begin.row + 1) % 2
        return cable.leans.get((number - begin.row + begin.offset - shift) % cable.height + 1)

    def halve(self, cable: _Cable, lean: Lean) -> CrossedColumns:
        """The cable crossed and halved."""
        # what is left goes on over the middle of where the cable stood
        self.low += cable.half // 2
        self.high = self.low + cable.half
        return CrossedColumns(cable.columns, self.columns, lean)

    def hold(self, cast_on: int) -> list[MadeColumn]:
        """What is cast on where all that lived has been put on a holder."""
        self._open(cast_on)
        return [MadeColumn(column=column, kind="cast on") for column in self.columns]

    def make(self, edge: Edge, *, both: bool, before: list[MadeColumn]) -> MadeColumn:
        """The column that an increase at one end makes."""
        place = self.low - 1 if edge == "right" else self.high
        lean = Lean.RIGHT if edge == "right" else Lean.LEFT
        kind, beside = self.manner.increase, None
        if kind == "kfb":
            beside = self.plane.column(self.low if edge == "right" else self.high - 1)
            if self.high - self.low < (2 if both else 1) or any(m.beside == beside for m in before):
                kind, beside = "M1", None  # there may be no other stitch left to make two of
        return MadeColumn(column=self.plane.column(place), kind=kind, lean=lean, beside=beside)

    def take(self, edge: Edge, *, both: bool) -> TakenColumn:
        """The outermost column at one end, into the next one; two ends that meet are worked into the middle."""
        lean = self.manner.decrease(edge)
        place, into = (self.low, self.low + 1) if edge == "right" else (self.high - 1, self.high - 2)
        return TakenColumn(self.plane.column(place), self.plane.column(into), lean)

    def settle(self, edges: tuple[Edge, ...], *, grows: bool) -> None:
        """The row is done at these ends."""
        way = -1 if grows else 1
        self.low += way * ("right" in edges)
        self.high -= way * ("left" in edges)
