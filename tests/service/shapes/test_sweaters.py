"""Sweaters: knitted piece by piece from their printed words, held against published sizes and against each other."""

from __future__ import annotations

import math
import re
from dataclasses import replace
from itertools import pairwise, product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import CabluxError, Infeasible
from cablux.core.garment.joins import Join, PieceEdge, join_lengths, join_problems
from cablux.core.gauge import Evidence, Gauge
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.segment import Segment, library_segment
from cablux.core.piece.widths import body_row_um, body_um
from cablux.core.shapes.bodies.garment_sizes import BODIES
from cablux.core.shapes.sweater.sweater_asks import CUTS, SHOULDERS, SLEEVES
from cablux.service.bench.segment_edits import step_repeats
from cablux.service.exchange import ProjectFile
from cablux.service.pattern import project_words
from cablux.service.projects.changes import on_piece
from cablux.service.shapes.shaped_projects import joins_of, shape_cautions
from tests.examples import examples, over
from tests.knitter import Row
from tests.service.shapes.test_worn import PANELS, crossings, in_turn, knit_parts, made, whole_garment

CONSTRUCTIONS = ["drop", "modified-drop", "set-in"]
NECKS = ["crew", "V", "boat"]
RIGHT, LEFT = "Front, right-hand shoulder", "Front, left-hand shoulder"


@pytest.mark.parametrize(
    ("who", "chest", "arm", "upper", "armhole"),
    [
        ("woman M", (36, 38), 17, 11, (7, 7.5)),
        ("woman 2X", (48, 50), 18, 15.5, (8.5, 9)),
        ("man L", (42, 44), 19.5, 15, (9.5, 10)),
        ("child 8", (26.5, 26.5), 12.5, 8.5, (5.5, 5.5)),
        ("baby 12m", (18, 18), 7.5, 6.5, (3.75, 3.75)),
    ],
)
def test_bodies_are_those_of_the_published_table(
    who: str, chest: tuple[float, float], arm: float, upper: float, armhole: tuple[float, float]
) -> None:
    """Craft Yarn Council, Standards & Guidelines, body sizes, inches; the middle where it prints a range."""
    body = BODIES[who]
    assert (body.chest_in, body.arm_in, body.upper_arm_in, body.armhole_in) == (
        sum(chest) / 2,
        arm,
        upper,
        sum(armhole) / 2,
    )


def test_an_upper_arm_is_a_third_of_the_body() -> None:
    """Zimmermann, Knitting Without Tears: 33 to 35 % of the chest; by that table with 2 in and 4 in of ease: so."""
    women = [100 * (b.upper_arm_in + 2) / (b.chest_in + 4) for who, b in BODIES.items() if who.startswith("woman")]
    worked = [35.6, 33.1, 31.7, 31.1, 31.6, 33.0, 33.3, 33.6, 33.1]
    assert women == pytest.approx(worked, abs=0.06)


def counts(rows: list[Row]) -> list[int]:
    return [len(row.loops) for row in rows]


def first_bound(rows: list[Row], after: int = 0) -> int:
    """The rows before the first in which anything is bound off."""
    return next(n for n, row in enumerate(rows) if n >= after and row.bound)


@pytest.mark.parametrize("neck", NECKS)
@pytest.mark.parametrize("construction", CONSTRUCTIONS)
def test_a_pullover_is_knitted_from_its_words_and_its_pieces_meet(construction: str, neck: str) -> None:
    file = made("pullover", f"construction={construction}", f"neckline={neck}", gauge="18x25")
    knit = knit_parts(file)
    back, front, right, left = (knit[name] for name in ("Back", "Front", RIGHT, LEFT))
    under = first_bound(back)
    shoulders = under if construction == "drop" else first_bound(back, under + 4)
    assert len(front) + first_bound(right) == shoulders, "front and back are as many rows high to the shoulders"
    assert first_bound(left) == first_bound(right) + 1, "a left edge is bound off in the next row"
    if construction != "drop":
        assert counts(front) == counts(back)[: len(front)], "and have the same armholes"
        assert first_bound(front) == under
    bound = sum(len(row.bound) for row in back[shoulders:])
    for side in (right, left):
        assert sum(len(row.bound) for row in side) + len(side[-1].loops) == bound / 2, "shoulders of as many stitches"
    neck_stitches = len(back[-1].loops)
    assert len(front[-1].loops) - 2 * (bound / 2) == neck_stitches, "and the same neck"
    held = re.search(r"Put the (\d+) held stitches of the back neck", project_words(file))
    assert held and int(held[1]) == neck_stitches
    assert len(knit["Sleeve"][0].loops) < max(counts(knit["Sleeve"]))


