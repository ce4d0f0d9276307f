"""Charts for paper: cut to sheets, numbered on all sides, their sections named, repeats boxed, with rows to tick."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import accumulate, pairwise

from ..core.notation import Side
from .chart import LETTER, ChartLine, draw_crossings, draw_grid, draw_name, draw_part, name_fits, purl_pattern
from .chart_cuts import Window, windowed
from .print_styles import chart_style
from .svg import Element, number, picture_root
from .symbols import CELL

MOST_TICKS = 8
"""Our choice: so many boxes to tick stand beside a row; where it is worked more often, they stand with the words."""
MOST_LETTERS = 24  # our choice: of a longer name that stands upright the end is left out; it is whole where it lies
_APART = 2  # cells between two stitch numbers, so that three figures each have room
_NUMBERS, _TICK, _FOOT = 30.0, 9.0, 18.0


@dataclass(frozen=True, kw_only=True)
class ChartBox:
    """A repeat: cells from the right and lines from below, ends not in it."""

    first: int
    last: int
    low: int
    high: int


@dataclass(frozen=True, kw_only=True)
class PrintedChart:
    """A chart to be printed: its lines from below, the cells of its parts, and the stitch of each cell from the right.

    `names` says what each part is; `boxes` are repeats; `worked` is how often each line is worked.
    """

    lines: tuple[ChartLine, ...]
    widths: tuple[int, ...]
    names: tuple[str, ...]
    stitches: tuple[int, ...]
    boxes: tuple[ChartBox, ...]
    worked: tuple[int, ...]

    @property
    def ticks(self) -> int:
        """Boxes to tick beside a row; 0 where it is worked too often."""
        most = max(self.worked)
        return most if most <= MOST_TICKS else 0

    def seen(self, window: Window) -> Iterator[tuple[int, int, int]]:
        """The parts that a window shows, each with its first and last cell of those that are seen."""
        ends = [0, *accumulate(self.widths)]
        for at, (first, last) in enumerate(pairwise(ends)):
            first, last = max(first, window.first), min(last, window.last)
            if first < last:
                yield at, first, last

    def head(self, window: Window) -> float:
        """How high the names of a window stand: across where there is room, else upright."""
        upright = [
            len(_upright(self.names[at])) for at, a, b in self.seen(window) if not name_fits(self.names[at], b - a)
        ]
        return 30.0 + max((LETTER * n for n in upright), default=0.0)

    @property
    def highest_head(self) -> float:
        """What any window may want for its names."""
        return 30.0 + LETTER * max(len(_upright(name)) for name in self.names)

    def beside(self) -> float:
        """What stands beside the cells, across."""
        return 2.0 * _NUMBERS + self.ticks * _TICK


def _upright(name: str) -> str:
    """A name that stands upright, its end left out where it is long; how often its box is worked stays."""
    own, mark, often = name.partition(" · ")
    room = MOST_LETTERS - len(mark + often)
    return name if len(own) <= room else f"{own[: room - 1].rstrip()}…{mark}{often}"


def sheet_size(chart: PrintedChart, window: Window) -> tuple[float, float]:
    """Width and height of a sheet's picture, in units of which a cell has `CELL`."""
    return (
        (window.last - window.first) * CELL + chart.beside(),
        (window.high - window.low) * CELL + chart.head(window) + _FOOT,
    )


def sheet_svg(chart: PrintedChart, window: Window, *, colour: bool = True) -> str:
    """A sheet as SVG with its own styles."""
    wide, tall = sheet_size(chart, window)
    root = picture_root(wide, tall, width=wide, height=tall, class_="chart" if colour else "chart ink")
    root.add("style").text = chart_style(colour=colour)
    defs = root.add("defs")
    purl_pattern(defs)
    cells, rows = window.last - window.first, window.high - window.low
    clip = defs.add("clipPath", id="sheet")
    clip.add("rect", width=cells * CELL, height=rows * CELL)
    body = root.add("g", transform=f"translate({number(_NUMBERS)} {number(chart.head(window))})")
    body.add("rect", width=cells * CELL, height=rows * CELL, class_="chart-ground")
    inner = body.add("g", clip_path="url(#sheet)")
    shown = [windowed(line, window.first, window.last) for line in chart.lines[window.low : window.high]]
    for up, (line, over) in enumerate(shown):
        right, y = (cells + over) * CELL, (rows - 1 - up) * CELL
        for part in line.parts:
            right = draw_part(inner, part, right, y=y)
    draw_grid(body, cells, rows)
    crossings = body.add("g", clip_path="url(#sheet)")
    for up, (line, over) in enumerate(shown):
        draw_crossings(crossings, line, (cells + over) * CELL, y=(rows - 1 - up) * CELL)
    _sections(root, body, chart, window=window)
    _boxes(body, chart.boxes, window)
    if window.again:
        wide = window.again * CELL
        body.add("rect", x=cells * CELL - wide, width=wide, height=rows * CELL, class_="chart-again")
    if window.below:
        high = window.below * CELL
        body.add("rect", y=rows * CELL - high, width=cells * CELL, height=high, class_="chart-again")
    _stitch_numbers(body, chart.stitches[window.first : window.last], cells, rows=rows)
    _row_numbers(body, chart, window)
    return root.write()


