"""Neighbours that want different heights over the same rows, and so pull at each other."""

from __future__ import annotations

from dataclasses import dataclass

from ..piece.piece import BandView
from ..piece.widths import segment_unit

CLASH = 1 / 30
"""Our choice: what a seam can ease in without a pucker is 3 to 5 % (common practice)."""


@dataclass(frozen=True)
class HeightMismatch:
    """Neighbours that want different heights: the segment at `left_of` and the one to its left; `um` over the body."""

    left_of: int
    um: float


def height_mismatches(view: BandView, body_rows: int) -> tuple[HeightMismatch, ...]:
    """Neighbours whose heights would differ by more than a thirtieth over the body if they were knitted apart."""
    row = view.measure.gauge.row_mm * 1000.0
    ups = [segment_unit(s, view.measure).draw_up for s in view.segments]
    pairs = [(i, (ups[i + 1] - ups[i]) * row * body_rows) for i in range(len(ups) - 1)]
    return tuple(HeightMismatch(i, um) for i, um in pairs if abs(um) > CLASH * row * body_rows)
