"""The shaping of a band in a project file: stations, sections, holders, and what is done between them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...core.shaping.lives import IncreaseKind
from ...core.shaping.outline import (
    Bend,
    DecreaseLean,
    HeelKind,
    Holder,
    Section,
    ShapedEdges,
    Shaping,
    Station,
    Step,
    StepKind,
)
from ...core.shaping.schedule import Rate, ScheduleManner
from ...core.units import Unit, to_mm
from .field_types import Finite, Name, NoName, kept_length
from .swatch_file import StrictModel


class StationFile(StrictModel):
    """A height of the band, in the file's unit from its first row, at which it is to have a width.

    `count`, `row`: a count and a row of one's own; 0 and none where they are found. `paced`: reached with a change in
    every row that may be shaped.
    """

    name: Name
    width: Finite
    at: Annotated[float, Field(ge=0, le=10_000, allow_inf_nan=False)] = 0.0
    count: Annotated[int, Field(ge=0, le=1500)] = 0
    row: Annotated[int | None, Field(ge=0, le=5000)] = None
    paced: bool = False


class RateFile(StrictModel):
    """Every so many rows, so many times."""

    every: Annotated[int, Field(ge=1, le=1000)]
    times: Annotated[int, Field(ge=1, le=1000)]


class SectionFile(StrictModel):
    """Segments between two lines, `first` to `last` from the right, the edge being 0.

    `counts`: the section's count at each station; -1 where all of its columns live. `name`: what the words call it.
    """

    first: Annotated[int, Field(ge=0, le=59)]
    last: Annotated[int, Field(ge=0, le=59)]
    counts: Annotated[tuple[Annotated[int, Field(ge=-1, le=1500)], ...], Field(min_length=2, max_length=12)]
    edges: ShapedEdges = "both"
    name: NoName = ""


class HolderFile(StrictModel):
    """A section (from 0) put on a holder in the row after a station (from 0), and what is cast on in its place."""

    name: Name
    section: Annotated[int, Field(ge=0, le=59)]
    station: Annotated[int, Field(ge=0, le=11)]
    cast_on: Annotated[int, Field(ge=0, le=1500)] = 0


class StepFile(StrictModel):
    """What goes in steps after a station (from 0): such counts, at an edge or at both.

    Bound off at the beginnings of rows, or crossed with as many others and worked together with them.
    """

    station: Annotated[int, Field(ge=0, le=11)]
    counts: Annotated[tuple[Annotated[int, Field(ge=1, le=1500)], ...], Field(min_length=1, max_length=30)]
    edge: Literal["both", "right", "left"] = "both"
    kind: StepKind = "bound off"


class BendFile(StrictModel):
    """The radius of a bent band's inside edge, in the file's unit, and which edge that is."""

    radius: Annotated[float, Field(gt=0, le=500, allow_inf_nan=False)]
    inside: Literal["right", "left"] = "right"


Reached = Annotated[int, Field(ge=0, le=1500)]


class ShapingFile(StrictModel):
    """How a band is shaped: its stations from the bottom, and what is done between them at its edges, or in sections.

    `rates`: the knitter's own for each stretch between two stations, empty where they are computed. `every_row`:
    wrong-side rows are shaped too. `sewn`: crossings keep clear of the edges. `whole_panels`: panels are worked only
    where all of their columns live, on whole repeats. `short`: the stitches that each row works, from the right: the
    first, from 0, and the first beyond.
    """

    stations: Annotated[tuple[StationFile, ...], Field(min_length=2, max_length=12)]
    edges: ShapedEdges = "both"
    increase: IncreaseKind = "M1"
    lean: DecreaseLean = "along"
    manner: ScheduleManner = "blocks"
    every_row: bool = False
    rates: Annotated[tuple[tuple[RateFile, ...], ...], Field(max_length=11)] = ()
    sewn: bool = False
    whole_panels: bool = True
    sections: Annotated[tuple[SectionFile, ...], Field(max_length=60)] = ()
    holders: Annotated[tuple[HolderFile, ...], Field(max_length=12)] = ()
    bend: BendFile | None = None
    heel: HeelKind | None = None
    cabled: bool = False
    steps: Annotated[tuple[StepFile, ...], Field(max_length=12)] = ()
    short: Annotated[tuple[tuple[Reached, Reached], ...], Field(max_length=200)] = ()


def shaping_of(file: ShapingFile | None, unit: Unit) -> Shaping | None:
    """The core's shaping."""
    if file is None:
        return None
    stations = tuple(
        Station(s.name, to_mm(s.width, unit), to_mm(s.at, unit), s.count, s.row, s.paced) for s in file.stations
    )
    rates = tuple(tuple(Rate(r.every, r.times) for r in each) for each in file.rates)
    return Shaping(
        stations,
        file.edges,
        file.increase,
        file.lean,
        file.manner,
        file.every_row,
        rates,
        file.sewn,
        file.whole_panels,
        tuple(Section(s.first, s.last, s.counts, s.edges, s.name) for s in file.sections),
        tuple(Holder(h.name, h.section, h.station, h.cast_on) for h in file.holders),
        Bend(to_mm(file.bend.radius, unit), file.bend.inside) if file.bend else None,
        file.heel,
        cabled=file.cabled,
        steps=tuple(Step(s.station, s.counts, s.edge, s.kind) for s in file.steps),
        short=file.short,
    )


def shaping_file(shaping: Shaping | None, unit: Unit, old: ShapingFile | None) -> ShapingFile | None:
    """The file's shaping; lengths that are unchanged stay as they were written in `old`."""
    if shaping is None:
        return None
    before = old.stations if old is not None and len(old.stations) == len(shaping.stations) else None
    stations = tuple(
        StationFile(
            name=s.name,
            width=kept_length(before[i].width if before else 0.0, s.width_mm, unit),
            at=kept_length(before[i].at if before else 0.0, s.at_mm, unit),
            count=s.count,
            row=s.row,
            paced=s.paced,
        )
        for i, s in enumerate(shaping.stations)
    )
    return ShapingFile(
        stations=stations,
        edges=shaping.edges,
        increase=shaping.increase,
        lean=shaping.lean,
        manner=shaping.manner,
        every_row=shaping.every_row,
        rates=tuple(tuple(RateFile(every=r.every, times=r.times) for r in each) for each in shaping.rates),
        sewn=shaping.sewn,
        whole_panels=shaping.whole_panels,
        sections=tuple(
            SectionFile(first=s.first, last=s.last, counts=s.counts, edges=s.edges, name=s.name)
            for s in shaping.sections
        ),
        holders=tuple(
            HolderFile(name=h.name, section=h.section, station=h.station, cast_on=h.cast_on) for h in shaping.holders
        ),
        bend=_bend_file(shaping.bend, unit, old.bend if old is not None else None),
        heel=shaping.heel,
        cabled=shaping.cabled,
        steps=tuple(StepFile(station=s.station, counts=s.counts, edge=s.edge, kind=s.kind) for s in shaping.steps),
        short=shaping.short,
    )


def _bend_file(bend: Bend | None, unit: Unit, old: BendFile | None) -> BendFile | None:
    if bend is None:
        return None
    return BendFile(radius=kept_length(old.radius if old else 0.0, bend.radius_mm, unit), inside=bend.inside)
