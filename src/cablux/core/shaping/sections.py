"""Shaped in sections: what lies between two lines has counts and a schedule of its own, the edges stay as they are."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Annotated, ClassVar

from ..declared import Len
from ..errors import IllegalPiece, Infeasible
from ..needle.columns import ActiveColumns, Column
from ..needle.schedule import Rate, allowed_rows, make_schedule, rated_schedule
from ..needle.stations import Begin, PatternStretch, PutAside, StationCount, StationPlan, Stretch
from ..piece.piece import BandView, Shaping
from ..piece.widths import body_row_um
from .chart_rows import ChartRows, worked_chart_rows
from .manner import MIRRORED, Manner
from .placed import check_given, check_order, counted, counts_beside_border, given_rows, place_stations, shaping_step
from .plane import Plane
from .row_ends import RowEnds, even_ends
from .section_places import ALL, Holder, Section, Sections, changes_needed, edge_step
from .section_walk import first_columns, walk_sections
from .section_words import held_in_pattern, sections_in_pattern


@dataclass(frozen=True, kw_only=True)
class SectionShaped(Shaping):
    """A band whose sections change their counts, each between its lines; edges and lines stay.

    `cabled`: a 2/2 or 3/3 cable that a section has come down to is crossed and halved at once, in place of two or
    three decreases. `rates` are the knitter's own for each stretch between two stations; where a stretch has none they
    are computed.
    """

    kind: ClassVar[str] = "sections"

    sections: Annotated[tuple[Section, ...], Len(1, 60)]
    holders: Annotated[tuple[Holder, ...], Len(0, 12)] = ()
    cabled: bool = False
    rates: Annotated[tuple[tuple[Rate, ...], ...], Len(0, 11)] = ()
    manner: Manner = Manner()

    def asked(self, view: BandView) -> Sections:
        """Its sections as they lie in a band."""
        return Sections(
            plane=Plane(view), own=self.sections, stations=tuple(s.name for s in self.stations), holders=self.holders
        )

    def count_stations(self, view: BandView) -> tuple[StationCount, ...]:
        """The counts are what is wanted; the widths follow."""
        asked, row_um = self.asked(view), body_row_um(view)
        check_order(self.stations)
        rows = given_rows(view, self.stations, row_um)
        sections = asked.counts()
        counts = [sum(each) + asked.fixed for each in zip(*sections, strict=True)]
        for at in (0, len(counts) - 1):
            counts_beside_border(view, self.stations, at, options=[counts[at]])
        changes = [asked.changes(sections, at) for at in range(len(counts))]
        widths = [asked.width_um(each) for each in zip(*sections, strict=True)]
        step = shaping_step(view, every_row=self.manner.every_row)
        placed = place_stations(view, self.stations, rows, changes=changes, step=step)
        stations = [replace(s, width_mm=um / 1000.0) for s, um in zip(self.stations, widths, strict=True)]
        return counted(stations, placed, counts, widths=widths, row_um=row_um)

    def stretches(self, view: BandView, stations: Sequence[StationCount], begin: Begin) -> Iterator[Stretch]:
        """What is done in each section between two stations, by a schedule of its own."""
        asked = self.asked(view)
        counts = asked.counts()
        for above, (a, b) in enumerate(pairwise(stations), start=1):
            for at, section in enumerate(self.sections):
                before = asked.begins_with(at, above - 1, counts[at][above - 1])
                held = asked.holder(at, above - 1) is not None
                change, first = counts[at][above] - before, begin.row + a.row + held
                if b.row - a.row - held < 0:
                    raise Infeasible(
                        f"There is no row above “{a.station.name}” in which its stitches can be held.",
                        clash=(a.station.name,),
                    )
                changes, rows = changes_needed(section, change), b.row - a.row - held
                step, lag = self._rhythm(
                    view, section, changes, rows=rows, begin=Begin(first, begin.offset + first - begin.row)
                )
                if changes > len(allowed_rows(rows, step, lag)):
                    raise Infeasible(
                        f"From “{a.station.name}” to “{b.station.name}” there are {rows} {view.piece.row_word}s, too "
                        f"few for {changes} changes. Make the piece taller between the two, or their counts more "
                        "alike.",
                        clash=(a.station.name, b.station.name),
                    )
                given = self.rates[above - 1] if above <= len(self.rates) and changes else ()
                if given:
                    schedule = rated_schedule(given, rows, lag=lag)
                    check_given(schedule, changes, step, lag=lag, name=b.station.name)
                else:
                    schedule = make_schedule(changes, rows, self.manner.schedule, step=step, lag=lag)
                by = edge_step(section.edges)
                yield Stretch(
                    above=above,
                    first=first,
                    schedule=schedule,
                    step=by,
                    grows=change > 0,
                    before=before,
                    twice=(),
                    section=at,
                    single=abs(change) % by == 1,
                )

    def _rhythm(self, view: BandView, section: Section, changes: int, *, rows: int, begin: Begin) -> tuple[int, int]:
        """Every how many rows a section may be shaped, and how much earlier the first of them is: (step, lag).

        Flat, in right-side rows. In the round every second round, if they suffice: those in which fewer of its cables
        cross, since a crossing that loses a stitch in its own round is not crossed.
        """
        if shaping_step(view, every_row=self.manner.every_row) == 2:
            return 2, begin.row % 2
        if not view.round or self.manner.every_row or changes > len(allowed_rows(rows, 2, 0)):
            return 1, 0
        crossed: Counter[int] = Counter()
        for s in view.segments[section.first : section.last + 1]:
            crossed.update((row - begin.offset) % 2 for row in s.chart.crossing_rows if s.chart.height % 2 == 0)
        return 2, 1 if crossed[1] < crossed[0] and changes <= len(allowed_rows(rows, 2, 1)) else 0

    def columns(self, view: BandView, plan: StationPlan, begin: Begin, *, begun: tuple[Column, ...]) -> ActiveColumns:
        """Each section's ends make and take; what is held goes, and what is cast on comes in its place."""
        asked = self.asked(view)
        rows = walk_sections(asked, plan, begin, manner=self.manner, cabled=self.cabled)
        return ActiveColumns(first_columns(asked), rows)

    def chart_rows(
        self, view: BandView, active: ActiveColumns, begin: Begin, *, last_crossings: Mapping[int, int]
    ) -> ChartRows:
        """Charts go on row by row."""
        return worked_chart_rows(
            Plane(view), active, begin, last_crossings=last_crossings, whole_panels=self.manner.whole_panels
        )

    @property
    def keeps_clear(self) -> bool:
        """Where its edges will be sewn."""
        return self.manner.sewn

    def row_ends(self, view: BandView, plan: StationPlan, active: ActiveColumns) -> RowEnds:
        """Its rows lie about one middle."""
        return even_ends(view, plan)

    def sentences(
        self, view: BandView, plan: StationPlan, active: ActiveColumns, *, first: int
    ) -> Iterator[PatternStretch]:
        """What is put on holders, then how often which sections are shaped, from station to station."""
        asked = self.asked(view)
        for above, (a, b) in enumerate(pairwise(plan.stations), start=1):
            if b.row > a.row:
                here = [s for s in plan.stretches if s.above == above]
                yield from held_in_pattern(asked, plan, active, first=first, station=above - 1)
                yield from sections_in_pattern(asked, self.manner, here, stations=(a, b), active=active, first=first)

    @property
    def put_aside(self) -> tuple[PutAside, ...]:
        """The sections that go onto holders, from the right."""
        held = sorted(self.holders, key=lambda h: h.section)
        inside = self.sections
        return tuple(
            PutAside(
                name=h.name,
                station=h.station,
                first=inside[h.section].first,
                last=inside[h.section].last,
                cast_on=h.cast_on,
            )
            for h in held
        )

    @property
    def in_sections(self) -> bool:
        """It is what they are for."""
        return True

    def mirrored(self, segments: int) -> SectionShaped:
        """Its sections from the other end."""
        many = len(self.sections)
        holders = tuple(
            Holder(name=h.name, section=many - 1 - h.section, station=h.station, cast_on=h.cast_on)
            for h in self.holders
        )
        return replace(self, sections=mirrored_sections(self.sections, segments), holders=holders)

    def moved(self, first: int, beyond: int, more: int) -> SectionShaped:
        """Its sections where their segments are now. Raises IllegalPiece where one would be lost."""
        return replace(self, sections=moved_sections(self.sections, first, beyond, more=more))


