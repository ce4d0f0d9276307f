"""Renders templates: the filters and helpers they use, and the one place that makes addresses."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Callable
from contextlib import suppress
from datetime import UTC, datetime
from functools import lru_cache, partial
from pathlib import Path
from typing import Any

from fastapi import FastAPI, Request
from fastapi.responses import HTMLResponse, RedirectResponse
from fastapi.templating import Jinja2Templates
from markupsafe import Markup
from starlette.routing import BaseRoute, NoMatchFound

from ..core.making import needle_text
from ..core.piece.widths import segment_um
from ..core.tracking import time_text
from ..core.units import GAUGE_SPAN, Unit, cord_text, fine_text, from_mm, length_text
from ..render.bars_picture import BARS
from ..render.relief import relief_query, relief_version
from ..render.templates import templates_in
from ..service.bench import SHAPING_NAMES
from ..service.gauge import METHOD_NAMES
from ..service.panels import search_words
from ..service.pattern import (
    LEFT_HANDED,
    MARKERS,
)
from ..service.projects import Project
from .nearby import qr_svg

HERE = Path(__file__).parent
TEMPLATES = Jinja2Templates(env=templates_in(HERE / "templates"))
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
    if isinstance(project := context.get("project"), Project):
        context["totals"] = lambda: request.app.state.chair.totals(project)
    return TEMPLATES.TemplateResponse(request, name, context, status_code=status)


def path_maker(request: Request) -> Any:
    """`path("bench", project_id=3)`: the address of a route by its name."""

    def path(name: str, **params: Any) -> str:
        return str(request.app.state.addresses(name, tuple(params.items())))

    return path


def see_copy(request: Request, name: str, project: Project, *, which: int) -> RedirectResponse:
    """On to a page about one copy of a piece."""
    query = f"?which={which}" if which > 1 else ""
    return RedirectResponse(f"{path_maker(request)(name, project_id=project.place)}{query}", 303)


def file_name(name: str, ending: str) -> str:
    """What a project's file is called, so that every system can write it."""
    return f"{re.sub(r'[^a-z0-9]+', '-', name.lower()).strip('-') or 'project'}.{ending}"


def addresses(app: FastAPI) -> Callable[[str, tuple[tuple[str, Any], ...]], str]:
    """The addresses of an application's routes by name and parameters.

    They are kept, and each route is looked for once: a page has some ninety addresses, the application as many routes.
    """
    found: dict[str, BaseRoute] = {}

    @lru_cache(maxsize=4096)
    def address(name: str, given: tuple[tuple[str, Any], ...]) -> str:
        params = dict(given)
        if name in found:
            return str(found[name].url_path_for(name, **params))
        for route in app.routes:
            with suppress(NoMatchFound):
                path = str(route.url_path_for(name, **params))
                found[name] = route
                return path
        raise NoMatchFound(name, params)

    return address


@lru_cache(maxsize=64)
def static_path(name: str) -> str:
    """A static file's address, with its content's fingerprint, so that it can be cached for good."""
    digest = hashlib.sha256((HERE / "static" / name).read_bytes()).hexdigest()[:12]
    return f"/static/{name}?v={digest}"


def _length(um: float, unit: Unit, digits: int = 1) -> str:
    return length_text(um / 1000.0, unit, digits)


def _to_span(to_ten: float, unit: Unit) -> str:
    """Stitches or rows to 10 cm as they are told in a unit: to 10 cm, or to 4 in."""
    return f"{to_ten * GAUGE_SPAN[unit][0] / 100.0:.1f}"


def _per_span(to_ten: float, unit: Unit) -> str:
    """The same as it was typed."""
    return f"{to_ten * GAUGE_SPAN[unit][0] / 100.0:g}"


def _span(unit: Unit) -> str:
    return GAUGE_SPAN[unit][1]


def _local(moment: datetime) -> str:
    """A stored moment (UTC) in the time of this machine: `26 Nov 2026, 14:05`."""
    return moment.replace(tzinfo=UTC).astimezone().strftime("%-d %b %Y, %H:%M")


def _svg(text: str) -> Markup:
    """Our own renderer's output, which escapes every text in it."""
    return Markup(text)


TEMPLATES.env.filters["length"] = _length
TEMPLATES.env.filters["mm"] = length_text
TEMPLATES.env.filters["fine"] = fine_text
TEMPLATES.env.filters["in_unit"] = from_mm
TEMPLATES.env.filters["to_span"] = _to_span
TEMPLATES.env.filters["per_span"] = _per_span
TEMPLATES.env.filters["span"] = _span
TEMPLATES.env.filters["cord"] = cord_text
TEMPLATES.env.filters["needle"] = needle_text
TEMPLATES.env.filters["time"] = time_text
TEMPLATES.env.globals |= {
    "relief_query": relief_query,
    "relief_version": relief_version,
    "method_names": METHOD_NAMES,
    "haystack": search_words,
    "segment_um": segment_um,
    "left_handed": LEFT_HANDED,
    "about_markers": MARKERS,
    "shaping_names": SHAPING_NAMES,
    "qr_svg": qr_svg,
    "partial": partial,
    "bars": BARS,
    "time_text": time_text,
    "kind_of": lambda block: type(block).__name__,
}
TEMPLATES.env.filters["local"] = _local
TEMPLATES.env.filters["svg"] = _svg
