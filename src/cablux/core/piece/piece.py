"""The piece: bands of segments from cast-on to bind-off, as plain values; and what every kind of shaping answers."""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Annotated, ClassVar, Literal, Self

from ..declared import Called, Choosing, Ge, Gt, Le, Len, Length, Row, check_choices
from ..gauge import Estimate, Evidence, Gauge, Measure, Reading
from ..needle.columns import ActiveColumns, Column
from ..needle.stations import Begin, PatternStretch, PutAside, Station, StationCount, StationPlan, Stretch
from .border import Border
from .own_outline import OwnOutline
from .parts import BOUND_OFF, PartEnd, Source
from .segment import Segment

Gaps = Literal["equal", "outside"]

SETUP_ROWS = 2  # common practice: two plain rows before the first crossing


@dataclass(frozen=True, kw_only=True)
class Band:
    """A body band: its segments from right to left, and its rows.

    Where it is `symmetric` only its right half is kept: `own` runs from the right edge to the middle, and its last
    segment stands there alone if `middle`. `rows` is 0 where they follow from the height, of which it then
    takes its `share`. Where it is shaped (`shaping`) its segments are those of its widest row, and its rows follow
    from its stations. `runs_on`: its charts go on from those of the band below, where those have stopped.
    """

    own: Annotated[tuple[Segment, ...], Called("segments"), Len(1, 60)]
    symmetric: bool = False
    middle: bool = True
    rows: Row = 0
    share: Annotated[float, Gt(0), Le(20)] = 1.0
    shaping: Shaping | None = None
    runs_on: bool = False

    @cached_property
    def segments(self) -> tuple[Segment, ...]:
        """All segments, the mirrored half among them."""
        if not self.symmetric:
            return self.own
        return (*self.own, *(s.reflected() for s in reversed(self.twins)))

    @property
    def twins(self) -> tuple[Segment, ...]:
        """Those of `own` that have a mirrored partner."""
        if not self.symmetric:
            return ()
        return self.own[:-1] if self.middle else self.own

    def home(self, at: int) -> tuple[int, bool]:
        """Where segment `at` is kept in `own`, and whether it is the mirrored partner of that one."""
        if not self.symmetric or at < len(self.own):
            return at, False
        return len(self.segments) - 1 - at, True

    def partner(self, at: int) -> int | None:
        """The place of a segment's mirrored partner; None where it has none."""
        if not self.symmetric or self.home(at)[0] >= len(self.twins):
            return None
        return len(self.segments) - 1 - at

    def unfolded(self) -> Band:
        """The same segments without the tie between the halves."""
        return replace(self, own=self.segments, symmetric=False, middle=True) if self.symmetric else self

    def folded(self) -> Band:
        """Symmetric: the left half becomes the mirror image of the right one."""
        if self.symmetric:
            return self
        half = (len(self.own) + 1) // 2
        return replace(self, own=self.own[:half], symmetric=True, middle=len(self.own) % 2 == 1)

    def with_segments(self, segments: tuple[Segment, ...]) -> Band:
        """With all segments exchanged; a symmetric band takes the right half of them."""
        half = len(segments) - len(segments) // 2
        return (
            replace(self, own=segments[:half], middle=len(segments) % 2 == 1)
            if self.symmetric
            else replace(self, own=segments, middle=True)
        )


