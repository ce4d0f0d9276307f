"""How wide and how tall each segment will be: whole micrometres, so that sums agree wherever they are shown."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from ..errors import IllegalPiece
from ..fabric.tile import Draw, draw
from ..gauge import Gauge
from ..library import Pattern
from .piece import Piece, Role, Segment

# Relative standard deviations of a segment's width, our choice until swatches teach better ones: the offset
# that all cables of one knitter share, and the model's own error for cables and for plain textures.
SHARED_SD = 0.05
CABLE_SD = 0.06
TEXTURE_SD = 0.03


@dataclass(frozen=True)
class UnitWidth:
    """A segment's width as `fixed_um + repeats × repeat_um` micrometres, and its draw-up ratio."""

    fixed_um: int
    repeat_um: int
    draw_up: float

    def width_um(self, repeats: int) -> int:
        """Width with so many repeats."""
        return self.fixed_um + repeats * self.repeat_um


@lru_cache(maxsize=1024)
def unit_width(pattern: Pattern, role: Role, gauge: Gauge) -> UnitWidth:
    """The width of a pattern at a gauge. A mirrored pattern is exactly as wide.

    Textures grow by their endless box. Panels are relaxed whole; those with a balance (a gutter on each side
    of the repeats) with one and with two repeats, and grow by the difference.
    """
    tile = _settled(pattern, gauge, 0 if role != "panel" else 1)
    chart, um = pattern.chart, gauge.stitch_mm * 1000.0
    if role != "panel":
        one = tile.draw_in * um
        return UnitWidth(round(chart.balance * one), round(chart.multiple * one), tile.draw_up)
    if not chart.balance:
        return UnitWidth(0, round(tile.width * um), tile.draw_up)
    step = _settled(pattern, gauge, 2).width - tile.width
    return UnitWidth(round((tile.width - step) * um), round(step * um), tile.draw_up)


def _settled(pattern: Pattern, gauge: Gauge, repeats: int) -> Draw:
    """A tile's draw-in that can be relied on. Raises IllegalPiece where the relaxation did not converge."""
    tile = draw(pattern.chart, round(gauge.ratio, 6), repeats)
    if not tile.converged:
        raise IllegalPiece(
            f"The draw-in of {pattern.name} could not be computed at this gauge: it had not settled after "
            f"{tile.iterations} steps. Another gauge or panel will do."
        )
    return tile


def segment_unit(segment: Segment, gauge: Gauge) -> UnitWidth:
    """The unit width of a placed segment."""
    return unit_width(segment.pattern, segment.role, gauge)


def segment_um(segment: Segment, gauge: Gauge) -> int:
    """A placed segment's width in the fabric, micrometres."""
    return segment_unit(segment, gauge).width_um(segment.repeats)


def body_um(piece: Piece) -> int:
    """The body's width in the fabric, micrometres."""
    return sum(segment_um(s, piece.gauge) for s in piece.segments)


def plain_um(stitches: int, gauge: Gauge) -> int:
    """Width of so many stitches if nothing drew in."""
    return round(stitches * gauge.stitch_mm * 1000.0)


def draw_in(segment: Segment, gauge: Gauge) -> float:
    """Width in the fabric over the width of as many stockinette stitches."""
    return segment_um(segment, gauge) / plain_um(segment.stitches, gauge)


def border_um(pattern: Pattern, stitches: int, gauge: Gauge) -> int:
    """Width of `stitches` in a border's texture at its own ease."""
    return round(stitches * draw(pattern.chart, round(gauge.ratio, 6)).draw_in * gauge.stitch_mm * 1000.0)


def body_sd_um(piece: Piece) -> float:
    """Standard deviation of the body's width before any swatch of the cables.

    The gauge's reading error and the offset shared by all cables add up; each segment's own error averages out.
    """
    widths = [(segment_um(s, piece.gauge), s.role == "panel") for s in piece.segments]
    total = sum(w for w, _ in widths)
    shared = SHARED_SD * sum(w for w, cable in widths if cable)
    own: dict[str, float] = {}  # the same pattern errs the same way wherever it stands
    for s, (w, cable) in zip(piece.segments, widths, strict=True):
        own[s.pattern_id] = own.get(s.pattern_id, 0.0) + w * (CABLE_SD if cable else TEXTURE_SD)
    return math.sqrt((total * piece.gauge.relative_sd) ** 2 + shared**2 + sum(v**2 for v in own.values()))


def chance_within(mean_um: float, sd_um: float, low_um: float, high_um: float) -> float:
    """Chance that a normal value lies between two limits."""
    root = sd_um * math.sqrt(2.0)
    return 0.5 * (math.erf((high_um - mean_um) / root) - math.erf((low_um - mean_um) / root))
