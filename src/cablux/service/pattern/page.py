"""The pattern of a project: words, a window of the chart, the key."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import groupby

from ...core.notation import Hold, NoStitch, Op, Side
from ...core.pattern import CHANGES, WorkedRow, compile_piece
from ...core.pattern.compiler import WorkedPattern as WorkedPattern
from ...core.pattern.wording import PLAIN_WORDS, Wording
from ...core.pattern.words import RowOrder, WordsSection, pattern_words
from ...core.piece.piece import Piece
from ...core.rows.shaped_band import worked_view
from ...render.chart import ChartLine, ChartPart, chart_svg
from ...render.chart_cuts import SheetView, sheet_views
from ..errors import NotFound
from ..panels import KeyEntry, key_of

WINDOW = 24  # rows of chart shown at once, our choice: they fit a screen


@dataclass(frozen=True, kw_only=True)
class ChartWindow:
    """A window of the chart's rows, among all windows (first and last row each), and how it is laid out.

    `rows` has each row's number and side from the top; `parts` the sections from the left, each with its family and
    its stitches; `sheets` is the window cut for paper.
    """

    svg: str
    first: int
    last: int
    windows: tuple[tuple[int, int], ...]
    rows: tuple[tuple[int, Side], ...]
    parts: tuple[tuple[str, int], ...]
    sheets: tuple[SheetView, ...]

    @property
    def earlier(self) -> int:
        """Where the window below begins; 0 where there is none."""
        return next((first for first, _ in reversed(self.windows) if first < self.first), 0)

    @property
    def later(self) -> int:
        """Where the window above begins; 0 where there is none."""
        return next((first for first, _ in self.windows if first > self.last), 0)


def compiled_pattern(piece: Piece) -> WorkedPattern:
    """The compiled pattern."""
    return compile_piece(piece)


def in_words(piece: Piece, wording: Wording = PLAIN_WORDS, order: RowOrder = "alike") -> tuple[WordsSection, ...]:
    """All sections in words."""
    return pattern_words(compile_piece(piece), wording, order)


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
    widths: tuple[int, ...] = ()
    if shown[0].parts[0].columns:
        lines, widths = shaped_lines(piece, shown)
    else:
        lines = [line_of(r) for r in shown]
    return ChartWindow(
        svg=chart_svg(lines, label, ident="chart-picture", widths=widths),
        first=shown[0].number,
        last=shown[-1].number,
        windows=_windows(tuple(rows.values())),
        rows=tuple((r.number, r.side) for r in reversed(shown)),
        parts=tuple((p.family, p.takes) for p in reversed(shown[0].parts)),
        sheets=sheet_views(lines, widths),
    )


def _windows(rows: tuple[WorkedRow, ...]) -> tuple[tuple[int, int], ...]:
    """The first and the last row of each window; none goes from one band into the next."""
    out: list[tuple[int, int]] = []
    for _, of_band in groupby(rows, key=lambda r: r.band):
        numbers = [r.number for r in of_band]
        out += [(n, min(n + WINDOW - 1, numbers[-1])) for n in range(numbers[0], numbers[-1] + 1, WINDOW)]
    return tuple(out)


def line_of(row: WorkedRow) -> ChartLine:
    """A row as the chart draws it."""
    parts = [ChartPart(p.name, p.family, p.ops) for p in row.parts]
    return ChartLine(row.number, row.side, tuple(parts))


def shaped_lines(piece: Piece, rows: list[WorkedRow]) -> tuple[list[ChartLine], tuple[int, ...]]:
    """Rows that change their count, on the plane's own columns, and how many of those each section has.

    Where no column lives there is an empty cell.
    """
    view = worked_view(piece.band_views[rows[0].band])
    reach: dict[int, tuple[int, int]] = {}
    for lane, column in ((p.segment, c) for row in rows for p in row.parts for c in (*p.columns, *p.held)):
        low, high = reach.get(lane, (column, column))
        reach[lane] = min(low, column), max(high, column)
    out = []
    for row in rows:
        cells, parts, over = _placed(row), [], 0
        for lane, (low, high) in sorted(reach.items()):
            ops: list[Op] = []
            at = low + over  # past what lies across the line before this section
            while at <= high:
                op = cells.get((lane, at), NoStitch())
                ops.append(op)
                at += max(1, op.cells)
            over = at - high - 1
            s = view.segments[lane]
            parts.append(ChartPart(s.name, s.pattern.family, tuple(ops)))
        out.append(ChartLine(row.number, row.side, tuple(parts)))
    return out, tuple(high - low + 1 for _, (low, high) in sorted(reach.items()))


def _placed(row: WorkedRow) -> dict[tuple[int, int], Op]:
    """Each operation at the first of the columns that it leaves; what is held, at those from which it goes."""
    columns = [(part.segment, c) for part in row.parts for c in part.columns]
    held = iter([(part.segment, c) for part in row.parts for c in part.held])
    out: dict[tuple[int, int], Op] = {}
    at = 0
    for op in row.ops:
        if op.makes:
            out[columns[at]] = op
            at += op.makes
        elif isinstance(op, Hold):
            out.setdefault(next(held), op)
    return out


def chart_ops(piece: Piece) -> tuple[Op, ...]:
    """Every operation of the chart, and of the rows that change the count as they are worked."""
    pattern = compile_piece(piece)
    seen: dict[Op, None] = {}
    for band in range(len(piece.bands)):
        body = [r for r in pattern.rows if r.section == "body" and r.band == band]
        whole = worked_view(piece.band_views[band]).shaping is not None
        for row in body if whole else body[: piece.row_period(band)]:
            seen.update(dict.fromkeys(row.ops))
    for row in pattern.rows:
        if row.section in CHANGES:
            seen.update(dict.fromkeys(row.worked))
    return tuple(seen)


def chart_key(piece: Piece) -> tuple[KeyEntry, ...]:
    """All of those explained; crossings last."""
    return key_of(chart_ops(piece))
