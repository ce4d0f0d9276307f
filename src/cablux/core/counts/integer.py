"""Solves a band's program with HiGHS: goals met one after the other, each proven or its gap told."""

from __future__ import annotations

import math
import time
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from ..errors import OutOfTime
from .count_model import SCALE, Goal, Model
from .program import Program

if TYPE_CHECKING:
    from scipy.optimize import OptimizeResult

_HELD = 5e-4  # half a micrometre, or nothing at all of a stitch
_TIME_LIMIT = 2.0  # seconds an answer may take, our choice: ten times what a quiet machine needs for a throw
_OUT_OF_TIME = 1  # the status by which scipy.optimize.milp says so
_FIRST = 5.0  # seconds in which a first layout has to be found; without one there is nothing to show


@dataclass(frozen=True)
class Doubt:
    """A goal whose best was not proven in time, and how far off it may be: µm for "error", else stitches.

    The gap is infinite where the goal was not begun.
    """

    goal: Goal
    gap: float


@dataclass(frozen=True)
class Found:
    """Repeats of every segment, and the first goal by which they are not proven to be best."""

    repeats: tuple[int, ...]
    doubt: Doubt | None = None


def solve_counts(program: Program, goals: tuple[Goal, ...]) -> Found | None:
    """Repeats by goals in order, any that will do where there are none; None where nothing satisfies the wishes.

    Raises OutOfTime where it is not known in time whether anything does.
    """
    from scipy.optimize import Bounds, LinearConstraint, milp  # here: half a second the first page need not wait

    model = Model(program)
    if not model.possible:
        return None
    held = [model.constraints()]
    found: Found | None = None
    ends = time.monotonic() + _TIME_LIMIT
    costs = [(goal, model.goal(goal)) for goal in goals]
    told = [(goal, cost) for goal, cost in costs if cost.any()]  # a layout without gaps cannot be uneven
    for goal, cost in told or [("change", np.zeros(model.var.size))]:
        left = max(0.02, ends - time.monotonic()) if found else _FIRST
        # without presolve, which calls some layouts infeasible that can be had (found by brute force, scipy 1.17)
        result = milp(
            cost,
            integrality=model.whole,
            bounds=Bounds(*model.bounds),
            constraints=held,
            options={"time_limit": left, "mip_rel_gap": 0.0, "presolve": False},
        )
        if result.x is None:
            if found is None and result.status == _OUT_OF_TIME:
                raise OutOfTime(
                    f"No layout was found in {_FIRST:g} seconds, but there may be one: this machine is busy. "
                    "Try again in a moment."
                )
            return found and replace(found, doubt=found.doubt or Doubt(goal, math.inf))
        gap = _gap(goal, result)
        doubt = Doubt(goal, gap) if gap else None
        found = Found(model.repeats(result.x), (found and found.doubt) or doubt)
        held.append(LinearConstraint(cost[None, :], -np.inf, result.fun + _HELD))
    return found


def _gap(goal: Goal, result: OptimizeResult) -> float:
    """How far from the best a solution may be, in the goal's own unit; 0 where it is proven."""
    if result.status == 0:
        return 0.0
    bound = -np.inf if result.mip_dual_bound is None else result.mip_dual_bound
    if goal == "error":
        return float(max(1.0, (result.fun - max(0.0, bound)) * SCALE))  # no error is less than none
    return float(max(0.0, result.fun - math.ceil(bound - 1e-6))) if math.isfinite(bound) else math.inf
