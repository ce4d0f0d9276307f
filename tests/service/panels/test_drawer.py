"""The drawer and own panels: found by what they are, kept through every change, and carried along by projects."""

from __future__ import annotations

from itertools import pairwise
from xml.etree import ElementTree

import pytest

from cablux.core.errors import CabluxError, IllegalChart, IllegalPiece
from cablux.core.library import LIBRARY
from cablux.core.notation import CrossedDecrease, Crossing, Face, format_chart
from cablux.core.notation.grid import format_grid
from cablux.core.pattern.facts import pattern_facts
from cablux.core.pattern.howto import ways_to_work
from cablux.service.bench import order_edits as order
from cablux.service.documents import Changed, time_now
from cablux.service.errors import BadFile, NotFound
from cablux.service.exchange.own_pattern import PanelFile
from cablux.service.exchange.project_file import read_project
from cablux.service.panels import composer
from cablux.service.panels.composer import Tools
from cablux.service.panels.drawer import Drawer, Search, pattern_page
from cablux.service.panels.own_panels import Panels
from cablux.service.projects.project import Projects
from cablux.store.repository import PANELS
from tests.service.projects.test_projects import small

PROSE = "My cord\nRow 1 (RS): P2, k4, P2\nRow 2: k the k sts and p the p sts\nRow 3: p2, c4f, p2\nRow 4: as row 2"


@pytest.fixture
def panels(database) -> Panels:
    return Panels(database)


@pytest.fixture
def drawer(database, panels) -> Drawer:
    return Drawer(database, panels)


def test_a_left_and_a_right_rope_are_one_entry_and_lead_to_each_other(drawer):
    shown = {e.pattern.id: e for e in drawer.search(Search())}
    for pattern_id, pattern in LIBRARY.items():
        stem, _, lean = pattern_id.rpartition("-")
        other = LIBRARY.get(f"{stem}-{'left' if lean == 'right' else 'right'}") if lean in ("left", "right") else None
        assert (pattern_id in shown) == (other is None or lean == "left"), pattern_id
        assert drawer.find(pattern_id).other_lean is other
        if other:
            mirror, ops = other.chart.mirrored(), pattern.chart.ops
            assert all(ops(n) == mirror.ops(n) for n in range(1, other.chart.height + 1)), f"{pattern_id} in a mirror"


@pytest.mark.parametrize("every", [2, 4, 6, 8])
def test_what_crosses_every_so_many_rows_is_found(drawer, every):
    found = {e.pattern.id for e in drawer.search(Search(every=every))}
    for entry in drawer.search(Search()):
        chart = entry.pattern.chart
        crossed = [
            n
            for n in range(1, 2 * chart.height + 1)
            if any(isinstance(op, Crossing | CrossedDecrease) for op in chart.ops((n - 1) % chart.height + 1))
        ]
        gaps = [b - a for a, b in pairwise(crossed)]
        assert (entry.pattern.id in found) == (min(gaps, default=0) == every), (entry.pattern.id, gaps)


@pytest.mark.parametrize(
    ("search", "ids", "others"),
    [
        (Search(q="braid five"), {"braid-10"}, {"braid-8"}),
        (Search(use="edge"), {"garter-ridge-edge", "slipped-edge", "garter"}, {"braid-8", "stockinette"}),
        (Search(widest=6, no_needle=True, use="panel"), {"rope-1-1-left", "twist-columns"}, {"rope-3-3-left"}),
        (Search(tallest=4, use="panel"), {"braid-6", "rope-2-2-left"}, {"diamond-moss"}),
        (Search(draws="much", reversible=True), {"rib-rope-1x1", "rib-1x1"}, {"honeycomb", "seed"}),
        (Search(attention="from memory", use="panel"), {"rope-3-3-left"}, {"diamond-moss", "braid-10"}),
        (Search(own=True), set(), set(LIBRARY)),
    ],
)
def test_the_drawer_is_searched_by_what_knitters_look_for(drawer, search, ids, others):
    found = {entry.pattern.id for entry in drawer.search(search)}
    assert ids <= found and not (others & found)


