"""Layout and sizing: the solver against brute force, the cast-on, the spread, the rows."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise, product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import IllegalPiece, Infeasible
from cablux.core.gauge import Basis, Gauge, estimate
from cablux.core.layout import caston, heights
from cablux.core.layout.piece import Piece, Segment, asymmetry, check, is_symmetric, problems, segment
from cablux.core.layout.solver import answer, answers, slack_um, wants_symmetry
from cablux.core.layout.widths import body_sd_um, body_um, chance_within, draw_in, plain_um, segment_um
from cablux.core.library import find_pattern
from cablux.core.shaping.spread import gaps, joins

from .strategies import pieces

GAUGE = Gauge(20.0, 28.0)
PLAIN = estimate(Basis(GAUGE))
EDGE = segment("edge", "garter", 4)


def throw(*inner: Segment, width: float = 300, **more) -> Piece:
    return Piece("t", width, 400, GAUGE, (EDGE, *inner, EDGE), **more)


def ground(n: int, pattern: str = "reverse-stockinette", **more) -> Segment:
    return segment("background", pattern, n, **more)


def panel(pattern: str, n: int = 1, **more) -> Segment:
    return segment("panel", pattern, n, **more)


grounds = st.sampled_from(["reverse-stockinette", "double-moss", "seed"])


@st.composite
def small_layouts(draw: st.DrawFn) -> Piece:
    """Two or three backgrounds round fixed panels, in reach of brute force."""
    inner: list[Segment] = []
    for _ in range(draw(st.integers(2, 3))):
        inner.append(ground(draw(st.integers(1, 12)), draw(grounds), locked=draw(st.integers(0, 5)) == 0))
        if draw(st.booleans()):
            inner.append(panel(draw(st.sampled_from(["rope-3-3-left", "braid-9"]))))
    return throw(*inner, width=draw(st.integers(150, 330)), symmetric=draw(st.booleans()), tolerance_mm=12)


def _all_layouts(piece: Piece):
    """Every layout with backgrounds of up to 45 stitches that keeps locks, minimum and symmetry."""
    choices = []
    for s in piece.segments:
        if s.role != "background" or s.locked:
            choices.append([s.repeats])
        else:
            low = max(1, -(-(piece.least_background - s.chart.balance) // s.chart.multiple))
            choices.append(range(low, 45 // s.chart.multiple + 1))
    paired = wants_symmetry(piece)
    for repeats in product(*choices):
        if not paired or repeats == repeats[::-1]:
            yield tuple(replace(s, repeats=r) for s, r in zip(piece.segments, repeats, strict=True))


def _error(piece: Piece, segments) -> float:
    off = abs(sum(segment_um(s, PLAIN) for s in segments) - piece.width_mm * 1000)
    return max(0.0, off - slack_um(piece))


def _uneven(piece: Piece, segments) -> int:
    free = [s.stitches for s in segments if s.role == "background" and not s.locked]
    return max(free) - min(free) if free else 0


def _change(piece: Piece, segments) -> int:
    return sum(abs(a.stitches - b.stitches) for a, b in zip(segments, piece.segments, strict=True))


@given(small_layouts())
def test_no_layout_beats_the_solvers_in_the_order_of_its_goals(piece):
    tolerance = piece.tolerance_mm * 1000
    every = [
        s for s in _all_layouts(piece) if abs(body_um(piece.with_segments(s)) - piece.width_mm * 1000) <= tolerance
    ]
    found = answer(piece, "closest", tolerance_um=tolerance)
    if not every:
        assert found is None or max(s.stitches for s in found.segments if s.role == "background") > 45
        return
    assert found and found.optimal and found.width_um == body_um(piece.with_segments(found.segments))
    best = min((_error(piece, s), _uneven(piece, s), _change(piece, s)) for s in every)
    got = (_error(piece, found.segments), _uneven(piece, found.segments), _change(piece, found.segments))
    assert got[0] <= best[0] + 1 and (got[0] < best[0] - 1 or got[1:] <= best[1:])
    even = answer(piece, "most even")
    assert even and _uneven(piece, even.segments) <= min(_uneven(piece, s) for s in every)
    least = answer(piece, "least change")
    assert least and _change(piece, least.segments) <= min(_change(piece, s) for s in every)


@given(pieces())
def test_answers_keep_locks_multiples_minimum_and_symmetry(piece):
    try:
        found = answers(piece)
    except Infeasible as error:
        assert len(str(error)) > 40
        return
    assert len({a.segments for a in found}) == len(found), "different answers differ"
    for a in found:
        assert abs(a.width_um - piece.width_mm * 1000) <= piece.tolerance_mm * 1000 + 2
        assert a.width_um == body_um(piece.with_segments(a.segments))
        for before, after in zip(piece.segments, a.segments, strict=True):
            assert replace(after, repeats=before.repeats) == before, "only repeats change"
            if before.locked or before.role == "edge" or (before.role == "panel" and a.name != "panels wider"):
                assert after.repeats == before.repeats
            if after.role == "background" and not after.locked:
                assert after.stitches >= piece.least_background
        if wants_symmetry(piece):
            assert is_symmetric(a.segments)


def test_what_cannot_be_is_explained_with_what_would_free_it():
    tight = throw(ground(3), panel("honeycomb", 6), ground(3), width=120, tolerance_mm=5)
    with pytest.raises(Infeasible, match="narrowest this layout can be") as caught:
        answers(tight)
    assert "Take a panel out" in str(caught.value)
    locked = throw(ground(5, locked=True), panel("braid-9"), ground(5, locked=True), width=400)
    with pytest.raises(Infeasible, match="unlock the locked backgrounds"):
        answers(locked)


def test_a_width_that_was_not_settled_is_not_used(monkeypatch):
    monkeypatch.setattr("cablux.core.fabric.relax._MOST_STEPS", 1)
    with pytest.raises(IllegalPiece, match="had not settled after 1 steps"):
        estimate(Basis(Gauge(20.0, 27.3))).unit(find_pattern("braid-9"), True)


def test_symmetry_is_told_by_the_charts_not_by_the_names():
    pair = (EDGE, ground(4), panel("rope-3-3-right"), ground(4), panel("rope-3-3-left"), ground(4), EDGE)
    assert is_symmetric(pair)
    same = (*pair[:4], panel("rope-3-3-right"), *pair[5:])
    assert "does not mirror" in asymmetry(same)
    assert is_symmetric((*pair[:4], panel("rope-3-3-right", mirrored=True), *pair[5:]))
    assert "stitches on one side" in asymmetry((*pair[:5], ground(6), EDGE))


@given(st.integers(2, 400), st.data())
def test_increases_are_spread_evenly_and_symmetrically(stitches, data):
    many = data.draw(st.integers(1, stitches - 1))
    places = gaps(stitches, many)
    assert len(set(places)) == many and places[0] >= 1 and places[-1] <= stitches - 1
    steps = {b - a for a, b in pairwise(places)}
    assert not steps or max(steps) - min(steps) <= 1
    if stitches % 2 == 0 or many % 2 == 0:
        assert tuple(stitches - p for p in reversed(places)) == places
    fewer = data.draw(st.integers(1, stitches // 2))
    firsts = joins(stitches, fewer)
    assert len(firsts) == fewer and firsts[-1] + 1 < stitches
    assert all(b - a >= 2 for a, b in pairwise(firsts)), "no stitch is worked twice"


def test_more_than_one_row_can_do_is_refused():
    with pytest.raises(IllegalPiece, match="do not fit"):
        gaps(5, 5)
    with pytest.raises(IllegalPiece, match="do not fit"):
        joins(5, 3)


@given(pieces())
def test_the_cast_on_suits_the_border_and_its_shares_add_up(piece):
    for style in ("stepped", "straight"):
        plan = caston.plan(piece, style)
        edges = [e.stitches for e in piece.edges]
        assert sum(plan.shares) == plan.cast_on and plan.body == piece.stitches
        assert (plan.shares[0], plan.shares[-1]) == (edges[0], edges[1]), "no increase in the edges"
        one_texture = {e.pattern_id for e in piece.edges} == {piece.border_id}
        assert piece.border.chart.repeats_for(plan.cast_on - (0 if one_texture else sum(edges))) is not None
        if style == "straight":
            moved = sum(abs(s.stitches - n) for s, n in zip(piece.segments, plan.shares, strict=True))
            assert moved == abs(plan.difference), "a straight cast-on shapes no more than its border asks for"
        # no count that suits the border comes nearer to what the style asks for
        others = [n for n in range(max(1, plan.cast_on - 6), plan.cast_on + 7) if caston.fits_border(piece, n)]
        if style == "straight":
            assert all(abs(plan.cast_on - piece.stitches) <= abs(n - piece.stitches) for n in others)
        else:
            off = abs(plan.flare_um)
            assert all(off <= abs(caston.band_um(piece, n) - plan.body_um) for n in others if n <= 2 * piece.stitches)
        if is_symmetric(piece.segments) and len(piece.segments) % 2:
            assert plan.shares == plan.shares[::-1]


def test_more_increases_lie_where_the_cables_draw_in():
    piece = throw(ground(20), panel("honeycomb", 3), ground(20), symmetric=True)
    shares = caston.plan(piece).shares
    lost = [s.stitches - n for s, n in zip(piece.segments, shares, strict=True)]
    assert lost[2] > lost[1] + lost[3]
    even = caston.plan(replace(piece, spread="even")).shares
    assert even[1] < shares[1]


@given(pieces())
def test_rows_end_on_the_wrong_side_and_come_near_the_height(piece):
    rows = heights.plan_rows(piece)
    assert rows.body % 2 == 0 and rows.total == 2 * piece.border_rows + 2 + rows.body
    assert abs(rows.height_um / 1000 - piece.height_mm) <= heights.HEIGHT_TOLERANCE_MM + 2 * GAUGE.row_mm
    repeats = {s.pattern.name: s.chart.height for s in piece.inner if s.role == "panel"}
    assert {n for n, h in repeats.items() if rows.body % h == 0} == set(rows.whole)


@pytest.mark.parametrize(
    ("stitches", "half_more", "half_fewer"),
    [(16, -3.0, 3.2), (20, -2.4, 2.6), (24, -2.0, 2.1)],
)
def test_half_a_stitch_in_the_swatch_costs_what_the_worked_example_says(stitches, half_more, half_fewer):
    """Worked example: a piece planned 100 cm wide, read over 10 cm, half a stitch out either way."""
    planned = round(100 * stitches / 10)
    tight = plain_um(planned, Gauge(stitches + 0.5, 28)) / 10_000 - 100
    loose = plain_um(planned, Gauge(stitches - 0.5, 28)) / 10_000 - 100
    assert (round(tight, 1), round(loose, 1)) == (half_more, half_fewer)


def test_uncertainty_grows_with_the_cables_and_is_a_probability():
    plain = throw(ground(60))
    cabled = throw(ground(15), panel("honeycomb", 3), ground(15))
    assert body_sd_um(cabled) / body_um(cabled) > body_sd_um(plain) / body_um(plain)
    assert chance_within(0.0, 1.0, -1.2815516, 1.2815516) == pytest.approx(0.8)
    assert draw_in(panel("honeycomb"), PLAIN) < 0.85


@pytest.mark.parametrize(
    ("piece", "says"),
    [
        (throw(ground(5), width=3), "width of 0.3 cm"),
        (throw(ground(5), tolerance_mm=0), "tolerance"),
        (throw(panel("garter")), "not made to be used as a panel"),
        (throw(ground(0)), "at least one repeat"),
        (throw(ground(5), border_rows=7), "even number of rows"),
        (throw(ground(5), border_id="honeycomb"), "as a border"),
        (throw(ground(1499)), "more than the 1500"),
        (Piece("t", 300, 300, GAUGE, (EDGE, EDGE)), "something between"),
        (throw(EDGE), "no others"),
        (throw(ground(5), least_background=0), "at least 0 stitches"),
    ],
)
def test_a_piece_nobody_can_knit_is_refused_with_the_reason(piece, says):
    with pytest.raises(IllegalPiece, match=says):
        check(piece)
    assert all(sentence.endswith(".") for sentence in problems(piece))


@pytest.mark.parametrize(("stitches", "rows"), [(0, 28), (-4, 20), (20, 0), (float("nan"), 28), (500, 700), (28, 20)])
def test_a_gauge_nobody_can_knit_is_refused(stitches, rows):
    with pytest.raises(IllegalPiece, match=r"to 10 cm|exchanged"):
        Gauge(stitches, rows)
