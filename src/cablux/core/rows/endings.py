"""How a panel meets what lies above it: the plain rows at both ends, and whether they look alike."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from ..notation import Chart, Face
from ..piece.segment import Segment

EndingLook = Literal["alike", "rests", "cut"]

REST = 2
"""Common practice: two plain rows or more between a crossing and a border; straight beside it a crossing is tight."""


@dataclass(frozen=True, kw_only=True)
class Ending:
    """One panel's ends: plain rows below its first crossing and above its last, and how the top looks.

    "alike": the top border meets it as the bottom border does. "rests": it ends between crossings, or on a whole
    repeat. "cut": it stops in the middle of a motif.
    """

    name: str
    stitches: int
    before: int
    after: int
    whole: bool
    look: EndingLook


@dataclass(frozen=True)
class _Rhythm:
    """Which rows of a repeat hold crossings (from 1), and the faces after each row (0: below row 1)."""

    height: int
    crossings: tuple[int, ...]
    faces: tuple[tuple[Face, ...], ...]


@lru_cache(maxsize=512)
def _rhythm(chart: Chart) -> _Rhythm:
    return _Rhythm(chart.height, chart.crossing_rows, tuple(chart.faces_after(n) for n in range(chart.height)))


def crossings_upto(s: Segment, rows: int, phase: int | None = None) -> list[int]:
    """The rows (from 1) of a body of so many rows in which a segment crosses.

    >>> from cablux.core import library_segment
    >>> crossings_upto(library_segment("panel", "rope-3-3-left", 1), 20)
    [5, 13]
    """
    rhythm, shift = _rhythm(s.cloth.chart), s.phase if phase is None else phase
    return [n for n in range(1, rows + 1) if (n - 1 + shift) % rhythm.height + 1 in rhythm.crossings]


def panel_ending(s: Segment, rows: int, lead: int, *, phase: int | None = None) -> Ending:
    """How a panel begins after `lead` plain rows and ends after `rows` rows of body, at its own phase or another."""
    rhythm, shift = _rhythm(s.cloth.chart), s.phase if phase is None else phase
    high = rhythm.height
    whole = rows % high == 0
    if not rhythm.crossings:
        return Ending(
            name=s.pattern.name,
            stitches=s.stitches,
            before=lead,
            after=0,
            whole=whole,
            look="alike" if whole else "rests",
        )
    first = min((c - 1 - shift) % high for c in rhythm.crossings)
    last = min((rows + shift - c) % high for c in rhythm.crossings)
    before, after = lead + first, min(last, rows)
    same = rhythm.faces[(rows + shift) % high] == rhythm.faces[shift % high]
    if same and abs(before - after) <= 1 and after >= REST - 1:
        look: EndingLook = "alike"
    else:
        look = "rests" if whole or (same and after >= REST) else "cut"
    return Ending(name=s.pattern.name, stitches=s.stitches, before=before, after=after, whole=whole, look=look)
