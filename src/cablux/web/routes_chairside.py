"""At the chair: the row to work now, the tally, and how the knitter likes to be told."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Form, Request
from fastapi.responses import Response

from ..service.answers import RowsFound
from ..service.chair import (
    CABLE_WAYS,
    CableWay,
    Chair,
    RowNow,
    TextSize,
    chair_answer,
    find_place,
    row_after,
)
from ..service.projects import Project
from ..service.sizes import size_choices
from .chair_look import COOKIE, YEAR, LookDep, LookForm
from .deps import ChairDep, CopyDep, ProjectDep
from .pages import page, path_maker, see_copy, wants_part

router = APIRouter(prefix="/projects/{project_id}")
Row = Annotated[int, Form(ge=1, le=10_000)]
Which = Annotated[int, Form(ge=1, le=100)]
Tap = Annotated[str, Form(pattern=r"^[0-9a-zA-Z]{0,36}$")]
AHEAD = 20  # rows, our choice: an hour or two of knitting without a connection


@dataclass(frozen=True, kw_only=True)
class Lost:
    """A lost place as its part of the page shows it: what was looked at, as typed, and what is wrong with it."""

    found: RowsFound
    looked: tuple[str, ...] = ()
    length: str = ""
    ridges: str = ""
    stitches: str = ""
    crossings: str = ""
    facing: str = ""
    sentence: str = ""
    which: int = 1


def whole_page(
    request: Request, project: Project, chair: Chair, form: LookForm, which: int, lost: Lost | None = None
) -> Response:
    """The chair's whole page; `lost` is opened where something was looked at."""
    own, sizes = size_choices(project)
    now = chair.now(project, which, form.look)
    phone = request.app.state.phone_address
    if phone:
        phone += path_maker(request)("chairside", project_id=project.place).lstrip("/")
    return page(
        request,
        "chairside.html",
        project=project,
        now=chair_answer(now, project.file),
        pictures=now,
        look=form.look,
        own=own,
        sizes=sizes,
        lost=lost or Lost(found=find_place(project.piece, left=chair.left(project, which)), which=which),
        opened=lost is not None,
        phone=phone,
        form=form,
        ways=CABLE_WAYS,
        tallies=chair.tallies(project),
    )


def _answer(request: Request, project: Project, chair: Chair, form: LookForm, which: int) -> Response:
    """The row after a change: its part for htmx, else the page anew."""
    if not wants_part(request):
        return see_copy(request, "chairside", project, which=which)
    return _part(request, project, chair.now(project, which, form.look))


def _part(request: Request, project: Project, now: RowNow) -> Response:
    told = chair_answer(now, project.file)
    return page(request, "_chairside.html", project=project, now=told, pictures=now, look=now.look)


@router.get("/chairside", name="chairside")
def show_chairside(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    form: LookDep,
    which: CopyDep,
) -> Response:
    """The row to work now."""
    if wants_part(request):
        return _part(request, project, chair.now(project, which, form.look))
    return whole_page(request, project, chair, form=form, which=which)


@router.get("/chairside/ahead", name="rows_ahead")
def show_rows_ahead(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    form: LookDep,
    which: CopyDep,
) -> Response:
    """The rows to come, each as it will be shown: what is knitted while the connection is lost."""
    now = chair.now(project, which, form.look)
    last = min(now.done + AHEAD, now.total)
    cloth = chair.cloth(project, now.copy)
    rows = [
        row_after(cloth, replace(now.progress, done=done), now.copy, look=form.look, pace=now.pace)
        for done in range(max(0, now.done - 1), last + 1)
    ]
    told = [(chair_answer(row, project.file), row) for row in rows]
    return page(request, "_rows_ahead.html", project=project, rows=told, look=form.look)


@dataclass(frozen=True, kw_only=True)
class Tapped:
    """A tap as a phone sends it: which row of which copy, the name that it gave it, and that of the one before."""

    row: int
    which: int
    tap: str
    after: str


def _tapped(row: Row, which: Which = 1, tap: Tap = "", after: Tap = "") -> Tapped:
    return Tapped(row=row, which=which, tap=tap, after=after)


TappedDep = Annotated[Tapped, Depends(_tapped)]


@router.post("/chairside/done", name="row_done")
def tick_row(request: Request, project: ProjectDep, chair: ChairDep, form: LookDep, tapped: TappedDep) -> Response:
    """Ticks off a row."""
    _count(
        chair.row_done, project, tapped, others=lambda: chair.as_far(project, tapped.row - 1) if form.together else ()
    )
    return _answer(request, project, chair, form=form, which=tapped.which)


@router.post("/chairside/undo", name="row_undo")
def untick_row(request: Request, project: ProjectDep, chair: ChairDep, form: LookDep, tapped: TappedDep) -> Response:
    """Takes the last row back."""
    _count(chair.undo, project, tapped, others=lambda: chair.as_far(project, tapped.row) if form.together else ())
    return _answer(request, project, chair, form=form, which=tapped.which)


def _count(count: Callable[..., None], project: Project, tapped: Tapped, others: Callable[[], Iterable[int]]) -> None:
    """Counts a tap for its copy, and then for the others that are knitted with it."""
    count(project, tapped.row, tapped.which, tap=tapped.tap, after=tapped.after)
    for copy in others():
        count(project, tapped.row, copy, tap=f"{tapped.tap}-{copy}" if tapped.tap else "")


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
    return _answer(request, project, chair, form=form, which=which)


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
    answer = see_copy(request, "chairside", project, which=which)
    answer.set_cookie(COOKIE, form.cookie, max_age=YEAR, samesite="lax", httponly=True)
    return answer
