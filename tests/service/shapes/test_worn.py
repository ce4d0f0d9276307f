"""Hats, mitts, socks, bent bands: knitted part by part from their printed words, and held against published figures."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable
from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.ends.cast_on import plan_cast_on
from cablux.core.errors import CabluxError, IllegalPiece
from cablux.core.garment.follow import follow_parts
from cablux.core.garment.holders import holder_problems
from cablux.core.garment.joins import join_problems
from cablux.core.library import LIBRARY
from cablux.core.notation import Crossing
from cablux.core.pattern import compile_piece
from cablux.core.piece.parts import PartEnd
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.segment import Segment, library_segment
from cablux.core.piece.stretch import stretched_um
from cablux.core.piece.tied import with_tied_band
from cablux.core.piece.widths import body_um
from cablux.core.rows.heights import plan_rows
from cablux.core.rows.shaped_band import shape_band
from cablux.core.shapes import SHAPES
from cablux.core.shapes.things.crowns import crown_rows
from cablux.service.exchange import ProjectFile
from cablux.service.pattern import project_words
from cablux.service.shapes.shaped_projects import joins_of, new_project, shape_cautions
from tests.examples import examples
from tests.knitter import Row, knit_pattern

PANEL_PLACES = next(ask for ask in SHAPES["hat"].asks if ask.name == "cables").choices
PANELS = sorted(p.id for p in LIBRARY.values() if "panel" in p.uses)


def made(shape: str, *measures: str, gauge: str = "20x28", **more: str) -> ProjectFile:
    return new_project(shape, list(measures), gauge=gauge, **more)


@st.composite
def wishes(draw: st.DrawFn) -> tuple[str, list[str], str, str]:
    """A shape with measures of anybody between a newborn and a giant, a gauge, and any panel of the library or none."""
    shape = draw(st.sampled_from(["hat", "mitts", "sock"]))
    sets = []
    for ask in SHAPES[shape].asks:
        low, high = {"head": (330, 640), "hand": (110, 260), "foot": (130, 280)}.get(ask.name, (0, 0))
        if low:
            sets.append(f"{ask.name}={draw(st.integers(low, high)) / 10}")
        elif ask.kind == "choice":
            sets.append(f"{ask.name}={draw(st.sampled_from(ask.choices))}")
    stitches = draw(st.integers(8, 34))
    panel = draw(st.sampled_from(PANELS)) if draw(st.booleans()) else ""
    return shape, sets, f"{stitches}x{round(1.4 * stitches)}", panel


@given(wishes())
@examples(20)
def test_whatever_is_worn_is_audited_as_wide_as_wanted_and_its_stitches_go_on(wish) -> None:
    shape, sets, gauge, panel = wish
    try:
        file = new_project(shape, sets, gauge=gauge, panels=panel)
    except CabluxError as error:  # the reason is said, with what would mend it
        assert re.search(r"choose|make|Choose|type", str(error)), error
        return
    pieces = dict(zip((p.number for p in file.pieces), file.all_pieces(), strict=True))
    assert not list(holder_problems(pieces))
    for piece in pieces.values():
        compile_piece(piece)
    first = pieces[1]
    assert abs(body_um(first.band_views[0]) / 1000.0 - first.width_mm) <= first.tolerance_mm
    knit_parts(file)
    shape_cautions(file)


def runs(places: Iterable[int]) -> list[int]:
    """How many places lie side by side, run by run."""
    found = sorted(places)
    starts = [at for at, place in enumerate(found) if not at or place != found[at - 1] + 1]
    return [b - a for a, b in pairwise([*starts, len(found)])]


def _unpaired(counts: list[int]) -> list[int]:
    """The counts that occur an odd number of times."""
    return [n for n in set(counts) if counts.count(n) % 2]


def knit_parts(file: ProjectFile) -> dict[str, list[Row]]:
    """Every part from its printed words: what one leaves on a holder is what another takes up, once, and no more."""
    texts = re.split(r"\n\n\n(?=\S)", project_words(file))
    assert len(texts) == len(file.pieces)
    names = [p.name or file.name for p in file.pieces]
    waiting: dict[tuple[str, str], int] = {}
    grafted: dict[str, dict[str, list[int]]] = {}
    sewn: list[int] = []
    out = {}
    for name, text in zip(names, texts, strict=True):
        begin = re.search(r"^(?:Put|Pick up|Cast on) .*", text, re.M)
        assert begin is not None
        for count, group, whose in re.findall(r"[Pp]ut the (\d+) held stitches of the ([^(]*) \(([^)]*)\)", begin[0]):
            assert waiting.pop((whose, group)) == int(count), "they are there, and nobody has taken them"
        for whose in re.findall(r"pick up and knit \d+ along the [^(]* \(([^)]*)\)", begin[0]):
            assert whose in out, "an edge that has been knitted"
        cast_on, rows = knit_pattern(text)
        out[name] = rows
        told = re.findall(r"those of the ([a-z -]+)[,.]", text)
        held = [n for row in rows for n in runs(row.held)]
        assert len(told) == len(held), "whose stitches are held is said"
        waiting |= {(name, whose): count for whose, count in zip(told, held, strict=True)}
        ending = text.strip().splitlines()[-1]
        if ending.startswith("Put the") and "on holders" in ending:
            for n, group, how in re.findall(r"(\d+) for the ([a-z -]+)(, to be \w+)?", ending):
                if how.endswith("joined"):
                    sewn.append(int(n))
                elif how:
                    grafted.setdefault(group.removeprefix("rest of the "), {}).setdefault(name, []).append(int(n))
                else:
                    waiting[name, group] = int(n)
        used = [cast_on, *(len(row.loops) for row in rows)]
        for below, row in zip(used, rows, strict=False):
            parents = [p for loop in row.loops for p in loop.parents]
            assert {*parents, *row.held, *row.bound} == set(range(below)), "no loop is lost"
    assert not waiting, "nothing is left on a holder"
    for sides in grafted.values():
        assert len(sides) == 2 and len({sum(each) for each in sides.values()}) == 1, "as many on both needles"
    assert not _unpaired(sewn), "three needles join as many to as many"
    return out


def crossings(rows: list[Row], first: int, last: int) -> list[tuple[int, bool]]:
    """The rows, from 0, in which stitches from one place to another change places; whether those on top go left."""
    out = []
    for n, row in enumerate(rows):
        stand = [
            (lo.parents[0], lo.depth) for lo in row.loops if len(lo.parents) == 1 and first <= lo.parents[0] < last
        ]
        swaps = [(a, b) for a, b in pairwise(stand) if b[0] < a[0]]
        out += [(n, swaps[0][1][1] > swaps[0][0][1])] if swaps else []
    return out


def in_turn(beats: list[tuple[int, bool]], every: int = 4) -> bool:
    """Whether crossings come every so many rows, to the left and to the right by turns; five of them or more."""
    return len(beats) > 4 and all(b[0] - a[0] == every and a[1] != b[1] for a, b in pairwise(beats))


def whole_garment(file: ProjectFile) -> dict[str, list[Row]]:
    """All parts knitted from their words; nothing waits for nobody, and every seam meets."""
    knit, pieces = knit_parts(file), file.all_pieces()
    assert not list(holder_problems(dict(zip((p.number for p in file.pieces), pieces, strict=True))))
    for join in joins_of(file):
        assert not list(join_problems(pieces, join)), join
    return knit


@pytest.mark.parametrize("shape", ["hat", "mitts", "sock"])
@pytest.mark.parametrize("choice", [0, 1])
def test_a_thing_of_several_parts_is_knitted_from_its_words(shape: str, choice: int) -> None:
    first = SHAPES[shape].asks[0]
    found = knit_parts(made(shape, f"{first.name}={first.choices[choice]}", gauge="24x34"))
    assert all(rows for rows in found.values())


def test_a_heel_is_written_out_in_either_manner() -> None:
    for heel in SHAPES["sock"].asks[0].choices:
        sock = made("sock", f"heel={heel}", gauge="24x34")
        in_pattern = project_words(sock, piece="heel", manner="pattern")
        assert in_pattern == project_words(sock, piece="heel") and "turn" in in_pattern


@pytest.mark.parametrize(
    ("shape", "measures"),
    [
        ("hat", ["head=10", "gores=10"]),
        ("hat", ["height=4", "brim_height=5"]),
        ("mitts", ["length=2.4", "hand=11"]),
        ("sock", ["leg=1", "cuff=7"]),
        ("sock", ["foot_length=4"]),
        ("sock", ["foot=4", "ease=-20"]),
    ],
)
def test_what_cannot_be_had_is_told_in_the_unit_that_was_typed(shape: str, measures: list[str]) -> None:
    with pytest.raises(CabluxError) as refused:
        made(shape, *measures, gauge="12x16", unit="in")
    assert re.search(r"\d in\b", str(refused.value)) and " cm" not in str(refused.value)


# Computed from the common practice “every 2nd round, then every round”: rounds = 2·(s − a) ÷ g + (a − e) ÷ g
@pytest.mark.parametrize(
    ("stitches", "gores", "changes_at", "end", "rounds"),
    [(96, 8, 48, 8, 17), (112, 8, 56, 8, 20), (90, 6, 42, 6, 22), (120, 10, 60, 10, 17)],
)
def test_a_crown_takes_the_rounds_that_are_printed(
    stitches: int, gores: int, changes_at: int, end: int, rounds: int
) -> None:
    count = stitches // gores
    middle, slow, fast = crown_rows(count, rounds * 1000.0, 1000.0)
    assert (slow, fast, end) == (2 * (stitches - changes_at) // gores, (changes_at - end) // gores, gores)
    assert middle * gores == changes_at and slow + fast == rounds


def test_a_crown_that_loses_a_stitch_of_each_gore_every_second_round_is_as_high_as_its_radius() -> None:
    """Computed: 80 stitches at 18 to 10 cm, 8 gores: 18 rounds, 7.1 cm, which is C ÷ 2π."""
    row_um = 100_000.0 / 25.0
    middle, slow, fast = crown_rows(10, 18 * row_um, row_um)
    assert (middle, slow, fast) == (1, 18, 0)
    assert slow * row_um / 10_000.0 == pytest.approx(80 / 1.8 / (2 * math.pi), abs=0.2)


def test_a_crown_narrows_its_purl_margins_first_and_its_cables_then() -> None:
    piece = made("hat", "gores=8", "crown=slouched", gauge="20x28", panels="rope-2-2-left").piece()
    view = piece.band_views[1]
    found = shape_band(view)
    rows = [row for row in compile_piece(piece).rows if row.band == 1]
    cables = [max((len(op.over) for op in row.ops if isinstance(op, Crossing)), default=0) for row in rows]
    assert cables == sorted(cables, reverse=True) or max(cables) == 2
    for below, row in zip(found.active.columns, found.active.rows, strict=False):
        for taken in row.taken:
            segment, column = taken.column[0], taken.column[1]
            gore = segment - segment % 3
            background = [c for c in below if c[0] in (gore, gore + 2)]
            edge = 1 < column < view.segments[segment].stitches - 2
            assert not (view.segments[segment].is_panel and edge) or not background, "a cable is touched last"
    assert rows[-1].after == 8, "common practice: drawn together over 6 to 10 stitches"


@given(
    st.sampled_from(["rope-3-3-left", "rope-2-2-left", "braid-6", "braid-9", "rope-4-4-left"]),
    st.integers(40, 64),
    st.integers(16, 30),
    st.sampled_from(["round", "flat-topped", "slouched"]),
    st.sampled_from(PANEL_PLACES),
)
@examples(4)
def test_the_last_crossing_of_a_crown_is_even_and_rests(
    panel: str, head: int, stitches: int, crown: str, at: str
) -> None:
    """As printed: both groups alike, and two rounds or more above it before the cable is no more (common practice)."""
    sets = [f"head={head}", f"crown={crown}", f"cables={at}"]
    try:
        words = project_words(new_project("hat", sets, gauge=f"{stitches}x{round(1.35 * stitches)}", panels=panel))
    except CabluxError:
        return
    rounds = [(row.text, len(row.loops)) for row in knit_pattern(words)[1]]
    last = max(n for n, (text, _) in enumerate(rounds) if re.search(r"\d/\d [LR]C", text))
    groups = [cross.split("/") for cross in re.findall(r"(\d+/\d+) [LR]C", rounds[last][0])]
    assert all(a == b for a, b in groups), rounds[last][0]
    gores = rounds[-1][1]
    assert all(count // gores >= 2 for _, count in rounds[last : last + 3]), rounds[last:]


@pytest.mark.parametrize(("panel", "half"), [("rope-2-2-left", 2), ("rope-3-3-left", 3), ("rope-3-3-right", 3)])
def test_the_last_crossing_of_a_cable_can_take_half_of_it(panel: str, half: int) -> None:
    """Common practice: a decreasing crossing stands where the cable would have crossed, a repeat after the last."""
    file = made("hat", "tops=crossed and halved", gauge="22x30", panels=panel)
    rounds = knit_parts(file)[file.name]
    lean, gores = "L" if "left" in panel else "R", len(rounds[-1].loops)
    halving = [n for n, row in enumerate(rounds) if f"{half}/{half} {lean}C dec" in row.text]
    assert len(halving) == 1
    (at,) = halving
    assert [len(rounds[n].loops) for n in (at - 1, at)] == [2 * half * gores, half * gores]
    crossed = [n for n, row in enumerate(rounds[:at]) if f"{half}/{half} {lean}C" in row.text]
    assert at - crossed[-1] == LIBRARY[panel].chart.height


def test_the_body_of_a_hat_is_as_high_as_suits_the_end_of_its_cables() -> None:
    """Against every other number of rounds within a twentieth of the height: none has more crossings in the crown."""
    piece = made("hat", "gores=8", gauge="22x30", panels="rope-3-3-left").piece()
    plan = plan_rows(piece)
    best = _even_crossings(piece)
    for rows in range(plan.bands[0].body - 3, plan.bands[0].body + 4):
        other = replace(piece, bands=(replace(piece.bands[0], rows=rows), *piece.bands[1:]))
        if abs(plan_rows(other).height_um / 1000.0 - piece.height_mm) <= piece.height_mm / 20.0:
            assert _even_crossings(other) <= best


def _even_crossings(piece: Piece) -> int:
    """Rounds of the crown in which cables narrower than the chart's are crossed, both groups alike."""
    rows = [[op for op in row.ops if isinstance(op, Crossing)] for row in compile_piece(piece).rows if row.band]
    return sum(bool(row) and len(row[0].over) == len(row[0].under) == 2 for row in rows)