@over(("construction", "who"), [*product(CONSTRUCTIONS, ["woman S", "man L", "child 6", "baby 6m"])], of=3)
def test_a_sleeve_is_as_long_round_as_its_armhole(construction: str, who: str) -> None:
    """Row by row from the knitted counts: both lines summed up, a seam easing in up to 5 % (common practice)."""
    file = made("pullover", f"construction={construction}", f"for={who}", gauge="20x28")
    knit, pieces = knit_parts(file), dict(zip((p.name for p in file.pieces), file.all_pieces(), strict=True))

    def line(name: str, first: int, last: int) -> float:
        view = pieces[name].band_views[-1]
        wide, high = body_um(view) / view.stitches / 1000.0, body_row_um(view) / 1000.0
        each = counts(knit[name])[first - 1 : last]
        return sum(math.hypot((b - a) / 2.0 * wide, high) for a, b in pairwise(each))

    back, sleeve = knit["Back"], knit["Sleeve"]
    under = first_bound(back)
    top = under if construction == "drop" else first_bound(back, under + 4)
    if construction == "drop":
        assert file.shape is not None
        asked = file.shape.asked["armhole_depth"]
        assert body_um(pieces["Sleeve"].band_views[0]) / 2000.0 == pytest.approx(10.0 * float(asked), rel=0.06)
        return
    armhole = line("Back", under, top)
    widest = counts(sleeve).index(max(counts(sleeve))) + 1
    if construction == "modified-drop":
        half = max(counts(sleeve)) / 2.0 * body_um(pieces["Sleeve"].band_views[0]) / 1000.0 / max(counts(sleeve))
        straight = (len(sleeve) - widest) * body_row_um(pieces["Sleeve"].band_views[0]) / 1000.0
        assert half + straight == pytest.approx(armhole, rel=0.08)
        return
    view = pieces["Sleeve"].band_views[0]
    flat = len(sleeve[-1].loops) / 2.0 * body_um(view) / view.stitches / 1000.0
    cap = line("Sleeve", first_bound(sleeve), len(sleeve)) + flat
    assert cap == pytest.approx(1.02 * armhole, rel=0.06)


@pytest.mark.parametrize("shape", ["pullover", "vest", "cardigan"])
def test_shoulders_in_short_rows_slope_as_much_as_steps_and_meet_stitch_to_stitch(shape: str) -> None:
    """Column by column from the printed words: the neck is worked in each row, the armhole's edge in the fewest."""
    file = made(shape, "construction=set-in", f"shoulders={SHOULDERS[1]}", gauge="18x25")
    stepped = made(shape, "construction=set-in", gauge="18x25")
    rows = knit_parts(file)["Back"]
    first = next(n for n, row in enumerate(rows) if "w&t" in row.text)
    slope = rows[first:]
    count = len(rows[-1].loops)
    worked = [0] * count
    for row in slope:
        left = [int(n) for n in re.findall(r"leave (\d+)", row.text)]
        begins = left.pop(0) if row.text.startswith("leave") else 0
        ends = left.pop() + 1 if "w&t" in row.text else 0
        low, high = (begins, ends) if row.side == "RS" else (ends, begins)
        for i in range(low, count - high):
            worked[i] += 1
    assert worked[0] == worked[-1] - 1 or worked[0] == worked[-1], "both sides alike"
    middle = count // 2
    assert worked[middle] == len(slope) and worked[:middle] == sorted(worked[:middle])
    assert worked[middle] - worked[0] == len(knit_parts(stepped)["Back"]) - first - 2, "as high as the steps"
    braided = knit_parts(
        made(shape, "construction=set-in", f"shoulders={SHOULDERS[1]}", gauge="18x25", panels="braid-9")
    )
    assert in_turn(crossings(braided["Back"], 0, 999)), "the braid goes on through the short rows"
    shoulders = [join for join in joins_of(file) if join.how == "three-needle"]
    assert len(shoulders) == 2
    text = project_words(file)
    assert text.count("to be joined with three needles") == 4
    wrong = replace(shoulders[0], other=PieceEdge(piece=0, edge="bind-off", start_mm=200.0, end_mm=300.0))
    assert any("as many on both" in said for said in join_problems(file.all_pieces(), wrong))


