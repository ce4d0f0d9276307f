"""What lies on the bench: a band of the piece segment by segment, what is chosen on it, how it is shaped."""

from __future__ import annotations

from typing import Literal

from ...core.gauge import Method, State
from ...core.library import FamilyName
from ...core.piece.segment import Role
from ...core.units import Unit
from .answer import Answer
from .cast_on import NamedPattern, PieceCounts


class SegmentOnBench(Answer):
    """A segment of a band. `partner`: it changes with what is chosen; `warned`: a caution points at it."""

    name: str
    pattern: str
    pattern_name: str
    family: FamilyName
    role: Role
    stitches: int
    repeats: int
    multiple: int
    locked: bool
    placed: bool
    mirrored: bool
    width_mm: float
    partner: bool
    warned: bool

    @property
    def is_side(self) -> bool:
        """Whether it is an edge or a seam."""
        return self.role in ("edge", "seam")


class ChosenSegment(Answer):
    """What else is known of the segment that is chosen first, the one at `place`.

    `first_row`: the row of its chart, of `chart_rows`, that it starts at. `wander` stitches to the left (to the right:
    less than none), one every `wander_every` rows, `wander_degrees` from upright. `least`, `most` and `by` are the
    limits of suggested layouts; 0 is no limit. `others`: what could stand in its place.
    """

    place: int
    multiple_text: str
    repeat_rows: int
    purl_margin: int
    first_row: int
    chart_rows: int
    wander: int
    wander_every: int
    wander_degrees: float
    least: int
    most: int
    by: int
    others: tuple[NamedPattern, ...]


class LayoutWarning(Answer):
    """What to check: what is the matter, what would mend it; `over_mm`: by how much over the whole body, or 0."""

    kind: str
    text: str
    mend: str
    over_mm: float
    short_rows: int


class BandStation(Answer):
    """A place of a shaped band: wanted and as it will be. `own_count` is typed, or 0; `fixed`: its height follows."""

    name: str
    fixed: bool
    wanted_at_mm: float
    at_mm: float
    wanted_mm: float
    width_mm: float
    count: int
    own_count: int


class AlikeSections(Answer):
    """Sections that are shaped alike, by the place of the first: their counts at the stations, and which are typed."""

    name: str
    first: int
    counts: tuple[int, ...]
    typed: tuple[bool, ...]


class BandStep(Answer):
    """Stitches that go at an edge one lot after the other, after a place."""

    after: str
    kind: Literal["bound off", "crossed"]
    edge: Literal["both", "right", "left"]
    counts: tuple[int, ...]


class BandStretch(Answer):
    """Rows between two places, and how they are shaped."""

    first: int
    last: int
    sentence: str


class ShapingManner(Answer):
    """How stitches are made and taken away, and in which rows."""

    increase: str
    lean: str
    schedule: str
    every_row: bool
    sewn: bool
    whole_panels: bool


class BandShaping(Answer):
    """How a band is shaped. What another kind of shaping has is None, or empty.

    `rates`: the knitter's own rows for each stretch, as they are typed; `strays`: how many changes the edge is ahead
    of a straight line, or behind it, at most. `short_rows`: how many there are, and what the first and last work.
    """

    kind: str
    stations: tuple[BandStation, ...]
    at_edges: bool
    in_sections: bool
    sections: tuple[AlikeSections, ...]
    steps: tuple[BandStep, ...]
    stretches: tuple[BandStretch, ...]
    rates: tuple[str, ...]
    strays: float
    edges: str | None
    manner: ShapingManner | None
    cabled: bool | None
    radius_mm: float | None
    inside: Literal["right", "left"] | None
    heel: Literal["turned", "short rows"] | None
    short_rows: tuple[int, int, int] | None


class BandRowsOnBench(Answer):
    """The rows of a body band's charts; `set_rows` are typed, or 0; `share` of the height where they are not."""

    shaped: bool
    rows: int
    set_rows: int
    share: float


class PieceOnBench(Answer):
    """The piece on the bench and the band of it that is at hand, `at`, from 0.

    `width_mm` is the band's by all that is known, give or take `width_80_percent_mm`; `plain_mm` if nothing drew in.
    `on_the_way`: it is wider than the band `main`, whose width is the piece's. `readings` of swatches are known, and
    `measured` says whether the piece was. `unlike`: what would change if both halves were made alike.
    `row_step`: by so many rows a panel can be moved.
    """

    name: str
    unit: Unit
    counts: PieceCounts
    bands: tuple[BandRowsOnBench, ...]
    at: int
    main: int
    on_the_way: bool
    bare: bool
    symmetric: bool
    unlike: str
    segments: tuple[SegmentOnBench, ...]
    chosen: ChosenSegment
    shaping: BandShaping | None
    cautions: tuple[LayoutWarning, ...]
    stitches: int
    width_mm: float
    width_80_percent_mm: float
    plain_mm: float
    chance: float
    wanted_mm: float
    tolerance_mm: float
    rows: int
    height_mm: float
    wanted_height_mm: float
    finished: str
    finish: State
    method: Method
    readings: int
    measured: bool
    meets: bool
    short_rows: bool
    row_step: int
    least_background: int
    gaps: Literal["equal", "outside"]
    multiple: int
    plus: int
    rows_to_stitches: float
