"""Raglans: knitted from their printed words, down and up; schedules against brute force, necks by worked values."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from itertools import combinations, pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.ends.cast_on import plan_cast_on
from cablux.core.errors import CabluxError, IllegalPiece, Infeasible
from cablux.core.garment.joins import join_problems
from cablux.core.garment.silhouette import silhouette
from cablux.core.gauge import Evidence, Gauge
from cablux.core.library import LIBRARY
from cablux.core.needle.schedule import mixed_schedule
from cablux.core.needle.stations import Station
from cablux.core.notation import Crossing
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.segment import library_segment
from cablux.core.piece.symmetry import is_symmetric
from cablux.core.piece.tied import with_tied_band
from cablux.core.piece.widths import body_row_um, body_um
from cablux.core.rows.shaped_band import shape_band
from cablux.core.shapes import Wanted, find_shape, read_answers
from cablux.core.shapes.bodies.garment_sizes import BODIES
from cablux.core.shapes.raglan.raglan_plan import split_neck
from cablux.core.shaping import SectionShaped, ShortRowed
from cablux.core.shaping.sections import Section
from cablux.core.shaping.short_rows import raised_rows
from cablux.service.exchange import ProjectFile
from cablux.service.pattern import join_sentences, project_words
from cablux.service.projects.changes import on_piece
from cablux.service.shapes.shaped_projects import joins_of, shape_cautions
from tests.examples import examples
from tests.knitter import Row
from tests.service.shapes.test_worn import PANELS, crossings, in_turn, knit_parts, made, runs, whole_garment

SPLITS = ["thirds", "40/40/10/10", "by width of the neck"]
NECKS = ["raised at the back", "level"]


def counts(rows: list[Row]) -> list[int]:
    return [len(row.loops) for row in rows]


@pytest.mark.parametrize(("parity", "back", "sleeve"), [(21, 21, 11), (22, 22, 10)])
def test_a_neck_is_split_as_the_worked_table_says(parity: int, back: int, sleeve: int) -> None:
    """Computed: 72 with four lines of 2, thirds of the rest: 21 + 21 + 11 + 11; 22 where the back is even."""
    raglan = find_shape("raglan")
    answers = raglan.answered(read_answers(raglan.asks, {}, "cm"))
    wanted = Wanted(name="", answers=answers, evidence=Evidence(gauge=Gauge(20.0, 28.0)))
    assert split_neck(wanted, "thirds", 72, back=parity) == (back, sleeve)
    assert 2 * (back + sleeve) + 8 == 72
    assert split_neck(wanted, "40/40/10/10", 72, back=26) == (26, 6), "25.6 and 6.4"


@pytest.mark.parametrize("who", sorted(BODIES))
def test_neck_and_underarm_follow_the_percentages(who: str) -> None:
    """Zimmermann, Knitting Without Tears: the neck 40 % of the body, 8 % under each arm; heads and hands bound both."""
    asks = {ask.name: ask for ask in find_shape("raglan").asks}
    body = BODIES[who].mm("chest") + 100.0
    neck, under = (float(asks[name].default_for(who)) for name in ("neck", "underarm"))
    head = 0.75 * BODIES[who].mm("head")
    assert neck == pytest.approx(0.4 * body, rel=0.01) or neck == pytest.approx(440.0) or neck == round(head)
    assert neck >= head - 1.0
    assert under == pytest.approx(min(100.0, 0.08 * body), abs=1.0)


def test_lines_are_twisted_every_second_and_every_third_round_in_turn() -> None:
    for name in ("twist-line-left", "twist-line-right"):
        chart = LIBRARY[name].chart
        twisted = [n for n in range(1, 21) if any(isinstance(op, Crossing) for op in chart.row((n - 1) % 5 + 1).box)]
        assert [b - a for a, b in pairwise(twisted)] == [2, 3, 2, 3, 2, 3, 2]


@pytest.mark.parametrize("neck", NECKS)
@pytest.mark.parametrize("split", SPLITS)
def test_a_raglan_from_the_top_is_knitted_from_its_words(split: str, neck: str) -> None:
    file = made("raglan", f"split={split}", f"neckline={neck}", gauge="18x25")
    knit = knit_parts(file)
    yoke = knit["Yoke and body"]
    aside = next(n for n, row in enumerate(yoke) if row.held)
    right, left = runs(yoke[aside].held)
    assert right == left
    last = yoke[aside - 1].loops
    body = (len(last) - right - left) // 2
    for name in ("Right sleeve", "Left sleeve"):
        assert len(knit[name][0].loops) >= right + 2, "the held stitches and those picked up under the arm"
        assert counts(knit[name])[-1] % 4 == 0, "a cuff of 2 × 2 rib"
    new = [i for i, loop in enumerate(yoke[aside].loops) if not loop.parents]
    assert len(runs(new)) == 2 and len(set(runs(new))) == 1, "each underarm is cast on at once"
    told = f"hold {right}, cast on {runs(new)[0]}"
    assert yoke[aside].text.count("hold") * yoke[aside].text.count("cast on") == 1 and told in yoke[aside].text
    assert len(yoke[aside].loops) == 2 * body + sum(runs(new))
    view = file.all_pieces()[1 if neck == NECKS[0] else 0].band_views[1]
    assert body_um(view) / 1000.0 == pytest.approx(1040.0, rel=0.05)
    assert aside * body_row_um(view) / 1000.0 == pytest.approx(7.25 * 25.4 + 25.0, abs=12.0), "armhole and 2.5 cm more"


@pytest.mark.parametrize("begun", ["top", "bottom"])
def test_lines_down_the_sides_stand_in_the_middle_of_the_underarms_and_mirror_each_other(begun: str) -> None:
    """Where two columns cross, looked for in the knitted body: half a round apart, leaning away from each other."""
    sets = ("sides=twisted", "lines=plain knit", f"from={begun}", "underarm=5")
    file = made("raglan", *sets, gauge="18x25", panels="braid-9")
    knit, bare = knit_parts(file), knit_parts(made("raglan", *sets[1:], gauge="18x25", panels="braid-9"))
    body = knit["Yoke and body" if begun == "top" else "Body"]
    low = next(n for n, row in enumerate(body) if row.held) + 2 if begun == "top" else 30
    crossed: dict[int, set[bool]] = {}
    for row in body[low : low + 40]:
        for i, (a, b) in enumerate(pairwise(row.loops)):
            if a.parents == (i + 1,) and b.parents == (i,):
                crossed.setdefault(i, set()).add(a.depth > b.depth)
    count = len(body[low].loops)
    (first, leans), (second, others) = sorted(crossed.items())
    assert second - first == count // 2 and len(leans) == len(others) == 1 and leans != others
    assert count == len(bare["Yoke and body" if begun == "top" else "Body"][low].loops), "they take no stitch more"
    texts = {row.text.count("1/1") for row in body[low : low + 40]}
    assert texts == {0, 2}


def test_a_raglan_from_the_bottom_joins_what_was_knitted_before() -> None:
    file = made("raglan", "from=bottom", gauge="18x25")
    knit, words = knit_parts(file), project_words(file)
    yoke, body, sleeve = knit["Yoke"], counts(knit["Body"])[-1], counts(knit["Right sleeve"])[-1]
    under = int(re.findall(r"(\d+) for the right underarm, to be grafted", words)[0])
    total = body + 2 * sleeve - 4 * under
    begin = next(line for line in words.splitlines() if line.startswith("Put the") and "right sleeve (Right" in line)
    assert f": {total} stitches, joined into a round" in begin
    assert total - len(yoke[0].loops) in (0, 2, 4, 6, 8)
    assert counts(yoke)[-1] == len(knit["Neckband"][0].loops), "the neckband goes on over all stitches of the neck"
    pieces = file.all_pieces()
    for join in joins_of(file):
        assert join.how == "grafted" and not list(join_problems(pieces, join))
    wider = on_piece(widened(0))(file.opened_at(1)).all_pieces()
    told = [list(join_problems(wider, join)) for join in joins_of(file)]
    assert any("a graft wants as many on both" in said for each in told for said in each), (
        "its sleeves have not followed"
    )


def widened(at: int) -> Callable[[Piece], Piece]:
    """One more repeat of a segment of the first band, as the bench changes it."""

    def changed(piece: Piece) -> Piece:
        band = piece.bands[0]
        wider = replace(band.own[at], repeats=band.own[at].repeats + 1)
        return with_tied_band(piece, replace(band, own=(*band.own[:at], wider, *band.own[at + 1 :])), 0)

    return changed


@pytest.mark.parametrize("at", [0, 4, 8])
def test_a_wider_segment_of_the_yoke_is_wider_in_body_and_sleeves_too(at: int) -> None:
    """0: a background of the right sleeve; 4 and 8: backgrounds of the back, which the body below it has too."""
    file = made("raglan", gauge="18x25")
    after = on_piece(widened(at))(file.opened_at(2))
    before, knit = knit_parts(file), knit_parts(after)
    grown = {name: len(knit[name][0].loops) - len(before[name][0].loops) for name in ("Right sleeve", "Left sleeve")}
    body = [len(rows["Yoke and body"][-20].loops) for rows in (before, knit)]
    if at == 0:
        assert grown == {"Right sleeve": 1, "Left sleeve": 0}
    else:
        assert set(grown.values()) == {0}
        under = [len(rows["Yoke and body"][60].loops) for rows in (before, knit)]
        assert under[1] == under[0] + 1 and body[1] >= body[0]


def test_both_schedules_are_those_that_stray_least_by_brute_force() -> None:
    """Every way to place so many increases in those rounds, the nearest to the straight line taken; then knitted."""
    for changes, rounds in ((3, 9), (4, 11), (5, 12)):
        ideal = [(k - 0.5) * rounds / changes for k in range(1, changes + 1)]

        def off(rows: tuple[int, ...], ideal: list[float] = ideal) -> float:
            return sum(abs(a - b) for a, b in zip(rows, ideal, strict=True))

        best = min(map(off, combinations(range(1, rounds + 1), changes)))
        assert off(mixed_schedule(changes, rounds).at) == pytest.approx(best)
    yoke = knit_parts(made("raglan", gauge="18x25"))["Yoke and body"]
    aside = next(n for n, row in enumerate(yoke) if row.held)
    sleeve = runs(yoke[aside].held)[0]
    grown = {"sleeve": [0], "back": [0]}
    for row in yoke[:aside]:
        new = [i for i, loop in enumerate(row.loops) if len(loop.parents) == 0]
        quarter = len(row.loops)
        right = sum(i < quarter / 2 for i in new)
        assert 2 * right == len(new), "both halves of the round grow alike"
        many = {0: (0, 0), 2: (0, 0), 4: (1, 1)}[right]
        if right == 2:
            first = new[0]
            many = (1, 0) if first == 0 else (0, 1)
        grown["sleeve"].append(grown["sleeve"][-1] + many[0])
        grown["back"].append(grown["back"][-1] + many[1])
    for each in grown.values():
        strays = [abs(n - r * each[-1] / aside) for r, n in enumerate(each)]
        assert max(strays) < 1.6, "neither line bends"
    assert grown["back"][-1] > grown["sleeve"][-1] > 5 and sleeve > 2 * grown["sleeve"][-1]


def test_the_back_of_the_neck_is_raised_and_the_front_is_not() -> None:
    file = made("raglan", gauge="18x25")
    rows = knit_parts(file)["Back of the neck"]
    worked = [0] * len(rows[0].loops)
    for row in rows:
        left = [int(n) for n in re.findall(r"leave (\d+)", row.text)]
        wrapped = "w&t" in row.text
        low = high = 0
        if row.text.startswith("leave"):
            low = left[0]
        if row.text.rstrip().endswith(f"leave {left[-1]}" if left else "?") and wrapped:
            high = left[-1] + 1
        if row.side == "WS":
            low, high = high, low
        for i in range(low, len(worked) - high):
            worked[i] += 1
    middle = worked.index(max(worked)) + worked.count(max(worked)) // 2
    high = max(worked) * body_row_um(file.all_pieces()[0].band_views[0]) / 1000.0
    assert 18.0 <= high <= 34.0, "2 to 2.5 cm (common practice), and the row that leads to it"
    assert worked[-1] == 1 and worked == sorted(worked[:middle]) + sorted(worked[middle:], reverse=True)


def test_short_rows_reach_further_on_both_sides_by_turns() -> None:
    assert raised_rows(10, 20, 40, pairs=2, outermost=4) == ((0, 20), (10, 20), (10, 26), (4, 26), (4, 40))
    band = Band(own=(library_segment("background", "stockinette", 20),) * 3)
    begin = Station(name="begin", width_mm=300.0)

    def short(*rows: tuple[int, int]) -> Piece:
        shaping = ShortRowed(stations=(begin, begin), rows=rows)
        own = Band(own=band.own, shaping=shaping)
        bare = Border(rows=0)
        return Piece(
            name="x",
            width_mm=300.0,
            height_mm=50.0,
            evidence=Evidence(gauge=Gauge(20.0, 28.0)),
            bands=(own,),
            bottom=bare,
            top=bare,
        )

    assert shape_band(short((0, 30), (10, 30), (10, 60)).band_views[0]).active.counts == (60,) * 4
    for rows, said in (
        (((0, 30), (10, 40)), "the yarn is at stitch 30"),
        (((5, 30),), "the yarn is at stitch 0"),
        (((0, 61),), "there are 60"),
    ):
        with pytest.raises(IllegalPiece, match=said):
            shape_band(short(*rows).band_views[0])


def test_an_odd_stitch_is_made_where_there_is_room_for_it() -> None:
    """From 1 of 22 columns to all: 10 lie to the right of it and 11 to the left."""
    own = (library_segment("background", "stockinette", 22), library_segment("background", "garter", 6))
    stations = (Station(name="begin", width_mm=100.0, row=0), Station(name="end", width_mm=200.0, row=24))
    shaping = SectionShaped(stations=stations, sections=(Section(first=0, last=0, counts=(1, -1), name="gore"),))
    bare = Border(rows=0)
    piece = Piece(
        name="x",
        width_mm=200.0,
        height_mm=100.0,
        evidence=Evidence(gauge=Gauge(20.0, 28.0)),
        bands=(Band(own=own, shaping=shaping),),
        bottom=bare,
        top=bare,
        round=True,
    )
    found = shape_band(piece.band_views[0])
    assert [c for lane, c in found.active.columns[-1] if lane == 0] == list(range(22))


@st.composite
def wishes(draw: st.DrawFn) -> tuple[list[str], str, str]:
    sets = [
        f"for={draw(st.sampled_from(sorted(BODIES)))}",
        f"from={draw(st.sampled_from(['top', 'bottom']))}",
        f"split={draw(st.sampled_from(SPLITS))}",
        f"lines={draw(st.sampled_from(['twisted', 'plain knit']))}",
        f"neckline={draw(st.sampled_from(NECKS))}",
        f"ease={draw(st.integers(0, 20))}",
        f"sides={draw(st.sampled_from(['none', 'twisted', 'plain knit']))}",
    ]
    stitches = draw(st.integers(9, 30))
    panel = draw(st.sampled_from(PANELS)) if draw(st.booleans()) else ""
    return sets, f"{stitches}x{round(1.4 * stitches)}", panel


@given(wishes())
@examples(7)
def test_whatever_body_wears_it_every_round_adds_up_and_no_loop_is_lost(wish: tuple[list[str], str, str]) -> None:
    sets, gauge, panel = wish
    try:
        file: ProjectFile = made("raglan", *sets, gauge=gauge, panels=panel)
    except CabluxError as error:  # the reason is said, with what would mend it
        assert re.search(r"[Mm]ake|[Cc]hoose|cast on fewer", str(error)), error
        return
    whole_garment(file)
    assert "round the chest" in shape_cautions(file)[0]


@pytest.mark.parametrize(
    ("sets", "said"),
    [
        (["yoke_depth=7"], "must be increased .* make the yoke deeper"),
        (["neck=90", "chest=40"], "narrower at the underarm than at the neck"),
        (["underarm=20", "chest=30", "ease=0"], "cast on fewer stitches under the arms"),
        (["length=20"], "make the body longer"),
        (["from=bottom", "length=24"], "make the body longer|as deep as"),
        (["arm=10", "cuff=10"], "make the arms longer"),
    ],
)
def test_a_raglan_that_cannot_be_is_refused_with_what_would_mend_it(sets: list[str], said: str) -> None:
    with pytest.raises(Infeasible, match=said):
        made("raglan", *sets, gauge="18x25")


def test_what_to_mind_shows_the_methods_side_by_side() -> None:
    told = " ".join(shape_cautions(made("raglan", gauge="18x25")))
    assert all(split in told for split in SPLITS)
    assert "in other rounds" in told and "no hole is left" in told
    assert "the last time at the" not in told


def goes_on(below: list[str], first: Row, offset: int) -> list[tuple[str, str]]:
    """The faces of waiting stitches, and of what stands on each alone in the first row over them."""
    faces = {loop.parents[0] - offset: loop.face for loop in first.loops if len(loop.parents) == 1}
    return [(face, faces[i]) for i, face in enumerate(below) if i in faces]


def test_charts_go_on_over_the_stitches_that_have_waited() -> None:
    """Faces of ropes and braids on purl are the same in every round: each must stand on its own column."""
    file = made("raglan", gauge="18x25", panels="braid-9,rope-2-2-left")
    knit = knit_parts(file)
    yoke = knit["Yoke and body"]
    aside = next(n for n, row in enumerate(yoke) if row.held)
    faces = [loop.face for loop in yoke[aside - 1].loops]
    held, many = yoke[aside].held, runs(yoke[aside].held)[0]
    for at, name in enumerate(("Right sleeve", "Left sleeve")):
        mine = [faces[i] for i in held[at * many : (at + 1) * many]]
        under = (len(knit[name][0].loops) - many) // 2
        told = goes_on(mine, knit[name][0], under)
        assert len(told) > many - 8 and all(a == b for a, b in told)
    up = knit_parts(made("raglan", "from=bottom", gauge="18x25", panels="braid-9,rope-2-2-left"))
    words = project_words(made("raglan", "from=bottom", gauge="18x25", panels="braid-9,rope-2-2-left"))
    under = int(re.findall(r"(\d+) for the right underarm, to be grafted", words)[0])
    body, sleeve = ([loop.face for loop in up[name][-1].loops] for name in ("Body", "Right sleeve"))
    half = int(re.findall(r"(\d+) for the right underarm, to be grafted", words.partition("Right sleeve\n")[2])[0])
    whole = len(body) // 2
    rest = sleeve[half : len(sleeve) - (under - half)]
    parts = [rest, body[under:whole], rest, body[whole + under :]]
    waiting = [face for part in parts for face in part]
    told = goes_on(waiting, up["Yoke"][0], 0)
    assert len(told) > len(waiting) - 24 and all(a == b for a, b in told)
    split = re.search(r"here: (\d+) and (\d+)", " ".join(shape_cautions(file)))
    assert split
    first, raised = int(split[2]) + 2, knit["Back of the neck"][-1].loops
    back = [loop.face for loop in raised[first : first + int(split[1])]]
    told = goes_on(back, yoke[0], first)
    assert len(told) > len(back) - 8 and all(a == b for a, b in told), "short rows have worked the back in its charts"


def test_a_raised_neck_is_drawn_as_a_hill_over_the_back() -> None:
    """Each number of rows lies within those below it, and the hill is as high as the back has rows."""
    for way, at in (("top", 0), ("bottom", 4)):
        piece = made("raglan", f"from={way}", gauge="18x25").all_pieces()[at]
        slices = silhouette(piece)
        for part in slices:
            (a, b), (c, d) = part.below_um, part.above_um
            assert a - 1.0 <= c < d <= b + 1.0
        wide = plan_cast_on(piece).bottom.body_um
        assert slices[0].below_um[1] - slices[0].below_um[0] == pytest.approx(wide, rel=0.01)


def test_underarms_are_grafted_from_their_holders() -> None:
    told = [line for line in join_sentences(made("raglan", "from=bottom", gauge="18x25")) if "Graft" in line]
    assert len(told) == 2 and all("from their holders" in line and "provisional" not in line for line in told)


@pytest.mark.parametrize("shape", ["raglan", "pullover", "cardigan", "vest"])
@pytest.mark.parametrize("who", ["baby 3m", "child 2", "woman M", "man 2X"])
def test_the_layout_of_a_back_mirrors_itself(shape: str, who: str) -> None:
    """Where the panels that were chosen do not all fit a small body, those that are left stand in its middle."""
    file = made(shape, f"for={who}", gauge="18x25", panels="braid-9,rope-2-2-left")
    assert is_symmetric(find_shape(shape).layout(file.all_pieces()))


@pytest.mark.parametrize(("gauge", "more"), [("18x25", ()), ("20x28", ("arm=41",)), ("23x32", ("length=60",))])
def test_crossings_keep_their_rhythm_from_part_to_part(gauge: str, more: tuple[str, ...]) -> None:
    """A braid crosses every fourth round, to the left and to the right by turns: on over what has waited, too."""
    sets = ("lines=plain knit", *more)
    down = knit_parts(made("raglan", *sets, gauge=gauge, panels="braid-9"))
    yoke, sleeve = down["Yoke and body"], down["Right sleeve"]
    aside = next(n for n, row in enumerate(yoke) if row.held)
    held = runs(yoke[aside].held)[0]
    beats = [b for b in crossings(yoke[:aside], 0, held - 12) if b[0] > aside - 12]
    assert in_turn([*beats, *((aside + n, lean) for n, lean in crossings(sleeve[:40], 0, 999))])
    file = made("raglan", "from=bottom", *sets, gauge=gauge, panels="braid-9")
    up, under = knit_parts(file), int(re.findall(r"(\d+) for the right underarm", project_words(file))[0])
    sleeve, body, yoke = up["Right sleeve"], up["Body"], up["Yoke"]
    wide = len(sleeve[-1].loops) - under
    beats = [b for b in crossings(sleeve, 0, 999) if b[0] > len(sleeve) - 20]
    assert in_turn([*beats, *((len(sleeve) + n, lean) for n, lean in crossings(yoke[:20], 0, wide - 8))])
    half = len(body[-1].loops) // 2
    beats = [b for b in crossings(body, under, half) if b[0] > len(body) - 20]
    assert in_turn(
        [*beats, *((len(body) + n, lean) for n, lean in crossings(yoke[:20], wide + 4, wide + half - under - 24))]
    )
