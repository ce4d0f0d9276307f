"""A server of its own for each worker, and pages that fail on anything the browser complains about."""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import Browser, BrowserContext, Locator, Page, ViewportSize, expect

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
            env={"PATH": "/usr/bin:/bin", "CABLUX_DATA": str(self.data), "CABLUX_DEVELOPMENT": "yes"},
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


def until(page: Page, so: str) -> None:
    """Waits until an expression is true; the page's policy lets none be kept in it that is asked again and again."""
    for _ in range(PATIENCE // 50):
        if page.evaluate(so):
            return
        page.wait_for_timeout(50)
    raise AssertionError(f"it never came true: {so}")


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


WIDE = '<svg xmlns="http://www.w3.org/2000/svg" width="1600" height="400"><rect width="1600" height="400"/></svg>'
PICTURE = re.compile(r"^(?!.*/static/)[^?]*\.svg(\?|$)")


class Tab:
    """A tab in which test after test is made, emptied between them: styles and scripts are fetched and read once."""

    def __init__(self, context: BrowserContext, base_url: str) -> None:
        self.base_url = base_url
        self.heard: list[str] = []
        self.size: ViewportSize | None = None
        context.set_default_timeout(PATIENCE)
        self.page = watched(context, base_url, self)
        self.size = self.page.viewport_size

    def lent(self, complaints: list[str]) -> Page:
        """The page for a test, which hears its complaints: without cookies, with nothing stored, as large as ever.

        Pictures of cloth are not drawn on it, which takes longer than all the rest: a wide black one stands for each.
        """
        self.heard = complaints
        self.page.set_viewport_size(self.size)
        self.page.route(PICTURE, lambda route: route.fulfill(body=WIDE, content_type="image/svg+xml"))
        return self.page

    def given_back(self) -> None:
        """Empties the tab, so that the next test finds nothing of this one's."""
        page, context = self.page, self.page.context
        for other in context.pages:
            if other is not page:
                other.close()
        self.heard = []  # what is broken off now is nobody's complaint
        page.unroute_all(behavior="ignoreErrors")
        context.set_offline(False)
        if page.url.startswith(self.base_url):
            page.evaluate("localStorage.clear(); sessionStorage.clear()")
        page.goto("about:blank")
        context.clear_cookies()
        session = context.new_cdp_session(page)
        session.send("Storage.clearDataForOrigin", {"origin": self.base_url, "storageTypes": "all"})
        session.detach()


@pytest.fixture(scope="session")
def table(browser: Browser, base_url: str) -> Iterator[Tab]:
    context = browser.new_context(base_url=base_url)
    yield Tab(context, base_url)
    context.close()


@pytest.fixture(scope="session")
def pocket(browser: Browser, base_url: str) -> Iterator[Tab]:
    context = browser.new_context(
        base_url=base_url, viewport={"width": 390, "height": 844}, is_mobile=True, has_touch=True
    )
    yield Tab(context, base_url)
    context.close()


@pytest.fixture
def page(table: Tab, complaints: list[str]) -> Iterator[Page]:
    yield table.lent(complaints)
    table.given_back()
    assert complaints == []


@pytest.fixture
def drawn(page: Page) -> Page:
    """A page for a test that looks at pictures of cloth: they are drawn."""
    page.unroute_all()
    return page


@pytest.fixture
def phone(pocket: Tab, complaints: list[str]) -> Iterator[Page]:
    yield pocket.lent(complaints)
    pocket.given_back()
    assert complaints == []


def watched(context: BrowserContext, base_url: str, tab: Tab) -> Page:
    """A new page; what its browser complains about is written down."""
    page = context.new_page()
    page.on("console", lambda m: tab.heard.append(m.text) if m.type in ("error", "warning") else None)
    page.on("pageerror", lambda e: tab.heard.append(str(e)))
    # a picture that is no longer wanted when the next change comes is given up by the browser itself
    page.on("requestfailed", lambda r: r.failure == "net::ERR_ABORTED" or tab.heard.append(f"failed: {r.url}"))
    own = (base_url, "data:", "about:")
    page.on("request", lambda r: None if r.url.startswith(own) else tab.heard.append(r.url))
    return page
