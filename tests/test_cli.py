"""The command line, run as a person runs it."""

from __future__ import annotations

import io
import json
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

import cablux.demo
from cablux.cli import main
from tests.core.pattern.test_words import count_by_hand

CABLUX = Path(sys.executable).parent / "cablux"
ROPE = """name: Rope
multiple: 10
row 1: p2, k6, p2
row 2 (WS): k2, p6, k2
row 3: p2, 3/3 LC, p2
row 4 (WS): k2, p6, k2
"""


def run(*args: str, text: str = "", **env: str) -> subprocess.CompletedProcess[str]:
    """The command in this process: a new one would read all libraries again, which takes a second each time."""
    given, out, err = (io.TextIOWrapper(io.BytesIO(b), "utf-8") for b in (text.encode(), b"", b""))
    with pytest.MonkeyPatch.context() as patch:
        for name, stream in (("stdin", given), ("stdout", out), ("stderr", err)):
            patch.setattr(sys, name, stream)
        patch.setattr(sys, "argv", ["cablux", *args])
        for name, value in env.items():
            patch.setenv(name, value)
        try:
            main()
            status = 0
        except SystemExit as end:
            status = end.code if isinstance(end.code, int) else 1 if end.code else 0
    said = [stream.buffer.getvalue().decode() for stream in (out, err) if stream.flush() is None]
    return subprocess.CompletedProcess(args, status, *said)


def test_a_sound_chart_is_said_to_be_sound_by_the_program_as_it_is_installed():
    done = subprocess.run(
        [CABLUX, "check", "-"], input=ROPE, capture_output=True, text=True, check=False, env={"PATH": "/usr/bin:/bin"}
    )
    assert done.returncode == 0 and "every count agrees" in done.stdout and "crossing rows 3" in done.stdout
    assert done.stdout == run("check", "-", text=ROPE).stdout


def test_a_wrong_count_is_located_and_the_status_tells():
    done = run("check", "-", text=ROPE.replace("k2, p6, k2\nrow 3", "k2, p7, k2\nrow 3"))
    assert done.returncode == 1
    assert re.search(r"line 4, column \d+: Row 2 works 11 stitches, but row 1 leaves 10: 1 too many", done.stderr)
    assert "Traceback" not in done.stderr
    found = json.loads(run("check", "-", "--json", text="row 1: k3, zz").stdout)
    assert found["ok"] is False and (found["problems"][0]["line"], found["problems"][0]["column"]) == (1, 12)


def test_draw_in_gives_what_the_format_promises():
    done = run("draw-in", "-", "--stitches", "20", "--rows", "28", "--json", text=ROPE)
    found = json.loads(done.stdout)
    promised = (Path(__file__).parents[1] / "docs" / "formats.md").read_text()
    assert all(f"`{key}`" in promised for key in found)
    assert found["converged"] is True and 0.6 < found["draw_in"] < 0.9 and found["stitches"] == 10
    assert found["width_mm"] == pytest.approx(found["draw_in"] * 10 * 5, abs=0.1)
    assert "draw-in 0." in run("draw-in", "-", "--stitches", "20", "--rows", "28", text=ROPE).stdout


def test_size_gives_what_the_format_promises_in_the_projects_unit():
    demo = (Path(cablux.demo.__file__).parent / "window-seat.json").read_text()
    found = json.loads(run("size", "-", "--json", text=demo).stdout)
    promised = (Path(__file__).parents[1] / "docs" / "formats.md").read_text()
    assert all(f"`{key}`" in promised for key in (*found, *found["answers"][0]))
    assert all(a["optimal"] and not a["doubt"] for a in found["answers"])
    said = run("size", "-", text=demo).stdout
    assert f"cast on {found['cast_on']}" in said and f"Width {found['width_mm'] / 25.4:.1f} in" in said
    assert found["increase"] == 0 and "no increases" in said and f"{100 * found['chance']:.0f} in 100" in said


@pytest.mark.parametrize(
    ("args", "says"),
    [
        (("draw-in", "-", "--stitches", "0", "--rows", "28"), "is not a hand-knitting gauge"),
        (("check", "/nowhere/at-all.txt"), "cannot be read"),
        (("size", "-"), "not a Cablux project"),
        (("export", "Nothing"), "no data yet"),
        (("spread", "1", "40"), "there is no gap to increase in"),
        (("spread", "9", "40", "--edge", "5"), "leave none"),
    ],
)
def test_a_mistake_ends_in_a_sentence_and_status_one(args, says, tmp_path):
    done = run(*args, text=ROPE, CABLUX_DATA=str(tmp_path / "none"))
    assert done.returncode == 1 and says in done.stderr and "Traceback" not in done.stderr


