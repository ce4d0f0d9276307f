"""Mistakes at the chair: what happened and where, and what can be done about it."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Form, Query, Request
from fastapi.responses import Response
from pydantic import BeforeValidator

from ..core.errors import CabluxError
from ..core.mistakes import Mistake, MistakeKind
from ..core.tracking import COMMON_SECONDS
from ..service.chair import (
    ANSWER_NAMES,
    KIND_NAMES,
    Way,
    leave_mistake,
    mend_mistake,
    mistake_picture,
    rework_chart,
    ways_out,
)
from .deps import ChairDep, CopyDep, ProjectDep
from .pages import page, see_copy

router = APIRouter(prefix="/projects/{project_id}/chairside/mistake")


def _left_empty(text: object) -> object:
    """A field that nothing was typed in, as no number at all."""
    return text or 0


def _asked(
    what: MistakeKind = "crossing-missed",
    row: Annotated[int, Query(ge=0, le=10_000)] = 0,
    section: Annotated[int, Query(ge=0, le=200)] = 0,
    stitch: Annotated[int, BeforeValidator(_left_empty), Query(ge=0, le=2_000)] = 0,
    seen: Annotated[int, BeforeValidator(_left_empty), Query(ge=0, le=10_000)] = 0,
) -> Mistake:
    """The mistake as the address tells it; sections from 1 at the right, 0 where none was named yet."""
    return Mistake(kind=what, row=row, segment=section - 1, seen_at=seen or row, stitch=stitch)


MistakeDep = Annotated[Mistake, Depends(_asked)]


@router.get("", name="mistake")
def show_mistake(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    which: CopyDep,
    mistake: MistakeDep,
    place: Annotated[int, Query(ge=0, le=2_000)] = 0,
) -> Response:
    """What happened, and the ways out side by side. `place`: a stitch of the whole row, as the relief tells it."""
    now = chair.now(project, which)
    cloth = chair.cloth(project, which)
    row = cloth.rows[min(max(mistake.row, 1), len(cloth.rows)) - 1]
    if not mistake.row:
        mistake = Mistake(
            kind=mistake.kind,
            row=max(1, now.done),
            segment=mistake.segment,
            seen_at=max(1, now.done),
            stitch=mistake.stitch,
        )
        row = cloth.row(mistake.row)
    elif mistake.seen_at < now.done and "seen" not in request.query_params:
        mistake = Mistake(
            kind=mistake.kind, row=mistake.row, segment=mistake.segment, seen_at=now.done, stitch=mistake.stitch
        )
    if place:
        mistake = _at_place(mistake, [part.makes for part in row.parts], place)
    ways: tuple[Way, ...] = ()
    sentence = chart = ""
    if mistake.segment >= 0:
        try:
            pace = now.pace.stitch_seconds if now.pace else COMMON_SECONDS
            ways = ways_out(cloth, mistake, now.progress.lifelines, stitch_seconds=pace)
            chart = next((c for way in ways if (c := rework_chart(cloth, mistake, way.answer))), "")
        except CabluxError as error:
            sentence = str(error)
    return page(
        request,
        "mistake.html",
        project=project,
        now=now,
        which=which,
        mistake=mistake,
        row=row,
        ways=ways,
        chart=chart,
        sentence=sentence,
        kinds=KIND_NAMES,
        learnt=now.pace is not None,
    )


def _at_place(mistake: Mistake, counts: list[int], place: int) -> Mistake:
    """The section and its stitch that hold a stitch of the whole row."""
    for segment, many in enumerate(counts):
        if place <= many:
            return Mistake(kind=mistake.kind, row=mistake.row, segment=segment, seen_at=mistake.seen_at, stitch=place)
        place -= many
    return mistake


@router.get("/relief.svg", name="mistake_relief")
def show_relief(project: ProjectDep, mistake: MistakeDep, left: bool = True) -> Response:
    """The cloth around a mistake, with it or as it should be."""
    svg = mistake_picture(project.piece, mistake, project.paint, left=left)
    headers = {"cache-control": "private, max-age=3600"}
    return Response(svg, 200 if svg else 404, media_type="image/svg+xml", headers=headers)


@router.post("", name="mistake_done")
def choose_way(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    way: Annotated[Literal["leave", "drop", "duplicate", "unknit", "rip", "lifeline"], Form()],
    what: Annotated[MistakeKind, Form()],
    row: Annotated[int, Form(ge=1, le=10_000)],
    section: Annotated[int, Form(ge=1, le=200)],
    seen: Annotated[int, Form(ge=1, le=10_000)],
    stitch: Annotated[int, Form(ge=0, le=2_000)] = 0,
    to_row: Annotated[int, Form(ge=0, le=10_000)] = 0,
    which: Annotated[int, Form(ge=1, le=100)] = 1,
) -> Response:
    """Keeps what was chosen: left in, mended where it lay, or ripped, and the tally with it."""
    mistake = Mistake(kind=what, row=row, segment=section - 1, seen_at=seen, stitch=stitch)
    ways_out(chair.cloth(project, which), mistake, chair.state(project, which).lifelines)
    if way in ("leave", "duplicate"):
        leave_mistake(chair, project, mistake, copy=which)
    elif way == "drop":
        mend_mistake(chair, project, mistake, copy=which, how=ANSWER_NAMES[way].lower())
    else:
        chair.jump(project, to_row if way != "unknit" else row - 1, which)
    return see_copy(request, "chairside", project, which=which)
