"""The pattern page: chart and words; and the words as plain text."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Request
from fastapi.responses import PlainTextResponse, Response

from ..core.pattern.wording import Wording
from ..service import pattern as patterns
from ..service.plaintext import pattern_text
from .deps import ProjectDep
from .pages import page, wants_part

router = APIRouter(prefix="/projects/{project_id}")
Names = Annotated[Literal["over", "hold"], Query()]


@router.get("/pattern", name="pattern")
def show(
    request: Request, project: ProjectDep, first: Annotated[int, Query(ge=0)] = 0, names: Names = "over"
) -> Response:
    """Chart and words of the whole piece, or the chart's window where htmx asked."""
    piece = project.piece
    window = patterns.chart_window(piece, first)
    if wants_part(request):
        return page(request, "_chart.html", project=project, window=window, names=names)
    return page(
        request,
        "pattern.html",
        project=project,
        window=window,
        worked=patterns.worked(piece),
        sections=patterns.in_words(piece, Wording(hold=names == "hold")),
        key=patterns.key(piece),
        names=names,
    )


@router.get("/pattern.txt", name="pattern_text")
def as_text(project: ProjectDep, names: Names = "over") -> Response:
    """The words as plain text, to print or to send."""
    return PlainTextResponse(pattern_text(project, Wording(hold=names == "hold")))
