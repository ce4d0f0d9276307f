"""The gauge page of a project: estimate, swatches, adviser, schools, and the piece as measured so far."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from fastapi import APIRouter, Form, Request
from fastapi.responses import RedirectResponse, Response

from ..core.errors import IllegalPiece
from ..core.gauge import STATES, School, State
from ..render.marks import axis, mark_line, scale_of
from ..service import gauge
from ..service.projects import Project
from .deps import BookDep, ChairDep, ProjectDep, ProjectsDep
from .pages import page, path_maker, wants_part

router = APIRouter(prefix="/projects/{project_id}/gauge")
At = Annotated[int, Form(ge=0, le=100)]


def _page(request: Request, project: Project, book: BookDep, chair: ChairDep) -> Response:
    """The page, or its changing part where htmx asked."""
    if request.method == "POST" and not wants_part(request):
        return RedirectResponse(path_maker(request)("gauge", project_id=project.id), 303)
    shown = gauge.gauge_page(project, book)
    every = [v for m in shown.marks for v in (*m.model, *m.result, *m.readings)]
    scale = scale_of(every)
    lines = [mark_line(scale, m.model, m.readings, m.result, _words(m)) for m in shown.marks]
    response = page(
        request,
        "_gauge.html" if wants_part(request) else "gauge.html",
        project=project,
        shown=shown,
        lines=lines,
        axis=axis(scale),
        schools=gauge.SCHOOL_NAMES,
        states=STATES,
        done=chair.state(project.id).done,
    )
    if wants_part(request):
        response.headers["HX-Trigger"] = "gauge-changed"  # the schools are worked out anew
    return response


def _words(mark: gauge.Mark) -> str:
    """The line in words, for those who do not see it."""
    said = f"{mark.name}: the model says {mark.model[1]:.2f} of stockinette"
    if mark.readings:
        said += ", your swatches " + " and ".join(f"{r:.2f}" for r in mark.readings)
    low, value, high = mark.result
    return f"{said}; together {value:.2f}, eight times in ten between {low:.2f} and {high:.2f}"


@router.get("", name="gauge")
def show(request: Request, project: ProjectDep, book: BookDep, chair: ChairDep) -> Response:
    """The gauge page."""
    return _page(request, project, book, chair)


@router.get("/schools", name="gauge_schools")
def schools(request: Request, project: ProjectDep) -> Response:
    """The schools side by side, fetched after the page itself: each of them is solved for."""
    verdicts = gauge.schools(project)
    return page(request, "_schools.html", project=project, verdicts=verdicts, names=gauge.SCHOOL_NAMES)


@router.post("/use", name="use_swatch")
def use(
    request: Request,
    project: ProjectDep,
    projects: ProjectsDep,
    book: BookDep,
    chair: ChairDep,
    swatch: Annotated[int, Form(ge=1)],
) -> Response:
    """Lets the project go by a swatch."""
    changed = projects.change(project.id, "go by a swatch", gauge.use(book.open(swatch)))
    return _page(request, changed, book, chair)


@router.post("/swatch", name="change_used")
def change_used(
    request: Request,
    project: ProjectDep,
    projects: ProjectsDep,
    book: BookDep,
    chair: ChairDep,
    at: At,
    do: Annotated[Literal["drop", "same", "renew"], Form()],
) -> Response:
    """Leaves a swatch out, says whether its yarn is the piece's own, or takes it over anew."""
    change = {"drop": gauge.drop(at), "same": gauge.same_yarn(at), "renew": gauge.renew(at, book)}[do]
    return _page(request, projects.change(project.id, "swatch", change), book, chair)


@router.post("/school", name="choose_school")
def choose_school(
    request: Request,
    project: ProjectDep,
    projects: ProjectsDep,
    book: BookDep,
    chair: ChairDep,
    school: Annotated[School, Form()],
) -> Response:
    """Sizes the project by a school."""
    return _page(request, projects.change(project.id, "school", gauge.choose_school(school)), book, chair)


@router.post("/measure", name="measure_piece")
def measure(
    request: Request,
    project: ProjectDep,
    projects: ProjectsDep,
    book: BookDep,
    chair: ChairDep,
    row: Annotated[int, Form(ge=1, le=10_000)],
    values: Annotated[str, Form()],
    along: Annotated[Literal["width", "height"], Form()] = "width",
    state: Annotated[State, Form()] = "as knitted",
    on_needle: Annotated[str, Form()] = "",
) -> Response:
    """Keeps what was measured on the piece itself."""
    lengths = _lengths(values)
    change = gauge.measure(row, along, lengths, state, on_needle=on_needle == "yes")
    return _page(request, projects.change(project.id, "measured the piece", change), book, chair)


@router.post("/unmeasure", name="unmeasure_piece")
def unmeasure(
    request: Request, project: ProjectDep, projects: ProjectsDep, book: BookDep, chair: ChairDep, at: At
) -> Response:
    """Takes a measure of the piece back."""
    return _page(request, projects.change(project.id, "measure taken back", gauge.unmeasure(at)), book, chair)


@router.post("/undo", name="gauge_undo")
def undo(request: Request, projects: ProjectsDep, book: BookDep, chair: ChairDep, project_id: int) -> Response:
    """One step back."""
    return _page(request, projects.undo(project_id), book, chair)


@router.post("/redo", name="gauge_redo")
def redo(request: Request, projects: ProjectsDep, book: BookDep, chair: ChairDep, project_id: int) -> Response:
    """One step forward again."""
    return _page(request, projects.redo(project_id), book, chair)


@router.post("/rows", name="take_rows")
def take_rows(
    request: Request,
    project: ProjectDep,
    projects: ProjectsDep,
    book: BookDep,
    chair: ChairDep,
    rows: Annotated[int, Form(ge=0, le=5000)],
) -> Response:
    """Knits so many rows of the body."""
    return _page(request, projects.change(project.id, "rows of the body", gauge.take_rows(rows)), book, chair)


def _lengths(text: str) -> tuple[float, ...]:
    texts = [t for t in re.split(r"[;\s]+|,\s+", text.strip()) if t]
    try:
        found = tuple(float(t.replace(",", ".")) for t in texts)
    except ValueError:
        found = ()
    if not found or len(found) > 12 or not all(0 < v <= 5000 for v in found):
        raise IllegalPiece(f"Write the length you measured, in one place or several: “108.5, 109”, not “{text[:30]}”.")
    return found
