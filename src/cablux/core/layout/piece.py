"""The piece: bands of segments from cast-on to bind-off, as plain values."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from ..gauge import Estimate, Evidence, Gauge, Measure, Reading
from ..library import Pattern, find_pattern
from ..shaping.outline import Shaping
from .parts import BOUND_OFF, PartEnd, Source
from .segment import Role, Segment, library_segment

CastOn = Literal["stepped", "straight"]
SpreadStyle = Literal["cables", "even"]
Gaps = Literal["equal", "outside"]

SETUP_ROWS = 2  # common practice: two plain rows before the first crossing


@dataclass(frozen=True)
class Band:
    """A body band: its segments from right to left, and its rows.

    Where it is `symmetric` only its right half is kept: `own` runs from the right edge to the middle, and its last
    segment stands there alone if `middle`. `rows` is 0 where they follow from the height, of which it then
    takes its `share`. Where it is shaped (`shaping`) its segments are those of its widest row, and its rows follow
    from its stations. `runs_on`: its charts go on from those of the band below, where those have stopped.
    """

    own: tuple[Segment, ...]
    symmetric: bool = False
    middle: bool = True
    rows: int = 0
    share: float = 1.0
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


@dataclass(frozen=True)
class Border:
    """The bottom or the top border: its pattern between the edges, its rows (0: there is none), and its count.

    `factor`: how wide it is to lie, as a part of the body's width. `count` is 0 where it follows from the style.
    """

    pattern_id: str = "garter"
    rows: int = 10
    style: CastOn = "stepped"
    spread: SpreadStyle = "cables"
    factor: float = 1.0
    count: int = 0

    @cached_property
    def pattern(self) -> Pattern:
        """Its pattern."""
        return find_pattern(self.pattern_id)


@dataclass(frozen=True)
class Piece:
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
    width_mm: float
    height_mm: float
    evidence: Evidence
    bands: tuple[Band, ...]
    tolerance_mm: float = 15.0
    bottom: Border = Border()
    top: Border = Border()
    round: bool = False
    gaps: Gaps = "equal"
    least_background: int = 2
    total: tuple[int, int] = (1, 0)
    setup_rows: int = SETUP_ROWS
    dense: bool = False
    short_rows: bool = False
    meets: bool = False
    begins: tuple[Source, ...] = ()
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


def is_symmetric(segments: tuple[Segment, ...], *, counts: bool = True) -> bool:
    """Whether the segments read the same from both edges, with or without their counts.

    A lone middle panel may lean one way: nothing can be its partner, so it does not spoil the symmetry.
    """
    return not describe_asymmetry(segments, counts=counts)


def describe_asymmetry(segments: tuple[Segment, ...], *, counts: bool = True) -> str:
    """The first pair that is not a mirror image, as a sentence; empty where all are."""
    for i in range(len(segments) // 2):
        a, b = segments[i], segments[-1 - i]
        if not a.mirror_of(b):
            return f"{a.name} (segment {i + 1}) does not mirror {b.name} (segment {len(segments) - i})."
        if counts and a.repeats != b.repeats:
            return f"{a.name} has {a.stitches} stitches on one side and {b.stitches} on the other."
    return ""


__all__ = [
    "Band",
    "BandView",
    "Border",
    "CastOn",
    "Gaps",
    "Piece",
    "Role",
    "Segment",
    "SpreadStyle",
    "describe_asymmetry",
    "is_symmetric",
    "library_segment",
]
