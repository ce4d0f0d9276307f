"""What a clash of wishes is told with: its words, and cures that give up what they say and nothing else."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.counts.clash import explain_clash
from cablux.core.counts.solver import solve_layout, solve_layouts
from cablux.core.errors import IllegalPiece
from cablux.core.piece.piece import Piece
from cablux.core.piece.widths import body_um
from tests.core.pieces import background, panel, throw


def test_what_cannot_be_is_explained_with_what_would_free_it():
    tight = throw(background(3), panel("honeycomb", 6), background(3), width=120, tolerance_mm=5)
    told = explain_clash(tight.band_views[0])
    assert told.wishes == ("a width of 12 cm ± 0.5 cm",)
    assert "wider" in told.cures[0].text and any("fewer of Honeycomb" in c.text for c in told.cures)
    assert all(solve_layout(c.piece.band_views[0], "closest") for c in told.cures)
    locked = throw(background(5, locked=True), panel("braid-9"), background(5, locked=True), width=400)
    told = explain_clash(locked.band_views[0], "in")
    assert told.wishes[0] == "a width of 15.7 in ± 0.6 in" and "kept in" in told.wishes[1]
    assert any("let the count" in c.text for c in told.cures)


GIVEN_UP = {
    r"let the count of .* change": {"locked"},
    r"drop the limits of .*": {"least", "most"},
    r"allow any number of repeats of .*": {"by"},
    r"allow narrower backgrounds": {"least_background"},
    r"allow any body count": {"total"},
    r"let the halves differ": {"symmetric"},
    r"let the gaps be equal": {"gaps"},
    r"make it .* (wider|narrower) .*": {"width_mm"},
    r"work .* repeats? (fewer|more) of .*": {"repeats"},
}


def _changed(before: Piece, after: Piece) -> set[str]:
    """The fields in which two pieces of one band differ, its segments' own among them."""
    wished = ("width_mm", "least_background", "total", "gaps")
    out = {name for name in wished if getattr(before, name) != getattr(after, name)}
    assert replace(after, bands=before.bands, **{name: getattr(before, name) for name in wished}) == before
    (one,), (other,) = before.bands, after.bands
    out |= {"symmetric"} if one.symmetric != other.symmetric else set()
    for mine, theirs in zip(before.band_views[0].segments, after.band_views[0].segments, strict=True):
        out |= {name for name in vars(mine) if getattr(mine, name) != getattr(theirs, name)}
    return out


@st.composite
def crowded(draw: st.DrawFn) -> Piece:
    """Wishes of every kind in a narrow piece, most of which cannot all be met."""
    limits = st.sampled_from([{}, {"least": 9}, {"most": 3}, {"by": 3}, {"locked": True}])
    one, two = (background(draw(st.integers(2, 12)), "seed", **draw(limits)) for _ in range(2))
    made = throw(
        one,
        panel(draw(st.sampled_from(["braid-9", "honeycomb"])), 1),
        two,
        width=draw(st.integers(90, 260)),
        tolerance_mm=draw(st.sampled_from([3, 8])),
        gaps=draw(st.sampled_from(["equal", "outside"])),
        total=draw(st.sampled_from([(1, 0), (6, 1), (10, 3)])),
        least_background=draw(st.sampled_from([1, 3, 8])),
    )
    if draw(st.booleans()):
        made = made.with_band(made.band_views[0].band.folded(), 0)
    return made


@given(crowded())
def test_a_cure_gives_up_what_it_says_and_nothing_else(piece):
    try:
        told = explain_clash(piece.band_views[0])
    except IllegalPiece:
        return
    for cure in told.cures if told else ():
        said = [fields for words, fields in GIVEN_UP.items() if re.fullmatch(words, cure.text)]
        assert len(said) == 1 and _changed(piece, cure.piece) == said[0] & _changed(piece, cure.piece) != set(), cure


@pytest.mark.parametrize(
    ("made", "words"),
    [
        ({"total": (50, 3)}, "allow any body count"),
        ({"least_background": 40}, "allow narrower backgrounds"),
        ({"one": {"most": 12}, "two": {"locked": True}}, "drop the limits of Seed (segment 2)"),
        ({"one": {"most": 12}, "two": {"locked": True}}, "let the count of Seed (segment 4) change"),
        ({"one": {"by": 90}}, "allow any number of repeats of Seed (segment 2)"),
    ],
)
def test_each_kind_of_wish_that_stands_in_the_way_is_named_and_can_be_given_up(made, words):
    made = dict(made)
    sides = [background(12, "seed", **made.pop(name, {})) for name in ("one", "two")]
    piece = throw(sides[0], panel("braid-9"), sides[1], width=300, tolerance_mm=5, **made)
    told = explain_clash(piece.band_views[0])
    assert any(words in cure.text for cure in told.cures), told.sentence


@pytest.mark.parametrize("width", range(200, 700, 100))
@pytest.mark.parametrize("repeats", [1, 3])
def test_panels_grow_by_two_repeats_and_further_only_where_repeats_alone_must_fit(width, repeats):
    """Two is our choice: with more it is another design. "Repeats that fit" leaves every background as it is."""
    piece = throw(background(9), panel("honeycomb", repeats), background(9), width=width, tolerance_mm=40)
    answers = {a.name: a.segments for a in solve_layouts(piece.band_views[0])}
    assert answers["closest"][2].repeats == answers["least change"][2].repeats == repeats
    if "panels wider" in answers:
        assert answers["panels wider"][2].repeats - repeats in (1, 2)
    room = width - 5 * sum(s.stitches for s in piece.band_views[0].segments if not s.is_panel)
    fits = answers["repeats that fit"]
    assert [fits[at].stitches for at in (1, 3)] == [9, 9]
    assert fits[2].repeats == pytest.approx(room / 27.5, abs=1.5), (
        "a repeat of honeycomb: 8 stitches, drawn in by a third"
    )


@pytest.mark.parametrize("tolerance", [2.0, 5.0, 12.0])
@pytest.mark.parametrize("side", [-1, 1])
def test_a_width_is_met_up_to_its_tolerance_and_no_further(tolerance, side):
    """All counts kept: the piece has one width, and the width wanted lies just inside its tolerance or just outside."""
    piece = throw(background(9, locked=True), panel("braid-9"), background(12, locked=True))
    only = body_um(piece.band_views[0]) / 1000.0
    for beyond, fits in ((-0.1, True), (0.1, False)):
        wanted = replace(piece, width_mm=only + side * (tolerance + beyond), tolerance_mm=tolerance)
        assert (solve_layout(wanted.band_views[0], "closest") is not None) == fits
        assert (explain_clash(wanted.band_views[0]) is None) == fits
