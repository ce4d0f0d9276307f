"""Projects: the list, a new one, its size and yarn, exchange, removal; and the theme."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, File, Form, Request, UploadFile
from fastapi.responses import RedirectResponse, Response

from ..core.errors import CabluxError
from ..core.gauge import FIBRES, STATES
from ..render.yarn import UNDYED
from ..service import size_form as sizes
from ..service.commands import SetSizeAndYarn, carry_out
from ..service.errors import InvalidForm
from ..service.project_list import list_projects
from ..service.projects import Project
from ..service.shapes import has_measures, measured_shape, shape_cards
from ..service.sizes import has_sizes
from .deps import ChairDep, ProjectDep, ProjectsDep
from .pages import THEMES, file_name, page, path_maker

router = APIRouter()

MAX_FILE = 1_000_000  # bytes, our choice: a project file has a few thousand
Text = Annotated[str, Form()]


def _size_form(
    name: Text = "",
    unit: Text = "cm",
    yarn: Text = "",
    width: Text = "",
    height: Text = "",
    tolerance: Text = "",
    stitches: Text = "",
    rows: Text = "",
    source: Text = "counted",
    fibre: Text = "other",
    needle: Text = "5 mm",
    finish: Text = "washed",
    colour: Text = UNDYED,
    thick: Text = "1",
    cord: Text = "",
    worked: Text = "flat",
) -> sizes.SizeForm:
    """The fields as typed; what is missing is empty, so that the form can say so itself."""
    return sizes.SizeForm(
        name=name,
        unit=unit,
        yarn=yarn,
        width=width,
        height=height,
        tolerance=tolerance,
        stitches=stitches,
        rows=rows,
        source=source,
        fibre=fibre,
        needle=needle,
        finish=finish,
        colour=colour,
        thick=thick,
        cord=cord,
        worked=worked,
    )


FormDep = Annotated[sizes.SizeForm, Depends(_size_form)]


@router.get("/", name="projects")
def show_projects(request: Request, projects: ProjectsDep, chair: ChairDep) -> Response:
    """What is on the needles."""
    return page(request, "projects.html", entries=list_projects(projects, chair))


@router.get("/projects/new", name="new_project")
def new_project(request: Request) -> Response:
    """What to make: the shapes, drawn."""
    return page(request, "shapes.html", cards=shape_cards())


@router.get("/projects/new/plain", name="new_plain")
def new_plain_project(request: Request) -> Response:
    """The form for a rectangle that is laid out by oneself."""
    return _form_page(request, sizes.EMPTY)


@router.post("/projects", name="create_project")
def create_project(request: Request, projects: ProjectsDep, form: FormDep) -> Response:
    """Makes a plain rectangle from the form, or shows the form again with what is wrong."""
    try:
        made = projects.create(sizes.new_file(form))
    except CabluxError as error:
        return _form_page(request, form, error=error)
    return _see(request, "bench", project_id=made)


@router.post("/projects/import", name="import_project")
def import_project(request: Request, projects: ProjectsDep, file: Annotated[UploadFile, File()]) -> Response:
    """Opens a project file."""
    content = file.file.read(MAX_FILE + 1)
    if len(content) > MAX_FILE:
        raise CabluxError("This file is larger than a megabyte, so it is not a project file.")
    return _see(request, "bench", project_id=projects.import_text(content))


@router.get("/projects/{project_id}", name="project")
def project_page(request: Request, project: ProjectDep) -> Response:
    """A project opens on its bench."""
    return _see(request, "bench", project_id=project.place)


@router.get("/projects/{project_id}/size", name="size")
def show_size(request: Request, project: ProjectDep) -> Response:
    """The size and the yarn of a project."""
    return _form_page(request, sizes.form_of(project.file), project)


@router.post("/projects/{project_id}/size", name="change_size")
def change_size(
    request: Request, project: ProjectDep, projects: ProjectsDep, form: FormDep, fit: Text = ""
) -> Response:
    """Changes size and yarn; the layout stays, or is fitted to them, and then what changed is shown."""
    try:
        after = carry_out(projects, project.place, SetSizeAndYarn(form=form, fit=bool(fit)))
    except CabluxError as error:
        return _form_page(request, form, project, error=error)
    if not fit or after.position == project.position:
        return _see(request, "bench", project_id=project.place)
    address = path_maker(request)("history", project_id=project.place)
    return RedirectResponse(f"{address}?one={project.position}&other={after.position}", 303)


@router.get("/projects/{project_id}/project.json", name="export_project")
def download_project(project: ProjectDep) -> Response:
    """The project file."""
    headers = {"content-disposition": f'attachment; filename="{file_name(project.name, "cablux.json")}"'}
    return Response(project.file.text(), media_type="application/json", headers=headers)


@router.post("/projects/{project_id}/copy", name="copy_project")
def copy_project(request: Request, project: ProjectDep, projects: ProjectsDep) -> Response:
    """A new project that begins as this one is."""
    return _see(request, "bench", project_id=projects.copy(project.place))


@router.post("/projects/{project_id}/remove", name="remove_project")
def remove_project(request: Request, project: ProjectDep, projects: ProjectsDep, sure: Text = "") -> Response:
    """Removes a project for good, once the person has said so."""
    if sure != "yes":
        raise CabluxError("Tick “for good” first; a removed project cannot be brought back.")
    projects.remove(project.place)
    return _see(request, "projects")


@router.post("/theme", name="theme")
def choose_theme(request: Request, choice: Text, back: Text = "/") -> Response:
    """Daylight, lamplight, or as the machine has it."""
    target = back if back.startswith("/") and not back.startswith("//") and "\\" not in back else "/"
    response = RedirectResponse(target, 303)
    if choice in THEMES:
        response.set_cookie("theme", choice, max_age=31_536_000, samesite="lax", httponly=True)
    else:
        response.delete_cookie("theme")
    return response


def _form_page(
    request: Request, form: sizes.SizeForm, project: Project | None = None, error: CabluxError | None = None
) -> Response:
    problems = error.fields if isinstance(error, InvalidForm) else {}
    return page(
        request,
        "project_form.html",
        422 if error else 200,
        form=form,
        project=project,
        problems=problems,
        general="" if problems or error is None else str(error),
        needle_labels=sizes.needle_labels(form),
        fibres=FIBRES,
        states=STATES,
        thick=sizes.THICK,
        measured=measured_shape(project.file).name if project and has_measures(project.file) else "",
        graded=project is not None and has_sizes(project),
    )


def _see(request: Request, name: str, **params: object) -> Response:
    return RedirectResponse(path_maker(request)(name, **params), 303)
