"""The composer: what a person does to a panel, each a step with a name for the history."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Literal

from ...core import composing
from ...core.composing import Sheet
from ...core.notation import Chart, ChartRow, Crossing, Face, Lean, Stitch, parse_op, side_of
from ...core.notation.crossings import CentreAt
from ...core.notation.lint import NAMES, RULES, Rule
from ...core.notation.transform import tiled_chart, upside_down
from ...core.pattern.chartwords import chart_row_words
from ...render.composer import sheet_svg
from ..exchange import PanelFile
from .own_panels import Panel, Panels, plain_name, plain_words

Action = Literal[
    "cross-left", "cross-right", "twist-left", "twist-right", "put", "lift", "knit", "purl", "bump",
    "lead-left", "lead-right", "rows-add", "rows-remove", "rows-copy", "column-left", "column-right", "column-remove",
    "mirror", "flip", "shift", "double-up", "double-across", "repeat",
]  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Tools:
    """What the tools are set to: the cursor, the crossing at hand, the strand, a token, a run of rows or stitches."""

    row: int = 1
    cell: int = 1
    over: int = 2
    under: int = 2
    centre: int = 0
    centre_at: CentreAt = "between"
    steps: int = 1
    width: int = 2
    token: str = ""
    first: int = 1
    last: int = 1


@dataclass(frozen=True)
class Done:
    """A panel after a step, and where the cursor stands now."""

    panel: Panel
    tools: Tools
    said: str = ""


def make_move(panels: Panels, panel_id: int, action: Action, *, tools: Tools) -> Done:
    """One step. Whatever cannot be done is said in a sentence, and nothing is changed."""
    cursor, said = tools, ""

    def change(file: PanelFile) -> PanelFile:
        nonlocal cursor, said
        chart = file.read()
        made, cursor, said = _step(chart, action, tools)
        return file.with_chart(replace(made, name=chart.name))

    panel = panels.change(panel_id, _LABELS[action], change)
    return Done(panel, tools_within(panel.chart, cursor), said)


_LABELS: dict[Action, str] = {
    "cross-left": "cross", "cross-right": "cross", "twist-left": "twist", "twist-right": "twist", "put": "put",
    "lift": "remove", "knit": "knit", "purl": "purl", "bump": "bump", "lead-left": "lead", "lead-right": "lead",
    "rows-add": "add rows", "rows-remove": "remove rows", "rows-copy": "copy rows", "column-left": "add a column",
    "column-right": "add a column", "column-remove": "remove a column", "mirror": "mirror", "flip": "turn over",
    "shift": "shift", "double-up": "double", "double-across": "double", "repeat": "repeat",
}  # fmt: skip


def _step(chart: Chart, action: Action, tools: Tools) -> tuple[Chart, Tools, str]:
    """The chart after the step, where the cursor goes, and what there is to say."""
    if action in _WHOLE:
        return _WHOLE[action](chart), tools, ""
    sheet = Sheet.of(chart)
    if action in ("lead-left", "lead-right"):
        steps = tools.steps if action == "lead-left" else -tools.steps
        moved, done, cell = composing.lead_strand(sheet, tools.row, tools.cell, steps=steps, width=tools.width)
        start = tools.row + (tools.row + 1) % 2
        said = (
            ""
            if done == tools.steps
            else f"The strand travelled {done} of {tools.steps} steps; there is no background beyond."
        )
        return moved.chart, replace(tools, row=min(start + 2 * done, moved.height), cell=cell), said
    made, cursor = _SHEET[action](sheet, tools)
    return made.chart, cursor, ""


def _cross(lean: Lean, *, twist: bool = False) -> Callable[[Sheet, Tools], tuple[Sheet, Tools]]:
    def step(sheet: Sheet, t: Tools) -> tuple[Sheet, Tools]:
        over, under, centre = (1, 1, 0) if twist else (t.over, t.under, t.centre)
        made = composing.cross_loops(
            sheet, t.row, t.cell, over=over, under=under, lean=lean, centre=centre, centre_at=t.centre_at, twist=twist
        )
        return made, t

    return step


def _put(sheet: Sheet, t: Tools) -> tuple[Sheet, Tools]:
    return composing.put_operation(sheet, t.row, t.cell, op=parse_op(t.token.strip())), t


def _tiled(chart: Chart, across: int, up: int) -> Chart:
    composing.check_size(chart.width(across), chart.height * up)
    return Sheet.of(tiled_chart(chart, across, up)).chart


def _column(sheet: Sheet, t: Tools, *, left: bool) -> tuple[Sheet, Tools]:
    place = t.cell if left else t.cell - 1
    near = sheet.base[min(max(t.cell - 1, 0), len(sheet.base) - 1)]
    return composing.insert_columns(sheet, place, 1, face=near), replace(t, cell=t.cell if left else t.cell + 1)


_SHEET: dict[Action, Callable[[Sheet, Tools], tuple[Sheet, Tools]]] = {
    "cross-left": _cross(Lean.LEFT),
    "cross-right": _cross(Lean.RIGHT),
    "twist-left": _cross(Lean.LEFT, twist=True),
    "twist-right": _cross(Lean.RIGHT, twist=True),
    "put": _put,
    "lift": lambda s, t: (composing.lift_operation(s, t.row, t.cell), t),
    "knit": lambda s, t: (composing.paint_faces(s, t.row, t.cell, face=Face.KNIT), t),
    "purl": lambda s, t: (composing.paint_faces(s, t.row, t.cell, face=Face.PURL), t),
    "bump": lambda s, t: (composing.turn_one_stitch(s, t.row, t.cell), t),
    "rows-add": lambda s, t: (composing.insert_rows(s, t.row, 2), replace(t, row=t.row + 1)),
    "rows-remove": lambda s, t: (composing.remove_rows(s, max(1, t.row), 2), t),
    "rows-copy": lambda s, t: (composing.copy_rows(s, t.first, t.last), t),
    "column-left": lambda s, t: _column(s, t, left=True),
    "column-right": lambda s, t: _column(s, t, left=False),
    "column-remove": lambda s, t: (composing.remove_columns(s, t.cell), t),
    "repeat": lambda s, t: (composing.set_box(s, t.first, t.last), t),
}
_WHOLE: dict[Action, Callable[[Chart], Chart]] = {
    "mirror": Chart.mirrored,
    "flip": lambda c: Sheet.of(upside_down(c)).chart,
    "shift": lambda c: Sheet.of(c.shifted(2)).chart,
    "double-up": lambda c: _tiled(c, 1, 2),
    "double-across": lambda c: _tiled(c, 2, 1),
}


def write_row(panels: Panels, panel_id: int, row: int, *, text: str, tools: Tools) -> Done:
    """A row written anew; the others stay as they are, and the audit says if they no longer agree."""

    def change(file: PanelFile) -> PanelFile:
        return file.with_chart(composing.rewrite_row(file.read(), row, text))

    panel = panels.change(panel_id, f"row {row}", change)
    return Done(panel, tools_within(panel.chart, replace(tools, row=row)))


def allow_warning(panels: Panels, panel_id: int, name: str) -> Panel:
    """Waves a warning through, or takes that back."""

    def change(file: PanelFile) -> PanelFile:
        chart = file.read()
        kept = set(chart.allow) ^ ({name} & set(NAMES))
        return file.with_chart(replace(chart, allow=tuple(sorted(kept))))

    return panels.change(panel_id, f"warning: {name}", change)


def describe_panel(panels: Panels, panel_id: int, name: str, *, note: str, use: str, family: str) -> Panel:
    """Name, note, use and family."""

    def change(file: PanelFile) -> PanelFile:
        chart = replace(file.read(), name=plain_name(name))
        fields = {"uses": (use,), "family": family, "note": plain_words(note, 400)}
        return PanelFile.model_validate(file.with_chart(chart).model_dump() | fields)

    return panels.change(panel_id, "name, note and use", change)


def tools_within(chart: Chart, tools: Tools) -> Tools:
    """The tools with the cursor on the chart."""
    row = max(0, min(tools.row, chart.height))
    cells = sum(op.cells for op in chart.ops(row)) if row else chart.width()
    return replace(tools, row=row, cell=max(1, min(tools.cell, cells)))


@dataclass(frozen=True, kw_only=True)
class RowShown:
    """A row beside the chart: its number, side, words as worked flat, and what is wrong with it."""

    number: int
    side: str
    text: str
    problem: str


@dataclass(frozen=True, kw_only=True)
class ComposerView:
    """All that the composer's page shows of a panel; `cells` says what lies where, row by row from the foundation."""

    svg: str
    rows: tuple[RowShown, ...]
    cells: str
    waved: tuple[Rule, ...]


def composer_view(panel: Panel, tools: Tools) -> ComposerView:
    """The chart with its cursor, and its rows in words from the top."""
    chart = panel.chart
    wrong = {p.row: p.message for p in reversed(panel.problems)}
    rows = [
        RowShown(number=n, side=side_of(n), text=chart_row_words(row, n), problem=wrong.get(n, ""))
        for n, row in chart.numbered()
    ]
    base = "".join("k" if face is Face.KNIT else "p" for face in chart.faces_below(1))
    letters = "|".join([base, *("".join(_letters(row)) for row in chart.rows)])
    waved = tuple(rule for rule in RULES if rule.name in chart.allow)
    svg = sheet_svg(chart, panel.file.family, (tools.row, tools.cell), wrong=frozenset(wrong))
    return ComposerView(svg=svg, rows=tuple(rows[::-1]), cells=letters, waved=waved)


def _letters(row: ChartRow) -> Iterator[str]:
    for op in row.ops():
        plain = isinstance(op, Stitch)
        letter = op.token[0] if plain else "x" if isinstance(op, Crossing) else "o"
        yield letter * op.cells
