"""Pieces that change their count: their printed words knitted, and looked at column by column; their stations."""

from __future__ import annotations

import math
import re
from dataclasses import replace
from itertools import product

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from cablux.core.errors import CabluxError, IllegalPiece, Infeasible
from cablux.core.fabric.rest import column_neighbours
from cablux.core.gauge import Evidence, Gauge
from cablux.core.library import LIBRARY
from cablux.core.needle.schedule import Rate
from cablux.core.needle.stations import Station
from cablux.core.notation import Crossing, NoStitch, Stitch
from cablux.core.pattern import compile_piece
from cablux.core.pattern.cloth import relax_pattern
from cablux.core.pattern.inpattern import stretches_in_pattern
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band, Piece, Shaping
from cablux.core.piece.segment import library_segment
from cablux.core.piece.widths import body_row_um
from cablux.core.rows.shaped_band import plan_stations, shape_band
from cablux.core.shaping import EdgeShaped
from cablux.core.shaping.edge_steps import EdgeStep
from cablux.core.shaping.manner import Manner
from cablux.service.exchange.project_file import read_project
from cablux.service.pattern.page import shaped_lines
from cablux.service.pattern.plain_text import file_text
from tests.core.columns import look_at_columns
from tests.core.pattern.test_knitted import project_file
from tests.core.pieces import background, panel, throw
from tests.examples import examples
from tests.knitter import Row, knit_pattern

STEADY = [
    p.id
    for p in LIBRARY.values()
    if not p.chart.setup and all(isinstance(op, Stitch | Crossing) for row in p.chart.rows for op in row.ops())
]
PANELS = sorted(id for id in STEADY if "panel" in LIBRARY[id].uses)
BACKGROUNDS = sorted(id for id in STEADY if "background" in LIBRARY[id].uses and not LIBRARY[id].chart.crossing_rows)
NONE = Border(rows=0)
SIDES = ["both", "right", "left"]


def manners() -> st.SearchStrategy[Manner]:
    return st.builds(
        Manner,
        increase=st.sampled_from(["M1", "yo", "kfb"]),
        lean=st.sampled_from(["along", "against", "k2tog"]),
        schedule=st.sampled_from(["blocks", "mixed"]),
        every_row=st.booleans(),
        whole_panels=st.booleans(),
    )


@st.composite
def shapings(draw: st.DrawFn, width: float) -> Shaping:
    """Two to four stations, the widest as wide as the layout; the others as they come."""
    many = draw(st.integers(2, 3))
    widest = draw(st.integers(0, many - 1))
    heights = sorted(draw(st.lists(st.integers(4, 60), min_size=many - 1, max_size=many - 1)))
    stations = [
        Station(
            name=f"place {i}",
            width_mm=width if i == widest else width * draw(st.integers(5, 19)) / 20,
            at_mm=10.0 * ([0, *heights][i]),
        )
        for i in range(many)
    ]
    edges = draw(st.sampled_from(["both", "right", "left", "in turn"]))
    steps = []
    for station in draw(st.sets(st.integers(0, many - 2), max_size=2)):
        counts = draw(st.lists(st.integers(1, 4), min_size=1, max_size=3))
        steps.append(
            EdgeStep(
                station=station, counts=tuple(counts), edge="both" if edges == "both" else draw(st.sampled_from(SIDES))
            )
        )
    return EdgeShaped(stations=tuple(stations), edges=edges, steps=tuple(steps), manner=draw(manners()))


@st.composite
def shaped_pieces(draw: st.DrawFn) -> Piece:
    side = library_segment("edge", draw(st.sampled_from(["garter", "seed"])), draw(st.integers(1, 3)))
    first = draw(st.sampled_from(BACKGROUNDS))
    own = [side, library_segment("background", first, draw(st.integers(3, 8)))]
    for name in draw(st.lists(st.sampled_from(PANELS), min_size=1, max_size=2)):
        own += [library_segment("panel", name, 1), library_segment("background", draw(st.sampled_from(BACKGROUNDS)), 4)]
    segments = (*own, replace(side))
    plain = Piece(
        name="drawn",
        width_mm=400.0,
        height_mm=400.0,
        evidence=Evidence(gauge=Gauge(20.0, 28.0)),
        bands=(Band(own=segments),),
        bottom=NONE,
        top=NONE,
    )
    width = sum(s.stitches for s in segments) * 5.0
    shaped = replace(plain.bands[0], shaping=draw(shapings(width)))
    return replace(plain, width_mm=width, tolerance_mm=20.0, bands=(shaped,))


