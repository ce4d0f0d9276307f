"""Layout and sizing: symmetry, the cast-on, uncertainty, warnings, and what nobody can knit."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.ends import cast_on as caston
from cablux.core.ends.borders import border_um, fits_border
from cablux.core.ends.edge_short_rows import edge_short_rows
from cablux.core.errors import IllegalPiece
from cablux.core.garment.cautions import layout_cautions, needle_lengths
from cablux.core.gauge import Basis, Evidence, Gauge, estimate
from cablux.core.library import LIBRARY, find_pattern
from cablux.core.needle.stations import Station
from cablux.core.notation import Side
from cablux.core.pattern import compile_piece
from cablux.core.pattern.words import pattern_words, short_rows_due
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.problems import checked_piece, piece_problems
from cablux.core.piece.segment import Segment, library_segment, proposed_purl_margin, same_cloth
from cablux.core.piece.symmetry import describe_asymmetry, is_symmetric
from cablux.core.piece.widths import body_sd_um, body_um, chance_within, plain_um, segment_draw_in, segment_um
from cablux.core.rows.heights import plan_rows
from cablux.core.shaping import EdgeShaped
from cablux.service.small_tools.even_spread import spread_evenly
from tests.core.pieces import EDGE, PLAIN, background, panel, throw
from tests.core.strategies import piece_of, pieces
from tests.knitter import Loop, knit


def test_a_width_that_was_not_settled_is_not_used(monkeypatch):
    monkeypatch.setattr("cablux.core.fabric.relax._MOST_STEPS", 1)
    with pytest.raises(IllegalPiece, match="had not settled after 1 steps"):
        estimate(Basis(gauge=Gauge(20.0, 27.3))).unit(find_pattern("braid-9"), True)


def test_symmetry_is_told_by_the_charts_not_by_the_names():
    pair = (EDGE, background(4), panel("rope-3-3-right"), background(4), panel("rope-3-3-left"), background(4), EDGE)
    assert is_symmetric(pair)
    same = (*pair[:4], panel("rope-3-3-right"), *pair[5:])
    assert "does not mirror" in describe_asymmetry(same)
    assert is_symmetric((*pair[:4], panel("rope-3-3-right", mirrored=True), *pair[5:]))
    assert "stitches on one side" in describe_asymmetry((*pair[:5], background(6), EDGE))


@pytest.mark.parametrize("name", sorted(p for p in LIBRARY if "panel" in LIBRARY[p].uses))
def test_a_mirror_image_is_its_own_inverse_and_goes_by_the_librarys_name(name):
    s = panel(name, purl_margin=1)
    twice = s.reflected().reflected()
    assert s.mirror_of(s.reflected()) and twice.chart == s.chart
    if name.endswith("-left") and name.replace("-left", "-right") in LIBRARY:
        assert s.reflected().pattern_id == name.replace("-left", "-right")


@given(pieces())
def test_a_symmetric_band_is_kept_as_its_right_half(piece):
    for band in piece.bands:
        assert band.folded().unfolded().segments == band.folded().segments
        for at in range(len(band.segments)):
            home, mirrored = band.home(at)
            mine = band.own[home]
            assert band.segments[at] == (mine.reflected() if mirrored else mine)
            partner = band.partner(at)
            assert partner is None or band.home(partner)[0] == home
    whole = piece.bands[0].with_segments(piece.bands[0].segments)
    assert whole.segments == piece.bands[0].segments


@given(pieces())
def test_the_cast_on_suits_the_border_and_its_shares_add_up(piece):
    plan = caston.plan_cast_on(piece)
    for edge, view in ((plan.bottom, piece.band_views[0]), (plan.top, piece.band_views[-1])):
        assert edge.body == view.stitches
        if edge.change is None:
            assert edge.count == view.stitches
            continue
        assert edge.change.counts[0] + view.side_stitches == edge.count
        assert edge.change.counts[-1] + view.side_stitches == view.stitches
        assert fits_border(view, edge.border, edge.count)
        if edge.border.count:
            assert edge.count == edge.border.count, "a count of the border's own is kept"
            continue
        moved = sum(abs(p.counts[-1] - p.counts[0]) for p in edge.change.parts)
        if edge.border.style == "straight":
            assert moved == abs(edge.difference), "a straight cast-on shapes no more than its border asks for"
        # no count near it that suits the border comes nearer to what the style asks for
        others = [n for n in range(edge.count - 6, edge.count + 7) if n > view.side_stitches + 2]
        for n in (n for n in others if fits_border(view, edge.border, n)):
            if edge.border.style == "straight":
                assert abs(edge.count - view.stitches) <= abs(n - view.stitches)
            elif n < 1.4 * view.stitches and n > 0.75 * view.stitches:
                wanted = edge.body_um * edge.border.factor
                off = abs(edge.border_um - wanted)
                assert off <= abs(border_um(view, edge.border, n) - wanted) + 1


def test_more_increases_lie_where_the_cables_draw_in():
    piece = throw(background(20), panel("honeycomb", 3), background(20))
    shares = caston.plan_cast_on(piece).bottom.change.shares
    lost = [s.stitches - n for s, n in zip(piece.band_views[0].inner, shares, strict=True)]
    assert lost[1] > lost[0] + lost[2]
    even = caston.plan_cast_on(replace(piece, bottom=Border(spread="even"))).bottom.change.shares
    assert even[0] < shares[0]


def test_a_border_that_holds_in_on_purpose_is_narrower_and_a_count_of_ones_own_must_fit():
    """Common practice: a lower rib of 90 % pulls in."""
    piece = throw(background(30), panel("honeycomb", 3), background(30), both=Border(pattern_id="rib-2x2"))
    full, held = (
        caston.plan_cast_on(replace(piece, bottom=Border(pattern_id="rib-2x2", factor=f))).bottom for f in (1.0, 0.9)
    )
    assert held.border_um == pytest.approx(0.9 * full.border_um, rel=0.04) and held.count < full.count
    mine = replace(piece, bottom=Border(pattern_id="rib-2x2", count=full.count - 4))
    assert caston.plan_cast_on(mine).cast_on == full.count - 4
    for off in (-1, -2, -3):
        near = f"Try {full.count - 4} or {full.count}"
        with pytest.raises(IllegalPiece, match=f"do not suit this border: it needs a multiple of 4 \\+ 2.*{near}"):
            caston.plan_cast_on(replace(piece, bottom=Border(pattern_id="rib-2x2", count=full.count + off)))


@given(st.sampled_from(["garter", "seed", "rib-2x2", "stockinette"]), st.integers(0, 40), st.floats(12, 34))
def test_a_border_adds_the_height_of_its_rows_in_its_own_pattern(name, more, rows):
    """Rows times the row height by the gauge, drawn up as the pattern is by itself."""
    piece = throw(background(30), panel("honeycomb", 3), background(30), both=Border(pattern_id="garter", rows=4))
    piece = replace(
        piece, evidence=Evidence(gauge=Gauge(rows / 1.4, rows)), bands=(replace(piece.band_views[0].band, rows=80),)
    )
    taller = replace(piece, top=Border(pattern_id=name, rows=4 + 2 * more))
    up = [piece.measure.unit(LIBRARY[each], False).draw_up for each in ("garter", name)]
    added = 1e5 / rows * ((4 + 2 * more) * up[1] - 4 * up[0])
    assert plan_rows(taller).height_um - plan_rows(piece).height_um == pytest.approx(added, abs=1.0)


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
    plain = throw(background(60))
    cabled = throw(background(15), panel("honeycomb", 3), background(15))
    assert body_sd_um(cabled.band_views[0]) / body_um(cabled.band_views[0]) > body_sd_um(plain.band_views[0]) / body_um(
        plain.band_views[0]
    )
    assert chance_within(0.0, 1.0, -1.2815516, high_um=1.2815516) == pytest.approx(0.8)
    assert segment_draw_in(panel("honeycomb"), PLAIN) < 0.85


def test_a_seam_takes_its_stitches_and_a_purl_margin_is_part_of_its_panel():
    seam = library_segment("seam", "stockinette", 1)
    flat = piece_of(seam, background(20), panel("braid-9"), background(20), seam)
    assert body_um(flat.band_views[0]) == body_um(
        replace(flat.with_band(Band(own=flat.band_views[0].segments[1:-1]), 0), round=True).band_views[0]
    )
    bare = Segment(
        role="panel",
        pattern=next(p for p in LIBRARY.values() if "panel" in p.uses and proposed_purl_margin(p)),
        repeats=1,
    )
    wide = replace(bare, purl_margin=2)
    assert wide.stitches == bare.stitches + 4 and segment_um(wide, PLAIN) > segment_um(bare, PLAIN)
    shares = [(s.cloth, 1.0) for s in (bare, wide)]
    assert PLAIN.weights(shares[0][0]) == PLAIN.weights(shares[1][0]), "a swatch of one teaches the other"


def _self_mirror(pattern) -> bool:
    return same_cloth(pattern.chart, pattern.chart.mirrored())


def _kinds(piece: Piece, cord: float = 0.0) -> set[str]:
    return {c.kind for c in layout_cautions(piece.band_views[0], plan_rows(piece).bands[0], cord)}


def test_a_skilled_knitters_warnings_stand_where_they_belong():
    sound = throw(background(10), panel("rope-3-3-left"), background(10))
    assert _kinds(sound) <= {"heights"}
    bare = next(p for p in LIBRARY.values() if "panel" in p.uses and proposed_purl_margin(p) and p.chart.crossing_rows)
    close = throw(
        Segment(role="panel", pattern=bare, repeats=1), Segment(role="panel", pattern=bare, repeats=1), background(10)
    )
    assert {"side", "touching"} <= _kinds(close)
    early = replace(throw(background(10), panel("braid-6"), background(10)), setup_rows=0)
    assert "tight" in _kinds(early) and "tight" not in _kinds(replace(early, setup_rows=2))
    lopsided = next(p for p in LIBRARY.values() if "background" in p.uses and not _self_mirror(p))
    assert "unbalanced" in _kinds(
        throw(background(10), panel("braid-9"), Segment(role="background", pattern=lopsided, repeats=3))
    )
    needle = [c for c in layout_cautions(sound.band_views[0], plan_rows(sound).bands[0], 80.0) if c.kind == "needle"]
    assert needle and "8 cm" in needle[0].text


@pytest.mark.parametrize(("gauge", "cord", "least"), [(10, 40, 40), (16, 60, 96), (20, 80, 160), (28, 100, 280)])
def test_the_fewest_stitches_that_reach_round_a_needle_are_gauge_times_length(gauge, cord, least):
    """Common practice (stitch tables of circular needles): stitches to 10 cm times the needle's length."""

    def tube(stitches: int) -> Piece:
        plain = Band(own=(library_segment("background", "stockinette", stitches),))
        return replace(
            piece_of(width=1000), evidence=Evidence(gauge=Gauge(gauge, 1.4 * gauge)), bands=(plain,), round=True
        )

    assert cord in needle_lengths(tube(least).band_views[0]) and cord not in needle_lengths(
        tube(least - 1).band_views[0]
    )