@pytest.mark.parametrize("gauge", ["22x30", "14x20"])
def test_a_crown_says_when_it_no_longer_goes_round_a_short_circular_needle(gauge: str) -> None:
    """Common practice: a round of less than 35 to 40 cm."""
    words = project_words(made("hat", gauge=gauge))
    said = re.search(r"After round (\d+) \((\d+) stitches\) it no longer goes round a 40 cm needle", words)
    assert said
    rounds, stitch = knit_pattern(words)[1], 10.0 / float(gauge.split("x")[0])
    at = int(said[1])
    assert len(rounds[at - 1].loops) == int(said[2])
    assert len(rounds[at - 1].loops) * stitch < 35.0 <= min(len(row.loops) for row in rounds[: at - 1]) * stitch
    assert "change to double-pointed" not in project_words(made("tube"))


def test_panels_on_the_lines_stay_whole_until_the_backgrounds_are_gone() -> None:
    piece = made("hat", "cables=on the lines between them", "gores=6", gauge="22x31", panels="braid-6").piece()
    lower, upper = (shape_band(view) for view in piece.band_views[1:])
    for active_now in lower.active.columns:
        panels = [c for c in active_now if piece.bands[1].segments[c[0]].is_panel]
        assert len(panels) == sum(s.stitches for s in piece.bands[1].segments if s.is_panel), "no panel is touched"
    assert upper.active.counts[-1] == 6 and lower.active.counts[-1] == upper.active.counts[0]
    rows = compile_piece(piece).rows
    assert [row.number for row in rows if row.crossing_parts][-1] > rows[-1].number - len(upper.active.rows)


