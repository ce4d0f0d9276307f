"""At the chair: the row to work now, and the tally."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import RedirectResponse, Response

from ..core.errors import CabluxError
from ..core.units import to_mm
from ..service.chairside import RowNow
from ..service.forms import FormReader
from ..service.lost_place import LostPlace, find_place
from ..service.projects import Project
from ..service.sizes_page import size_choices
from .deps import ChairDep, ProjectDep
from .pages import page, path_maker, wants_part

router = APIRouter(prefix="/projects/{project_id}")
Row = Annotated[int, Form(ge=1, le=10_000)]
Which = Annotated[int, Form(ge=1, le=100)]


def _chair(request: Request, project: Project, now: RowNow) -> Response:
    if request.method == "POST" and not wants_part(request):
        query = f"?which={now.copy}" if now.copy > 1 else ""
        return RedirectResponse(f"{path_maker(request)('chairside', project_id=project.place)}{query}", 303)
    if wants_part(request):
        return page(request, "_chairside.html", project=project, now=now)
    return _whole_page(request, project, now, _Lost(find_place(project.piece), which=now.copy))


@dataclass(frozen=True)
class _Lost:
    """A lost place as its part of the page shows it: what was looked at, as typed, and what is wrong with it."""

    found: LostPlace
    looked: tuple[str, ...] = ()
    length: str = ""
    sentence: str = ""
    which: int = 1


def _whole_page(request: Request, project: Project, now: RowNow, lost: _Lost, *, opened: bool = False) -> Response:
    own, sizes = size_choices(project)
    phone = request.app.state.phone_address
    if phone:
        phone += path_maker(request)("chairside", project_id=project.place).lstrip("/")
    return page(
        request,
        "chairside.html",
        project=project,
        now=now,
        own=own,
        sizes=sizes,
        lost=lost,
        opened=opened,
        phone=phone,
    )


@router.get("/chairside", name="chairside")
def show_chairside(
    request: Request, project: ProjectDep, chair: ChairDep, which: Annotated[int, Query(ge=1, le=100)] = 1
) -> Response:
    """The row to work now."""
    return _chair(request, project, chair.now(project, min(which, project.file.own.copies)))


@router.post("/chairside/done", name="row_done")
def tick_row(request: Request, project: ProjectDep, chair: ChairDep, row: Row, which: Which = 1) -> Response:
    """Ticks off a row."""
    return _chair(request, project, chair.row_done(project, row, which))


@router.post("/chairside/undo", name="row_undo")
def untick_row(request: Request, project: ProjectDep, chair: ChairDep, row: Row, which: Which = 1) -> Response:
    """Takes the last row back."""
    return _chair(request, project, chair.undo(project, row, which))


@router.get("/chairside/lost", name="lost_place")
def show_lost_place(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    seen: Annotated[list[str] | None, Query()] = None,
    panel: Annotated[str, Query(max_length=80)] = "",
    bars: Annotated[str, Query(max_length=10)] = "",
    lean: Annotated[str, Query(max_length=10)] = "",
    length: Annotated[str, Query(max_length=20)] = "",
    which: Annotated[int, Query(ge=1, le=100)] = 1,
) -> Response:
    """The rows that fit what is seen so far and now."""
    looked, sentence = list(seen or []), ""
    try:
        typed = FormReader()
        if panel and bars.strip():
            if not re.fullmatch(r"\s*\d{1,3}\s*", bars):
                typed.refuse("bars", "Bars above its last crossing: type a whole number, such as 3.")
            looked.append(f"{panel}:{bars}:{lean}")
        long_mm = to_mm(typed.number(length, "Length", "length"), project.unit) if length.strip() else 0.0
        typed.done()
        lost = find_place(project.piece, looked, long_mm)
    except CabluxError as error:
        lost, sentence = find_place(project.piece, seen or []), str(error)
    shown = _Lost(lost, tuple(seen or []) if sentence else tuple(looked), length, sentence, which)
    if wants_part(request):
        return page(request, "_lost_place.html", project=project, lost=shown)
    now = chair.now(project, min(which, project.file.own.copies))
    return _whole_page(request, project, now, shown, opened=True)


@router.post("/chairside/jump", name="row_jump")
def jump_to_row(
    request: Request, project: ProjectDep, chair: ChairDep, row: Annotated[int, Form(ge=0, le=10_000)], which: Which = 1
) -> Response:
    """Goes on after a row that was found."""
    return _chair(request, project, chair.jump(project, row, which))