def knitted(piece: Piece) -> list[Row]:
    """The piece as the tests' knitter makes it of its printed words."""
    file = project_file(piece)
    assert read_project(file.text()).piece().bands[0].shaping is not None
    return knit_pattern(file_text(read_project(file.text())))[1]


@given(shaped_pieces())
@examples(20)
def test_a_shaped_piece_knitted_from_its_words_is_the_plan_column_by_column(piece: Piece) -> None:
    try:
        found = shape_band(piece.band_views[0])
        rows = knitted(piece)
    except Infeasible:  # too few rows between two places: told in words, in another test
        assume(False)
    active, faces = found.active, ["k"] * len(found.active.first)
    assert [len(row.loops) for row in rows] == list(active.counts[1:]), "each row leaves as many as live"
    for n, row in enumerate(rows):
        below, above = active.columns[n], active.columns[n + 1]
        look_at_columns(
            found.plane.lanes, found.numbers[n], active.rows[n], below, faces, above, row.loops, narrow=True
        )
        faces = [loop.face for loop in row.loops]
        for lane, number in zip(found.plane.lanes, found.numbers[n], strict=True):
            chart = lane.chart if number > 0 else lane.rest
            if chart is not None and chart.height % 2 == 0:
                assert (abs(number) % 2 == 1) == (row.side == "RS"), "a chart's odd rows are worked on the right side"
    shaping = piece.bands[0].shaping
    assert shaping is not None
    for s in found.stations.stations:
        assert active.counts[s.row] == s.count
    bound = {n for n in active.changing_rows if active.rows[n - 1].bound}
    if shaping.edges != "in turn" and not shaping.manner.every_row:
        assert all(rows[n - 1].side == "RS" for n in active.changing_rows if n not in bound), "on right-side rows"
    for step in shaping.steps:
        at, counts = found.stations.stations[step.station].row, list(step.counts)
        for edge in ("right", "left"):
            if step.edge in ("both", edge):
                mine = [row for row in rows[at:] if row.side == ("RS" if edge == "right" else "WS")]
                assert [row.text.split(",")[0] for row in mine[: len(counts)]] == [f"bind off {n}" for n in counts]
    assert sum("bind off" in row.text for row in rows) == len(bound)