@pytest.mark.parametrize("name", sorted(LIBRARY))
def test_what_the_drawer_says_of_a_pattern_is_counted_in_its_cloth(name):
    """Curling: nine loops in ten show one face. Attention: how many right-side rows differ, and what is fussy."""
    pattern, found = LIBRARY[name], pattern_facts(LIBRARY[name])
    chart = pattern.chart
    cloth = [f for n in range(1, chart.height + 1) for f in chart.faces_after(n)]
    knits = cloth.count(Face.KNIT) / len(cloth)
    assert found.curls == (max(knits, 1.0 - knits) > 0.9)
    assert (found.stitches, found.rows) == (sum(op.takes for op in chart.ops(1, 1)), len(chart.rows))
    needles = [op for row in chart.rows for op in row.ops() if isinstance(op, Crossing | CrossedDecrease)]
    assert found.needles == max((min(w.needles for w in ways_to_work(op)) for op in needles), default=0)
    kept = len({str(chart.ops(n, 1)) for n in range(1, chart.height + 1, 2)})
    fussy = any(len(op.centre) or op.background for op in needles if isinstance(op, Crossing))
    fussy |= any(op.takes != op.makes for row in chart.rows for op in row.ops())
    level = 2 if kept > 5 else 1 if kept > 2 or fussy else 0
    assert found.attention == ("from memory", "a glance now and then", "chart in hand")[level]
    assert found.draws == ("hardly" if found.draw_in > 0.95 else "some" if found.draw_in > 0.83 else "much")


def test_the_facts_of_a_pattern_are_those_of_the_trade():
    """Common practice: ribs and cables draw in, seed does not; stockinette curls; narrow crossings need no needle."""
    assert pattern_facts(LIBRARY["stockinette"]).curls and not pattern_facts(LIBRARY["seed"]).curls
    assert pattern_facts(LIBRARY["rope-2-2-left"]).needles == 0 < pattern_facts(LIBRARY["rope-3-3-left"]).needles
    assert pattern_facts(LIBRARY["rope-6-2-6-front"]).needles == 2
    assert pattern_facts(LIBRARY["honeycomb"]).draws == "much" and pattern_facts(LIBRARY["seed"]).draws == "hardly"
    assert "alike on both sides" in pattern_facts(LIBRARY["rib-rope-1x1"]).behaviour


@pytest.mark.parametrize("pattern_id", sorted(LIBRARY))
def test_every_pattern_has_a_page_with_chart_words_and_ways(drawer, pattern_id):
    shown = pattern_page(drawer.find(pattern_id))
    assert shown.converged and shown.words
    chart = ElementTree.fromstring(shown.svg)
    drawn = sorted(
        int(e.text) for e in chart.iter() if "chart-number" in (e.get("class") or "") and (e.text or "").isdigit()
    )
    rows = LIBRARY[pattern_id].chart.height * (1 + LIBRARY[pattern_id].chart.height % 2)
    assert set(range(1, rows + 1)) <= set(drawn), "every row has its number"
    assert all(op.symbol and op.ways and op.ways[0].text.endswith(".") for op in shown.key)


def test_a_panel_taken_in_from_prose_joins_the_drawer_and_keeps_its_history(panels, drawer):
    number = panels.take_in(PROSE)
    panel = panels.open(number)
    assert panel.name == "My cord" and panel.pattern and drawer.entries()[0].panel == number
    wrong = composer.write_row(panels, number, 3, text="p2, 3/2 LC, p2", tools=Tools()).panel
    assert wrong.pattern is None and wrong.problems[0].row == 3 and not drawer.search(Search(own=True))
    with pytest.raises(CabluxError, match="no stitch 99"):
        composer.make_move(panels, number, "knit", tools=Tools(row=1, cell=99))
    assert panels.open(number).position == wrong.position, "a refused move is no step"
    back = panels.move(number, -1)
    assert back.pattern == panel.pattern and back.redo_label == "row 3"
    panels.remove(number)
    with pytest.raises(NotFound):
        panels.open(number)


def test_grid_and_text_come_in_again_as_they_went_out(panels):
    chart = LIBRARY["rib-lattice"].chart
    for text in (format_chart(chart), format_grid(chart)):
        assert panels.open(panels.take_in(text)).chart == chart


def test_a_warning_is_waved_through_and_taken_back(panels):
    number = panels.take_in("row 1: p2, 2/2 LC, p2\nrows 2, 3, 4: p2, k4, p2", "marked")
    (warning,) = panels.open(number).warnings
    assert composer.allow_warning(panels, number, warning.name).warnings == ()
    assert composer.allow_warning(panels, number, warning.name).warnings == (warning,)


