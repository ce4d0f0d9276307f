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
from cablux.service.chair import Chair
from cablux.service.commands import REGISTRY, Here, carry_out, parse_command
from cablux.service.errors import BadFile
from cablux.service.exchange.project_file import ProjectFile, read_project
from cablux.service.pattern import project_words
from cablux.service.projects import Place, Projects
from cablux.service.reports import size_report
from cablux.service.shapes.shaped_projects import new_project
from tests.examples import examples
from tests.service.projects.test_projects import small

ROOT = Path(__file__).parents[3]
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
        here = Here(file=file)
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
        at = next((n for n, s in enumerate(view.segments) if s.is_background), 0)
        data = {"do": "step repeats", "band": view.at, "at": [at], "by": 1}
        command = parse_command(json.dumps(data))
        try:
            wanted = command.apply(Here(file=before.file))
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


shaping = st.sampled_from(["begin shaping", "end shaping"]).map(lambda do: {"do": do})


@given(st.sampled_from(sorted(DEMO.glob("*.json"))), st.integers(0, 8), st.integers(0, 2), drawn | shaping)
@examples(10)
def test_what_a_command_leaves_of_a_half_knitted_project_can_be_sized_and_written(path, piece, band, data):
    file = read_project(path.read_text("utf-8"))
    file = file.opened_at(min(piece, len(file.pieces) - 1))
    try:
        after = parse_command(json.dumps({"band": band} | data)).apply(Here(file=file))
        after.all_pieces()
    except (CabluxError, BadFile):
        return
    size_report(after.text())
    try:
        words = project_words(after)
    except CabluxError as error:
        assert "does not meet the first in pattern" in str(error), "what a knitter puts right by its rows"
        return
    assert "Cast on" in words


def carried(file: ProjectFile, **data: object) -> ProjectFile:
    after = parse_command(json.dumps(data)).apply(Here(file=file))
    assert "Cast on" in project_words(after)
    return after


@pytest.mark.parametrize("shape", ["shawl", "corner", "hat", "bent-band"])
def test_a_shape_made_straight_and_shaped_otherwise_says_nothing_more_of_what_it_was(shape):
    file = new_project(shape, [], gauge="20x28")
    band = len(file.piece().bands) - 1
    straight = carried(file, do="end shaping", band=band)
    again = carried(straight, do="begin shaping", band=band)
    for each in (straight, again):
        assert not any("degrees" in text or "tip to tip" in text for text in size_report(each.text()).cautions)
    with pytest.raises(CabluxError, match="shaped already"):
        carried(again, do="begin shaping", band=band)


def test_a_shawl_keeps_its_spine_and_its_wings():
    file = read_project((DEMO / "kittiwake-shawl.json").read_text("utf-8"))
    with pytest.raises(CabluxError, match="keep apart"):
        carried(file, do="remove segments", at=[4])
    laid = carried(file, do="take layout", answer="closest")
    assert [s.stitches for s in laid.piece().band_views[0].segments][4] == 1
    assert project_words(laid).count("Cast on 9 stitches") == 1
    wider = carried(file, do="add pattern", pattern="rope-2-2-left", at=1)
    assert [(s.first, s.last) for s in wider.piece().bands[0].shaping.sections] == [(1, 5), (7, 9)]


def test_the_background_that_grows_at_the_edges_stays_where_the_shaping_needs_it():
    file = read_project((DEMO / "dotterel-cardigan.json").read_text("utf-8"))
    for band in range(3):
        with pytest.raises(CabluxError, match="keep one beside the edge"):
            carried(file, do="remove segments", band=band, at=[1])


def test_a_field_of_a_shaping_that_is_not_typed_stays_and_an_unknown_one_is_refused():
    file = read_project((DEMO / "kittiwake-shawl.json").read_text("utf-8"))
    before = file.piece().bands[0].shaping
    changed = carried(file, do="type shaping", fields={"increase": "kfb"}).piece().bands[0].shaping
    assert before.manner.whole_panels and changed.manner.whole_panels and changed.manner.increase == "kfb"
    off = carried(file, do="type shaping", fields={"whole_panels": ""}).piece().bands[0].shaping
    assert not off.manner.whole_panels and off.manner.increase == before.manner.increase
    own = carried(file, do="type shaping", fields={"rates-0": "2×60"})
    kept = carried(own, do="type shaping", fields={"lean": "k2tog"}).piece().bands[0].shaping
    assert [(rate.every, rate.times) for rate in kept.rates[0]] == [(2, 60)]
    with pytest.raises(CabluxError, match="“widht-1” is no field of this shaping; these are: width-0"):
        carried(file, do="type shaping", fields={"widht-1": "40"})
    with pytest.raises(CabluxError, match="straight band only"):
        carried(file, do="wander", at=[2], stitches=5)


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
        parse_command('{"do": "use swatch", "swatch": 3}').label(Here(file=small()))
    assert commands.commands_schema()["discriminator"]["propertyName"] == "do"