@pytest.mark.parametrize("panel", ["braid-9", "diamond-moss", "bobble-column", "rope-2-2-left"])
def test_sleeves_picked_up_are_the_same_cloth_right_side_out_and_inside_out(panel: str) -> None:
    """Both are knitted from their words; what lies in the cloth, seen from the right side, is the same loop by loop."""
    made_so = [made("pullover", f"sleeves={way}", gauge="18x25", panels=panel) for way in SLEEVES[1:]]
    out, inside = (knit_parts(file) for file in made_so)
    for name in ("Right sleeve", "Left sleeve"):
        assert all(row.side == "RS" for row in out[name]) and all(row.side == "WS" for row in inside[name])
        for a, b in zip(out[name], inside[name], strict=True):
            assert [(lo.face, lo.parents) for lo in a.loops] == [(lo.face, lo.parents) for lo in b.loops]
    words = project_words(made_so[1])
    assert words.count("Turn the work inside out") == 2 and re.search(r"Rounds? 1\b.* \(WS\): ", words)
    right, left = (words.partition(f"Pullover: {side} sleeve\n")[2] for side in ("Right", "Left"))
    assert right.index("armhole (Front)") < right.index("armhole (Back)"), "up the front, down the back"
    assert left.index("armhole (Back)") < left.index("armhole (Front)")
    for construction, way, said in (("set-in", 2, "back and forth"), ("modified-drop", 1, "are sewn in")):
        with pytest.raises(Infeasible, match=said):
            made("pullover", f"construction={construction}", f"sleeves={SLEEVES[way]}", gauge="18x25")


@over(("who", "panel"), [*product(["woman M", "child 8"], ["braid-9", "diamond-moss", "rope-2-2-left"])], of=2)
def test_a_cap_is_worked_in_short_rows_from_the_armhole_and_its_panel_goes_on_down_the_arm(
    who: str, panel: str
) -> None:
    """Column by column: how often each is worked on the way from the shoulder to what is bound off under the arm."""
    sets = ("construction=set-in", f"sleeves={SLEEVES[1]}", f"for={who}")
    file = made("pullover", *sets, gauge="18x25", panels=panel)
    knit, words = whole_garment(file), project_words(file)
    under = len(next(row for row in knit["Back"] if row.bound).bound)
    for side in ("Right", "Left"):
        cap, sleeve = knit[f"{side} cap"], knit[f"{side} sleeve"]
        count = len(cap[0].loops)
        worked = [0] * count
        for n, row in enumerate(cap):
            left = [int(n) for n in re.findall(r"leave (\d+)", row.text)]
            begins = left.pop(0) if row.text.startswith("leave") else 0
            ends = left.pop() + 1 if "w&t" in row.text else 0
            low, high = (begins, ends) if row.side == "RS" else (ends, begins)
            for i in range(low, count - high):
                worked[i] += n > 0
        half = count // 2
        assert worked[half] == max(worked) == len(cap) - 1
        assert worked[:half] == sorted(worked[:half]) and worked[half:] == sorted(worked[half:], reverse=True)
        assert max(worked[: under - 1]) <= 1 and max(worked[count - under + 1 :]) <= 1, "level under the arm"
        assert worked[under + 2] > 1 and worked[count - under - 3] > 1, "and short rows down to there"
        depth = BODIES[who].mm("armhole") * 1.2
        assert 0.6 * depth < len(cap) * 4.0 < 0.8 * depth, (
            "two thirds to three quarters of the armhole (common practice)"
        )
        begin = re.search(rf"{side} cap\n=+\n(?:.*\n)+?(Pick up .*)", words)
        assert begin
        picked = [int(n) for n in re.findall(r"knit (\d+) along", begin[1])]
        assert sum(picked) == count and abs(picked[-1 if side == "Right" else 0] - count / 2) < 0.1 * count
        assert panel != "braid-9" or in_turn(crossings([*cap, *sleeve], 0, 999)), "its leans too"
        crossed = [n for n, row in enumerate([*cap, *sleeve]) if re.search(r"\d/\d [LR]", row.text)]
        usual = {b - a for a, b in pairwise(crossed)}
        assert panel == "diamond-moss" or len(usual) == 1, "in its rhythm from the shoulder to the wrist"


