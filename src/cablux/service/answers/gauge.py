"""What is known of a project's gauge: the width of its patterns, what swatches told and would tell, what to do now."""

from __future__ import annotations

from ...core.gauge import Along, Fibre, Method, State
from ...core.units import Unit
from .answer import Answer


class EightInTen(Answer):
    """A number and the interval in which it lies eight times in ten."""

    low: float
    value: float
    high: float


class PatternWidth(Answer):
    """How wide a pattern lies against stockinette: from its chart alone, by its own swatches, by both together."""

    pattern: str
    name: str
    model: EightInTen
    readings: tuple[float, ...]
    together: EightInTen

    @property
    def percent(self) -> float:
        """Half of the interval, in hundredths of the value."""
        return 100.0 * (self.together.high / self.together.value - 1.0)

    @property
    def words(self) -> str:
        """The line in words."""
        said = f"{self.name}: from the chart alone {self.model.value:.2f} of stockinette"
        if self.readings:
            said += ", your swatches " + " and ".join(f"{r:.2f}" for r in self.readings)
        known = self.together
        return f"{said}; together {known.value:.2f}, eight times in ten between {known.low:.2f} and {known.high:.2f}"


class SwatchAdvice(Answer):
    """A swatch to knit, and how far the width would be known before and after it, eight times in ten."""

    pattern: str
    name: str
    stitches: int
    rows: int
    before_mm: float
    after_mm: float


class ReadingWorth(Answer):
    """What a slip of the count, or of the ruler where nothing was counted, becomes over a planned length.

    `precision`: to what part of a stitch or row was counted. `over_mm`: the length that was counted over, or measured.
    """

    along: Along
    counted: bool
    precision: str
    count: float
    over_mm: float
    narrower_mm: float
    wider_mm: float
    planned_mm: float

    @property
    def slip_mm(self) -> float:
        """About how much it is either way."""
        return (self.narrower_mm + self.wider_mm) / 2.0


class SwatchInUse(Answer):
    """A swatch that the project goes by; `newer`: it was measured anew in the book since, where its number is `book`.

    `worth`: of each of its readings of a width.
    """

    name: str
    book: int
    in_book: bool
    newer: bool
    same_yarn: bool
    unit: Unit
    readings: int
    worth: tuple[ReadingWorth, ...]


class SwatchInBook(Answer):
    """A measured swatch of the book that the project could go by."""

    id: int
    name: str
    needle_mm: float
    readings: int


class MeasuredOnPiece(Answer):
    """What was measured on the piece itself after a row, in one place or several."""

    row: int
    along: Along
    values_mm: tuple[float, ...]
    state: State
    on_needle: bool


class StockinetteGauge(Answer):
    """Stitches and rows to 10 cm as they are known now, and as they were given: counted, or from the yarn's label."""

    stitches_to_10cm: float
    rows_to_10cm: float
    given_stitches_to_10cm: float
    given_rows_to_10cm: float
    from_label: bool
    corrected: bool


class ProjectGauge(Answer):
    """How wide a piece will be, how sure that is, and what would make it surer.

    `enough` says why it is time to cast on, if it is. `says`: what the measures of the piece itself mean;
    `body_rows`: so many rows would then reach the height, where that is not what is planned, else 0; `set_rows`: the
    rows that were chosen for the one band that there is, else 0.
    """

    name: str
    unit: Unit
    method: Method
    fibre: Fibre
    finish: State
    from_charts_alone: bool
    width_mm: float
    width_80_percent_mm: float
    wanted_mm: float
    tolerance_mm: float
    chance: float
    stockinette: StockinetteGauge
    patterns: tuple[PatternWidth, ...]
    enough: str
    advised: tuple[SwatchAdvice, ...]
    swatches: tuple[SwatchInUse, ...]
    others: tuple[SwatchInBook, ...]
    measured: tuple[MeasuredOnPiece, ...]
    says: tuple[str, ...]
    body_rows: int
    planned_body_rows: int
    set_rows: int

    @property
    def wider_mm(self) -> float:
        """How much wider than wanted it will be."""
        return self.width_mm - self.wanted_mm


class MethodVerdict(Answer):
    """What a method of sizing would cast on, the width by its own rule, and the width that it would really be.

    `cast_on` is None where it finds no layout, and `refusal` says why; `missing`: patterns without a swatch.
    """

    method: Method
    cast_on: int | None
    body: int | None
    claimed_mm: float
    real_mm: float
    wider_mm: float
    missing: tuple[str, ...]
    refusal: str
