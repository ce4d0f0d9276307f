"""The composer: a new panel, its sheet, and every move on it."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal, get_args

from fastapi import APIRouter, Depends, File, Form, Query, Request, UploadFile
from fastapi.responses import RedirectResponse, Response

from ..core.errors import CabluxError
from ..core.library import FamilyName
from ..core.notation.charttext import ChartWork
from ..core.notation.crossings import CentreAt
from ..service.exchange import chart_as, chart_source
from ..service.panels import (
    Action,
    Done,
    PastedRows,
    Reader,
    RowsRead,
    Tools,
    allow_warning,
    composer_view,
    describe_panel,
    make_move,
    tools_within,
    write_row,
)
from .deps import DrawerDep, PanelsDep, ProjectsDep, ReaderDep
from .pages import page, path_maker, wants_part

router = APIRouter(prefix="/composer")

MAX_TEXT = 200_000  # bytes, our choice: a chart of 300 by 600 in words
NEW = {"name": "", "foundation": "p2, k6, p2", "rows": 16}
Row = Annotated[int, Form(ge=0, le=500)]
Count = Annotated[int, Form(ge=0, le=100)]
Text = Annotated[str, Form(max_length=MAX_TEXT)]


def _tools(
    row: Row = 1,
    cell: Count = 1,
    over: Count = 2,
    under: Count = 2,
    centre: Count = 0,
    centre_at: Annotated[CentreAt, Form()] = "between",
    steps: Annotated[int, Form(ge=1, le=60)] = 1,
    width: Annotated[int, Form(ge=1, le=12)] = 2,
    token: Annotated[str, Form(max_length=200)] = "",
    first: Count = 1,
    last: Count = 1,
) -> Tools:
    """The tools as the form has them."""
    return Tools(
        row=row,
        cell=cell,
        over=over,
        under=under,
        centre=centre,
        centre_at=centre_at,
        steps=steps,
        width=width,
        token=token,
        first=first,
        last=last,
    )


ToolsDep = Annotated[Tools, Depends(_tools)]


def _shown(request: Request, done: Done) -> Response:
    """The composer's page, or its changing part where htmx asked."""
    panel, tools = done.panel, done.tools
    if request.method == "POST" and not wants_part(request):
        address = path_maker(request)("composer", panel_id=panel.id)
        return RedirectResponse(f"{address}?row={tools.row}&cell={tools.cell}", 303)
    return page(
        request,
        "_composer.html" if wants_part(request) else "composer.html",
        panel=panel,
        tools=tools,
        said=done.said,
        view=composer_view(panel, tools),
        families=[f for f in get_args(FamilyName) if f not in ("ground", "edge")],
    )


@router.get("/new", name="new_panel")
def new_panel(request: Request, reader: ReaderDep) -> Response:
    """A new panel: on a foundation, or from text."""
    return _import_page(request, reader, RowsRead(typed=PastedRows(), work="flat", sizes=1))


@router.post("/new", name="create_panel")
def create_panel(
    request: Request,
    panels: PanelsDep,
    reader: ReaderDep,
    name: Text = "",
    foundation: Text = "",
    rows: Annotated[int, Form(ge=1, le=120)] = 16,
) -> Response:
    """Plain rows on a foundation."""
    try:
        made = panels.new(name, foundation, rows)
    except CabluxError as error:
        typed = NEW | {"name": name, "foundation": foundation, "rows": rows}
        look = RowsRead(typed=PastedRows(), work="flat", sizes=1)
        return page(request, "panel_new.html", 422, problem=str(error), form=typed, look=look, kept=reader.kept())
    return RedirectResponse(path_maker(request)("composer", panel_id=made), 303)


@router.post("/import", name="import_panel")
def import_panel(
    request: Request,
    panels: PanelsDep,
    reader: ReaderDep,
    name: Text = "",
    text: Text = "",
    work: Annotated[ChartWork | Literal[""], Form()] = "",
    size: Annotated[int, Form(ge=0, le=40)] = 0,
    rest: Annotated[int, Form(ge=0, le=120)] = 0,
    do: Annotated[Literal["look", "keep", "names"], Form()] = "look",
    forget: Annotated[str, Form(max_length=20)] = "",
    file: Annotated[UploadFile | None, File()] = None,
) -> Response:
    """A text looked at: its chart, what was noticed, and the choices beside it; kept in the drawer where asked for."""
    typed = PastedRows(text=text, name=name, work=work or None, size=size, rest=rest)
    try:
        if file and file.filename:
            typed = replace(typed, text=_content(file))
    except CabluxError as error:
        look = RowsRead(typed=typed, work="flat", sizes=1, problem=str(error))
        return _import_page(request, reader, look)
    if forget:
        reader.forget(forget)
    look = reader.look(typed)
    if do == "names":
        reader.keep(look.names)
    if do == "keep" and look.chart is not None:
        return RedirectResponse(path_maker(request)("composer", panel_id=panels.keep(look.chart, name)), 303)
    return _import_page(request, reader, look)


