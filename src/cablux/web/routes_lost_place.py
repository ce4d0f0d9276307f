"""A lost place at the chair: what is seen so far, and the rows that fit."""

from __future__ import annotations

import re
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response

from ..core.errors import CabluxError
from ..core.units import to_mm
from ..service.forms import FormReader
from ..service.lost_place import find_place
from .chair_look import LookDep
from .deps import ChairDep, ProjectDep
from .pages import page, wants_part
from .routes_chairside import Lost, whole_page

router = APIRouter(prefix="/projects/{project_id}")


@router.get("/chairside/lost", name="lost_place")
def show_lost_place(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    form: LookDep,
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
    which = min(which, project.file.own.copies)
    shown = Lost(lost, tuple(seen or []) if sentence else tuple(looked), length, sentence, which)
    if wants_part(request):
        return page(request, "_lost_place.html", project=project, lost=shown)
    return whole_page(request, project, chair, form, which, shown)
