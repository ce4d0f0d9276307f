"""The stockinette gauge that everything else is measured against."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..declared import GaugeCount
from ..errors import IllegalPiece
from ..practice import ROWS_TO_STITCHES

# Our choice: from the thickest rope to the finest lace with room to spare (the Craft Yarn Council's yarn
# categories run from 6 to 40 stitches to 4 in).
_STITCHES = (2.0, 80.0)
_ROWS = (2.0, 160.0)
_RATIO = (0.8, 2.5)

READING_SD = 0.25
"""Stitches: the error of a count over 10 cm by a careful knitter, a quarter stitch (common practice)."""

BAND_SD = 0.06
"""Relative: how far a knitter's own gauge lies from the one on the yarn's band, our choice: a stitch or so in 18,
for which people change the needle by a size (common practice)."""


@dataclass(frozen=True)
class Gauge:
    """Stitches and rows to 100 mm of stockinette. Raises IllegalPiece for what nobody can knit.

    `band`: they stand on the yarn's band; nobody has counted them yet.
    """

    stitches: GaugeCount
    rows: GaugeCount
    band: bool = False

    def __post_init__(self) -> None:
        for value, what, (low, high) in ((self.stitches, "stitches", _STITCHES), (self.rows, "rows", _ROWS)):
            if not math.isfinite(value) or not low <= value <= high:
                raise IllegalPiece(
                    f"{value:g} {what} to 10 cm is not a hand-knitting gauge, which has {low:g} to {high:g}. "
                    f"Count the {what} of stockinette over 10 cm (in inches, over 4 in) and write that number."
                )
        if not _RATIO[0] <= self.ratio <= _RATIO[1]:
            raise IllegalPiece(
                f"{self.stitches:g} stitches and {self.rows:g} rows cannot both be right for stockinette, which "
                f"usually has about {ROWS_TO_STITCHES:g} rows for each stitch. Did you swap stitches and rows?"
            )

    @property
    def ratio(self) -> float:
        """Rows to stitches over the same length."""
        return self.rows / self.stitches

    @property
    def stitch_mm(self) -> float:
        """Width of one stitch."""
        return 100.0 / self.stitches

    @property
    def row_mm(self) -> float:
        """Height of one row."""
        return 100.0 / self.rows

    @property
    def relative_sd(self) -> float:
        """Relative error of the stitch width: from reading the swatch, or of going by the band."""
        return BAND_SD if self.band else READING_SD / self.stitches

    @property
    def row_sd(self) -> float:
        """Relative error of the row height."""
        return BAND_SD if self.band else READING_SD / self.rows
