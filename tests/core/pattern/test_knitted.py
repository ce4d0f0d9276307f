"""Printed words knitted by the tests' own knitter and compared, column by column, with the cloth of the charts."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import lru_cache
from itertools import product

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from cablux.core.counts.arrange import ready_arrangements
from cablux.core.library import LIBRARY, StitchPattern
from cablux.core.notation import Chart, P, Side, faces, made_loops, parse_chart
from cablux.core.notation.audit import audited_chart
from cablux.core.pattern import compile_piece
from cablux.core.pattern.chartwords import chart_words
from cablux.core.pattern.wording import Wording
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.segment import Segment, library_segment
from cablux.core.piece.widths import body_um
from cablux.core.rows.row_room import counts_return
from cablux.service.exchange.project_file import ProjectFile, fresh_project
from cablux.service.pattern.plain_text import file_text
from tests.core.strategies import backgrounds, panels, piece_of, pieces
from tests.examples import each, turn_of
from tests.knitter import Loop, knit, knit_pattern

borders = st.sampled_from(sorted(p.id for p in LIBRARY.values() if "border" in p.uses))
wordings = st.builds(
    Wording,
    hold=st.booleans(),
    until=st.booleans(),
    counts=st.just(True),
    markers=st.booleans(),
    british=st.just(False),
    left_handed=st.booleans(),
)


@lru_cache(maxsize=4096)
def row_of(chart: Chart, number: int, repeats: int) -> tuple[Loop, ...]:
    """A chart's row as cloth, straight from its operations; slipped loops keep the chart's own face."""
    below = chart.faces_below(number, repeats) if number == 1 else chart.faces_after(number - 1, repeats)
    shown = faces(chart.ops(number, repeats), below)
    return tuple(
        Loop(None if loop.hole else str(face), loop.parents, loop.depth, loop.slipped, loop.knob)
        for loop, face in zip(made_loops(chart.ops(number, repeats)), shown, strict=True)
    )


def mirrored(row: tuple[Loop, ...], below: int) -> tuple[Loop, ...]:
    return tuple(Loop(face, tuple(below - 1 - p for p in parents), *more) for face, parents, *more in reversed(row))


def beside(parts: list[tuple[tuple[Loop, ...], int]]) -> list[Loop]:
    """Parts from right to left, each with the loops it takes, as one row."""
    out, start = [], 0
    for row, takes in parts:
        out += [Loop(face, tuple([start + p for p in parents]), *more) for face, parents, *more in row]
        start += takes
    return out


def same(got: list[Loop], wanted: list[Loop], hint: object = "") -> None:
    """Loop by loop; of several parents the one on top and the set of all are compared."""
    assert len(got) == len(wanted), hint
    for at, (a, b) in enumerate(zip(got, wanted, strict=True)):
        if a == b:
            continue
        assert (a.slipped or a.face, a.depth, a.knob) == (b.slipped or b.face, b.depth, b.knob), (hint, at, a, b)
        assert (a.parents[:1], sorted(a.parents)) == (b.parents[:1], sorted(b.parents)), (hint, at, a, b)


WORDINGS = list(product((False, True), (False, True)))  # how cables are held, how what is worked again is told


@pytest.mark.breadth
@pytest.mark.parametrize("work", ["flat", "round", "inside out"])
@pytest.mark.parametrize("name", each(sorted(LIBRARY)))
def test_every_panels_words_knit_the_panel(name, work):
    chart, at = LIBRARY[name].chart, [*LIBRARY].index(name) + len(work)
    for (hold, until), left, repeats in product(turn_of(at, WORDINGS), (False, True), (0, 1, 3)):
        said = chart_words(chart, Wording(hold=hold, until=until, left_handed=left), work, repeats=repeats)
        for times in (repeats,) if repeats else (1, 2, 3):
            knit_chart(chart, said, times, left, repeats)


def knit_chart(chart: Chart, said, times: int, left: bool, repeats: int) -> None:
    """The rows as printed, once through, on so many repeats; at least the chart's own height of them."""
    rows = {n: w for w in said if "et-up" not in w.label for n in w.numbers}
    assert [*rows] and sorted(rows) == [*range(1, len(rows) + 1)] and len(rows) % chart.height == 0
    marked = {n: w.side for n, w in rows.items()}
    for n in range(1, len(rows) + 1):
        at = (n - 1) % chart.height + 1
        below = [Loop(str(f), ()) for f in chart.faces_below(at, times)]
        assert n == 1 or "Row" not in rows[n].label or marked[n] is not marked[n - 1], "flat rows turn"
        got = knit(below, str(rows[n].side), rows[n].text, left_handed=left, again=not repeats)
        same(got, list(row_of(chart, at, times)), (chart.name, rows[n].label, rows[n].text))
        assert rows[n].label.split()[0] in (("Rows", "Rounds") if len(rows[n].numbers) > 1 else ("Row", "Round"))
        left_over = [int(number) for number in re.findall(r"\d+", rows[n].leaves)]
        assert len(got) == (1 if repeats else times) * left_over[0] + sum(left_over[1:])
        assert ("a repeat" in rows[n].leaves) == (not repeats and len(left_over) == 2 and left_over[1] > 0)


