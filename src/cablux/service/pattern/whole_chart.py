"""The chart of every row of a piece, band by band, with sections folded away and the row at hand marked."""

from __future__ import annotations

from dataclasses import dataclass

from ...core.pattern import WorkedPattern
from ...core.rows.shaped_band import worked_view
from ...render.chart import padded_lines, widest_parts
from ...render.whole_chart import folded_lines, whole_chart_svg
from .page import line_of, shaped_lines


@dataclass(frozen=True, kw_only=True)
class BandChart:
    """A band's chart: its rows, its sections from the right as (place, name), and the picture."""

    band: int
    first: int
    last: int
    sections: tuple[tuple[int, str], ...]
    svg: str


def whole_charts(
    pattern: WorkedPattern, folded: frozenset[tuple[int, int]] = frozenset(), now: int = 0
) -> tuple[BandChart, ...]:
    """Every band's chart, the upper ones first. `folded`: bands and places of sections that are folded away."""
    out = []
    for view in map(worked_view, pattern.piece.band_views):
        rows = [r for r in pattern.rows if r.band == view.at and r.section in ("set-up rows", "body")]
        if not rows:
            continue
        if view.shaping is not None:
            lines, widths = shaped_lines(pattern.piece, [r for r in rows if r.section == "body"])
        else:
            lines = padded_lines([line_of(r) for r in rows])
            widths = tuple(widest_parts(lines))
        sections = tuple(enumerate(part.name for part in lines[0].parts))
        shut = frozenset(place for band, place in folded if band == view.at)
        shown, wide = folded_lines(lines, widths, shut)
        label = f"Chart of {pattern.piece.row_word}s {lines[0].number} to {lines[-1].number}"
        svg = whole_chart_svg(shown, wide, label, now=now, at=view.at)
        out.append(BandChart(band=view.at, first=lines[0].number, last=lines[-1].number, sections=sections, svg=svg))
    return tuple(reversed(out))
