"""The page of small tools: increases, gauge to count, lengths, needle sizes, counts that suit a multiple."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any

from fastapi import APIRouter, Query, Request
from fastapi.responses import RedirectResponse, Response

from ..core.making.needles import SIZES
from ..core.units import Unit
from ..service.answers import EvenSpread
from ..service.errors import InvalidForm
from ..service.forms import FormReader
from ..service.small_tools import MOST, both_units, count_for_width, spread_evenly, suiting_counts
from .pages import page, path_maker

router = APIRouter()
Typed = Annotated[str, Query(max_length=40)]


@router.get("/spread", name="spread")
def moved_spread(request: Request) -> Response:
    """Where the increases were before there were other tools."""
    return RedirectResponse(f"{path_maker(request)('tools')}?{request.url.query}#increases", 308)


@router.get("/tools", name="tools")
def show_tools(
    request: Request,
    start: Typed = "64",
    goal: Typed = "92",
    edge: Typed = "",
    rows: Typed = "",
    in_the_round: Typed = "",
    wide: Typed = "50",
    per: Typed = "20",
    gauge_unit: Annotated[Unit, Query()] = "cm",
    length: Typed = "10",
    length_unit: Annotated[Unit, Query()] = "cm",
    count: Typed = "120",
    multiple: Typed = "8",
    plus: Typed = "2",
) -> Response:
    """Every tool with what was typed in it; what cannot be worked out says so beside its field."""
    asked = {name: value for name, value in locals().items() if isinstance(value, str)}
    problems: dict[str, str] = {}

    def tried(work: Callable[[], Any]) -> Any:
        try:
            return work()
        except InvalidForm as error:
            problems.update(error.fields)
            return None

    found = {
        "spread": tried(lambda: _spread(start, goal, edge, rows=rows, in_the_round=in_the_round)),
        "gauge": tried(lambda: count_for_width(wide, per, gauge_unit)),
        "length": tried(lambda: both_units(length, length_unit)),
        "multiples": tried(lambda: suiting_counts(count, multiple, plus)),
    }
    status = 422 if problems else 200
    return page(request, "tools.html", status, asked=asked, found=found, problems=problems, needles=SIZES)


def _spread(start: str, goal: str, edge: str, rows: str, in_the_round: str) -> EvenSpread:
    typed = FormReader()
    first = typed.count(start, "Stitches now", "start", most=MOST)
    last = typed.count(goal, "Stitches wanted", "goal", most=MOST)
    kept = typed.count(edge, "Edge stitches", "edge", most=100) if edge.strip(" 0") else 0
    most = typed.count(rows, "Rows", "rows", most=3) if rows.strip(" 0") else 0
    typed.done()
    return spread_evenly(first, last, edge=kept, in_the_round=in_the_round == "yes", rows=most)
