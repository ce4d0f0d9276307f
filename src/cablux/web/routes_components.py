"""Every component of the pages in all of its states, on one page, for those who work on them."""

from __future__ import annotations

from typing import get_args

from fastapi import APIRouter, Request
from fastapi.responses import Response

from ..core.library import FamilyName
from .pages import page

router = APIRouter()
PROBLEMS = {"too-wide": "Type a width from 1 to 400 cm, such as 110."}


@router.get("/components", name="components")
def show_components(request: Request) -> Response:
    """The components as the pages have them; what they say is made up."""
    return page(request, "components.html", families=get_args(FamilyName), problems=PROBLEMS)
