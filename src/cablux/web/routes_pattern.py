"""The pattern page: chart and words; and the words as plain text."""

from __future__ import annotations

from typing import Annotated, Literal
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Query, Request
from fastapi.responses import PlainTextResponse, Response

from ..core.pattern.wording import Wording
from ..service import pattern as patterns
from ..service.pattern import pattern_text
from .deps import ChairDep, CopyDep, ProjectDep
from .pages import page, wants_part

router = APIRouter(prefix="/projects/{project_id}")


def _wording(
    names: Literal["over", "hold"] = "over",
    repeats: Literal["up", "down"] = "up",
    counts: Literal["yes", "no"] = "yes",
    markers: Literal["yes", "no"] = "no",
    terms: Literal["american", "british"] = "american",
    hand: Literal["right", "left"] = "right",
) -> Wording:
    """The knitter's choices, as the address has them."""
    return Wording(
        hold=names == "hold",
        until=repeats == "down",
        counts=counts == "yes",
        markers=markers == "yes",
        british=terms == "british",
        left_handed=hand == "left",
    )


WordingDep = Annotated[Wording, Depends(_wording)]


def _query(request: Request) -> str:
    """The choices alone, to be carried on to the next window and to the text."""
    return urlencode({key: value for key, value in request.query_params.items() if key != "first"})


@router.get("/pattern", name="pattern")
def show_pattern(
    request: Request,
    project: ProjectDep,
    wording: WordingDep,
    first: Annotated[int, Query(ge=0)] = 0,
    manner: patterns.Manner = "rows",
) -> Response:
    """Chart and words of the whole piece, or the chart's window where htmx asked."""
    piece = project.piece
    window = patterns.chart_window(piece, first)
    if wants_part(request):
        return page(request, "_chart.html", project=project, window=window, query=_query(request))
    return page(
        request,
        "pattern.html",
        project=project,
        window=window,
        worked=patterns.compiled_pattern(piece),
        told=patterns.words_answer(project.file, wording, manner),
        cautions=patterns.pattern_cautions(project.file),
        key=patterns.chart_key(piece),
        in_pattern=patterns.shaped_in_pattern(piece, wording),
        manner=manner,
        wording=wording,
        query=_query(request),
    )


@router.get("/pattern/chart", name="whole_chart")
def show_whole_chart(
    request: Request,
    project: ProjectDep,
    chair: ChairDep,
    which: CopyDep,
    fold: Annotated[list[str] | None, Query(max_length=200)] = None,
) -> Response:
    """Every row of the piece; sections can be folded away, and the row at hand is marked."""
    done, cloth = chair.state(project, which).done, chair.cloth(project, which)
    shut = [pair for pair in map(_folded, fold or []) if pair]
    now = done + 1 if done else 0
    charts = patterns.whole_charts(cloth, frozenset(shut), now)
    return page(request, "whole_chart.html", project=project, charts=charts, shut=shut, now=now)


def _folded(text: str) -> tuple[int, int] | None:
    """`0.3`: section 3 of band 0; nothing for what cannot be read."""
    band, _, place = text.partition(".")
    return (int(band), int(place)) if band.isdecimal() and place.isdecimal() else None


@router.get("/pattern.txt", name="pattern_text")
def as_text(project: ProjectDep, wording: WordingDep, manner: patterns.Manner = "rows") -> Response:
    """The words of all pieces as plain text, to print or to send."""
    return PlainTextResponse(pattern_text(project, wording, manner))
