"""Pages over HTTP: the numbers agree everywhere, bad input changes nothing, headers hold."""

from __future__ import annotations

import json
import re
import warnings
from pathlib import Path
from xml.etree import ElementTree

import pytest
from starlette.testclient import TestClient
from typer.testing import CliRunner

from cablux.cli import app as cli
from cablux.core.library import LIBRARY
from cablux.core.notation.grid import read_any
from cablux.service.chair import Chair
from cablux.service.pattern.page import compiled_pattern
from cablux.settings import Settings
from cablux.web.app import create_app

from .reading import BOTHY, NEW, PART, SKERRY, WINDOW, Text

PAGES = ["/", "/projects/new", *(f"/projects/3/{p}" for p in ("size", "bench", "cast-on", "pattern", "chairside"))]
PAGES += [
    "/projects/3/gauge",
    "/projects/3/gauge/schools",
    "/projects/3/cloth",
    "/projects/1/cloth/behaviour",
    "/swatches",
    "/swatches/1",
]
PAGES += ["/swatches/new?pattern=braid-9&yarn=grey&needle=5", "/swatches/swatches.csv", "/swatches/2/cloth.svg"]
PAGES += ["/drawer", "/drawer/interlace-16?work=inside+out&hand=left&count=down", "/composer/new", "/composer/1"]
PAGES += ["/projects/3/pattern?names=hold&repeats=down&markers=yes&terms=british&counts=no&hand=left"]


def test_pages_do_not_read_the_routes_forms_in_their_own_threads(client: TestClient, monkeypatch):
    """Reading a form ignores a warning, and what is ignored holds for all threads at once; here nothing is ignored."""
    monkeypatch.setattr(warnings, "simplefilter", lambda *_, **__: None)
    for address in ("/", "/projects/3/history", "/no/such/page", "/projects/3/bench"):
        assert client.get(address).status_code in (200, 404)


@pytest.mark.parametrize("address", PAGES)
def test_every_page_answers_under_the_strict_policy(client: TestClient, address):
    answer = client.get(address)
    assert answer.status_code == 200
    policy = answer.headers["content-security-policy"]
    assert "default-src 'none'" in policy and "unsafe" not in policy
    page = Text(answer.text)
    assert not page.forbidden
    assert not re.search(r'(?:src|href)="https?://', answer.text)


def test_the_numbers_are_the_same_on_every_page_and_on_the_command_line(client: TestClient, tmp_path):
    for pid in (SKERRY, BOTHY, WINDOW):
        project = client.app.state.projects.open(pid)
        file = tmp_path / "p.json"
        file.write_bytes(client.get(f"/projects/{pid}/project.json").content)
        said = json.loads(CliRunner().invoke(cli, ["size", str(file), "--json"]).stdout)
        pattern = compiled_pattern(project.piece)
        cast_on, body = said["cast_on"], said["body"]
        for address in ("bench", "cast-on", "pattern"):
            text = str(Text(client.get(f"/projects/{pid}/{address}").text))
            assert re.search(rf"[Cc]ast on {cast_on}\b", text), address
            assert re.search(rf"\b{body}\b", text), address
        assert f"Cast on {cast_on} stitches." in client.get(f"/projects/{pid}/pattern.txt").text
        assert CliRunner().invoke(cli, ["words", str(file)]).stdout == client.get(f"/projects/{pid}/pattern.txt").text
        assert f'aria-label="The fan: {body} stitches' in client.get(f"/projects/{pid}/bench").text
        assert f", {body} stitches" in client.get(f"/projects/{pid}/pattern").text, "the chart counts the body"
        assert (pattern.row(1).before, pattern.rows[-1].after) == (cast_on, said["bind_off"])
        assert {r.before for r in pattern.rows if r.section == "body"} == {body}
        text = str(Text(client.get(f"/projects/{pid}/chairside").text))
        row = Chair(client.app.state.projects.database).now(project).row
        assert f"{row.before} stitches" in text


