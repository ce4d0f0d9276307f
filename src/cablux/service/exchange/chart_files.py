"""Chart files: read and audited, told of, and written as text, as a grid, or as a picture that carries its chart."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Literal

from ...core.errors import AmbiguousText, InvalidText, Problem
from ...core.notation import Chart, audit_chart, format_chart, lint_chart
from ...core.notation.audit import audited_chart
from ...core.notation.grid import format_grid, read_source
from ...core.notation.lint import ChartWarning
from ...render.chartfile import chart_file_png, chart_file_svg, text_in_picture
from ..answers import ChartCheck, ChartDoubt, ChartMeasures, ChartProblem
from ..errors import BadFile

ChartForm = Literal["text", "csv", "svg", "png"]


@dataclass(frozen=True, kw_only=True)
class ChartReport:
    """What the audit found."""

    problems: tuple[Problem, ...]
    chart: Chart | None
    warnings: tuple[ChartWarning, ...] = ()
    notes: tuple[str, ...] = ()

    @property
    def ok(self) -> bool:
        """Whether the chart can be trusted."""
        return not self.problems

    @property
    def sentence(self) -> str:
        """The good news."""
        c = self.chart
        assert c is not None
        crossings = ", ".join(map(str, c.crossing_rows)) or "none"
        return f"{c.name}: multiple {c.size_text}, {c.height} rows, crossing rows {crossings}; every count agrees."

    @property
    def answer(self) -> ChartCheck:
        """The same as an answer."""
        c = self.chart
        return ChartCheck(
            ok=self.ok,
            problems=tuple(ChartProblem(**asdict(p)) for p in self.problems),
            warnings=tuple(ChartDoubt(**asdict(w)) for w in self.warnings),
            chart=None
            if c is None
            else ChartMeasures(
                name=c.name, multiple=c.multiple, balance=c.balance, rows=c.height, crossing_rows=c.crossing_rows
            ),
        )


def check_chart(text: str, *, flat: bool = True, size: int = 0) -> ChartReport:
    """Reads and audits a chart, of a text in several sizes one; never raises for what is in the text."""
    try:
        read = read_source(text, size=size)
        chart = read.chart
    except (InvalidText, AmbiguousText) as error:
        return ChartReport(problems=error.problems, chart=None)
    problems = audit_chart(chart)
    return ChartReport(
        problems=problems, chart=chart, warnings=() if problems else lint_chart(chart, flat=flat), notes=read.notes
    )


def chart_source(content: bytes) -> str:
    """The text of a chart's file, be it text, a grid, or one of our pictures. Raises BadFile."""
    carried = text_in_picture(content)
    if carried == "":
        raise BadFile("This picture carries no chart; only pictures saved by Cablux do.")
    try:
        return content.decode("utf-8") if carried is None else carried
    except UnicodeDecodeError:
        raise BadFile(
            "This file cannot be read; a chart can be text or CSV in UTF-8, or a picture saved by Cablux."
        ) from None


def convert_chart(text: str, form: ChartForm, *, hold: bool = False, size: int = 0) -> bytes:
    """A chart in another form. Raises for what cannot be read or does not add up."""
    return chart_as(audited_chart(read_source(text, size=size).chart), form, hold=hold)


def chart_as(chart: Chart, form: ChartForm, *, hold: bool = False) -> bytes:
    """A chart as text, as a CSV grid, or as a picture."""
    if form == "png":
        return chart_file_png(chart)
    if form == "svg":
        return chart_file_svg(chart).encode()
    return (format_grid(chart) if form == "csv" else format_chart(chart, hold=hold)).encode()
