"""A part of a piece in relief: the cloth around a place, or beneath the needle, laid out by itself."""

from __future__ import annotations

from ...core.fabric.network import build_piece
from ...core.fabric.whole import relax_piece
from ...core.pattern import WorkedPattern, WorkedRow
from ...render.relief import piece_svg
from ...render.yarn import Yarn

NEAR_ROWS, NEAR_STITCHES = 14, 26
"""Our choice: so much of the cloth around a place shows how it catches the eye, and is laid out at once."""
NEEDLE_ROWS, NEEDLE_STITCHES = 20, 30


def cloth_around(pattern: WorkedPattern, row: WorkedRow, segment: int, *, yarn: Yarn) -> str:
    """The cloth around a section of a row; empty where it cannot be laid out by itself."""
    first, last = max(1, row.number - NEAR_ROWS), min(len(pattern.rows), row.number + NEAR_ROWS)
    return _laid(pattern, row, segment, window=(first, last, NEAR_STITCHES), yarn=yarn)


def cloth_after(pattern: WorkedPattern, number: int, yarn: Yarn, *, behind: bool = False) -> str:
    """The cloth beneath the needle after a row, about the section that has crossed last, from either side."""
    row = pattern.row(number)
    crossed = (r for r in reversed(pattern.rows[:number]) if r.crossing_parts and r.band == row.band)
    last = next(crossed, row)
    at = next((n for n, part in enumerate(last.parts) if part in last.crossing_parts), len(row.parts) // 2)
    first = max(1, number - NEEDLE_ROWS)
    return _laid(
        pattern, row, min(at, len(row.parts) - 1), window=(first, number, NEEDLE_STITCHES), yarn=yarn, behind=behind
    )


def _laid(
    pattern: WorkedPattern,
    row: WorkedRow,
    segment: int,
    *,
    window: tuple[int, int, int],
    yarn: Yarn,
    behind: bool = False,
) -> str:
    """Some rows and sections about a place, as cloth with free edges."""
    first, last, stitches = window
    low = high = segment
    while sum(p.makes for p in row.parts[low : high + 1]) < stitches and (low > 0 or high < len(row.parts) - 1):
        low, high = max(0, low - 1), min(len(row.parts) - 1, high + 1)
    near = [r for r in pattern.rows[first - 1 : last] if r.band == row.band and len(r.parts) == len(row.parts)]
    start = near.index(row)
    while start and near[start - 1].number == near[start].number - 1:
        start -= 1
    try:
        net = build_piece([[p.ops for p in r.parts[low : high + 1]] for r in near[start:]])
    except (ValueError, IndexError):  # what is shaped may be worked across the line of a section
        return ""
    return piece_svg(relax_piece(net, pattern.piece.estimate.gauge.ratio), yarn=yarn, behind=behind)
