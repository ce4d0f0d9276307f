"""Fronts unlike their backs: straight where a crossed back slopes, wider, or shorter; knitted from their words."""

from __future__ import annotations

import math
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import CabluxError, Infeasible
from cablux.core.piece.widths import body_row_um, body_um
from cablux.core.shapes.bodies.garment_sizes import BODIES
from cablux.core.shapes.sweater.sweater_asks import SHOULDERS
from cablux.service.bench.segment_edits import step_repeats
from cablux.service.errors import NotFound
from cablux.service.exchange import ProjectFile, read_project
from cablux.service.pattern import project_words
from cablux.service.projects.changes import on_piece
from cablux.service.shapes.measures import after_layout
from cablux.service.shapes.shaped_projects import shape_cautions
from tests.examples import examples
from tests.knitter import Row
from tests.service.shapes.test_worn import PANELS, knit_parts, made, whole_garment

CROSSED = f"shoulders={SHOULDERS[2]}"
RIGHT = "Front, right-hand shoulder"


def height(rows: list[Row], of: ProjectFile, piece: int = 0) -> float:
    return len(rows) * body_row_um(of.all_pieces()[piece].band_views[0]) / 1000.0


def sloped(rows: list[Row]) -> list[Row]:
    """The rows in which loops are crossed and worked together, and those between them."""
    first = next(n for n, row in enumerate(rows) if " dec" in row.text)
    return rows[first:]


@pytest.mark.parametrize("shape", ["pullover", "vest", "cardigan"])
@pytest.mark.parametrize("panel", ["braid-9", "diamond-moss"])
def test_a_back_that_crossings_slope_is_as_long_there_as_the_front_is_straight(shape: str, panel: str) -> None:
    """Loop by loop: in right-side rows, inside the edge stitch, the nth of one group with the nth of the other."""
    file = made(shape, "construction=set-in", CROSSED, gauge="18x25", panels=panel)
    knit = whole_garment(file)
    slope, taken = sloped(knit["Back"]), 0
    for n, row in enumerate(slope):
        pairs = [lo.parents for lo in row.loops if len(lo.parents) == 2]
        assert bool(pairs) == (n % 2 == 0) == (row.side == "RS")
        if not pairs:
            continue
        many = len(pairs) // 2
        below = sum(len(lo.parents) for lo in row.loops)
        right, left = (sorted(p) for p in (map(sorted, pairs[:many]), map(sorted, pairs[many:])))
        assert right == [[1 + i, 1 + i + many] for i in range(many)], "after one edge stitch"
        assert left == [[below - 1 - 2 * many + i, below - 1 - many + i] for i in range(many)]
        assert all(lo.parents[0] > lo.parents[1] for lo in row.loops[1 : 1 + many]), "on top: what goes to the edge"
        assert all(lo.parents[0] < lo.parents[1] for lo in row.loops[-1 - many : -1])
        taken += many
    front = knit[RIGHT if shape != "cardigan" else "Left front"]
    assert not any(row.bound for row in front[-6:]), "bound off at once"
    view = file.all_pieces()[0].band_views[0]
    stitch, rise = body_um(view) / view.stitches / 1000.0, height(slope, file)
    own = next(p for p in file.all_pieces() if p.name in (RIGHT, "Left front")).band_views[0]
    straight = len(front[-1].loops) * body_um(own) / own.stitches / 1000.0
    assert straight == pytest.approx(math.hypot(taken * stitch, rise), rel=0.1)
    assert 0.35 < rise / (taken * stitch) < 0.75, "3 over 3 every other row: a slope of about one in two"
    held = re.search(r"[Pp]ut the (\d+) held stitches of the back neck", project_words(file))
    assert held and int(held[1]) == len(slope[-1].loops)


