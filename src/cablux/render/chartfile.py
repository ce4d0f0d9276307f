"""A library chart as a picture: for a page, or as a file of its own in SVG or PNG."""

from __future__ import annotations

import re
import struct
import tempfile
from dataclasses import replace
from io import BytesIO
from pathlib import Path
from xml.sax.saxutils import escape, unescape

from PIL.PngImagePlugin import PngInfo, PngStream, putchunk

from ..core.notation import Chart, ChartRow, format_chart, side_of
from .chart import ChartLine, ChartPart, chart_svg
from .print_styles import FILE_STYLE

KEYWORD = "cablux-chart"
_PNG = b"\x89PNG\r\n\x1a\n"
_END = 12  # bytes of the chunk that ends a picture
_METADATA = re.compile(rf'<metadata id="{KEYWORD}">([^<]*)</metadata>')
PPI = 192  # our choice: a stitch is then 32 pixels wide, which prints well


def chart_lines(chart: Chart, family: str = "rope") -> list[ChartLine]:
    """The rows of a chart in three parts where it has a box: after the repeat, the repeat, and before it.

    Where rows begin their repeat at different columns there is no box to draw, and the columns stand as one part.
    """
    sides = {tuple(sum(op.cells for op in part) for part in (row.before, row.after)) for row in chart.rows}
    boxed = len(sides) == 1 and sides != {(0, 0)}
    return [ChartLine(number, side_of(number), _parts(row, family, boxed=boxed)) for number, row in chart.numbered()]


def _parts(row: ChartRow, family: str, *, boxed: bool) -> tuple[ChartPart, ...]:
    if not boxed:
        return (ChartPart("", family, row.ops()),)
    return ChartPart("", "edge", row.before), ChartPart("repeat", family, row.box), ChartPart("", "edge", row.after)


def panel_svg(chart: Chart, family: str = "rope") -> str:
    """The chart for a page, which brings its own styles.

    An odd number of rows is drawn twice, since worked flat they change sides from repeat to repeat.
    """
    label = f"Chart of {chart.name}: {chart.width()} stitches, {chart.height} rows"
    drawn = replace(chart, rows=chart.rows * 2) if chart.height % 2 else chart
    return chart_svg(chart_lines(drawn, family), label)


def chart_file_svg(chart: Chart) -> str:
    """The chart as a file of its own, its styles inside, and the chart as text for whoever wants to read it again."""
    svg = panel_svg(chart)
    at = svg.index(">") + 1
    text = f'<metadata id="{KEYWORD}">{escape(format_chart(chart))}</metadata>'
    return f"{svg[:at]}{text}<style>{FILE_STYLE}</style>{svg[at:]}"


def chart_file_png(chart: Chart) -> bytes:
    """The chart as a PNG, which carries the chart as text too."""
    import typst  # here: only this wants the engine

    with tempfile.TemporaryDirectory() as folder:
        Path(folder, "chart.svg").write_text(chart_file_svg(chart), "utf-8")
        page = Path(folder, "page.typ")
        page.write_text('#set page(width: auto, height: auto, margin: 6pt)\n#image("chart.svg")\n', "utf-8")
        made = typst.compile(str(page), format="png", ppi=PPI)
    assert isinstance(made, bytes), "one page makes one picture"
    carried, chunk = PngInfo(), BytesIO()
    carried.add_itxt(KEYWORD, format_chart(chart))
    for kind, data, *_ in carried.chunks:
        putchunk(chunk, kind, data)
    return made[:-_END] + chunk.getvalue() + made[-_END:]


def text_in_picture(content: bytes) -> str | None:
    """The chart as text that one of our pictures carries; None if it is no picture, empty if it carries none."""
    if content.startswith(_PNG):
        return _carried(content)
    if content.lstrip()[:4] != b"<svg":
        return None
    found = _METADATA.search(content.decode("utf-8", "replace"))
    return unescape(found[1]) if found else ""


def _carried(content: bytes) -> str:
    """The text of our chunk; the picture itself is not unpacked, however large it says it is."""
    source = BytesIO(content[len(_PNG) :])
    stream = PngStream(source)
    try:
        while KEYWORD not in stream.im_text:
            kind, at, length = stream.read()
            data = stream.chunk_iTXt(at, length) if kind == b"iTXt" else source.read(length)
            stream.crc(kind, data)
    except (OSError, ValueError, SyntaxError, struct.error):  # it ends, or is cut short or broken
        return ""
    return str(stream.im_text[KEYWORD])