def _sections(root: Element, body: Element, chart: PrintedChart, *, window: Window) -> None:
    """Lines between the sections, and each one's name over what is seen of it."""
    tall, top = number((window.high - window.low) * CELL), chart.head(window) - 17.0
    lines = []
    for at, first, last in chart.seen(window):
        name, family = chart.names[at], chart.lines[0].parts[at].family
        left, right = (window.last - last) * CELL, (window.last - first) * CELL
        lines += [f"M{number(left)} 0V{tall}", f"M{number(right)} 0V{tall}"]
        x = _NUMBERS + left
        root.add("rect", x=x + 1, y=top, width=right - left - 2, height=3, class_=f"family family-{family}")
        middle = x + (right - left) / 2.0
        across = name_fits(name, last - first)
        draw_name(root, name if across else _upright(name), middle, foot=top - 4, across=across)
    body.add("path", d="".join(lines), class_="chart-section")


def _boxes(body: Element, boxes: Sequence[ChartBox], window: Window) -> None:
    """What of each repeat's box lies in the window; it is left open where it goes on."""
    for box in boxes:
        first, last = max(box.first, window.first), min(box.last, window.last)
        low, high = max(box.low, window.low), min(box.high, window.high)
        if first >= last or low >= high:
            continue
        left, right = (window.last - last) * CELL, (window.last - first) * CELL
        top, foot = (window.high - high) * CELL, (window.high - low) * CELL
        sides = [
            (box.last == last, f"M{number(left)} {number(top)}V{number(foot)}"),
            (box.first == first, f"M{number(right)} {number(top)}V{number(foot)}"),
            (box.high == high, f"M{number(left)} {number(top)}H{number(right)}"),
            (box.low == low, f"M{number(left)} {number(foot)}H{number(right)}"),
        ]
        body.add("path", d="".join(d for drawn, d in sides if drawn), class_="chart-box")


def _stitch_numbers(body: Element, stitches: Sequence[int], cells: int, *, rows: int) -> None:
    """Above and below: the first, the last, every fifth, and where the count leaps over what is folded.

    Where two would touch, the one that tells less is left out.
    """
    ends = {0, len(stitches) - 1}
    leaps = {at for at in range(1, len(stitches)) if stitches[at] != stitches[at - 1] + 1}
    wanted = [*ends, *(leaps - ends), *(at for at, stitch in enumerate(stitches) if stitch % 5 == 0)]
    told = list[int]()
    for at in wanted:
        if all(abs(at - other) >= _APART for other in told) or at in ends:
            told.append(at)
    for at in set(told):
        x = (cells - at - 0.5) * CELL
        for y in (-4.0, rows * CELL + 12.0):
            body.add("text", x=x, y=y, text_anchor="middle", class_="chart-number").text = str(stitches[at])


def _row_numbers(body: Element, chart: PrintedChart, window: Window) -> None:
    """On both sides, bold where the row begins; beside them a box for each time that the row is worked."""
    wide = (window.last - window.first) * CELL
    for up, at in enumerate(range(window.low, window.high)):
        line, y = chart.lines[at], (window.high - window.low - 1 - up) * CELL
        begins = line.side is Side.RS
        for x, anchor, here in ((wide + 5.0, "start", begins), (-5.0, "end", not begins)):
            css = "chart-number begins" if here else "chart-number"
            body.add("text", x=x, y=y + CELL * 0.72, text_anchor=anchor, class_=css).text = str(line.number)
        for tick in range(chart.worked[at] if chart.ticks else 0):
            x = wide + _NUMBERS + tick * _TICK
            body.add("rect", x=x, y=y + CELL * 0.28, width=_TICK - 2.5, height=_TICK - 2.5, class_="chart-tick")