def test_a_crossed_back_and_its_front_are_as_high_in_all_and_their_armholes_as_deep() -> None:
    file, stepped = (made("pullover", "construction=set-in", way, gauge="18x25") for way in (CROSSED, "neckband=2.5"))
    crossed, plain = whole_garment(file)["Back"], whole_garment(stepped)["Back"]
    front = [row for name in ("Front", RIGHT) for row in whole_garment(file)[name]]
    assert abs(len(crossed) - len(front)) <= 1
    under = next(n for n, row in enumerate(plain) if row.bound)
    over = next(n for n, row in enumerate(plain) if n > under + 4 and row.bound)
    lower = len(crossed) - len(sloped(crossed))
    assert lower + len(front) == pytest.approx(2 * over, abs=2), "what the back's armhole lacks the front's has"
    assert len(front) - lower > 10
    told = project_words(file, piece="Back", manner="pattern")
    assert re.search(
        "Inside 1 edge stitch at both ends, leaning to the edge, cross and decrease 3 over 3 in rows", told
    )


@pytest.mark.parametrize("construction", ["modified-drop", "set-in"])
@pytest.mark.parametrize("shape", ["pullover", "cardigan"])
def test_a_front_that_is_wider_loses_that_at_its_armholes(shape: str, construction: str) -> None:
    file = made(shape, f"construction={construction}", "front_wider=6", gauge="18x25")
    knit, pieces = whole_garment(file), dict(zip((p.name for p in file.pieces), file.all_pieces(), strict=True))
    chest = 10.0 * sum(float(file.shape.asked[name]) for name in ("chest", "ease")) if file.shape else 0.0
    names = ["Front"] if shape == "pullover" else ["Left front", "Right front"]
    back = body_um(pieces["Back"].band_views[0]) / 1000.0
    front = sum(body_um(pieces[name].band_views[0]) for name in names) / 1000.0
    assert front + back == pytest.approx(chest, rel=0.02 if shape == "pullover" else 0.05), "bands make up the rest"
    if shape == "cardigan":
        return
    assert front - back == pytest.approx(60.0, abs=6.0)
    low, high = 30, len(knit["Front"]) - 1
    lost = [len(knit[name][low].loops) - len(knit[name][high].loops) for name in ("Back", "Front")]
    assert lost[1] - lost[0] == len(knit["Front"][low].loops) - len(knit["Back"][low].loops) > 0


def test_a_back_that_is_longer_hangs_free_and_its_panels_cross_at_the_heights_of_the_fronts() -> None:
    file = made("pullover", "back_longer=8", gauge="18x25", panels="braid-9")
    knit = whole_garment(file)
    more = len(knit["Back"]) - len(knit["Front"]) - len(knit[RIGHT])
    plain = whole_garment(made("pullover", gauge="18x25", panels="braid-9"))
    usual = len(plain["Back"]) - len(plain["Front"]) - len(plain[RIGHT])
    row = body_row_um(file.all_pieces()[0].band_views[0]) / 1000.0
    assert (more - usual) * row == pytest.approx(80.0, abs=row)
    lean = {
        name: {(n, way) for n, r in enumerate(knit[name]) for way in re.findall(r"3/3 [LR]C", r.text)}
        for name in ("Back", "Front")
    }
    lower = more - usual
    assert lean["Front"] and {(n + lower, way) for n, way in lean["Front"]} <= lean["Back"]
    seams = re.findall(r"right edge of Back from ([\d.]+) to", project_words(file))
    assert min(map(float, seams)) == pytest.approx(8.0, abs=0.5)


@pytest.mark.parametrize(
    ("sets", "said"),
    [
        (["construction=drop", "front_wider=4"], "no armhole that takes away what the front is wider"),
        (["back_longer=30", "length=40", "for=child 8"], "let it hang less low"),
    ],
)
def test_a_front_that_cannot_be_is_refused_with_what_would_mend_it(sets: list[str], said: str) -> None:
    with pytest.raises(Infeasible, match=said):
        made("pullover", *sets, gauge="18x25")


def test_parts_of_a_sleeves_top_in_words_are_read_as_numbers() -> None:
    file = made("pullover", gauge="18x25")
    text = file.text().replace('"over": 0.5', '"over": "half"').replace('"over": 1.0', '"over": "whole"')
    text = text.replace('"cablux": 5', '"cablux": 4')
    assert '"half"' in text and read_project(text) == read_project(file.text())