def test_what_cannot_be_printed_is_left_out_and_what_is_unknown_is_refused(client: TestClient):
    about = {"name": "Kelp\x00 cord", "note": "two\x1f strands <b>", "use": "panel", "family": "rope"}
    assert client.post("/composer/1/about", data=about).status_code == 200
    said = str(Text(client.get("/composer/1").text))
    assert "Kelp cord" in said and "two strands" in client.get("/composer/1").text
    swatch = {"name": "S", "unit": "cm", "yarn": "", "fibre": "wool", "weight": "4", "strands": "1", "needle": "5"}
    swatch |= {"rows": "30", "note": "", "pattern": "'; drop", "stitches": "20"}
    refused = client.post("/swatches/1", data=swatch)
    assert refused.status_code == 404 and 'class="notice' in refused.text


def _everything(client: TestClient) -> list[str]:
    projects = client.app.state.projects
    return [p.file.text() + str(p.position) for p in projects.all()]


@pytest.mark.parametrize(
    ("address", "data", "status", "says"),
    [
        ("/projects", NEW | {"width": "0"}, 422, "Width must be 1 to 1000"),
        ("/projects", NEW | {"height": "9999999"}, 422, "Height must be 1 to 1000"),
        ("/projects", NEW | {"stitches": "0"}, 422, "Stitches to 10 cm must be more than 0"),
        ("/projects", NEW | {"stitches": "nan"}, 422, "must be a number"),
        ("/projects", NEW | {"rows": "2.5"}, 422, "swap stitches and rows"),
        ("/projects", {}, 422, "Give the project a name"),
        ("/projects", NEW | {"name": "<script>alert(1)</script>"}, 422, "The name must be plain words"),
        ("/projects/3/size", NEW | {"yarn": "<b>wool</b>"}, 422, "The yarn must be plain words"),
        ("/projects/3/size", NEW | {"width": "-5"}, 422, "Width must be 1 to 1000"),
        ("/projects/3/bench/repeats", {"at": 2, "repeats": 0}, 422, "can have 1 to 1500"),
        ("/projects/3/bench/step", {"at": 0, "by": -99}, 422, "can have 1 to 1500"),
        ("/projects/3/bench/stitches", {"at": 1, "stitches": 5000}, 422, "can have 1 to 1500 stitches"),
        ("/projects/3/bench/repeats", {"at": 2, "repeats": "many"}, 422, "Repeats: Type a whole number"),
        ("/projects/3/bench/stitches", {"at": 8, "stitches": 37}, 422, "try 36 or 44"),
        ("/projects/3/bench/remove", {"at": 0}, 422, "edges cannot be removed"),
        ("/projects/3/bench/remove", {"at": 99}, 404, "no longer there"),
        ("/projects/3/bench/move", {"at": 2, "to": 0}, 422, "edges stay at the sides"),
        ("/projects/3/bench/add", {"at": 1, "pattern": "../../etc"}, 404, "no such pattern"),
        ("/projects/3/bench/take", {"answer": "wildest"}, 422, "Choose one of these"),
        ("/projects/3/cast-on", {"pattern": "honeycomb"}, 422, "cannot be used as a border"),
        ("/projects/3/cast-on", {"count": "40"}, 422, "do not suit this border"),
        ("/projects/3/cast-on", {"factor": "900"}, 422, "50 to 150 %"),
        ("/projects/3/bench/target", {"width": "wide"}, 422, "must be a number"),
        ("/projects/3/bench/width", {"at": "2", "width": "-3"}, 422, "more than 0"),
        ("/projects/3/bench/placing", {"at": "1", "purl_margin": 2}, 422, "is not a panel"),
        ("/projects/3/bench/bounds", {"at": "2", "least": 2}, 422, "is not a background"),
        ("/projects/3/bench/pattern", {"at": "0", "pattern": "honeycomb"}, 422, "cannot be used as an edge"),
        ("/projects/3/bench/wishes", {"least": 0}, 422, "must be 1 to 40 stitches"),
        ("/projects/3/bench/band", {"do": "remove"}, 422, "at least one band"),
        ("/projects/3/bench/arrange", {"name": "in their order", "panels": ["magic"]}, 404, "no such pattern"),
        (
            "/projects/3/bench/arrange",
            {"name": "in their order", "gap": "300"},
            422,
            "Gaps must be a whole number",
        ),
        ("/projects/3/bench/arrange", {"name": "spiral"}, 404, "does not fit this width"),
        ("/projects/3/bench/remove", {"at": "2;3"}, 422, "At: This cannot be read"),
        ("/projects/3/history/go", {"position": 999}, 404, "no longer kept"),
        ("/projects/3/cast-on/rows", {"name": "sideways"}, 404, "no longer offered"),
        ("/projects/3/cast-on", {"rows": "61"}, 422, "up to 60 rows"),
        ("/projects/3/chairside/done", {"row": 9999}, 404, "there is no row 9999"),
        ("/projects/77/bench/undo", {}, 404, "no such project"),
        ("/projects/abc/bench/undo", {}, 404, "no such project"),
    ],
)
@pytest.mark.parametrize("part", [False, True])
def test_bad_input_gets_a_sentence_and_changes_nothing(client: TestClient, address, data, status, says, part):
    before = _everything(client)
    answer = client.post(address, data=data, headers=PART if part else {})
    assert answer.status_code == status
    assert says in str(Text(answer.text))
    assert _everything(client) == before
    assert Chair(client.app.state.projects.database).state(client.app.state.projects.open(SKERRY)).done == 46


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (b"not json", "not a Cablux project"),
        (b'{"cablux": 1, "sparkle": "red"}', "“sparkle” is an unknown field"),
        (b"\xff\xfe\x00", "not a Cablux project"),
        (b"[" * 100_000, "not a Cablux project"),
        (b" " * 1_000_001, "larger than a megabyte"),
    ],
)
def test_a_bad_file_is_refused_whole(client: TestClient, content, says):
    before = _everything(client)
    answer = client.post("/projects/import", files={"file": ("x.json", content)})
    assert answer.status_code == 422 and says in str(Text(answer.text))
    assert _everything(client) == before


