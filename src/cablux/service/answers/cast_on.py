"""How a piece begins and ends: its counts, both edges, the rows that change the count, and the ways to end the rows."""

from __future__ import annotations

from typing import Literal

from ...core.gauge import Method
from ...core.library import FamilyName
from ...core.piece.border import CastOn
from ...core.units import Unit
from .answer import Answer


class PieceCounts(Answer):
    """The counts a knitter came for: cast on, in each body band, at the end; `widest`: all columns of the first band.

    `difference`: stitches made between the cast-on and the body (fewer: less than none), in `change_rows` rows.
    `begun`: its first stitches are those of other pieces. `shaped`: of each band, whether its count changes in it.
    """

    cast_on: int
    body: int
    bands: tuple[int, ...]
    widest: int
    bind_off: int
    difference: int
    change_rows: int
    begun: bool
    shaped: tuple[bool, ...]
    panels: bool
    round: bool
    steady: bool

    @property
    def row(self) -> str:
        """What a row is called."""
        return "round" if self.round else "row"


class SegmentWidth(Answer):
    """A segment's stitches, its draw-in and the width that comes of them, and the stitches that lie under it."""

    name: str
    family: FamilyName
    stitches: int
    draw_in: float
    width_mm: float
    below: int


class BandWidths(Answer):
    """A body band segment by segment, what it comes to, and the stitches below it: of the border or of a band.

    `width_mm` is by what the layout is sized by, `expected_mm` by all that is known, give or take `expected_80_mm`.
    `lead` rows set it up, `rows` are of its charts, each `row_mm` high.
    """

    segments: tuple[SegmentWidth, ...]
    stitches: int
    below: int
    width_mm: float
    plain_mm: float
    expected_mm: float
    expected_80_percent_mm: float
    lead: int
    rows: int
    row_mm: float

    @property
    def difference(self) -> int:
        """Stitches that the band has more than what is below it (fewer: less than none)."""
        return self.stitches - self.below


class EdgeCounts(Answer):
    """An edge: its border, and the rows between that and the body beside it. `own_count`: chosen by the knitter, or 0.

    `multiple` and `balance` are what the border's pattern needs.
    """

    style: CastOn
    count: int
    body: int
    difference: int
    rows: int
    border: str
    border_name: str
    border_rows: int
    border_mm: float
    factor: float
    spread: Literal["cables", "even"]
    own_count: int
    multiple: int
    balance: int


class EdgeWay(Answer):
    """Stepped or straight, with what each would mean; `refusal` says why one cannot be had."""

    style: CastOn
    chosen: bool
    edge: EdgeCounts | None
    refusal: str


class CountChange(Answer):
    """A row that changes the count, as worked, with its counts."""

    row: int
    side: str
    before: int
    after: int
    text: str


class PieceEnd(Answer):
    """One end of a piece: its edge, the ways to choose from, the rows that change the count, how to work the edge.

    `instead` tells what is done where nothing is cast on, or bound off, since another piece lies there or will.
    """

    end: Literal["bottom", "top"]
    name: str
    edge: EdgeCounts
    shaped: bool
    ways: tuple[EdgeWay, ...]
    changes: tuple[CountChange, ...]
    advice: tuple[str, ...]
    instead: str


class PanelEnding(Answer):
    """A panel's ends: plain rows below its first crossing and above its last, and how the top looks."""

    name: str
    before: int
    after: int
    whole: bool
    look: Literal["alike", "rests", "cut"]


class PanelPhase(Answer):
    """A panel that begins within its repeat, and at which of its rows."""

    name: str
    row: int


class RowsWay(Answer):
    """A way to end the rows; `cut`: panel stitches that stop in mid motif."""

    name: str
    good_for: str
    rows: int
    height_mm: float
    cut: int
    phases: tuple[PanelPhase, ...]


class PanelsTogether(Answer):
    """Of so many panels of a band that differ, the rows of its charts on which all begin a repeat together."""

    panels: int
    rows: tuple[int, ...]


class PieceRows(Answer):
    """The rows of a piece: of its borders, in all, how each panel ends, and the ways to end it, the first as it is."""

    bottom: int
    top: int
    total: int
    height_mm: float
    wanted_mm: float
    endings: tuple[PanelEnding, ...]
    ways: tuple[RowsWay, ...]
    together: tuple[PanelsTogether, ...]

    @property
    def cut(self) -> list[str]:
        """The panels that stop in mid motif."""
        return [each.name for each in self.endings if each.look == "cut"]


class NamedPattern(Answer):
    """A pattern of the library."""

    id: str
    name: str


class PieceCastOn(Answer):
    """How a piece begins and ends. `stitches_to_10cm`, `stitch_mm` and `row_mm` are of the stockinette it is sized by.

    `finished`: its size in words where that is no width and height. `ending`: what is done with its last stitches.
    `cords_mm`: the circular needles that its stitches sit well on. `between`: the rows that lead from band to band.
    """

    name: str
    unit: Unit
    counts: PieceCounts
    wanted_mm: float
    tolerance_mm: float
    stitches_to_10cm: float
    stitch_mm: float
    row_mm: float
    method: Method
    swatched: bool
    finished: str
    bands: tuple[BandWidths, ...]
    ends: tuple[PieceEnd, PieceEnd]
    between: tuple[CountChange, ...]
    meets: bool
    dense: bool
    ending: Literal["bound off", "held", "drawn together", "grafted together", "grafted"]
    rows: PieceRows
    borders: tuple[NamedPattern, ...]
    cords_mm: tuple[float, ...]

    @property
    def bottom(self) -> PieceEnd:
        """Where it begins."""
        return self.ends[0]
