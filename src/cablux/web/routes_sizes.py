"""A project's sizes: a table that fills size by size, one text for all of them, and the project made in one."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import PlainTextResponse, RedirectResponse, Response

from ..core.errors import CabluxError
from ..service.commands import TakeSize, carry_out
from ..service.projects import Project
from ..service.sizes import SizesView, sizes_view
from .deps import ChairDep, ProjectDep, ProjectsDep
from .pages import page, path_maker

router = APIRouter(prefix="/projects/{project_id}/sizes")
Sizes = Annotated[list[str] | None, Query(alias="size")]
Done = Annotated[int, Query(ge=0, le=60)]


@router.get("", name="sizes")
def show_sizes(
    request: Request, project: ProjectDep, chair: ChairDep, size: Sizes = None, all: bool = False
) -> Response:
    """The sizes that are asked for, or those for the same body; with `all` solved before the page is shown."""
    return _show(request, project, chair, found=sizes_view(project, size or (), None if all else 0))


@router.get("/table", name="sizes_table")
def show_table(request: Request, project: ProjectDep, size: Sizes = None, done: Done = 1) -> Response:
    """The table with so many of the sizes solved."""
    return page(request, "_sizes.html", project=project, found=sizes_view(project, size or (), done))


@router.get("/text", name="sizes_text")
def show_text(request: Request, project: ProjectDep, size: Sizes = None) -> Response:
    """One text for all sizes, as a part of the page."""
    return page(request, "_sizes_text.html", project=project, found=sizes_view(project, size or ()))


@router.get("/words.txt", name="sizes_words")
def show_words(project: ProjectDep, size: Sizes = None) -> Response:
    """One text for all sizes."""
    return PlainTextResponse(sizes_view(project, size or ()).words)


@router.post("", name="take_size")
def take_size(
    request: Request,
    project: ProjectDep,
    projects: ProjectsDep,
    chair: ChairDep,
    size: Annotated[str, Form()],
    back: Annotated[Literal["pieces", "chairside"], Form()] = "pieces",
) -> Response:
    """Makes the project's pieces anew in a size, in one step that can be undone; then the page that it was asked on."""
    try:
        carry_out(projects, project.id, TakeSize(size=size))
    except CabluxError as error:
        return _show(request, project, chair, found=sizes_view(project, (), 0), sentence=str(error))
    where = project.place if back == "chairside" else project.id
    return RedirectResponse(path_maker(request)(back, project_id=where), 303)


def _show(request: Request, project: Project, chair: ChairDep, found: SizesView, sentence: str = "") -> Response:
    knitted = [t for t in chair.tallies(project) if t.done]
    return page(
        request, "sizes.html", project=project, found=found, knitted=knitted, sentence=sentence, written=found.done
    )
