"""The fabric model: its energy against general tools, its symmetries, and the trade's own values."""

from __future__ import annotations

import importlib.util
import threading
from concurrent.futures import ThreadPoolExecutor
from dataclasses import fields, replace
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import check_grad, minimize

from cablux.core.errors import IllegalPiece
from cablux.core.fabric.constants import FITTED
from cablux.core.fabric.draw_in import compute_draw_in, relaxed_tile, span_width
from cablux.core.fabric.network import build_tile
from cablux.core.fabric.relax import _terms, energy, regular_grid, relax_tile
from cablux.core.fabric.springs import spring_system
from cablux.core.library import LIBRARY
from cablux.core.notation import Crossing, K, parse_chart
from cablux.core.notation.closing import closed_chart
from tests.core.strategies import charts

RATIO = 1.4


def rope(n: int, every: int, lean: str = "L"):
    lines = [f"name: rope\nmultiple: {2 * n + 4}"]
    for row in range(1, every + 1):
        middle = f"{n}/{n} {lean}C" if row == 3 else f"k{2 * n}"
        lines.append(f"row {row}: p2, {middle}, p2")
    return parse_chart("\n".join(lines))


def rope_draw_in(n: int, every: int) -> float:
    """Draw-in of the rope's own columns between its purl margins."""
    return span_width(relaxed_tile(rope(n, every), RATIO, 1), 2, 2 + 2 * n) / (2 * n)


def texture(width: int, *rows: str):
    return parse_chart("\n".join([f"multiple: {width}", *(f"row {i}: {r}" for i, r in enumerate(rows, 1))]))


@pytest.mark.parametrize("pattern_id", ["rope-2-2-left", "braid-6", "seed"])
def test_the_gradient_is_the_slope_of_the_energy(pattern_id):
    net = build_tile(LIBRARY[pattern_id].chart, 1)
    s = spring_system(net, RATIO, FITTED)
    u = regular_grid(net, RATIO) + np.random.default_rng(7).normal(0.0, 0.15, s.size)
    off = check_grad(lambda v: energy(s, v)[0], lambda v: energy(s, v)[1], u)
    assert off < 1e-4


@pytest.mark.parametrize("pattern_id", ["rope-2-2-left", "braid-6", "honeycomb"])
def test_the_solved_step_is_the_one_that_the_slopes_own_slope_asks_for(pattern_id):
    """Where every leg is stretched the Hessian is whole: by central differences of the gradient, up to a shift."""
    net = build_tile(LIBRARY[pattern_id].chart, 1)
    s = spring_system(net, RATIO, FITTED)
    chance, n = np.random.default_rng(11), net.loops
    u = regular_grid(net, RATIO) + chance.normal(0.0, 0.02, s.size)
    u[n + 1 :] *= 2.0
    way, little = chance.normal(0.0, 1.0, s.size), 1e-6
    asked = (energy(s, u + little * way)[1] - energy(s, u - little * way)[1]) / (2 * little)
    off = s.hessian.solve(_terms(s, u)[2], np.full(s.size, 1e-9), asked) - way
    for loops in (slice(0, n), slice(n + 1, -1)):  # the whole tile may lie anywhere
        off[loops] -= off[loops].mean()
    assert np.abs(off).max() < 1e-3 * np.abs(way).max()


@pytest.mark.parametrize("pattern_id", ["rope-2-2-left", "braid-6"])
def test_the_minimum_is_the_one_a_general_optimiser_finds(pattern_id):
    net = build_tile(LIBRARY[pattern_id].chart, 1)
    s = spring_system(net, RATIO, FITTED)
    found = minimize(
        lambda v: energy(s, v), regular_grid(net, RATIO), jac=True, method="L-BFGS-B", options={"maxiter": 9000}
    )
    tile = relax_tile(net, RATIO)
    ours = np.concatenate((tile.x, [tile.width_stitches], tile.y, [tile.height_stitches]))
    assert tile.converged and tile.residual < 1e-6
    assert energy(s, ours)[0] <= found.fun + 1e-9
    assert tile.width_stitches == pytest.approx(found.x[net.loops], abs=2e-3)
    assert tile.height_stitches == pytest.approx(found.x[-1], abs=2e-3)


