"""A lost place: three answers bring anybody back to within a few rows, from any row of any demo piece."""

from __future__ import annotations

import json
import random
from importlib import resources
from itertools import accumulate, pairwise

import pytest
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from cablux.cli import app
from cablux.core.errors import IllegalPiece
from cablux.core.notation import Side
from cablux.core.pattern import compile_piece
from cablux.core.piece.piece import Piece
from cablux.core.rows.heights import plan_rows
from cablux.core.tracking import Question, panel_sights
from cablux.demo.loader import DEMO
from cablux.service.chair import find_place
from cablux.service.errors import NotFound
from cablux.service.exchange import ProjectFile, read_project
from cablux.service.pattern import project_words
from tests.knitter import knit_pattern
from tests.web.reading import Text


def demo(name: str) -> ProjectFile:
    return read_project((resources.files("cablux.demo") / name).read_text("utf-8"))


def heights(piece: Piece) -> list[float]:
    plan = plan_rows(piece)
    parts = [(plan.bottom, plan.bottom_row_um), *((b.rows, b.row_um) for b in plan.bands), (plan.top, plan.top_row_um)]
    return [0.0, *accumulate(um / 1000.0 for rows, um in parts for _ in range(rows))]


def test_three_answers_bring_her_back_from_any_row_of_any_demo_piece() -> None:
    """A length that is off by 3 in 100, then what is proposed, twice."""
    chance, left = random.Random(7), list[int]()
    for name, _ in DEMO:
        for piece in demo(name).all_pieces():
            rows, high = panel_sights(compile_piece(piece).rows), heights(piece)
            for row in chance.sample(range(1, rows.rows + 1), min(8, rows.rows)):
                seen, told = list[str](), dict[Question, int | Side]()
                long = high[row] * chance.uniform(0.97, 1.03)
                found = find_place(piece, seen, long)
                while len(found.rows) > 1 and len(seen) + len(told) < 2 and found.next:
                    place = found.next_place
                    if found.next in found.questions:
                        told[found.next] = rows.answers[found.next][row]
                    else:
                        panel = next(p for p in rows.shown if p[0] + 1 == place)
                        shown = rows.shown[panel][row]
                        seen.append(f"{place}:{shown.bars}:{shown.leans}" if shown else f"{place}::none")
                    found = find_place(piece, seen, long, told=told)
                assert row in found.rows and len(found.rows) <= 8
                left.append(len(found.rows))
    assert max(left) <= 2 and sum(many == 1 for many in left) >= 0.99 * len(left)


def test_ridges_stitches_crossings_and_sides_are_those_of_the_cloth() -> None:
    """Against loops knitted from the words: a ridge is a row of bumps at the edge over a row of knit stitches, a
    crossing a row in which loops change their order."""
    file = demo("skerry-throw.json")
    knitted = knit_pattern(project_words(file))[1]
    edge = [{loop.face for loop in row.loops[:6]} for row in knitted]
    ridges = [0]
    for below, here in zip([{"k"}, *edge], edge, strict=False):
        ridges.append(ridges[-1] + (here == {"p"} and below == {"k"}))
    rows = panel_sights(compile_piece(file.piece()).rows)
    assert list(rows.answers["ridges"]) == ridges and rows.questions == ("facing", "ridges", "crossings")
    assert list(rows.answers["stitches"][1:]) == [len(row.loops) for row in knitted]
    assert [str(side) for side in rows.answers["facing"]] == [*(row.side for row in knitted), "RS"]
    segments = file.piece().band_views[0].segments
    assert rows.crosser and rows.crosser[1] == "Honeycomb" == segments[rows.crosser[0]].name
    first = sum(s.stitches for s in segments[: rows.crosser[0]])
    mine = [row.loops[first : first + segments[rows.crosser[0]].stitches] for row in knitted]
    crossed = [any(b.parents and a.parents > b.parents for a, b in pairwise(loops)) for loops in mine]
    assert rows.answers["crossings"] == (0, *accumulate(crossed)) and sum(crossed) > 80
    for row in (30, 77, 210, 390):
        found = find_place(
            file.piece(), ["3:" + str(rows.shown[2, "Rope 3/3 right"][row].bars)], told={"ridges": ridges[row]}
        )
        assert row in found.rows and len(found.rows) <= 2
    hat = demo("skua-hat.json").piece()
    counts = panel_sights(compile_piece(hat).rows).answers["stitches"]
    narrow = len(counts) - 4
    assert find_place(hat, told={"stitches": counts[narrow]}).rows == tuple(
        n for n, c in enumerate(counts) if c == counts[narrow]
    )


def test_what_was_seen_is_read_by_name_and_by_place_or_refused_with_what_to_type() -> None:
    piece = demo("skerry-throw.json").piece()
    by_name, by_place = find_place(piece, ["braid of 9:3:left"]), find_place(piece, ["11:3:left"])
    assert by_name.rows == by_place.rows and len(by_name.rows) > 8 and not by_name.offered
    assert "3 bars above its last crossing, which leans to the left" in by_name.seen[0]
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
    assert "2 rows fit" in CliRunner().invoke(app, call).stdout and told["crosser"] == "Honeycomb"
    told = json.loads(CliRunner().invoke(app, [*call, "--facing", "WS", "--json"]).stdout)
    assert told["rows"] == [] and told["question"] == "", "its crossings are in right-side rows"
    told = json.loads(CliRunner().invoke(app, [*call, "--facing", "RS", "--crossings", "34", "--json"]).stdout)
    assert told["rows"] == [148] and told["question"] == ""


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
    assert "Bars or rows above it: type a whole number, such as 3." in wrong
    many = client.get("/projects/3/chairside/lost?panel=11&bars=200").text
    assert "No row of this piece looks so." in str(Text(many))
    assert client.post("/projects/3/chairside/jump", data={"row": 9000}).status_code == 404
