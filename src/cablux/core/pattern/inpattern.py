"""Shaped rows as printed books write them: what is done and how often, beside what the panels of such a band do."""

from __future__ import annotations

from ..needle.stations import PatternStretch
from ..piece.piece import BandView
from ..rows.heights import first_row, last_crossings
from ..rows.shaped_band import shape_band


def stretches_in_pattern(view: BandView) -> tuple[PatternStretch, ...]:
    """What a shaped band says in pattern, stretch by stretch; those without rows are left out."""
    return tuple(shape_band(view).sentences())


def panels_in_pattern(view: BandView) -> tuple[tuple[str, int, int, int], ...]:
    """For each panel that is worked in some rows only: its name, its first and its last row, and its chart's rows."""
    found, first = shape_band(view), first_row(view)
    out = []
    for at, s in enumerate(view.segments):
        worked = [first + r for r, numbers in enumerate(found.numbers) if numbers[at] >= 0]
        if s.is_panel and worked and len(worked) < len(found.numbers):
            out.append((s.name, worked[0], worked[-1], s.chart.height))
    return tuple(out)


def last_crossings_in_pattern(view: BandView) -> dict[int, list[str]]:
    """The rows of a band after which panels that are drawn in are crossed no more, with the panels' names."""
    first, out = first_row(view), dict[int, list[str]]()
    for at, row in sorted(last_crossings(view).items()):
        name = view.segments[at].name
        if name not in out.setdefault(max(row, first - 1), []):
            out[max(row, first - 1)].append(name)
    return dict(sorted(out.items()))
