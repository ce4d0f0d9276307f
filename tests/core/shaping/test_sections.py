"""Bands shaped along lines inside them: words knitted and looked at column by column, holders, charts that run on."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.optimize import minimize

from cablux.core.errors import CabluxError, IllegalPiece, Infeasible
from cablux.core.fabric.constants import FITTED
from cablux.core.fabric.relax import energy
from cablux.core.fabric.springs import spring_system
from cablux.core.garment.holders import holder_problems
from cablux.core.gauge import Evidence, Gauge
from cablux.core.needle.stations import Station
from cablux.core.notation import CrossedDecrease, Crossing, Lean
from cablux.core.pattern import compile_piece
from cablux.core.pattern.cloth import relax_pattern
from cablux.core.piece.border import Border
from cablux.core.piece.parts import HeldGroup, PartEnd, Source
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.segment import library_segment
from cablux.core.piece.tied import with_tied_band
from cablux.core.rows.shaped_band import shape_band
from cablux.core.shaping import SectionShaped
from cablux.core.shaping.manner import CUT_PANELS
from cablux.core.shaping.section_places import section_places
from cablux.core.shaping.sections import ALL, Holder, Section
from cablux.service.exchange.project_file import read_project
from cablux.service.pattern import begin_sentence, end_sentence, file_text
from tests.core.columns import look_at_columns
from tests.core.pattern.test_knitted import project_file
from tests.core.shaping.test_edges import BACKGROUNDS, NONE, PANELS, manners
from tests.examples import examples
from tests.knitter import knit_pattern


@st.composite
def sectioned(draw: st.DrawFn) -> Piece:
    """In the round or flat, one to three sections of a background, a panel and a background, shaped as they come."""
    in_round = draw(st.booleans())
    own = [] if in_round else [library_segment("edge", "garter", 2)]
    many, sections = draw(st.integers(1, 3)), list[Section]()
    stations = draw(st.integers(2, 4))
    for _ in range(many):
        if draw(st.booleans()):
            own.append(library_segment("background", draw(st.sampled_from(BACKGROUNDS)), 4))  # a line that stays
        first = len(own)
        own.append(library_segment("background", draw(st.sampled_from(BACKGROUNDS)), draw(st.integers(1, 3))))
        own.append(library_segment("panel", draw(st.sampled_from(PANELS)), 1))
        own += [library_segment("background", draw(st.sampled_from(BACKGROUNDS)), 2)] * draw(st.integers(0, 1))
        full = sum(s.stitches for s in own[first:])
        counts = draw(st.lists(st.integers(1, full) | st.just(ALL), min_size=stations, max_size=stations))
        edges = draw(st.sampled_from(["both", "right", "left", "in turn"]))
        sections.append(Section(first=first, last=len(own) - 1, counts=tuple(counts), edges=edges))
    own += [] if in_round else [library_segment("edge", "garter", 2)]
    holders = [
        Holder(
            name=f"part {at}", section=at, station=draw(st.integers(0, stations - 2)), cast_on=draw(st.integers(0, 5))
        )
        for at in range(many)
        if draw(st.booleans()) and len(own) > many + 2
    ]
    heights = sorted(draw(st.lists(st.integers(8, 40), min_size=stations - 1, max_size=stations - 1, unique=True)))
    shaping = SectionShaped(
        stations=tuple(
            Station(name=f"place {i}", width_mm=300.0, row=row) for i, row in enumerate([0, *(2 * h for h in heights)])
        ),
        manner=draw(manners()),
        cabled=draw(st.booleans()),
        sections=tuple(sections),
        holders=tuple(holders),
    )
    band = Band(own=tuple(own), shaping=shaping)
    return Piece(
        name="drawn",
        width_mm=300.0,
        height_mm=300.0,
        evidence=Evidence(gauge=Gauge(20.0, 28.0)),
        bands=(band,),
        bottom=NONE,
        top=NONE,
        round=in_round,
    )


@given(sectioned())
@examples(27)
def test_sections_knitted_from_their_words_are_the_plan_column_by_column(piece: Piece) -> None:
    try:
        found = shape_band(piece.band_views[0])
        text = file_text(read_project(project_file(piece).text()))
    except CabluxError as error:  # too few rows between two places, a hold of the last stitch: told in words
        assert str(error)
        assume(False)
    rows, active, faces = knit_pattern(text)[1], found.active, ["k"] * len(found.active.first)
    assert [len(row.loops) for row in rows] == list(active.counts[1:]), "each row leaves as many as live"
    for n, row in enumerate(rows):
        below, above = active.columns[n], active.columns[n + 1]
        look_at_columns(
            found.plane.lanes, found.numbers[n], active.rows[n], below, faces, above, row.loops, narrow=True
        )
        assert [below[i] for i in row.held] == list(active.rows[n].held), "what goes onto a holder is what was to go"
        faces = [loop.face for loop in row.loops]
    shaping = piece.bands[0].shaping
    assert shaping is not None
    inside = {at for s in shaping.sections for at in range(s.first, s.last + 1)}
    for active_now in active.columns:
        lines = [c for c in active_now if c[0] not in inside]
        assert len(lines) == sum(s.stitches for at, s in enumerate(piece.bands[0].own) if at not in inside)
    for at, section in enumerate(shaping.sections):
        for k, station in enumerate(found.stations.stations):
            count = sum(section.first <= lane <= section.last for lane, _ in active.columns[station.row])
            held = any((h.section, h.station) < (at, k) and h.section == at for h in shaping.holders)
            wanted = section.counts[k] if section.counts[k] != ALL else len(section_places(found.plane, section))
            assert held or count == wanted


def gored(many: int = 6, panel: str = "rope-2-2-left", **more: object) -> Piece:
    """A crown: so many gores of a rope between purls, each drawn in to two stitches."""
    gore = [library_segment("background", "reverse-stockinette", 4), library_segment("panel", panel, 1)]
    gore.append(library_segment("background", "reverse-stockinette", 4))
    wide = sum(s.stitches for s in gore)
    sections = tuple(Section(first=3 * k, last=3 * k + 2, counts=(ALL, wide // 2, 2, 2)) for k in range(many))
    rows = {"body": 0, "half": 24, "top": 34, "end": 40}
    stations = tuple(Station(name=name, width_mm=200.0, row=row) for name, row in rows.items())
    shaping = SectionShaped(stations=stations, sections=sections, manner=CUT_PANELS, **more)  # type: ignore[arg-type]
    body = Band(own=tuple(gore * many), rows=10)
    crown = Band(own=tuple(gore * many), shaping=shaping, runs_on=True)
    return Piece(
        name="crown",
        width_mm=400.0,
        height_mm=200.0,
        evidence=Evidence(gauge=Gauge(20.0, 28.0)),
        bands=(body, crown),
        bottom=Border(pattern_id="rib-2x2", rows=6),
        top=NONE,
        round=True,
        ends=PartEnd("drawn together"),
    )


def test_a_crown_runs_on_from_its_body_narrows_its_cables_and_is_drawn_together() -> None:
    piece = gored()
    pattern = compile_piece(piece)
    crossings = [
        (row.number, {len(op.over) for op in row.ops if isinstance(op, Crossing)})
        for row in pattern.rows
        if any(isinstance(op, Crossing) for op in row.ops)
    ]
    rows = [n for n, _ in crossings]
    every = piece.bands[0].own[1].chart.height
    assert {b - a for a, b in pairwise(rows)} == {every}, "the rope goes on in its rhythm"
    assert rows[-1] > pattern.rows_plan.bottom + pattern.rows_plan.bands[0].rows, "and into the crown"
    wide = [max(groups) for _, groups in crossings]
    assert wide[0] == 2 and wide[-1] == 1 and wide == sorted(wide, reverse=True), "2/2, then 1/1"
    assert pattern.rows[-1].after == 12
    file = project_file(piece)
    assert end_sentence(file).startswith("Cut the yarn, draw it twice through the 12 stitches")
    cast_on, knitted = knit_pattern(file_text(read_project(file.text())))
    assert len(knitted[-1].loops) == 12 and cast_on == pattern.cast_on.cast_on


def test_holders_are_taken_once_by_what_goes_on_from_them() -> None:
    base = gored(3)
    crown = base.bands[1]
    assert crown.shaping is not None
    held = replace(
        crown.shaping,
        holders=(Holder(name="thumb", section=1, station=1, cast_on=3),),
        sections=_held_sections(crown.shaping),
    )
    hand = replace(base, bands=(base.bands[0], replace(crown, shaping=held)))
    many = 6
    background = library_segment("background", "stockinette", many + 3)
    begins = (
        Source(kind="held", piece=1, name="thumb", stitches=many),
        Source(kind="picked up", piece=1, name="gap", stitches=3),
    )
    thumb = Piece(
        name="thumb",
        width_mm=60.0,
        height_mm=60.0,
        evidence=base.evidence,
        bands=(Band(own=(background,)),),
        bottom=NONE,
        top=NONE,
        round=True,
    )
    thumb = replace(thumb, begins=begins, tolerance_mm=10.0)
    assert not list(holder_problems({1: hand, 2: thumb}))
    assert "are waiting" in next(holder_problems({1: hand}))
    assert "no piece puts on a holder" in next(holder_problems({2: thumb}))
    other = replace(thumb, begins=(Source(kind="held", piece=1, name="thumb", stitches=many + 1), begins[1]))
    assert "7 held stitches" in " ".join(holder_problems({1: hand, 2: other}))
    assert "twice" in " ".join(holder_problems({1: hand, 2: thumb, 3: thumb}))
    file = project_file(thumb)
    assert begin_sentence(file).endswith("pick up and knit 3 along the gap (Kelp): 9 stitches, joined into a round.")
    assert knit_pattern(file_text(read_project(file.text())))[0] == many + 3
    with pytest.raises(IllegalPiece, match="make up for 1"):
        read_project(
            project_file(
                replace(thumb, begins=(*begins[:1], Source(kind="picked up", piece=1, name="gap", stitches=2)))
            ).text()
        )
    wrong = replace(thumb, ends=PartEnd("held", (HeldGroup("a", 4), HeldGroup("b", 4))))
    with pytest.raises(IllegalPiece, match="leaves 9 stitches, but 8"):
        read_project(project_file(wrong).text())


def _held_sections(shaping: SectionShaped) -> tuple[Section, ...]:
    first, second, third = shaping.sections
    return (first, replace(second, counts=(ALL, 6, 3, 3)), third)


def test_sections_that_cannot_be_are_told() -> None:
    piece = gored(2)
    shaping = piece.bands[1].shaping
    assert shaping is not None
    one, two = shaping.sections

    def told(**changed: object) -> str:
        band = replace(piece.bands[1], shaping=replace(shaping, **changed))  # type: ignore[arg-type]
        with pytest.raises((IllegalPiece, Infeasible)) as error:
            compile_piece(replace(piece, bands=(piece.bands[0], band)))
        return str(error.value)

    assert "to the left of the one before" in told(sections=(two, one))
    assert "needs 4 counts" in told(sections=(one, replace(two, counts=(ALL, 2))))
    assert "cannot have 99" in told(sections=(one, replace(two, counts=(ALL, 99, 2, 2))))
    assert "too few for" in told(stations=(*shaping.stations[:2], *(replace(s, row=25) for s in shaping.stations[2:])))
    assert "on a holder" in told(holders=(Holder(name="x", section=0, station=3),))
    assert "another name" in told(
        holders=(Holder(name="x", section=0, station=0), Holder(name="x", section=1, station=0))
    )
    assert "can be cast on" in told(holders=(Holder(name="x", section=0, station=0, cast_on=99),))


def joined_strip() -> Piece:
    """A narrow rope whose last row is joined to its first."""
    edge = library_segment("edge", "garter", 2)
    own = (edge, library_segment("panel", "rope-2-2-left", 1), edge)
    piece = Piece(
        name="strip",
        width_mm=60.0,
        height_mm=120.0,
        evidence=Evidence(gauge=Gauge(20.0, 28.0)),
        bands=(Band(own=own, rows=32),),
        bottom=NONE,
        top=NONE,
    )
    return replace(piece, meets=True, tolerance_mm=10.0)


@pytest.mark.parametrize("piece", [gored(2), joined_strip()], ids=["crown", "strip"])
def test_shaped_and_joined_cloth_lies_where_a_general_optimiser_finds_it(piece: Piece, monkeypatch) -> None:
    monkeypatch.setattr("cablux.core.fabric.whole._TOLERANCE", 1e-5)
    cloth = relax_pattern(compile_piece(piece)).relaxed
    net, ratio = cloth.net, 1.4
    s, n = spring_system(net, ratio, FITTED), net.loops
    begin = np.concatenate((1.0 * net.place, [net.counts.max()], net.row / ratio, [net.rows / ratio]))
    found = minimize(lambda v: energy(s, v), begin, jac=True, method="L-BFGS-B", options={"maxiter": 20000})
    assert cloth.converged
    x, y = found.x[:n] - found.x[:n].mean(), found.x[n + 1 : -1]
    for row in range(net.rows):
        here = net.row == row
        assert np.ptp(cloth.x[here]) == pytest.approx(np.ptp(x[here]), abs=0.05), "as wide in every row"
    assert np.ptp(cloth.y) == pytest.approx(np.ptp(y), rel=0.005)


def test_a_joined_strip_is_as_wide_at_its_join_as_elsewhere() -> None:
    joined = relax_pattern(compile_piece(joined_strip())).relaxed
    wide = [float(np.ptp(joined.x[joined.net.row == row])) for row in range(joined.net.rows)]
    assert wide[0] == pytest.approx(wide[-1], abs=0.15) and wide[0] == pytest.approx(wide[16], abs=0.5)
    loose = relax_pattern(compile_piece(replace(joined_strip(), meets=False))).relaxed
    ends = [float(np.ptp(loose.x[loose.net.row == row])) for row in (0, loose.net.rows - 1)]
    assert max(ends) > max(wide) + 0.1, "free ends spread"


def test_a_change_of_the_body_is_made_in_the_crown_as_well() -> None:
    piece = gored(3)
    body, crown = piece.bands
    wider = replace(body, own=(replace(body.own[0], repeats=6), *body.own[1:]))
    changed = with_tied_band(piece, wider, 0)
    assert changed.bands[1].own == wider.own and compile_piece(changed).rows[-1].after == 6
    more = replace(body, own=(*body.own[:5], library_segment("panel", "twist-columns", 1), *body.own[5:]))
    changed = with_tied_band(piece, more, 0)
    shaping = changed.bands[1].shaping
    assert shaping is not None and [(s.first, s.last) for s in shaping.sections] == [(0, 2), (3, 6), (7, 9)]
    assert compile_piece(changed).rows[-1].after == 6, "the new panel is drawn in with its section"
    fewer = replace(body, own=body.own[3:])
    with pytest.raises(IllegalPiece, match="leave nothing of a section"):
        with_tied_band(piece, fewer, 0)
    apart = replace(piece, bands=(body, replace(crown, runs_on=False)))
    assert with_tied_band(apart, wider, 0).bands[1] == apart.bands[1]


@pytest.mark.parametrize(("panel", "half"), [("rope-2-2-left", 2), ("rope-3-3-right", 3)])
def test_a_cable_that_stands_alone_is_crossed_and_halved(panel: str, half: int) -> None:
    plain = gored(4, panel)
    shaping = plain.bands[1].shaping
    assert shaping is not None
    sections = tuple(replace(s, edges="in turn") for s in shaping.sections)
    rows = {"half": 24, "top": 40, "end": 44}
    stations = (shaping.stations[0], *(Station(name=name, width_mm=200.0, row=row) for name, row in rows.items()))
    shaping = replace(shaping, sections=sections, stations=stations)
    plain = replace(plain, bands=(plain.bands[0], replace(plain.bands[1], shaping=shaping)))
    piece = replace(plain, bands=(plain.bands[0], replace(plain.bands[1], shaping=replace(shaping, cabled=True))))
    pattern = compile_piece(piece)
    halved = [op for row in pattern.rows for op in row.ops if isinstance(op, CrossedDecrease)]
    assert [op.count for op in halved] == [half] * 4
    assert {op.lean for op in halved} == {Lean.LEFT if "left" in panel else Lean.RIGHT}
    assert pattern.rows[-1].after == compile_piece(plain).rows[-1].after, "and the count is the same"
    knitted = knit_pattern(file_text(read_project(project_file(piece).text())))[1]
    assert len(knitted[-1].loops) == 8
