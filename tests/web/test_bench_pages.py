"""The bench over HTTP, with and without scripts: every change, its name in the history, what it says."""

from __future__ import annotations

import re

from starlette.testclient import TestClient

from .reading import NEW, PART, WINDOW, Text


def test_a_throw_is_made_changed_undone_exported_imported_and_removed(client: TestClient):
    answer = client.post("/projects", data=NEW, follow_redirects=False)
    address = answer.headers["location"]
    assert answer.status_code == 303
    base = address.removesuffix("/bench")
    bench = client.post(f"{address}/add", data={"pattern": "honeycomb", "at": 1}, headers=PART)
    assert bench.status_code == 200 and 'id="bench"' in bench.text and "<html" not in bench.text
    assert "add Honeycomb" in bench.text
    plain = client.post(f"{address}/repeats", data={"at": 2, "repeats": 3})
    assert "<html" in plain.text and plain.url.path == address, "without scripts a form leads back to the page"
    offers = client.get(f"{address}/offers").text
    assert "Closest" in offers
    taken = client.post(f"{address}/take", data={"answer": "closest", "at": "2"}, headers=PART)
    assert re.search(r"Undo:.*closest", taken.text)
    before = client.get(f"{base}/project.json").json()
    client.post(f"{address}/undo", data={"at": "2"})
    assert client.get(f"{base}/project.json").json() != before
    client.post(f"{address}/redo", data={"at": "2"})
    exported = client.get(f"{base}/project.json")
    assert exported.json() == before
    copy = client.post("/projects/import", files={"file": ("x.json", exported.content)}, follow_redirects=False)
    copied = copy.headers["location"].removesuffix("/bench")
    assert client.get(f"{copied}/project.json").json() == before
    assert client.post(f"{copied}/remove", data={}).status_code == 422
    assert client.post(f"{copied}/remove", data={"sure": "yes"}, follow_redirects=False).status_code == 303
    assert client.get(f"{copied}/bench").status_code == 404


def test_a_clash_stands_on_the_bench_with_what_would_free_it(client: TestClient):
    address = client.post("/projects", data=NEW, follow_redirects=False).headers["location"]
    client.post(f"{address}/arrange", data={"name": "in their order", "panels": ["honeycomb", "braid-9"]})
    client.post(f"{address}/target", data={"width": "12", "tolerance": "0.5"})
    said = str(Text(client.get(f"{address}/offers").text))
    assert "These segments cannot give a width of 12 cm" in said and "wider" in said
    freed = client.post(f"{address}/cure", data={"number": "0", "band": "0"}, headers=PART)
    assert "make it fit" in freed.text
    assert "Closest" in client.get(f"{address}/offers").text
    assert client.post(f"{address}/cure", data={"number": "0"}, headers=PART).status_code == 404


def test_the_number_says_where_the_count_changes(client: TestClient):
    bench, changed = f"/projects/{WINDOW}/bench", f"/projects/{WINDOW}/cast-on"
    assert "and work 114 from edge to edge, all the way up." in str(Text(client.get(bench).text))
    client.post(f"{bench}/band", data={"do": "add", "band": "0"})
    assert "all the way up" in str(Text(client.get(bench).text)), "two bands of one count"
    client.post(f"{bench}/stitches", data={"band": "1", "at": "1", "stitches": "15"})
    for page in (bench, changed):
        said = str(Text(client.get(page).text))
        assert "and work 114 from edge to edge, through band 1. Band 2: 4 fewer make 110 ." in said
    assert "Band 2 has 110 : 4 fewer than band 1" in said and "Band 2 lands" not in said
    assert "Chance that band 2 comes within 1 in" in str(Text(client.get(f"{bench}?band=1").text))
    client.post(f"{bench}/band", data={"do": "remove", "band": "1"})
    client.post(changed, data={"end": "top", "style": "stepped"})
    assert "from edge to edge, to the top border." in str(Text(client.get(bench).text))