def test_panels_are_not_cut_by_the_neck_and_run_on_over_the_shoulders() -> None:
    file = made("pullover", "construction=drop", gauge="18x25", panels="braid-9,rope-2-2-left")
    knit, front = knit_parts(file), file.all_pieces()[1]
    shoulder, at = len(knit[RIGHT][first_bound(knit[RIGHT]) - 1].loops), 0
    for s in front.bands[0].segments:
        assert not (s.is_panel and at < shoulder < at + s.stitches), "the neck ends in ground, or beside a panel"
        at += s.stitches
    crossed = [n for n, row in enumerate([*knit["Front"], *knit[LEFT]]) if "2/2" in row.text]
    assert crossed[-1] >= len(knit["Front"]) + 4
    assert {b - a for a, b in pairwise(crossed)} == {4}, "every fourth row, all the way up"


def test_a_neckband_goes_over_all_that_is_held_and_suits_its_rib() -> None:
    file = made("pullover", gauge="20x28")
    band = knit_parts(file)["Neckband"]
    begin = next(line for line in project_words(file).splitlines() if "back neck (Back)" in line)
    told = [int(n) for n in re.findall(r"[Pp]ut the (\d+)|pick up and knit (\d+)", begin) for n in n if n]
    assert sum(told) == len(band[0].loops) and len(band[0].loops) % 4 == 0
    assert abs(told[1] - told[3]) <= 1, "as many on either side"
    assert all(row.side == "RS" for row in band)


@pytest.mark.parametrize("construction", ["set-in", "modified-drop"])
def test_a_vest_has_bands_round_its_armholes_that_suit_their_rib(construction: str) -> None:
    file = made("vest", f"construction={construction}", gauge="20x28")
    knit = knit_parts(file)
    right, left = knit["Right armband"], knit["Left armband"]
    assert len(right[0].loops) == len(left[0].loops) and len(right[0].loops) % 4 == 0
    words, back = project_words(file), file.all_pieces()[0]
    assert "armhole (Front, left-hand shoulder)" in words.partition("Right armband\n")[2].partition("Left armband\n")[0]
    under = first_bound(knit["Back"])
    edge = 2.0 * (first_bound(knit["Back"], under + 4) - under) * body_row_um(back.band_views[0]) / 1000.0
    stitch = 100.0 / 20.0
    assert edge / stitch < len(right[0].loops) < 1.7 * edge / stitch, "more than would be drawn out, fewer than ruffle"