def test_every_action_of_the_composer_does_something_or_says_why_not(panels):
    number = panels.new("All of it", "p4, k4, p4", 8)
    actions = [*composer._SHEET, *composer._WHOLE, "lead-left", "lead-right"]
    for action in actions:
        before = panels.open(number).chart
        tools = Tools(row=3, cell=5, over=2, under=2, token="MB5", first=1, last=4)
        done = composer.make_move(panels, number, action, tools=tools)
        assert done.panel.problems == (), action
        if action not in ("knit", "lift", "mirror", "flip", "shift"):  # what is plain and symmetric stays as it is
            assert done.panel.chart != before, action
            panels.move(number, -1)


def test_a_project_carries_its_own_panels_along(database, panels, drawer):
    projects = Projects(database)
    number = panels.take_in(PROSE)
    entry = drawer.entries()[0]
    pid = projects.create(small())
    placed = projects.change_piece(pid, "add", order.insert_pattern(0, entry.pattern, 1))
    own = entry.pattern.id
    assert own in [s.pattern_id for s in placed.piece.band_views[0].segments]
    # the panel changes and goes; the project keeps what was placed, here and wherever it is opened
    composer.make_move(panels, number, "cross-right", tools=Tools(row=1, cell=3))
    assert drawer.entries()[0].pattern.id != own
    panels.remove(number)
    assert drawer.find(own).pattern == entry.pattern
    again = projects.open(projects.import_text(placed.file.text()))
    assert again.piece.band_views[0].segments == placed.piece.band_views[0].segments
    lone = placed.file.model_copy(update={"patterns": ()}).text()
    with pytest.raises(IllegalPiece, match="did not come along"):
        read_project(lone)
    with pytest.raises(BadFile, match="plain words"):
        read_project(placed.file.text().replace("My cord", "<b>cord</b>"))
    with pytest.raises(IllegalChart, match="Row 3"):
        read_project(placed.file.text().replace("2/2 LC", "3/3 LC"))


def test_markup_and_nonsense_do_not_become_a_panel(panels):
    with pytest.raises(ValueError):
        PanelFile(chart="name: <script>\nrow 1: k1")
    with pytest.raises(CabluxError, match="name"):
        panels.new(" <> ", "k4", 4)
    with pytest.raises(CabluxError, match="knits and purls only"):
        panels.new("x", "k2, 2/2 LC", 4)
    with pytest.raises(CabluxError, match="1 to 80 stitches"):
        panels.new("x", "k300", 4)


def test_what_could_not_be_read_again_is_refused_and_nothing_is_stored(panels, drawer, database):
    """A panel doubled too often, a project with more own panels than a file holds, and any text that is none."""
    made = panels.copy(LIBRARY["diamond-moss"])
    for _ in range(8):
        before = panels.open(made).stored
        try:
            composer.make_move(panels, made, "double-across", tools=Tools())
        except IllegalChart as error:
            assert "A panel can have 1 to 80 stitches" in str(error) and panels.open(made).stored == before
    assert drawer.entries()[0].panel == made, "every page with a drawer still opens"
    projects = Projects(database)
    number = projects.create(small())
    own = [PanelFile(chart=f"name: Cord {n}\nmultiple: 6\nrow 1: p1, k4, p1").finished().pattern() for n in range(61)]
    with pytest.raises(CabluxError, match="no more than 60"):
        for pattern in own:
            projects.change_piece(number, "add", order.insert_pattern(0, pattern, 1))
    assert len(projects.open(number).piece.band_views[0].segments) < 130
    documents = projects.documents
    for broken in ("", "{}", documents.open(number).document.replace('"repeats"', '"times"')):
        with pytest.raises(CabluxError):
            documents.create(broken, "New")
        with pytest.raises(CabluxError):
            documents.change(number, "break", lambda _, text=broken: Changed(text))
    assert [p.id for p in projects.all()] == [number] and documents.open(number).undo_label != "break"


def test_a_document_that_is_broken_all_the_same_locks_no_other(panels, drawer, database):
    """As older versions could write them."""
    good, bad = panels.copy(LIBRARY["braid-9"]), panels.copy(LIBRARY["braid-6"])
    with database.writing() as session:
        PANELS.append(session, bad, PanelFile(chart="row 1: k4").model_dump_json()[:-1], label="broken", now=time_now())
    assert [p.id for p in panels.all()] == [good] and [e.panel for e in drawer.entries()][:2] == [good, 0]
    assert [stored.id for stored in panels.documents.unreadable()] == [bad]
    assert panels.move(bad, -1).name == "Braid of 6, my version" and len(panels.all()) == 2
