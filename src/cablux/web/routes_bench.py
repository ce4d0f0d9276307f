"""The bench: the fan, the needle with its segments, the drawer, the answers; and the cast-on page."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import RedirectResponse, Response

from ..core.layout.piece import asymmetry
from ..core.layout.solver import AnswerName
from ..render.fan import fan
from ..service import bench
from ..service.caston import cast_on_story
from ..service.projects import Project
from .deps import DrawerDep, ProjectDep, ProjectsDep
from .pages import page, path_maker, wants_part

router = APIRouter(prefix="/projects/{project_id}")
At = Annotated[int, Form(ge=0, le=100)]


def _bench(request: Request, project: Project, selected: int) -> Response:
    """The page, or its changing part where htmx asked."""
    if request.method == "POST" and not wants_part(request):
        return RedirectResponse(path_maker(request)("bench", project_id=project.id) + f"?selected={selected}", 303)
    selected = max(0, min(selected, len(project.piece.segments) - 1))
    return page(
        request,
        "_bench.html" if wants_part(request) else "bench.html",
        project=project,
        fan=fan(project.piece, project.numbers.cast_on, project.unit, project.paint),
        selected=selected,
        drawer=() if wants_part(request) else [e for e in request.app.state.drawer.entries() if e.use != "edge"],
        unlike=asymmetry(project.piece.segments, counts=False) if project.piece.symmetric else "",
    )


@router.get("/bench", name="bench")
def show(request: Request, project: ProjectDep, selected: Annotated[int, Query(ge=0, le=100)] = 1) -> Response:
    """The bench."""
    return _bench(request, project, selected)


@router.get("/bench/offers", name="bench_offers")
def offers(request: Request, project: ProjectDep) -> Response:
    """The solver's other good answers, fetched after the bench itself."""
    return page(request, "_offers.html", project=project, offers=bench.offers(project.piece))


@router.post("/bench/add", name="bench_add")
def add(
    request: Request,
    projects: ProjectsDep,
    drawer: DrawerDep,
    project_id: int,
    pattern: Annotated[str, Form()],
    at: At = 1,
) -> Response:
    """Puts a pattern in from the drawer."""
    before = projects.open(project_id).piece
    project = projects.change_piece(project_id, "add a panel", bench.add(drawer.pattern(pattern), at))
    return _bench(request, project, bench.added_at(before, project.piece, at))


@router.post("/bench/remove", name="bench_remove")
def remove(request: Request, projects: ProjectsDep, project_id: int, at: At) -> Response:
    """Takes a segment out."""
    return _bench(request, projects.change_piece(project_id, "take out", bench.remove(at)), max(1, at - 1))


@router.post("/bench/move", name="bench_move")
def move(request: Request, projects: ProjectsDep, project_id: int, at: At, to: At) -> Response:
    """Puts a segment elsewhere."""
    return _bench(request, projects.change_piece(project_id, "move", bench.move(at, to)), to)


@router.post("/bench/repeats", name="bench_repeats")
def repeats(
    request: Request, projects: ProjectsDep, project_id: int, at: At, repeats: Annotated[int, Form()]
) -> Response:
    """Sets how often a segment's multiple is worked."""
    change = bench.set_repeats(at, repeats)
    return _bench(request, projects.change_piece(project_id, "repeats", change), at)


@router.post("/bench/step", name="bench_step")
def step(
    request: Request, projects: ProjectsDep, project_id: int, at: At, by: Annotated[int, Form(ge=-100, le=100)]
) -> Response:
    """Some repeats more or fewer."""
    return _bench(request, projects.change_piece(project_id, "repeats", bench.step_repeats(at, by)), at)


@router.post("/bench/stitches", name="bench_stitches")
def stitches(
    request: Request, projects: ProjectsDep, project_id: int, at: At, stitches: Annotated[int, Form()]
) -> Response:
    """Sets a segment's stitches."""
    change = bench.set_stitches(at, stitches)
    return _bench(request, projects.change_piece(project_id, "stitches", change), at)


@router.post("/bench/toggle", name="bench_toggle")
def toggle(
    request: Request,
    projects: ProjectsDep,
    project_id: int,
    at: At,
    field: Annotated[Literal["mirrored", "locked"], Form()],
) -> Response:
    """Mirrors or locks a segment."""
    label = "mirror" if field == "mirrored" else "lock"
    return _bench(request, projects.change_piece(project_id, label, bench.toggle(at, field)), at)


@router.post("/bench/wishes", name="bench_wishes")
def wishes(
    request: Request,
    projects: ProjectsDep,
    project_id: int,
    least: Annotated[int, Form()],
    symmetric: Annotated[str, Form()] = "",
    selected: At = 1,
) -> Response:
    """What the solver must keep to."""
    change = bench.choose(symmetric=symmetric == "yes", least=least)
    return _bench(request, projects.change_piece(project_id, "wishes", change), selected)


@router.post("/bench/take", name="bench_take")
def take(
    request: Request,
    projects: ProjectsDep,
    project_id: int,
    answer: Annotated[AnswerName, Form()],
    selected: At = 1,
) -> Response:
    """Takes one of the answers."""
    return _bench(request, projects.change_piece(project_id, answer, bench.take(answer)), selected)


@router.post("/bench/undo", name="bench_undo")
def undo(request: Request, projects: ProjectsDep, project_id: int, selected: At = 1) -> Response:
    """One step back."""
    return _bench(request, projects.undo(project_id), selected)


@router.post("/bench/redo", name="bench_redo")
def redo(request: Request, projects: ProjectsDep, project_id: int, selected: At = 1) -> Response:
    """One step forward."""
    return _bench(request, projects.redo(project_id), selected)


@router.get("/cast-on", name="cast_on")
def cast_on(request: Request, project: ProjectDep) -> Response:
    """The cast-on and how it came about."""
    return page(request, "caston.html", project=project, story=cast_on_story(project))


@router.post("/cast-on", name="change_cast_on")
def change_cast_on(
    request: Request,
    projects: ProjectsDep,
    project_id: int,
    cast_on: Annotated[Literal["", "stepped", "straight"], Form()] = "",
    spread: Annotated[Literal["", "cables", "even"], Form()] = "",
    border: Annotated[str, Form()] = "",
    border_rows: Annotated[int, Form()] = 0,
) -> Response:
    """Changes how the piece begins and ends."""
    change = bench.choose(cast_on=cast_on, spread=spread, border=border, rows=border_rows)
    project = projects.change_piece(project_id, "cast-on", change)
    if wants_part(request):
        return page(request, "_caston.html", project=project, story=cast_on_story(project))
    return RedirectResponse(path_maker(request)("cast_on", project_id=project_id), 303)
