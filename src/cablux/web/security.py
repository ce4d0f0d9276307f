"""The headers every answer carries, and the refusal of requests that another site makes in our name."""

from __future__ import annotations

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; font-src 'self'; "
    "connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'; object-src 'none'"
)
HEADERS = {
    "content-security-policy": POLICY,
    "x-content-type-options": "nosniff",
    "referrer-policy": "same-origin",
    "cross-origin-opener-policy": "same-origin",
}
_SAFE = {"GET", "HEAD", "OPTIONS"}


class Security:
    """ASGI middleware: adds the headers; unsafe methods must come from our own pages."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handles one request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers.setdefault(name, value)
            await send(message)

        if scope["method"] not in _SAFE and not _ours(Headers(scope=scope)):
            refusal = PlainTextResponse("This change was asked for by another site, so it was not made.", 403)
            await refusal(scope, receive, with_headers)
            return
        await self.app(scope, receive, with_headers)


def _ours(headers: Headers) -> bool:
    """Browsers say where a request comes from; programs on this machine that say nothing are the person's own."""
    site = headers.get("sec-fetch-site")
    if site is not None:
        return site in ("same-origin", "none")
    origin = headers.get("origin")
    return origin is None or origin.split("://")[-1] == headers.get("host")
