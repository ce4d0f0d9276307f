"""Borders: how a border's pattern fits between the edges, and how wide it lies at its own ease."""

from __future__ import annotations

from ..notation import Chart
from ..notation.closing import closed_chart
from ..piece.border import Border
from ..piece.piece import BandView
from ..piece.segment import SIDES
from ..piece.widths import pattern_um, segment_um


def border_um(view: BandView, border: Border, count: int) -> int:
    """Width of a border of `count` stitches, sides included, at its own ease."""
    inside = count - view.side_stitches
    return pattern_um(border.pattern, inside, view.measure) + sum(segment_um(e, view.measure) for e in view.sides)


def runs_through(view: BandView, border: Border) -> bool:
    """Whether sides and border are one texture, so that the border is counted from edge to edge."""
    return all(e.pattern_id == border.pattern_id and e.role not in SIDES[1:] for e in view.sides)


def border_chart(view: BandView, border: Border) -> Chart:
    """The border's chart; in the round it closes on itself where it can, and needs no balance stitches."""
    chart = border.pattern.chart
    return (closed_chart(chart) or chart) if view.round else chart


def border_repeats(view: BandView, border: Border, count: int) -> int | None:
    """How often the border's multiple is worked in `count` stitches: between the sides, or right across."""
    chart = border_chart(view, border)
    return chart.repeats_for(count if not view.sides or runs_through(view, border) else count - view.side_stitches)


def fitting_counts(view: BandView, border: Border, low: int, *, high: int) -> range:
    """The counts from `low` to `high` that suit the border's multiple."""
    chart = border_chart(view, border)
    least = next(
        n
        for n in range(max(low, 1), max(low, 1) + chart.width(1) + chart.multiple + view.side_stitches)
        if fits_border(view, border, n)
    )
    return range(least, high + 1, chart.multiple)


def fits_border(view: BandView, border: Border, count: int) -> bool:
    """Whether the border's multiple fits."""
    return border_repeats(view, border, count) is not None


def multiple_text(view: BandView, border: Border) -> str:
    """The multiple that the border needs, as people write it."""
    return border_chart(view, border).size_text
