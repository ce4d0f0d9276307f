"""What the common methods of the trade would say of a pattern's width, so that nobody has to give up their own."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, Protocol

from ..library import StitchPattern
from ..notation import Crossing, Face
from .estimate import Estimate, UnitWidth
from .gauge import Gauge

Method = Literal["estimate", "swatches", "thumb", "percent", "straight"]
METHODS: tuple[Method, ...] = ("estimate", "swatches", "thumb", "percent", "straight")

PERCENT = 0.25
"""“One extra stitch for every four cable stitches”, the common shorthand (common practice)."""

_CLOSE = 4  # rows between crossings of a 4-stitch rope from which the rule of thumb asks for two (common practice)


class Measure(Protocol):
    """Anything that says how wide patterns come out: the estimate, or a method."""

    @property
    def gauge(self) -> Gauge:
        """Stockinette gauge."""

    def unit(self, pattern: StitchPattern, whole: bool) -> UnitWidth:
        """The width of a pattern's repeats."""


@dataclass(frozen=True, eq=False)
class MethodMeasure:
    """Widths by one method. Heights, of which the methods say nothing, are the estimate's."""

    method: Method
    estimate: Estimate

    @property
    def gauge(self) -> Gauge:
        """Stockinette gauge, of which there is no dispute."""
        return self.estimate.gauge

    def unit(self, pattern: StitchPattern, whole: bool) -> UnitWidth:
        """The width of a pattern's repeats by the method's rule."""
        chart, up = pattern.chart, self.estimate.unit(pattern, whole).draw_up
        stitch = self.gauge.stitch_mm * 1000.0
        if self.method == "swatches":
            stitch *= self._swatched(pattern) or 1.0
        columns = cable_columns(pattern)
        counted = float(chart.width(1))
        if self.method == "thumb":
            counted -= sum(_extra(cable, chart.height) for cable in columns)
        elif self.method == "percent":
            counted -= sum(wide for wide, _ in columns) * PERCENT / (1.0 + PERCENT)
        # what the rule takes off belongs to the repeats; the balance is background
        return UnitWidth(round(chart.balance * stitch), round((counted - chart.balance) * stitch), up)

    def _swatched(self, pattern: StitchPattern) -> float | None:
        """A pattern's width against stockinette by its own swatches alone; None where it has none."""
        return own_swatch_width(self.estimate, pattern)


def own_swatch_width(estimate: Estimate, pattern: StitchPattern) -> float | None:
    """The mean width of a pattern's own readings against stockinette; None where it was never measured alone."""
    stitch = estimate.gauge.stitch_mm
    own = [
        reading.mm / reading.count / stitch
        for reading in estimate.basis.readings
        if reading.along == "width" and not reading.yarn and {part.pattern.id for part in reading.parts} == {pattern.id}
    ]
    return sum(own) / len(own) if own else None


@lru_cache(maxsize=512)
def cable_columns(pattern: StitchPattern) -> tuple[tuple[int, int], ...]:
    """The cables of one repeat as (stitches wide, crossing rows in one row repeat): knit columns that cross over knit.

    Travelling lines, which pass over purl, are no cables to the rules of thumb.

    >>> from cablux.core import find_pattern
    >>> cable_columns(find_pattern("rope-3-3-left")), cable_columns(find_pattern("stockinette"))
    (((6, 1),), ())
    """
    chart = pattern.chart
    wide = chart.width(1)
    crossings = [0] * wide
    for first, last in _spans(pattern):
        for column in range(max(0, first), min(wide, last)):
            crossings[column] += 1
    out: list[tuple[int, int]] = []
    at = 0
    while at < wide:
        end = at
        while end < wide and crossings[end]:
            end += 1
        if end > at:
            out.append((end - at, max(crossings[at:end])))
        at = end + 1
    return tuple(out)


def _spans(pattern: StitchPattern) -> Iterator[tuple[int, int]]:
    for row in pattern.chart.rows:
        at = 0
        for op in row.ops(1):
            if isinstance(op, Crossing) and all(s.face is Face.KNIT for s in (*op.over, *op.under)):
                yield at, at + op.makes
            at += op.makes


def _extra(cable: tuple[int, int], rows: int) -> float:
    """Extra stitches for a cable, by its width and how many of the repeat's rows cross it (common practice).

    A 4-stitch rope one, two if it crosses every fourth row; six stitches two; eight, horseshoes and braids three.
    """
    wide, crossings = cable
    if wide <= 2:
        return 0.5
    if wide <= 4:
        return 2.0 if rows / crossings <= _CLOSE else 1.0
    return 2.0 if wide <= 6 else 3.0 * wide / 8.0 if wide > 8 else 3.0