@st.composite
def wishes(draw: st.DrawFn) -> tuple[str, list[str], str, str]:
    sets = [
        f"for={draw(st.sampled_from(sorted(BODIES)))}",
        f"construction={draw(st.sampled_from(['modified-drop', 'set-in']))}",
        f"shoulders={draw(st.sampled_from(SHOULDERS))}",
        f"front_wider={draw(st.integers(0, 8))}",
        f"back_longer={draw(st.integers(0, 12))}",
        f"ease={draw(st.integers(0, 20))}",
    ]
    stitches = draw(st.integers(9, 30))
    panel = draw(st.sampled_from(PANELS)) if draw(st.booleans()) else ""
    return draw(st.sampled_from(["pullover", "vest", "cardigan"])), sets, f"{stitches}x{round(1.4 * stitches)}", panel


@given(wishes())
@examples(5)
def test_whatever_differs_front_and_back_every_edge_meets(wish: tuple[str, list[str], str, str]) -> None:
    shape, sets, gauge, panel = wish
    try:
        file = made(shape, *sets, gauge=gauge, panels=panel)
    except CabluxError as error:
        assert re.search(r"[Mm]ake|[Cc]hoose|type|bring|let ", str(error)), error
        return
    whole_garment(file)


@pytest.mark.parametrize("shape", ["pullover", "raglan"])
def test_a_fit_chooses_the_ease_and_more_of_it_for_cloth_that_is_all_cables(shape: str) -> None:
    """Craft Yarn Council, Standards & Guidelines, fit: 2 to 4 in of ease standard, 4 to 6 loose, more oversized."""
    inches = {"close to the body": (0, 2), "a standard fit": (2, 4), "a loose fit": (4, 6), "oversized": (6, 9)}
    for fit, (low, high) in inches.items():
        plain, thick = (
            made(shape, f"fit={fit}", "for=man M", gauge="12x17", panels=panels)
            for panels in ("rope-2-2-left", "braid-12,rope-6-6-left,rope-3-3-left")
        )
        chest = BODIES["man M"].mm("chest")
        told = [float(re.search(r"given ([\d.]+) cm of ease", " ".join(shape_cautions(f)))[1]) for f in (plain, thick)]
        assert low * 25.0 <= told[0] * 10.0 <= high * 25.4
        assert told[1] == pytest.approx(told[0] + 3.75, abs=0.06), "2.5 to 5 cm (common practice)"
        for file, ease in zip((plain, thick), told, strict=True):
            body = next(p for p in file.all_pieces() if "ody" in p.name or p.name == "Back")
            wide = body_um(body.band_views[-1]) / 1000.0 * (1 if body.round else 2)
            assert wide == pytest.approx(chest + 10.0 * ease, rel=0.05)
    typed = made(shape, "ease=4", gauge="18x25")
    assert any("With 4 cm of ease" in said for said in shape_cautions(typed))


@pytest.mark.parametrize("shape", ["pullover", "vest", "cardigan", "raglan"])
def test_all_pieces_are_made_after_a_layout_that_was_changed_on_the_bench(shape: str) -> None:
    """One layout, everything else computed: the garment is knitted anew from its words, and all of it meets."""
    file = made(shape, gauge="18x25", panels="braid-9,rope-2-2-left")
    number = next(p.number for p in file.pieces if p.name in ("Back", "Yoke and body"))
    place = (
        1
        if shape != "raglan"
        else next(
            at for at, s in enumerate(file.all_pieces()[number - 1].bands[0].segments) if s.is_background and at > 3
        )
    )
    edited = on_piece(step_repeats(0, (place,), 4))(file.opened_at(number))
    after = after_layout(edited)
    knit = whole_garment(after)
    name = "Back" if shape != "raglan" else "Yoke and body"
    widest = [max(len(row.loops) for row in knit_parts(f)[name][20:]) for f in (file, after)]
    assert widest[1] > widest[0]
    if shape == "pullover":
        assert len(knit["Front"][40].loops) == len(knit["Back"][40].loops)
        assert knit["Front"][40].text == knit["Back"][40].text, "the front is laid out as the back is"
    again = after_layout(after)
    assert again.pieces == after.pieces, "done once more it changes nothing"
    assert after.shape is not None and file.shape is not None and after.shape.asked == file.shape.asked


def test_a_thing_of_one_layout_each_has_none_to_share() -> None:
    with pytest.raises(NotFound, match="do not share a layout"):
        after_layout(made("sock", gauge="24x34"))
