"""The piece: bands of segments from cast-on to bind-off, as plain values."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from ..errors import IllegalPiece
from ..gauge import Basis, Estimate, Fibre, Gauge, Measure, Reading, School, SchoolMeasure, State, estimate
from ..library import Pattern, find_pattern
from ..notation import Chart, Turn, WrapTurn

Role = Literal["edge", "panel", "background"]
CastOn = Literal["stepped", "straight"]
Spread = Literal["cables", "even"]

MAX_STITCHES = 1_500  # our choice: three times the widest bed cover in the thinnest yarn we accept for one
MAX_SEGMENTS = 60
SIZE_MM = (50.0, 4_000.0)


@dataclass(frozen=True)
class Segment:
    """A run of stitches in one pattern: `repeats` times its multiple, plus its balance."""

    role: Role
    pattern: Pattern
    repeats: int
    mirrored: bool = False
    locked: bool = False

    @property
    def pattern_id(self) -> str:
        """The id of its pattern, from the library or the knitter's own."""
        return self.pattern.id

    @cached_property
    def chart(self) -> Chart:
        """The chart as placed, mirrored if asked."""
        return self.pattern.chart.mirrored() if self.mirrored else self.pattern.chart

    @cached_property
    def stitches(self) -> int:
        """Its stitches on the needle."""
        return self.chart.width(self.repeats)

    @property
    def name(self) -> str:
        """The pattern's name, marked if mirrored."""
        return f"{self.pattern.name} (mirrored)" if self.mirrored else self.pattern.name

    def mirror_of(self, other: Segment) -> bool:
        """Whether the two would be each other's picture in a mirror."""
        mine, theirs = self.chart.mirrored(), other.chart
        sizes = [(c.multiple, c.balance, c.height) for c in (mine, theirs)]
        return (
            self.role == other.role
            and sizes[0] == sizes[1]
            # two repeats tell where the box stands; where it was cut does not matter to the eye
            and all(a.ops(2) == b.ops(2) for a, b in zip(mine.rows, theirs.rows, strict=True))
        )


def segment(role: Role, pattern_id: str, repeats: int, *, mirrored: bool = False, locked: bool = False) -> Segment:
    """A segment in a pattern of the library. Raises IllegalPiece if there is none of that id."""
    return Segment(role, find_pattern(pattern_id), repeats, mirrored, locked)


@dataclass(frozen=True)
class Piece:
    """A flat piece with borders: what the knitter wants, and the segments of its body from right to left.

    `width_mm`, `height_mm` are the finished size wanted, `tolerance_mm` how far off the width may be.
    `border_rows` counts the rows of each border, the increase (decrease) row among them. `gauge` is the one
    given, in the state in which the piece will be finished; `readings` are those of swatches,
    `progress` those of the piece itself. `body_rows` is 0 where they follow from the height.
    """

    name: str
    width_mm: float
    height_mm: float
    gauge: Gauge
    segments: tuple[Segment, ...]
    tolerance_mm: float = 15.0
    border_id: str = "garter"
    border_rows: int = 10
    cast_on: CastOn = "stepped"
    spread: Spread = "cables"
    symmetric: bool = True
    least_background: int = 2
    readings: tuple[Reading, ...] = ()
    progress: tuple[Reading, ...] = ()
    body_rows: int = 0
    finish: State = "washed"
    fibre: Fibre = "other"
    school: School = "estimate"

    @cached_property
    def estimate(self) -> Estimate:
        """What is known of the cloth's size from the gauge given and every reading."""
        return estimate(Basis(self.gauge, self.readings, self.finish, self.fibre))

    @cached_property
    def outlook(self) -> Estimate:
        """The estimate with what was measured on the piece itself, which no longer changes how it was begun."""
        return estimate(Basis(self.gauge, (*self.readings, *self.progress), self.finish, self.fibre))

    @cached_property
    def measure(self) -> Measure:
        """What the layout is sized by: the estimate, or the school that was chosen."""
        return self.estimate if self.school == "estimate" else SchoolMeasure(self.school, self.estimate)

    @cached_property
    def border(self) -> Pattern:
        """The pattern of the bottom and top border between the edges."""
        return find_pattern(self.border_id)

    @property
    def stitches(self) -> int:
        """The body's count."""
        return sum(s.stitches for s in self.segments)

    @property
    def edges(self) -> tuple[Segment, Segment]:
        """The right and the left edge."""
        return self.segments[0], self.segments[-1]

    @property
    def inner(self) -> tuple[Segment, ...]:
        """What lies between the edges."""
        return self.segments[1:-1]

    def with_segments(self, segments: tuple[Segment, ...]) -> Piece:
        """The same piece with another body."""
        return replace(self, segments=segments)


