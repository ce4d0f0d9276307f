"""Use cases: project files, changes on the bench, the demo."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import CabluxError, IllegalPiece
from cablux.core.layout.piece import problems
from cablux.core.library import LIBRARY
from cablux.demo.loader import prepare_demo
from cablux.service import bench
from cablux.service.chairside import Chair
from cablux.service.errors import BadFile, NotFound
from cablux.service.files import ProjectFile, fresh_project, read_project
from cablux.service.projects import Projects, numbers
from cablux.service.sizes import EMPTY, changed_file, form_of, new_file
from cablux.settings import Settings
from tests.core.strategies import pieces

DOCS = Path(__file__).parents[2] / "docs"


def small() -> ProjectFile:
    return fresh_project(name="S", unit="cm", yarn="", width=40, height=30, tolerance=2, stitches=18, rows=25)


@given(pieces())
def test_a_project_file_is_read_as_it_was_written(piece):
    file = small().with_piece(piece)
    again = read_project(file.text())
    assert again == file and again.piece().segments == piece.segments


def test_the_published_schema_is_the_one_in_use():
    assert json.loads((DOCS / "project.schema.json").read_text()) == ProjectFile.model_json_schema()


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"sparkle": "red"}, "“sparkle” is a field we do not know"),
        ({"name": "  "}, "“name”"),
        ({"name": "<b>bold</b>"}, "“name” holds markup"),
        ({"unit": "furlong"}, "“unit”"),
        ({"cablux": 2}, "“cablux”"),
        ({"size": {"width": 40, "height": 60}}, "“size.tolerance” is missing"),
        ({"size": {"width": "40", "height": 60, "tolerance": 2}}, "“size.width”"),
        ({"segments": []}, "“segments”"),
        ({"segments": [{"role": "edge", "pattern": "../x", "repeats": 1}] * 3}, "“segments.1.pattern”"),
    ],
)
def test_a_file_that_is_not_ours_is_refused_with_the_place(change, says):
    data = json.loads(small().text()) | change
    with pytest.raises(BadFile) as caught:
        read_project(json.dumps(data))
    assert says in str(caught.value)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"gauge": {"stitches": 0, "rows": 25}}, "The gauge says 0 stitches"),
        ({"size": {"width": 0, "height": 60, "tolerance": 2}}, "width of 0 cm"),
        ({"size": {"width": 1e308, "height": 60, "tolerance": 2}}, "width"),
    ],
)
def test_a_file_that_nobody_could_knit_is_refused(change, says):
    with pytest.raises(IllegalPiece, match=says):
        read_project(json.dumps(json.loads(small().text()) | change))


@pytest.mark.parametrize("text", ["", "{", "[]", "\x00", '{"cablux": NaN}'])
def test_what_is_not_json_is_refused_in_a_sentence(text):
    with pytest.raises(BadFile, match="not a Cablux project"):
        read_project(text)


changes = st.one_of(
    st.builds(bench.add, st.sampled_from(sorted(LIBRARY)).map(LIBRARY.get), st.integers(0, 12)),
    st.builds(bench.remove, st.integers(0, 12)),
    st.builds(bench.move, st.integers(0, 12), st.integers(0, 12)),
    st.builds(bench.set_repeats, st.integers(0, 12), st.integers(-2, 30)),
    st.builds(bench.set_stitches, st.integers(0, 12), st.integers(-2, 60)),
    st.builds(bench.toggle, st.integers(0, 12), st.sampled_from(["mirrored", "locked"])),
    st.builds(bench.take, st.sampled_from(["closest", "most even", "least change", "panels wider"])),
)


@given(pieces(), st.lists(changes, max_size=8))
def test_no_sequence_of_changes_leaves_a_piece_that_cannot_be_knitted(piece, sequence):
    for change in sequence:
        try:
            new = change(piece)
            numbers(new)
        except CabluxError as error:
            assert str(error).endswith(".")
            continue
        if not list(problems(new)):
            piece = new
    n = numbers(piece)
    assert n.cast_on.body == piece.stitches and sum(n.cast_on.shares) == n.cast_on.cast_on


def test_a_panel_parts_the_ground_and_taking_it_out_mends_it():
    piece = small().piece()
    wide = piece.segments[1].stitches
    parted = bench.add(LIBRARY["braid-9"], 1)(piece)
    assert [s.role for s in parted.segments] == ["edge", "background", "panel", "background", "edge"]
    assert parted.stitches == piece.stitches, "the ground gives up what the panel takes"
    mended = bench.remove(2)(parted)
    assert mended.segments[1].stitches == wide
    beside = bench.add(LIBRARY["rope-2-2-left"], 2)(parted)
    assert [s.pattern_id for s in beside.segments][2:5] == ["rope-2-2-left", "reverse-stockinette", "braid-9"]


def test_stitches_that_do_not_suit_the_multiple_are_refused_with_those_that_do():
    piece = bench.add(LIBRARY["honeycomb"], 1)(small().piece())
    with pytest.raises(IllegalPiece, match="multiple of 8 \\+ 4: 30 does not fit, 28 or 36 would"):
        bench.set_stitches(2, 30)(piece)
    assert bench.set_stitches(2, 36)(piece).segments[2].repeats == 4


def test_a_change_is_one_step_a_refused_one_is_none(database):
    projects = Projects(database)
    pid = projects.create(small())
    first = projects.open(pid)
    with pytest.raises(IllegalPiece):
        projects.change_piece(pid, "repeats", bench.set_repeats(1, 0))
    assert projects.open(pid) == first
    changed = projects.change_piece(pid, "add", bench.add(LIBRARY["braid-9"], 1))
    assert changed.undo_label == "add" and changed.file != first.file
    same = projects.change_piece(pid, "nothing", lambda p: replace(p))
    assert same.position == changed.position, "what changes nothing is no step"
    assert projects.undo(pid).file == first.file
    assert projects.redo(pid).file == changed.file
    with pytest.raises(NotFound):
        projects.open(999)


def test_the_size_form_reads_what_people_type_and_keeps_the_layout():
    file = new_file(replace(EMPTY, name="  Big   throw ", width="110,5", unit="cm"))
    assert (file.name, file.size.width) == ("Big throw", 110.5)
    inches = changed_file(file, replace(form_of(file), unit="in", width="43.5", height="59", tolerance="1"))
    assert inches.segments == file.segments and inches.piece().width_mm == pytest.approx(1104.9)
    assert inches.piece().gauge.stitches == pytest.approx(18 / 1.016), "a gauge over 4 in is over 10.16 cm"
    with pytest.raises(IllegalPiece) as caught:
        new_file(replace(EMPTY, name="", width="wide", rows="0"))
    assert all(part in str(caught.value) for part in ("name", "width must be a number", "rows must be more than zero"))


def test_a_second_start_of_the_demo_keeps_what_was_changed_and_fresh_loses_nothing(tmp_path):
    settings = Settings(data=tmp_path)
    from cablux.store.database import Database

    prepare_demo(settings)
    database = Database(settings.database)
    projects, chair = Projects(database), Chair(database)
    pid = max(p.id for p in projects.all())
    assert chair.state(pid).done == 46
    chair.row_done(projects.open(pid), 47)
    database.close()
    assert prepare_demo(settings) is None
    database = Database(settings.database)
    assert Chair(database).state(pid).done == 47
    database.close()
    aside = prepare_demo(settings, fresh=True)
    assert aside and aside.exists()
    database = Database(settings.database)
    assert Chair(database).state(pid).done == 46
    database.close()


def test_chairside_ends_at_the_last_row(database):
    projects, chair = Projects(database), Chair(database)
    pid = projects.create(small())
    project = projects.open(pid)
    total = project.numbers.rows.total
    for row in range(1, total + 1):
        now = chair.row_done(project, row)
    assert now.row is None and now.percent == 100 and now.crossing_row == 0
    with pytest.raises(NotFound, match=f"rows 1 to {total}"):
        chair.row_done(project, total + 1)
    assert chair.undo(project, total).row.number == total
    assert chair.undo(project, 3).done == total - 1, "only the last row done can be taken back"
