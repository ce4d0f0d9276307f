"""A lost place: three answers bring anybody back to within a few rows, from any row of any demo piece."""

from __future__ import annotations

import json
import random
from importlib import resources
from itertools import accumulate

import pytest
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from cablux.cli import app
from cablux.core.errors import IllegalPiece
from cablux.core.layout.heights import plan_rows
from cablux.core.layout.piece import Piece
from cablux.core.pattern import compile_piece
from cablux.core.tracking import whereabouts
from cablux.demo.loader import DEMO
from cablux.service.errors import NotFound
from cablux.service.exchange import ProjectFile, read_project
from cablux.service.lost_place import find_place
from tests.web.reading import Text


def demo(name: str) -> ProjectFile:
    return read_project((resources.files("cablux.demo") / name).read_text("utf-8"))


def heights(piece: Piece) -> list[float]:
    plan = plan_rows(piece)
    parts = [(plan.bottom, plan.bottom_row_um), *((b.rows, b.row_um) for b in plan.bands), (plan.top, plan.top_row_um)]
    return [0.0, *accumulate(um / 1000.0 for rows, um in parts for _ in range(rows))]


@pytest.mark.parametrize("name", [name for name, _ in DEMO])
def test_three_answers_bring_her_back_near_any_row_of_a_demo_piece(name: str) -> None:
    """A length that is off by 3 in 100, then the looks that are proposed; what is left looks alike in every cable."""
    chance, file = random.Random(7), demo(name)
    for piece in file.all_pieces():
        rows = whereabouts(compile_piece(piece).rows)
        high = heights(piece)
        for row in chance.sample(range(1, rows.rows + 1), min(5, rows.rows)) if rows.shown else ():
            long, seen = high[row] * chance.uniform(0.97, 1.03), list[str]()
            found = find_place(piece, seen, long)
            while len(found.rows) > 1 and found.next is not None:
                panel = next(p for p in rows.shown if str(p[0] + 1) == found.next.key)
                shown = rows.shown[panel][row]
                if shown is None:
                    break  # it has not crossed yet: she sees no crossing to count from
                seen.append(f"{found.next.key}:{shown.bars}:{shown.leans}")
                found = find_place(piece, seen, long)
            assert row in found.rows and len(seen) <= 2
            assert len(found.rows) <= 8 or any(rows.shown[p][row] is None for p in rows.shown)


def test_what_was_seen_is_read_by_name_and_by_place_or_refused_with_what_to_type() -> None:
    piece = demo("skerry-throw.json").piece()
    by_name, by_place = find_place(piece, ["braid of 9:3:left"]), find_place(piece, ["11:3:left"])
    assert by_name.rows == by_place.rows and len(by_name.rows) > 8 and not by_name.offered
    assert "3 bars above its last crossing, which leans to the left" in by_name.seen[0][0]
    with pytest.raises(IllegalPiece, match="type PANEL:BARS:LEAN"):
        find_place(piece, ["Braid of 9"])
    with pytest.raises(NotFound, match=r"these do: .*Honeycomb"):
        find_place(piece, ["Wishbone:3"])


def test_the_command_line_tells_rows_and_what_to_look_at_next(tmp_path) -> None:
    file = tmp_path / "throw.json"
    file.write_text(demo("skerry-throw.json").text(), "utf-8")
    call = ["where", str(file), "--seen", "Braid of 9:3:left", "--length", "57"]
    told = json.loads(CliRunner().invoke(app, [*call, "--json"]).stdout)
    assert told["rows"] == [148, 156] and told["next"].startswith("Diamond")
    assert "2 rows fit" in CliRunner().invoke(app, call).stdout


def test_a_place_is_lost_and_found_at_the_chair(client: TestClient) -> None:
    page = str(Text(client.get("/projects/3/chairside").text))
    assert "Lost your place?" in page and "You have worked row" not in page
    found = client.get("/projects/3/chairside/lost?panel=11&bars=3&lean=left&length=17", headers={"hx-request": "true"})
    assert "You have worked row 44." in str(Text(found.text)) and "<html" not in found.text
    after = client.post("/projects/3/chairside/jump", data={"row": 44})
    assert "Row 45 done" in after.text
    client.post("/projects/3/chairside/done", data={"row": 45})
    assert "Row 45 done" in client.post("/projects/3/chairside/undo", data={"row": 45}).text, "ticked on from there"
    wrong = str(Text(client.get("/projects/3/chairside/lost?panel=11&bars=three").text))
    assert "Bars above its last crossing: type a whole number, such as 3." in wrong
    many = client.get("/projects/3/chairside/lost?panel=11&bars=200").text
    assert "No row of this piece looks so." in str(Text(many))
    assert client.post("/projects/3/chairside/jump", data={"row": 9000}).status_code == 404