def mirrored_sections(sections: Sequence[Section], segments: int) -> tuple[Section, ...]:
    """Sections from the other end of so many segments."""
    return tuple(
        Section(
            first=segments - 1 - s.last,
            last=segments - 1 - s.first,
            counts=s.counts,
            edges=MIRRORED[s.edges],
            name=s.name,
        )
        for s in reversed(sections)
    )


def moved_sections(sections: Sequence[Section], first: int, beyond: int, *, more: int) -> tuple[Section, ...]:
    """Sections where the segments from `first` up to but not `beyond` have become so many more.

    What is put in between two sections belongs to the one at its right. Raises IllegalPiece where one would be lost, or
    where what lies in it and what lies beside it would become one.
    """
    return tuple(_moved(s, first, beyond, more=more) for s in sections)


def _moved(section: Section, first: int, beyond: int, *, more: int) -> Section:
    inserted = first == beyond
    if section.last < first - inserted:
        return section
    if section.first >= beyond:
        return replace(section, first=section.first + more, last=section.last + more)
    if first < section.first or beyond > section.last + 1:
        raise IllegalPiece(
            "That would join what two sections of the shaping keep apart: leave what lies between them, or make the "
            "band straight first."
        )
    if section.last + more < section.first:
        raise IllegalPiece(
            "That would leave nothing of a section of the shaping: keep one segment of it, or make the band straight."
        )
    return replace(section, last=section.last + more)


__all__ = ["ALL", "Holder", "Section", "SectionShaped", "mirrored_sections", "moved_sections"]