def cut_in_the_cloth(knit: dict[str, list[Row]], words: str, own: tuple[Segment, ...]) -> set[str]:
    """The panels of which an armhole takes some columns, or the neck, counted in the knitted front and in the words."""
    whole, out = sum(s.stitches for s in own), set()
    neck = re.search(r"[Pp]ut the (\d+) held stitches of the back neck", words)
    assert neck
    for place in ((whole - len(knit["Front"][-1].loops)) // 2, (whole - int(neck[1])) // 2):
        at = 0
        for s in own:
            out |= {s.name} if s.is_panel and at < place < at + s.stitches else set()
            at += s.stitches
    return out


@st.composite
def wishes(draw: st.DrawFn) -> tuple[list[str], str, str]:
    sets = [
        f"for={draw(st.sampled_from(sorted(BODIES)))}",
        f"construction={draw(st.sampled_from(CONSTRUCTIONS))}",
        f"neckline={draw(st.sampled_from(NECKS))}",
        f"ease={draw(st.integers(0, 20))}",
        f"shoulders={draw(st.sampled_from(SHOULDERS))}",
        f"cuts={draw(st.sampled_from(CUTS))}",
    ]
    stitches = draw(st.integers(9, 30))
    panel = draw(st.sampled_from(PANELS)) if draw(st.booleans()) else ""
    return sets, f"{stitches}x{round(1.4 * stitches)}", panel


@given(wishes())
@examples(8)
def test_whatever_body_wears_it_every_row_adds_up_and_every_edge_meets(wish: tuple[list[str], str, str]) -> None:
    sets, gauge, panel = wish
    try:
        file = made("pullover", *sets, gauge=gauge, panels=panel)
    except CabluxError as error:  # the reason is said, with what would mend it
        assert re.search(r"[Mm]ake|[Cc]hoose|type|bring|cannot start", str(error)), error
        return
    knit, pieces = whole_garment(file), file.all_pieces()
    for name in cut_in_the_cloth(knit, project_words(file), pieces[0].bands[0].segments):
        assert any(f"cut {name}" in said or f"cuts {name}" in said for said in shape_cautions(file)), name
        assert "cuts=never" not in sets
    assert abs(body_um(pieces[0].band_views[0]) / 1000.0 - pieces[0].width_mm) <= pieces[0].tolerance_mm
    for join in joins_of(file):
        found = join_lengths(pieces, join)
        if join.how != "three-needle":  # that one meets stitch to stitch
            assert found.one_um == pytest.approx(found.other_um, rel=0.12), join


@pytest.mark.parametrize(
    ("sets", "said"),
    [
        (["length=16", "for=woman M"], "make it longer"),
        (["neck_width=32", "for=child 2", "construction=set-in"], "narrower|leave no neck"),
        (["neck_depth=25", "construction=set-in"], "begin before the armholes are shaped"),
        (["reach=30"], "reaches down to the wrists"),
        (["upper_arm=60", "construction=set-in"], "make its upper arm wider|upper arm narrower"),
    ],
)
def test_a_sweater_that_cannot_be_is_refused_with_what_would_mend_it(sets: list[str], said: str) -> None:
    with pytest.raises(Infeasible, match=said):
        made("pullover", *sets, gauge="18x25")


@pytest.mark.parametrize(
    ("ease", "fit"), [(3, "close to the body"), (7, "a standard fit"), (12, "a loose fit"), (20, "oversized")]
)
def test_ease_is_called_as_the_published_standard_calls_it(ease: int, fit: str) -> None:
    """Craft Yarn Council, Standards & Guidelines, fit: 2 to 4 in of ease standard, 4 to 6 loose, more oversized."""
    assert f"With {ease} cm of ease that is {fit}." in shape_cautions(made("pullover", f"ease={ease}", gauge="18x25"))


def test_odd_measures_are_warned_of_and_thick_cables_want_more_ease() -> None:
    odd = " ".join(shape_cautions(made("pullover", "neck_depth=16", "wrist=40", gauge="18x25")))
    assert "Depth of the front neck: 16 cm is far from the 8.3 cm of woman M" in odd
    assert "Round the wrist: 40 cm" in odd and "Chest" not in odd
    told = [" ".join(shape_cautions(made("vest", f"ease={n}", gauge="18x25", panels="honeycomb"))) for n in (5, 15)]
    assert "more ease is usual" in told[0] and "more ease is usual" not in told[1]


def test_armholes_leave_panels_whole_unless_that_is_wished() -> None:
    """A cross back of 30 cm would take half of the side ropes: they move inwards, or it is said that they are cut."""
    sets = ("construction=set-in", "cross_back=30")
    moved, cut = (
        made("pullover", *sets, *more, gauge="18x25", panels="braid-9,rope-2-2-left")
        for more in ((), (f"cuts={CUTS[2]}",))
    )
    own = [file.all_pieces()[0].bands[0].segments for file in (moved, cut)]
    assert not cut_in_the_cloth(knit_parts(moved), project_words(moved), own[0])
    assert cut_in_the_cloth(knit_parts(cut), project_words(cut), own[1]) == {"Rope 2/2 left"}
    assert {s.name for s in own[0] if s.is_panel} == {s.name for s in own[1] if s.is_panel}
    assert any("The armholes cut Rope 2/2 left" in said for said in shape_cautions(cut))
    with pytest.raises(Infeasible, match="The neck would cut Honeycomb"):
        made("pullover", f"cuts={CUTS[1]}", gauge="18x25", panels="honeycomb")


def test_what_to_mind_names_the_chest_and_the_head() -> None:
    told: ProjectFile = made("pullover", "for=baby 3m", "neck_width=6", "neckline=boat", gauge="26x36")
    lines = " ".join(shape_cautions(told))
    assert "round the chest" in lines and "no cords at the neck" in lines
    assert "bind off loosely" in lines, "a small neck does not pass the head"


def test_whole_sides_are_held_to_what_a_seam_eases_in_and_parts_of_them_to_their_rows() -> None:
    """As many rows, 8 % longer: only a part of a side, which begins and ends at a row, is sewn row to row."""
    band = (Band(own=(library_segment("background", "stockinette", 40),), rows=100),)
    bare = Border(rows=0)
    short, long = (
        Piece(
            name="Strip",
            width_mm=200,
            height_mm=400,
            evidence=Evidence(gauge=Gauge(20.0, rows)),
            bands=band,
            bottom=bare,
            top=bare,
        )
        for rows in (28.0, 26.0)
    )
    told = list(
        join_problems(
            (short, long), Join(one=PieceEdge(piece=0, edge="right edge"), other=PieceEdge(piece=1, edge="left edge"))
        )
    )
    assert len(told) == 1 and "within 5 %" in told[0]
    parts = Join(
        one=PieceEdge(piece=0, edge="right edge", end_mm=280.0),
        other=PieceEdge(piece=1, edge="left edge", end_mm=301.5),
    )
    assert not list(join_problems((short, long), parts))
    fewer = Join(
        one=PieceEdge(piece=0, edge="right edge", end_mm=280.0),
        other=PieceEdge(piece=1, edge="left edge", end_mm=240.0),
    )
    assert list(join_problems((short, long), fewer))


@over(("number", "shape"), [*product([1, 2], ["pullover", "vest", "cardigan"])], of=2)
def test_a_background_can_be_made_wider_and_narrower_on_the_bench(shape: str, number: int) -> None:
    """Both halves of a back change alike, its armholes take what is more, and all of it can still be knitted."""
    file = made(shape, "construction=set-in", gauge="18x25")
    for by in (1, -1):
        after = on_piece(step_repeats(0, (1,), by))(file.opened_at(number))
        knit = knit_parts(after)
        for join in joins_of(after):
            assert not list(join_problems(after.all_pieces(), join))
        name = after.pieces[number - 1].name
        before = first_bound(knit_parts(file)[name])
        many = [len(rows[name][before - 1].loops) for rows in (knit_parts(file), knit)]
        assert many[1] - many[0] == (by if name == "Left front" else 2 * by)


@pytest.mark.parametrize("panel", ["rope-6-6-left", "horseshoe-12"])
def test_fewer_are_picked_up_beside_a_neck_that_cables_draw_in(panel: str) -> None:
    """Nearly as many held stitches, and neck edges of as many rows: the cabled one is narrower, and so is its band."""
    told = []
    for name in (panel, "rope-1-1-left"):
        file = made("pullover", "neck_width=18", gauge="18x25", panels=name)
        begin = next(line for line in project_words(file).splitlines() if "back neck (Back)" in line)
        back, right, front, left = (
            int(a or b) for a, b in re.findall(r"[Pp]ut the (\d+)|pick up and knit (\d+)", begin)
        )
        told.append((back + front, right + left, len(knit_parts(file)[RIGHT])))
        assert (back + right + front + left) % 4 == 0
    (held, fewer, rows), (as_many, usual, as_high) = told
    assert abs(held - as_many) <= 2 and rows == as_high
    assert 0.8 * usual < fewer < usual
