"""The solver and its clashes against brute force over every small layout; what its answers keep."""

from __future__ import annotations

import re
from contextlib import nullcontext
from dataclasses import replace
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import OptimizeResult, milp

from cablux.core.counts import clash as clash_module
from cablux.core.counts.clash import explain_clash, smallest_clash
from cablux.core.counts.integer import _gap, solve_counts
from cablux.core.counts.program import Program, Wish, wishes_of
from cablux.core.counts.solver import layout_score, solve_layout, solve_layouts
from cablux.core.errors import Infeasible, OutOfTime
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.problems import piece_problems
from cablux.core.piece.segment import Segment
from cablux.core.piece.symmetry import is_symmetric
from cablux.core.piece.widths import body_um
from tests.core.pieces import PLAIN, background, panel, throw
from tests.core.strategies import piece_of, pieces
from tests.examples import examples

backgrounds = st.sampled_from(["reverse-stockinette", "double-moss", "seed"])


@st.composite
def small_layouts(draw: st.DrawFn) -> Piece:
    """Two or three backgrounds round fixed panels with all kinds of wishes, in reach of brute force."""
    inner: list[Segment] = []
    for _ in range(draw(st.integers(2, 3))):
        bounds = draw(
            st.sampled_from([{}, {}, {"least": 5}, {"most": 14}, {"by": 2}, {"least": 8, "most": 9, "by": 2}])
        )
        locked = draw(st.integers(0, 5)) == 0
        inner.append(background(draw(st.integers(1, 12)), draw(backgrounds), locked=locked, **bounds))
        if draw(st.booleans()):
            inner.append(panel(draw(st.sampled_from(["rope-3-3-left", "braid-9"]))))
    width = draw(st.integers(150, 330))
    made = throw(
        *inner,
        width=width,
        tolerance_mm=draw(st.sampled_from([12, 5])),
        gaps=draw(st.sampled_from(["equal", "outside"])),
        total=draw(st.sampled_from([(1, 0), (1, 0), (4, 1)])),
    )
    return made.with_band(made.band_views[0].band.folded(), 0) if draw(st.booleans()) else made


def _choices(piece: Piece, active) -> list[list[int]]:
    """The repeats that each segment may have by itself, backgrounds of up to 45 stitches."""
    kinds = {w.kind for w in active}
    choices = []
    for i, s in enumerate(piece.band_views[0].segments):
        mine = {w.kind for w in active if w.at == piece.band_views[0].band.home(i)[0]}
        if s.role != "background" or (s.locked and "locked" in mine):
            choices.append([s.repeats])
            continue
        least = piece.least_background if "least" in kinds else 1
        least, most = (max(least, s.least), s.most or 45) if "bounds" in mine else (least, 45)
        by = s.by if "by" in mine else 1
        choices.append([r for r in range(1, 46) if least <= s.chart.width(r) <= most and r % by == 0])
    return choices


def _every(piece: Piece, active) -> np.ndarray:
    """Repeats, shape (layouts, segments), of every layout with backgrounds of up to 45 stitches that keeps `active`."""
    kinds, choices = {w.kind for w in active}, _choices(piece, active)
    laid = np.array(np.meshgrid(*choices, indexing="ij")).reshape(len(choices), -1).T
    if "halves" in kinds:
        laid = laid[(laid == laid[:, ::-1]).all(axis=1)]
    stitches = _stitches(piece, laid)
    if "total" in kinds:
        keep = stitches.sum(axis=1) % piece.total[0] == piece.total[1]
        laid, stitches = laid[keep], stitches[keep]
    if "width" in kinds:
        keep = np.abs(_widths(piece, laid) - piece.width_mm * 1000) <= piece.tolerance_mm * 1000
        laid, stitches = laid[keep], stitches[keep]
    free = [i for i, c in enumerate(choices) if len(c) > 1]
    if "outside" in kinds and len(free) > 2:
        inner, outer = stitches[:, free[1:-1]], stitches[:, [free[0], free[-1]]]
        laid = laid[inner.max(axis=1) <= outer.min(axis=1)]
    return laid


