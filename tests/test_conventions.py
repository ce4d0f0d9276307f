"""Conventions of the house: import rules, documents against the code, built files against their sources."""

from __future__ import annotations

import ast
import json
import re
import shutil
import subprocess
import sys
from functools import cache
from pathlib import Path

import pytest

from cablux.core.notation import audit_chart, parse_chart, parse_ops
from cablux.core.notation.grid import parse_grid
from cablux.core.notation.lint import NAMES
from cablux.core.notation.names import NAMED
from cablux.service.exchange.project_file import read_project

ROOT = Path(__file__).parents[1]
FORMATS = (ROOT / "docs" / "formats.md").read_text("utf-8")
SOURCES = ROOT / "src" / "cablux"
README = (ROOT / "README.md").read_text("utf-8")


def test_layers_call_downwards_only():
    lint = Path(sys.executable).parent / "lint-imports"
    done = subprocess.run([lint, "--no-cache"], cwd=ROOT, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout


@cache
def _imported(file: Path) -> list[str]:
    """Every module that a file imports from, spelt in full."""
    package = ["cablux", *file.relative_to(SOURCES).parts[:-1]]
    return [
        ".".join([*package[: len(package) - node.level + 1], node.module or ""]) if node.level else node.module or ""
        for node in ast.walk(ast.parse(file.read_text("utf-8")))
        if isinstance(node, ast.ImportFrom)
    ]


def test_the_packages_of_the_service_are_entered_by_their_doors():
    for room in (path.parent for path in (SOURCES / "service").glob("*/__init__.py")):
        inside = f"cablux.service.{room.name}."
        for file in SOURCES.rglob("*.py"):
            if room not in file.parents:
                assert not [name for name in _imported(file) if name.startswith(inside)], file


@pytest.mark.parametrize("name", ["compute_draw_in", "increase_rows", "permute_crossing", "row_words", "read_project"])
def test_what_newcomers_look_for_has_one_place(name):
    sources = {file: file.read_text("utf-8") for file in SOURCES.rglob("*.py")}
    assert sum(len(re.findall(rf"^ *def {name}\b", text, re.M)) for text in sources.values()) == 1


def test_the_documented_examples_are_read():
    chart, grid, project = re.findall(r"```(?:json)?\n(.*?)```", FORMATS, re.S)[:3]
    assert audit_chart(parse_chart(chart)) == () and parse_chart(chart).crossing_rows == (7,)
    assert audit_chart(parse_grid(grid)) == () and parse_grid(grid).name == "Rope between purls"
    assert read_project(project).name == "Small throw"


def test_the_documented_operations_are_known():
    table = FORMATS.split("### Operations")[1].split("### Repeats")[0]
    rows = [line for line in table.replace("\\|", "¦").splitlines() if line.startswith("| `")]
    names = [n.replace("¦", "|") for row in rows for n in re.findall(r"`([^`]+)`", row.split("|")[1])]
    known = [n for n in names if not re.fullmatch(r"[kp]\d( tbl)?", n)]
    assert len(known) > 50
    for name in known:
        assert len(set(parse_ops(name))) == 1, name
    synonyms = FORMATS.split("Synonyms that are read:")[1].split("### Repeats")[0]
    assert all(parse_ops(name) for name in re.findall(r"`([^`]+)`", synonyms))
    written = set(re.findall(r"`([^`]+)`", table))
    assert {op.token for op in NAMED.values() if "back" not in op.token} <= written | {"1/1 RT", "1/1 LPT"}
    assert set(NAMES) <= set(re.findall(r"`([^`]+)`", FORMATS.split("### Warnings")[1].replace("\n", " ")))


def test_the_readme_names_commands_that_exist():
    makefile = (ROOT / "Makefile").read_text()
    targets = set(re.findall(r"^([a-z]+):", makefile, re.M))
    assert set(re.findall(r"`make ([a-z]+)", README)) <= targets
    assert {"setup", "demo", "test", "bench", "lint", "css"} <= targets
    for picture in re.findall(r"docs/screenshots/[\w-]+\.png", README):
        assert (ROOT / picture).exists(), picture


def test_every_module_says_what_it_is_for():
    for file in (ROOT / "src").rglob("*.py"):
        first = file.read_text("utf-8").lstrip().split("\n", 1)[0]
        assert first.startswith('"""'), file


def test_the_fonts_and_scripts_that_ship_carry_their_licences():
    static = ROOT / "src" / "cablux" / "web" / "static"
    for folder in ("fonts", "vendor"):
        licences = list((static / folder).glob("LICENSE*"))
        others = [f for f in (static / folder).iterdir() if f not in licences]
        assert len(licences) >= 2 and others


@pytest.mark.skipif(
    not (shutil.which("npm") and (ROOT / "frontend" / "node_modules").exists()), reason="needs npm and make css"
)
def test_the_built_styles_are_what_their_sources_give(tmp_path):
    out = tmp_path / "cablux.css"
    tailwind = ROOT / "frontend" / "node_modules" / ".bin" / "tailwindcss"
    subprocess.run(
        [tailwind, "-i", "app.css", "-o", out, "--minify"], cwd=ROOT / "frontend", check=True, capture_output=True
    )
    assert out.read_text() == (ROOT / "src/cablux/web/static/cablux.css").read_text()


def test_the_lock_files_name_no_host():
    for name in ("requirements.txt", "requirements-dev.txt"):
        assert "://" not in (ROOT / name).read_text()
    lock = json.loads((ROOT / "frontend/package-lock.json").read_text())
    assert not any("resolved" in package for package in lock["packages"].values())
