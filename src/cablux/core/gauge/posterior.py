"""Joins beliefs and readings: a small Gaussian posterior over logarithms, by Gauss–Newton on the most likely values."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from ..fabric.runs import Floats
from .priors import Belief

Terms = Sequence[tuple[float, dict[str, float]]]
"""A length as Σ base · exp(Σ weight · unknown): things side by side, each in its own pattern."""

_MOST_STEPS = 40
_TOLERANCE = 1e-10


@dataclass(frozen=True)
class Observation:
    """A measured length, its relative error, and what it is the sum of."""

    terms: Terms
    value: float
    sd: float


@dataclass(frozen=True, kw_only=True)
class Posterior:
    """Most likely values and covariance of the unknowns that were measured; all others keep their belief."""

    names: tuple[str, ...]
    mean: Floats
    covariance: Floats
    belief: Callable[[str], Belief]
    converged: bool

    def value(self, name: str) -> float:
        """The most likely value of an unknown."""
        return float(self.mean[self.names.index(name)]) if name in self.names else self.belief(name)[0]

    def sd(self, weights: dict[str, float]) -> float:
        """Standard deviation of a weighted sum of unknowns."""
        return math.sqrt(max(0.0, self.between(weights, weights)))

    def between(self, one: dict[str, float], other: dict[str, float]) -> float:
        """Covariance of two weighted sums of unknowns."""
        a, b = ([w.get(name, 0.0) for name in self.names] for w in (one, other))
        known = float(np.array(a) @ self.covariance @ np.array(b)) if self.names else 0.0
        apart = (name for name in one.keys() & other.keys() if name not in self.names)
        return known + sum(one[name] * other[name] * self.belief(name)[1] ** 2 for name in apart)

    def length(self, terms: Terms) -> tuple[float, dict[str, float]]:
        """The most likely length, and by what part of itself it changes with each unknown."""
        parts = [base * math.exp(sum(w * self.value(name) for name, w in weights.items())) for base, weights in terms]
        total = sum(parts)
        slope: dict[str, float] = {}
        for part, (_, weights) in zip(parts, terms, strict=True):
            for name, weight in weights.items():
                slope[name] = slope.get(name, 0.0) + weight * part / total
        return total, slope

    def after(self, slope: dict[str, float], sd: float, wanted: dict[str, float]) -> float:
        """Variance of `wanted` if a length of this slope were measured with this error, whatever it came to."""
        shared = self.between(slope, wanted)
        return self.between(wanted, wanted) - shared**2 / (self.between(slope, slope) + sd**2)


def solve_posterior(observations: Iterable[Observation], belief: Callable[[str], Belief]) -> Posterior:
    """The posterior; `belief` gives the prior (mean, sd) of an unknown by name, each independent of the others.

    `converged` is False where sums of several patterns did not settle in a sensible number of steps.
    """
    seen = list(observations)
    names = tuple(sorted({name for o in seen for _, weights in o.terms for name in weights}))
    if not names:
        return Posterior(names=(), mean=np.zeros(0), covariance=np.zeros((0, 0)), belief=belief, converged=True)
    prior = np.array([belief(name)[0] for name in names])
    precision = np.diag([belief(name)[1] ** -2.0 for name in names])
    weight = np.array([o.sd**-2.0 for o in seen])
    logs = np.log([o.value for o in seen])
    bases = [np.log([base for base, _ in o.terms]) for o in seen]
    rows = [np.array([[w.get(name, 0.0) for name in names] for _, w in o.terms]) for o in seen]
    mean, converged = prior.copy(), False
    for _ in range(_MOST_STEPS):
        exponents = [base + row @ mean for base, row in zip(bases, rows, strict=True)]
        tops = [e.max() for e in exponents]
        parts = [np.exp(e - top) for e, top in zip(exponents, tops, strict=True)]
        got = np.array([top + math.log(p.sum()) for p, top in zip(parts, tops, strict=True)])
        slope = np.array([p @ row / p.sum() for p, row in zip(parts, rows, strict=True)])
        normal = precision + slope.T @ (weight[:, None] * slope)
        step = np.linalg.solve(normal, slope.T @ (weight * (logs - got)) - precision @ (mean - prior))
        mean = mean + step
        if float(np.abs(step).max()) < _TOLERANCE:
            converged = True
            break
    return Posterior(names=names, mean=mean, covariance=np.linalg.inv(normal), belief=belief, converged=converged)
