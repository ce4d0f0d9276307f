"""The gauge page of a project: estimate, swatches, adviser, methods, and the piece as measured so far."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Form, Request
from fastapi.responses import RedirectResponse, Response

from ..core.gauge import STATES, Along, Method, State
from ..render.gauge_marks import draw_axis, draw_mark_line, scale_of
from ..service import gauge
from ..service.answers import EightInTen
from ..service.commands import (
    AddMeasurement,
    ChooseMethod,
    LeaveSwatch,
    RemoveMeasurement,
    RenewSwatch,
    SetBodyRows,
    ToggleYarn,
    UseSwatch,
    carry_out,
)
from ..service.projects import Project
from .deps import BookDep, ChairDep, PlaceDep, ProjectDep, ProjectsDep
from .pages import page, path_maker, wants_part

router = APIRouter(prefix="/projects/{project_id}/gauge")
At = Annotated[int, Form(ge=0, le=100)]


Show = Callable[[Project], Response]


def _show(request: Request, book: BookDep, chair: ChairDep) -> Show:
    """What answers with a project's page, or with its changing part where htmx asked."""

    def show(project: Project) -> Response:
        if request.method == "POST" and not wants_part(request):
            return RedirectResponse(path_maker(request)("gauge", project_id=project.place), 303)
        shown = gauge.gauge_answer(project.file, book.all())
        lines = [(m, _three(m.model), _three(m.together)) for m in shown.patterns]
        scale = scale_of(v for m, model, together in lines for v in (*model, *together, *m.readings))
        response = page(
            request,
            "_gauge.html" if wants_part(request) else "gauge.html",
            project=project,
            shown=shown,
            lines=[
                draw_mark_line(scale, model, m.readings, result=together, label=m.words) for m, model, together in lines
            ],
            axis=draw_axis(scale),
            states=STATES,
            done=chair.state(project).done,
        )
        if wants_part(request):
            response.headers["HX-Trigger"] = "gauge-changed"  # the methods are worked out anew
        return response

    return show


def _three(interval: EightInTen) -> tuple[float, float, float]:
    return interval.low, interval.value, interval.high


ShowDep = Annotated[Show, Depends(_show)]


@router.get("", name="gauge")
def show_gauge(project: ProjectDep, show: ShowDep) -> Response:
    """The gauge page."""
    return show(project)


@router.get("/schools", name="gauge_schools")
def show_methods(request: Request, project: ProjectDep) -> Response:
    """The methods side by side, fetched after the page itself: each of them is solved for."""
    return page(request, "_methods.html", project=project, verdicts=gauge.methods_table(project.piece))


@router.post("/use", name="use_swatch")
def take_in_swatch(
    project_id: PlaceDep, projects: ProjectsDep, book: BookDep, show: ShowDep, swatch: Annotated[int, Form(ge=1)]
) -> Response:
    """Lets the project go by a swatch."""
    return show(carry_out(projects, project_id, UseSwatch(swatch=swatch), swatch=book.open))


@router.post("/swatch", name="change_used")
def change_used(
    project_id: PlaceDep,
    projects: ProjectsDep,
    book: BookDep,
    show: ShowDep,
    at: At,
    do: Annotated[Literal["drop", "same", "renew"], Form()],
) -> Response:
    """Leaves a swatch out, says whether its yarn is the piece's own, or takes it over anew."""
    command = {"drop": LeaveSwatch, "same": ToggleYarn, "renew": RenewSwatch}[do]
    return show(carry_out(projects, project_id, command(at=at), swatch=book.open))


@router.post("/school", name="choose_school")
def choose_measure(
    project_id: PlaceDep, projects: ProjectsDep, show: ShowDep, method: Annotated[Method, Form()]
) -> Response:
    """Sizes the project by a method."""
    return show(carry_out(projects, project_id, ChooseMethod(method=method)))


@router.post("/measure", name="measure_piece")
def measure_progress(
    project_id: PlaceDep,
    projects: ProjectsDep,
    show: ShowDep,
    row: Annotated[int, Form(ge=1, le=10_000)],
    values: Annotated[str, Form()],
    along: Annotated[Along, Form()] = "width",
    state: Annotated[State, Form()] = "as knitted",
    on_needle: Annotated[str, Form()] = "",
) -> Response:
    """Keeps what was measured on the piece itself."""
    told = AddMeasurement(row=row, values=values, along=along, state=state, on_needle=on_needle == "yes")
    return show(carry_out(projects, project_id, told))


@router.post("/unmeasure", name="unmeasure_piece")
def take_measure_back(project_id: PlaceDep, projects: ProjectsDep, show: ShowDep, at: At) -> Response:
    """Takes a measure of the piece back."""
    return show(carry_out(projects, project_id, RemoveMeasurement(at=at)))


@router.post("/undo", name="gauge_undo")
def undo_on_gauge(project_id: PlaceDep, projects: ProjectsDep, show: ShowDep) -> Response:
    """One step back."""
    return show(projects.undo(project_id))


@router.post("/redo", name="gauge_redo")
def redo_on_gauge(project_id: PlaceDep, projects: ProjectsDep, show: ShowDep) -> Response:
    """One step forward again."""
    return show(projects.redo(project_id))


@router.post("/rows", name="take_rows")
def take_body_rows(
    project_id: PlaceDep, projects: ProjectsDep, show: ShowDep, rows: Annotated[int, Form(ge=0, le=5000)]
) -> Response:
    """Knits so many rows of the body."""
    return show(carry_out(projects, project_id, SetBodyRows(rows=rows)))
