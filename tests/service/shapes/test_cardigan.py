"""Cardigans: knitted from their printed words; fronts against the back, buttonholes counted in the knitted band."""

from __future__ import annotations

import re
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import CabluxError, Infeasible
from cablux.core.piece.widths import body_um
from cablux.core.rows.shaped_band import shape_band
from cablux.core.shapes.bodies.garment_sizes import BODIES
from cablux.core.shapes.sweater.knitted_bands import hole_rows
from cablux.service.pattern import project_words
from cablux.service.shapes.shaped_projects import shape_cautions
from tests.examples import examples, over
from tests.knitter import Row
from tests.service.shapes.test_worn import PANELS, knit_parts, made, whole_garment

CONSTRUCTIONS = ["drop", "modified-drop", "set-in"]
SHOULDERS = ["bound off in steps", "short rows and three needles"]


def bound(rows: list[Row]) -> list[tuple[int, int]]:
    """The rows in which anything is bound off, with how many."""
    return [(n, len(row.bound)) for n, row in enumerate(rows) if row.bound]


@pytest.mark.parametrize("neck", ["crew", "V"])
@pytest.mark.parametrize("construction", CONSTRUCTIONS)
def test_a_cardigan_is_knitted_from_its_words_and_its_fronts_meet_its_back(construction: str, neck: str) -> None:
    file = made("cardigan", f"construction={construction}", f"neckline={neck}", gauge="18x25")
    knit, pieces = knit_parts(file), dict(zip((p.name for p in file.pieces), file.all_pieces(), strict=True))
    back, left, right = (knit[name] for name in ("Back", "Left front", "Right front"))
    if construction != "drop":
        assert bound(back)[0] == bound(left)[0] and bound(back)[1] == bound(right)[0], "armholes in the same rows"
    assert abs(len(left) - len(back)) <= 3 and abs(len(right) - len(back)) <= 3
    opening = 2.0 * body_um(pieces["Back"].band_views[0]) / 2.0 - sum(
        body_um(pieces[name].band_views[0]) for name in ("Left front", "Right front")
    )
    band = knit["Button band, left front"]
    high = len(band) * 100.0 / 25.0 * 1000.0
    assert opening == pytest.approx(high, abs=9_000.0), "one band's width lies between the fronts"
    for name in ("Left front", "Right front"):
        for a, b in pairwise(pieces[name].band_views):
            if a.shaping is not None and b.shaping is not None:
                assert shape_band(a).active.columns[-1] == shape_band(b).active.first, "columns go on from band to band"


def test_panels_of_the_fronts_stand_where_the_backs_stand_and_none_is_cut() -> None:
    file = made("cardigan", gauge="18x25", panels="braid-9,rope-2-2-left")
    back, front = (p.bands[0].segments for p in file.all_pieces()[:2])
    at, places = 0, {}
    for s in back:
        places[at] = s
        at += s.stitches
    at = 0
    for s in front:
        if s.is_panel:
            assert places[at].pattern_id == s.pattern_id and places[at].stitches == s.stitches
        at += s.stitches
    assert any(s.is_panel for s in front)
    alone = made("cardigan", gauge="18x25", panels="honeycomb")
    assert any(s.is_panel for s in alone.all_pieces()[1].bands[0].segments), (
        "a middle panel gives each front one of its own"
    )


@pytest.mark.parametrize(
    ("buttons", "side", "gauge"),
    [(1, "right front", "20x28"), (5, "right front", "20x28"), (7, "left front", "30x42"), (2, "left front", "12x17")],
)
def test_buttonholes_are_as_many_as_wished_and_as_far_apart(buttons: int, side: str, gauge: str) -> None:
    """Looked at in the knitted loops: a yarn over beside a purl decrease, in one row of one band."""
    file = made("cardigan", f"buttons={buttons}", f"buttonholes={side}", gauge=gauge)
    knit = knit_parts(file)
    holes = {
        name: [(n, i) for n, row in enumerate(rows) for i, loop in enumerate(row.loops) if not loop.parents]
        for name, rows in knit.items()
        if "band," in name
    }
    told = holes.pop(f"Buttonhole band, {side}")
    assert len(told) == buttons and len({n for n, _ in told}) == 1
    assert not any(each for each in holes.values()), "the other band has none"
    band = knit[f"Buttonhole band, {side}"]
    assert abs(2 * told[0][0] + 1 - len(band)) <= 2, "in the middle of the band"
    columns = sorted(i for _, i in told)
    rib = [loop.face for loop in knit[f"Buttonhole band, {side}"][0].loops]
    assert all(rib[i] == rib[i + 1] == "p" for i in columns), "in purl columns of the rib"
    if buttons > 2:
        gaps = [b - a for a, b in pairwise(columns)]
        assert max(gaps) - min(gaps) <= 4, "within one rib"
    ends = columns[0] + 1, len(rib) - columns[-1] - 1
    hem, neck = ends if side == "right front" else ends[::-1]
    assert 2 <= neck <= 8 and (buttons == 1 or hem <= 16), "near both ends"


