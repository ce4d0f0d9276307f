"""Rows from the height wanted: borders, set-up rows and a body in which the panels end well."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import IllegalPiece
from .piece import Piece
from .widths import segment_um, segment_unit

SETUP_ROWS = 2  # common practice: two plain rows before the first crossing
HEIGHT_TOLERANCE_MM = 20.0  # our choice: two centimetres of a throw's length are not seen
MAX_ROWS = 5_000
CLASH = 1 / 30
"""Our choice: what a seam can ease in without a pucker is 3 to 5 % (common practice)."""


@dataclass(frozen=True)
class RowPlan:
    """Rows of each part, the height they come to, and which panels end on a whole repeat."""

    border: int
    setup: int
    body: int
    border_row_um: float
    body_row_um: float
    whole: tuple[str, ...]
    broken: tuple[str, ...]

    @property
    def total(self) -> int:
        """All rows from cast-on to bind-off."""
        return 2 * self.border + self.setup + self.body

    @property
    def height_um(self) -> float:
        """The finished height."""
        return 2 * self.border * self.border_row_um + (self.setup + self.body) * self.body_row_um


def body_row_um(piece: Piece) -> float:
    """Height of a body row: the segments' own heights, averaged by width.

    The edges are left out: garter edges are shorter than the cables beside them and are stretched by them.
    """
    inner = [(segment_um(s, piece.measure), segment_unit(s, piece.measure).draw_up) for s in piece.inner]
    up = sum(w * u for w, u in inner) / sum(w for w, _ in inner)
    return piece.measure.gauge.row_mm * 1000.0 * up


@dataclass(frozen=True)
class Clash:
    """Neighbours that want different heights: the segment at `left_of` and the one to its left; `um` over the body."""

    left_of: int
    um: float


def clashes(piece: Piece, body_rows: int) -> tuple[Clash, ...]:
    """Neighbours whose heights would differ by more than a thirtieth over the body if they were knitted apart."""
    row = piece.measure.gauge.row_mm * 1000.0
    ups = [segment_unit(s, piece.measure).draw_up for s in piece.segments]
    pairs = [(i, (ups[i + 1] - ups[i]) * row * body_rows) for i in range(len(ups) - 1)]
    return tuple(Clash(i, um) for i, um in pairs if abs(um) > CLASH * row * body_rows)


def _closes(piece: Piece, rows: int) -> bool:
    """Whether every segment is back at its own count after so many rows of the body."""
    return all(s.chart.count_after(rows) == s.chart.width(1) for s in piece.segments)


def _nearest(piece: Piece, exact: float) -> int:
    """The even number of rows nearest to `exact` at which every segment is back at its own count."""
    near = max(1, round(exact / 2))
    for step in range(MAX_ROWS):
        for n in (near - step, near + step):
            if n >= 1 and _closes(piece, 2 * n):
                return 2 * n
    raise IllegalPiece("The panels never come back to their own counts in the same row; take one of them out.")


def plan_rows(piece: Piece) -> RowPlan:
    """The rows of a piece for its height.

    The body has an even number of rows, so that it ends on a wrong-side row; among the counts that keep the
    height within two centimetres it takes the one at which the most panel stitches end on a whole repeat, and
    of those the nearest.
    """
    border_row = piece.measure.gauge.row_mm * 1000.0 * piece.measure.unit(piece.border, False).draw_up
    body_row = body_row_um(piece)
    borders = 2 * piece.border_rows * border_row
    exact = (piece.height_mm * 1000.0 - borders) / body_row - SETUP_ROWS
    slack = HEIGHT_TOLERANCE_MM * 1000.0 / body_row
    first, last = math.ceil((exact - slack) / 2), math.floor((exact + slack) / 2)
    counts = [2 * n for n in range(first, last + 1) if 2 <= 2 * n <= MAX_ROWS and _closes(piece, 2 * n)]
    counts = counts or [_nearest(piece, exact)]
    if piece.body_rows:
        if not _closes(piece, piece.body_rows):
            raise IllegalPiece(f"After {piece.body_rows} rows some panels are not at their own counts; take another.")
        counts = [piece.body_rows]
    panels = [s for s in piece.inner if s.role == "panel"]

    def merit(rows: int) -> tuple[int, float]:
        return -sum(s.stitches for s in panels if rows % s.chart.height == 0), abs(rows - exact)

    body = min(counts, key=merit)
    ends = {s.pattern_id: (s.pattern.name, body % s.chart.height == 0) for s in panels}
    return RowPlan(
        border=piece.border_rows,
        setup=SETUP_ROWS,
        body=body,
        border_row_um=border_row,
        body_row_um=body_row,
        whole=tuple(name for name, ok in ends.values() if ok),
        broken=tuple(name for name, ok in ends.values() if not ok),
    )