def _stitches(piece: Piece, laid: np.ndarray) -> np.ndarray:
    charts = [s.chart for s in piece.band_views[0].segments]
    return laid * [c.multiple for c in charts] + [c.balance for c in charts]


def _widths(piece: Piece, laid: np.ndarray) -> np.ndarray:
    units = [PLAIN.unit(s.cloth, s.role == "panel") for s in piece.band_views[0].segments]
    return (laid * [u.repeat_um for u in units] + [u.fixed_um for u in units]).sum(axis=1)


def _asked(piece: Piece) -> set[Wish]:
    """What a knitter reads off the layout: every wish that it carries, told anew from its fields."""
    own, out = piece.band_views[0].band.own, {Wish("width")}
    for at, s in enumerate(own):
        if s.locked:
            out.add(Wish("locked", at))
        elif s.role == "background":
            out |= {Wish("bounds", at)} if s.least or s.most else set()
            out |= {Wish("by", at)} if s.by != 1 else set()
    free = [s for s in own if s.role == "background" and not s.locked]
    out |= {Wish("least")} if free and piece.least_background > 1 else set()
    out |= {Wish("total")} if piece.total != (1, 0) else set()
    out |= {Wish("halves")} if piece.band_views[0].band.symmetric else set()
    backgrounds = sum(s.role == "background" for s in piece.band_views[0].segments)
    return out | ({Wish("outside")} if piece.gaps == "outside" and backgrounds > 2 else set())


def _goals(piece: Piece, laid: np.ndarray) -> np.ndarray:
    """What the solver keeps small, in its order, shape (layouts, 4); half a step of width is no error."""
    step = 100_000.0 / piece.gauge.stitches * (2 if piece.band_views[0].band.symmetric else 1)
    off = np.maximum(0.0, np.abs(_widths(piece, laid) - piece.width_mm * 1000) - step / 2)
    stitches, none = _stitches(piece, laid), np.zeros(len(laid))
    gaps = [i for i, choices in enumerate(_choices(piece, _asked(piece))) if len(choices) > 1]
    outer_at = [gaps[0], gaps[-1]] if piece.gaps == "outside" and len(gaps) > 2 else []
    inner = stitches[:, [i for i in gaps if i not in outer_at]]
    uneven = np.ptp(inner, axis=1) if inner.size else none
    outer = stitches[:, outer_at].max(axis=1) - inner.min(axis=1) if outer_at else none
    now = np.array([s.stitches for s in piece.band_views[0].segments])
    return np.stack((off, uneven, outer, np.abs(stitches - now).sum(axis=1)), axis=1)


@examples(50)
@given(small_layouts())
def test_no_layout_beats_the_solvers_in_the_order_of_its_goals(piece):
    every = _every(piece, _asked(piece))
    assert set(wishes_of(piece.band_views[0])) == _asked(piece)
    found = solve_layout(piece.band_views[0], "closest")
    if not len(every):
        assert found is None or max(s.stitches for s in found.segments if s.role == "background") > 45
        return
    goals = _goals(piece, every)
    best = goals[np.lexsort(goals.T[::-1])[0]]

    def of(a) -> np.ndarray:
        mine = _goals(piece, np.array([[s.repeats for s in a.segments]]))[0]
        assert [
            layout_score(piece.band_views[0], a, goal) for goal in ("error", "uneven", "outer", "change")
        ] == pytest.approx(list(mine))
        return mine

    assert found and found.optimal and found.width_um == body_um(piece.band_views[0].with_segments(found.segments))
    got = of(found)
    assert got[0] <= best[0] + 1 and (got[0] < best[0] - 1 or tuple(got[1:]) <= tuple(best[1:]))
    even, least = solve_layout(piece.band_views[0], "most even"), solve_layout(piece.band_views[0], "least change")
    assert even and of(even)[1] <= goals[:, 1].min()
    assert least and of(least)[3] <= goals[:, 3].min()


