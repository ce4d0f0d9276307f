"""Squares that must match: the set a project belongs to."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, Request
from fastapi.responses import RedirectResponse, Response

from ..render.fan import draw_fan
from ..service import squares
from .deps import DrawerDep, ProjectDep, ProjectsDep
from .pages import page, path_maker

router = APIRouter(prefix="/projects/{project_id}/squares")
Text = Annotated[str, Form()]


def _back(request: Request, project_id: int) -> Response:
    return RedirectResponse(path_maker(request)("squares", project_id=project_id), 303)


@router.get("", name="squares")
def show_squares(request: Request, project: ProjectDep, projects: ProjectsDep) -> Response:
    """The set."""
    panels = [(e.pattern.id, e.pattern.name) for e in request.app.state.drawer.entries() if e.use == "panel"]
    found = squares.square_set(projects, project)
    fans = [draw_fan(p.piece.band_views[0], p.numbers.cast_on.cast_on, project.unit, p.paint) for p in found.members]
    return page(request, "squares.html", project=project, found=found, panels=panels, fans=fans)


@router.post("/name", name="name_squares")
def change_set_name(request: Request, projects: ProjectsDep, project_id: int, name: Text = "") -> Response:
    """Names the set, or leaves it."""
    squares.name_set(projects, project_id, name)
    return _back(request, project_id)


@router.post("/match", name="match_squares")
def match_set(request: Request, projects: ProjectsDep, project: ProjectDep) -> Response:
    """Sizes all squares of the set like this one."""
    squares.match_all(projects, project)
    return _back(request, project.id)


@router.post("/add", name="add_square")
def add_to_set(
    request: Request,
    projects: ProjectsDep,
    project: ProjectDep,
    drawer: DrawerDep,
    pattern: Text,
    arrangement: Text = "one wide in the middle",
    name: Text = "",
) -> Response:
    """One more square."""
    squares.add_square(projects, project, name, drawer.pattern(pattern), arrangement)
    return _back(request, project.id)