@pytest.mark.parametrize(
    ("buttons", "side", "gauge"), [(1, "right front", "20x28"), (6, "left front", "30x42"), (3, "right front", "10x14")]
)
@pytest.mark.parametrize("neck_line", ["crew", "V"])
def test_bands_knitted_along_lie_over_each_other_and_have_their_holes_one_above_the_other(
    buttons: int, side: str, gauge: str, neck_line: str
) -> None:
    """Loop by loop: rib columns that keep their faces from the hem to the neck, an eyelet in the middle purl column."""
    sets = ("bands=knitted along", f"buttons={buttons}", f"buttonholes={side}", f"neckline={neck_line}")
    file = made("cardigan", *sets, gauge=gauge)
    knit, pieces = whole_garment(file), dict(zip((p.name for p in file.pieces), file.all_pieces(), strict=True))
    assert not any("band," in name for name in knit), "none is picked up but the neck's"
    holes = {}
    for name, way in (("Right front", 1), ("Left front", -1)):
        rows = [row.loops[::way] for row in knit[name]]  # from the edge of the front
        hem = next(n for n, row in enumerate(rows) if any(len(lo.parents) > 1 for lo in row)) + 1
        neck = next(
            n
            for n, row in enumerate(knit[name])
            if n > len(rows) // 2 and row.side == ("RS", "", "WS")[1 - way] and row.bound
        )
        holes[name] = [(n, i) for n, row in enumerate(rows[hem:neck]) for i, lo in enumerate(row) if not lo.parents]
        shown = [[lo.face for lo in row] for row in rows[hem:neck] if all(lo.parents for lo in row)]
        strip = next(n for n in range(2, 30) if shown[1][n] == shown[1][n + 1]) - 1
        gone = len(knit[name][neck].bound)
        assert gone == strip + 1 if neck_line == "V" else gone > strip + 1, "bound off with its edge"
        assert strip % 4 == 3 and {i for _, i in holes[name]} <= {1 + strip // 2}, "in the middle of the strip"
        for faces in shown:
            assert faces[1 : 1 + strip] == ["kp"[c % 2] for c in range(strip)]
    told = holes.pop(side.capitalize())
    assert len(told) == buttons and not any(holes.values())
    gaps = {b - a for (a, _), (b, _) in pairwise(told)}
    assert len(gaps) <= 1 and all(gap % 2 == 0 for gap in gaps), "right-side rows, evenly spaced"
    row = 100.0 / float(gauge.partition("x")[2])
    assert all(n * row >= 10.0 for n, _ in told), "none in the hem"
    wide = sum(body_um(pieces[name].band_views[0]) for name in ("Left front", "Right front"))
    back = body_um(pieces["Back"].band_views[0])
    assert 15_000 < wide - back < 45_000, "they lie over each other by a band"
    lines = " ".join(shape_cautions(file))
    assert buttons == 1 or "apart, for buttons" in lines


def test_bands_are_picked_up_along_the_front_and_over_the_end_of_the_neckband() -> None:
    file = made("cardigan", gauge="20x28")
    knit, words = knit_parts(file), project_words(file)
    right = words.partition("Buttonhole band, right front\n")[2]
    left = words.partition("Button band, left front\n")[2]
    assert right.index("along the front edge (Right front)") < right.index("along the end (Neckband)"), "upwards"
    assert left.index("along the end (Neckband)") < left.index("along the front edge (Left front)"), "downwards"
    rows = len(knit["Right front"])
    picked = int(re.findall(r"pick up and knit (\d+) along the front edge", words, re.I)[0])
    assert 0.5 * rows < picked < 0.95 * rows, "fewer stitches than rows, about 3 to 4 (common practice)"


HOODED = [
    ("cardigan", "V", "woman M"),
    ("cardigan", "crew", "child 8"),
    ("pullover", "crew", "woman M"),
    ("vest", "V", "man L"),
]


@over(
    ("panels", "shape", "neck", "who"),
    [(panels, *worn) for worn in HOODED for panels in ("braid-9,rope-2-2-left", "rope-3-3-left", "honeycomb")],
    of=2,
)
def test_a_hood_goes_on_from_the_neck_column_by_column_and_is_grafted(
    shape: str, neck: str, who: str, panels: str
) -> None:
    """The held stitches of the back's neck, face by face: what was knit there is knit in the first row of the hood."""
    file = made(shape, f"for={who}", "collar=hood", f"neckline={neck}", gauge="18x25", panels=panels)
    knit, words = whole_garment(file), project_words(file)
    pieces = dict(zip((p.name for p in file.pieces), file.all_pieces(), strict=True))
    begin = next(line for line in words.splitlines() if "held stitches of the back neck" in line)
    before, held = begin.partition("held stitches of the back neck")[0], 0
    *told, held = (int(n) for n in re.findall(r"\d+", before))
    right, count = sum(told), int(re.findall(r"\d+", begin)[-1])
    assert abs(2 * right + held - count) <= 1, "both edges meet in the middle of the front"
    if shape == "pullover":
        places = [
            begin.index(what)
            for what in ("left-hand half", "left-hand shoulder", "right-hand shoulder", "right-hand half")
        ]
        assert places == sorted(places), "up one side of the neck, over the back and down the other"
    back, first, view = knit["Back"][-1].loops[-held:], knit["Hood"][0], pieces["Hood"].bands[0].segments
    faces = {loop.parents[0]: loop.face for loop in first.loops if len(loop.parents) == 1}
    kept = [i for i in range(held) if right + i in faces]
    if any(s.is_panel for s in view):
        assert [faces[right + i] for i in kept] == [back[i].face for i in kept]
    rows = knit["Hood"]
    assert not any(re.search(r"\d/\d [LR]", row.text) for row in rows if row.side == "WS"), "crossed on the right side"
    crossed = [n for n, row in enumerate(rows) if re.search(r"\d/\d [LR]", row.text)]
    assert len({b - a for a, b in pairwise(crossed)}) <= 1, "in its rhythm to the top"
    assert len(rows[-1].loops) % 2 == 0 and "graft them together" in words, "its halves are grafted"
    wide = body_um(pieces["Hood"].band_views[1]) / 1000.0
    head = BODIES[who].mm("head")
    assert 0.95 * head < wide < (1.05 if neck == "crew" else 1.25) * head, "a V's long edges make it wider"
    told_of = " ".join(shape_cautions(file))
    assert ("No cords" in told_of) == (who == "child 8")
    assert "(Hood)" not in words, "the bands end at the neck"


def test_what_to_mind_names_the_spacing_and_babies() -> None:
    told = " ".join(shape_cautions(made("cardigan", "for=baby 12m", gauge="26x36")))
    assert re.search(r"buttonholes are [\d.]+ cm( or [\d.]+ cm)? apart", told)
    assert "buttons only where they are sewn on fast" in told and "less than a head" not in told


@st.composite
def wishes(draw: st.DrawFn) -> tuple[list[str], str, str]:
    sets = [
        f"for={draw(st.sampled_from(sorted(BODIES)))}",
        f"construction={draw(st.sampled_from(CONSTRUCTIONS))}",
        f"neckline={draw(st.sampled_from(['crew', 'V']))}",
        f"ease={draw(st.integers(0, 20))}",
        f"shoulders={draw(st.sampled_from(SHOULDERS))}",
        f"buttons={draw(st.integers(0, 7))}",
        f"bands={draw(st.sampled_from(['picked up', 'knitted along']))}",
        f"collar={draw(st.sampled_from(['neckband', 'hood']))}",
    ]
    stitches = draw(st.integers(9, 30))
    panel = draw(st.sampled_from(PANELS)) if draw(st.booleans()) else ""
    return sets, f"{stitches}x{round(1.4 * stitches)}", panel


@given(wishes())
@examples(7)
def test_whatever_body_wears_it_every_row_adds_up_and_every_edge_meets(wish: tuple[list[str], str, str]) -> None:
    sets, gauge, panel = wish
    try:
        file = made("cardigan", *sets, gauge=gauge, panels=panel)
    except CabluxError as error:  # the reason is said, with what would mend it
        assert re.search(r"[Mm]ake|[Cc]hoose|type|bring|give", str(error)), error
        return
    whole_garment(file)


def test_too_many_buttons_are_refused() -> None:
    with pytest.raises(Infeasible, match="choose fewer buttons"):
        made("cardigan", "for=baby 3m", "buttons=15", gauge="18x25")


@given(st.integers(20, 300), st.floats(2.0, 9.0), st.integers(0, 12))
def test_buttonholes_of_a_band_lie_in_right_side_rows_evenly_and_clear_of_both_ends(
    rows: int, row_mm: float, buttons: int
) -> None:
    try:
        found = hole_rows(rows, row_mm, buttons, wanted_text="so much")
    except Infeasible:
        assert buttons > 1 or rows * row_mm < 60.0
        return
    places = [found.first + n * found.apart for n in range(found.many)]
    assert found.many == (buttons or found.many) and all(place % 2 for place in places)
    assert places[0] >= 3 and places[-1] <= rows - 2 and found.first + found.many * found.apart > rows - 2
    assert rows - places[-1] <= places[0] + 3, "the highest about as far from the neck as the lowest from the hem"
