"""Rows read out of a text and looked at before they are kept: the chart, what was noticed, and the names explained."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from ...core.errors import CabluxError, Problem
from ...core.fabric.draw_in import MAX_LOOPS
from ...core.notation import Chart, audit_chart
from ...core.notation.charttext import ChartWork, is_ours
from ...core.notation.definitions import Names
from ...core.notation.grid import is_grid, read_source
from ...core.notation.plainprose import sizes_in_text
from ...core.notation.rowparser import parse_ops
from ...core.notation.rowtext import format_flat
from ...core.pattern.chartwords import ChartWords, chart_words
from ...core.piece.segment import Role
from ...core.practice import ROWS_TO_STITCHES
from ...render.chartfile import panel_svg
from ...render.relief import segment_relief
from ...store import repository
from ...store.database import Database

MOST_PICTURED = 1_500  # our choice: loops in a picture that has to be there at once


@dataclass(frozen=True, kw_only=True)
class PastedRows:
    """The text and the choices beside it, as they were typed."""

    text: str = ""
    name: str = ""
    work: ChartWork | None = None
    size: int = 0
    rest: int = 0


@dataclass(frozen=True, kw_only=True)
class RowsRead:
    """What was read from a text: its chart, what is to be looked at, the names it explains, and what is wrong."""

    typed: PastedRows
    work: ChartWork
    sizes: int
    chart: Chart | None = None
    notes: tuple[str, ...] = ()
    names: tuple[tuple[str, str], ...] = ()
    problem: str = ""

    @cached_property
    def counts(self) -> tuple[Problem, ...]:
        """Where its counts disagree."""
        return audit_chart(self.chart) if self.chart else ()

    @cached_property
    def svg(self) -> str:
        """Its chart."""
        return panel_svg(self.chart) if self.chart else ""

    @cached_property
    def relief(self) -> str:
        """Its cloth; empty where the counts disagree or the picture would be too large."""
        chart = self.chart
        if chart is None or self.counts or chart.width() * chart.height > min(MOST_PICTURED, MAX_LOOPS):
            return ""
        role: Role = "background" if chart.balance else "panel"
        return segment_relief(chart, role, 1 if chart.width() > 12 else 2, ratio=ROWS_TO_STITCHES, tall=220.0)

    @cached_property
    def words(self) -> tuple[ChartWords, ...]:
        """Its rows in our words, worked as the text is."""
        if self.chart is None or self.counts:
            return ()
        return chart_words(self.chart, work="round" if self.work == "round" else "flat")


class Reader:
    """Reads texts with the names that one database keeps."""

    def __init__(self, database: Database) -> None:
        self.database = database

    def kept(self) -> dict[str, str]:
        """The names that were kept, and what each stands for, in our words."""
        with self.database.reading() as session:
            return repository.kept_names(session)

    def keep(self, names: tuple[tuple[str, str], ...]) -> None:
        """Keeps names for the next text; what is kept already is exchanged. Raises InvalidText for what is none."""
        for _, meaning in names:
            parse_ops(meaning)
        with self.database.writing() as session:
            repository.keep_names(session, dict(names))

    def forget(self, name: str) -> None:
        """Keeps a name no longer."""
        with self.database.writing() as session:
            repository.forget_name(session, name)

    def look(self, typed: PastedRows) -> RowsRead:
        """What a text says; mistakes in it are told in `problem`, and nothing is kept."""
        how: ChartWork = typed.work or ("marked" if is_ours(typed.text) or is_grid(typed.text) else "flat")
        many = 1 if is_ours(typed.text) or is_grid(typed.text) else sizes_in_text(typed.text)
        own = Names({name: parse_ops(meaning) for name, meaning in self.kept().items()})
        try:
            read = read_source(typed.text, work=how, size=typed.size, names=own, rest=typed.rest)
        except CabluxError as error:
            return RowsRead(typed=typed, work=how, sizes=many, problem=str(error))
        names = tuple((d.name, format_flat(d.ops)) for d in read.definitions)
        return RowsRead(typed=typed, work=how, sizes=many, chart=read.chart, notes=read.notes, names=names)
