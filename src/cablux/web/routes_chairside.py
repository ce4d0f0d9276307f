"""At the chair: the row to work now, and the tally."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import RedirectResponse, Response

from ..service.chairside import RowNow
from ..service.projects import Project
from ..service.sizes_page import size_choices
from .deps import ChairDep, ProjectDep
from .pages import page, path_maker, wants_part

router = APIRouter(prefix="/projects/{project_id}")
Row = Annotated[int, Form(ge=1, le=10_000)]
Which = Annotated[int, Form(ge=1, le=100)]


def _chair(request: Request, project: Project, now: RowNow) -> Response:
    if request.method == "POST" and not wants_part(request):
        query = f"?which={now.copy}" if now.copy > 1 else ""
        return RedirectResponse(f"{path_maker(request)('chairside', project_id=project.place)}{query}", 303)
    if wants_part(request):
        return page(request, "_chairside.html", project=project, now=now)
    own, sizes = size_choices(project)
    return page(request, "chairside.html", project=project, now=now, own=own, sizes=sizes)


@router.get("/chairside", name="chairside")
def show_chairside(
    request: Request, project: ProjectDep, chair: ChairDep, which: Annotated[int, Query(ge=1, le=100)] = 1
) -> Response:
    """The row to work now."""
    return _chair(request, project, chair.now(project, min(which, project.file.own.copies)))


@router.post("/chairside/done", name="row_done")
def tick_row(request: Request, project: ProjectDep, chair: ChairDep, row: Row, which: Which = 1) -> Response:
    """Ticks off a row."""
    return _chair(request, project, chair.row_done(project, row, which))


@router.post("/chairside/undo", name="row_undo")
def untick_row(request: Request, project: ProjectDep, chair: ChairDep, row: Row, which: Which = 1) -> Response:
    """Takes the last row back."""
    return _chair(request, project, chair.undo(project, row, which))