def test_a_name_of_odd_characters_stays_a_name(client: TestClient):
    name = "\" onload='x' &lt;script&gt; {{7*7}} %s"
    address = client.post("/projects", data=NEW | {"name": name}, follow_redirects=False).headers["location"]
    base = address.removesuffix("/bench")
    for page in ("/", *(f"{base}/{p}" for p in ("size", "bench", "cast-on", "pattern", "chairside"))):
        text = client.get(page).text
        assert not Text(text).forbidden
        assert name in str(Text(text)) or page.endswith("size")
    assert "script" in client.get(f"{base}/project.json").headers["content-disposition"]


def test_other_sites_cannot_change_anything(client: TestClient):
    before = _everything(client)
    for headers in ({"sec-fetch-site": "cross-site"}, {"origin": "http://elsewhere.example"}):
        answer = client.post("/projects/3/remove", data={"sure": "yes"}, headers=headers)
        assert answer.status_code == 403
    assert client.get("/", headers={"host": "elsewhere.example"}).status_code == 400
    assert _everything(client) == before
    assert client.post("/projects/3/bench/undo", data={}, headers={"sec-fetch-site": "same-origin"}).status_code == 200


def test_the_theme_is_kept_and_never_leads_away(client: TestClient):
    answer = client.post("/theme", data={"choice": "lamp", "back": "//elsewhere.example"}, follow_redirects=False)
    assert answer.headers["location"] == "/"
    assert 'data-theme="lamp"' in client.get("/projects/3/bench").text


def test_chairside_ticks_once_for_a_tap_that_comes_twice(client: TestClient):
    for _ in range(2):
        answer = client.post("/projects/3/chairside/done", data={"row": 47}, headers=PART)
    assert "Row 48 done" in answer.text
    answer = client.post("/projects/3/chairside/undo", data={"row": 47}, headers=PART)
    assert "Row 47 done" in answer.text


def test_relief_pictures_may_be_kept_and_refuse_what_they_cannot_draw(client: TestClient):
    answer = client.get("/relief/braid-9.svg?tall=100")
    assert answer.headers["content-type"].startswith("image/svg+xml") and "immutable" in answer.headers["cache-control"]
    assert client.get("/relief/none.svg").status_code == 404
    assert client.get("/relief/braid-9.svg?tall=999999").status_code == 422
    assert client.get("/relief/honeycomb.svg?repeats=1500").status_code == 422


def test_a_page_weighs_less_than_its_budget(client: TestClient):
    """Design section 7: a page's own weight, compressed, fonts aside: 250 kB."""
    own = 0
    for address in ("/projects/3/bench", *re.findall(r'"(/static/[^"]+)"', client.get("/projects/3/bench").text)):
        answer = client.get(address, headers={"accept-encoding": "gzip"})
        own += int(answer.headers.get("content-length", len(answer.content)))
    assert own < 250_000


