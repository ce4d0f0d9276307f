"""How wide each segment will be, in whole micrometres so that sums agree wherever they are shown; how high a row."""

from __future__ import annotations

import math
from collections.abc import Iterable

from ..gauge import EIGHTY, Gauge, Measure, UnitWidth
from ..library import StitchPattern
from .piece import BandView
from .segment import Segment


def segment_unit(segment: Segment, measure: Measure) -> UnitWidth:
    """The unit width of a placed segment; a seam stitch is sewn away and takes none."""
    unit = measure.unit(segment.cloth, segment.is_panel)
    return UnitWidth(0, 0, unit.draw_up) if segment.is_seam else unit


def segment_um(segment: Segment, measure: Measure) -> int:
    """A placed segment's width in the fabric, micrometres."""
    return segment_unit(segment, measure).width_um(segment.repeats)


def stitch_widths(segments: Iterable[Segment], measure: Measure) -> list[float]:
    """Width of each stitch of a row of segments, from the right, in micrometres: an equal share of its segment's."""
    return [segment_um(s, measure) / s.stitches for s in segments for _ in range(s.stitches)]


def body_um(view: BandView, measure: Measure | None = None) -> int:
    """A body band's width in the fabric, micrometres, by the piece's own measure or another."""
    return sum(segment_um(s, measure or view.measure) for s in view.segments)


def body_row_um(view: BandView) -> float:
    """Height of a row of a body band: the segments' own heights, averaged by width.

    The sides count with their width: garter edges are shorter than the cables beside them, and share the pull.
    """
    listed = [(segment_um(s, view.measure), segment_unit(s, view.measure).draw_up) for s in view.segments]
    up = sum(w * u for w, u in listed) / sum(w for w, _ in listed)
    return view.measure.gauge.row_mm * 1000.0 * up


def plain_um(stitches: int, gauge: Gauge) -> int:
    """Width of so many stitches if nothing drew in.

    >>> from cablux.core import Gauge
    >>> plain_um(110, Gauge(stitches=20, rows=26))
    550000
    """
    return round(stitches * gauge.stitch_mm * 1000.0)


def segment_draw_in(segment: Segment, measure: Measure) -> float:
    """Width in the fabric over the width of as many stockinette stitches."""
    return segment_um(segment, measure) / plain_um(segment.stitches, measure.gauge)


def pattern_um(pattern: StitchPattern, stitches: int, measure: Measure) -> int:
    """Width of `stitches` in a border's texture at its own ease."""
    unit = measure.unit(pattern, False)
    return round(stitches * unit.repeat_um / pattern.chart.multiple)


def segment_shares(view: BandView) -> list[tuple[StitchPattern, float]]:
    """Each segment's pattern and width by all that is known, micrometres."""
    return [(s.cloth, float(segment_um(s, view.outlook))) for s in view.segments]


def body_sd_um(view: BandView) -> float:
    """Standard deviation of the finished body's width: what the readings leave uncertain, and the piece's drift."""
    listed = segment_shares(view)
    return sum(size for _, size in listed) * view.outlook.relative_sd(listed)


def eighty_um(view: BandView) -> float:
    """Half of the interval in which eight of ten such pieces would lie."""
    return EIGHTY * body_sd_um(view)


def chance_within(mean_um: float, sd_um: float, low_um: float, *, high_um: float) -> float:
    """Chance that a normal value lies between two limits.

    >>> round(chance_within(300_000, 10_000, 290_000, high_um=310_000), 3)
    0.683
    """
    root = sd_um * math.sqrt(2.0)
    return 0.5 * (math.erf((high_um - mean_um) / root) - math.erf((low_um - mean_um) / root))
