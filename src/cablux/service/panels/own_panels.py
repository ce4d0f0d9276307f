"""Panels of the knitter's own: make, open, change with undo, take in from text, remove."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache

from ...core.composing import blank_sheet
from ...core.errors import IllegalChart, Problem
from ...core.fabric.draw_in import MAX_LOOPS
from ...core.library import StitchPattern
from ...core.notation import Chart, audit_chart, format_chart, lint_chart
from ...core.notation.charttext import ChartWork
from ...core.notation.grid import read_any
from ...core.notation.lint import ChartWarning
from ...store.database import Database
from ...store.repository import PANELS
from ..documents import Changed, Documents, Opened
from ..exchange import PanelFile


@lru_cache(maxsize=256)
def _lint(chart: Chart) -> tuple[ChartWarning, ...]:
    return lint_chart(chart)


@lru_cache(maxsize=256)
def _finished(file: PanelFile) -> StitchPattern:
    return file.finished().pattern()


@lru_cache(maxsize=256)
def _audit(chart: Chart) -> tuple[Problem, ...]:
    return audit_chart(chart)


class Panel(Opened):
    """An opened panel."""

    @property
    def file(self) -> PanelFile:
        """The panel as it is stored."""
        return _read(self.stored.document)

    @property
    def chart(self) -> Chart:
        """Its chart, right or wrong."""
        return self.file.read()

    @property
    def name(self) -> str:
        """Its name."""
        return self.chart.name

    @property
    def problems(self) -> tuple[Problem, ...]:
        """What the audit finds, and whether its cloth can be computed at all."""
        chart = self.chart
        if chart.width() * chart.height > MAX_LOOPS:
            text = f"The panel has {chart.width()} by {chart.height} stitches; its cloth can be computed up to"
            return (*_audit(chart), Problem(message=f"{text} {MAX_LOOPS} in all. Make it smaller, or in two panels."))
        return _audit(chart)

    @property
    def warnings(self) -> tuple[ChartWarning, ...]:
        """What the lint finds, once the counts agree."""
        return () if self.problems else _lint(self.chart)

    @property
    def pattern(self) -> StitchPattern | None:
        """The pattern that it makes; None while its counts disagree."""
        return None if self.problems else _finished(self.file)


class Panels:
    """The panels of one database."""

    def __init__(self, database: Database) -> None:
        self.documents = Documents(database, PANELS, "panel", read=lambda document: _read(document).read())

    def create(self, file: PanelFile) -> int:
        """Stores a new panel; returns its number."""
        file.read()
        return self.documents.create(file.model_dump_json(), "New panel")

    def new(self, name: str, foundation: str, rows: int) -> int:
        """A panel of plain rows on a foundation such as `p2, k6, p2`. Raises InvalidText or IllegalChart."""
        return self.create(PanelFile(chart=format_chart(blank_sheet(plain_name(name), foundation, rows).chart)))

    def take_in(self, text: str, work: ChartWork | None = None, name: str = "") -> int:
        """A panel from chart text, prose or a CSV grid. Raises InvalidText or AmbiguousText; counts may disagree."""
        return self.keep(read_any(text, work), name)

    def keep(self, chart: Chart, name: str = "") -> int:
        """A panel from a chart that was read; counts may disagree."""
        if name.strip() or chart.name == "Unnamed":
            chart = replace(chart, name=plain_name(name or "Panel from text"))
        return self.create(PanelFile(chart=format_chart(chart)))

    def copy(self, pattern: StitchPattern) -> int:
        """A panel of one's own that begins as a pattern of the drawer."""
        chart = replace(pattern.chart, name=plain_name(f"{pattern.name[:70]}, my version"))
        return self.create(
            PanelFile(chart=format_chart(chart), uses=pattern.uses, family=pattern.family, note=pattern.note)
        )

    def open(self, panel_id: int) -> Panel:
        """A panel by number. Raises NotFound."""
        return Panel(self.documents.open(panel_id))

    def all(self) -> list[Panel]:
        """Every panel, the last changed first."""
        return [Panel(stored) for stored in self.documents.all()]

    def change(self, panel_id: int, label: str, change: Callable[[PanelFile], PanelFile]) -> Panel:
        """Applies a change and keeps it as a step that can be undone; what it raises leaves all as it was."""

        def checked(document: str) -> Changed:
            before = _read(document)
            after = change(before)
            after.read()
            return Changed(after.model_dump_json() if after != before else document)

        return Panel(self.documents.change(panel_id, label, checked))

    def move(self, panel_id: int, by: int) -> Panel:
        """One step back (−1) or forward (+1) in the history; nothing where there is none."""
        return Panel(self.documents.move(panel_id, by))

    def remove(self, panel_id: int) -> None:
        """Deletes a panel for good; projects that use it keep their own copy."""
        self.documents.remove(panel_id)


def plain_words(text: str, most: int, without: str = "<>") -> str:
    """Words on one line, without markup and without what cannot be printed, cut to a length."""
    return " ".join("".join(c if c.isprintable() and c not in without else " " for c in text).split())[:most]


def plain_name(name: str) -> str:
    """A name without markup, cut to what a drawer shows. Raises IllegalChart where nothing is left."""
    plain = plain_words(name, 80, "<>#")
    if not plain:
        raise IllegalChart((Problem(message="Give the panel a name, in plain words."),))
    return plain


@lru_cache(maxsize=512)
def _read(document: str) -> PanelFile:
    return PanelFile.model_validate_json(document)
