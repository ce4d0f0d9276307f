"""A project's pieces: all of them to scale, their names and copies, one more, one fewer."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import RedirectResponse, Response

from ..core.errors import CabluxError
from ..service.chair import Chair
from ..service.commands import CopyPiece, NamePiece, RemovePiece, ShareLayout, carry_out
from ..service.forms import FormReader
from ..service.pieces import RelaxedGarment, pieces_answer, pieces_pictures, relaxed_garment
from ..service.projects import Project
from ..service.shapes import shared_layout
from ..service.sizes import has_sizes
from .deps import ChairDep, PlaceDep, ProjectDep, ProjectsDep
from .pages import page, path_maker

router = APIRouter(prefix="/projects")


@router.post("/{project_id}/pieces", name="change_own")
def change_own(
    request: Request,
    place: PlaceDep,
    projects: ProjectsDep,
    name: Annotated[str, Form()] = "",
    copies: Annotated[int, Form(ge=1, le=100)] = 1,
) -> Response:
    """Another name for a piece, and how many times it is worked."""
    typed = FormReader()
    clean = typed.words(name, "The name of the piece", "name", most=80)
    typed.done()
    return _pieces(request, carry_out(projects, place, NamePiece(name=clean, copies=copies)))


@router.post("/{project_id}/pieces/copy", name="copy_piece")
def copy_piece(request: Request, place: PlaceDep, projects: ProjectsDep) -> Response:
    """One more piece that begins as this one is."""
    return _pieces(request, carry_out(projects, place, CopyPiece()))


@router.post("/{project_id}/pieces/remove", name="remove_piece")
def remove_piece(request: Request, place: PlaceDep, projects: ProjectsDep) -> Response:
    """Takes a piece out; undo on the bench brings it back."""
    return _pieces(request, carry_out(projects, place, RemovePiece()))


@router.post("/{project_id}/pieces/layout", name="carry_layout")
def carry_layout(request: Request, project: ProjectDep, projects: ProjectsDep, chair: ChairDep) -> Response:
    """Makes all pieces after the layout of the one that shows the project best, in one step that can be undone."""
    try:
        carry_out(projects, project.id, ShareLayout())
    except CabluxError as error:
        return _overview(request, project, chair, sentence=str(error))
    return _pieces(request, project)


def _pieces(request: Request, project: Project) -> Response:
    return RedirectResponse(path_maker(request)("pieces", project_id=project.place), 303)


@router.get("/{project_id}/pieces", name="pieces")
def show_pieces(request: Request, project: ProjectDep, chair: ChairDep, relaxed: bool = False) -> Response:
    """All pieces of a project to scale, with counts, rows, progress and what is next; `relaxed`: laid out so too."""
    try:
        return _overview(request, project, chair, relaxed=relaxed_garment(project) if relaxed else None)
    except CabluxError as error:
        return _overview(request, project, chair, sentence=str(error))


@router.get("/{project_id}/pieces/relaxed", name="relaxed_pieces")
def show_relaxed(request: Request, project: ProjectDep, done: Annotated[int, Query(ge=0, le=100)] = 0) -> Response:
    """So many of the pieces relaxed, as a part of the page; the garment once all are."""
    try:
        return page(request, "_relaxed.html", project=project, relaxed=relaxed_garment(project, done))
    except CabluxError as error:
        return page(request, "_relaxed.html", project=project, relaxed=None, sentence=str(error))


def _overview(
    request: Request,
    project: Project,
    chair: Chair,
    sentence: str = "",
    relaxed: RelaxedGarment | None = None,
) -> Response:
    found = pieces_answer(project.file, chair.tallies(project))
    return page(
        request,
        "pieces.html",
        422 if sentence else 200,
        project=project,
        found=found,
        pictures=pieces_pictures(project.file, found),
        places=[each.place for each in project.pieces()],
        graded=has_sizes(project),
        shared=shared_layout(project.file),
        sentence=sentence,
        relaxed=relaxed,
    )
