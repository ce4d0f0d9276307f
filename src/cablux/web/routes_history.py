"""The history of a project: its steps by name, going to any of them, two side by side."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import RedirectResponse, Response

from ..render.fan import draw_fan
from ..service.errors import NotFound
from ..service.projects import compare_steps
from .deps import PlaceDep, ProjectDep, ProjectsDep
from .pages import page, path_maker

router = APIRouter(prefix="/projects/{project_id}/history")


@router.get("", name="history")
def show_history(
    request: Request,
    project: ProjectDep,
    projects: ProjectsDep,
    one: Annotated[int | None, Query(ge=0)] = None,
    other: Annotated[int | None, Query(ge=0)] = None,
) -> Response:
    """All steps; with two of them named, side by side."""
    steps = projects.steps(project.place)
    both = None if one is None or other is None else compare_steps(projects, project.place, one, other=other)
    versions = (both.one, both.other) if both else ()
    fans = [
        draw_fan(v.piece.band_views[0], v.numbers.cast_on.cast_on, project.unit, yarn=project.paint) for v in versions
    ]
    return page(request, "history.html", project=project, steps=steps[::-1], both=both, fans=fans)


@router.get("/{position}", name="history_step")
def show_step(request: Request, project: ProjectDep, projects: ProjectsDep, position: int) -> Response:
    """A step in a small picture, fetched when it comes into sight."""
    version = next((v for v in projects.steps(project.place) if v.position == position), None)
    if version is None:
        raise NotFound("That step is no longer kept.")
    fan = draw_fan(version.piece.band_views[0], version.numbers.cast_on.cast_on, project.unit, yarn=project.paint)
    return page(request, "_history_step.html", project=project, version=version, fan=fan)


@router.post("/go", name="history_go")
def go_to_step(
    request: Request, projects: ProjectsDep, project_id: PlaceDep, position: Annotated[int, Form(ge=0)]
) -> Response:
    """To any step."""
    projects.go(project_id, position)
    return RedirectResponse(path_maker(request)("bench", project_id=project_id), 303)
