"""Squares that must match: the pieces of a project."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, Request
from fastapi.responses import RedirectResponse, Response

from ..render.fan import draw_fan
from ..service.commands import AddSquare, MatchSquares, carry_out
from ..service.forms import FormReader
from ..service.pieces import square_set
from ..service.projects import Project
from .deps import DrawerDep, ProjectDep, ProjectsDep
from .pages import page, path_maker

router = APIRouter(prefix="/projects/{project_id}/squares")
Text = Annotated[str, Form()]


def _back(request: Request, project: Project) -> Response:
    return RedirectResponse(path_maker(request)("squares", project_id=project.place), 303)


@router.get("", name="squares")
def show_squares(request: Request, project: ProjectDep) -> Response:
    """The pieces as squares."""
    panels = [(e.pattern.id, e.pattern.name) for e in request.app.state.drawer.entries() if e.use == "panel"]
    found = square_set(project)
    fans = [
        draw_fan(p.piece.band_views[0], p.numbers.cast_on.cast_on, project.unit, yarn=p.paint) for p in found.members
    ]
    return page(request, "squares.html", project=project, found=found, panels=panels, fans=fans)


@router.post("/match", name="match_squares")
def match_set(request: Request, projects: ProjectsDep, project: ProjectDep) -> Response:
    """Sizes all squares like this one."""
    return _back(request, carry_out(projects, project.place, MatchSquares()))


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
    typed = FormReader()
    clean = typed.words(name, "The name of the square", "name", most=80)
    typed.done()
    command = AddSquare(pattern=drawer.pattern(pattern).id, arrangement=arrangement, name=clean)
    carry_out(projects, project.place, command, pattern=drawer.pattern)
    return _back(request, project)
