"""A server of its own for each worker, and pages that fail on anything the browser complains about."""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import BrowserContext, Locator, Page, expect

CABLUX = Path(sys.executable).parent / "cablux"
CHROMIUM = """--headless --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking
 --disable-component-update --disable-sync --disable-dev-shm-usage --font-render-hinting=none
 --force-color-profile=srgb"""

# A busy machine may be slow: these tests ask what happens, never how fast (speed is for `make bench`).
PATIENCE = 180_000  # milliseconds after which something hangs
expect.set_options(timeout=PATIENCE)


class Server:
    """`cablux demo` on a data folder; it can be killed and started again."""

    def __init__(self, data: Path) -> None:
        self.data = data
        self.port = 0
        self.start()

    def start(self) -> None:
        self.process = subprocess.Popen(
            [CABLUX, "demo", "--port", str(self.port)],
            stdout=subprocess.PIPE,
            text=True,
            env={"PATH": "/usr/bin:/bin", "CABLUX_DATA": str(self.data)},
        )
        line = self.process.stdout.readline()
        self.url = re.search(r"http://[\d.:]+", line)[0]
        self.port = urlsplit(self.url).port

    def kill(self) -> None:
        self.process.kill()
        self.process.wait()
        self.process.stdout.close()


def follow(press: Locator) -> None:
    """Presses what leads to another page, and waits until that page hears clicks and keys."""
    with press.page.expect_event("load"):
        press.click()


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory, demo_data: Path) -> Iterator[Server]:
    data = tmp_path_factory.mktemp("data")
    shutil.copy(demo_data, data / "cablux.db")
    started = Server(data)
    yield started
    started.kill()


@pytest.fixture(scope="session")
def base_url(server: Server) -> str:
    return server.url


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict:
    return {"executable_path": "/usr/bin/chromium", "args": CHROMIUM.split()}


@pytest.fixture
def complaints() -> list[str]:
    """What the browser complained about; a test that expects a complaint takes it out."""
    return []


@pytest.fixture
def page(context: BrowserContext, base_url: str, complaints: list[str]) -> Iterator[Page]:
    yield watched(context, base_url, complaints)
    assert complaints == []


@pytest.fixture
def phone(new_context: Callable[..., BrowserContext], base_url: str, complaints: list[str]) -> Iterator[Page]:
    yield watched(
        new_context(viewport={"width": 390, "height": 844}, is_mobile=True, has_touch=True), base_url, complaints
    )
    assert complaints == []


def watched(context: BrowserContext, base_url: str, complaints: list[str]) -> Page:
    """A new page; what its browser complains about is written down."""
    context.set_default_timeout(PATIENCE)
    page = context.new_page()
    page.on("console", lambda m: complaints.append(m.text) if m.type in ("error", "warning") else None)
    page.on("pageerror", lambda e: complaints.append(str(e)))
    # a picture that is no longer wanted when the next change comes is given up by the browser itself
    page.on("requestfailed", lambda r: r.failure == "net::ERR_ABORTED" or complaints.append(f"failed: {r.url}"))
    page.on("request", lambda r: None if r.url.startswith((base_url, "data:")) else complaints.append(r.url))
    return page


WIDE = '<svg xmlns="http://www.w3.org/2000/svg" width="1600" height="400"><rect width="1600" height="400"/></svg>'


@pytest.fixture
def without_relief(page: Page) -> Page:
    """A page whose pictures of cloth are not drawn: a wide black one stands for each, which is done at once."""
    picture = re.compile(r"^[^?]*\.svg(\?|$)")
    page.route(
        lambda url: bool(picture.match(url)) and "/static/" not in url,
        lambda route: route.fulfill(body=WIDE, content_type="image/svg+xml"),
    )
    return page