def test_a_chart_is_taken_along_in_every_form(client: TestClient):
    address = "/drawer/diamond-lace/chart/"
    text, grid, svg, png = (client.get(address + form) for form in ("text", "csv", "svg", "png"))
    assert read_any(text.text) == read_any(grid.text) == LIBRARY["diamond-lace"].chart
    assert ElementTree.fromstring(svg.text).tag.endswith("svg") and "<style>" in svg.text
    assert png.content.startswith(b"\x89PNG\r\n") and png.headers["content-type"] == "image/png"
    for picture in (svg, png):  # pictures carry the chart, and come in again
        made = client.post("/composer/import", data={"do": "keep"}, files={"file": ("chart", picture.content)})
        assert client.app.state.panels.open(int(str(made.url).split("/")[-1])).chart == LIBRARY["diamond-lace"].chart
    lone = client.post("/composer/import", files={"file": ("x.png", png.content[:33] + png.content[-12:])})
    assert lone.status_code == 422 and "carries no chart" in lone.text
    assert 'filename="diamond-lace.csv"' in grid.headers["content-disposition"]


def test_a_panel_is_composed_over_http_and_laid_on_a_bench(client: TestClient):
    made = client.post("/composer/new", data={"name": "Cord", "foundation": "p2, k4, p2", "rows": 8})
    address = str(made.url)
    part = client.post(f"{address}/do", data={"action": "cross-left", "row": 3, "cell": 3}, headers=PART)
    assert 'value="p2, 2/2 LC, p2"' in part.text and "<html" not in part.text
    refused = client.post(f"{address}/do", data={"action": "cross-left", "row": 3, "cell": 7}, headers=PART)
    assert refused.status_code == 422 and "needs 4 stitches" in refused.text
    assert refused.headers["hx-retarget"] == "#messages"
    pattern = client.app.state.drawer.entries()[0].pattern
    bench = client.post(f"/drawer/{pattern.id}/place", data={"project": SKERRY})
    assert bench.status_code == 200 and "Cord" in Text(bench.text).words
    chosen = r'<a id="segment-[^>]*title="{}"[^>]*aria-current="true"'
    assert re.search(chosen.format("Cord"), bench.text)
    background = client.post("/drawer/rib-2x2/place", data={"project": SKERRY})
    assert re.search(chosen.format(LIBRARY["rib-2x2"].name), background.text)
    assert client.get(f"/relief/{pattern.id}.svg?behind=1").status_code == 200
    assert client.post(f"{address}/remove", data={"sure": "yes"}).status_code == 200
    assert client.get(f"/relief/{pattern.id}.svg").status_code == 200, "the project keeps it"


@pytest.mark.parametrize(
    ("address", "data", "status", "says"),
    [
        ("/composer/new", {"name": "x", "foundation": "k2, zz", "rows": 4}, 422, "zz"),
        ("/composer/import", {"text": "Row 1: K2, *P4, C5F; rep from * across"}, 422, "2/3 LC or 3/2 LC"),
        ("/composer/import", {"text": ""}, 422, "No row was found"),
        ("/composer/99/do", {"action": "knit"}, 404, "no such panel"),
        ("/composer/1/do", {"action": "explode"}, 422, "Action: Choose one of these"),
        ("/composer/1/text", {"row": 3, "text": "p2, zorp"}, 422, "zorp"),
        ("/composer/1/text", {"row": 99, "text": "p2"}, 422, "no row 99"),
        ("/composer/1/remove", {}, 422, "for good"),
        ("/drawer/nothing/place", {"project": 1}, 404, "no such pattern"),
        ("/drawer/slipped-edge/place", {"project": 1}, 422, "is an edge"),
    ],
)
def test_what_cannot_be_composed_is_said_and_changes_nothing(client: TestClient, address, data, status, says):
    before = client.app.state.panels.open(1).file
    answer = client.post(address, data=data)
    assert answer.status_code == status and says in Text(answer.text).__str__()
    assert client.app.state.panels.open(1).file == before and len(client.app.state.panels.all()) == 1