def test_an_answer_that_was_not_proven_in_time_says_how_far_off_it_may_be(monkeypatch):
    inner = [s for n in range(8) for s in (background(5 + n), panel("braid-9"))]
    piece = throw(*inner, background(9), width=1000)
    sure = solve_layout(piece.band_views[0], "closest")
    assert sure.optimal
    monkeypatch.setattr("cablux.core.counts.integer._TIME_LIMIT", 0.0)
    solve_layout.cache_clear()
    hasty = solve_layout(piece.band_views[0], "closest")
    assert hasty and (hasty.optimal or hasty.doubt.gap > 0.0)
    assert solve_layout(piece.band_views[0], "closest") is hasty, "the layout that is taken is the one that was shown"
    solve_layout.cache_clear()
    laid = piece.band_views[0].with_segments(hasty.segments)
    assert abs(body_um(laid) - 1_000_000) <= piece.tolerance_mm * 1000, "what holds is held all the same"


@pytest.mark.parametrize(
    ("goal", "bound", "gap"),
    [
        ("error", -2.0, 3000.0),
        ("error", 1.5, 1500.0),
        ("error", None, 3000.0),
        ("uneven", 0.4, 2.0),
        ("uneven", 2.2, 0.0),
        ("change", None, np.inf),
    ],
)
def test_a_goal_of_whole_stitches_is_proven_once_nothing_whole_lies_below(goal, bound, gap):
    assert _gap(goal, OptimizeResult(status=1, fun=3.0, mip_dual_bound=bound)) == gap
    assert _gap(goal, OptimizeResult(status=0, fun=3.0, mip_dual_bound=bound)) == 0.0


def test_a_goal_that_was_not_begun_is_no_goal_that_was_proven(monkeypatch):
    piece = throw(background(5), panel("braid-9"), background(9), panel("braid-9"), background(6), width=240)
    solved = iter([milp])
    monkeypatch.setattr(
        "scipy.optimize.milp", lambda *a, **k: next(solved, lambda *a, **k: OptimizeResult(x=None))(*a, **k)
    )
    solve_layout.cache_clear()
    hasty = solve_layout(piece.band_views[0], "most even")
    solve_layout.cache_clear()
    assert (
        hasty
        and not hasty.optimal
        and hasty.doubt.gap == layout_score(piece.band_views[0], hasty, hasty.doubt.goal) > 0
    )
    assert layout_score(piece.band_views[0], hasty, "uneven") == 0, "what was proven first stays so"


def test_what_was_not_found_in_time_is_told_from_what_cannot_be(monkeypatch):
    piece = throw(background(5), panel("braid-9"), background(9), width=240)
    for status, said in ((1, pytest.raises(OutOfTime, match="but there may be one")), (2, nullcontext())):
        monkeypatch.setattr("scipy.optimize.milp", lambda *a, s=status, **k: OptimizeResult(x=None, status=s))
        solve_layout.cache_clear()
        with said:
            assert solve_layout(piece.band_views[0], "closest") is None
    solve_layout.cache_clear()


def test_in_the_round_the_backgrounds_that_meet_over_the_join_are_one_gap():
    inner = (background(9), panel("braid-9"), background(9), panel("rope-3-3-left"), background(9))
    tube = replace(piece_of(width=280, gaps="outside"), bands=(Band(own=inner),), round=True)
    even = solve_layout(tube.band_views[0], "most even")
    first, middle, last = (s.stitches for s in even.segments if s.role == "background")
    assert first + last == middle and even.width_um == body_um(tube.band_views[0].with_segments(even.segments))


