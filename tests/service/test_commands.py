"""Edits as commands: each named, parsed from JSON, and carried out alike from a page and from a script."""

from __future__ import annotations

import ast
import json
import re
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import CabluxError
from cablux.core.library import LIBRARY
from cablux.service import commands
from cablux.service.commands import REGISTRY, Here, carry_out, parse_command
from cablux.service.errors import BadFile
from cablux.service.exchange.project_file import ProjectFile, read_project
from cablux.service.projects import Place, Projects

from .test_projects import small

ROOT = Path(__file__).parents[2]
DEMO = ROOT / "src" / "cablux" / "demo"
FORMATS = (ROOT / "docs" / "formats.md").read_text("utf-8")

at = st.lists(st.integers(0, 12), min_size=1, max_size=3)
panels = st.sampled_from(sorted(LIBRARY))
drawn = st.one_of(
    st.fixed_dictionaries({"do": st.just("add pattern"), "pattern": panels, "at": st.integers(0, 12)}),
    st.fixed_dictionaries({"do": st.just("remove segments"), "at": at}),
    st.fixed_dictionaries({"do": st.just("move segment"), "at": at, "to": st.integers(0, 12)}),
    st.fixed_dictionaries({"do": st.just("set repeats"), "at": at, "repeats": st.integers(-2, 30)}),
    st.fixed_dictionaries({"do": st.just("step repeats"), "at": at, "by": st.integers(-3, 3)}),
    st.fixed_dictionaries({"do": st.just("set stitches"), "at": at, "stitches": st.integers(0, 60)}),
    st.fixed_dictionaries(
        {"do": st.just("toggle"), "at": at, "field": st.sampled_from(["mirrored", "locked", "placed"])}
    ),
    st.fixed_dictionaries({"do": st.just("set pattern"), "at": at, "pattern": panels}),
    st.fixed_dictionaries({"do": st.just("tie halves"), "alike": st.booleans()}),
    st.fixed_dictionaries({"do": st.just("add band"), "band": st.integers(0, 3)}),
    st.fixed_dictionaries({"do": st.just("set band rows"), "rows": st.integers(0, 60)}),
    st.fixed_dictionaries(
        {"do": st.just("set border"), "end": st.sampled_from(["bottom", "top"]), "rows": st.integers(0, 9)}
    ),
    st.fixed_dictionaries({"do": st.just("set size"), "width": st.sampled_from(["40", "90", "x", ""])}),
    st.fixed_dictionaries({"do": st.just("take layout"), "answer": st.sampled_from(["closest", "most even"])}),
)


def test_every_command_is_called_by_one_name_says_what_it_does_and_is_documented():
    for name, command in REGISTRY.items():
        assert command.model_fields["do"].annotation.__args__ == (name,)
        assert command.__doc__ and command.__doc__.strip().endswith(".")
        assert f"`{name}`" in FORMATS, name
    told = set(re.findall(r"^\| `([a-z ]+)` \|", FORMATS.split("## Commands")[1].split("\n## ")[0], re.M))
    assert told - {"do"} == set(REGISTRY)


def test_the_pages_carry_out_commands_and_name_no_edit_themselves():
    """What a project's edit is called stands in its command, nowhere else."""
    for file in (ROOT / "src" / "cablux" / "web").glob("*.py"):
        for node in ast.walk(ast.parse(file.read_text("utf-8"))):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr == "change":
                assert ast.unparse(node.func.value) == "book", (file.name, ast.unparse(node))
            assert not (isinstance(node, ast.Attribute) and node.attr in ("change_piece", "change_own")), file.name


@given(st.lists(drawn, min_size=1, max_size=4))
def test_a_command_comes_back_from_json_and_is_done_whole_or_not_at_all(data):
    file = small()
    for each in data:
        command = parse_command(json.dumps(each))
        assert parse_command(command.model_dump_json()) == command
        here = Here(file)
        try:
            label, after = command.label(here), command.apply(here)
            after.all_pieces()
        except CabluxError as error:
            assert str(error).rstrip()[-1] in ".!?…"
            continue
        assert isinstance(label, str) and label and isinstance(after, ProjectFile)
        assert command.apply(here) == after, "it depends on nothing but what it is carried out on"
        file = after


@pytest.mark.parametrize("name", sorted(p.name for p in DEMO.glob("*.json")))
def test_the_same_command_at_a_place_and_from_a_script_gives_the_same_file(database, name):
    projects = Projects(database)
    text = (DEMO / name).read_text("utf-8")
    number = projects.import_text(text)
    for own in read_project(text).pieces[:4]:
        where = Place(number, own.number)
        before = projects.open(where)
        view = before.piece.main_view
        at = next((n for n, s in enumerate(view.segments) if s.is_ground), 0)
        data = {"do": "step repeats", "band": view.at, "at": [at], "by": 1}
        command = parse_command(json.dumps(data))
        try:
            wanted = command.apply(Here(before.file))
            wanted.piece()
        except CabluxError as error:
            with pytest.raises(type(error)):
                carry_out(projects, where, command)
            assert projects.open(where).file == before.file, "nothing is half applied"
            continue
        after = carry_out(projects, where, command)
        assert after.file == wanted and after.file.own.number == own.number
        assert projects.steps(where)[-1].label == f"more repeats of {view.segments[at].name}"
        assert projects.undo(where).file == before.file


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ('{"do": "knit faster"}', "These are known: add band, add measurement"),
        ('{"do": "set repeats", "at": [], "repeats": 2}', "at least 1 item"),
        ('{"do": "set repeats", "at": [1]}', "repeats” is missing"),
        ('{"do": "set repeats", "at": [1], "repeats": 2, "colour": "red"}', "unknown field"),
        ("[]", "This is no command"),
        ("{", "it is not JSON"),
    ],
)
def test_what_is_no_command_is_refused_in_a_sentence(text, says):
    with pytest.raises(BadFile, match=re.escape(says)):
        parse_command(text)


def test_a_swatch_is_used_from_its_book_only():
    with pytest.raises(CabluxError, match="swatch book"):
        parse_command('{"do": "use swatch", "swatch": 3}').label(Here(small()))
    assert commands.commands_schema()["discriminator"]["propertyName"] == "do"