@pytest.mark.parametrize(("who", "median"), [("newborn", 342), ("6 months", 428), ("1 year", 455), ("child of 2", 478)])
def test_children_have_the_heads_of_the_published_standard(who: str, median: int) -> None:
    """WHO Child Growth Standards, head circumference for age, medians of boys and girls, in the middle of both."""
    head = next(ask for ask in SHAPES["hat"].asks if ask.name == "head").default_for(who)
    assert head == pytest.approx(median, abs=3)
    file = made("hat", f"for={who}", gauge="26x36")
    assert any("should not sleep" in line for line in shape_cautions(file)) == (who != "child of 2")


def test_a_gusset_is_a_third_of_the_hand_and_the_other_hand_is_its_mirror() -> None:
    """Common practice: 30 to 36 % of the hand, two stitches every second or third round."""
    file = made("mitts", gauge="24x34")
    right, thumb, left, other = file.all_pieces()
    hand = right.band_views[0].stitches
    held = thumb.begins[0].stitches
    assert 0.28 <= held / hand <= 0.38 and held % 2 == 1
    made_in = [
        row.number for row in compile_piece(right).rows if row.band == 1 and "M1R" in {op.token for op in row.ops}
    ]
    assert {b - a for a, b in pairwise(made_in)} <= {2, 3, 4} and len(made_in) == (held - 1) // 2
    assert thumb.bands == other.bands and thumb.begins[0].piece == 1 and other.begins[0].piece == 3
    rights, lefts = (
        [row.ops for row in compile_piece(p).rows if row.section == "body" and not any(q.held for q in row.parts)]
        for p in (right, left)
    )
    assert [tuple(op.mirrored() for op in ops[::-1]) for ops in rights] == lefts