def test_a_layout_that_the_solvers_presolve_would_lose_is_found():
    piece = throw(*[background(1, "seed")] * 3, width=184, tolerance_mm=12, gaps="outside", total=(4, 1))
    piece = piece.with_band(piece.band_views[0].band.folded(), 0)
    assert (
        len(_every(piece, wishes_of(piece.band_views[0]))) == 2
        and solve_layout(piece.band_views[0], "closest") is not None
    )


@examples(40)
@given(small_layouts())
def test_the_clash_is_the_smallest_there_is_and_its_cures_free_it(piece):
    """Every smaller set of wishes is tried by brute force, and where that is too short of breath by the solver."""
    every = wishes_of(piece.band_views[0])
    if solve_layout(piece.band_views[0], "closest") is not None:
        assert explain_clash(piece.band_views[0]) is None
        return
    core = smallest_clash(piece.band_views[0], every)
    assert not len(_every(piece, core))
    for chosen in (c for n in range(len(core)) for c in combinations(every, n)):
        assert (
            len(_every(piece, chosen)) or solve_counts(Program(piece.band_views[0], frozenset(chosen)), ()) is not None
        ), chosen
    told = explain_clash(piece.band_views[0])
    assert told is not None and len(told.wishes) == len(core) and told.sentence.endswith(".")
    said = " ".join([*told.wishes, *(c.text for c in told.cures)])
    for found in re.finditer(r" \(segment (\d+)\)", said):
        assert said[: found.start()].endswith(piece.band_views[0].segments[int(found[1]) - 1].name)
    for cure in told.cures:
        if not list(piece_problems(cure.piece)):
            assert solve_layout(cure.piece.band_views[0], "closest") is not None, cure.text


@given(pieces())
def test_answers_keep_locks_multiples_bounds_and_symmetry(piece):
    try:
        found = solve_layouts(piece.band_views[0])
    except Infeasible:
        assert explain_clash(piece.band_views[0]) is not None
        return
    assert len({a.segments for a in found}) == len(found), "different answers differ"
    for a in found:
        assert abs(a.width_um - piece.width_mm * 1000) <= piece.tolerance_mm * 1000 + 2
        assert a.width_um == body_um(piece.band_views[0].with_segments(a.segments))
        assert a.stitches % piece.total[0] == piece.total[1]
        for before, after in zip(piece.band_views[0].segments, a.segments, strict=True):
            assert replace(after, repeats=before.repeats) == before, "only repeats change"
            changed = after.repeats != before.repeats
            assert not (changed and (before.locked or before.role in ("edge", "seam")))
            if before.role == "panel" and changed:
                assert a.name in ("panels wider", "repeats that fit")
            if after.role == "background" and not after.locked and a.name != "repeats that fit":
                assert after.stitches >= max(piece.least_background, after.least)
                assert (not after.most or after.stitches <= after.most) and after.repeats % after.by == 0
            assert not (a.name == "repeats that fit" and changed and before.role == "background")
        assert not piece.band_views[0].symmetric or is_symmetric(a.segments)


def test_many_locks_that_clash_are_found_without_trying_every_set(monkeypatch):
    inner = [s for _ in range(17) for s in (background(9, locked=True), panel("rope-2-2-left"))]
    piece, asked = throw(*inner[:-1], width=1500), []
    feasible = clash_module._feasible
    monkeypatch.setattr(clash_module, "_feasible", lambda *a: asked.append(1) or feasible(*a))
    core = smallest_clash(piece.band_views[0], wishes_of(piece.band_views[0]))
    assert len(core) == 18 and len(asked) <= 3 * len(wishes_of(piece.band_views[0])), (
        "the width, and every lock keeps it from being met"
    )
    monkeypatch.setattr(clash_module, "_TIME_LIMIT", 0.0)
    assert smallest_clash(piece.band_views[0], wishes_of(piece.band_views[0])) == core, (
        "out of time none of what is told can be spared either"
    )