@pytest.mark.parametrize("name", ["dotterel-cardigan", "puffin-pullover", "skerry-throw"])
def test_a_piece_is_copied_and_removed_by_a_script_with_every_join_that_names_it(name):
    text = (DEMO / f"{name}.json").read_text("utf-8")
    before = read_project(text)
    copied = read_project(commands.changed_project(text, ['{"do": "copy piece"}']))
    assert [p.number for p in copied.pieces] == [*(p.number for p in before.pieces), len(before.pieces) + 1]
    assert copied.joins == before.joins and len({p.name.casefold() for p in copied.pieces}) == len(copied.pieces)
    for own in before.pieces:
        if any(s.piece == own.number for p in before.pieces for s in p.begins):
            continue  # others go on from it
        try:
            left = commands.changed_project(text, ['{"do": "remove piece"}'], own.name)
        except CabluxError as error:
            assert "keeps one piece" in str(error) and len(before.pieces) == 1
            continue
        after = read_project(left)
        named = {e.piece for j in after.joins for e in (j.one, j.other, *j.more)}
        assert own.number not in named and named <= {p.number for p in after.pieces}
        assert len(size_report(left).joins) == len(after.joins)


def test_a_join_goes_with_a_piece_on_which_it_only_goes_on():
    """An edge of one piece along those of two others: without the last of them the seam is no longer there."""
    copy = '{"do": "copy piece"}'
    three = json.loads(commands.changed_project(small().text(), [copy, copy]))
    side = [{"piece": n, "edge": "right edge" if n > 1 else "left edge"} for n in (1, 2, 3)]
    three["joins"] = [{"one": side[0], "other": side[1], "more": [side[2]]}]
    three["joins"].append({"one": side[0], "other": side[1]})
    left = commands.changed_project(json.dumps(three), ['{"do": "remove piece"}'], three["pieces"][2]["name"])
    assert [(j.one.piece, j.other.piece, j.more) for j in read_project(left).joins] == [(1, 2, ())]
    assert len(size_report(left).joins) == 1
    stray = json.loads(left) | {"joins": three["joins"]}
    with pytest.raises(BadFile, match="names piece 3, which is not there"):
        read_project(json.dumps(stray))
    healed = read_project(json.dumps(stray | {"cablux": 4}))
    assert len(healed.joins) == 1 and len(size_report(healed.text()).joins) == 1, "as version 4 left it"


def test_a_number_that_was_knitted_at_is_never_another_pieces(demo_database):
    projects, file = Projects(demo_database), read_project((DEMO / "dotterel-cardigan.json").read_text("utf-8"))
    pid = projects.create(file)
    last = Place(pid, file.pieces[-1].number)
    Chair(demo_database).row_done(projects.open(last), 1)
    assert carry_out(projects, last, commands.RemovePiece()).file.own.number == file.pieces[0].number
    copied = carry_out(projects, pid, commands.CopyPiece())
    assert copied.file.own.number == last.piece + 1 and copied.piece_name == "Back 2", "the copy is at hand"


def test_squares_are_added_and_matched_by_a_script():
    text = small().text()
    add = json.dumps({"do": "add square", "pattern": "braid-9", "arrangement": "pairs facing in"})
    wide = json.dumps({"do": "set size", "width": "70"})
    back = read_project(commands.changed_project(text, [add, '{"do": "match squares"}']))
    assert [p.number for p in back.pieces] == [1, 2] and back.pieces[1].name == "Braid of 9"
    uneven = read_project(commands.changed_project(text, [add, wide]))
    assert [p.size.width for p in uneven.pieces] == [small().own.size.width, 70.0], "the new square is at hand"
    even = read_project(commands.changed_project(uneven.text(), ['{"do": "match squares"}']))
    assert len({p.size.width for p in even.pieces}) == 1
    with pytest.raises(CabluxError, match="These would fit"):
        commands.changed_project(
            text, [json.dumps({"do": "add square", "pattern": "braid-9", "arrangement": "anyhow"})]
        )