@given(shaped_pieces())
@examples(8)
def test_mirrored_edges_get_mirrored_shaping(piece: Piece) -> None:
    half = piece.bands[0].own[: (len(piece.bands[0].own) + 1) // 2]
    shaping = piece.bands[0].shaping
    assert shaping is not None
    shaping = replace(shaping, steps=())  # bound off a row later at the other edge
    alike = replace(
        piece,
        bands=(
            Band(
                own=half,
                symmetric=True,
                shaping=replace(shaping, edges="both", manner=replace(shaping.manner, lean="along")),
            ),
        ),
    )
    try:
        found = shape_band(alike.band_views[0])
    except CabluxError:
        assume(False)
    widths = tuple(lane.width for lane in found.plane.lanes)

    def turn(c: tuple[int, int]) -> tuple[int, int]:
        return len(widths) - 1 - c[0], widths[c[0]] - 1 - c[1]

    for active_now in found.active.columns:
        assert sorted(map(turn, active_now)) == list(active_now)
    for row in found.active.rows:
        taken = {t.column: (t.into, t.lean) for t in row.taken}
        assert {turn(c): (turn(into), lean.other) for c, (into, lean) in taken.items()} == taken
        made = {m.column: m.lean for m in row.made}
        assert {turn(c): lean.other for c, lean in made.items()} == made


def tapered(low: float, high: float, rows: float, **more: object) -> Piece:
    """From one width to another over so many millimetres, in plain background."""
    base = throw(background(60, "stockinette"), both=NONE)
    stations = (Station(name="cuff", width_mm=low), Station(name="top", width_mm=high, at_mm=rows))
    shaping = EdgeShaped(stations=stations, **more)  # type: ignore[arg-type]
    return replace(base, width_mm=max(low, high), bands=(replace(base.bands[0], shaping=shaping),))


@given(st.integers(8, 60), st.integers(8, 60), st.integers(2, 30), st.sampled_from(["both", "right", "in turn"]))
@examples(20)
def test_no_other_counts_of_the_stations_come_nearer(low: int, high: int, rows: int, edges: str) -> None:
    """Against every pair of counts that there is."""
    piece = tapered(5.0 * low, 5.0 * high, 4.0 * rows, edges=edges)
    view = piece.band_views[0]
    shaping = view.shaping
    assert shaping is not None
    total = round(4.0 * rows * 1000.0 / body_row_um(view))
    total += total % 2
    chances = total if edges == "in turn" else (total + 1) // 2
    reach = chances * 2 if edges != "right" else chances
    wanted = (5000.0 * low, 5000.0 * high)
    fixed = [wanted[i] == max(wanted) for i in (0, 1)]

    def miss(pair: tuple[int, int]) -> float:
        return sum((shaping.width_um(view, c) - w) ** 2 for c, w in zip(pair, wanted, strict=True))

    every = [
        pair
        for pair in product(range(view.side_stitches + 1, 90), repeat=2)
        if abs(pair[0] - pair[1]) <= reach
        and all(c == view.stitches for c, f in zip(pair, fixed, strict=True) if f)
        and (edges != "both" or all((c - view.stitches) % 2 == 0 for c in pair))
    ]
    try:
        plan = plan_stations(view)
    except Infeasible as error:
        assert "too few rows" in str(error)
        return
    assert miss(tuple(s.count for s in plan.stations)) == pytest.approx(min(map(miss, every)))  # type: ignore[arg-type]


def test_a_schedule_of_ones_own_must_add_up_and_fall_on_the_right_side() -> None:
    piece = tapered(150.0, 300.0, 240.0)
    plan = plan_stations(piece.band_views[0])
    changes = plan.stretches[0].schedule.changes
    rates = ((Rate(2, changes),),)
    shaping = piece.bands[0].shaping
    assert shaping is not None
    own = replace(piece, bands=(replace(piece.bands[0], shaping=replace(shaping, rates=rates)),))
    assert [len(r.loops) for r in knitted(own)][-1] == plan.counts[1]
    for bad, said in (
        (((Rate(2, changes + 1),),), "change the count"),
        (((Rate(3, changes),),), "wrong-side rows"),
        (((Rate(40, changes),),), "shape more often"),
    ):
        with pytest.raises(IllegalPiece, match=said):
            plan_stations(
                replace(piece, bands=(replace(piece.bands[0], shaping=replace(shaping, rates=bad)),)).band_views[0]
            )


def test_places_that_cannot_be_reached_are_told_with_the_cure() -> None:
    with pytest.raises(Infeasible, match=r"From “cuff” to “top” there are too few rows: .* Make the piece taller"):
        plan_stations(tapered(100.0, 300.0, 20.0).band_views[0])
    paced = tapered(300.0, 100.0, 60.0)
    bands = paced.bands[0]
    assert bands.shaping is not None
    low = (
        *(replace(s, paced=i == 1) for i, s in enumerate(bands.shaping.stations)),
        Station(name="collar", width_mm=90.0, at_mm=20.0),
    )
    with pytest.raises(IllegalPiece, match=r"“collar” comes after row .* give “collar” a greater height"):
        plan_stations(
            replace(paced, bands=(replace(bands, shaping=replace(bands.shaping, stations=low)),)).band_views[0]
        )
    with pytest.raises(IllegalPiece, match="lies lower"):
        piece = tapered(100.0, 300.0, 200.0)
        shaping = piece.bands[0].shaping
        assert shaping is not None
        low = (*shaping.stations, Station(name="collar", width_mm=100.0, at_mm=50.0))
        plan_stations(
            replace(piece, bands=(replace(piece.bands[0], shaping=replace(shaping, stations=low)),)).band_views[0]
        )


def test_a_border_beside_a_shaped_body_has_its_count_and_fits_it() -> None:
    piece = replace(
        tapered(200.0, 300.0, 240.0),
        bottom=Border(pattern_id="rib-2x2", rows=8),
        top=Border(pattern_id="garter", rows=4),
    )
    rows = knitted(piece)
    first = [len(r.loops) for r in rows[:9]]
    assert len(set(first[:8])) == 1 and (first[0] - 2 * 4 - 2) % 4 == 0
    assert len(rows[-1].loops) == len(rows[-4].loops) == piece.band_views[0].stitches


def test_the_cloth_of_a_shaped_piece_has_its_outline_and_a_cable_keeps_its_columns() -> None:
    """Widths of the relaxed rows grow as their counts do; shaping beside a rope leaves its loops where they are."""
    rope = throw(background(14), panel("rope-3-3-left"), background(14), both=NONE)
    stations = (Station(name="cuff", width_mm=120.0), Station(name="top", width_mm=300.0, at_mm=160.0))
    shaped = replace(rope, bands=(replace(rope.bands[0], shaping=EdgeShaped(stations=stations)),))
    cloth = relax_pattern(compile_piece(shaped))
    assert cloth.relaxed.converged
    counts, widths = cloth.relaxed.net.counts, cloth.shape.widths
    middle = slice(8, len(counts) - 8)
    each = widths[middle] / counts[middle]
    assert each.max() / each.min() < 1.12, "a row is as wide as its stitches, all the way up"
    net = cloth.relaxed.net
    assert len(set(net.band)) == 1, "shaping parts no band"
    active = shape_band(shaped.band_views[0]).active.columns
    named = [c for active_now in active for c in active_now]
    for step, neighbours in zip((1, -1), column_neighbours(net), strict=True):
        for loop, other in enumerate(neighbours):
            there = net.row[loop] + step
            alive = 0 <= there < net.rows and named[loop] in active[there]
            assert named[other] == named[loop] and net.row[other] == (there if alive else net.row[loop])


def test_a_rope_draws_in_as_much_beside_a_shaped_edge_as_in_a_straight_piece() -> None:
    rope = throw(background(16), panel("rope-3-3-left"), background(8), both=NONE)
    stations = (Station(name="below", width_mm=130.0), Station(name="above", width_mm=rope.width_mm, at_mm=180.0))
    shaped = replace(rope, bands=(replace(rope.bands[0], shaping=EdgeShaped(stations=stations, edges="right")),))
    straight = replace(rope, bands=(replace(rope.bands[0], rows=56),))

    def width(piece: Piece) -> float:
        cloth = relax_pattern(compile_piece(piece))
        net, wide = cloth.relaxed.net, []
        for start, count in list(zip(net.starts, net.counts, strict=True))[15:-14]:
            mine = cloth.relaxed.x[start : start + count][cloth.segment[start : start + count] == 2]
            wide.append(mine.max() - mine.min())
        return sum(wide) / len(wide)

    assert width(shaped) == pytest.approx(width(straight), rel=0.015)


@pytest.mark.parametrize(("last", "count"), [(31, 33), (10, 12)])
def test_from_three_stitches_one_more_each_row_from_the_second(last: int, count: int) -> None:
    """Common practice: from 3 stitches, one more on each of rows 2 to 31, there are 33 after row 31."""
    from cablux.core.shapes import Wanted, find_shape, read_answers

    shape = find_shape("corner")
    answers = shape.answered(read_answers(shape.asks, {"side": 30.0}, "cm"))
    (made,) = shape.make(Wanted(name="cloth", answers=answers, evidence=Evidence(gauge=Gauge(20.0, 28.0)))).pieces
    rows = knitted(made.piece)
    assert len(rows[last - 1].loops) == count
    assert [r.text for r in rows[:4]] == ["k3", "k2, yo, k1", "k2, yo, k2", "k2, yo, k3"]
    widest = max(len(r.loops) for r in rows)
    assert [len(r.loops) for r in rows] == [3, *range(4, widest + 1), *range(widest - 1, 2, -1)]


@pytest.mark.parametrize(("ratio", "angle"), [(2.0, 90.0), (1.75, 82.4), (1.4, 70.0)])
def test_the_corner_has_the_angle_that_rows_and_stitches_give(ratio: float, angle: float) -> None:
    """Computed: with one stitch a row the corner's angle is 2·atan(R/2)."""
    assert math.degrees(2 * math.atan(ratio / 2)) == pytest.approx(angle, abs=0.1)
    from cablux.core.shapes import Wanted, find_shape, read_answers
    from cablux.core.shapes.things.corner import corner_geometry

    shape = find_shape("corner")
    answers = shape.answered(read_answers(shape.asks, {"side": 60.0}, "cm"))
    evidence = Evidence(gauge=Gauge(20.0, 20.0 * 1.4))
    (made,) = shape.make(
        Wanted(name="cloth", answers=answers, evidence=evidence, panels=(), background=LIBRARY["stockinette"])
    ).pieces
    _, found = corner_geometry(made.piece)
    plan = plan_stations(made.piece.band_views[0])
    wide = max(plan.stations, key=lambda s: s.count)
    own = (wide.row / wide.at_um) / (wide.count / wide.width_um)  # rows to stitches of the cloth as it is
    assert found == pytest.approx(math.degrees(2 * math.atan(own / 2)), abs=1.5)


@given(shaped_pieces())
@examples(8)
def test_the_chart_shows_each_stitch_in_its_column_and_the_calendar_each_shaped_row(piece: Piece) -> None:
    try:
        shape_band(piece.band_views[0])
    except Infeasible:
        assume(False)
    look_at_the_chart(piece)


def test_two_worked_out_of_one_across_two_sections_stand_in_their_columns() -> None:
    """Grown by kfb at one edge: the stitch that is doubled lies in one section, the new one in the next."""
    piece = throw(
        *(background(3, name) for name in ("seed", "stockinette", "garter", "stockinette", "seed")), both=NONE
    )
    stations = (Station(name="below", width_mm=40.0), Station(name="widest", width_mm=15 * 5.0 + 40.0, at_mm=120.0))
    manner = Manner(increase="kfb", every_row=True)
    shaping = EdgeShaped(stations=stations, edges="right", manner=manner)
    grown = replace(piece, width_mm=stations[1].width_mm, bands=(replace(piece.bands[0], shaping=shaping),))
    active = shape_band(grown.band_views[0]).active
    assert any(m.beside and m.beside[0] != m.column[0] for row in active.rows for m in row.made), "across two sections"
    look_at_the_chart(grown)


def look_at_the_chart(piece: Piece) -> None:
    """Cells of the drawn rows against the lives, and the words in pattern against the counts of the knitted rows."""
    view = piece.band_views[0]
    active = shape_band(view).active
    shown = list(compile_piece(piece).rows[:24])
    lines, widths = shaped_lines(piece, shown)
    there = [{*active_now, *row.bound} for active_now, row in zip(active.columns[1:], active.rows, strict=True)]
    every = {c for columns in there[: len(shown)] for c in columns}
    lanes = sorted({lane for lane, _ in every})
    low = {lane: min(c for at, c in every if at == lane) for lane in lanes}
    across = [(lane, low[lane] + i) for lane, wide in zip(lanes, widths, strict=True) for i in range(wide)]
    for line, columns in zip(lines, there, strict=False):
        empty = [isinstance(op, NoStitch) for part in line.parts for op in part.ops for _ in range(op.cells)]
        assert [c for c, none in zip(across, empty, strict=True) if not none] == sorted(columns), line.number
    told = stretches_in_pattern(view)
    assert tuple(n for s in told for n in s.calendar) == active.changing_rows
    for s in told:
        assert (s.before, s.after) == (active.counts[s.first - 1], active.counts[s.last])
        said = re.findall(r"\d+", s.sentence.partition(":")[2])
        assert int(said[-1] if len(said) < 2 else said[1]) == s.after or s.before == s.after
