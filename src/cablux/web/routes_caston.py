"""The cast-on page: both edges, the rows that change the count, and the ways to end the rows."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Form, Request
from fastapi.responses import RedirectResponse, Response

from ..core.piece.border import CastOn
from ..render.rowpicture import rows_svg
from ..render.svg import picture_size
from ..service import caston
from ..service.bench import End
from ..service.caston import edge_preview, way_picture
from ..service.commands import SetBorder, SetDense, TakeRows, carry_out
from ..service.projects import Project
from .deps import PlaceDep, ProjectDep, ProjectsDep
from .pages import page, path_maker, wants_part

router = APIRouter(prefix="/projects/{project_id}/cast-on")


def _show(request: Request, project: Project) -> Response:
    if wants_part(request) or request.method == "GET":
        name = "_caston.html" if wants_part(request) else "caston.html"
        pictures = [rows_svg(a) for a in caston.alignments(project.piece) if len(a.strips) > 1]
        shown = caston.cast_on_answer(project.file)
        return page(request, name, project=project, shown=shown, rows_pictures=pictures)
    return RedirectResponse(path_maker(request)("cast_on", project_id=project.place), 303)


@router.get("", name="cast_on")
def cast_on(request: Request, project: ProjectDep) -> Response:
    """The cast-on and how it came about."""
    return _show(request, project)


@router.post("", name="change_cast_on")
def change_cast_on(
    request: Request,
    projects: ProjectsDep,
    project_id: PlaceDep,
    end: Annotated[End, Form()] = "bottom",
    style: Annotated[Literal["", "stepped", "straight"], Form()] = "",
    spread: Annotated[Literal["", "cables", "even"], Form()] = "",
    pattern: Annotated[str, Form()] = "",
    rows: Annotated[int | None, Form()] = None,
    factor: Annotated[float | None, Form(allow_inf_nan=False)] = None,
    count: Annotated[int | None, Form()] = None,
    own: Annotated[Literal["", "yes"], Form()] = "",
    making: Annotated[list[Literal["usual", "dense"]] | None, Form()] = None,
) -> Response:
    """Changes how the piece begins or ends, or how dense increases may lie."""
    if making:
        return _show(request, carry_out(projects, project_id, SetDense(dense="dense" in making)))
    count = 0 if own and count is None else count  # a count that was cleared follows again
    command = SetBorder(end=end, pattern=pattern, rows=rows, style=style, spread=spread, percent=factor, count=count)
    return _show(request, carry_out(projects, project_id, command))


@router.post("/rows", name="take_row_choice")
def take_row_way(
    request: Request, projects: ProjectsDep, project_id: PlaceDep, name: Annotated[str, Form()]
) -> Response:
    """Takes one of the ways to end the piece."""
    return _show(request, carry_out(projects, project_id, TakeRows(name=name)))


@router.get("/way/{which}/{end}.svg", name="way_picture")
def show_way(project: ProjectDep, which: str, end: End) -> Response:
    """A corner of the piece, were it ended in one of the ways."""
    svg = way_picture(project, which, end)
    return Response(svg, media_type="image/svg+xml", headers={"cache-control": "private, no-cache"})


@router.get("/look/{end}/{style}", name="edge_look")
def show_edge(request: Request, project: ProjectDep, end: End, style: CastOn) -> Response:
    """How an edge would lie, laid out loop by loop; fetched after the page."""
    look, size = edge_preview(project, end, style), picture_size(caston.edge_picture(project, end, style))
    return page(request, "_edge_look.html", project=project, look=look, size=size, end=end, style=style)


@router.get("/edge/{end}/{style}.svg", name="edge_picture")
def edge_picture(project: ProjectDep, end: End, style: CastOn) -> Response:
    """The edge in relief."""
    headers = {"cache-control": "private, no-cache"}
    return Response(caston.edge_picture(project, end, style), media_type="image/svg+xml", headers=headers)