@pytest.mark.parametrize(
    ("piece", "says"),
    [
        (throw(background(5), width=3), "Width must be 1 to 1000 cm, not 0.3"),
        (throw(background(5), tolerance_mm=0), "tolerance"),
        (throw(panel("garter")), "cannot be used as a panel"),
        (throw(background(0)), "at least 1 stitch"),
        (throw(background(5), both=Border(rows=61)), "up to 60 rows"),
        (throw(background(5), both=Border(pattern_id="honeycomb")), "as a border"),
        (throw(background(5), both=Border(factor=3.0)), "50 to 150 % as wide"),
        (throw(background(1499)), "the most is 1500"),
        (piece_of(EDGE, EDGE), "something between"),
        (throw(EDGE), "no others"),
        (throw(background(5), least_background=0), "narrowest background must be 1 to 40"),
        (throw(background(5), total=(4, 4)), "plus fewer than that"),
        (throw(panel("braid-9", phase=3)), "would fall on wrong-side rows"),
        (throw(panel("braid-9", phase=90)), "its repeat has 8 rows"),
        (throw(background(5, purl_margin=1)), "purl margin must be 0 to 6"),
        (throw(background(5, least=9, most=4)), "leave no count"),
        (throw(background(5), round=True), "neither edges nor seam"),
        (throw(background(5), setup_rows=3), "set-up rows"),
        (replace(throw(background(5)), bands=()), "can have 1 to 4 bands"),
        (
            replace(
                throw(background(5)), bands=(Band(own=(EDGE, background(5), EDGE)), Band(own=(background(5),) * 3))
            ),
            "first and the last",
        ),
    ],
)
def test_a_piece_nobody_can_knit_is_refused_with_the_reason(piece, says):
    with pytest.raises(IllegalPiece, match=says):
        checked_piece(piece)
    assert all(sentence.endswith(".") for sentence in piece_problems(piece))


