"""The small tool that spreads increases or decreases between two counts."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response

from ..core.errors import CabluxError
from ..service.even_spread import spread_evenly
from .pages import page

router = APIRouter()
Count = Annotated[int, Query()]


@router.get("/spread", name="spread")
def show_spread(
    request: Request, start: Count = 64, goal: Count = 92, edge: Count = 0, in_the_round: str = "", rows: Count = 0
) -> Response:
    """The form, and the rows for the counts in it."""
    found, problem = None, ""
    try:
        found = spread_evenly(start, goal, edge=edge, in_the_round=in_the_round == "yes", rows=rows)
    except CabluxError as error:
        problem = str(error)
    asked = {"start": start, "goal": goal, "edge": edge, "in_the_round": in_the_round == "yes", "rows": rows}
    return page(request, "spread.html", 422 if problem else 200, found=found, problem=problem, asked=asked)
