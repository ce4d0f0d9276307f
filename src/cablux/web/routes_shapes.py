"""A new project of a shape: what it asks, with the schematic beside it as it changes."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import groupby
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request
from fastapi.responses import RedirectResponse, Response
from starlette.datastructures import FormData

from ..core.errors import CabluxError
from ..core.shapes import SHAPES, Shape
from ..service import shapes as shaped
from ..service.chair import Tally
from ..service.errors import InvalidForm, NotFound
from ..service.projects import Project
from ..service.shapes import preview
from .deps import DrawerDep, ProjectsDep, TypedDep
from .pages import page, path_maker

router = APIRouter(prefix="/projects")


def _shape(shape: str) -> Shape:
    if shape not in SHAPES:
        raise NotFound("There is no such shape.")
    return SHAPES[shape]


PANEL_FIELDS = ("panel", "panel-2", "panel-3")
"""Our choice: three cables are chosen at once; more are laid out on the bench."""
ShapeDep = Annotated[Shape, Depends(_shape)]


def typed_form(shape: Shape, typed: FormData) -> shaped.ShapeForm:
    """What was typed into the form of a shape."""

    def text(name: str) -> str:
        value = typed.get(name, "")
        return value if isinstance(value, str) else ""

    answers = {ask.name: text(ask.name) for ask in shape.asks}
    panels = tuple(filter(None, map(text, PANEL_FIELDS)))
    return shaped.ShapeForm(
        name=text("name"),
        unit=text("unit"),
        stitches=text("stitches"),
        rows=text("rows"),
        answers=answers,
        yarn=text("yarn"),
        panels=panels,
    )


def show_shape_page(
    request: Request,
    shape: Shape,
    form: shaped.ShapeForm,
    error: CabluxError | None = None,
    project: Project | None = None,
    knitted: Sequence[Tally] = (),
) -> Response:
    """The form of a shape: for a new project, or for one whose pieces are to be made anew."""
    problems = error.fields if isinstance(error, InvalidForm) else {}
    first = shape.asks[0]
    asked = shape.asks if project or first.kind != "choice" else shape.asks[1:]  # that is chosen above the form
    return page(
        request,
        "shape_form.html",
        422 if error else 200,
        shape=shape,
        form=form,
        project=project,
        knitted=knitted,
        sizes=shaped.sizes_for(shape, form.answers.get(shape.asks[0].name, "")),
        problems=problems,
        general="" if problems or error is None else str(error),
        groups=[(name or "Measures", list(asks)) for name, asks in groupby(asked, lambda ask: ask.group)],
        panel_fields=PANEL_FIELDS,
        panels=[(e.pattern.id, e.pattern.name) for e in request.app.state.drawer.entries() if e.use == "panel"],
    )


@router.get("/new/{shape}", name="new_shape")
def show_shape_form(
    request: Request,
    shape: ShapeDep,
    choice: Annotated[str, Query(max_length=40)] = "",
    unit: Annotated[str, Query(pattern="^(cm|in)$")] = "cm",
    size: Annotated[str, Query(max_length=60)] = "",
) -> Response:
    """What a shape asks, with its defaults or a standard size filled in."""
    return show_shape_page(request, shape, shaped.empty_form(shape, choice, "in" if unit == "in" else "cm", size=size))


@router.post("/new/{shape}", name="create_shape")
def create_shape(
    request: Request, shape: ShapeDep, typed: TypedDep, projects: ProjectsDep, drawer: DrawerDep
) -> Response:
    """Makes a project of the shape, laid out, and opens its bench; or shows the form again with what is wrong."""
    form = typed_form(shape, typed)
    try:
        panels = [drawer.pattern(panel) for panel in form.panels]
        made = projects.create(shaped.file_of_form(shape, form, panels))
    except CabluxError as error:
        return show_shape_page(request, shape, form, error=error)
    return RedirectResponse(path_maker(request)("bench", project_id=made), 303)


@router.post("/new/{shape}/preview", name="preview_shape")
def preview_shape(request: Request, shape: ShapeDep, typed: TypedDep, drawer: DrawerDep) -> Response:
    """The schematic of what is typed so far, with its counts; or what keeps it from being made."""
    form = typed_form(shape, typed)
    try:
        panels = [drawer.pattern(panel) for panel in form.panels]
        found = preview(shaped.file_of_form(shape, form, panels))
    except CabluxError as error:
        return page(request, "_shape_preview.html", found=None, sentence=str(error))
    return page(request, "_shape_preview.html", found=found, sentence="")
