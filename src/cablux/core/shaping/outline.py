"""The outline a knitter wants: stations with their widths, and the way in which the piece is shaped between them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from .lives import IncreaseKind
from .schedule import Rate, ScheduleManner

ShapedEdges = Literal["both", "right", "left", "in turn"]
"""Which edges are shaped: in turn means at the beginning of each row, so one edge and then the other."""
EDGES: tuple[ShapedEdges, ...] = ("both", "right", "left", "in turn")
DecreaseLean = Literal["along", "against", "k2tog"]
"""Decreases lean along the edge, against it, or are the same as they are worked at both."""
LEANS: tuple[DecreaseLean, ...] = ("along", "against", "k2tog")


@dataclass(frozen=True)
class Station:
    """A height of the body at which it is to have a width; `count` and `row` are 0 and None where they are found.

    With a count of its own the width may be 0: it follows.
    `paced`: it is reached as fast as the rows allow, one change in every row in which it may be shaped; its height
    follows from that.
    """

    name: str
    width_mm: float
    at_mm: float = 0.0
    count: int = 0
    row: int | None = None
    paced: bool = False


ALL = -1
"""A section's count where all its columns live."""


@dataclass(frozen=True)
class Section:
    """What lies between two lines and is shaped by itself: the segments from `first` to `last`, from the right.

    `counts` has its count at each station, `ALL` where all of its columns live. `name`: what the words call it.
    """

    first: int
    last: int
    counts: tuple[int, ...]
    edges: ShapedEdges = "both"
    name: str = ""


@dataclass(frozen=True)
class Holder:
    """A section that is put on a holder in the row after a station; `cast_on` stitches take its place."""

    name: str
    section: int
    station: int
    cast_on: int = 0


StepKind = Literal["bound off", "crossed"]
STEP_EDGES: tuple[Literal["right", "left"], ...] = ("right", "left")
CROSSED = (2, 3)
"""How many stitches a crossing that decreases can take away: of 2 over 2, or of 3 over 3."""


@dataclass(frozen=True)
class Step:
    """Stitches that go at an edge in the rows after a station: such counts one after the other.

    Bound off, they go at the beginnings of rows: right-side rows begin at the right edge, wrong-side rows at the left
    one. Crossed, they go in right-side rows, inside the edge stitches, where as many others are crossed and worked
    together with them.
    """

    station: int
    counts: tuple[int, ...]
    edge: Literal["both", "right", "left"] = "both"
    kind: StepKind = "bound off"

    @property
    def stitches(self) -> int:
        """All that it takes away."""
        return sum(self.counts) * (2 if self.edge == "both" else 1)

    def rows(self, first: int) -> dict[int, tuple[tuple[Literal["right", "left"], int], ...]]:
        """For each row by its number in the piece, the first after the station being `first`: edges and stitches."""
        sides = [edge for edge in STEP_EDGES if self.edge in ("both", edge)]
        if self.kind == "crossed":
            begin = first + (first + 1) % 2
            return {begin + 2 * n: tuple((edge, count) for edge in sides) for n, count in enumerate(self.counts)}
        left = {edge: list(self.counts) for edge in sides}
        out: dict[int, tuple[tuple[Literal["right", "left"], int], ...]] = {}
        while any(left.values()):
            edge: Literal["right", "left"] = "right" if first % 2 else "left"
            if left.get(edge):
                out[first] = ((edge, left[edge].pop(0)),)
            first += 1
        return out


HeelKind = Literal["turned", "short rows"]


@dataclass(frozen=True)
class Bend:
    """A band that short rows bend: the radius of its inside edge, and which edge that is."""

    radius_mm: float
    inside: Literal["right", "left"] = "right"


@dataclass(frozen=True)
class Shaping:
    """How a band is shaped: its stations from the bottom, and what is done between them at its edges, or along lines.

    With `sections` its edges stay as they are, and each section has a count of its own at every station. With a `bend`
    its count stays, and the heights are those of its inside edge. A `heel` has rows of its own.
    `lead`: plain rows of the band before its shaping begins. `cabled`: a 2/2 or 3/3 cable that a section has come down
    to is crossed and halved at once, in place of two or three decreases.

    `steps`: what goes in steps after a station, before anything else is done on the way to the next. `short`: what each
    row works, counted from the right: the first stitch, and the first beyond; its counts stay, as at the first station.

    `rates` are the knitter's own for each stretch between two stations; where a stretch has none they are computed in
    the `manner` asked for. `every_row`: wrong-side rows are shaped too. `sewn`: crossings keep clear of the edges.
    `whole_panels`: a panel begins where all of it lives and ends before it loses a column, on whole repeats;
    elsewhere its columns are worked as the ground beside it.
    """

    stations: tuple[Station, ...]
    edges: ShapedEdges = "both"
    increase: IncreaseKind = "M1"
    lean: DecreaseLean = "along"
    manner: ScheduleManner = "blocks"
    every_row: bool = False
    rates: tuple[tuple[Rate, ...], ...] = ()
    sewn: bool = False
    whole_panels: bool = True
    sections: tuple[Section, ...] = ()
    holders: tuple[Holder, ...] = ()
    bend: Bend | None = None
    heel: HeelKind | None = None
    lead: int = 0
    cabled: bool = False
    steps: tuple[Step, ...] = ()
    short: tuple[tuple[int, int], ...] = ()

    @property
    def writes_rows(self) -> bool:
        """Whether its rows are told one by one, a heel's or short rows: they are few, and no schedule."""
        return self.heel is not None or bool(self.short)

    def stepped(self, station: int) -> tuple[Step, ...]:
        """The steps after a station."""
        return tuple(s for s in self.steps if s.station == station)

    @property
    def step(self) -> int:
        """How many stitches a change adds or takes away."""
        return 2 if self.edges == "both" else 1
