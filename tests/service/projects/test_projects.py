"""Use cases: project files, changes on the bench, the demo."""

from __future__ import annotations

import itertools
import json
from dataclasses import replace
from importlib import resources
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import event

from cablux.core.counts.arrange import IN_ORDER
from cablux.core.errors import CabluxError, IllegalPiece
from cablux.core.library import LIBRARY, find_pattern
from cablux.core.pattern import compile_piece
from cablux.core.piece.problems import piece_problems
from cablux.core.piece.segment import bare_sides
from cablux.core.piece.symmetry import is_symmetric
from cablux.core.piece.widths import body_um
from cablux.core.rows.row_search import row_choices
from cablux.core.tracking import Progress
from cablux.demo.loader import DEMO, prepare_demo
from cablux.service.bench import layouts
from cablux.service.bench import offers as bench
from cablux.service.bench import order_edits as order
from cablux.service.bench import piece_edits as choices
from cablux.service.bench import segment_edits as edits
from cablux.service.chair import Chair, ChairLook, chair_answer, next_up, row_after
from cablux.service.commands import AddSquare, MatchSquares, carry_out
from cablux.service.errors import BadFile, NotFound
from cablux.service.exchange.project_file import ProjectFile, SizeFile, fresh_project, read_project
from cablux.service.pieces import squares
from cablux.service.project_list import list_projects
from cablux.service.projects import on_others
from cablux.service.projects.history import compare_steps
from cablux.service.projects.numbers import piece_numbers
from cablux.service.projects.place import Place
from cablux.service.projects.project import Projects
from cablux.service.size_form import EMPTY, changed_file, form_of, new_file
from cablux.settings import Settings
from tests.core.strategies import pieces
from tests.examples import each

DOCS = Path(__file__).parents[3] / "docs"


def small() -> ProjectFile:
    return fresh_project(name="S", unit="cm", yarn="", width=40, height=30, tolerance=2, stitches=18, rows=25)


def second_version(file: ProjectFile) -> dict:
    """A project of one piece as version 2 wrote it, field by field."""
    data = json.loads(file.text())
    (piece,) = data.pop("pieces")
    for name in ("shape", "joins"):
        data.pop(name)
    for name in ("number", "name", "copies", "meets", "begins", "ends", "inside_out"):
        piece.pop(name)
    for band in piece["bands"]:
        band.pop("shaping")
        band.pop("runs_on")
    return data | piece | {"cablux": 2, "squares": "Harbour afghan"}


@given(pieces())
def test_a_project_file_is_read_as_it_was_written(piece):
    file = small().with_piece(piece)
    again = read_project(file.text())
    assert again == file and again.piece().bands == piece.bands
    assert (again.piece().bottom, again.piece().top) == (piece.bottom, piece.top)
    assert read_project(json.dumps(second_version(file))) == file, "what version 2 wrote"


def test_the_published_schema_is_the_one_in_use():
    assert json.loads((DOCS / "project.schema.json").read_text()) == ProjectFile.model_json_schema()


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"sparkle": "red"}, "“sparkle” is an unknown field"),
        ({"name": "  "}, "“name”"),
        ({"name": "<b>bold</b>"}, "“name” must be plain words"),
        ({"unit": "furlong"}, "“unit”"),
        ({"cablux": 6}, "“cablux”"),
        ({"size": {"width": 40, "height": 60}}, "“size.tolerance” is missing"),
        ({"size": {"width": "40", "height": 60, "tolerance": 2}}, "“size.width”"),
        ({"bands": []}, "“bands”"),
        (
            {"bands": [{"segments": [{"role": "edge", "pattern": "../x", "repeats": 1}] * 3}]},
            "“bands.1.segments.1.pattern”",
        ),
    ],
)
def test_a_file_that_is_not_ours_is_refused_with_the_place(change, says):
    data = second_version(small()) | change
    with pytest.raises(BadFile) as caught:
        read_project(json.dumps(data))
    assert says in str(caught.value)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"gauge": {"stitches": 0, "rows": 25}}, "0 stitches to 10 cm is not a hand-knitting gauge"),
        ({"size": {"width": 0, "height": 60, "tolerance": 2}}, "Width must be 1 to 1000 cm, not 0"),
        ({"size": {"width": 1e308, "height": 60, "tolerance": 2}}, "Width must be"),
    ],
)
def test_a_file_that_nobody_could_knit_is_refused(change, says):
    with pytest.raises(IllegalPiece, match=says):
        read_project(json.dumps(second_version(small()) | change))


