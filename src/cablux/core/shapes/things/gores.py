"""Gores: a round cut into equal parts, each a panel between backgrounds, for crowns that are drawn in between them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from ...gauge import Measure
from ...library import StitchPattern
from ...piece.segment import Segment, proposed_purl_margin
from ...piece.widths import segment_um
from ...shaping.sections import ALL, Section

GORES = (6, 7, 8, 9, 10)
"""Common practice: crowns have 6 to 10 sections."""
LEAST, MOST = 1, 12
"""Our choice: at least one purl beside a panel, and no more on each side than a cable is wide."""


@dataclass(frozen=True)
class Gores:
    """So many gores, each of the segments given for it; `width_um` is the whole way round."""

    each: tuple[tuple[Segment, ...], ...]
    width_um: float

    @property
    def segments(self) -> tuple[Segment, ...]:
        """All segments, from the right."""
        return tuple(s for gore in self.each for s in gore)

    @property
    def spined(self) -> tuple[Segment, ...]:
        """All segments begun at a panel, the backgrounds between two panels put together."""
        out: list[Segment] = []
        for at, (_, panel, left) in enumerate(self.each):
            right = self.each[(at + 1) % len(self.each)][0]
            stitches = left.stitches + right.stitches
            out += [panel, replace(left, repeats=left.chart.repeats_for(stitches) or left.repeats)]
        return tuple(out)

    @property
    def count(self) -> int:
        """The stitches of a gore."""
        return sum(s.stitches for s in self.each[0])

    def sections(self, first: int, *counts: int, edges: str = "in turn") -> tuple[Section, ...]:
        """A section for each gore, beginning at segment `first`, with such counts after the whole one."""
        out, at = [], first
        for gore in self.each:
            out.append(Section(first=at, last=at + len(gore) - 1, counts=(ALL, *counts), edges=edges))  # type: ignore[arg-type]
            at += len(gore)
        return tuple(out)


def possible_gores(
    panels: Sequence[StitchPattern], background: StitchPattern, measure: Measure, *, many: Sequence[int] = GORES
) -> Iterator[Gores]:
    """Every way to go round: so many gores of equal count, the panels in turn, background on both sides of each."""
    placed = [Segment(role="panel", pattern=p, repeats=1, purl_margin=proposed_purl_margin(p)) for p in panels]
    widest = max(s.stitches for s in placed)
    for gores in many:
        if gores % len(placed):
            continue
        for count in range(widest + 2 * LEAST, widest + 2 * MOST + 1):
            each = [_gore(s, background, count) for s in placed]
            if all(each):
                gore = [g for g in each if g is not None]
                width = gores / len(gore) * sum(segment_um(s, measure) for g in gore for s in g)
                yield Gores(tuple(gore) * (gores // len(gore)), width)


def _gore(panel: Segment, background: StitchPattern, count: int) -> tuple[Segment, ...] | None:
    """The panel with background on both sides; None where the background's multiple does not fit."""
    right = (count - panel.stitches) // 2
    repeats = [background.chart.repeats_for(n) for n in (right, count - panel.stitches - right)]
    if None in repeats:
        return None
    a, b = (Segment(role="background", pattern=background, repeats=n or 1) for n in repeats)
    return (a, panel, b)


def nearest_gores(found: Sequence[Gores], around_um: float, many: int = 3) -> tuple[Gores, ...]:
    """The ways round that come nearest, the nearest first; of those with as many stitches the one of eight gores."""
    best: dict[int, Gores] = {}
    for gores in sorted(found, key=lambda g: (abs(g.width_um - around_um), abs(len(g.each) - 8))):
        best.setdefault(round(gores.width_um), gores)
    return tuple(best.values())[:many]