@pytest.mark.parametrize(
    "args", [("64", "92"), ("20", "33"), ("33", "20"), ("92", "64", "--round"), ("100", "91", "--edge", "4")]
)
def test_increases_are_spread_on_the_command_line_as_on_the_page(args, client):
    """Common practice: 64 to 92 in one row, 20 to 33 in two; the printed rows are counted by hand."""
    said = run("spread", *args, "--json")
    found = json.loads(said.stdout)
    numbers = [int(a) for a in args[:2]]
    assert (found["rows"][0]["before"], found["rows"][-1]["after"]) == tuple(numbers)
    assert len(found["rows"]) == (2 if {20, 33} == set(numbers) else 1)
    for row in found["rows"]:
        assert count_by_hand(row["text"]) == (row["before"], row["after"])
        assert row["between"][1] - row["between"][0] <= 1
    query = {"start": numbers[0], "goal": numbers[1], "edge": 4 if "--edge" in args else 0}
    page = client.get("/spread", params=query | ({"in_the_round": "yes"} if "--round" in args else {})).text
    plain = run("spread", *args).stdout
    assert all(row["text"] in page and row["text"] in plain for row in found["rows"])


def test_words_write_a_chart_as_it_is_worked():
    assert "Rows 2, 4 (WS): k2, p6, k2 (10 stitches)" in run("words", "-", text=ROPE).stdout
    assert "C6F" in run("words", "-", "--hold", text=ROPE).stdout
    rib = "multiple: 4 + 2\nrow 1: k2, *p2, k2; rep from *\nrow 2 (WS): p2, *k2, p2; rep from *\n"
    assert "Row 1 (RS): k2, *p2, k2; rep from *" in run("words", "-", text=rib).stdout


def test_export_lists_and_writes_what_is_stored(tmp_path, demo_data):
    shutil.copy(demo_data, tmp_path / "cablux.db")
    listed = run("export", CABLUX_DATA=str(tmp_path)).stdout
    assert "Skerry throw" in listed
    file = tmp_path / "out.json"
    assert run("export", "skerry throw", "--to", str(file), CABLUX_DATA=str(tmp_path)).returncode == 0
    said = run("size", str(file)).stdout
    assert re.match(r"Skerry throw: cast on \d+, \d+ more in the last border row", said)
    assert "Bind off" in run("export", "3", "--text", CABLUX_DATA=str(tmp_path)).stdout


def test_a_chart_is_written_in_every_form_and_words_are_chosen(tmp_path):
    grid = run("chart", "-", "--as", "csv", text=ROPE)
    assert run("chart", "-", text=grid.stdout).stdout.splitlines()[:2] == ROPE.splitlines()[:2]
    picture = tmp_path / "rope.png"
    assert run("chart", "-", "--as", "png", "--to", str(picture), text=ROPE).returncode == 0
    assert picture.read_bytes().startswith(b"\x89PNG")
    assert run("chart", str(picture)).stdout == run("chart", "-", text=ROPE).stdout
    inside = run("words", "-", "--work", "inside out", "--no-counts", text=ROPE).stdout
    assert "Rounds 1, 2, 4: k2, p6, k2\n" in inside and "Round 3: k2, 3/3 LC purl, k2\n" in inside
    assert "Check (crowded)" not in run("check", "-", text=ROPE).stdout
    behind = "rows 1-3: k4\nrow 4: 2/2 LC"
    assert "(wrong-side crossing)" in run("check", "-", text=behind).stdout
    assert "(wrong-side crossing)" not in run("check", "-", "--round", text=behind).stdout
    assert "Check (tight start)" in run("check", "-", text="row 1: 2/2 LC\nrow 2: k4").stdout


def test_a_sweater_is_graded_over_the_sizes_of_its_table(tmp_path):
    """Each size by itself: no narrower than the one before, and what cannot be had is said."""
    file = tmp_path / "vest.json"
    assert run("new", "vest", "--set", "for=woman M", "--gauge", "18x25", "--to", str(file)).returncode == 0
    found = json.loads(run("grade", str(file), "--sizes", "S, M,woman L,man M", "--json").stdout)
    assert [each["size"] for each in found] == ["woman S", "woman M", "woman L", "man M"]
    backs = [each["pieces"][0] for each in found]
    assert [piece["width_mm"] for piece in backs[:3]] == sorted({piece["width_mm"] for piece in backs[:3]})
    assert all(
        abs(2 * piece["width_mm"] - chest - 100.0) < 60.0 for piece, chest in zip(backs, (838, 940, 1041), strict=False)
    )
    same = json.loads(run("size", str(file), "--json").stdout)["pieces"]
    graded = [(piece["cast_on"], piece["rows"]) for piece in found[1]["pieces"]]
    assert graded == [(piece["cast_on"], piece["rows"]) for piece in same], "its own size is as it is"
    told = run("grade", str(file), "--sizes", "M,L").stdout
    assert "Sizes: woman M (woman L)" in told
    assert re.search(rf"begin with {backs[1]['cast_on']} \({backs[2]['cast_on']}\)", told)
    bad = run("grade", str(file), "--sizes", "XXXL")
    assert bad.returncode == 1 and "There is no size “XXXL”" in bad.stderr


