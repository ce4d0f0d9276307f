"""The journal of a piece at the chair: notes, lifelines, weights, measures, pauses, mistakes and rows."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, File, Form, Query, Request, UploadFile
from fastapi.responses import RedirectResponse, Response

from ..service.day_plan import plan_calendar
from ..service.forms import FormReader
from ..service.journal import NAMES, Noted, add_note, journal, mended_later, take_back, value_in_mm
from ..service.projects import Project
from ..service.swatches import MAX_BYTES
from .deps import ChairDep, ProjectDep
from .pages import page, path_maker
from .routes_booklet import file_name

router = APIRouter(prefix="/projects/{project_id}/journal")
Which = Annotated[int, Form(ge=1, le=100)]


@router.get("", name="journal")
def show_journal(
    request: Request, project: ProjectDep, chair: ChairDep, which: Annotated[int, Query(ge=1, le=100)] = 1
) -> Response:
    """Everything that happened to a piece, the last first."""
    which = min(which, project.file.own.copies)
    entries = journal(chair, project, which)
    now = chair.now(project, which)
    return page(
        request, "journal.html", project=project, entries=entries, now=now, which=which, names=NAMES, today=date.today()
    )


@router.post("", name="add_note")
def keep_note(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    kind: Annotated[Noted, Form()],
    text: Annotated[str, Form(max_length=4000)] = "",
    value: Annotated[str, Form(max_length=20)] = "",
    photo: Annotated[UploadFile | None, File()] = None,
    which: Which = 1,
) -> Response:
    """Notes something after the last row that is done."""
    typed, amount = FormReader(), 0.0
    if kind in ("weighed", "measured"):
        amount = value_in_mm(kind, typed.number(value, NAMES[kind], "value"), project.unit)
        typed.done()
    data = photo.file.read(MAX_BYTES + 1) if photo is not None and photo.filename else b""
    add_note(chair, project, kind, which, text, amount, data)
    return _back(request, project, which)


@router.get("/plan.ics", name="day_plan")
def save_plan(
    project: ProjectDep,
    chair: ChairDep,
    minutes: Annotated[str, Query(max_length=20)] = "60",
    start: Annotated[date | None, Query()] = None,
    which: Annotated[int, Query(ge=1, le=100)] = 1,
) -> Response:
    """A plan of days as a calendar."""
    typed = FormReader()
    each = typed.number(minutes, "Minutes a day", "minutes")
    typed.done()
    which = min(which, project.file.own.copies)
    content = plan_calendar(chair, project, which, each, start or date.today())
    headers = {"content-disposition": f'attachment; filename="{file_name(project, "ics")}"'}
    return Response(content, media_type="text/calendar; charset=utf-8", headers=headers)


@router.post("/back", name="take_back")
def take_entry_back(
    request: Request, project: ProjectDep, chair: ChairDep, entry: Annotated[int, Form(ge=1)], which: Which = 1
) -> Response:
    """Takes an entry back."""
    take_back(chair, project, entry, which)
    return _back(request, project, which)


@router.post("/mended", name="mended_later")
def keep_mended(
    request: Request, project: ProjectDep, chair: ChairDep, entry: Annotated[int, Form(ge=1)], which: Which = 1
) -> Response:
    """Keeps that a mistake that had been left is mended now."""
    mended_later(chair, project, entry, which)
    return _back(request, project, which)


def _back(request: Request, project: Project, which: int) -> Response:
    query = f"?which={which}" if which > 1 else ""
    return RedirectResponse(f"{path_maker(request)('journal', project_id=project.place)}{query}", 303)
