"""Fixtures shared by all tests: a fresh database, the application, projects to work with."""

from __future__ import annotations

import gc
import os
import shutil
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING

import pytest
from hypothesis import HealthCheck, Phase, settings

from tests.examples import BRIEF, HOUSE, WANDER

if TYPE_CHECKING:
    from httpx2 import Response
    from starlette.testclient import TestClient

    from cablux.store.database import Database

# Fixtures import what they need: tests of the core begin without the database, the application and its demo.

# A change is judged by the same examples each time; `make wander` looks for new ones, to be added where they fail.
settings.register_profile(
    "house", deadline=None, max_examples=HOUSE, derandomize=True, suppress_health_check=[HealthCheck.too_slow]
)
settings.register_profile("wander", settings.get_profile("house"), max_examples=WANDER, derandomize=False)
settings.register_profile("brief", settings.get_profile("house"), max_examples=BRIEF)
# `make mutants` asks only whether a test fails, not what the smallest example would be.
settings.register_profile("mutants", settings.get_profile("house"), phases=(Phase.explicit, Phase.generate))
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "house"))
gc.set_threshold(50_000, 20, 50)  # the caches of a worker grow large; looking through them often is slow


@pytest.fixture(autouse=True, scope="session")
def _all_the_time_a_solver_needs() -> Iterator[None]:
    """What is best does not depend on how busy this machine is."""
    with pytest.MonkeyPatch.context() as patch:
        for limit in ("integer._TIME_LIMIT", "integer._FIRST", "clash._TIME_LIMIT"):
            patch.setattr(f"cablux.core.counts.{limit}", 60.0)
        yield


@pytest.fixture(scope="session")
def empty_data(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A database without projects, made once: every test works on a copy of its own."""
    from cablux.settings import Settings
    from cablux.store.database import Database

    settings = Settings(data=tmp_path_factory.mktemp("empty"))
    database = Database(settings.database)
    database.upgrade()
    database.close()
    return settings.database


@pytest.fixture(scope="session")
def demo_data(tmp_path_factory: pytest.TempPathFactory, empty_data: Path) -> Path:
    """The demo's database, made once: every test works on a copy of its own."""
    from cablux.demo.loader import load_demo
    from cablux.settings import Settings
    from cablux.store.database import Database

    settings = Settings(data=tmp_path_factory.mktemp("demo"))
    shutil.copy(empty_data, settings.database)
    database = Database(settings.database)
    load_demo(database)
    database.close()
    return settings.database


@pytest.fixture
def database(tmp_path: Path, empty_data: Path) -> Iterator[Database]:
    from cablux.store.database import Database

    opened = Database(Path(shutil.copy(empty_data, tmp_path / "cablux.db")))
    yield opened
    opened.close()


@pytest.fixture
def demo_database(tmp_path: Path, demo_data: Path) -> Iterator[Database]:
    """A database with the demo's projects, their ids from 1 in the order of its list."""
    from cablux.store.database import Database

    opened = Database(Path(shutil.copy(demo_data, tmp_path / "cablux.db")))
    yield opened
    opened.close()


@pytest.fixture
def client(tmp_path: Path, demo_data: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[TestClient]:
    """The application with the demo's projects: 1 window seat (inches), 2 bothy blanket, 3 skerry throw, and so on."""
    from starlette.testclient import TestClient

    from cablux.settings import Settings
    from cablux.web.app import create_app

    monkeypatch.setattr("cablux.web.app.PREPARE_AFTER", 3600.0)  # what is got ready for a person would slow every test
    data = Settings(data=tmp_path)
    shutil.copy(demo_data, data.database)
    with TestClient(create_app(data)) as opened:
        opened.event_hooks = {"response": [_squeeze]}
        yield opened


def _squeeze(response: Response) -> None:
    """A page as a browser reads it: lines and indents of its templates are one space, and none beside a tag."""
    response.read()
    if response.headers.get("content-type", "").startswith("text/html"):
        text = " ".join(response.content.decode().split())
        for loose, tight in (("> ", ">"), (" <", "<"), (" >", ">"), (" />", "/>")):
            text = text.replace(loose, tight)
        response._content = text.encode()
