"""The measures of a project's shape: the form of its making again, and its pieces made anew."""

from __future__ import annotations

from fastapi import APIRouter, Request
from fastapi.responses import RedirectResponse, Response

from ..core.errors import CabluxError
from ..service import shapes as shaped
from ..service.chair import Chair
from ..service.commands import SetMeasures, carry_out
from ..service.projects import Project
from ..service.shapes import made_anew, measured_shape, measures_form, preview
from .deps import ChairDep, DrawerDep, ProjectDep, ProjectsDep, TypedDep
from .pages import page, path_maker
from .routes_shapes import show_shape_page, typed_form

router = APIRouter(prefix="/projects/{project_id}/size/measures")


@router.get("", name="measures")
def show_measures(request: Request, project: ProjectDep, chair: ChairDep) -> Response:
    """What the project's shape asks, as it was answered."""
    return _show(request, project, chair, form=measures_form(project.file))


@router.post("", name="change_measures")
def change_measures(
    request: Request, project: ProjectDep, typed: TypedDep, projects: ProjectsDep, drawer: DrawerDep, chair: ChairDep
) -> Response:
    """Makes the pieces anew and opens the bench; or shows the form again with what is wrong."""
    shape = measured_shape(project.file)
    form = typed_form(shape, typed)
    try:
        carry_out(projects, project.id, SetMeasures(form=form, panels=form.panels), pattern=drawer.pattern)
    except CabluxError as error:
        return _show(request, project, chair, form=form, error=error)
    return RedirectResponse(path_maker(request)("bench", project_id=project.id), 303)


@router.post("/preview", name="preview_measures")
def preview_measures(request: Request, project: ProjectDep, typed: TypedDep, drawer: DrawerDep) -> Response:
    """What the first piece would be; or what keeps it from being made."""
    form = typed_form(measured_shape(project.file), typed)
    try:
        panels = [drawer.pattern(panel) for panel in form.panels]
        found = preview(made_anew(form, panels)(project.file))
    except CabluxError as error:
        return page(request, "_shape_preview.html", found=None, sentence=str(error))
    return page(request, "_shape_preview.html", found=found, sentence="")


def _show(
    request: Request, project: Project, chair: Chair, form: shaped.ShapeForm, error: CabluxError | None = None
) -> Response:
    knitted = [t for t in chair.tallies(project) if t.done]
    return show_shape_page(request, measured_shape(project.file), form, error=error, project=project, knitted=knitted)
