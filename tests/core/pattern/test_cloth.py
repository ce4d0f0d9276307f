"""Whole pieces: free edges, bands of different counts, flare; solved on two levels, checked against general tools."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy import sparse
from scipy.optimize import check_grad, minimize
from scipy.sparse import linalg

from cablux.core.errors import IllegalPiece
from cablux.core.fabric import multilevel
from cablux.core.fabric.constants import FITTED
from cablux.core.fabric.network import build_piece, build_tile
from cablux.core.fabric.profile import band_profile, profile_of
from cablux.core.fabric.relax import _terms, energy, relax_tile
from cablux.core.fabric.rest import rest_sizes
from cablux.core.fabric.springs import spring_system
from cablux.core.fabric.whole import relax_piece
from cablux.core.library import LIBRARY
from cablux.core.notation import parse_chart
from cablux.core.pattern import cloth as cloth_module
from cablux.core.pattern import compile_piece
from cablux.core.pattern.cloth import relax_pattern
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.segment import library_segment
from cablux.core.rows.heights import plan_rows
from tests.core.strategies import piece_of

RATIO = 1.4


def rows(text: str, times: int = 1):
    return [[row.ops()] for row in parse_chart(text).rows] * times


def throw(**more) -> Piece:
    background, edge = library_segment("background", "reverse-stockinette", 6), library_segment("edge", "garter", 4)
    cable = library_segment("panel", "braid-9", 1)
    return piece_of(edge, background, cable, background, cable, background, edge, width=250.0, height=160.0, **more)


LACE = """row 1: k2, yo, k2tog, 2/2 LC, k2
row 2 (WS): p10
row 3: k1, m1l, k8, m1r, k1
row 4 (WS): p12
row 5: k1, ssk, 2/2 RC, sl2, k1, k2tog
row 6 (WS): p10"""


def test_the_gradient_of_a_piece_with_increases_decreases_and_slipped_stitches_is_the_slope_of_its_energy():
    net = build_piece(rows(LACE))
    s = spring_system(net, RATIO, FITTED)
    u = np.concatenate((net.place * 0.9, [10.0], net.row / RATIO, [0.0]))
    u += np.random.default_rng(3).normal(0.0, 0.15, s.size)
    assert check_grad(lambda v: energy(s, v)[0], lambda v: energy(s, v)[1], u) < 1e-4


def test_two_levels_find_the_minimum_that_a_general_optimiser_finds(monkeypatch):
    monkeypatch.setattr("cablux.core.fabric.whole._TOLERANCE", 1e-5)
    net = build_piece(rows(LACE, 3))
    s, n = spring_system(net, RATIO, FITTED), net.loops
    piece = relax_piece(net, RATIO)
    begin = np.concatenate((net.place * 1.0, [0.0], net.row / RATIO, [0.0]))
    found = minimize(lambda v: energy(s, v), begin, jac=True, method="L-BFGS-B", options={"maxiter": 9000})
    ours = np.concatenate((piece.x, [0.0], piece.y, [0.0]))
    assert piece.converged and energy(s, ours)[0] == pytest.approx(found.fun, abs=1e-5)
    x = found.x[:n] - found.x[:n].mean()
    np.testing.assert_allclose(piece.x, x, atol=0.02)


def test_deep_inside_a_piece_lies_as_its_tile_does():
    chart = LIBRARY["honeycomb"].chart
    tile = relax_tile(build_tile(chart), RATIO)
    piece = relax_piece(build_piece([[row.ops(9)] for row in chart.rows] * 8), RATIO)
    net = piece.net
    across = [piece.x[net.starts[32] + 9 + 8 * k] for k in (2, 5)]  # beyond the purl margins at the sides
    assert (across[1] - across[0]) / 3 == pytest.approx(tile.width_stitches, rel=0.01)
    up = [piece.y[net.starts[1 + 8 * k] + 36] for k in (2, 6)]
    assert (up[1] - up[0]) / 4 == pytest.approx(tile.height_stitches, rel=0.01)


def test_plain_cloth_flat_and_in_the_round_is_as_wide_as_its_stitches():
    for closed in (False, True):
        piece = relax_piece(build_piece(rows("row 1: k20", 30), in_the_round=closed), RATIO)
        assert piece.converged and piece.width_stitches == pytest.approx(20.0, abs=0.01)
        assert piece.y.max() == pytest.approx(30 / RATIO, abs=0.01)
        shape = profile_of(piece)
        assert max(np.abs(shape.flare)) < 0.01 and max(shape.scallop) < 0.01
    garter = relax_piece(build_piece(rows("row 1: k20", 1) * 1 + rows("row 1: p20", 1), in_the_round=True), RATIO)
    assert garter.width_stitches > 20.0


def test_a_mirrored_piece_is_the_mirrored_cloth():
    piece = throw(both=Border(style="straight"))  # nothing is made, so that the two are each other's picture row by row
    body = piece.band_views[0]
    turned = body.with_segments(tuple(replace(s, mirrored=s.role == "panel") for s in reversed(body.segments))).piece
    one, other = (relax_pattern(compile_piece(p)).relaxed for p in (piece, turned))
    np.testing.assert_allclose(profile_of(one).widths, profile_of(other).widths, atol=2e-3)
    np.testing.assert_allclose(profile_of(one).edge_pull, profile_of(other).edge_pull[::-1], atol=5e-2)


def test_a_straight_cast_on_under_cables_flares_and_a_stepped_one_does_not():
    stepped, straight = (relax_pattern(compile_piece(throw(both=Border(style=how)))) for how in ("stepped", "straight"))
    assert straight.relaxed.converged and straight.shape.flare[0] > 3.0
    assert abs(stepped.shape.flare[0]) < 0.4 * straight.shape.flare[0]
    (_, border), (_, body), (_, top) = straight.bands
    assert (
        border.flare_stitches == pytest.approx(straight.shape.flare[0], abs=0.5)
        and body.flare_stitches < border.flare_stitches
    )
    assert body.draw_in < border.draw_in < 1.04, "the body holds the border in, which would lie at garter's 1.04"
    assert 0.70 < border.draw_up < 0.80 and 0.70 < top.draw_up < 0.80, "common practice: two garter rows to a stitch"
    assert 0.9 < body.draw_up <= 1.0 and body.stitches == straight.pattern.piece.band_views[0].stitches
    assert border.rows + body.rows + top.rows == straight.relaxed.net.rows
    assert min(stepped.shape.edge_pull) > 0.0, "garter edges are shorter than the cables beside them"
    part = relax_pattern(stepped.pattern, border.rows + 21)
    assert sum(band.rows for _, band in part.bands) == border.rows + 21 + 1 == part.relaxed.net.rows, (
        "as far as knitted"
    )
    counts = np.bincount(stepped.segment)
    assert len(counts) == len(throw().band_views[0].segments) and counts.sum() == stepped.relaxed.net.loops
    narrow = [straight.shape.widths[i] for i in (0, len(straight.shape.widths) // 2)]
    assert narrow[0] > narrow[1]


def test_increases_widen_and_decreases_narrow_a_shaped_piece():
    text = "\n".join(f"row {r}: k1, m1l, k{2 * r - 1}, m1r, k1" for r in range(1, 16))
    widening = relax_piece(build_piece(rows(text)), RATIO)
    widths = profile_of(widening).widths
    assert widening.converged and np.all(np.diff(widths) > 0) and widths[-1] > widths[0] + 20


def test_slipped_edges_pull_a_strip_short():
    slipped = relax_piece(build_piece(rows("row 1: sl1, k8, sl1\nrow 2: k10", 15)), RATIO)
    plain = relax_piece(build_piece(rows("row 1: k10\nrow 2: k10", 15)), RATIO)
    assert slipped.y.max() < plain.y.max() - 0.5
    assert min(profile_of(slipped).edge_pull) > min(profile_of(plain).edge_pull) + 0.08


def test_progress_is_told_and_can_stop_the_work():
    pattern, told = compile_piece(throw()), []
    done = relax_pattern(pattern, progress=lambda part: bool(told.append(part)) or True)
    assert done.relaxed.converged and told == sorted(told) and told[-1] == 1.0
    stopped = relax_pattern(pattern, progress=lambda part: False)
    assert not stopped.relaxed.converged and stopped.relaxed.iterations == 1
    so_far = relax_pattern(pattern, 12)
    assert so_far.relaxed.net.rows == 13


def test_a_piece_that_is_too_large_or_does_not_add_up_is_refused(monkeypatch):
    monkeypatch.setattr(cloth_module, "_MAX_LOOPS", 100)
    with pytest.raises(IllegalPiece, match="up to 100 can be laid out"):
        relax_pattern(compile_piece(throw()))
    with pytest.raises(IllegalPiece, match="no cloth before"):
        relax_pattern(compile_piece(throw()), 0)
    with pytest.raises(ValueError, match="row 2 takes 3 loops, but there are 4"):
        build_piece([*rows("row 1: k4"), *rows("row 1: k3")])


def test_a_cast_on_folds_with_the_rows_above_it():
    """Seed alternates from row to row and lies flat from its first row on; a rib's cast-on is drawn in like the rib."""
    seed = relax_piece(build_piece(rows("row 1: (k1, p1) 12 times\nrow 2: (p1, k1) 12 times", 8)), RATIO)
    widths = profile_of(seed).widths
    assert abs(widths[0] - widths[8]) < 0.04 * widths[8]
    rib = relax_piece(build_piece(rows("row 1: (k1, p1) 12 times", 16)), RATIO)
    assert profile_of(rib).widths[0] < 0.9 * widths[0]


