"""Crowns: gores drawn in between their lines, or panels on the lines, the backgrounds between drawn in first."""

from __future__ import annotations

from dataclasses import replace

from ...library import find_pattern
from ...needle.stations import Station
from ...piece.piece import Band
from ...piece.segment import Segment
from ...shaping.manner import CUT_PANELS
from ...shaping.sections import ALL, Section, SectionShaped
from ..shape import BACKGROUND
from .gores import Gores

CROWNS = {"round": 1.2, "flat-topped": 1.0, "slouched": 1.35}
"""Height of the crown over its radius, the way round ÷ 2π: a disc lies flat at 1.0, a dome is higher (our choice)."""
CROWN_END = 1
"""Common practice: one stitch of each gore is left, 6 to 10 in all, and drawn together."""
Seam = tuple[Segment, ...]


def crown_rows(count: int, height_um: float, row_um: float, *, flat: bool = False) -> tuple[int, int, int]:
    """A gore's crown: its count where the rate changes, and the rows below and above that place.

    One stitch of each gore goes every second round, then every round (common practice); a higher crown spreads them
    over its rows. Flat, right-side rows take one at each end.
    """
    rows, changes = max(1, round(height_um / row_um)), count - CROWN_END
    if flat:
        return CROWN_END, max(2 * -(-changes // 2), rows + rows % 2), 0
    fast = max(0, min(changes, 2 * changes - rows))  # so many of them every round
    slow = changes - fast
    return count - slow, max(2 * slow, rows - fast), fast


def gored_crown(gores: Gores, height_um: float, row_um: float, *, seam: Seam) -> tuple[Band, ...]:
    """Each gore drawn in at both its ends in turn, so that its panel stays in the middle and is narrowed last."""
    flat, share = bool(seam), gores.width_um / 1000.0 / gores.count
    middle, slow, fast = crown_rows(gores.count, height_um, row_um, flat=flat)
    stations = [Station(name="Crown begins", width_mm=gores.width_um / 1000.0)]
    counts = [middle]
    if slow and middle > CROWN_END:
        stations.append(Station(name="Every round from here", width_mm=share * middle, at_mm=slow * row_um / 1000.0))
        counts.append(CROWN_END)
    elif not slow:
        counts = [CROWN_END]
    stations.append(Station(name="Drawn together", width_mm=share * CROWN_END, at_mm=(slow + fast) * row_um / 1000.0))
    sections = gores.sections(len(seam), *counts, edges="both" if flat else "in turn")
    manner = replace(CUT_PANELS, every_row=slow == 0 and not flat)
    shaping = SectionShaped(stations=tuple(stations), sections=sections, manner=manner)
    return (Band(own=(*seam, *gores.segments, *seam), shaping=shaping, runs_on=True),)


def spined_crown(gores: Gores, height_um: float, row_um: float, *, seam: Seam) -> tuple[Band, ...]:
    """The backgrounds between the panels are drawn in to a stitch each; then each panel with that stitch to one."""
    own, first = gores.spined, len(seam)
    rows, share = max(2, round(height_um / row_um)), gores.width_um / 1000.0 / gores.count
    aside = max(s.stitches for s in own[1::2])
    panel = max(s.stitches for s in own[0::2])
    pairs = -(-(aside - CROWN_END) // 2)
    above = panel + panel % 2 if seam else max(panel, min(2 * panel, rows // 2))
    below = max(2 * pairs, rows - above)
    below += below % 2 if seam else 0
    lines = tuple(Section(first=first + at, last=first + at, counts=(ALL, CROWN_END)) for at in range(1, len(own), 2))
    narrow = tuple(_one(s) if at % 2 else s for at, s in enumerate(own))
    spines = tuple(
        Section(first=first + at, last=first + at + 1, counts=(ALL, CROWN_END), edges="both" if seam else "in turn")
        for at in range(0, len(own), 2)
    )
    lower = SectionShaped(
        stations=(
            Station(name="Crown begins", width_mm=gores.width_um / 1000.0),
            Station(name="Panels meet", width_mm=share * (panel + 1), at_mm=below * row_um / 1000.0),
        ),
        sections=lines,
        manner=CUT_PANELS,
    )
    upper = SectionShaped(
        stations=(
            Station(name="Panels narrow", width_mm=share * (panel + 1)),
            Station(name="Drawn together", width_mm=share * CROWN_END, at_mm=above * row_um / 1000.0),
        ),
        sections=spines,
        manner=CUT_PANELS,
    )
    return (
        Band(own=(*seam, *own, *seam), shaping=lower, runs_on=True),
        Band(own=(*seam, *narrow, *seam), shaping=upper, runs_on=True),
    )


def _one(background: Segment) -> Segment:
    """A background of a single stitch; one that needs more gives way to purl."""
    if background.chart.repeats_for(1):
        return replace(background, repeats=1)
    return replace(background, pattern=find_pattern(BACKGROUND), repeats=1)
