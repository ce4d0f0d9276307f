"""The journal of a piece at the chair: notes, lifelines, weights, measures, pauses, mistakes and rows."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, File, Form, Query, Request, UploadFile
from fastapi.responses import Response

from ..service.chair import (
    NOTE_NAMES,
    Chair,
    Noted,
    add_note,
    chair_answer,
    journal_entries,
    mended_later,
    plan_calendar,
    take_back,
    value_in_mm,
)
from ..service.forms import FormReader
from ..service.projects import Project
from ..service.swatches import MAX_BYTES
from .deps import ChairDep, CopyDep, ProjectDep
from .pages import file_name, page, see_copy, wants_part

router = APIRouter(prefix="/projects/{project_id}/journal")
AMOUNTS: dict[Noted, str] = {"weighed": "Grams left", "measured": "Length from the cast-on"}
Which = Annotated[int, Form(ge=1, le=100)]


@router.get("", name="journal")
def show_journal(request: Request, project: ProjectDep, chair: ChairDep, which: CopyDep) -> Response:
    """Everything that happened to a piece, the last first."""
    return _journal(request, project, chair, which=which)


def _journal(request: Request, project: Project, chair: Chair, which: int) -> Response:
    """The page, or the part of it that htmx exchanges after a change."""
    if request.method == "POST" and not wants_part(request):
        return see_copy(request, "journal", project, which=which)
    return page(
        request,
        "_journal.html" if wants_part(request) else "journal.html",
        project=project,
        entries=journal_entries(chair, project, which),
        now=chair_answer(chair.now(project, which), project.file),
        which=which,
        names=NOTE_NAMES,
        today=date.today(),
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
    if kind in AMOUNTS:
        amount = value_in_mm(kind, typed.number(value, AMOUNTS[kind], "value"), project.unit)
        typed.done()
    data = photo.file.read(MAX_BYTES + 1) if photo is not None and photo.filename else b""
    add_note(chair, project, kind, copy=which, text=text, value=amount, photo=data)
    return _journal(request, project, chair, which=which)


@router.get("/plan.ics", name="day_plan")
def save_plan(
    project: ProjectDep,
    chair: ChairDep,
    which: CopyDep,
    minutes: Annotated[str, Query(max_length=20)] = "60",
    start: Annotated[date | None, Query()] = None,
) -> Response:
    """A plan of days as a calendar."""
    typed = FormReader()
    each = typed.number(minutes, "Minutes a day", "minutes")
    typed.done()
    content = plan_calendar(chair, project, which, minutes=each, start=start or date.today())
    headers = {"content-disposition": f'attachment; filename="{file_name(project.name, "ics")}"'}
    return Response(content, media_type="text/calendar; charset=utf-8", headers=headers)


@router.post("/back", name="take_back")
def take_entry_back(
    request: Request, project: ProjectDep, chair: ChairDep, entry: Annotated[int, Form(ge=1)], which: Which = 1
) -> Response:
    """Takes an entry back."""
    take_back(chair, project, entry, copy=which)
    return _journal(request, project, chair, which=which)


@router.post("/mended", name="mended_later")
def keep_mended(
    request: Request, project: ProjectDep, chair: ChairDep, entry: Annotated[int, Form(ge=1)], which: Which = 1
) -> Response:
    """Keeps that a mistake that had been left is mended now."""
    mended_later(chair, project, entry, copy=which)
    return _journal(request, project, chair, which=which)