def test_whatever_is_done_on_the_bench_is_a_step_with_a_name(client: TestClient):
    address = client.post("/projects", data=NEW, follow_redirects=False).headers["location"]
    base = address.removesuffix("/bench")
    done = (
        ("add", {"pattern": "braid-9", "at": "1"}, "add Braid of 9"),
        (
            "arrange",
            {"name": "in their order", "panels": ["rope-3-3-right", "honeycomb"], "background": "reverse-stockinette"},
            "in their order",
        ),
        ("target", {"width": "70,5", "tolerance": "2"}, "size wanted"),
        ("width", {"at": "1", "width": "9"}, "Reverse stockinette 9 cm wide"),
        ("placing", {"at": "2", "begin": "3", "purl_margin": "1"}, "start row and purl margin of Rope 3/3 right"),
        ("bounds", {"at": "1", "least": "3", "most": "60"}, "limits of Reverse stockinette"),
        ("pattern", {"at": "1", "pattern": "seed"}, "Seed for Reverse stockinette"),
        ("toggle", {"at": "2,6", "field": "placed"}, "keep the place of 2 segments"),
        ("toggle", {"at": "6", "field": "placed"}, "free the place of Rope 3/3 left"),
        ("wishes", {"least": "3", "gaps": "outside", "multiple": "2"}, "rules for the suggestions"),
        ("halves", {}, "halves may differ"),
        ("halves", {"alike": "yes"}, "both halves alike"),
        ("sides", {"pattern": "garter", "stitches": "1", "role": "seam"}, "seam stitches"),
        ("band", {"do": "add"}, "add a band"),
        ("bandrows", {"band": "1", "rows": "40"}, "rows of the band"),
    )
    for action, data, label in done:
        answer = client.post(f"{address}/{action}", data=data, headers=PART)
        assert answer.status_code == 200, (action, str(Text(answer.text))[:300])
        assert label in client.get(f"{base}/history").text, action
    sized = NEW | {"worked": "round", "width": "70", "height": "80", "needle": "US 7"}
    assert client.post(f"{base}/size", data=sized, follow_redirects=False).status_code == 303
    opened = client.app.state.projects.open(int(base.split("/")[-1]))
    assert opened.piece.round and opened.file.needle == 4.5, "flat or round is asked beside the size; US 7 is 4.5 mm"
    whole = client.post(f"{address}/target", data={"height": "82", "whole": "1"}, headers=PART)
    assert "From cast-on to bind-off" in whole.text and "82" in whole.text, "the whole piece stays in view"
    back = client.post(f"{address}/undo", data={"whole": "1", "band": "1"}, follow_redirects=False)
    assert back.headers["location"].endswith("bench?band=1&selected=1&whole=1")
    piece = client.app.state.projects.all()[0].piece
    assert piece.round and len(piece.bands) == 2 and piece.bands[1].rows == 40 and piece.gaps == "outside"
    for page in (
        "bench?band=1",
        "bench?whole=1",
        "cast-on",
        "pattern",
        "chairside",
        "history?one=0&other=9",
        "squares",
    ):
        assert client.get(f"{base}/{page}").status_code == 200, page
    text = client.get(f"{base}/pattern.txt").text
    assert "join without a twist" in text and "\nRounds 1" in text and "(band 2)" in text
    back = client.post(f"{base}/history/go", data={"position": 1})
    assert "Braid of 9" in back.text and client.get("/spread?start=1&goal=9").status_code == 422


def test_of_the_whole_piece_each_bands_rows_are_typed_into_its_own_field(client: TestClient):
    """Where some bands are shaped and others not, the third is the third, whichever have a field before it."""
    mixed = 0
    for project in ("11", "11-3", "12-3", "16-2", "18-9"):
        pieces = {p["number"]: p for p in client.get(f"/projects/{project}/project.json").json()["pieces"]}
        bands = pieces[int(project.partition("-")[2] or 1)]["bands"]
        plain = [at for at, band in enumerate(bands) if not band.get("shaping")]
        form = r'name="band" value="(\d+)">.{0,120}?<label for="rows-(\d+)">Band (\d+): (?:round|row)s'
        found = re.findall(form, client.get(f"/projects/{project}/bench?whole=1").text)
        assert [tuple(map(int, each)) for each in found] == [(at, at, at + 1) for at in plain]
        mixed += len(plain) < len(bands)
    assert mixed > 3