def _import_page(request: Request, reader: Reader, look: RowsRead) -> Response:
    name = "_import.html" if wants_part(request) else "panel_new.html"
    return page(request, name, 422 if look.problem else 200, problem="", form=NEW, look=look, kept=reader.kept())


def _content(file: UploadFile) -> str:
    content = file.file.read(MAX_TEXT + 1)
    if len(content) > MAX_TEXT:
        raise CabluxError("This file is larger than 200 kB; a chart is a few thousand bytes.")
    return chart_source(content)


@router.post("/from/{pattern_id}", name="copy_panel")
def copy_panel(request: Request, panels: PanelsDep, drawer: DrawerDep, pattern_id: str) -> Response:
    """A panel of one's own that begins as a pattern of the drawer."""
    made = panels.copy(drawer.pattern(pattern_id))
    return RedirectResponse(path_maker(request)("composer", panel_id=made), 303)


@router.get("/{panel_id}", name="composer")
def show_composer(
    request: Request,
    panels: PanelsDep,
    panel_id: int,
    row: Annotated[int, Query(ge=0, le=500)] = 1,
    cell: Annotated[int, Query(ge=0, le=100)] = 1,
) -> Response:
    """The composer."""
    panel = panels.open(panel_id)
    tools = Tools(row=row, cell=cell, first=1, last=panel.chart.width())
    return _shown(request, Done(panel, tools_within(panel.chart, tools)))


@router.post("/{panel_id}/do", name="compose")
def do_move(
    request: Request, panels: PanelsDep, panel_id: int, action: Annotated[Action, Form()], tools: ToolsDep
) -> Response:
    """One move on the sheet."""
    return _shown(request, make_move(panels, panel_id, action, tools=tools))


@router.post("/{panel_id}/text", name="compose_text")
def row_text(
    request: Request, panels: PanelsDep, panel_id: int, row: Row, text: Annotated[str, Form(max_length=2000)]
) -> Response:
    """A row written anew."""
    return _shown(request, write_row(panels, panel_id, row, text=text, tools=Tools(row=row)))


@router.post("/{panel_id}/history", name="compose_history")
def move_in_history(
    request: Request, panels: PanelsDep, panel_id: int, way: Annotated[Literal["undo", "redo"], Form()], tools: ToolsDep
) -> Response:
    """One step back or forward."""
    panel = panels.move(panel_id, -1 if way == "undo" else 1)
    return _shown(request, Done(panel, tools_within(panel.chart, tools)))


@router.post("/{panel_id}/mend", name="mend_panel")
def undo_broken(request: Request, panels: PanelsDep, panel_id: int) -> Response:
    """Takes the last change of a panel back that cannot be read any more."""
    panels.documents.move(panel_id, -1)
    return RedirectResponse(path_maker(request)("drawer"), 303)


@router.post("/{panel_id}/allow", name="compose_allow")
def toggle_warning(
    request: Request, panels: PanelsDep, panel_id: int, name: Annotated[str, Form(max_length=60)], tools: ToolsDep
) -> Response:
    """Waves a warning through, or takes that back."""
    panel = allow_warning(panels, panel_id, name)
    return _shown(request, Done(panel, tools_within(panel.chart, tools)))


@router.post("/{panel_id}/about", name="compose_about")
def change_about(
    request: Request,
    panels: PanelsDep,
    panel_id: int,
    name: Annotated[str, Form(max_length=200)],
    note: Annotated[str, Form(max_length=1000)] = "",
    use: Annotated[Literal["panel", "background"], Form()] = "panel",
    family: Annotated[FamilyName, Form()] = "rope",
) -> Response:
    """Name, note, use and family."""
    panel = describe_panel(panels, panel_id, name, note=note, use=use, family=family)
    return _shown(request, Done(panel, tools_within(panel.chart, replace(Tools(), last=panel.chart.width()))))


@router.get("/{panel_id}/chart.txt", name="unfinished_chart")
def chart_text(panels: PanelsDep, panel_id: int) -> Response:
    """The chart as text, finished or not."""
    return Response(chart_as(panels.open(panel_id).chart, "text"), media_type="text/plain; charset=utf-8")


@router.post("/{panel_id}/remove", name="remove_panel")
def remove_panel(
    request: Request, panels: PanelsDep, projects: ProjectsDep, panel_id: int, sure: Annotated[str, Form()] = ""
) -> Response:
    """Removes a panel for good; projects keep their own copy of it."""
    if sure != "yes":
        raise CabluxError("Tick “for good” first; a removed panel cannot be brought back.")
    panels.open(panel_id)
    panels.remove(panel_id)
    return RedirectResponse(path_maker(request)("drawer"), 303)
