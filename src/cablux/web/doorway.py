"""Where Cablux can be reached beyond this machine, nobody is let in without the passphrase."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import RedirectResponse, Response
from starlette.datastructures import Headers
from starlette.requests import cookie_parser
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Receive, Scope, Send

from ..service.door import MOST, STAYS, Door
from ..service.errors import InvalidForm
from .pages import page

COOKIE = "cablux-pass"
ENTER = "/enter"
_OPEN = ("/static/", "/theme")

router = APIRouter()


class Doorway:
    """ASGI middleware: whoever has no pass is shown to the door; styles and scripts are for everybody."""

    def __init__(self, app: ASGIApp, door: Door) -> None:
        self.app, self.door = app, door

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handles one request."""
        if scope["type"] != "http" or scope["path"] == ENTER or scope["path"].startswith(_OPEN):
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        if self.door.lets_in(cookie_parser(headers.get("cookie", "")).get(COOKIE, "")):
            await self.app(scope, receive, send)
            return
        await _shown_out(scope, headers)(scope, receive, send)


def _shown_out(scope: Scope, headers: Headers) -> Response:
    """To the door, and back afterwards where a page was asked for."""
    wanted = scope["path"] + (f"?{scope['query_string'].decode()}" if scope["query_string"] else "")
    if headers.get("hx-request") == "true":
        return PlainTextResponse("Type the passphrase first.", 401, headers={"HX-Redirect": ENTER})
    if scope["method"] not in ("GET", "HEAD"):
        return PlainTextResponse("Type the passphrase first.", 401)
    return RedirectResponse(f"{ENTER}?to={quote(wanted)}", 303)


@router.get(ENTER, name="enter")
def show_door(request: Request, to: Annotated[str, Query(max_length=500)] = "/") -> Response:
    """The door: one field."""
    return page(request, "enter.html", to=_inside(to), sentence="")


@router.post(ENTER, name="enter_with")
def open_door(
    request: Request,
    passphrase: Annotated[str, Form(max_length=MOST)] = "",
    to: Annotated[str, Form(max_length=500)] = "/",
) -> Response:
    """Lets in whoever knows the passphrase, for a month on this device."""
    try:
        given = request.app.state.door.open_with(passphrase)
    except InvalidForm as error:
        return page(request, "enter.html", 422, to=_inside(to), sentence=str(error))
    answer = RedirectResponse(_inside(to), 303)
    answer.set_cookie(COOKIE, given, max_age=int(STAYS), httponly=True, samesite="lax")
    return answer


def _inside(to: str) -> str:
    """An address of ours, whatever was asked for."""
    return to if to.startswith("/") and not to.startswith(("//", "/\\")) else "/"
