"""The sections of a shaped band row by row: which columns their ends make and take, and which go onto a holder."""

from __future__ import annotations

from itertools import chain

from ..notation import Lean
from ..shaping.lives import PLAIN_ROW, Column, Lives, MadeColumn, RowShaping, TakenColumn
from ..shaping.outline import Section, Shaping
from .edge_walk import Edge
from .plane import Plane
from .sections import begins_with, holder_of, section_counts, section_places, window
from .stretches import StationPlan, Stretch


def section_lives(plane: Plane, plan: StationPlan, first: int) -> Lives:
    """The lives of all columns of a band with sections, whose first row is row `first` of the piece."""
    shaping = plane.view.shaping
    assert shaping is not None, "only shaped bands come here"
    counts = section_counts(plane, shaping)
    made: list[list[MadeColumn]] = [[] for _ in range(plan.rows)]
    taken: list[list[TakenColumn]] = [[] for _ in range(plan.rows)]
    held: list[list[Column]] = [[] for _ in range(plan.rows)]
    begin: list[Column] = []
    for at, section in enumerate(shaping.sections):
        walk = _SectionWalk(plane, shaping, section, counts[at][0])
        begin += walk.columns
        for above, (_, upper) in enumerate(zip(plan.stations, plan.stations[1:], strict=False), start=1):
            holder = holder_of(shaping, at, above - 1)
            if holder is not None and upper.row > plan.stations[above - 1].row:
                row = plan.stations[above - 1].row
                held[row] += walk.columns
                made[row] += walk.hold(begins_with(shaping, at, above - 1, counts[at][above - 1]))
            stretch = next(s for s in plan.stretches if (s.above, s.section) == (above, at))
            for change, row in enumerate(stretch.schedule.at, start=1):
                edges = _edges(section, stretch, change)
                number = stretch.first + row - 1 - first
                for edge in edges:
                    if stretch.grows:
                        made[number].append(walk.make(edge, both=len(edges) == 2, before=made[number]))
                    else:
                        taken[number].append(walk.take(edge, both=len(edges) == 2))
                walk.settle(edges, grows=stretch.grows)
    inside = {place for s in shaping.sections for place in section_places(plane, s)}
    lines = [plane.column(place) for place in range(plane.width) if place not in inside]
    view = plane.view
    sides = [((0, len(view.segments) - 1)[k], c) for k, s in enumerate(view.sides) for c in range(s.stitches)]
    rows = (
        RowShaping(tuple(m), tuple(t), None, tuple(sorted(h))) if m or t or h else PLAIN_ROW
        for m, t, h in zip(made, taken, held, strict=True)
    )
    return Lives(tuple(sorted(chain(begin, lines, sides))), tuple(rows))


def _edges(section: Section, stretch: Stretch, change: int) -> tuple[Edge, ...]:
    """The ends at which a change is made, the changes of a stretch counted from 1."""
    if section.edges == "both":
        last = stretch.single and change == stretch.schedule.changes
        return ("right",) if last else ("right", "left")
    if section.edges == "in turn":
        return ("right",) if change % 2 else ("left",)
    return (section.edges,)


class _SectionWalk:
    """One section: which of its columns live now, from place `low` up to but not `high` of the plane."""

    def __init__(self, plane: Plane, shaping: Shaping, section: Section, count: int) -> None:
        self.plane, self.shaping, self.section = plane, shaping, section
        self.places = section_places(plane, section)
        self._open(count)

    def _open(self, count: int) -> None:
        live = window(self.section, len(self.places), count)
        self.low, self.high = self.places.start + live.start, self.places.start + live.stop

    @property
    def columns(self) -> tuple[Column, ...]:
        """Those that live now."""
        return self.plane.columns(self.low, self.high)

    def hold(self, cast_on: int) -> list[MadeColumn]:
        """What is cast on where all that lived has been put on a holder."""
        self._open(cast_on)
        return [MadeColumn(column, "cast on") for column in self.columns]

    def make(self, edge: Edge, *, both: bool, before: list[MadeColumn]) -> MadeColumn:
        """The column that an increase at one end makes."""
        place = self.low - 1 if edge == "right" else self.high
        lean = Lean.RIGHT if edge == "right" else Lean.LEFT
        kind, beside = self.shaping.increase, None
        if kind == "kfb":
            beside = self.plane.column(self.low if edge == "right" else self.high - 1)
            if self.high - self.low < (2 if both else 1) or any(m.beside == beside for m in before):
                kind, beside = "M1", None  # there may be no other stitch left to make two of
        return MadeColumn(self.plane.column(place), kind, lean, beside)

    def take(self, edge: Edge, *, both: bool) -> TakenColumn:
        """The outermost column at one end, into the next one; two ends that meet are worked into the middle."""
        along = Lean.LEFT if edge == "right" else Lean.RIGHT
        lean = {"along": along, "against": along.other, "k2tog": Lean.RIGHT}[self.shaping.lean]
        place, into = (self.low, self.low + 1) if edge == "right" else (self.high - 1, self.high - 2)
        return TakenColumn(self.plane.column(place), self.plane.column(into), lean)

    def settle(self, edges: tuple[Edge, ...], *, grows: bool) -> None:
        """The row is done at these ends."""
        way = -1 if grows else 1
        self.low += way * ("right" in edges)
        self.high -= way * ("left" in edges)
