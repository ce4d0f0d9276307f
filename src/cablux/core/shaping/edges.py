"""Shaped at the edges: slants between stations, and steps that are bound off or crossed away."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Annotated, ClassVar

from ..declared import Len
from ..needle.columns import PLAIN_ROW, ActiveColumns, Column, RowShaping
from ..needle.schedule import Rate, Schedule, make_schedule, mixed_schedule, rated_schedule
from ..needle.stations import Begin, PatternStretch, StationCount, StationPlan, Stretch
from ..notation import Side, side_of
from ..piece.piece import BandView, Shaping
from ..piece.widths import body_row_um
from .chart_rows import ChartRows, worked_chart_rows
from .edge_counts import EdgeCounts
from .edge_steps import EdgeStep, StepKind
from .edge_walk import EdgeWalk
from .edge_words import edges_sentence, steps_in_pattern, stretch_in_pattern
from .manner import MIRRORED, Edge, Manner, ShapedEdges
from .placed import check_given, check_order, counted, given_rows, place_stations
from .plane import Plane
from .row_ends import RowEnds, edge_ends, even_ends


@dataclass(frozen=True, kw_only=True)
class EdgeShaped(Shaping):
    """A band that is shaped at its edges, at both, at one, or at one after the other.

    `steps`: what goes in steps after a station, before anything else is done on the way to the next. `rates` are the
    knitter's own for each stretch between two stations; where a stretch has none they are computed.
    """

    kind: ClassVar[str] = "edges"
    at_edges: ClassVar[bool] = True

    edges: ShapedEdges = "both"
    steps: Annotated[tuple[EdgeStep, ...], Len(0, 12)] = ()
    rates: Annotated[tuple[tuple[Rate, ...], ...], Len(0, 11)] = ()
    manner: Manner = Manner()

    def stepped(self, station: int) -> tuple[EdgeStep, ...]:
        """The steps after a station."""
        return tuple(s for s in self.steps if s.station == station)

    def width_um(self, view: BandView, count: int) -> float:
        """Width of a row of so many stitches."""
        return self._counts(view).width_um(count)

    def _counts(self, view: BandView) -> EdgeCounts:
        return EdgeCounts(
            plane=Plane(view),
            stations=self.stations,
            edges=self.edges,
            steps=self.steps,
            every_row=self.manner.every_row,
        )

    def count_stations(self, view: BandView) -> tuple[StationCount, ...]:
        """The counts whose widths miss by the least, squared and summed; proven."""
        asked, row_um = self._counts(view), body_row_um(view)
        check_order(self.stations)
        asked.check_steps()
        rows = given_rows(view, self.stations, row_um)
        counts = asked.counts(rows)
        widths = [asked.width_um(count) for count in counts]
        placed = place_stations(
            view, self.stations, rows, changes=asked.changes(counts), step=asked.step, rows_of_steps=asked.step_rows
        )
        stations = [  # where counts are what is wanted, the widths follow
            replace(s, width_mm=um / 1000.0) if s.count and not s.width_mm else s
            for s, um in zip(self.stations, widths, strict=True)
        ]
        return counted(stations, placed, counts, widths=widths, row_um=row_um)

    def stretches(self, view: BandView, stations: Sequence[StationCount], begin: Begin) -> Iterator[Stretch]:
        """What is done between two stations: at one or two rates, or in turn, some rows at both edges."""
        asked = self._counts(view)
        for at, (a, b) in enumerate(pairwise(stations)):
            yield self._stretch(asked, at, begin, a=a, b=b)

    def _stretch(self, asked: EdgeCounts, at: int, begin: Begin, *, a: StationCount, b: StationCount) -> Stretch:
        lost, below, step = asked.bound_off(at), asked.step_rows(at, a.row), asked.step
        rows, change = b.row - a.row - below, b.count - a.count + lost
        changes, first = abs(change) // asked.change, begin.row + a.row + below
        lag = first % 2 if step == 2 else 0
        given = self.rates[at] if at < len(self.rates) else ()
        twice: tuple[int, ...] = ()
        if given:
            schedule = rated_schedule(given, rows, lag=lag)
            check_given(schedule, changes, step, lag=lag, name=b.station.name)
        elif changes > rows and self.edges == "in turn":
            schedule = Schedule(rows, tuple(range(1, rows + 1)))
            twice = mixed_schedule(changes - rows, rows).at
        else:
            schedule = make_schedule(changes, rows, self.manner.schedule, step=step, lag=lag)
        return Stretch(
            above=at + 1,
            first=first,
            schedule=schedule,
            step=asked.change,
            grows=change > 0,
            before=a.count - lost,
            twice=twice,
        )

    def columns(self, view: BandView, plan: StationPlan, begin: Begin, *, begun: tuple[Column, ...]) -> ActiveColumns:
        """The outermost columns are made and taken, inside the edge stitches; steps take them away as they lie."""
        walk = EdgeWalk(Plane(view), plan.counts[0], begun, edges=self.edges, manner=self.manner)
        edges, steps = self._edges_of_rows(view, plan, begin), self._steps_of_rows(plan, begin)
        rows: list[RowShaping] = []
        for at, each in enumerate(edges):
            step = steps.get(at)
            keep = all(sign < 0 for later in edges[at:] for _, sign in later)
            if step and step[0] == "crossed":
                rows.append(walk.cross(step[1]))
            elif step:
                rows.append(walk.bind_off(*step[1][0], keep=keep))
            else:
                rows.append(walk.row(each) if each else PLAIN_ROW)
        return walk.placed(tuple(rows))

    def _edges_of_rows(self, view: BandView, plan: StationPlan, begin: Begin) -> list[list[tuple[Edge, int]]]:
        """For each row the edges that are shaped in it, each with +1 where it grows and −1 where it shrinks."""
        out: list[list[tuple[Edge, int]]] = [[] for _ in range(plan.rows)]
        for stretch in plan.stretches:
            for row in stretch.schedule.at:
                sign = 1 if stretch.grows else -1
                edges = self._edges_shaped(view, stretch, row)
                out[stretch.first + row - 1 - begin.row] = [(edge, sign) for edge in edges]
        return out

    def _edges_shaped(self, view: BandView, stretch: Stretch, row: int) -> tuple[Edge, ...]:
        if self.edges == "right" or self.edges == "left":
            return (self.edges,)
        if self.edges == "both" or row in stretch.twice:
            return ("right", "left")
        side = Side.RS if view.round else side_of(stretch.first + row - 1)
        return ("right",) if side is Side.RS else ("left",)

    def _steps_of_rows(
        self, plan: StationPlan, begin: Begin
    ) -> dict[int, tuple[StepKind, tuple[tuple[Edge, int], ...]]]:
        """For rows of the band, from 0: whether stitches are bound off or crossed away, at which edges, how many."""
        out: dict[int, tuple[StepKind, tuple[tuple[Edge, int], ...]]] = {}
        for step in self.steps:
            first = begin.row + plan.stations[step.station].row
            out |= {row - begin.row: (step.kind, each) for row, each in step.rows(first).items()}
        return out

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
        """Its edges, and so its steps, lie where they are worked; a tube's rows lie about one middle."""
        return even_ends(view, plan) if view.round else edge_ends(view, plan, active)

    def sentences(
        self, view: BandView, plan: StationPlan, active: ActiveColumns, *, first: int
    ) -> Iterator[PatternStretch]:
        """Steps, then how often the edges are shaped, from station to station."""
        for above, (a, b) in enumerate(pairwise(plan.stations), start=1):
            if b.row <= a.row:
                continue
            yield from steps_in_pattern(view, self.stepped(above - 1), first + a.row, count=a.count)
            stretch = next(s for s in plan.stretches if s.above == above)
            if stretch.schedule.rows:
                sentence = edges_sentence(view, stretch, self.edges, manner=self.manner, count=b.count)
                yield stretch_in_pattern(stretch, sentence)

    def mirrored(self, segments: int) -> EdgeShaped:
        """Its edges exchanged, and the steps at them."""
        return replace(self, edges=MIRRORED[self.edges], steps=tuple(step.mirrored() for step in self.steps))