@pytest.mark.parametrize(("stitches", "rows"), [(0, 28), (-4, 20), (20, 0), (float("nan"), 28), (500, 700), (28, 20)])
def test_a_gauge_nobody_can_knit_is_refused(stitches, rows):
    with pytest.raises(IllegalPiece, match=r"to 10 cm|swap stitches and rows"):
        Gauge(stitches, rows)


def test_low_edges_are_filled_in_after_so_many_rows_as_their_heights_say():
    """A pair of short rows every 2 · edge / (body − edge) rows (arithmetic): 0.40 and 0.30 cm high, every 6 rows.

    Common practice: garter takes two rows to a stitch width where stockinette takes 1.4.
    """
    piece = throw(background(20), panel("honeycomb", 3), background(20))
    found = edge_short_rows(piece.band_views[0])
    n = found.every
    assert n % 2 == 0 and abs(n * found.body_um - (n + 2) * found.edge_um) <= found.body_um
    assert found.edge_um / found.body_um == pytest.approx(1.4 / 2.0, abs=0.06)
    rows = compile_piece(replace(piece, short_rows=True))
    due = [r.number for r in rows.rows if short_rows_due(rows, r.number)]
    first = next(r.number for r in rows.rows if r.section == "body")
    assert due[:4] == [first + n, first + n + 1, first + 2 * n, first + 2 * n + 1]
    sides = {rows.row(k).side for k in due[::2]}, {rows.row(k).side for k in due[1::2]}
    assert sides == ({Side.RS}, {Side.WS}), "the right edge before a right-side row, the left before the next"
    note = next(s.note for s in pattern_words(rows) if s.section == "body")
    assert f"before row {first + n} and then every {n} rows" in note
    high = replace(EDGE, pattern=LIBRARY["stockinette"])
    assert edge_short_rows(piece.band_views[0].with_segments((high, *piece.band_views[0].inner, high))) is None, (
        "as high as the body it wants nothing"
    )
    told = [c for c in layout_cautions(piece.band_views[0], plan_rows(piece).bands[0]) if c.short_rows]
    assert told and f"every {n} rows" in told[0].mend