@pytest.mark.parametrize("kind", ["mittens", "fingerless mitts"])
def test_a_slit_is_left_open_in_the_seam_between_back_and_palm(kind: str) -> None:
    """As printed: both hands worked flat, each the other's mirror; the slit clear of cuff and top, wide as a thumb."""
    file = made("mitts", "thumb=slit in a side seam", f"kind={kind}", gauge="24x34", panels="rope-3-3-left")
    right, left = knit_parts(file).values()
    assert all((row.side == "WS") == bool(n % 2) for n, row in enumerate(right))
    for a, b in zip(right[22:40], left[22:40], strict=True):
        assert [loop.face for loop in a.loops] == [loop.face for loop in b.loops[::-1]]
    back = [loop.face for loop in right[24].loops]
    palm = back[: len(back) // 2 - 4]
    assert set(palm) == {"k"} and "p" in back[len(back) // 2 :], "from its right edge: the palm, then the back"
    opened = re.findall(
        r"Leave it open from ([\d.]+) to ([\d.]+) cm, from the cast-on, for the thumb", project_words(file)
    )
    assert len(opened) == 2
    low, high = map(float, opened[0])
    assert low > 7.0 and high < 6.0 + 12.0 and 2.0 * (high - low) == pytest.approx(18.5 * 0.95 / 2.0, abs=0.2)


@pytest.mark.parametrize(("stitches", "left"), [(20, 12), (28, 16), (32, 18), (36, 20)])
def test_a_heel_is_turned_to_the_stitches_that_everybody_has(stitches: int, left: int) -> None:
    """Common practice (from memory): 20 → 12, 28 → 16, 32 → 18, 36 → 20."""
    file = made("sock", gauge="30x42")
    heel = next(p for p in file.all_pieces() if p.name == "Heel")
    assert heel.bands[1].shaping is not None
    found = _turned(heel, stitches)
    assert found == left


def _turned(heel: Piece, stitches: int) -> int:
    turn = heel.bands[1]
    own = (turn.own[0], replace(turn.own[1], repeats=stitches - 3), turn.own[2])
    piece = replace(heel, bands=(replace(turn, own=own),), begins=(), ends=PartEnd(), width_mm=100.0)
    return compile_piece(piece).rows[-1].after


def test_a_sock_has_the_proportions_that_are_printed() -> None:
    """Common practice: the heel on half the stitches, a flap of as many rows, a stitch picked up for two of them."""
    leg, heel, foot = made("sock", gauge="30x42").all_pieces()
    total, half = leg.band_views[0].stitches, heel.band_views[0].stitches
    assert 0.4 <= half / total <= 0.6 and heel.bands[0].rows == half
    picked = [s.stitches for s in foot.begins if s.kind == "picked up"]
    assert picked == [half // 2 + 1] * 2
    assert plan_cast_on(foot).cast_on == sum(s.stitches for s in foot.begins)
    after = {band: [r.after for r in compile_piece(foot).rows if r.band == band] for band in range(3)}
    assert after[0][-1] == after[1][0] == total, "the gusset is decreased to the leg's count"
    assert 0.2 <= after[2][-1] / total <= 0.5 and after[2][-1] % 2 == 0
    sole = plan_rows(foot).height_um / 1000.0 + shape_band(heel.band_views[1]).stations.stations[-1].at_um / 1000.0
    assert sole == pytest.approx(0.95 * 255.0, abs=15.0), "5 % shorter than the foot"


def test_a_leg_of_twists_keeps_the_stretch_of_its_rib_and_cables_take_it() -> None:
    """Common practice. A rib drawn open is as wide as stockinette; what crosses in groups does not give beyond that."""
    plain, rib, stitch = 40, library_segment("background", "rib-2x1", 40), 100.0 / 28.0
    plain_leg = made("sock", gauge="28x38", panels="twist-columns").piece()

    def drawn(segment: Segment) -> float:
        (view,) = replace(plain_leg, bands=(Band(own=(segment,)),)).band_views
        return stretched_um(view) / 1000.0 / view.stitches / stitch

    assert drawn(library_segment("background", "stockinette", plain)) == pytest.approx(drawn(rib), rel=1e-6)
    for panel in ("twist-columns", "twist-columns-2x2-close-left", "twist-columns-three-right"):
        leg = made("sock", gauge="28x38", panels=panel).piece()
        twisted = next(s for s in leg.bands[0].own if s.is_panel)
        assert drawn(twisted) == pytest.approx(drawn(rib), rel=0.1), panel
        assert twisted.stitches > 30, "the whole instep is twisted"
    drawn_cables = [drawn(library_segment("panel", f"rope-{n}-{n}-left", 1)) for n in (2, 3, 4)]
    assert drawn_cables == sorted(drawn_cables, reverse=True) and drawn_cables[0] < 0.9 * drawn(rib)


@pytest.mark.parametrize(("panel", "warned"), [("twist-columns", False), ("braid-12", True)])
def test_a_leg_whose_crossings_take_the_stretch_is_warned_of(panel: str, warned: bool) -> None:
    told = shape_cautions(made("sock", "ease=-12", gauge="26x36", panels=panel))
    assert any("take the stretch" in line for line in told) == warned, told
    assert any(line.startswith("Its ribs open") for line in told)


@pytest.mark.parametrize(("flap", "slips"), [("slipped stitches", True), ("rib", False)])
def test_a_flap_is_as_many_rows_high_as_it_has_stitches(flap: str, slips: bool) -> None:
    """Common practice; with slipped stitches every second one is passed on, in a rib none is."""
    file = made("sock", f"flap={flap}", gauge="28x38")
    heel = knit_parts(file)["Heel"][: file.all_pieces()[1].bands[0].rows]
    assert len(heel) == len(heel[0].loops) and ("sl" in heel[0].text + heel[1].text) == slips


def test_the_columns_of_a_leg_run_on_over_the_instep() -> None:
    leg, _, foot = made("sock", "heel=short rows", gauge="30x42").all_pieces()
    assert leg.bands[0].own[:3] == foot.bands[0].own[:3]
    with pytest.raises(IllegalPiece, match="Heel must be one of"):
        made("sock", "heel=square")


def test_what_is_changed_in_one_part_is_changed_where_its_stitches_go_on() -> None:
    pieces = dict(enumerate(made("sock", gauge="30x42").all_pieces(), start=1))

    def changed(number: int, at: int, repeats: int) -> dict[int, Piece]:
        band = pieces[number].bands[0]
        own = (*band.own[:at], replace(band.own[at], repeats=repeats), *band.own[at + 1 :])
        wanted = with_tied_band(pieces[number], replace(band, own=own), 0)
        found = follow_parts(pieces, pieces | {number: wanted}, number)
        assert not list(holder_problems(found))
        for piece in found.values():
            compile_piece(piece)
        return found

    instep = changed(1, 0, pieces[1].bands[0].own[0].repeats + 1)
    assert instep[3].bands[0].own[0] == instep[1].bands[0].own[0], "the instep runs on"
    assert instep[3].begins[0].stitches == instep[1].ends.groups[0].stitches == pieces[3].begins[0].stitches + 3
    heel = changed(1, 3, pieces[1].bands[0].own[3].repeats + 2)
    assert heel[2].begins[0].stitches == heel[2].band_views[0].stitches == pieces[2].begins[0].stitches + 2
    turned = heel[2].ends.groups[0].stitches
    assert turned == compile_piece(heel[2]).rows[-1].after == heel[3].begins[2].stitches
    with pytest.raises(IllegalPiece, match="no background in it takes 1 more"):
        changed(1, 3, pieces[1].bands[0].own[3].repeats + 1)


def test_a_wider_gusset_gives_a_wider_thumb() -> None:
    pieces = dict(enumerate(made("mitts", gauge="22x30").all_pieces(), start=1))
    right, held = pieces[1], pieces[2].begins[0].stitches
    grows = right.bands[1]
    own = tuple(replace(s, repeats=held + 2) if s.repeats == held else s for s in grows.own)
    found = follow_parts(pieces, pieces | {1: with_tied_band(right, replace(grows, own=own), 1)}, 1)
    assert found[2].begins[0].stitches == held + 2 and found[4] == pieces[4]
    assert plan_cast_on(found[2]).cast_on == held + 2 + found[2].begins[1].stitches
    assert not list(holder_problems(found))


@pytest.mark.parametrize(("panel", "half", "gores"), [("rope-2-2-right", 2, 8), ("rope-3-3-left", 3, 7)])
def test_a_cable_between_unequal_backgrounds_is_halved_once_both_are_gone(panel: str, half: int, gores: int) -> None:
    """The wider background begins to be taken in, so that the cable still has all its columns when it stands alone."""
    file = made("hat", "tops=crossed and halved", "head=57", f"gores={gores}", gauge="18x25", panels=panel)
    rounds = knit_parts(file)[file.name]
    at = next(n for n, row in enumerate(rounds) if re.search(r"\d/\d [LR]C dec", row.text))
    assert [len(rounds[n].loops) for n in (at - 1, at)] == [2 * half * gores, half * gores]
    crown = [row for row in rounds[:at] if "dec" not in row.text]
    assert all(f"{half}/{half} " in cross for row in crown for cross in re.findall(r"\d/\d [LR]C", row.text))
    told = project_words(file, manner="pattern")
    assert [row.loops for row in knit_pattern(told)[1]] == [row.loops for row in rounds], "written out in any manner"
    assert not any("none is halved" in said for said in shape_cautions(file))


def test_a_crown_whose_cables_cannot_be_halved_says_so() -> None:
    file = made("hat", "tops=crossed and halved", gauge="18x25", panels="braid-9")
    assert any("none is halved" in said for said in shape_cautions(file))
    assert " dec" not in project_words(file)