def test_stockinette_is_the_measure_and_a_mirror_changes_nothing():
    plain = compute_draw_in(LIBRARY["stockinette"].chart, RATIO)
    assert (plain.draw_in, plain.draw_up) == (pytest.approx(1.0), pytest.approx(1.0))
    for pattern in LIBRARY.values():
        one, other = compute_draw_in(pattern.chart, RATIO, 1), compute_draw_in(pattern.chart.mirrored(), RATIO, 1)
        assert one.converged and other.draw_in == pytest.approx(one.draw_in, abs=1e-6)
        assert other.draw_up == pytest.approx(one.draw_up, abs=1e-6)


@given(charts(), st.floats(1.1, 1.8))
def test_any_chart_that_adds_up_relaxes(chart, ratio):
    tile = compute_draw_in(chart, ratio, 1)
    assert tile.converged and tile.draw_in > 0.35 and 0.5 < tile.draw_up < 1.3


@given(charts(), st.floats(1.1, 1.8))
def test_on_knit_background_no_crossing_ever_gains_width(chart, ratio):
    """With every loop knit nothing folds: plain, it is stockinette and as wide; what crosses only takes from that."""

    def knit(op):
        return op.regrouped(*(tuple(K for _ in g) for g in op.groups_taken)) if isinstance(op, Crossing) else K

    rows = tuple(
        replace(row, **{p: tuple(map(knit, getattr(row, p))) for p in ("before", "box", "after")}) for row in chart.rows
    )
    tile = compute_draw_in(replace(chart, rows=rows), ratio, 1)
    assert tile.width_stitches <= chart.width(1) * (1.0 + 1e-6)
    crossed = any(isinstance(op, Crossing) for row in rows for op in row.ops())
    assert (tile.width_stitches < chart.width(1) * (1.0 - 1e-6)) == crossed


def test_a_tile_with_eyelets_is_relaxed_though_its_new_loops_have_no_parents():
    lace = parse_chart("row 1: k2tog, yo, k1\nrow 2 (WS): p3\nrow 3: yo, ssk, k1\nrow 4 (WS): p3")
    assert compute_draw_in(lace, RATIO, 1).converged


def test_a_tile_does_not_know_where_it_was_cut():
    chart = LIBRARY["rope-3-3-left"].chart
    assert compute_draw_in(chart.shifted(3), RATIO, 1).draw_in == pytest.approx(
        compute_draw_in(chart, RATIO, 1).draw_in, abs=1e-6
    )
    once, twice = relaxed_tile(chart, RATIO, 1), relaxed_tile(chart, RATIO, 2)
    assert twice.width_stitches == pytest.approx(2 * once.width_stitches, abs=1e-5)


def test_a_lattice_whose_box_begins_elsewhere_in_each_row_wraps_through_the_seam():
    straddling = "multiple: 4\nrow 1: 2/2 LC\nrow 2: k4"
    shifted = "multiple: 4 + 2\nrow 1: k1, *2/2 LC; rep from *, k1\nrow 2: *k4; rep from *, k2"
    one, other = compute_draw_in(parse_chart(straddling), RATIO), compute_draw_in(parse_chart(shifted), RATIO)
    assert other.draw_in == pytest.approx(one.draw_in, abs=1e-6)


# common practice, relaxed after washing; none of these was used in the fit (docs/fabric.md)
CHECK = [
    (rope_draw_in(2, 6), 0.75, 0.85, "rope 2/2 every 6"),
    (rope_draw_in(3, 6), 0.68, 0.78, "rope 3/3 every 6"),
    (compute_draw_in(texture(4, "k2, p2", "k2, p2"), RATIO).draw_in, 0.55, 0.75, "2×2 rib"),
    (compute_draw_in(texture(2, "k1, p1", "p1, k1"), RATIO).draw_in, 1.00, 1.10, "seed"),
    # Spencer, Knitting Technology: 1×1 rib relaxes by about 30 % from its knitted width
    (compute_draw_in(texture(2, "k1, p1", "k1, p1"), RATIO).draw_in, 0.65, 0.77, "1×1 rib"),
    (span_width(relaxed_tile(LIBRARY["braid-6"].chart, RATIO, 1), 2, 8) / 6, 0.62, 0.75, "braid of 6"),
    (span_width(relaxed_tile(LIBRARY["braid-9"].chart, RATIO, 1), 2, 11) / 9, 0.70, 0.80, "braid of 9"),
    (span_width(relaxed_tile(LIBRARY["horseshoe-8"].chart, RATIO, 1), 2, 10) / 8, 0.70, 0.80, "horseshoe of 8"),
    (span_width(relaxed_tile(LIBRARY["hugs-8"].chart, RATIO, 1), 2, 10) / 8, 0.68, 0.78, "hugs and kisses"),
    (compute_draw_in(LIBRARY["diamond-moss"].chart, RATIO, 1).draw_in, 0.85, 0.95, "travelling diamond"),
]