@pytest.mark.parametrize("text", ["", "{", "[]", "\x00", '{"cablux": NaN}'])
def test_what_is_not_json_is_refused_in_a_sentence(text):
    with pytest.raises(BadFile, match="not a Cablux project"):
        read_project(text)


at = st.integers(0, 12)
some = st.lists(at, min_size=1, max_size=3)
band = st.integers(0, 1)
panel = st.sampled_from(sorted(LIBRARY)).map(LIBRARY.get)
changes = st.one_of(
    st.builds(order.insert_pattern, band, panel, at),
    st.builds(order.remove_segments, band, some),
    st.builds(order.move_segment, band, at, at),
    st.builds(edits.set_repeats, band, some, st.integers(-2, 30)),
    st.builds(edits.step_repeats, band, some, st.integers(-3, 3)),
    st.builds(edits.set_stitches, band, some, st.integers(-2, 60)),
    st.builds(edits.set_width, band, some, st.floats(-5, 300)),
    st.builds(edits.toggle_flag, band, some, st.sampled_from(["mirrored", "locked", "placed"])),
    st.builds(edits.set_pattern, band, some, panel),
    st.builds(lambda b, s, n: edits.place_panel(b, s, phase=2 * n, purl_margin=n), band, some, st.integers(0, 9)),
    st.builds(bench.take_layout, band, st.sampled_from(["closest", "most even", "least change", "panels wider"])),
    st.builds(bench.take_cure, band, st.integers(0, 2)),
    st.builds(lambda b, on: choices.tie_halves(b, alike=on), band, st.booleans()),
    st.builds(lambda on: choices.set_round(on=on), st.booleans()),
    st.builds(choices.add_band, band),
    st.builds(choices.remove_band, band),
    st.builds(lambda e, n: choices.set_border(e, rows=n), st.sampled_from(["bottom", "top"]), st.integers(0, 9)),
    st.builds(lambda e, n: choices.set_border(e, count=n), st.sampled_from(["bottom", "top"]), st.integers(0, 120)),
    st.builds(lambda b, p: layouts.take_arrangement(b, IN_ORDER, layouts.Plan((p,), LIBRARY["seed"])), band, panel),
)


@given(pieces(), st.lists(changes, max_size=8))
def test_no_sequence_of_changes_leaves_a_piece_that_cannot_be_knitted(piece, sequence):
    for change in sequence:
        try:
            new = change(piece)
            if list(piece_problems(new)):
                continue
            n = piece_numbers(new)
        except CabluxError as error:
            assert str(error).endswith(".")
            continue
        assert n.cast_on.body == new.band_views[0].stitches and n.cast_on.top.body == new.band_views[-1].stitches
        for view in new.band_views:
            assert not view.symmetric or is_symmetric(view.segments), "what is tied together stays alike"
            assert view.sides == new.band_views[0].sides, "edges run through"
        piece = new
    assert row_choices(piece)[0].piece == piece, "a page that compares ways can always be opened"