@dataclass(frozen=True, kw_only=True)
class Piece(Choosing):
    """A piece: what the knitter wants, and its bands from the cast-on up.

    `width_mm`, `height_mm` are the finished size wanted (in the round, the way round), `tolerance_mm` how far off
    the width may be. `total` = (m, r): the body's count is to be a multiple of m plus r. `dense`: a row that changes
    the count may make a stitch in every gap, not only after every other stitch. `short_rows`: lower edges are filled
    in with short rows as the body grows. `meets`: its last row is joined to its first, so its rows are whole
    repeats. `begins`: what it begins with, from the right, where it is not cast on; `ends`: how it ends. `inside_out`:
    a tube that is worked with its wrong side facing, in the other direction. `evidence` is what its project knows of
    the knitter and the yarn, `progress` what was measured on the piece itself.
    """

    name: str
    width_mm: Length
    height_mm: Length
    evidence: Evidence
    bands: Annotated[tuple[Band, ...], Len(1, 4)]
    tolerance_mm: Length = 15.0
    bottom: Border = Border()
    top: Border = Border()
    round: bool = False
    gaps: Gaps = "equal"
    least_background: Annotated[int, Ge(1), Le(40)] = 2
    total: tuple[int, int] = (1, 0)
    setup_rows: Annotated[int, Ge(0), Le(60)] = SETUP_ROWS
    dense: bool = False
    short_rows: bool = False
    meets: bool = False
    begins: Annotated[tuple[Source, ...], Len(0, 12)] = ()
    ends: PartEnd = BOUND_OFF
    inside_out: bool = False
    progress: tuple[Reading, ...] = ()

    @property
    def gauge(self) -> Gauge:
        """The gauge given."""
        return self.evidence.gauge

    @property
    def estimate(self) -> Estimate:
        """What is known of the cloth's size from the gauge given and every reading."""
        return self.evidence.estimate

    @cached_property
    def outlook(self) -> Estimate:
        """The estimate with what was measured on the piece itself, which no longer changes how it was begun."""
        return self.evidence.outlook(self.progress)

    @property
    def measure(self) -> Measure:
        """What the layout is sized by."""
        return self.evidence.measure

    @cached_property
    def band_views(self) -> tuple[BandView, ...]:
        """Its body bands from the cast-on up, each as it stands in the piece."""
        return tuple(BandView(self, at) for at in range(len(self.bands)))

    @cached_property
    def main_view(self) -> BandView:
        """The band whose width is the piece's: the first that keeps its count, or the first where none does."""
        return next((view for view in self.band_views if view.shaping is None), self.band_views[0])

    @cached_property
    def everything(self) -> tuple[Segment, ...]:
        """The segments of all bands."""
        return tuple(s for view in self.band_views for s in view.segments)

    def with_band(self, band: Band, at: int) -> Piece:
        """The same piece with another band at a place."""
        return replace(self, bands=(*self.bands[:at], band, *self.bands[at + 1 :]))

    @property
    def row_word(self) -> str:
        """What a row is called: worked in the round it is a round."""
        return "round" if self.round else "row"

    def row_period(self, at: int = 0) -> int:
        """After how many rows a band repeats, edges and sides included."""
        return math.lcm(self.row_step(), *(s.chart.height for s in self.band_views[at].segments))

    def row_step(self) -> int:
        """Rows that are chosen for a flat piece come in pairs, so that each part begins on the right side."""
        return 1 if self.round else 2


@dataclass(frozen=True)
class BandView:
    """One body band as it stands in its piece: its segments, beside what holds for all of the piece."""

    piece: Piece
    at: int

    @property
    def band(self) -> Band:
        """The band itself."""
        return self.piece.bands[self.at]

    @cached_property
    def segments(self) -> tuple[Segment, ...]:
        """All its segments from right to left; one alone in the round closes on itself.

        Not where its rounds would have to begin elsewhere for it and the band is shaped, which takes columns there.
        """
        found = self.band.segments
        if not self.round or len(found) > 1:
            return found
        closed = tuple(replace(s, closed=True) for s in found)
        moves = any(row.joined for s in closed for row in s.cloth.chart.rows)
        return found if moves and self.band.shaping is not None else closed

    @property
    def symmetric(self) -> bool:
        """Whether its halves are tied together."""
        return self.band.symmetric

    @property
    def shaping(self) -> Shaping | None:
        """How its count changes from row to row; None where it does not."""
        return self.band.shaping

    @property
    def stitches(self) -> int:
        """Its count."""
        return sum(s.stitches for s in self.segments)

    @cached_property
    def sides(self) -> tuple[Segment, ...]:
        """The edge (or seam stitch) at the right and at the left; none in the round."""
        return () if self.round else (self.segments[0], self.segments[-1])

    @property
    def inner(self) -> tuple[Segment, ...]:
        """What lies between the sides."""
        return self.segments if self.round else self.segments[1:-1]

    @property
    def side_stitches(self) -> int:
        """The stitches of both sides."""
        return sum(s.stitches for s in self.sides)

    @property
    def round(self) -> bool:
        """Whether the piece is a tube."""
        return self.piece.round

    @property
    def measure(self) -> Measure:
        """What the piece is sized by."""
        return self.piece.measure

    @property
    def outlook(self) -> Estimate:
        """All that is known of the cloth's size."""
        return self.piece.outlook

    def with_band(self, band: Band) -> BandView:
        """The view of another band in the same place."""
        return BandView(self.piece.with_band(band, self.at), self.at)

    def with_segments(self, segments: tuple[Segment, ...]) -> BandView:
        """The view of the same band with other segments."""
        return self.with_band(self.band.with_segments(segments))


