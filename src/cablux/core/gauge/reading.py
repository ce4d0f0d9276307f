"""A measurement of cloth with its error: what was counted over which length, and what that reading is worth."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..declared import check_choices
from ..errors import IllegalPiece
from ..library import StitchPattern
from .priors import Along, State

RULER_MM = 1.0
"""A ruler laid on cloth is read to a millimetre (common practice)."""

UNEVEN = 0.01
"""Our choice: the same knitter's stitches differ by about one part in a hundred from place to place."""

ON_NEEDLE = 0.03
"""Our choice: cloth on a needle is spread or crowded by some hundredths; off it, laid flat, it is not."""

GOOD_LENGTH_MM = 100.0
GOOD_PLACES = 3
"""Common practice: count over 10 cm or more, in three places, and take the mean."""


@dataclass(frozen=True, kw_only=True)
class Part:
    """So many stitches (or rows) of a pattern; `whole` where a panel was measured across.

    `weight`: how much it counts where the heights of several patterns side by side are one.
    """

    pattern: StitchPattern
    count: float
    whole: bool = False
    weight: float = 1.0


@dataclass(frozen=True, kw_only=True)
class Reading:
    """A measured length of cloth: `mm` along the width or the height, over the parts that lie in it.

    `precision`: to what part of a stitch the count was read, 0 where the stitches are known (a whole swatch).
    `places`: in how many places it was read and averaged. `yarn`: which yarn and needle, empty for the piece's
    own. `on_piece`: read on the piece itself, so that it also tells how the piece drifts; `on_needle`: before it
    was taken off. `name` says where it comes from.
    """

    parts: tuple[Part, ...]
    mm: float
    along: Along = "width"
    precision: float = 0.5
    places: int = 1
    state: State = "washed"
    yarn: str = ""
    on_piece: bool = False
    on_needle: bool = False
    name: str = ""

    def __post_init__(self) -> None:
        check_choices(self)
        if not self.parts or self.count <= 0:
            raise IllegalPiece("Type the stitches or rows you counted.")
        if not math.isfinite(self.mm) or self.mm < 5.0:
            raise IllegalPiece("Measure over at least half a centimetre, better 10 cm (4 in).")
        if self.places < 1 or not 0.0 <= self.precision <= 1.0:
            raise IllegalPiece("Measure in one place or more, to a whole stitch or finer.")

    @property
    def count(self) -> float:
        """Stitches or rows that lie in the length."""
        return sum(p.count for p in self.parts)

    @property
    def sd(self) -> float:
        """Relative standard deviation: counting and ruler (each equally likely anywhere within its limits), and
        uneven knitting, averaged over the places; the needle's distortion is the same in all of them."""
        counting = self.precision / self.count / math.sqrt(3.0)
        ruler = RULER_MM / self.mm / math.sqrt(3.0)
        once = math.hypot(counting, ruler, UNEVEN * min(1.0, math.sqrt(GOOD_LENGTH_MM / self.mm)))
        return math.hypot(once / math.sqrt(self.places), ON_NEEDLE if self.on_needle else 0.0)


@dataclass(frozen=True, kw_only=True)
class Worth:
    """What a reading is worth over a planned length: how much narrower and wider the piece could come out, in mm, for
    the counting alone (for the ruler alone where nothing was counted), and what would help."""

    planned_mm: float
    narrower_mm: float
    wider_mm: float
    advice: tuple[str, ...]


def reading_worth(reading: Reading, planned_mm: float, *, finish: State = "washed") -> Worth:
    """What the reading's limits (not its standard deviation) become over the planned length, and what would help."""
    slip = reading.precision / reading.count if reading.precision else RULER_MM / reading.mm
    return Worth(
        planned_mm=planned_mm,
        narrower_mm=planned_mm * slip / (1.0 + slip),
        wider_mm=planned_mm * slip / (1.0 - slip),
        advice=tuple(_advice(reading, finish)),
    )


def _advice(reading: Reading, finish: State) -> list[str]:
    out = []
    one, what = ("stitch", "stitches") if reading.along == "width" else ("row", "rows")
    if reading.mm < GOOD_LENGTH_MM - 0.5 and reading.precision:
        out.append(f"Count over 10 cm (4 in) or more: over twice the length a slip in {what} costs half as much.")
    if reading.places < GOOD_PLACES:
        out.append("Measure in three places and enter all three: the slips average out.")
    if reading.precision >= 0.5:
        out.append(f"Count part {what} to a quarter; half a {one} is most of this error.")
    if reading.state == "as knitted" and finish != "as knitted":
        out.append("Wash and dry the swatch as the piece will be, then measure again.")
    if reading.on_needle:
        out.append("Slip the stitches to a thread or a long cord and lay the piece flat before measuring.")
    measured_across = not reading.precision and reading.along == "width" and not reading.on_piece
    if measured_across and any(not p.whole for p in reading.parts):
        out.append("Leave the edge stitches out: they pull in and belong to no pattern.")
    return out
