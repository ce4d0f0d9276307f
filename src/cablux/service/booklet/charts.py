"""The charts of a booklet: the rows of each band with what repeats folded into boxes, or every row; cut to sheets."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import accumulate
from typing import Literal

from ...core.booklet import ChartSheet, Note
from ...core.notation import Chart, Op, makes
from ...core.pattern import WorkedPattern, WorkedRow, compile_piece
from ...core.pattern.words import pattern_words
from ...core.piece.piece import BandView, Piece
from ...core.piece.segment import Segment
from ...core.rows.shaped_band import worked_view
from ...render.chart import ChartLine, ChartPart, padded_lines, widest_parts
from ...render.chart_cuts import cut_chart
from ...render.chartfile import chart_lines
from ...render.printed_chart import ChartBox, PrintedChart, sheet_size, sheet_svg
from ...render.symbols import CELL
from ..pattern import line_of, shaped_lines

ChartChoice = Literal["repeat", "whole", "none"]
"""What repeats once, with what is shaped as one chart for each pattern; or every row of every piece; or no charts."""

CELL_MM, LARGE_CELL_MM = 4.2, 6.0
"""Our choice: a crossing of 4.2 mm cells is read at arm's length; large print is half as large again."""
PAGE_MM = (178.0, 222.0)
"""What A4 and Letter both have room for within margins of 16 mm, beneath a heading and above a page's number."""
GIVE = 1.1
"""Our choice: a chart that is a tenth too large is printed a little smaller rather than cut."""
LEAST_BOX = 3  # cells, our choice: a narrower box is not seen


@dataclass(frozen=True)
class ChartLook:
    """How charts are printed."""

    large: bool = False
    colour: bool = True

    @property
    def cell_mm(self) -> float:
        """A cell's width on paper."""
        return LARGE_CELL_MM if self.large else CELL_MM


def piece_sheets(piece: Piece, choice: ChartChoice, look: ChartLook, *, label: str) -> Iterator[ChartSheet | Note]:
    """All sheets of a piece's charts; `label` stands before what each shows."""
    if choice == "none":
        return
    pattern, shown = compile_piece(piece), set[str]()
    for view in map(worked_view, piece.band_views):
        band = f", band {view.at + 1}" if len(piece.bands) > 1 else ""
        if choice == "whole" or view.shaping is None:
            chart = band_chart(pattern, view, folded=choice == "repeat")
            shown |= {s.name for s in view.segments}
            yield from _sheets(chart, look, f"{label}{band}", what=piece.row_word)
            if chart.boxes and (again := repeat_sentence(pattern, view)):
                yield Note(again)
            continue
        for s in view.segments:
            if s.name not in shown and s.chart.width() * s.chart.height > 2:  # plain knitting needs no chart
                shown.add(s.name)
                yield from _sheets(pattern_chart(s.chart, s.pattern.family), look, s.name, what="row")


def _sheets(chart: PrintedChart, look: ChartLook, label: str, *, what: str) -> Iterator[ChartSheet]:
    """A chart cut to pages, each sheet with what it shows."""
    mm = look.cell_mm / CELL
    across = int((PAGE_MM[0] / mm - chart.beside()) / CELL)
    up = int((PAGE_MM[1] / mm - chart.highest_head - 18.0) / CELL)
    cells, rows = sum(chart.widths), len(chart.lines)
    across, up = (whole if whole <= GIVE * most else max(8, most) for whole, most in ((cells, across), (rows, up)))
    windows = cut_chart(chart.lines, cells, across, up=up)
    for at, window in enumerate(windows, start=1):
        wide, tall = sheet_size(chart, window)
        shrink = min(1.0, PAGE_MM[0] / (wide * mm), PAGE_MM[1] / (tall * mm))
        low, high = chart.lines[window.low].number, chart.lines[window.high - 1].number
        first, last = chart.stitches[window.first], chart.stitches[window.last - 1]
        caption = f"{label}: {what}s {low}–{high}, stitches {first}–{last}"
        caption += f" (sheet {at} of {len(windows)})" if len(windows) > 1 else ""
        name = f"{label}-{at}".lower().replace(" ", "-").replace(",", "").replace("/", "-")
        svg = sheet_svg(chart, window, colour=look.colour)
        yield ChartSheet(
            svg=svg,
            caption=caption,
            name=name,
            width_mm=round(wide * mm * shrink, 1),
            height_mm=round(tall * mm * shrink, 1),
        )