@dataclass(frozen=True, kw_only=True)
class Shaping(ABC):
    """How a band is shaped, of whatever kind: its stations from the bottom, and what every kind answers about a band.

    Each kind is a record in a file of its own in core/shaping. `view` is always the band as it stands in its piece.
    `kind`: what a file calls it. `at_edges`: its edges alone are shaped, so its last row is known column by column.
    `told_row_by_row`: its rows are few and follow no schedule. `slopes`: its last rows end at several heights.
    """

    kind: ClassVar[str]
    at_edges: ClassVar[bool] = False
    told_row_by_row: ClassVar[bool] = False
    slopes: ClassVar[bool] = False

    stations: Annotated[tuple[Station, ...], Len(2, 12)]

    def __post_init__(self) -> None:
        check_choices(self)

    @abstractmethod
    def count_stations(self, view: BandView) -> tuple[StationCount, ...]:
        """The stations as they will be, micrometres. Raises IllegalPiece or Infeasible."""

    def stretches(self, view: BandView, stations: Sequence[StationCount], begin: Begin) -> Iterator[Stretch]:
        """What is done between the stations of a band that begins there; nothing where rows are told one by one."""
        return iter(())

    @abstractmethod
    def columns(self, view: BandView, plan: StationPlan, begin: Begin, *, begun: tuple[Column, ...]) -> ActiveColumns:
        """Which columns each row makes and takes; `begun` are those that a band below has left, if it goes on there."""

    @abstractmethod
    def chart_rows(
        self, view: BandView, active: ActiveColumns, begin: Begin, *, last_crossings: Mapping[int, int]
    ) -> tuple[tuple[int, ...], ...]:
        """For each row the chart rows of all lanes: less than 0 where a lane is worked in the background beside it.

        `last_crossings`: by lane the row of the piece after which it is crossed no more.
        """

    @abstractmethod
    def row_ends(self, view: BandView, plan: StationPlan, active: ActiveColumns) -> dict[int, tuple[float, float]]:
        """The outline: after some of its rows the left and the right end, micrometres from the middle."""

    def own_outline(
        self, view: BandView, plan: StationPlan, active: ActiveColumns, *, numbers: tuple[tuple[int, ...], ...]
    ) -> OwnOutline | None:
        """The outline of a piece of this band alone whose rows do not lie level; None where they do."""
        return None

    def sentences(
        self, view: BandView, plan: StationPlan, active: ActiveColumns, *, first: int
    ) -> Iterator[PatternStretch]:
        """What is done, as printed books tell it; `first` is the number of the band's first row."""
        return iter(())

    @property
    def lead_rows(self) -> int:
        """Plain rows of the band before its shaping begins."""
        return 0

    @property
    def keeps_clear(self) -> bool:
        """Whether crossings keep clear of its edges, which will be sewn."""
        return False

    @property
    def put_aside(self) -> tuple[PutAside, ...]:
        """What it puts on holders on the way."""
        return ()

    @property
    def in_sections(self) -> bool:
        """Whether of some segments only part of their columns is there: no band above goes on with what it has left."""
        return False

    def loop_heights(self, view: BandView) -> tuple[float, ...] | None:
        """How high each loop of a whole row is, from the right, over what the model says; None where as it says."""
        return None

    def mirrored(self, segments: int) -> Shaping | None:
        """With right and left exchanged, over so many segments; None where other rows would be worked."""
        return self

    def moved(self, first: int, beyond: int, more: int) -> Shaping:
        """Where the segments from `first` up to but not `beyond` have become so many more."""
        return self

    def scaled(self, wide: float, high: float) -> Self:
        """Its widths and heights changed in proportion; counts of their own stay."""
        stations = tuple(
            replace(s, width_mm=s.width_mm if s.count else s.width_mm * wide, at_mm=s.at_mm * high)
            for s in self.stations
        )
        return replace(self, stations=stations)


@lru_cache(maxsize=256)
def count_stations(view: BandView) -> tuple[StationCount, ...]:
    """The stations of a band; none of one that is not shaped. Raises IllegalPiece or Infeasible."""
    return view.shaping.count_stations(view) if view.shaping is not None else ()


@lru_cache(maxsize=256)
def station_plan(view: BandView, begin: Begin) -> StationPlan:
    """The stations of a shaped band that begins there, and what is done between them.

    Raises IllegalPiece or Infeasible.
    """
    stations = count_stations(view)
    return StationPlan(stations, tuple(view.shaping.stretches(view, stations, begin)) if view.shaping else ())


def stations_below(view: BandView) -> tuple[StationCount, ...]:
    """The stations of the band below, where this one goes on with the columns that it has left; else none."""
    below = view.piece.band_views[view.at - 1] if view.at and view.band.runs_on else None
    if below is None or below.shaping is None or below.shaping.in_sections or below.segments != view.segments:
        return ()
    return count_stations(below)
