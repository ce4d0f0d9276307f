"""The application: its routes, middleware and error pages, built visibly in one place."""

from __future__ import annotations

import threading
from collections.abc import AsyncIterator, Mapping
from contextlib import asynccontextmanager
from types import MappingProxyType
from typing import Any
from urllib.parse import urlsplit

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import Response
from fastapi.staticfiles import StaticFiles
from pydantic import ValidationError
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware
from starlette.types import Scope

from .. import __version__
from ..core.errors import CabluxError
from ..service.chair import Chair
from ..service.cloth import PieceRelaxer, load_draw_ins, prepare_first_bench, save_draw_ins
from ..service.door import Door
from ..service.errors import InvalidForm, NotFound, TooEarly
from ..service.forms import field_faults
from ..service.panels import Drawer, Panels, Reader
from ..service.projects import Projects
from ..service.swatches import SwatchBook
from ..settings import Settings
from ..store.database import Database
from . import (
    doorway,
    routes_bench,
    routes_booklet,
    routes_caston,
    routes_chairside,
    routes_cloth,
    routes_components,
    routes_composer,
    routes_drawer,
    routes_gauge,
    routes_history,
    routes_journal,
    routes_layout,
    routes_lost_place,
    routes_measures,
    routes_mistakes,
    routes_pattern,
    routes_pictures,
    routes_pieces,
    routes_projects,
    routes_shapes,
    routes_sizes,
    routes_squares,
    routes_swatches,
    routes_tools,
)
from .doorway import Doorway
from .nearby import own_addresses
from .pages import HERE, addresses, page, wants_part
from .security import Security

ROUTES = (
    doorway,
    routes_projects,
    routes_shapes,
    routes_measures,
    routes_pieces,
    routes_bench,
    routes_layout,
    routes_caston,
    routes_history,
    routes_pattern,
    routes_booklet,
    routes_chairside,
    routes_lost_place,
    routes_mistakes,
    routes_journal,
    routes_drawer,
    routes_composer,
    routes_pictures,
    routes_gauge,
    routes_swatches,
    routes_cloth,
    routes_tools,
    routes_sizes,
    routes_squares,
)
PREPARE_AFTER = 3.0  # seconds, our choice: after the first page, which should not share the processor with it


def create_app(settings: Settings | None = None) -> FastAPI:
    """The application on the data of `settings`; migrates the database when it starts."""
    settings = settings or Settings()
    database = Database(settings.database)

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        database.upgrade()
        load_draw_ins(settings.data)
        timer = threading.Timer(PREPARE_AFTER, prepare_first_bench, (app.state.projects,))
        timer.daemon = True
        timer.start()
        yield
        timer.cancel()
        app.state.relaxer.close()
        save_draw_ins(settings.data)
        database.close()

    app = FastAPI(title="Cablux", version=__version__, lifespan=lifespan, docs_url=None, redoc_url=None)
    app.state.addresses = addresses(app)
    app.state.projects = Projects(database)
    app.state.chair = Chair(database)
    app.state.panels = Panels(database)
    app.state.reader = Reader(database)
    app.state.book = SwatchBook(database)
    app.state.relaxer = PieceRelaxer()
    app.state.drawer = Drawer(database, app.state.panels)
    app.state.door = Door(settings.data)
    app.state.phone_address = ""  # the server knows its port only when it listens
    app.add_middleware(GZipMiddleware, minimum_size=800)
    if settings.reaches_out:
        app.add_middleware(Doorway, door=app.state.door)
    app.add_middleware(Security)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=_hosts(settings))
    app.mount("/static", _Static(directory=HERE / "static"), name="static")
    for module in (*ROUTES, routes_components) if settings.development else ROUTES:
        # as they are: included, each would be read once more, which takes half a second at the start and, done by the
        # first pages in several threads, is not safe
        app.router.routes.extend(module.router.routes)
    app.add_exception_handler(CabluxError, _refused)
    app.add_exception_handler(RequestValidationError, _unreadable)
    app.add_exception_handler(ValidationError, _unfit)
    app.add_exception_handler(HTTPException, _http_error)
    return app


def _hosts(settings: Settings) -> list[str]:
    """Names under which we answer: another site cannot reach us through a name of its own."""
    others = own_addresses() if settings.reaches_out else ()
    return sorted({"127.0.0.1", "localhost", "[::1]", "testserver", settings.host, *others} - {"0.0.0.0", "::"})


class _Static(StaticFiles):
    """Static files: those with a fingerprint may be kept; scripts name each other without, and are asked for anew."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        response = await super().get_response(path, scope)
        kept = b"v=" in scope["query_string"] or path.startswith("fonts")
        response.headers["cache-control"] = "public, max-age=31536000, immutable" if kept else "no-cache"
        return response


def _problem(
    request: Request, status: int, title: str, *, sentence: str, fields: Mapping[str, str] = MappingProxyType({})
) -> Response:
    """A sentence in the page's own place for messages, or a page of its own; `fields` says what belongs to which."""
    if wants_part(request):
        response = page(request, "_problem.html", status, sentence=sentence, fields=dict(fields))
        response.headers["HX-Retarget"] = "#messages"
        response.headers["HX-Reswap"] = "innerHTML"
        response.headers["HX-Reselect"] = ".notice"  # whatever part the request had wanted
        return response
    return page(request, "problem.html", status, title=title, sentence=sentence, back=_came_from(request))


def _came_from(request: Request) -> str:
    """The page of ours that asked, without which there is only the list of projects to go back to."""
    came = urlsplit(request.headers.get("referer", ""))
    ours = came.netloc == request.url.netloc and came.path != request.url.path
    return (came.path + (f"?{came.query}" if came.query else "")) if ours else ""


def _refused(request: Request, error: Exception) -> Response:
    if isinstance(error, NotFound):
        return _problem(request, 404, "Not found", sentence=str(error))
    if isinstance(error, TooEarly):
        return _problem(request, 409, "Not yet", sentence=str(error))
    fields = error.fields if isinstance(error, InvalidForm) else {}
    return _problem(request, 422, "That does not work yet", sentence=str(error), fields=fields)


def _unreadable(request: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    if any(fault["loc"][0] == "path" for fault in error.errors()):
        return _problem(request, 404, "Not found", sentence="There is no such page.")
    fields = {str(fault["loc"][-1]): _fault(fault) for fault in reversed(error.errors())}
    named = (f"{name.replace('_', ' ').capitalize()}: {sentence}" for name, sentence in sorted(fields.items()))
    return _problem(request, 422, "That does not work yet", sentence=" ".join(named), fields=fields)


def _unfit(request: Request, error: Exception) -> Response:
    """A command that cannot be: what of it is not as it should be."""
    assert isinstance(error, ValidationError)
    said = " ".join(field_faults(error, "What was sent"))
    return _problem(request, 422, "That does not work yet", sentence=said)


def _fault(fault: Mapping[str, Any]) -> str:
    """What to type in a field that was refused."""
    limits = fault.get("ctx", {})
    if "le" in limits:
        return f"Type {limits['le']} or less."
    if "ge" in limits:
        return f"Type {limits['ge']} or more."
    if "expected" in limits:
        return f"Choose one of these: {limits['expected']}."
    if fault["type"] == "missing":
        return "This is missing."
    return "Type a whole number." if fault["type"].startswith("int") else "This cannot be read."


def _http_error(request: Request, error: Exception) -> Response:
    assert isinstance(error, HTTPException)
    if error.status_code == 404:
        return _problem(request, 404, "Not found", sentence="There is no such page.")
    return _problem(request, error.status_code, "That did not work", sentence=str(error.detail))
