"""The swatch adviser: which swatch to knit next, how large, what it would buy, and when to stop."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..gauge import EIGHTY, Estimate, Part, Reading
from ..gauge.model import cloth_key
from ..gauge.reading import GOOD_PLACES
from ..library import StitchPattern, find_pattern
from ..piece.piece import Piece
from ..piece.widths import body_um, segment_shares

SWATCH_MM = 150.0
"""Common practice: a swatch of 15 cm or more, so that 10 cm can be read inside it."""
BACKGROUND_MM = 50.0
"""A panel is measured in a swatch of its own (J. Szabo, *Aran Sweater Design*); 5 cm of background on each side."""
REPEATS = 2
"""Common practice: two row repeats or more."""
WORTH_IT = 0.1
"""Our choice: a swatch that takes less than a tenth off the uncertainty is not worth its yarn."""


@dataclass(frozen=True, kw_only=True)
class Advice:
    """A swatch to knit: its pattern and size, and the interval of the finished width before and after it.

    `before_um`, `after_um` are half of the interval that holds eight of ten pieces.
    """

    pattern: StitchPattern
    stitches: int
    rows: int
    before_um: float
    after_um: float

    @property
    def loops(self) -> int:
        """What it costs to knit."""
        return self.stitches * self.rows

    @property
    def gain_um(self) -> float:
        """How much narrower the interval becomes."""
        return self.before_um - self.after_um


@dataclass(frozen=True)
class Advised:
    """The swatches worth thinking of, the best per stitch knitted first, and whether it is time to stop."""

    swatches: tuple[Advice, ...]
    enough: str

    @property
    def best(self) -> Advice | None:
        """The one to knit next; None when it is time to cast on."""
        return None if self.enough else self.swatches[0]


def advise_swatches(piece: Piece) -> Advised:
    """Every pattern of the piece, and plain stockinette, as the next swatch."""
    stockinette = find_pattern("stockinette")
    seen = {cloth_key(s.pattern): s.pattern for s in reversed(piece.everything)}  # mirror images teach the same
    seen.setdefault(cloth_key(stockinette), stockinette)
    body, known = piece.main_view, piece.outlook
    total = body_um(body, known)
    wanted = known.slope(segment_shares(body))
    before = EIGHTY * total * known.width.sd(wanted)
    listed = []
    for pattern in seen.values():
        stitches, rows = swatch_size(pattern, known)
        reading = planned_reading(pattern, known)
        _, slope = known.width.length(known.terms(reading))
        after = EIGHTY * total * math.sqrt(max(0.0, known.width.after(slope, reading.sd, wanted)))
        listed.append(Advice(pattern=pattern, stitches=stitches, rows=rows, before_um=before, after_um=after))
    listed.sort(key=lambda a: -a.gain_um / a.loops)
    most = max(a.gain_um for a in listed)
    listed = [a for a in listed if a.gain_um >= most / 4.0]  # cheap ones that buy next to nothing are no advice
    return Advised(tuple(listed), _enough(piece, before, most))


def _enough(piece: Piece, before: float, most: float) -> str:
    if before <= piece.tolerance_mm * 1000.0:
        return "You can stop swatching: your swatches already tell the width more closely than your tolerance asks."
    if most < WORTH_IT * before:
        return (
            "You can stop swatching: another swatch would hardly tell you more. "
            "Cast on, and measure the piece itself once there is enough of it to lie flat."
        )
    return ""


def swatch_size(pattern: StitchPattern, known: Estimate) -> tuple[int, int]:
    """Stitches and rows of a swatch that can be read well, in whole repeats."""
    chart, gauge = pattern.chart, known.gauge
    rows = math.ceil(SWATCH_MM / (gauge.row_mm * known.unit(pattern, "panel" in pattern.uses).draw_up))
    rows = max(rows, REPEATS * chart.height)
    rows += -rows % chart.height
    if "panel" in pattern.uses:
        return chart.width(1) + 2 * math.ceil(BACKGROUND_MM / gauge.stitch_mm), rows
    each = known.unit(pattern, False).repeat_um / 1000.0
    return chart.width(max(1, math.ceil(SWATCH_MM / each))), rows


def planned_reading(pattern: StitchPattern, known: Estimate) -> Reading:
    """What would be read off that swatch: a panel across, a texture counted over 10 cm, each in three places."""
    whole = "panel" in pattern.uses
    unit = known.unit(pattern, whole)
    if whole:
        part = Part(pattern=pattern, count=float(pattern.chart.width(1)), whole=True)
        return Reading(
            parts=(part,), mm=unit.width_um(1) / 1000.0, precision=0.0, places=GOOD_PLACES, state=known.basis.finish
        )
    count = 100.0 / (unit.repeat_um / 1000.0 / pattern.chart.multiple)
    return Reading(
        parts=(Part(pattern=pattern, count=count),),
        mm=100.0,
        precision=0.25,
        places=GOOD_PLACES,
        state=known.basis.finish,
    )