def test_shapes_are_listed_made_sized_and_written_on_the_command_line(tmp_path):
    listed = json.loads(run("shapes", "--json").stdout)
    assert [s["id"] for s in listed] == [
        "rectangle",
        "strip",
        "tube",
        "corner",
        "framed-square",
        "hat",
        "mitts",
        "sock",
        "bent-band",
        "shawl",
        "pullover",
        "vest",
        "cardigan",
        "raglan",
    ]
    assert all({"name", "default", "unit", "source"} <= set(ask) for s in listed for ask in s["asks"])
    assert "strip: Strip worn sideways" in run("shapes").stdout
    file = tmp_path / "mitts.json"
    sets = ("--set", "worn=mitts", "--set", "around=20")
    done = run("new", "strip", *sets, "--panels", "braid-9", "--gauge", "20x28", "--to", str(file))
    assert done.returncode == 0, done.stderr
    found = json.loads(run("size", str(file), "--json").stdout)
    (piece,), (join,) = found["pieces"], found["joins"]
    promised = (Path(__file__).parents[1] / "docs" / "formats.md").read_text()
    assert all(f"`{key}`" in promised for key in (*piece, *piece["stations"][0], *join))
    assert piece["copies"] == 2 and piece["counts"][-1] == piece["bind_off"] and join["open"]
    assert "Make 2." in run("words", str(file)).stdout
    corner = run("new", "corner", "--gauge", "18x25").stdout
    said = run("words", "-", "--manner", "pattern", text=corner).stdout
    assert re.search(r"increasing 1 stitch .* at the beginning of every row, \d+ times: 3 → \d+ stitches", said)
    assert "There is no piece “sleeve”" in run("words", "-", "--piece", "sleeve", text=corner).stderr
    assert "must be 8 cm to 200 cm" in run("new", "corner", "--set", "side=2", "--gauge", "18x25").stderr


def test_a_booklet_is_written_and_a_mistake_is_told_on_the_command_line(tmp_path):
    throw = str(Path(cablux.demo.__file__).parent / "skerry-throw.json")
    starts = {"pdf": b"%PDF-", "html": b"<!doctype", "md": b"# Skerry", "csv": b"piece,row,", "zip": b"PK"}
    for form, begins in starts.items():
        out = tmp_path / f"throw.{form}"
        done = run("pattern", throw, "--as", form, "--to", str(out), "--paper", "letter", "--large")
        assert done.returncode == 0 and f"Written to {out}" in done.stdout
        assert out.read_bytes().lstrip(b"\n").startswith(begins), form
    assert "Row by row" in run("pattern", throw, "--as", "txt").stdout
    refused = run("pattern", throw, "--piece", "Sleeve")
    assert refused.returncode == 1 and "There is no piece “Sleeve”" in refused.stderr

    told = run("mend", throw, "--row", "43", "--what", "wrong-lean", "--segment", "3", "--seen-at", "46", "--json")
    answers = {each["kind"]: each for each in json.loads(told.stdout)["answers"]}
    assert answers["rip"]["loops"] == 4 * 220 and answers["rip"]["needle"] == 220
    assert answers["drop"]["loops"] == 4 * 6 and answers["drop"]["columns"] == [21, 26]
    assert answers["unknit"]["minutes"] > answers["drop"]["minutes"] > answers["leave"]["minutes"] == 0
    assert (
        "Let these columns down (24 loops"
        in run("mend", throw, "--row", "43", "--what", "wrong-lean", "--segment", "3", "--seen-at", "46").stdout
    )
    for bad in (("--what", "frogged", "--segment", "3"), ("--what", "wrong-lean", "--segment", "99")):
        refused = run("mend", throw, "--row", "43", *bad)
        assert refused.returncode == 1 and refused.stderr and "Traceback" not in refused.stderr
    where = json.loads(run("where", throw, "--seen", "3:2:right", "--ridges", "22", "--json").stdout)
    assert 45 in where["rows"] and len(where["rows"]) == 1


def test_a_project_is_changed_by_commands_all_of_them_or_none(tmp_path):
    throw = str(Path(cablux.demo.__file__).parent / "skerry-throw.json")
    out = tmp_path / "wider.json"
    wider, higher = '{"do": "set size", "width": "120"}', '{"do": "set size", "height": "160"}'
    assert run("change", throw, "--do", wider, "--do", higher, "--to", str(out)).returncode == 0
    size = json.loads(out.read_text())["pieces"][0]["size"]
    assert (size["width"], size["height"]) == (120.0, 160.0)
    refused = run("change", throw, "--do", wider, "--do", '{"do": "set repeats", "at": [2], "repeats": 0}')
    assert refused.returncode == 1 and refused.stdout == "" and "can have 1 to 1500" in refused.stderr
    assert "These are known" in run("change", throw, "--do", '{"do": "fly"}').stderr
    listed = run("commands").stdout
    assert "set repeats: How often" in listed
    assert json.loads(run("commands", "--json").stdout)["discriminator"]["mapping"].keys() == {
        line.split(":")[0] for line in listed.splitlines()
    }
