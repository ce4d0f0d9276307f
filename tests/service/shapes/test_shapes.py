"""Shapes: what each asks, what it makes of the answers, and that what it makes can be knitted from its words."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import CabluxError, Infeasible
from cablux.core.garment.joins import join_lengths, way_round_um
from cablux.core.gauge import Evidence, Gauge
from cablux.core.library import LIBRARY
from cablux.core.pattern import compile_piece
from cablux.core.piece.widths import body_row_um, body_um
from cablux.core.rows.heights import plan_rows
from cablux.core.rows.row_room import meeting_rows
from cablux.core.rows.row_search import row_choices
from cablux.core.shapes import SHAPES, Wanted, find_shape, read_answers
from cablux.core.shapes.things.corner import corner_geometry
from cablux.service.exchange import read_project
from cablux.service.gauge import add_measure
from cablux.service.pattern import file_text, project_words
from cablux.service.reports import size_report
from cablux.service.shapes.shaped_projects import joins_of, list_shapes, new_project, shape_cautions, shape_of
from cablux.service.size_form import changed_file, form_of
from tests.core.pieces import background, panel, throw
from tests.examples import each, examples
from tests.knitter import knit_pattern


def made(shape: str, *measures: str, gauge: str = "18x25", panels: str = "", **more: str):
    return new_project(shape, measures, gauge=gauge, panels=panels, **more)


@pytest.mark.parametrize("name", sorted(SHAPES))
def test_with_nothing_set_every_shape_is_a_thing_one_can_knit(name: str) -> None:
    file = made(name)
    assert read_project(file.text()) == file
    report = size_report(file.text())
    for own, piece in zip(file.pieces, report.pieces, strict=True):
        cast_on, rows = knit_pattern(file_text(file.opened_at(own.number)))
        assert (cast_on, tuple(len(r.loops) for r in rows)) == (piece.cast_on, piece.counts)
        assert piece.bind_off == piece.counts[-1] and piece.rows == len(rows)
        assert piece.parts[0].begins == cast_on and piece.parts[-1].to_row == len(rows)
        for station in piece.stations:
            assert abs(station.expected_mm - station.wanted_mm) <= 0.12 * station.wanted_mm + 4.0
    asked = next(s for s in list_shapes() if s.id == name).asks
    assert all(ask.source for ask in asked), "every default says where it comes from"


WORN = ["cowl", "headband", "mitts", "bracelet", "mug wrap", "bottle wrap"]


@given(st.sampled_from(WORN), st.integers(14, 32), st.sampled_from(["", "braid-9", "rope-2-2-left", "honeycomb"]))
@examples(8)
def test_the_last_row_of_a_strip_meets_its_first(worn: str, stitches: int, panels: str) -> None:
    """Whole repeats of every panel, as near to the way round as whole repeats come; looked at in the knitted rows."""
    try:
        file = made("strip", f"worn={worn}", gauge=f"{stitches}x{round(1.4 * stitches)}", panels=panels)
    except Infeasible as error:
        assert "will not fit" in str(error) or "no whole number" in str(error)
        return
    piece = file.piece()
    rows, exact = plan_rows(piece).total, piece.height_mm * 1000.0 / plan_rows(piece).bands[0].row_um
    period = piece.row_period()
    assert rows % period == 0 and abs(rows - exact) <= period / 2 + 1e-9
    _, knit = knit_pattern(project_words(file))
    again = [[(lo.face, lo.depth, lo.parents) for lo in r.loops] for r in knit]
    assert len(again) < 2 * period or again[period : 2 * period] == again[:period], "the strip goes on where it began"


@pytest.mark.parametrize(("repeat", "near"), [(8, (136, 144)), (12, (132, 144)), (6, (138, 144))])
def test_the_rows_round_a_body_are_those_of_the_worked_table(repeat: int, near: tuple[int, int]) -> None:
    """Computed: 54 cm at 2.6 rows to the centimetre are 140.4 rows, in whole repeats of 8, 12 or 6."""
    name = next(id for id, p in LIBRARY.items() if p.chart.height == repeat and "panel" in p.uses)
    view = throw(background(6), panel(name), background(6)).band_views[0]
    assert view.piece.row_period() == repeat
    assert meeting_rows(view, 140.4, 2) == near


def test_the_numbers_of_repeats_near_the_way_round_are_offered() -> None:
    piece = made("strip", "around=58").piece()
    now, *others = row_choices(piece)
    assert now.piece == piece and len(others) >= 2
    heights = [a.rows.height_um / 1000.0 for a in (now, *others)]
    assert min(abs(h - 580.0) for h in heights) == abs(heights[0] - 580.0), "what it has is the nearest"
    for answer in others:
        assert answer.rows.body % piece.row_period() == 0 and answer.rows.body != now.rows.body
        assert ("longer" in answer.good_for) == (answer.rows.height_um > 580_000.0)


@pytest.mark.parametrize(("closing", "lost"), [("sewn", 2), ("grafted", -1), ("button and loop", 0)])
def test_what_a_join_swallows_is_knitted_as_well(closing: str, lost: int) -> None:
    file = made("strip", "around=58", f"closing={closing}")
    piece, (join,) = file.piece(), joins_of(file)
    row = body_row_um(piece.band_views[0])
    ring = way_round_um(piece, [join])
    assert ring == pytest.approx(plan_rows(piece).height_um - lost * row)
    assert abs(ring - 580_000.0) <= piece.row_period() * row / 2 + 1, "the ring, not the strip, comes nearest to it"


def test_a_strip_is_read_both_ways_and_its_opening_lies_in_the_seam() -> None:
    mitts = made("strip", "worn=mitts")
    assert [p.copies for p in mitts.pieces] == [2]
    words = project_words(mitts)
    assert "Make 2." in words and "Leave it open from 8 to 12.5 cm, from the right edge, for the thumb." in words
    (join,) = joins_of(mitts)
    found = join_lengths(mitts.all_pieces(), join)
    assert found.one_um == found.other_um and found.open_um == 45_000.0
    cowl = made("strip", "around=19", "ease=-5", "width=17", "worn=cowl", "closing=sewn")
    assert cowl.own.bands == mitts.own.bands and cowl.own.copies == 1, "the same strip, worn otherwise"
    grafted = project_words(made("strip"))
    assert "provisionally" in grafted and re.search(r"Leave the \d+ stitches on the needle", grafted)


@pytest.mark.parametrize(
    ("shape", "measures", "said"),
    [
        ("wagon", [], "There is no shape “wagon”; these are there: bent-band, cardigan, corner, framed-square"),
        ("strip", ["around=4"], "It goes round must be 8 cm to 200 cm, not 4 cm"),
        ("strip", ["around=wide"], "type a number, such as 60 cm, not “wide”"),
        ("strip", ["waist=60"], "There is no “waist” here; these are asked: worn, around"),
        ("strip", ["worn=hat"], "Worn as must be one of: cowl, headband"),
        ("strip", ["worn=mitts", "opening_to=30"], "The thumb opening ends at 30 cm, but the seam is"),
        ("strip", ["worn=mitts", "opening_from=14"], "ends at 12.5 cm, before it begins at 14 cm"),
        ("strip", ["around"], "says no value: type it as name=value"),
        ("corner", ["side=1"], "Side must be 8 cm to 200 cm, not 1 cm"),
        ("tube", ["ease=80"], "Ease must be -25 to 60 per cent, not 80"),
    ],
)
def test_bad_measures_get_a_sentence_with_the_cure(shape: str, measures: list[str], said: str) -> None:
    with pytest.raises(CabluxError, match=re.escape(said)):
        made(shape, *measures)


def test_what_does_not_fit_or_close_is_told() -> None:
    with pytest.raises(Infeasible, match="will not fit a width of 5 cm"):
        made("strip", "worn=bracelet", panels="rope-6-6-left")
    tall = [id for id, p in LIBRARY.items() if p.chart.height >= 24 and p.chart.width() < 20 and "panel" in p.uses]
    with pytest.raises(Infeasible, match="no whole number of repeats comes near"):
        made("strip", "worn=mitts", "width=30", gauge="10x10", panels=tall[0]).piece()
    with pytest.raises(CabluxError, match="“big” is no gauge"):
        made("strip", gauge="big")


def test_lengths_are_read_in_their_own_unit() -> None:
    inches = made("corner", "side=10", unit="in")
    assert inches.unit == "in" and inches.shape and inches.shape.asked["side"] == 10.0
    same = made("corner", "side=25.4", "growth=as a square needs")
    typed = made("corner", "side=10in", "growth=as a square needs")
    assert same.own == typed.own


@pytest.mark.parametrize("background_id", ["garter", "stockinette", "seed"])
def test_a_cloth_grown_as_a_square_needs_is_square(background_id: str) -> None:
    """Two stitches more in some rows where the cloth is low, plain rows where it is tall; from its relaxed sizes."""
    kite = made("corner", "side=40", background=background_id)
    square = made("corner", "side=40", "growth=as a square needs", background=background_id)
    side, angle = corner_geometry(square.piece())
    assert angle == pytest.approx(90.0, abs=2.0) and side == pytest.approx(400.0, rel=0.05)
    _, off = corner_geometry(kite.piece())
    warned = any("kite" in c for c in shape_cautions(kite))
    assert warned == (abs(off - 90.0) > 3.0)
    rows = [r.after - r.before for r in compile_piece(square.piece()).rows]
    grows = rows[: rows.index(-1) if -1 in rows else len(rows)]
    assert (2 in grows) == (off < 88.0), "increased twice in some rows where one is too few"


def test_a_frame_has_its_own_count_and_may_begin_the_panel_on_the_wrong_side() -> None:
    right, wrong = made("framed-square"), made("framed-square", "first_row=wrong side")
    for file, side in ((right, "RS"), (wrong, "WS")):
        pattern = compile_piece(file.piece())
        ends = pattern.cast_on
        assert ends.cast_on == ends.top.count < ends.body, "increased into the panel, decreased back"
        first = next(r for r in pattern.rows if r.section in ("set-up rows", "body"))
        assert first.side == side
        assert all(r.side == "RS" for r in pattern.rows if r.crossing_parts)


@given(st.integers(12, 30), st.integers(40, 90))
@examples(5)
def test_a_cowl_in_the_round_closes_and_says_whether_it_passes_over_the_head(stitches: int, around: int) -> None:
    file = made("tube", f"around={around}", gauge=f"{stitches}x{round(1.4 * stitches)}")
    piece = file.piece()
    assert piece.round and compile_piece(piece).rows[-1].after == compile_piece(piece).cast_on.top.count
    (said,) = shape_cautions(file)
    ends = compile_piece(piece).cast_on
    widest = min(ends.cast_on, ends.top.count) * piece.measure.gauge.stitch_mm
    assert ("passes over a head" in said) == (widest >= 560.0)


@pytest.mark.breadth
def test_every_standard_size_is_one_the_shape_takes() -> None:
    evidence = Evidence(gauge=Gauge(20.0, 28.0))
    for shape in SHAPES.values():
        for size in shape.sizes:
            assert size.source
            given_ = {shape.asks[0].name: size.choice} if size.choice else {}
            answers = read_answers(shape.asks, given_, "cm") | dict(size.answers)
            typed = {k: f"{v}mm" if isinstance(v, float) and k not in ("ease",) else v for k, v in answers.items()}
            assert read_answers(shape.asks, typed, "cm") == answers, (shape.id, size.name)
            if shape.id != "rectangle" and size in each(shape.sizes, 3):
                wanted = Wanted(name="x", answers=shape.answered(answers), evidence=evidence)
                assert find_shape(shape.id).make(wanted).pieces


def test_nothing_outside_the_shapes_names_one() -> None:
    from pathlib import Path

    root = Path(__file__).parents[3] / "src" / "cablux"
    for file in root.rglob("*.py"):
        if "shapes" not in file.parts:
            text = file.read_text("utf-8")
            assert not re.search(rf'["\']({"|".join(SHAPES)})["\']', text), file


def test_a_width_measured_on_a_shaped_piece_is_that_of_the_columns_that_live() -> None:
    """Measured as wide as it should be after that row, it changes nothing; a tenth wider, it makes all of it wider."""
    file = made("corner", "side=40", panels="braid-9")
    piece = file.piece()
    view = piece.band_views[0]
    shaping = view.shaping
    assert shaping is not None
    row = 40
    wide = shaping.width_um(view, compile_piece(piece).row(row).after) / 10_000.0
    for factor in (1.0, 1.1):
        measured = add_measure(row, "width", (round(factor * wide, 2),), state="washed", on_needle=False)(file)
        after = body_um(view, measured.piece().outlook) / body_um(view, piece.outlook)
        assert after == pytest.approx(1.0, abs=0.01) if factor == 1.0 else after > 1.02


@pytest.mark.parametrize(("shape", "measures"), [("corner", ()), ("strip", ("worn=mitts",)), ("framed-square", ())])
def test_in_another_unit_a_project_is_the_same_thing(shape: str, measures: tuple[str, ...]) -> None:
    """Every length of every piece is converted: stations, openings, what was asked, what was measured."""
    file = made(shape, *measures)
    row = min(30, compile_piece(file.piece()).rows_plan.total // 2)
    wide = compile_piece(file.piece()).row(row).after / file.piece().band_views[0].stitches * file.own.size.width
    file = add_measure(row, "width", (round(wide, 1),), state="washed", on_needle=False)(file)
    form = form_of(file)
    typed = {name: f"{float(getattr(form, name)) / 2.54:.3f}" for name in ("width", "height", "tolerance")}
    gauge = {name: f"{float(getattr(form, name)) * 1.016:.4f}" for name in ("stitches", "rows")}
    inches = changed_file(file, replace(form, unit="in", **typed, **gauge))
    before, after = size_report(file.text()), size_report(inches.text())
    assert [p.counts for p in after.pieces] == [p.counts for p in before.pieces]
    for one, other in zip(before.pieces, after.pieces, strict=True):
        assert other.width_mm == pytest.approx(one.width_mm, rel=0.003)
        for a, b in zip(one.stations, other.stations, strict=True):
            assert b.wanted_mm == pytest.approx(a.wanted_mm, abs=0.2)
    opened = [[(o.from_mm, o.to_mm) for o in join.open] for join in after.joins]
    assert opened == [
        [(pytest.approx(o.from_mm, abs=0.1), pytest.approx(o.to_mm, abs=0.1)) for o in join.open]
        for join in before.joins
    ]
    assert inches.shape and file.shape
    for name, value in file.shape.asked.items():
        ask = next(a for a in SHAPES[shape].asks if a.name == name)
        if ask.kind == "length":
            assert float(inches.shape.asked[name]) == pytest.approx(float(value) / 2.54, abs=0.002)
        else:
            assert inches.shape.asked[name] == value


def test_what_a_file_was_asked_out_of_bounds_falls_back_and_its_pages_still_open() -> None:
    file = made("strip", "worn=mitts")
    assert file.shape and file.name == "Mitts"
    odd = file.model_copy(update={"shape": file.shape.model_copy(update={"asked": {"worn": "mitts", "around": 9e9}})})
    found = shape_of(read_project(odd.text()))
    assert found and found[1]["around"] == 190.0 and found[1]["opening_to"] == 125.0
    assert size_report(odd.text()).cautions == shape_cautions(file)