def test_a_panel_parts_the_background_and_taking_it_out_mends_it():
    piece = choices.tie_halves(0, alike=False)(small().piece())
    wide = piece.band_views[0].segments[1].stitches
    parted = order.insert_pattern(0, LIBRARY["braid-9"], 1)(piece)
    assert [s.role for s in parted.band_views[0].segments] == ["edge", "background", "panel", "background", "edge"]
    assert parted.band_views[0].stitches == piece.band_views[0].stitches, "the ground gives up what the panel takes"
    panel, mended = parted.band_views[0].segments[2], order.remove_segments(0, [2])(parted)
    assert mended.band_views[0].segments[1].stitches == wide - panel.stitches, "the grounds that meet are one, no wider"
    beside = order.insert_pattern(0, LIBRARY["rope-2-2-left"], 2)(parted)
    assert [s.pattern_id for s in beside.band_views[0].segments][2:5] == [
        "rope-2-2-left",
        "reverse-stockinette",
        "braid-9",
    ]


def test_in_a_symmetric_band_one_edit_changes_both():
    piece = small().piece()
    assert piece.band_views[0].symmetric
    middle = order.insert_pattern(0, LIBRARY["honeycomb"], 1)(piece)
    assert [s.role for s in middle.band_views[0].segments] == ["edge", "background", "panel", "background", "edge"]
    pairs = order.insert_pattern(0, LIBRARY["rope-3-3-right"], 3)(middle)  # dropped on the left half
    named = [s.pattern_id for s in pairs.band_views[0].segments if s.role == "panel"]
    assert named == ["rope-3-3-left", "honeycomb", "rope-3-3-right"], "as it was dropped, and its mirror image"
    left = max(i for i, s in enumerate(pairs.band_views[0].segments) if s.role == "panel")
    assert (
        pairs.band_views[0].band.partner(left) == 2
        and pairs.band_views[0].band.partner(len(pairs.band_views[0].segments) // 2) is None
    )
    turned = edits.toggle_flag(0, [left], "mirrored")(pairs)
    assert [s.mirrored for s in turned.band_views[0].segments if s.role == "panel"] in (
        [True, False, False],
        [True, False, True],
    )
    assert is_symmetric(turned.band_views[0].segments)
    free = choices.tie_halves(0, alike=False)(pairs)
    assert free.band_views[0].segments == pairs.band_views[0].segments
    lopsided = edits.set_stitches(0, [1], 9)(free)
    assert not is_symmetric(lopsided.band_views[0].segments)
    again = choices.tie_halves(0, alike=True)(lopsided)
    assert again.band_views[0].segments[-2].stitches == 9, "the left half becomes the mirror image of the right"


def test_what_is_carried_elsewhere_looks_there_as_it_did():
    piece = small().piece()
    for pattern_id, at in (("rib-lattice", 1), ("rope-3-3-right", 3), ("horseshoe-12", 1)):
        piece = order.insert_pattern(0, LIBRARY[pattern_id], at)(piece)
    last = len(piece.band_views[0].segments) - 1
    assert piece.band_views[0].segments[last // 2].pattern_id == "rib-lattice"
    for at, to in itertools.permutations(range(1, last), 2):
        moved = order.move_segment(0, at, to)(piece)
        was, now = piece.band_views[0].segments[at], moved.band_views[0].segments[to]
        assert (now.pattern_id, now.stitches) == (was.pattern_id, was.stitches)
        assert now == was or was.role == "background"
        assert is_symmetric(moved.band_views[0].segments)


def test_a_cable_that_ends_bare_is_given_a_purl_margin_that_can_be_changed():
    bare = next(p for p in LIBRARY.values() if "panel" in p.uses and any(bare_sides(p.chart)))
    piece = order.insert_pattern(0, bare, 1)(small().piece())
    at = next(i for i, s in enumerate(piece.band_views[0].segments) if s.role == "panel")
    placed = piece.band_views[0].segments[at]
    assert placed.purl_margin == 2 and placed.stitches == bare.chart.width(1) + 4
    assert not any(bare_sides(placed.chart))
    none = edits.place_panel(0, [at], purl_margin=0)(piece)
    assert none.band_views[0].segments[at].stitches == bare.chart.width(1)


def test_stitches_that_do_not_suit_the_multiple_are_refused_with_those_that_do():
    piece = order.insert_pattern(0, LIBRARY["honeycomb"], 1)(small().piece())
    with pytest.raises(IllegalPiece, match="multiple of 8 \\+ 4; try 28 or 36"):
        edits.set_stitches(0, [2], 30)(piece)
    with pytest.raises(IllegalPiece, match="can have 1 to 1500 stitches"):  # none near it can be had
        edits.set_stitches(0, [2], 9999)(piece)
    assert edits.set_stitches(0, [2], 36)(piece).band_views[0].segments[2].repeats == 4
    held = edits.toggle_flag(0, [2], "placed")(piece)
    with pytest.raises(IllegalPiece, match="keeps its place"):
        order.move_segment(0, 2, 1)(held)
    with pytest.raises(IllegalPiece, match="keep their place"):
        layouts.take_arrangement(0, "all over")(held)


def test_ready_arrangements_come_near_any_width_and_differ():
    for width in (30, 60, 120):
        file = small().with_own(size=SizeFile(width=width, height=60, tolerance=2))
        piece = file.piece()
        ready = layouts.arrangements_for(piece.band_views[0])
        assert len(ready) >= 3 and len({a.band.segments for a in ready}) == len(ready)
        for a in ready:
            taken = layouts.take_arrangement(0, a.name)(piece)
            assert is_symmetric(taken.band_views[0].segments) and body_um(taken.band_views[0]) == a.width_um
            if a.name not in ("all over", IN_ORDER):
                assert abs(a.width_um / 10_000 - width) < 2.0, (width, a.name)


def test_filling_places_the_backgrounds_or_says_how_many_panels_fit():
    piece = choices.tie_halves(0, alike=False)(small().piece())
    rope, braid = LIBRARY["rope-3-3-left"], LIBRARY["braid-9"]
    filled = layouts.take_arrangement(0, IN_ORDER, layouts.Plan((rope, braid), LIBRARY["seed"]))(piece)
    assert [s.pattern_id for s in filled.band_views[0].inner] == ["seed", rope.id, "seed", braid.id, "seed"]
    assert abs(body_um(filled.band_views[0]) - 400_000) < 20_000
    wanted = layouts.Plan((rope,), LIBRARY["reverse-stockinette"], 4)
    many = layouts.take_arrangement(0, IN_ORDER, wanted)(piece)
    assert (
        layouts.arrangements_for(piece.band_views[0], wanted)[0].note
        == f"gaps of 4: {sum(s.role == 'panel' for s in many.band_views[0].inner)} panels fit"
    )
    counts = [s.stitches for s in many.band_views[0].inner if s.role == "background"]
    assert set(counts) == {4} and len(counts) > 5
    one_more = body_um(many.band_views[0]) + 4 * 5600
    assert abs(body_um(many.band_views[0]) - 400_000) <= abs(one_more - 400_000)


def test_another_yarn_fits_the_same_panels_and_says_what_changed(database):
    projects = Projects(database)
    pid = projects.create(small())
    projects.change_piece(
        pid, "fill", layouts.take_arrangement(0, IN_ORDER, layouts.Plan((LIBRARY["braid-9"],), LIBRARY["seed"]))
    )
    before = projects.open(pid)
    form = replace(form_of(before.file), stitches="13", rows="18", width="50")
    after = projects.change(pid, "fit", lambda file: changed_file(file, form, fit=True))
    assert [s.pattern_id for s in after.piece.band_views[0].segments] == [
        s.pattern_id for s in before.piece.band_views[0].segments
    ]
    assert abs(after.numbers.width_um - 500_000) < 16_000, "within half a step of two stitches on each side"
    told = {
        d.what: (d.before, d.after)
        for d in compare_steps(projects, pid, before.position, other=after.position).differences
    }
    assert told["Gauge"] == ("18 stitches, 25 rows", "13 stitches, 18 rows")
    assert {"Cast on", "Body: stitches", "Body: backgrounds", "Rows in all"} <= set(told)
    assert "Body: panels" not in told
    assert projects.go(pid, 0).file == small() and projects.go(pid, after.position).file == after.file
    with pytest.raises(NotFound, match="no longer kept"):
        projects.go(pid, 99)


def test_squares_with_different_cables_come_out_the_same_size(database):
    """Common practice: squares may differ by 3 %, a centimetre on 30; they share their edges, not their counts."""
    projects = Projects(database)
    first = projects.create(small().with_own(size=SizeFile(width=30, height=30, tolerance=1)))
    project = projects.change_piece(first, "one", layouts.take_arrangement(0, "one wide in the middle"))
    for name, how in (("braid-9", "pairs facing in"), ("honeycomb", "all over"), ("diamond-moss", "pairs facing in")):
        carry_out(projects, first, AddSquare(pattern=name, arrangement=how))
    found = squares.square_set(projects.open(first))
    assert len(found.members) == 4 and found.match.same_edges and found.match.height_off < 0.03
    assert len({s.body for s in found.match.squares}) == 4, "each has its own count"
    assert found.match.fits, "within what can be eased in"
    other = found.members[1]
    assert [p.piece_name for p in found.members] == [
        project.name,
        "Braid of 9",
        "Honeycomb",
        "Diamond with moss filling",
    ]
    projects.change_piece(other.place, "wider", choices.set_target(width_mm=400.0, height_mm=420.0))
    wide = projects.change_piece(other.place, "wider", lambda p: layouts.refitted(p))
    assert wide.place == other.place and projects.open(first).piece.width_mm == 300.0, "a change is one piece's"
    assert not squares.square_set(projects.open(first)).match.fits
    carry_out(projects, first, MatchSquares())
    again = squares.square_set(projects.open(first))
    assert again.match.height_off < 0.03 and projects.open(other.place).piece.width_mm == 300.0
    assert len(projects.all()) == 1, "all in one project, with one history"
    with pytest.raises(NotFound, match="has no piece 9"):
        projects.open(Place(first, 9))


@pytest.mark.parametrize("hurry", range(4))
def test_a_slow_change_lets_others_write_and_is_made_on_what_is_there_then(database, hurry):
    projects = Projects(database)
    slow, other = projects.create(small()), projects.create(small())
    seen = []

    def change(piece):
        seen.append(piece.width_mm)
        if len(seen) <= hurry:  # while this is worked out other hands are faster
            projects.change_piece(other, "another project", choices.set_target(width_mm=600.0 + len(seen)))
            projects.change_piece(slow, "the same one", choices.set_target(width_mm=500.0 + len(seen)))
        return choices.set_target(height_mm=900.0)(piece)

    piece = projects.change_piece(slow, "taller", change).piece
    assert piece.height_mm == 900.0 and len(seen) == hurry + 1
    assert piece.width_mm == (500.0 + hurry if hurry else small().piece().width_mm), "no change is lost"
    labels = [step.label for step in projects.steps(slow)]
    assert labels == ["New project", *["the same one"] * hurry, "taller"]


def test_a_change_of_several_pieces_is_made_in_all_of_them_or_in_none(database):
    projects = Projects(database)
    (own,) = small().pieces
    named = [own.model_copy(update={"number": n, "name": name}) for n, name in enumerate(("Tern", "Eider", "Knot"), 1)]
    pid = projects.create(small().model_copy(update={"pieces": tuple(named)}))

    def narrower(piece):
        return edits.set_repeats(0, [1], 0 if piece.name == "Eider" else 9)(piece)

    before = projects.open(pid)
    with pytest.raises(IllegalPiece, match=r"^Eider: "):
        projects.change(pid, "narrower", on_others(narrower))
    assert projects.open(pid) == before
    projects.change(Place(pid, 2), "narrower", on_others(narrower))
    after = [p.piece.band_views[0].stitches for p in projects.open(pid).pieces()]
    assert after[0] == after[2] < after[1] == before.piece.band_views[0].stitches
    assert projects.undo(Place(pid, 3)).file.pieces == before.file.pieces, "one history for all"


def test_two_pieces_of_one_name_or_number_are_refused():
    data = json.loads(small().text())
    (piece,) = data["pieces"]
    for several, said in (
        ([piece | {"name": "Left"}, piece | {"name": "left", "number": 2}], "two pieces are called “Left”"),
        ([piece | {"name": "Left"}, piece | {"name": "Right"}], "two pieces have one number"),
        ([piece | {"name": "Left"}, piece | {"name": "Right", "number": 2, "size": None}], "“pieces.2.size”"),
    ):
        with pytest.raises(BadFile, match=said):
            read_project(json.dumps(data | {"pieces": several}))
    ends = {"one": {"piece": 1, "edge": "cast-on"}, "other": {"piece": 7, "edge": "bind-off"}}
    with pytest.raises(BadFile, match="a join names piece 7"):
        read_project(json.dumps(data | {"joins": [ends]}))


def test_each_copy_of_a_piece_has_its_own_tally(database):
    projects, chair = Projects(database), Chair(database)
    pid = projects.create(small().with_own(copies=2))
    project = projects.open(pid)
    chair.catch_up(project, 5)
    chair.row_done(project, 1, 2)
    assert [chair.state(project, n).done for n in (1, 2)] == [5, 1]
    total = project.numbers.rows.total
    assert [(t.which, t.done, t.total) for t in chair.tallies(project)] == [(1, 5, total), (2, 1, total)]
    chair.catch_up(project, total)
    assert (next_up(chair.tallies(project)).which, next_up(chair.tallies(project)).row) == (2, 2), "what is begun first"
    with pytest.raises(NotFound, match="worked 2 times; there is no copy 3"):
        chair.row_done(project, 1, 3)


def test_the_list_is_read_in_as_many_queries_however_many_projects_there_are(database):
    """Each is as it is when it is opened alone: what a busy machine makes slow is the number of questions."""
    projects, chair, asked = Projects(database), Chair(database), list[str]()
    event.listen(database.engine, "before_cursor_execute", lambda *told: asked.append(told[2]))
    counts = []
    for n in range(3):
        project = projects.open(projects.create(small().with_own(copies=n + 1)))
        chair.catch_up(project, n + 2, n + 1)
        projects.change(project.place, "Rename", lambda file, n=n: file.model_copy(update={"name": f"Number {n}"}))
        asked.clear()
        listed = list_projects(projects, chair)
        counts.append(len(asked))
        for entry in listed:
            alone = projects.open(entry.project.place)
            assert entry.project.stored == alone.stored and entry.project.stored.undo_label == "Rename"
            assert entry.next_up == next_up(chair.tallies(alone))
            assert entry.done == sum(t.done for t in chair.tallies(alone)) > 1
    assert counts[0] == counts[1] == counts[2]
    projects.undo(listed[0].project.place)
    assert sorted(stored.redo_label for stored in projects.documents.all()) == ["", "", "Rename"]


def test_a_file_of_the_first_version_is_read_as_what_it_meant():
    """As version 0.1 wrote it; the segments of a symmetric body are tied together now."""
    text = (Path(__file__).parents[1] / "exchange" / "project-v1.json").read_text()
    old, piece = json.loads(text), read_project(text).piece()
    assert [s.stitches for s in piece.band_views[0].segments] == [
        find_pattern(s["pattern"]).chart.width(s["repeats"]) for s in old["segments"]
    ]
    assert piece.band_views[0].symmetric and piece.bottom == piece.top
    assert (piece.bottom.pattern_id, piece.bottom.rows) == (old["border"]["pattern"], old["border"]["rows"])
    free = read_project(json.dumps(old | {"symmetric": False, "cast_on": "straight", "body_rows": 40})).piece()
    assert not free.band_views[0].symmetric and free.bottom.style == "straight" and free.band_views[0].band.rows == 40
    assert free.band_views[0].segments == piece.band_views[0].segments


def test_a_change_is_one_step_a_refused_one_is_none(database):
    projects = Projects(database)
    pid = projects.create(small())
    first = projects.open(pid)
    with pytest.raises(IllegalPiece):
        projects.change_piece(pid, "repeats", edits.set_repeats(0, [1], 0))
    assert projects.open(pid) == first
    changed = projects.change_piece(pid, "add", order.insert_pattern(0, LIBRARY["braid-9"], 1))
    assert changed.undo_label == "add" and changed.file != first.file
    same = projects.change_piece(pid, "nothing", lambda p: replace(p))
    assert same.position == changed.position, "what changes nothing is no step"
    assert projects.undo(pid).file == first.file
    assert projects.redo(pid).file == changed.file
    with pytest.raises(NotFound):
        projects.open(999)


def test_the_size_form_reads_what_people_type_and_keeps_the_layout():
    file = new_file(replace(EMPTY, name="  Big   throw ", width="110,5", unit="cm"))
    assert (file.name, file.own.size.width) == ("Big throw", 110.5)
    inches = changed_file(file, replace(form_of(file), unit="in", width="43.5", height="59", tolerance="1"))
    assert inches.own.bands == file.own.bands and inches.piece().width_mm == pytest.approx(1104.9)
    assert inches.piece().gauge.stitches == pytest.approx(18 / 1.016), "a gauge over 4 in is over 10.16 cm"
    with pytest.raises(IllegalPiece) as caught:
        new_file(replace(EMPTY, name="", width="wide", rows="0"))
    assert all(
        part in str(caught.value) for part in ("name", "Width must be a number", "Rows to 10 cm must be more than 0")
    )


def test_a_second_start_of_the_demo_keeps_what_was_changed_and_fresh_loses_nothing(tmp_path):
    settings = Settings(data=tmp_path)
    from cablux.store.database import Database

    prepare_demo(settings)
    database = Database(settings.database)
    projects, chair = Projects(database), Chair(database)
    pid = next(p.id for p in projects.all() if p.file.name == "Skerry throw")
    assert chair.state(projects.open(pid)).done == 46
    chair.row_done(projects.open(pid), 47)
    database.close()
    assert prepare_demo(settings) is None
    database = Database(settings.database)
    assert Chair(database).state(projects.open(pid)).done == 47
    database.close()
    aside = prepare_demo(settings, fresh=True)
    assert aside and aside.exists()
    database = Database(settings.database)
    assert Chair(database).state(projects.open(pid)).done == 46
    database.close()


def test_chairside_ends_at_the_last_row(database):
    projects, chair = Projects(database), Chair(database)
    pid = projects.create(small())
    project = projects.open(pid)
    total = project.numbers.rows.total
    for row in range(1, total + 1):
        chair.row_done(project, row)
        now = chair_answer(chair.now(project), project.file)
    assert now.row is None and now.percent == 100 and now.crossing_row == 0
    with pytest.raises(NotFound, match=f"rows 1 to {total}"):
        chair.row_done(project, total + 1)
    chair.undo(project, total)
    assert chair.now(project).row.number == total
    chair.undo(project, 3)
    assert chair.now(project).done == total - 1, "only the last row done can be taken back"


@pytest.mark.parametrize("name", each(name for name, _ in DEMO))
def test_every_row_of_every_demo_piece_can_be_shown_at_the_chair(name):
    """To right-handed and to left-handed knitters in turn, from row to row."""
    file = read_project((resources.files("cablux.demo") / name).read_text("utf-8"))
    looks = [ChairLook(left_handed=left_handed, markers=True) for left_handed in (False, True)]
    for own in file.pieces:
        pattern, shown = compile_piece(file.opened_at(own.number).piece()), set()
        for row in pattern.rows:
            alike = row.section, row.side, row.before, tuple((part.segment, part.ops) for part in row.parts)
            if alike in shown and row.number != len(pattern.rows):
                continue  # the same operations in the same places as in a row that was shown
            shown.add(alike)
            now = row_after(pattern, Progress(row.number - 1), 1, look=looks[len(shown) % 2])
            told = chair_answer(now, file.opened_at(own.number)).row
            assert told.number == row.number and sum(part.takes for part in told.sections) == told.before