def test_what_a_border_folds_like_does_not_hang_on_the_crossings_of_another_band():
    """Rib, then more stitches in knit with or without a crossing: the rib's own courses rest alike."""
    rib = rows("row 1: (k2, p2) 5 times", 8)
    bodies = [
        rows("row 1: (k2, m1l, p2) 5 times", 1) + rows(f"row 1: k9, {middle}, k8", 4) for middle in ("4/4 LC", "k8")
    ]
    sizes = [rest_sizes(build_piece(rib + [[r[0]] for r in body]), FITTED)[0] for body in bodies]
    courses = 19 * 9
    np.testing.assert_array_equal(sizes[0][:courses], sizes[1][:courses])
    tight = rest_sizes(build_piece(rows("row 1: (k2, p2) 5 times", 4) + rows("row 1: 10/10 LC", 1)), FITTED)[0]
    assert not np.allclose(tight[:57], sizes[0][:57]), "in its own band a crossing does hold"


@pytest.mark.parametrize("ratio", [1.2, 1.4, 1.6])
def test_a_plain_piece_is_as_tall_as_its_rows(ratio):
    piece = relax_piece(build_piece(rows("row 1: k12", 24)), ratio)
    assert piece.height_stitches == pytest.approx(25 / ratio, abs=0.01), "24 rows and the cast-on"