def test_the_pattern_is_worded_as_the_knitter_chose(client: TestClient):
    plain = client.get("/projects/3/pattern.txt").text
    worded = client.get("/projects/3/pattern.txt?names=hold&markers=yes&terms=british&counts=no").text
    assert "Bind off" in plain and "stockinette" in plain and "sm," not in plain and "C6F" not in plain
    assert "Cast off" in worded and "stocking stitch" in worded and "sm," in worded and "C6F" in worded
    assert "(" + "191 stitches)" not in worded
    left = client.get("/projects/3/pattern.txt?hand=left").text
    assert "For left-handed knitters" in left
    down = client.get("/projects/3/pattern.txt?repeats=down").text
    assert re.search(r"rep from \* until \d+ stitches remain", down)


BOOK = """Cast on 18 (20, 22) sts.
Cr4: sl 2 to cn and hold in front, k2, k2 from cn
C4B: sl 2 to cn and hold in front, k2, k2 from cn
Row 1: k3 (4, 5), p2, k8, p2, k3 (4, 5)
Row 3: k3 (4, 5), p2, Cr4, C4B, p2, k3 (4, 5)
Bind off in pattern."""


def test_rows_from_a_book_are_looked_at_before_they_are_kept(client: TestClient):
    panels, reader = client.app.state.panels, client.app.state.reader
    before = len(panels.all())
    asked = client.post("/composer/import", data={"text": BOOK})
    assert asked.status_code == 422 and "3 sizes" in asked.text and len(panels.all()) == before
    other = "C4B: sl 2 to cn, hold in back, k2, k2 from cn\nRow 1: p2, C4B, p2\nRow 2: k2, p4, k2"
    typed = {"text": BOOK, "size": "2", "rest": "6", "name": "Gorse cord"}
    seen = client.post("/composer/import", data=typed)
    assert seen.status_code == 200 and len(panels.all()) == before, "nothing is kept by looking"
    for said in ("“C4B” is explained here as 2/2 LC; usually it means 2/2 RC", "Passed over: “Bind off in pattern”"):
        assert said in str(Text(seen.text))
    assert client.post("/composer/import", data=typed | {"do": "names"}).status_code == 200
    assert reader.kept() == {"C4B": "2/2 LC", "Cr4": "2/2 LC"}
    offers = [
        "Remember these abbreviations" in client.post("/composer/import", data=d).text for d in (typed, {"text": other})
    ]
    assert "Remember these abbreviations" in seen.text and offers == [False, True], (
        "offered where it would change something"
    )
    kept = client.post("/composer/import", data=typed | {"do": "keep"})
    chart = panels.open(int(str(kept.url).split("/")[-1])).chart
    assert (chart.name, chart.size_text, chart.height, chart.crossing_rows) == ("Gorse cord", "20", 6, (3,))
    again = client.post("/composer/import", data={"text": "Row 1: p2, Cr4, p2", "do": "keep"})
    assert panels.open(int(str(again.url).split("/")[-1])).chart.ops(1)[2].token == "2/2 LC"
    forgotten = client.post("/composer/import", data=typed | {"forget": "Cr4"})
    assert list(reader.kept()) == ["C4B"] and len(panels.all()) == before + 2, "forgetting keeps nothing else"
    assert "Gorse cord" in forgotten.text and BOOK.splitlines()[0] in str(Text(forgotten.text)), "nothing typed is lost"


def test_the_page_of_components_shows_every_one_of_them_and_only_to_those_who_work_on_it(client, tmp_path):
    """Read in the styles: each class that is declared there, but for those of drawings and pictures."""
    assert client.get("/components").status_code == 404
    with TestClient(create_app(Settings(data=tmp_path / "other", development=True))) as developing:
        shown = developing.get("/components")
    assert shown.status_code == 200
    used = {name for found in re.findall(r'class="([^"]*)"', shown.text) for name in found.split()}
    styles = (Path(__file__).parents[2] / "frontend" / "app.css").read_text("utf-8")
    components = styles[styles.index("@layer components") : styles.index("@media print")]
    declared = set(re.findall(r"^  \.([a-z][\w-]*)", components, re.M)) - {"on-dark", "on-light", "looks", "edits"}
    drawn = (
        r"(fan|stack|schematic|garment|seam|chart|mark(s|-)|rows-|relief-|piece(-canvas|-tall|-low|-progress)?$|weave)"
    )
    pictures = (
        r"(.*-picture|swatch-cloth|laid-round|booklet-pages|qr|journal-photo|shape-card|sheet|history|compare|chair-)"
    )
    assert {name for name in declared - used if not re.match(f"{drawn}|{pictures}", name)} == set()
