"""Bands knitted along with a cardigan's fronts: a strip of rib at the edge, with buttonholes one above the other."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from ...errors import Infeasible
from ...gauge import Measure
from ...library import StitchPattern
from ...notation import parse_chart
from ...piece.piece import Piece
from ...piece.segment import Segment
from ...piece.widths import segment_um
from ...rows.heights import plan_rows
from .cardigan_bands import APART_MM
from .picked_bands import BAND_MM

WIDTHS = (3, 7, 11, 15, 19)
"""Odd ribs of k1, p1 whose middle column is a purl one: the buttonhole lies in it."""
_LOWEST_MM = 15.0
"""Our choice: the lowest buttonhole 1.5 cm above the hem, the highest as far below the neck."""
LEAST_ROWS = 6
_EYELET = 3
"""The row of its chart in which a buttonhole lies; two plain rows stand below it."""
_BAND, _HOLES = "own-front-band-", "own-buttonhole-band-"


@dataclass(frozen=True)
class HoleRows:
    """The rows of a front, from 1 above the hem, in which its buttonholes lie: the first, how many, how far apart."""

    first: int
    many: int
    apart: int


def hole_rows(rows: int, row_mm: float, buttons: int, *, wanted_text: str) -> HoleRows:
    """Right-side rows for so many buttonholes in a front of so many rows up to its neck; 0 for as many as suit it.

    Raises Infeasible where they would lie too near each other; `wanted_text` is how long the front is, in words.
    """
    low = max(_EYELET, 1 + 2 * round(_LOWEST_MM / row_mm / 2.0))
    high = rows - low - (rows - low + 1) % 2
    fitting = 1 + max(0, high - low) // LEAST_ROWS
    many = buttons or min(fitting, 1 + round((high - low) * row_mm / APART_MM))
    if high < low:
        raise Infeasible(
            f"{wanted_text} of a front are too short for a buttonhole: pick the bands up, or make it longer.",
            clash=("bands", "length"),
        )
    if many > 1 and (high - low) // (many - 1) < LEAST_ROWS:
        raise Infeasible(
            f"{many} buttonholes lie too near each other along {wanted_text} of a front: choose fewer.",
            clash=("buttons", "length"),
        )
    apart = 2 * ((high - low) // (many - 1) // 2) if many > 1 else 2 * (rows // 2 + 1)
    return HoleRows(high - apart * (many - 1), many, apart)


def band_segment(measure: Measure, holes: HoleRows | None) -> Segment:
    """The strip beside a front's edge, as wide as a band; its first row is the first above the hem."""
    wide = min(WIDTHS, key=lambda n: abs(segment_um(_strip(n, None), measure) / 1000.0 - BAND_MM))
    return _strip(wide, holes)


def _strip(stitches: int, holes: HoleRows | None) -> Segment:
    if holes is None:
        return Segment(role="panel", pattern=_band(stitches, 0), repeats=1)
    return Segment(
        role="panel", pattern=_band(stitches, holes.apart), repeats=1, phase=(_EYELET - holes.first) % holes.apart
    )


@lru_cache(maxsize=64)
def _band(stitches: int, apart: int) -> StitchPattern:
    """Ribs of k1, p1 that begin and end with a knit column; with an eyelet in the middle one of every `apart` rows."""
    knits = f"k1, (p1, k1) {stitches // 2} times" if stitches > 3 else "k1, p1, k1"
    purls = f"p1, (k1, p1) {stitches // 2} times" if stitches > 3 else "p1, k1, p1"
    before, after = stitches // 2, stitches // 2 - 1
    hole = [*_alternately(before, "k"), "yo", "k2tog", *_alternately(after, "p")]
    lines = [f"name: {'Buttonhole band' if apart else 'Front band'}", f"multiple: {stitches}", "allow: lopsided"]
    for row in range(1, (apart or 2) + 1, 2):
        lines.append(f"row {row} (RS): {', '.join(hole) if apart and row == _EYELET else knits}")
        lines.append(f"row {row + 1} (WS): {purls}")
    name = f"{_HOLES}{stitches}-{apart}" if apart else f"{_BAND}{stitches}"
    note = f"A strip of rib along a front{', with buttonholes in its middle' if apart else ''}."
    return StitchPattern(
        id=name, chart=parse_chart("\n".join(lines)), uses=("panel",), family="edge", tags=(), note=note
    )


def _alternately(many: int, first: str) -> list[str]:
    return [f"{'kp'[(n + (first == 'p')) % 2]}1" for n in range(many)]


def hole_heights_mm(front: Piece) -> Iterator[float]:
    """How high above the cast-on each buttonhole of a front lies."""
    plan, row = plan_rows(front), 0
    at = plan.bottom * plan.bottom_row_um
    for view, band in zip(front.band_views, plan.bands, strict=True):
        for s in view.segments:
            if s.pattern_id.startswith(_HOLES):
                for n in range(band.rows):
                    if (row + n + s.phase) % s.chart.height + 1 == _EYELET:
                        yield (at + (n + 0.5) * band.row_um) / 1000.0
        at, row = at + band.height_um, row + band.rows