def band_chart(pattern: WorkedPattern, view: BandView, *, folded: bool) -> PrintedChart:
    """The chart of a band: its set-up rows and its body. Folded, what repeats stands once, in a box."""
    mine = [r for r in pattern.rows if r.band == view.at and r.section in ("set-up rows", "body")]
    if view.shaping is not None:
        lines, widths = shaped_lines(pattern.piece, mine)
        return _chart(lines, widths, [s.name for s in _told(view, lines)], boxes=(), worked=[1] * len(lines))
    body = [r for r in mine if r.section == "body"]
    lead, cycle = len(mine) - len(body), pattern.piece.row_period(view.at)
    if not folded or len(body) <= cycle:
        lines = padded_lines([line_of(r) for r in mine])
        return _chart(lines, widest_parts(lines), [s.name for s in view.segments], boxes=(), worked=[1] * len(lines))
    kept = mine[: lead + cycle]
    worked = [1] * lead + [-(-(len(body) - at) // cycle) for at in range(cycle)]
    return _folded(kept, view.segments, lead, worked=worked)


def repeat_sentence(pattern: WorkedPattern, view: BandView) -> str:
    """How often the rows in the box are worked, in words."""
    sections = pattern_words(pattern)
    return next((s.repeat for s in sections if s.band == view.at and s.section == "body"), "")


def _told(view: BandView, lines: Sequence[ChartLine]) -> list[Segment]:
    """The segments that have a part in the lines, in their order."""
    names = [part.name for part in lines[0].parts]
    left = iter(view.segments)
    return [next(s for s in left if s.name == name) for name in names]


def _chart(
    lines: Sequence[ChartLine],
    widths: Sequence[int],
    names: Sequence[str],
    *,
    boxes: Sequence[ChartBox],
    worked: Sequence[int],
    stitches: Sequence[int] = (),
) -> PrintedChart:
    numbers = tuple(stitches or range(1, sum(widths) + 1))
    return PrintedChart(
        lines=tuple(lines),
        widths=tuple(widths),
        names=tuple(names),
        stitches=numbers,
        boxes=tuple(boxes),
        worked=tuple(worked),
    )


@dataclass(frozen=True, kw_only=True)
class _Fold:
    """Of a part's cells those from `low` to `high` are left out: the box that ends at `low` is worked `times` times."""

    box: int
    low: int
    high: int
    times: int


def _folded(rows: list[WorkedRow], segments: Sequence[Segment], lead: int, *, worked: list[int]) -> PrintedChart:
    """Rows as one chart, the repeats of its sections and of its rows in boxes."""
    lines = padded_lines([line_of(r) for r in rows])
    folds = [_fold([line.parts[at].ops for line in lines], s) for at, s in enumerate(segments)]
    short = [replace(line, parts=tuple(map(_shortened, line.parts, folds))) for line in lines]
    widths, ends = widest_parts(short), [0, *accumulate(widest_parts(short))]
    stitches, boxes, at = list[int](), list[ChartBox](), 0
    for part, fold in enumerate(folds):
        cells = sum(op.cells for op in lines[0].parts[part].ops)
        left_out = range(fold.low, fold.high) if fold else range(0)
        stitches += [at + cell + 1 for cell in range(cells) if cell not in left_out]
        at += cells
        if fold:
            last = ends[part] + fold.low
            boxes.append(ChartBox(first=last - fold.box, last=last, low=lead, high=len(lines)))
    boxes.append(ChartBox(first=0, last=sum(widths), low=lead, high=len(lines)))
    names = [f"{s.name} · {f.times}×" if f else s.name for s, f in zip(segments, folds, strict=True)]
    return _chart(short, widths, names, boxes=boxes, worked=worked, stitches=stitches)


def _fold(rows: Sequence[tuple[Op, ...]], s: Segment) -> _Fold | None:
    """What can be left out of a section: the same box of whole operations stands there in every row.

    Rows may begin their repeat at different stitches, as those of the wrong side do; the box is one of all rows.
    """
    box, cells = makes(s.chart.rows[0].box), [_cell_marks(ops) for ops in rows]
    starts = [{*accumulate((op.cells for op in ops), initial=0)} for ops in rows]
    best = (0, 0)
    for low in sorted(set.intersection(*starts)):
        if low > box + s.chart.balance:
            break
        alike = min(_alike(marks, low, box) for marks in cells)
        best = max(best, (alike // box, -low))
    many, low = best[0], -best[1]
    if many < 2:
        return None
    times = next((m for m in range(1, many) if many % m == 0 and m * box >= LEAST_BOX), 1)
    return _Fold(box=times * box, low=low + times * box, high=low + many * box, times=many // times)


def _cell_marks(ops: tuple[Op, ...]) -> list[tuple[Op, int]]:
    """For each cell the operation in it, and which of its cells it is."""
    return [(op, part) for op in ops for part in range(op.cells)]


def _alike(marks: list[tuple[Op, int]], low: int, box: int) -> int:
    """How many cells from `low` on repeat every `box`."""
    at = low + box
    while at < len(marks) and marks[at] == marks[at - box]:
        at += 1
    return at - low


def _shortened(part: ChartPart, fold: _Fold | None) -> ChartPart:
    if fold is None:
        return part
    starts = [*accumulate((op.cells for op in part.ops), initial=0)]
    ops = tuple(op for at, op in zip(starts, part.ops, strict=False) if not fold.low <= at < fold.high)
    return replace(part, ops=ops)


def pattern_chart(chart: Chart, family: str) -> PrintedChart:
    """One pattern's chart with its repeat in a box."""
    lines = padded_lines(chart_lines(chart, family))
    widths = widest_parts(lines)
    ends = [0, *accumulate(widths)]
    boxes = [ChartBox(first=ends[1], last=ends[2], low=0, high=len(lines))] if len(widths) == 3 else []
    names = [part.name or "" for part in lines[0].parts] if len(widths) == 3 else [chart.name]
    return _chart(lines, widths, names, boxes=boxes, worked=[0] * len(lines))
