"""Stretch: how wide a round can be drawn without force, its ribs opened and its plain stitches pulled."""

from __future__ import annotations

from functools import lru_cache

from ..gauge.model import model_width
from ..needle.chart_columns import crossing_blocks
from ..notation import Chart, Crossing
from .piece import BandView
from .segment import Segment

GIVES = 1.35
"""Our choice: a stitch that nothing holds gives a third of its width, at the cost of its height."""


def stretched_um(view: BandView) -> float:
    """How wide a body band can be drawn without force, micrometres.

    Ribs open first: their width is that of the model without folding. Then every stitch gives but those of cables,
    which are held together, as the model holds them: groups of two stitches or more that cross.
    """
    stitch = view.measure.gauge.stitch_mm * 1000.0
    ratio = view.measure.gauge.ratio
    return sum(stitch * (_opened(s, ratio) + (GIVES - 1.0) * (s.stitches - held_columns(s))) for s in view.segments)


def _opened(s: Segment, ratio: float) -> float:
    """A segment's width with its ribs open, in stockinette stitches."""
    unit = model_width(s.cloth, ratio, whole=s.is_panel, drawn_open=True)
    return unit.fixed_stitches + s.repeats * unit.repeat_stitches


def held_columns(s: Segment) -> int:
    """How many columns of a segment lie in a cable: in a group of two stitches or more in any of its crossings."""
    return _held(s.chart, s.repeats)


@lru_cache(maxsize=512)
def _held(chart: Chart, repeats: int) -> int:
    held: set[int] = set()
    for number in chart.crossing_rows:
        for block in crossing_blocks(chart, repeats, number):
            op, at = block.ops[0], block.start
            groups = op.groups_taken if isinstance(op, Crossing) else (block.ops * block.width,)  # half of one
            for group in groups:
                held.update(range(at, at + len(group)) if len(group) > 1 else ())
                at += len(group)
    return len(held)
