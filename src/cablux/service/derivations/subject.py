"""What a derivation is made of: its lines, where their values come from, and the project it speaks of."""

from __future__ import annotations

from dataclasses import dataclass

from ...core.gauge import Gauge
from ...core.piece.piece import BandView, Piece
from ...core.piece.segment import Segment
from ...core.units import GAUGE_SPAN, fine_text, length_text
from ..errors import NotFound
from ..projects import PieceNumbers, Project

MODEL = "computed from the chart"
YOURS = "you wrote it"
CHOSEN = "you chose it"
LAYOUT = "from the layout"
SWATCH = "from your swatches"
PRACTICE = "common practice"
SUM = "worked out from the lines above"


@dataclass(frozen=True, kw_only=True)
class Line:
    """One line of a derivation: what is done, what it gives, where its value comes from; `why` opens that one's own."""

    text: str
    value: str
    source: str
    why: str = ""


@dataclass(frozen=True, kw_only=True)
class Derivation:
    """How one number came about."""

    question: str
    answer: str
    lines: tuple[Line, ...]
    aside: str = ""


@dataclass(frozen=True)
class Subject:
    """What a derivation speaks of: the project, one of its bands, and a segment of that."""

    project: Project
    band: int
    at: int

    @property
    def piece(self) -> Piece:
        """The piece that the project makes."""
        return self.project.piece

    @property
    def view(self) -> BandView:
        """The band as it stands in the piece. Raises NotFound."""
        views = self.piece.band_views
        if self.band >= len(views):
            raise NotFound("That band is no longer there.")
        return views[self.band]

    @property
    def numbers(self) -> PieceNumbers:
        """The numbers of the project."""
        return self.project.numbers

    def um(self, um: float, digits: int = 1) -> str:
        """A length in the person's unit."""
        return length_text(um / 1000.0, self.project.unit, digits)

    def fine(self, mm: float) -> str:
        """The width of a stitch or the height of a row."""
        return fine_text(mm, self.project.unit)

    def gauge_line(self, known: Gauge | None = None) -> Line:
        """The stockinette stitch that everything is measured by: the one it was cast on by, or what is known now."""
        gauge, (span, words) = known or self.piece.measure.gauge, GAUGE_SPAN[self.project.unit]
        count = gauge.stitches * span / 100.0
        source = SWATCH if self.piece.evidence.readings else "from the yarn label" if gauge.band else YOURS
        return Line(
            text=f"Your stockinette: {count:.3g} stitches to {words}, so one is",
            value=self.fine(gauge.stitch_mm),
            source=source,
        )

    def row_line(self) -> Line:
        """The stockinette row that heights are measured by."""
        gauge, (span, words) = self.piece.measure.gauge, GAUGE_SPAN[self.project.unit]
        return Line(
            text=f"Your stockinette: {gauge.rows * span / 100.0:.3g} rows to {words}, so one is",
            value=self.fine(gauge.row_mm),
            source=self.gauge_line().source,
        )

    @property
    def segment(self) -> Segment:
        """The segment it speaks of."""
        if self.at >= len(self.view.segments):
            raise NotFound("That segment is no longer there.")
        return self.view.segments[self.at]