def test_a_row_may_make_a_stitch_in_every_gap_where_that_is_chosen():
    """51 to 84, two new stitches to every three, in one row (common practice for a strongly drawn panel)."""
    rows = spread_evenly(51, 84, rows=1).rows
    assert len(rows) == 1 and len(spread_evenly(51, 84).rows) == 2
    made = knit([Loop("k", ())] * 51, "RS", rows[0].text)
    new = [i for i, loop in enumerate(made) if not loop.parents]
    assert len(made) == 84 and len(new) == 33 and all(b - a > 1 for a, b in pairwise(new)), "no two touch"
    with pytest.raises(IllegalPiece, match="51 stitches can become 101 at most"):
        spread_evenly(51, 120, rows=1)
    wide = throw(panel("honeycomb", 12), both=Border(pattern_id="garter", rows=8, count=4 + 60 + 4))
    many, few = (compile_piece(replace(wide, dense=on)).cast_on.bottom.rows for on in (False, True))
    assert (many, few) == (2, 1)


def test_a_tube_that_cannot_meet_itself_says_so_and_keeps_its_edges():
    """Where every column has a crossing across it the beginning of a round is moved; not in a band that is shaped."""
    narrow = EdgeShaped(
        stations=(Station(name="Wide", width_mm=500.0), Station(name="Narrow", width_mm=400.0, at_mm=100.0))
    )
    tries = (("trellis-6", None, False), ("trellis-6", narrow, True), ("honeycomb", narrow, False))
    for name, shaping, line in (*tries, ("honeycomb", None, False), ("rib-2x1", None, False)):
        role = "panel" if name in ("trellis-6", "honeycomb") else "background"
        band = Band(own=(library_segment(role, name, 12),), shaping=shaping)
        tube = replace(piece_of(width=500), bands=(band,), round=True)
        told = {c.kind for c in layout_cautions(tube.band_views[0], plan_rows(tube).bands[0])}
        assert ("join" in told) == line and (tube.band_views[0].segments[0].chart.balance > 0) == line