def problems(piece: Piece) -> Iterator[str]:
    """Each reason why the piece cannot be knitted as it is, as a sentence."""
    for size, what in ((piece.width_mm, "width"), (piece.height_mm, "height")):
        if not SIZE_MM[0] <= size <= SIZE_MM[1]:
            between = f"between {SIZE_MM[0] / 10:g} and {SIZE_MM[1] / 10:g} cm"
            yield f"The {what} of {size / 10:g} cm cannot be; it lies {between}."
    if not 0 < piece.tolerance_mm <= piece.width_mm / 2:
        tolerance = f"A tolerance of {piece.tolerance_mm / 10:g} cm"
        yield f"{tolerance} is of no use; give more than 0 and less than half the width."
    if not 3 <= len(piece.segments) <= MAX_SEGMENTS:
        yield f"A body has an edge on each side and something between, and at most {MAX_SEGMENTS} segments."
        return
    roles = [s.role for s in piece.segments]
    if roles[0] != "edge" or roles[-1] != "edge" or "edge" in roles[1:-1]:
        yield "The first and the last segment are the edges, and there are no others."
    for at, s in enumerate(piece.segments, start=1):
        if s.role not in s.pattern.uses:
            yield f"Segment {at}: {s.pattern.name} is not made to be used as {_a(s.role)}."
        if s.repeats < 1:
            yield f"Segment {at}: {s.pattern.name} needs at least one repeat of {s.chart.multiple} stitches."
        if any(isinstance(op, Turn | WrapTurn) for row in s.chart.rows for op in row.ops()):
            yield f"Segment {at}: {s.pattern.name} has short rows, which cannot be worked beside other patterns."
    if "border" not in piece.border.uses:
        yield f"{piece.border.name} is not made to be used as a border."
    if piece.border_rows % 2 or not 2 <= piece.border_rows <= 60:
        yield f"A border has an even number of rows from 2 to 60, not {piece.border_rows}."
    if piece.body_rows % 2 or not 0 <= piece.body_rows <= 5000:
        yield f"The body has an even number of rows, not {piece.body_rows}."
    if not 1 <= piece.least_background <= 40:
        yield f"A background of at least {piece.least_background} stitches makes no sense; give 1 to 40."
    if piece.stitches > MAX_STITCHES:
        yield f"{piece.stitches} stitches on the needle are more than the {MAX_STITCHES} we can plan."


def _a(role: str) -> str:
    return f"an {role}" if role == "edge" else f"a {role}"


def check(piece: Piece) -> Piece:
    """The piece itself, or IllegalPiece with every reason."""
    found = list(problems(piece))
    if found:
        raise IllegalPiece(" ".join(found))
    return piece


def is_symmetric(segments: tuple[Segment, ...], *, counts: bool = True) -> bool:
    """Whether the segments read the same from both edges, with or without their counts.

    A lone middle panel may lean one way: nothing can be its partner, so it does not spoil the symmetry.
    """
    return not asymmetry(segments, counts=counts)


def asymmetry(segments: tuple[Segment, ...], *, counts: bool = True) -> str:
    """The first pair that is not a mirror image, as a sentence; empty where all are."""
    for i in range(len(segments) // 2):
        a, b = segments[i], segments[-1 - i]
        if not a.mirror_of(b):
            return f"{a.name} (segment {i + 1}) does not mirror {b.name} (segment {len(segments) - i})."
        if counts and a.repeats != b.repeats:
            return f"{a.name} has {a.stitches} stitches on one side and {b.stitches} on the other."
    return ""