@pytest.mark.parametrize(("got", "low", "high", "name"), CHECK, ids=[c[3] for c in CHECK])
def test_draw_in_lies_in_the_trades_band(got, low, high, name):
    assert low <= got <= high


@given(st.integers(1, 4), st.integers(0, 7), st.sets(st.integers(0, 7), max_size=5), st.integers(0, 7))
def test_one_more_crossing_hardly_ever_widens(n, first, others, more):
    """Common practice: more crossings a row never widen; on 16 rows with crossings anywhere among them.

    A crossing of two stitches or more holds its column so that it folds less, and by the trade's own bands a 4×4 rib
    (0.60 to 0.80) is narrower than a rope: so it may widen by a little, all of them together by a twentieth. Twists
    hold nothing, and never widen.
    """

    def width(at: set[int]) -> float:
        middle = [f"{n}/{n} LC" if row // 2 in at and row % 2 == 0 else f"k{2 * n}" for row in range(16)]
        return compute_draw_in(texture(2 * n + 4, *[f"p2, {m}, p2" for m in middle]), RATIO, 1).width_stitches

    none, fewer, all_ = width(set()), width(others | {first}), width(others | {first, more})
    assert all_ <= fewer * (1.0 if n == 1 else 1.02) + 1e-6
    assert max(fewer, all_) <= none * (1.0 if n == 1 else 1.05) + 1e-6


@pytest.mark.parametrize("n", [2, 3, 4])
def test_rare_crossings_are_hardly_wider_than_none_and_no_distance_is_a_cliff(n):
    """p2, 2n knit, p2 with n/n crossed every so many rows, from the customary distance to hardly ever."""
    near, far = [d for d in range(4, 26, 2) if d >= 2 * n], [24, 30, 36, 48, 60, 72]
    plain = compute_draw_in(texture(2 * n + 4, f"p2, k{2 * n}, p2"), RATIO, 1).draw_in
    close, rare = ([compute_draw_in(rope(n, d), RATIO, 1).draw_in for d in each] for each in (near, far))
    assert max(close + rare) <= 1.05 * plain
    assert max(abs(a - b) for a, b in pairwise(close)) <= 0.03
    assert max(abs(a - b) for a, b in pairwise(rare)) <= 0.05


@pytest.mark.parametrize("n", [3, 4, 6, 12])
def test_crossings_squeeze_no_cloth_thinner_than_its_yarn(n):
    """Peirce (Text. Res. J. 17, 1947): packed wales lie 4 yarn diameters apart, and at a crossing in two layers."""
    packed = compute_draw_in(texture(2 * n, f"{n}/{n} LC", f"k{2 * n}"), RATIO, 1)
    assert packed.converged and 0.37 < packed.draw_in < 0.42


def test_the_orderings_that_any_model_must_keep():
    """J. H. Hiatt, *The Principles of Knitting*: crossed stitches reduce the width. The rest is common practice."""
    assert max(rope_draw_in(n, 2 * n) for n in (2, 3, 4)) < 1.0
    assert rope_draw_in(2, 4) < rope_draw_in(2, 6) < rope_draw_in(2, 8), "a longer distance is wider"
    assert rope_draw_in(3, 6) < rope_draw_in(3, 8) < rope_draw_in(3, 10)
    tight = [rope_draw_in(n, 2 * n) for n in (2, 3, 4)]
    assert max(tight) - min(tight) < 0.05, "n over n every 2n rows is about equally tight"
    assert (
        compute_draw_in(LIBRARY["diamond-moss"].chart, RATIO, 1).draw_in
        > compute_draw_in(LIBRARY["braid-9"].chart, RATIO, 1).draw_in
    )
    in_rib = texture(8, "k2, p2, k2, p2", "LC[k2 p2|k2 p2]", "k2, p2, k2, p2", "k2, p2, k2, p2")
    in_plain = texture(8, "k8", "4/4 LC", "k8", "k8")
    assert compute_draw_in(in_rib, RATIO).draw_in < compute_draw_in(in_plain, RATIO).draw_in, "rib cables draw in more"


def test_rows_of_garter_and_cables_are_as_short_as_the_trade_says():
    """Spencer, Knitting Technology: purl (garter) cloth contracts lengthwise by a quarter or more as it relaxes."""
    garter = compute_draw_in(LIBRARY["garter"].chart, RATIO)
    rows_per_stitch = RATIO * garter.draw_in / garter.draw_up
    assert garter.draw_up <= 0.75
    assert rows_per_stitch == pytest.approx(2.0, abs=0.05), "common practice: two rows of garter are one stitch"
    for pattern_id in ("honeycomb", "braid-6", "rope-4-4-left"):
        assert 0.92 <= compute_draw_in(LIBRARY[pattern_id].chart, RATIO, 1).draw_up <= 1.0, (
            "common practice: 0 to 8 % more rows"
        )


def test_what_several_ask_for_at_once_is_relaxed_once(monkeypatch):
    chart, relaxations, start_line = LIBRARY["braid-9"].chart, [], threading.Barrier(4)
    arrived, asking = threading.Event(), iter(range(4))

    def slow(net, ratio, constants):
        relaxations.append(threading.get_ident())
        arrived.wait(5.0)  # until the others have asked as well
        return relax_tile(net, ratio, constants)

    monkeypatch.setattr("cablux.core.fabric.draw_in.relax_tile", slow)

    def ask(_: int) -> float:
        start_line.wait()
        if next(asking) == 3:
            arrived.set()
        return compute_draw_in(chart, 1.512345).width_stitches + relaxed_tile(chart, 1.512345).width_stitches

    with ThreadPoolExecutor(4) as pool:
        assert len(set(pool.map(ask, range(4)))) == 1
    assert len(relaxations) == 1


def test_running_out_of_steps_and_impossible_tiles_are_told_apart(monkeypatch):
    monkeypatch.setattr("cablux.core.fabric.relax._MOST_STEPS", 1)
    stopped = relax_tile(build_tile(LIBRARY["braid-6"].chart, 1), RATIO)
    assert not stopped.converged and stopped.iterations == 1 and stopped.residual > 1e-6
    with pytest.raises(IllegalPiece, match="not a knitted gauge"):
        compute_draw_in(LIBRARY["seed"].chart, 9.0)
    with pytest.raises(IllegalPiece, match="too many to compute"):
        compute_draw_in(LIBRARY["seed"].chart, 1.41, 4000)


def test_the_documented_tables_are_what_the_script_prints():
    """Row by row: docs/fabric.md against the constants in use and tools/fit_fabric.py."""
    root = Path(__file__).parents[3]
    spec = importlib.util.spec_from_file_location("fit_fabric", root / "tools" / "fit_fabric.py")
    script = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(script)
    written = [line for line in (root / "docs" / "fabric.md").read_text("utf-8").splitlines() if line.startswith("| ")]
    printed = [*script.rows_of(script.FIT, FITTED), *script.rows_of(script.CHECK, FITTED)]
    printed += [script.variant_row(name, script.as_found(name)) for name in script.ALTERNATIVES]
    printed += script.rare_rows(FITTED)
    constants = [f"| `{field.name}` | {getattr(FITTED, field.name):g} |" for field in fields(FITTED)]
    told = [line for line in written if line.startswith("| `")]
    assert [line.split("|")[1:3] for line in sorted(told)] == [line.split("|")[1:3] for line in sorted(constants)]
    heads = ("| `", "| constant", "| fit |", "| check |", "| variant", "| crossing")
    assert [line for line in written if not line.startswith(heads)] == printed


def test_no_pattern_takes_more_steps_than_is_documented():
    text = (Path(__file__).parents[3] / "docs" / "fabric.md").read_text("utf-8")
    most = max(relax_tile(build_tile(p.chart, 1), RATIO).iterations for p in LIBRARY.values())
    words = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")
    assert f"in at most {words[most]} steps for every pattern of the library" in text


@pytest.mark.parametrize("name", ["trellis-6", "trellis-8", "basket-6-wide", "rib-lattice"])
def test_a_round_that_begins_inside_a_crossing_is_the_same_endless_cloth(name):
    """Cut at another column, in one repeat or in two, nothing of the cloth changes."""
    chart = LIBRARY[name].chart
    closed = closed_chart(chart)
    assert closed is not None and any(row.joined for row in closed.rows) and not closed.balance
    endless = compute_draw_in(chart, 1.4)
    for repeats in (0, 1, 2):
        found = compute_draw_in(closed, 1.4, repeats)
        assert found.draw_in == pytest.approx(endless.draw_in, rel=1e-6), repeats
        assert found.draw_up == pytest.approx(endless.draw_up, rel=1e-6), repeats
