"""At the chair: the row to work now, the tally, and how the knitter likes to be told."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import RedirectResponse, Response

from ..service.chair_row import CABLE_WAYS, CableWay, TextSize
from ..service.chairside import Chair, RowNow, row_after
from ..service.lost_place import LostPlace, find_place
from ..service.projects import Project
from ..service.sizes_page import size_choices
from .chair_look import COOKIE, YEAR, LookDep, LookForm
from .deps import ChairDep, ProjectDep
from .pages import page, path_maker, wants_part

router = APIRouter(prefix="/projects/{project_id}")
Row = Annotated[int, Form(ge=1, le=10_000)]
Which = Annotated[int, Form(ge=1, le=100)]
Tap = Annotated[str, Form(pattern=r"^[0-9a-zA-Z]{0,36}$")]
AHEAD = 20  # rows, our choice: an hour or two of knitting without a connection


@dataclass(frozen=True)
class Lost:
    """A lost place as its part of the page shows it: what was looked at, as typed, and what is wrong with it."""

    found: LostPlace
    looked: tuple[str, ...] = ()
    length: str = ""
    ridges: str = ""
    stitches: str = ""
    crossings: str = ""
    sentence: str = ""
    which: int = 1


def whole_page(
    request: Request, project: Project, chair: Chair, form: LookForm, which: int, lost: Lost | None = None
) -> Response:
    """The chair's whole page; `lost` is opened where something was looked at."""
    own, sizes = size_choices(project)
    phone = request.app.state.phone_address
    if phone:
        phone += path_maker(request)("chairside", project_id=project.place).lstrip("/")
    return page(
        request,
        "chairside.html",
        project=project,
        now=chair.now(project, which, form.look),
        own=own,
        sizes=sizes,
        lost=lost or Lost(find_place(project.piece), which=which),
        opened=lost is not None,
        phone=phone,
        form=form,
        ways=CABLE_WAYS,
        tallies=chair.tallies(project),
    )


def _answer(request: Request, project: Project, chair: Chair, form: LookForm, which: int) -> Response:
    """The row after a change: its part for htmx, else the page anew."""
    if not wants_part(request):
        query = f"?which={which}" if which > 1 else ""
        return RedirectResponse(f"{path_maker(request)('chairside', project_id=project.place)}{query}", 303)
    return _part(request, project, chair.now(project, which, form.look))


def _part(request: Request, project: Project, now: RowNow) -> Response:
    return page(request, "_chairside.html", project=project, now=now)


@router.get("/chairside", name="chairside")
def show_chairside(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    form: LookDep,
    which: Annotated[int, Query(ge=1, le=100)] = 1,
) -> Response:
    """The row to work now."""
    which = min(which, project.file.own.copies)
    if wants_part(request):
        return _part(request, project, chair.now(project, which, form.look))
    return whole_page(request, project, chair, form, which)


@router.get("/chairside/ahead", name="rows_ahead")
def show_rows_ahead(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    form: LookDep,
    which: Annotated[int, Query(ge=1, le=100)] = 1,
) -> Response:
    """The rows to come, each as it will be shown: what is knitted while the connection is lost."""
    now = chair.now(project, min(which, project.file.own.copies), form.look)
    last = min(now.done + AHEAD, now.total)
    cloth = chair.cloth(project, now.copy)
    rows = [
        row_after(cloth, replace(now.progress, done=done), now.copy, form.look, now.pace)
        for done in range(max(0, now.done - 1), last + 1)
    ]
    return page(request, "_rows_ahead.html", project=project, rows=rows)


@router.post("/chairside/done", name="row_done")
def tick_row(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    form: LookDep,
    row: Row,
    which: Which = 1,
    tap: Tap = "",
    after: Tap = "",
) -> Response:
    """Ticks off a row."""
    chair.row_done(project, row, which, tap=tap, after=after)
    for copy in chair.as_far(project, row - 1) if form.together else ():
        chair.row_done(project, row, copy, tap=f"{tap}-{copy}" if tap else "")
    return _answer(request, project, chair, form, which)


@router.post("/chairside/undo", name="row_undo")
def untick_row(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    form: LookDep,
    row: Row,
    which: Which = 1,
    tap: Tap = "",
    after: Tap = "",
) -> Response:
    """Takes the last row back."""
    chair.undo(project, row, which, tap=tap, after=after)
    for copy in chair.as_far(project, row) if form.together else ():
        chair.undo(project, row, copy, tap=f"{tap}-{copy}" if tap else "")
    return _answer(request, project, chair, form, which)


@router.post("/chairside/jump", name="row_jump")
def jump_to_row(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    form: LookDep,
    row: Annotated[int, Form(ge=0, le=10_000)],
    which: Which = 1,
) -> Response:
    """Goes on after a row that was found."""
    chair.jump(project, row, which)
    return _answer(request, project, chair, form, which)


@router.post("/chairside/look", name="chair_look")
def choose_look(
    request: Request,
    project: ProjectDep,
    way: Annotated[CableWay, Form()] = "needle",
    hand: Annotated[Literal["right", "left"], Form()] = "right",
    letters: Annotated[TextSize, Form()] = "normal",
    markers: Annotated[bool, Form()] = False,
    awake: Annotated[bool, Form()] = False,
    together: Annotated[bool, Form()] = False,
    rest: Annotated[int, Form(ge=0, le=180)] = 30,
    which: Which = 1,
) -> Response:
    """Keeps how the knitter likes to be told, on this device."""
    form = LookForm(way=way, hand=hand, letters=letters, markers=markers, awake=awake, together=together, rest=rest)
    query = f"?which={which}" if which > 1 else ""
    answer = RedirectResponse(f"{path_maker(request)('chairside', project_id=project.place)}{query}", 303)
    answer.set_cookie(COOKIE, form.cookie, max_age=YEAR, samesite="lax", httponly=True)
    return answer
