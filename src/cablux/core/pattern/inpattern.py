"""Shaped rows as printed books write them: what is done at the edges and how often, beside a calendar of those rows."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

from ..layout.piece import BandView
from ..layout.shaped import ShapedBand, shape_band
from ..layout.stations import StationCount, Stretch, first_row
from ..shaping.schedule import gaps_text
from .words import number_list


@dataclass(frozen=True)
class PatternStretch:
    """The rows between two stations, in words; `calendar` has the numbers of the rows that are shaped."""

    first: int
    last: int
    sentence: str
    calendar: tuple[int, ...]
    before: int
    after: int


def stretches_in_pattern(view: BandView) -> tuple[PatternStretch, ...]:
    """What a shaped band says in pattern, stretch by stretch; those without rows are left out."""
    found = shape_band(view)
    out = []
    for stretch, (a, b) in zip(found.stations.stretches, pairwise(found.stations.stations), strict=True):
        if b.row > a.row:
            calendar = tuple(stretch.first + row - 1 for row in stretch.schedule.at)
            sentence = _sentence(found, stretch, a, b)
            last = stretch.first + stretch.schedule.rows - 1
            out.append(PatternStretch(stretch.first, last, sentence, calendar, a.count, b.count))
    return tuple(out)


def panels_in_pattern(view: BandView) -> tuple[tuple[str, int, int, int], ...]:
    """For each panel that is worked in some rows only: its name, its first and its last row, and its chart's rows."""
    found, first = shape_band(view), first_row(view)
    out = []
    for at, s in enumerate(view.segments):
        worked = [first + r for r, numbers in enumerate(found.numbers) if numbers[at] > 0]
        if s.is_panel and worked and len(worked) < len(found.numbers):
            out.append((s.name, worked[0], worked[-1], s.chart.height))
    return tuple(out)


def _sentence(found: ShapedBand, stretch: Stretch, a: StationCount, b: StationCount) -> str:
    rows = stretch.schedule.rows
    what = found.view.piece.row_word
    count = f"{b.count} stitches"
    if a.count == b.count:
        return f"Work {rows} {what}{'s' if rows > 1 else ''} in pattern: {count}."
    verb = "increasing" if b.count > a.count else "decreasing"
    where, how = _where(found), _how(found, stretch)
    often = gaps_text(stretch.schedule, what)
    if found.view.shaping is not None and found.view.shaping.edges == "in turn" and not stretch.twice:
        at = stretch.schedule.at
        every = len(at) == at[-1] - at[0] + 1
        often = f"every {what}, {len(at)} times" if every else f"each of these {what}s"
    lines = f"Work in pattern, {verb} 1 stitch {how}{where} of {often}: {a.count} → {b.count} stitches."
    if stretch.twice:
        twice = number_list(tuple(stretch.first + row - 1 for row in stretch.twice))
        lines += f" In {what}s {twice} do so at both ends."
    return lines


def _where(found: ShapedBand) -> str:
    shaping = found.view.shaping
    assert shaping is not None, "only shaped bands come here"
    return {"both": "at each end", "right": "at the right edge", "left": "at the left edge"}.get(
        shaping.edges, "at the beginning"
    )


def _how(found: ShapedBand, stretch: Stretch) -> str:
    """Inside how many edge stitches, and by what, told once."""
    shaping = found.view.shaping
    assert shaping is not None, "only shaped bands come here"
    inside = found.view.sides[0].stitches if found.view.sides else 0
    by = {"M1": "", "yo": "with a yarn over ", "kfb": "by working two into one "}[shaping.increase]
    leans = {"along": "leaning along the edge ", "against": "leaning against the edge ", "k2tog": "with k2tog "}
    said = by if stretch.grows else leans[shaping.lean]
    edge = f"inside {inside} edge stitch{'es' if inside > 1 else ''} " if inside else ""
    return said + edge
