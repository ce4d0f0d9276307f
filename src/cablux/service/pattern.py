"""The pattern of a project: words, a window of the chart, the key."""

from __future__ import annotations

from dataclasses import dataclass

from ..core.layout.piece import Piece
from ..core.notation import Op
from ..core.pattern import WorkedRow, compile_piece
from ..core.pattern.compiler import Pattern as WorkedPattern
from ..core.pattern.wording import PLAIN_WORDS, Wording
from ..core.pattern.words import WordsSection, period, words
from ..render.chart import ChartLine, ChartPart, chart_svg
from .errors import NotFound
from .keys import KeyEntry, key_of

WINDOW = 24  # rows of chart shown at once, our choice: they fit a screen


@dataclass(frozen=True)
class ChartWindow:
    """A window of the chart's rows and where its neighbours begin (0: there is none)."""

    svg: str
    first: int
    last: int
    earlier: int
    later: int


def worked(piece: Piece) -> WorkedPattern:
    """The compiled pattern."""
    return compile_piece(piece)


def in_words(piece: Piece, wording: Wording = PLAIN_WORDS) -> tuple[WordsSection, ...]:
    """All sections in words."""
    return words(compile_piece(piece), wording)


def charted(pattern: WorkedPattern) -> tuple[WorkedRow, ...]:
    """The rows that the chart shows: from the set-up rows to the end of the body, one count throughout."""
    return tuple(r for r in pattern.rows if r.section in ("set-up rows", "body"))


def chart_window(piece: Piece, first: int = 0) -> ChartWindow:
    """Rows of the chart from row `first` of the pattern (0: from the first set-up row)."""
    pattern = compile_piece(piece)
    rows = charted(pattern)
    low, high = rows[0].number, rows[-1].number
    if first and not low <= first <= high:
        raise NotFound(f"The chart has rows {low} to {high}; there is no row {first} in it.")
    start = (first or low) - low
    shown = rows[start : start + WINDOW]
    label = f"Chart of rows {shown[0].number} to {shown[-1].number}, {shown[0].before} stitches"
    svg = chart_svg([_line(piece, r) for r in shown], label)
    earlier = max(low, shown[0].number - WINDOW) if start else 0
    later = shown[-1].number + 1 if shown[-1].number < high else 0
    return ChartWindow(svg, shown[0].number, shown[-1].number, earlier, later)


def _line(piece: Piece, row: WorkedRow) -> ChartLine:
    parts = [ChartPart(p.name, piece.segments[p.segment].pattern.family, p.ops) for p in row.parts]
    return ChartLine(row.number, row.side, tuple(parts))


def key(piece: Piece) -> tuple[KeyEntry, ...]:
    """Every operation of the chart, and of the rows that change the count as they are worked; crossings last."""
    cycle = period(compile_piece(piece))
    seen: dict[Op, None] = {}
    body = [r for r in compile_piece(piece).rows if r.section == "body"][:cycle]
    for row in body:
        seen.update(dict.fromkeys(row.ops))
    for row in compile_piece(piece).rows:
        if row.section in ("increase row", "decrease row"):
            seen.update(dict.fromkeys(row.worked))
    return key_of(seen)
