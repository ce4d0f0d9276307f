"""Renders templates: the filters and helpers they use, and the one place that makes addresses."""

from __future__ import annotations

import hashlib
from functools import lru_cache
from pathlib import Path
from typing import Any

from fastapi import Request
from fastapi.responses import HTMLResponse
from fastapi.templating import Jinja2Templates
from markupsafe import Markup

from ..core.units import Unit, length_text
from ..render.relief import relief_query, relief_version
from ..service.drawer import haystack
from ..service.gauge import SCHOOL_NAMES
from ..service.plaintext import LEFT_HANDED

HERE = Path(__file__).parent
TEMPLATES = Jinja2Templates(directory=HERE / "templates")
THEMES = {"day": "Daylight", "lamp": "Lamplight"}


def wants_part(request: Request) -> bool:
    """Whether htmx asked, which swaps a part of the page."""
    return request.headers.get("hx-request") == "true"


def page(request: Request, name: str, status: int = 200, **context: Any) -> HTMLResponse:
    """A whole page or a part of one."""
    theme = request.cookies.get("theme", "")
    context |= {
        "path": path_maker(request),
        "static": static_path,
        "theme": theme if theme in THEMES else "",
        "here": request.url.path,
    }
    return TEMPLATES.TemplateResponse(request, name, context, status_code=status)


def path_maker(request: Request) -> Any:
    """`path("bench", project_id=3)`: the address of a route by its name."""

    def path(name: str, **params: Any) -> str:
        return str(request.app.url_path_for(name, **params))

    return path


@lru_cache(maxsize=64)
def static_path(name: str) -> str:
    """A static file's address, with its content's fingerprint, so that it can be cached for good."""
    digest = hashlib.sha256((HERE / "static" / name).read_bytes()).hexdigest()[:12]
    return f"/static/{name}?v={digest}"


def _length(um: float, unit: Unit, digits: int = 1) -> str:
    return length_text(um / 1000.0, unit, digits)


def _svg(text: str) -> Markup:
    """Our own renderer's output, which escapes every text in it."""
    return Markup(text)


TEMPLATES.env.filters["length"] = _length
TEMPLATES.env.globals |= {
    "relief_query": relief_query,
    "relief_version": relief_version,
    "school_names": SCHOOL_NAMES,
    "haystack": haystack,
    "left_handed": LEFT_HANDED,
}
TEMPLATES.env.filters["svg"] = _svg
TEMPLATES.env.trim_blocks = True
TEMPLATES.env.lstrip_blocks = True
