"""Halves of a way round: a panel in the middle of one; two of them drawn in at their ends and grafted together."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from ..gauge import Measure
from ..library import StitchPattern
from ..needle.stations import Station
from ..piece.segment import Segment, proposed_purl_margin
from ..piece.widths import segment_um
from ..shaping.manner import CUT_PANELS
from ..shaping.sections import ALL, Section, SectionShaped


def panel_half(
    panel: StitchPattern, background: StitchPattern, measure: Measure, *, half_um: float
) -> tuple[Segment, ...] | None:
    """A panel in the middle of a half, with as much background on each side as it takes; None where none has room.

    Columns that are twisted in a rib fill it, since they are its texture.
    """
    placed = Segment(role="panel", pattern=panel, repeats=1, purl_margin=proposed_purl_margin(panel))
    fills = panel.family == "twist" and panel.chart.balance > 0
    if fills:
        one = segment_um(placed, measure)
        more = segment_um(replace(placed, repeats=2), measure) - one
        placed = replace(placed, repeats=1 + max(0, math.floor((half_um - one) / more)))
    unit = segment_um(Segment(role="background", pattern=background, repeats=1), measure) / background.chart.width(1)
    aside = round((half_um - segment_um(placed, measure)) / 2.0 / unit)
    fitting = (background.chart.repeats_for(n) for n in range(aside, 0, -1))
    repeats = next((n for n in fitting if n), None)
    if repeats is None and not fills:
        return None
    side = (Segment(role="background", pattern=background, repeats=repeats),) if repeats else ()
    return (*side, placed, *side)


def limb_tolerance_mm(around: float) -> float:
    """How far off the way round may be: a twentieth, half a stitch of a thick yarn at the least (our choice)."""
    return float(max(8, round(around / 20.0)))


def halves_drawn_in(
    own: Sequence[Segment],
    halves: tuple[tuple[int, int], tuple[int, int]],
    name: str,
    *,
    part: float,
    least: int,
    around: float,
    row_um: float,
    flat: bool = False,
) -> SectionShaped:
    """Both halves, each from one segment to another, are drawn in at both ends to a `part`, and grafted together.

    To the middle of the way every second round, then every round (common practice); flat, in right-side rows alone.
    """
    counts = [sum(s.stitches for s in own[a : b + 1]) for a, b in halves]
    end = max(least, round(part * min(counts)))
    middle = [end if flat else max(end, count - 2 * ((count - end + 2) // 4)) for count in counts]
    slow = max(2 * -(-(count - m) // 2) for count, m in zip(counts, middle, strict=True))
    fast = 0 if flat else max(1, *(-(-(m - end) // 2) for m in middle))
    begin, last = (
        Station(name=f"{name} begins", width_mm=around),
        Station(name="Grafted", width_mm=0.4 * around, at_mm=(slow + fast) * row_um / 1000.0),
    )
    if flat:
        stations = [begin, last]
        sections = tuple(Section(first=a, last=b, counts=(ALL, end)) for a, b in halves)
    else:
        stations = [
            begin,
            Station(name="Every round from here", width_mm=0.7 * around, at_mm=slow * row_um / 1000.0),
            last,
        ]
        sections = tuple(
            Section(first=a, last=b, counts=(ALL, m, end)) for (a, b), m in zip(halves, middle, strict=True)
        )
    return SectionShaped(stations=tuple(stations), sections=sections, manner=CUT_PANELS)
