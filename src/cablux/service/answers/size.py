"""A project's numbers: its cast-on and size, the layouts that fit, its pieces row by row, its joins; and all sizes."""

from __future__ import annotations

from ...core.units import Unit
from .answer import Answer


class Measured(Answer):
    """A measure of a piece whose rows do not lie level, such as “tip to tip”."""

    name: str
    mm: float


class SegmentCount(Answer):
    """A segment of a band, from the right."""

    name: str
    role: str
    stitches: int


class BandLayout(Answer):
    """A body band: its rows, and its segments from the right."""

    rows: int
    segments: tuple[SegmentCount, ...]


class LayoutOffer(Answer):
    """A layout that fits: what it is good for, its stitches segment by segment, and whether none is better."""

    name: str
    body: int
    width_mm: float
    good_for: str
    chance: float
    optimal: bool
    doubt: str
    segments: tuple[int, ...]


class StationWidth(Answer):
    """A place at which a piece is to have a width: wanted, and as it comes out."""

    name: str
    at_mm: float
    wanted_mm: float
    expected_mm: float
    count: int


class RowsInOne(Answer):
    """Rows of one kind, such as the bottom border: from which to which, and the counts before and after them."""

    name: str
    from_row: int
    begins: int
    to_row: int
    ends: int


class PieceSize(Answer):
    """One piece: its counts after each row, its stations, and the parts that it is worked in."""

    number: int
    name: str
    copies: int
    cast_on: int
    bind_off: int
    rows: int
    width_mm: float
    height_mm: float
    size: tuple[Measured, ...] = ()
    counts: tuple[int, ...]
    stations: tuple[StationWidth, ...]
    parts: tuple[RowsInOne, ...]


class EdgeNamed(Answer):
    """An edge of a piece."""

    piece: str
    edge: str


class OpeningAlong(Answer):
    """What a join leaves open."""

    name: str
    from_mm: float
    to_mm: float


class JoinLength(Answer):
    """Two edges that meet: how long each is, and the way round what they close, if they close anything."""

    one: EdgeNamed
    other: EdgeNamed
    how: str
    swallows: int
    one_mm: float
    other_mm: float
    way_round_mm: float | None
    open: tuple[OpeningAlong, ...]


class ProjectSize(Answer):
    """The numbers of a project, those of its first piece as the bench shows them."""

    name: str
    unit: Unit
    cast_on: int
    body: int
    increase: int
    increase_rows: int
    style: str
    width_mm: float
    width_80_percent_mm: float
    wanted_mm: float
    tolerance_mm: float
    chance: float
    rows: int
    height_mm: float
    size: tuple[Measured, ...] = ()
    bind_off: int
    bands: tuple[BandLayout, ...]
    segments: tuple[SegmentCount, ...]
    answers: tuple[LayoutOffer, ...]
    refusal: str
    pieces: tuple[PieceSize, ...]
    joins: tuple[JoinLength, ...]
    cautions: tuple[str, ...]


class GradedPiece(Answer):
    """A piece in one size; `begun`: it is not cast on. `stations`: its counts by their names."""

    name: str
    copies: int
    begun: bool
    cast_on: int
    rows: int
    bind_off: int
    width_mm: float
    height_mm: float
    stations: dict[str, int]


class SizeNumbers(Answer):
    """A project in one size, or why it cannot be had in it."""

    size: str
    refusal: str
    pieces: tuple[GradedPiece, ...]
