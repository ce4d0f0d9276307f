"""Beyond this machine: nobody without the passphrase, which is kept as a hash alone; the address as a QR code."""

from __future__ import annotations

import re
import stat
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from cablux.cli import app as commands
from cablux.service import door as doors
from cablux.service.door import Door, made_passphrase
from cablux.service.errors import InvalidForm
from cablux.settings import Settings
from cablux.web.app import create_app
from cablux.web.nearby import phone_address, qr_svg

WORDS = "a mug of strong tea"


@pytest.fixture
def client(tmp_path: Path) -> TestClient:
    Door(tmp_path).set_passphrase(WORDS)
    with TestClient(create_app(Settings(data=tmp_path, host="0.0.0.0")), follow_redirects=False) as client:
        yield client


def test_nothing_is_open_without_the_passphrase(client: TestClient) -> None:
    app = client.app
    for route in app.routes:  # type: ignore[attr-defined]
        address = re.sub(r"{[^}]*}", "1", route.path)
        if address in ("/enter", "/static", "/theme") or not getattr(route, "methods", None):
            continue
        for method in route.methods:
            answer = client.request(method, address)
            assert answer.status_code in (303, 401), f"{method} {address} answers {answer.status_code}"
            assert answer.status_code == 401 or answer.headers["location"].startswith("/enter?to=")
    assert client.get("/", headers={"hx-request": "true"}).status_code == 401
    assert client.get("/", headers={"cookie": "cablux-pass=in"}).status_code == 303


def test_the_passphrase_opens_and_leads_to_where_one_wanted_to_go(client: TestClient) -> None:
    wrong = client.post("/enter", data={"passphrase": "tea", "to": "/tools"})
    assert wrong.status_code == 422 and "That is not the passphrase" in wrong.text
    right = client.post("/enter", data={"passphrase": f" {WORDS} ", "to": "/tools"})
    assert (right.status_code, right.headers["location"]) == (303, "/tools")
    cookie = right.headers["set-cookie"]
    assert "HttpOnly" in cookie and "samesite=lax" in cookie.lower()
    assert client.get("/tools").status_code == 200
    for elsewhere in ("//elsewhere.example/", "https://elsewhere.example/", "/\\elsewhere.example"):
        assert client.post("/enter", data={"passphrase": WORDS, "to": elsewhere}).headers["location"] == "/"


def test_a_passphrase_is_hashed_and_another_one_ends_every_pass(tmp_path: Path) -> None:
    door = Door(tmp_path)
    with pytest.raises(InvalidForm, match="10 to 200 characters"):
        door.set_passphrase("tea")
    door.set_passphrase(WORDS)
    kept = door.file.read_text()
    assert kept.startswith("$argon2id$") and WORDS not in kept and stat.S_IMODE(door.file.stat().st_mode) == 0o600
    given = door.open_with(WORDS)
    assert door.lets_in(given) and not door.lets_in(given[:-2]) and not door.lets_in("")
    door.set_passphrase(made_passphrase())
    assert not door.lets_in(given)


def test_guessing_is_slow(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    now = [1000.0]
    monkeypatch.setattr(doors.time, "monotonic", lambda: now[0])
    door = Door(tmp_path)
    door.set_passphrase(WORDS)
    for _ in range(doors.TRIES):
        with pytest.raises(InvalidForm, match="not the passphrase"):
            door.open_with("a mug of weak tea")
    with pytest.raises(InvalidForm, match="wait a minute"):
        door.open_with(WORDS)
    now[0] += doors.PAUSE
    assert door.lets_in(door.open_with(WORDS))


def test_without_a_passphrase_nobody_listens_beyond_this_machine(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("CABLUX_DATA", str(tmp_path))
    monkeypatch.setenv("CABLUX_HOST", "0.0.0.0")
    refused = CliRunner().invoke(commands, ["serve", "--port", "0"])
    assert refused.exit_code != 0 and "a passphrase is wanted first" in str(refused.exception)
    assert not Settings(data=tmp_path, host="127.0.0.1").reaches_out


def test_its_own_machine_is_open_as_ever(tmp_path: Path) -> None:
    with TestClient(create_app(Settings(data=tmp_path))) as client:
        assert client.get("/").status_code == 200


def test_the_address_is_a_qr_code_of_itself() -> None:
    """Its three corners are finder patterns: 7 dark, 5 light, 3 dark (ISO/IEC 18004, 6.3.3)."""
    address = phone_address("192.168.0.7", 8765)
    assert address == "http://192.168.0.7:8765/" and phone_address("fe80::1", 80) == "http://[fe80::1]:80/"
    svg = qr_svg(address)
    assert "style=" not in svg and "viewBox" in svg
    dark = _modules(svg)
    side = max(x for x, _ in dark) + 1
    least = min(x for x, _ in dark)
    for left, top in ((least, least), (side - 7, least), (least, side - 7)):
        seven = [[(left + x, top + y) in dark for x in range(7)] for y in range(7)]
        assert seven[0] == [True] * 7 and seven[1] == [True, *[False] * 5, True] and seven[3][2:5] == [True] * 3


def _modules(svg: str) -> set[tuple[int, int]]:
    """The dark squares that its strokes draw."""
    d = re.findall(r'stroke="#000" d="([^"]*)"', svg)[0]
    out, x, y = set[tuple[int, int]](), 0.0, 0.0
    for word, numbers in re.findall(r"([Mmh])([-\d. ]+)", d):
        given = [float(n) for n in re.findall(r"-?\d*\.?\d+", numbers)]
        if word == "h":
            out |= {(int(x) + n, int(y)) for n in range(int(given[0]))}
            x += given[0]
        else:
            x, y = (given[0], given[1]) if word == "M" else (x + given[0], y + given[1])
    return out
