"""The pattern of a project: words, a window of the chart, the key."""

from __future__ import annotations

from dataclasses import dataclass

from ...core.layout.piece import Piece
from ...core.notation import Op
from ...core.pattern import CHANGES, WorkedRow, compile_piece
from ...core.pattern.compiler import WorkedPattern as WorkedPattern
from ...core.pattern.wording import PLAIN_WORDS, Wording
from ...core.pattern.words import WordsSection, pattern_words, row_period
from ...render.chart import ChartLine, ChartPart, chart_svg
from ..errors import NotFound
from ..panels import KeyEntry, key_of

WINDOW = 24  # rows of chart shown at once, our choice: they fit a screen


@dataclass(frozen=True)
class ChartWindow:
    """A window of the chart's rows and where its neighbours begin (0: there is none)."""

    svg: str
    first: int
    last: int
    earlier: int
    later: int


def compiled_pattern(piece: Piece) -> WorkedPattern:
    """The compiled pattern."""
    return compile_piece(piece)


def in_words(piece: Piece, wording: Wording = PLAIN_WORDS) -> tuple[WordsSection, ...]:
    """All sections in words."""
    return pattern_words(compile_piece(piece), wording)


def chart_rows(pattern: WorkedPattern) -> tuple[WorkedRow, ...]:
    """The rows that the chart shows: the set-up rows and charts of every band; a band has one count throughout."""
    return tuple(r for r in pattern.rows if r.section in ("set-up rows", "body"))


def chart_window(piece: Piece, first: int = 0) -> ChartWindow:
    """Rows of the chart from row `first` of the pattern (0: from the first set-up row)."""
    pattern = compile_piece(piece)
    rows = {r.number: r for r in chart_rows(pattern)}
    numbers = list(rows)
    if first and first not in rows:
        raise NotFound(f"The chart has {piece.row_word}s {numbers[0]} to {numbers[-1]}; {first} is not in it.")
    start = first or numbers[0]
    shown = [r for r in rows.values() if start <= r.number < start + WINDOW and r.band == rows[start].band]
    label = f"Chart of {piece.row_word}s {shown[0].number} to {shown[-1].number}, {shown[0].before} stitches"
    svg = chart_svg([_line(r) for r in shown], label)
    below = [r for r in rows.values() if r.number < start]
    same = [r.number for r in below if below and r.band == below[-1].band]
    earlier = max(same[0], same[-1] - WINDOW + 1) if same else 0
    later = next((n for n in numbers if n > shown[-1].number), 0)
    return ChartWindow(svg, shown[0].number, shown[-1].number, earlier, later)


def _line(row: WorkedRow) -> ChartLine:
    parts = [ChartPart(p.name, p.family, p.ops) for p in row.parts]
    return ChartLine(row.number, row.side, tuple(parts))


def chart_key(piece: Piece) -> tuple[KeyEntry, ...]:
    """Every operation of the chart, and of the rows that change the count as they are worked; crossings last."""
    pattern = compile_piece(piece)
    seen: dict[Op, None] = {}
    for band in range(len(piece.bands)):
        body = [r for r in pattern.rows if r.section == "body" and r.band == band]
        for row in body[: row_period(pattern, band)]:
            seen.update(dict.fromkeys(row.ops))
    for row in pattern.rows:
        if row.section in CHANGES:
            seen.update(dict.fromkeys(row.worked))
    return key_of(seen)