def test_the_height_planned_is_that_of_the_rows_by_the_gauge():
    plain = library_segment("background", "stockinette", 60)
    for tall in (200.0, 350.0):
        tube = replace(piece_of(height=tall), bands=(Band(own=(plain,)),), round=True)
        tube = replace(tube, bottom=Border(rows=0), top=Border(rows=0))
        planned = plan_rows(tube)
        assert planned.height_um == pytest.approx(planned.total * 1e5 / 28.0, rel=1e-3)
        assert planned.height_um / 1000 == pytest.approx(tall, abs=5.0)


def test_every_loop_is_told_by_its_band_and_its_segment():
    edge, background = library_segment("edge", "garter", 3), library_segment("background", "stockinette", 20)
    other = replace(background, pattern=LIBRARY["seed"], repeats=10)
    bands = (Band(own=(edge, background, edge), rows=10), Band(own=(edge, other, edge), rows=6))
    made = relax_pattern(compile_piece(replace(piece_of(width=150, height=100), bands=bands)))
    numbers = set(made.segment.tolist())
    assert len(numbers) == 6, "three segments in each of two bands"
    tallied = [int((made.segment == n).sum()) for n in sorted(numbers)]
    assert sum(tallied) == made.relaxed.net.loops and tallied[0] == tallied[2] and tallied[3] == tallied[5]
    assert tallied[1] > tallied[4], "the first band has more rows, and the set-up"


def test_a_tube_does_not_know_where_its_rounds_begin():
    """Stitches made from the bar at the beginning of a round hang over the join as they would anywhere else."""
    plain, wider = rows("row 1: k24", 6), rows("row 1: k25", 6)
    here, there = (
        relax_piece(build_piece(plain + rows(f"row 1: {made}") + wider, in_the_round=True), RATIO)
        for made in ("m1l, k24", "k12, m1l, k12")
    )
    assert here.converged and there.converged and len(here.net.leg) == len(there.net.leg)
    np.testing.assert_allclose(np.sort(profile_of(here).levels), np.sort(profile_of(there).levels), atol=5e-3)
    assert here.width_stitches == pytest.approx(there.width_stitches, abs=5e-3)


