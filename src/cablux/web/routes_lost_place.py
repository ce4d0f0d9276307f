"""A lost place at the chair: what is seen so far, and the rows that fit."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from fastapi import APIRouter, Path, Query, Request
from fastapi.responses import Response

from ..core.errors import CabluxError
from ..core.notation import Side
from ..core.tracking import Question
from ..core.units import to_mm
from ..service.chair import find_place
from ..service.cloth import cloth_after
from ..service.errors import NotFound
from ..service.forms import FormReader
from .chair_look import LookDep
from .deps import ChairDep, CopyDep, ProjectDep
from .pages import page, wants_part
from .routes_chairside import Lost, whole_page

router = APIRouter(prefix="/projects/{project_id}")


@router.get("/chairside/lost", name="lost_place")
def show_lost_place(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    which: CopyDep,
    form: LookDep,
    seen: Annotated[list[str] | None, Query()] = None,
    panel: Annotated[str, Query(max_length=80)] = "",
    bars: Annotated[str, Query(max_length=10)] = "",
    lean: Annotated[str, Query(max_length=10)] = "",
    length: Annotated[str, Query(max_length=20)] = "",
    ridges: Annotated[str, Query(max_length=10)] = "",
    stitches: Annotated[str, Query(max_length=10)] = "",
    crossings: Annotated[str, Query(max_length=10)] = "",
    facing: Literal["", "RS", "WS"] = "",
) -> Response:
    """The rows that fit what is seen so far and now."""
    looked, sentence, left = list(seen or []), "", chair.left(project, which)
    try:
        typed = FormReader()
        if panel and (bars.strip() or lean == "none"):
            _whole(typed, bars, "Bars or rows above it", field="bars")
            looked.append(f"{panel}:{bars}:{lean}")
        long_mm = to_mm(typed.number(length, "Length", "length"), project.unit) if length.strip() else 0.0
        told: dict[Question, int | Side | None] = {
            "ridges": _whole(typed, ridges, "Ridges at the right edge", field="ridges"),
            "stitches": _whole(typed, stitches, "Stitches on the needle", field="stitches"),
            "crossings": _whole(typed, crossings, "Crossings so far", field="crossings"),
            "facing": Side(facing) if facing else None,
        }
        typed.done()
        lost = find_place(project.piece, looked, long_mm, told=told, left=left)
    except CabluxError as error:
        lost, sentence = find_place(project.piece, seen or [], left=left), str(error)
    kept = tuple(seen or []) if sentence else tuple(looked)
    shown = Lost(
        found=lost,
        looked=kept,
        length=length,
        ridges=ridges,
        stitches=stitches,
        crossings=crossings,
        facing=facing,
        sentence=sentence,
        which=which,
    )
    if wants_part(request):
        return page(request, "_lost_place.html", project=project, lost=shown)
    return whole_page(request, project, chair, form=form, which=which, lost=shown)


def _whole(typed: FormReader, text: str, label: str, field: str) -> int | None:
    """A number that was counted; None where nothing was typed."""
    if text.strip() and not re.fullmatch(r"\s*\d{1,4}\s*", text):
        typed.refuse(field, f"{label}: type a whole number, such as 3.")
        return None
    return int(text) if text.strip() else None


@router.get("/chairside/lost/row-{number}.svg", name="row_relief")
def show_row_relief(
    project: ProjectDep,
    chair: ChairDep,
    which: CopyDep,
    number: Annotated[int, Path(ge=1, le=10_000)],
    behind: bool = False,
) -> Response:
    """What the cloth should look like after a row, from either side."""
    pattern = chair.cloth(project, which)
    if number > len(pattern.rows):
        raise NotFound(f"This piece has rows 1 to {len(pattern.rows)}; there is no row {number}.")
    svg = cloth_after(pattern, number, project.paint, behind=behind)
    return Response(svg, 200 if svg else 404, media_type="image/svg+xml", headers={"cache-control": "no-store"})