@lru_cache(maxsize=4096)
def segment_row_of(s, number: int) -> tuple[tuple[Loop, ...], int]:
    """A placed segment's row `number` of its chart and what it takes, from the library's chart and its placing."""
    chart = s.pattern.chart
    takes = sum(op.takes for op in chart.ops(number, s.repeats))
    row = row_of(chart, number, s.repeats)
    if s.mirrored:
        row = mirrored(row, takes)
    purls = [(tuple(Loop("p", (i,)) for i in range(s.purl_margin)), s.purl_margin)]
    return tuple(beside([*purls, (row, takes), *purls])), takes + 2 * s.purl_margin


def segment_row(s, at: int) -> tuple[tuple[Loop, ...], int]:
    """A placed segment's row `at` of the body (from 1)."""
    return segment_row_of(s, (at - 1 + s.phase) % s.pattern.chart.height + 1)


def turned(chart: Chart, number: int, width: int, turn: int) -> list[Loop]:
    """A row of the endless texture laid round a tube of `width` columns whose grid is turned by so many columns."""
    wide = 2 + -(-(width + turn) // chart.multiple)
    row, lead = row_of(chart, number, wide), chart.multiple + turn
    return [lo._replace(parents=tuple((p - lead) % width for p in lo.parents)) for lo in row[lead : lead + width]]


def closes_round(rows: list[list[Loop]], chart: Chart, first: int) -> None:
    """One turn of the grid must do for all rows of a tube; operations may not be cut where it meets itself."""
    wrong = None
    for turn in range(chart.multiple):
        try:
            for i, row in enumerate(rows):
                same(row, turned(chart, (first + i - 1) % chart.height + 1, len(row), turn), (chart.name, turn, i))
            return
        except AssertionError as error:
            wrong = error
    raise AssertionError("no one grid of columns fits all rows") from wrong


def project_file(piece: Piece) -> ProjectFile:
    fresh = {"name": "Kelp", "unit": "cm", "yarn": "", "width": 90, "height": 90, "tolerance": 3}
    return fresh_project(**fresh, stitches=20, rows=28, in_the_round=piece.round).with_piece(piece)


def check_piece(piece: Piece, wording: Wording) -> None:
    file = fresh_project(
        name="Kelp",
        unit="cm",
        yarn="",
        width=90,
        height=90,
        tolerance=3,
        stitches=20,
        rows=28,
        in_the_round=piece.round,
    )
    text = file_text(file.with_piece(piece), wording)
    _, rows = knit_pattern(text)
    at = piece.bottom.rows
    check_border(piece, piece.band_views[0], piece.bottom, [r.loops for r in rows[:at]], 1)
    for view, plan in zip(piece.band_views, compile_piece(piece).rows_plan.bands, strict=True):
        check_setup(view, rows[at : at + plan.lead])
        at += plan.lead
        check_body(view, rows[at : at + plan.body], at)
        at += plan.body
    if piece.top.rows:
        check_border(piece, piece.band_views[-1], piece.top, [r.loops for r in rows[at:]], at + 1)


def check_setup(view: Piece, rows) -> None:
    """Below row 1 a panel shows the faces that it expects; a background is in its texture from its first row on."""
    changing = [i for i, row in enumerate(rows) if not all(len(lo.parents) == 1 for lo in row.loops)]
    if view.round and len(view.segments) == 1:
        return
    for i, row in enumerate(rows[changing[-1] + 2 :] if changing else rows, start=1):
        start, back = 0, i - len(rows[changing[-1] + 2 :] if changing else rows)
        for s in view.segments:
            chart = s.pattern.chart
            plain = not chart.crossing_rows and not chart.setup
            wanted = [lo.slipped or lo.face for lo in segment_row(s, 1 + (back - 1) % chart.height)[0]]
            got = [lo.slipped or lo.face for lo in row.loops[start : start + len(wanted)]]
            if s.role == "background" and plain:
                assert got == wanted, (s.name, back, row.text)
            elif s.role == "panel" and back == 0:
                assert got == [str(f) for f in s.chart.faces_below(1, s.repeats)], (s.name, row.text)
            start += s.stitches


def check_body(view: Piece, rows, before: int) -> None:
    s = view.segments[0]
    if (
        view.round
        and len(view.segments) == 1
        and not s.purl_margin
        and s.stitches == s.repeats * s.pattern.chart.multiple
    ):
        closes_round(
            [r.loops for r in rows], s.pattern.chart.mirrored() if s.mirrored else s.pattern.chart, 1 + s.phase
        )
        return
    for i, row in enumerate(rows, start=1):
        parts = [segment_row(s, i) for s in view.segments]
        for place in (0, -1) if view.sides else ():
            parts[place] = segment_row(view.segments[place], before + i)
        same(row.loops, beside(parts), (i, row.text))


def check_border(piece: Piece, view: Piece, border: Border, rows: list[list[Loop]], first: int) -> None:
    """The rows of a border that keep their count."""
    chart = border.pattern.chart
    plain = [i for i, row in enumerate(rows) if row and all(len(lo.parents) == 1 for lo in row)]
    if border is piece.bottom:
        plain = [i for i in plain if i < next((k for k in range(len(rows)) if k not in plain), len(rows))]
        number = {i: i + 1 for i in plain}
    else:
        last = max((k for k in range(len(rows)) if k not in plain), default=-1)
        plain = [i for i in plain if i > last]
        number = {i: i + 1 for i in plain}
    if not plain:
        return
    if piece.round:
        closes_round([rows[i] for i in plain], chart, number[plain[0]])
        return
    edge, other = view.sides
    through = edge.pattern_id == border.pattern_id and edge.role == "edge"
    a, b = (0, 0) if through else (edge.stitches, other.stitches)
    for i in plain:
        inside = len(rows[i]) - a - b
        repeats = (inside - chart.balance) // chart.multiple
        middle = (row_of(chart, (number[i] - 1) % chart.height + 1, repeats), inside)
        parts = [middle] if through else [segment_row(edge, first + i), middle, segment_row(other, first + i)]
        same(rows[i], beside(parts), (border.pattern_id, i))


@given(pieces(), wordings)
def test_a_random_projects_words_knit_its_charts(piece, wording):
    check_piece(piece, wording)


@given(pieces(), st.integers(0, 175), st.integers(0, 175), st.integers(1, 13), st.integers(0, 13))
def test_any_number_of_rows_can_be_knitted_and_crossings_keep_to_the_right_side(piece, body, other, bottom, top):
    """Odd rows flat: the charts go on, and what crosses on odd rows of its chart is worked from the right side."""
    bands = tuple(replace(b, rows=n) for b, n in zip(piece.bands, (body, other), strict=False))
    piece = replace(
        piece,
        bands=bands,
        bottom=Border(pattern_id="garter", rows=bottom),
        top=Border(pattern_id="seed", rows=top),
        total=(1, 0),
    )
    if any(n and not counts_return(view, n) for view, n in zip(piece.band_views, (body, other), strict=False)):
        return
    check_piece(piece, Wording())
    placed = [s for view in piece.band_views for s in view.segments]
    if any(s.chart.height % 2 or any(n % 2 == 0 for n in s.chart.crossing_rows) for s in placed):
        return
    assert all(r.side is Side.RS for r in compile_piece(piece).rows if r.crossing_parts)


def test_a_welt_is_as_high_as_its_rows_and_a_fold_is_one_row():
    edge, background = library_segment("edge", "garter", 4), library_segment("background", "stockinette", 40)
    welt = replace(background, pattern=LIBRARY["reverse-stockinette"])
    body = Band(own=(edge, background, edge), rows=20)
    for high in (1, 2):
        bands = (body, Band(own=(edge, welt, edge), rows=high), body)
        piece = replace(piece_of(width=200, height=300, both=Border(pattern_id="garter", rows=4)), bands=bands)
        check_piece(piece, Wording())
        rows = compile_piece(piece).rows
        welts = [r for r in rows if r.section == "body" and r.ops[10] == P]
        assert len(welts) == high and welts[0].side is Side.RS and len(rows) == 4 + 2 + 20 + high + 20 + 4


LEAF = """row 1: k2, *p2, k5; rep from *, k2
row 2 (WS): p2, *p5, k2; rep from *, p2
row 3: k2, *p2, k2, k1-yo-k1, k2; rep from *, k2
row 4 (WS): p2, *p7, k2; rep from *, p2
row 5: k2, *p2, k1, 2/3 LC, k1; rep from *, k2
row 6 (WS): p2, *p2, p3tog, p2, k2; rep from *, p2"""


@pytest.mark.parametrize("phase", [0, 2, 4])
@pytest.mark.parametrize("in_the_round", [False, True])
def test_a_chart_whose_counts_change_may_begin_at_any_of_its_rows(phase, in_the_round):
    own = StitchPattern(id="own-leaf", chart=audited_chart(parse_chart(LEAF)), uses=("panel",), family="figure")
    leaf, edge = Segment(role="panel", pattern=own, repeats=4, phase=phase), library_segment("edge", "garter", 4)
    band = Band(own=(leaf,) if in_the_round else (edge, leaf, edge), rows=12)
    piece = replace(piece_of(width=200, height=300), bands=(band,), round=in_the_round)
    rows = knit_pattern(file_text(project_file(piece)))[1][piece.bottom.rows + 1 :]
    inside = slice(None) if in_the_round else slice(4, -4)
    assert len(rows[0].loops) == piece.band_views[0].stitches
    for i, row in enumerate(rows[1:13]):
        got = [lo.face for lo in row.loops[inside]]
        shown = [lo.face for lo in row_of(own.chart, (i + phase) % 6 + 1, 4)]
        if in_the_round:  # without the two knit stitches on each side, turned as may be
            shown = shown[2:-2]
            assert any(got == shown[t:] + shown[:t] for t in range(len(got))), row.text
        else:
            assert got == shown, row.text


def test_all_over_in_the_round_nothing_stands_at_the_join():
    """Common practice: in the round a repeat must close on itself."""
    plain = Band(own=(library_segment("background", "stockinette", 90),))
    tube = replace(piece_of(width=500, height=200), bands=(plain,), round=True)
    found = {
        a.name: a.band
        for a in ready_arrangements(tube.band_views[0], [LIBRARY["honeycomb"]], LIBRARY["reverse-stockinette"])
    }
    piece = replace(tube, bands=(replace(found["all over"], rows=16),))
    rows = knit_pattern(file_text(project_file(piece)))[1]
    assert all({lo.face for lo in r.loops} == {"k"} for r in rows[piece.bottom.rows + 2 :][:16])
    assert abs(body_um(piece.band_views[0]) - 500_000) < 20_000


@pytest.mark.parametrize("name", ["trellis-6", "trellis-8", "basket-6-wide", "rib-lattice"])
@pytest.mark.parametrize("left", [False, True])
def test_the_beginning_of_a_round_is_moved_where_crossings_lie_across_every_column(name, left):
    """In as few rounds as can be; in those it is moved on before the first stitch, and back after the last."""
    plain = Band(own=(library_segment("background", "stockinette", 90),))
    tube = replace(piece_of(width=500, height=200), bands=(plain,), round=True)
    found = {
        a.name: a.band for a in ready_arrangements(tube.band_views[0], [LIBRARY[name]], LIBRARY["reverse-stockinette"])
    }
    piece = replace(tube, bands=(replace(found["all over"], rows=2 * LIBRARY[name].chart.height),))
    check_piece(piece, Wording(left_handed=left))
    text = file_text(project_file(piece))
    moved = re.findall(
        r"^Rounds? ([\d, ]+): move the beginning (\d+) on, .*, move the beginning (\d+) back\.", text, re.M
    )
    assert moved and all(on == back for _, on, back in moved) and text.count("move the beginning") == 2 * len(moved)
    rows = [r.text for r in knit_pattern(text)[1]]
    crossed = sum(bool(re.search(r"\d/\d [LR]", row)) for row in rows)
    assert 0 < sum("move the beginning" in row for row in rows) <= crossed / 2


@given(backgrounds | panels, st.integers(4, 12), borders, borders, st.integers(0, 3), wordings)
@example("trellis-6", 4, "blocks-3x3", "blocks-3x3", 0, Wording(until=True))  # the beginning is moved, and counted down
@example("trellis-8", 5, "blocks-3x3", "blocks-3x3", 0, Wording(until=True, left_handed=True))
def test_in_the_round_everything_closes_on_one_grid_of_columns(name, repeats, bottom, top, style, wording):
    role = "background" if "background" in LIBRARY[name].uses else "panel"
    ends = [Border(pattern_id=each, rows=6, style="stepped" if style % 2 else "straight") for each in (bottom, top)]
    body = Band(own=(library_segment(role, name, repeats),), rows=2 * LIBRARY[name].chart.height)
    piece = replace(piece_of(width=900, height=300), bands=(body,), round=True, bottom=ends[0], top=ends[1])
    check_piece(piece, wording)