def test_the_profile_of_a_piece_is_measured_loop_by_loop():
    """Widths, levels, flare, scallop and edge pull told anew from where each loop lies."""
    for closed in (False, True):
        text = "row 1: k24\nrow 2: p24" if closed else LACE
        piece = relax_piece(
            build_piece(rows(text, 3) + rows(f"row 1: k{24 if closed else 10}, m1l"), in_the_round=closed), RATIO
        )
        net, shape = piece.net, profile_of(piece)
        lines = [[(piece.x[i], piece.y[i]) for i in range(net.loops) if net.row[i] == r] for r in range(net.rows)]
        widths = [piece.width_stitches if closed else line[-1][0] - line[0][0] + 1.0 for line in lines]
        np.testing.assert_allclose(shape.widths, widths)
        np.testing.assert_allclose(shape.levels, [sum(y for _, y in line) / len(line) for line in lines])
        third = sorted(widths[len(lines) // 3 : 2 * len(lines) // 3])
        assert shape.middle_stitches == pytest.approx((third[(len(third) - 1) // 2] + third[len(third) // 2]) / 2)
        assert shape.flare == pytest.approx((widths[0] - shape.middle_stitches, widths[-1] - shape.middle_stitches))
        waves = [max(y for _, y in line) - min(y for _, y in line) for line in (lines[0], lines[-1])]
        assert shape.scallop == pytest.approx(tuple(waves))
        high = lines[-1][(len(lines[-1]) - 1) // 2][1] - lines[0][(len(lines[0]) - 1) // 2][1]
        assert shape.edge_pull == pytest.approx(tuple(high - (lines[-1][k][1] - lines[0][k][1]) for k in (0, -1)))
        band = band_profile(piece, shape, 2, last=6, ratio=RATIO)
        counts = [len(line) for line in lines[2:7]]
        assert (band.stitches, band.rows) == (max(counts), 5)
        assert band.width_stitches == pytest.approx(sum(widths[2:7]) / 5)
        assert band.draw_in == pytest.approx(sum(w / n for w, n in zip(widths[2:7], counts, strict=True)) / 5)
        assert band.draw_up == pytest.approx((shape.levels[6] - shape.levels[2]) * RATIO / 4)
        assert band.flare_stitches == pytest.approx(max(widths[2:7]) - shape.middle_stitches)


def test_what_the_coarse_grid_says_of_a_plane_is_that_plane():
    """Bilinear functions: weights that add up to one, and any plane over rows and places is given back."""
    for net in (build_piece(rows(LACE, 4)), build_piece(rows("row 1: k40", 21)), build_piece(rows("row 1: k3", 1))):
        prolong = multilevel._bilinear(net)
        n = net.loops
        high, wide = (max(2, -(-most // each)) + 1 for most, each in ((net.rows, 4), (int(net.counts.max()), 8)))
        assert prolong.shape == (2 * n + 2, 2 * high * wide) and prolong.min() >= 0.0
        up, across = np.meshgrid(np.linspace(0, 1, high), np.linspace(0, 1, wide), indexing="ij")
        for x, y in ((up, across), (1.0 + 0 * up, 2.0 + 3.0 * up - across)):
            found = prolong @ np.stack((x, y), axis=1).ravel()
            v, u = net.row / (net.rows - 1), (net.place + 0.5) / net.counts[net.row]
            wanted = [(v, u), (1.0 + 0 * v, 2.0 + 3.0 * v - u)][0 if x is up else 1]
            np.testing.assert_allclose(found[:n], wanted[0], atol=1e-12)
            np.testing.assert_allclose(found[n + 1 : -1], wanted[1], atol=1e-12)
            assert found[n] == found[-1] == 0.0, "the tile that a piece has not stays as it is"


@pytest.mark.parametrize("closed", [False, True])
def test_a_newton_step_is_what_a_direct_solver_finds_in_few_steps(monkeypatch, closed):
    """The step against scipy's direct solver on the matrix written out, and how many steps conjugate gradients take."""
    text = "row 1: k4, 4/4 LC, (k2, p2) 16 times\nrow 2: k12, (k2, p2) 16 times"
    net = build_piece(rows(text, 20), in_the_round=closed)
    s = spring_system(net, RATIO, FITTED)
    u = np.concatenate((net.place * 0.9, [60.0 * closed], net.row / RATIO, [0.0]))
    u += np.random.default_rng(1).normal(0.0, 0.2, s.size)
    _, slope, weights = _terms(s, u)
    taken, solver = [], linalg.cg
    monkeypatch.setattr(linalg, "cg", lambda *a, **k: solver(*a, callback=taken.append, **k))
    step = multilevel.TwoLevel(s, net).solve(weights, -slope)
    kinds = (s.course, s.tilt, s.bend, s.leg_x, s.leg_y)
    forms = sparse.vstack([multilevel._matrix(form, s.size) for form in kinds]).tocsc()
    course, level, bend, xx, yy, xy, *_ = weights
    middle = sparse.diags_array(np.concatenate((course, level, bend, xx, yy))).tolil()
    legs = len(xx)
    first = forms.shape[0] - 2 * legs
    for i in range(legs):
        middle[first + i, first + legs + i] = middle[first + legs + i, first + i] = xy[i]
    hessian = (forms.T @ middle.tocsc() @ forms + 1e-6 * sparse.eye_array(s.size)).tocsc()
    exact = linalg.spsolve(hessian, -slope)
    assert np.linalg.norm(hessian @ step + slope) < 0.06 * np.linalg.norm(slope)
    assert float(step @ (hessian @ step)) == pytest.approx(float(exact @ (hessian @ exact)), rel=0.1)
    assert len(taken) <= 8, "six or seven here: rows solved exactly and a coarse grid leave little"
