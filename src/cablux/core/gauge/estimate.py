"""The estimate: the fabric model corrected by every reading, with what is still uncertain."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from ..errors import IllegalPiece
from ..library import StitchPattern
from .gauge import Gauge
from .model import CABLES, cloth_key, cloth_kind, model_ratio, model_width
from .posterior import Observation, Posterior, Terms, solve_posterior
from .priors import OPENED, Along, Belief, Fibre, State, prior_belief, state_offset
from .reading import Part, Reading

EIGHTY = 1.2816
"""Half of the interval that holds eight of ten normal values, in standard deviations."""


@dataclass(frozen=True)
class UnitWidth:
    """A segment's width as `fixed_um + repeats × repeat_um` micrometres, and its draw-up ratio."""

    fixed_um: int
    repeat_um: int
    draw_up: float

    def width_um(self, repeats: int) -> int:
        """Width with so many repeats."""
        return self.fixed_um + repeats * self.repeat_um


@dataclass(frozen=True, kw_only=True)
class Basis:
    """All that is known: the gauge given, in the state the piece will be finished in, and the readings.

    `yarn` names the piece's yarn and needle as its readings do; `fibre` says what washing is likely to do.
    """

    gauge: Gauge
    readings: tuple[Reading, ...] = ()
    finish: State = "washed"
    fibre: Fibre = "other"


@dataclass(frozen=True)
class Ratio:
    """A pattern's draw-in ratio (or draw-up): most likely, and its relative standard deviation."""

    value: float
    sd: float

    @property
    def low(self) -> float:
        """Lower end of the interval that holds it eight times in ten."""
        return self.value * math.exp(-EIGHTY * self.sd)

    @property
    def high(self) -> float:
        """Upper end."""
        return self.value * math.exp(EIGHTY * self.sd)


class Estimate:
    """The joined estimate of one basis. Get it from `estimate`, so that equal bases share one.

    `gauge` is the most likely stockinette gauge of the finished piece; `ratio` the rows to stitches at which the
    model was asked. Raises IllegalPiece where the readings cannot be joined.
    """

    def __init__(self, basis: Basis) -> None:
        self.basis = basis
        self.ratio = round(basis.gauge.ratio, 6)
        self._units: dict[tuple[StitchPattern, bool], UnitWidth] = {}
        self._solve()
        if basis.readings and abs(self.gauge.ratio - self.ratio) > 0.01:
            self.ratio = round(self.gauge.ratio, 2)  # tiles depend on it a little, and are kept by it
            self._solve()

    def _solve(self) -> None:
        self.width = solve_posterior(self._observations("width"), lambda name: self._belief(name, "width"))
        self.height = solve_posterior(self._observations("height"), lambda name: self._belief(name, "height"))
        self.gauge = self._likely_gauge()
        if not (self.width.converged and self.height.converged):
            raise IllegalPiece("These measurements contradict each other; check for one in the wrong unit or row.")

    def _belief(self, name: str, along: Along) -> Belief:
        gauge = self.basis.gauge
        return prior_belief(
            name, along, self.basis.fibre, gauge_sd=gauge.relative_sd if along == "width" else gauge.row_sd
        )

    def _observations(self, along: Along) -> Iterable[Observation]:
        for reading in self.basis.readings:
            if reading.along == along:
                yield Observation(self.terms(reading), reading.mm, reading.sd)

    def terms(self, reading: Reading) -> Terms:
        """A reading's length as the model sees it, in mm, with the unknowns that stretch it."""
        out = []
        shared = sum(part.weight for part in reading.parts)
        for part in reading.parts:
            weights = self.weights(part.pattern, reading.state, yarn=reading.yarn)
            weights |= state_offset(reading.state, self.basis.finish, reading.yarn)
            if reading.on_piece:
                weights["piece"] = 1.0
            share = part.weight / shared if reading.along == "height" else 1.0  # side by side they share one height
            out.append((share * self._part_mm(part, reading.along), weights))
        return out

    def _part_mm(self, part: Part, along: Along) -> float:
        gauge, chart = self.basis.gauge, part.pattern.chart
        unit = model_width(part.pattern, self.ratio, whole=part.whole)
        if along == "height":
            return part.count * gauge.row_mm * unit.draw_up
        repeats = max(1.0, round((part.count - chart.balance) / chart.multiple))
        each = (unit.fixed_stitches + unit.repeat_stitches * repeats) / chart.width(int(repeats))
        return part.count * gauge.stitch_mm * each

    def weights(self, pattern: StitchPattern, state: State | None = None, *, yarn: str = "") -> dict[str, float]:
        """The unknowns that a pattern's size follows in a state, by default the finished piece's.

        Those of stockinette are the yarn's own.
        """
        out = {f"stitch:{yarn}" if yarn else "stitch": 1.0}
        what = cloth_kind(pattern)
        if what in CABLES:
            out["cables"] = 1.0
        if (state or self.basis.finish) == "blocked" and what in OPENED["width"]:
            out[f"open:{what}"] = 1.0
        if pattern.id != "stockinette":
            out[f"own:{what}:{cloth_key(pattern)}"] = 1.0
        return out

    def _likely_gauge(self) -> Gauge:
        given = self.basis.gauge
        if not self.basis.readings:
            return given
        wide, tall = (math.exp(p.value("stitch")) for p in (self.width, self.height))
        return Gauge(given.stitches / wide, given.rows / tall)

    def posterior(self, along: Along) -> Posterior:
        """The posterior of widths or of heights."""
        return self.width if along == "width" else self.height

    def correction(self, pattern: StitchPattern, along: Along) -> float:
        """By what the model's size of a pattern is to be multiplied, apart from the gauge."""
        weights = self.weights(pattern)
        del weights["stitch"]
        return math.exp(sum(self.posterior(along).value(name) for name in weights))

    def unit(self, pattern: StitchPattern, whole: bool) -> UnitWidth:
        """The width of a pattern's repeats, `whole` as a panel or as an endless texture; each is worked out once."""
        if (pattern, whole) not in self._units:
            self._units[pattern, whole] = self._unit(pattern, whole)
        return self._units[pattern, whole]

    def _unit(self, pattern: StitchPattern, whole: bool) -> UnitWidth:
        model, um = model_width(pattern, self.ratio, whole=whole), self.gauge.stitch_mm * 1000.0
        by = um * self.correction(pattern, "width")
        up = model.draw_up * self.correction(pattern, "height")
        return UnitWidth(round(model.fixed_stitches * by), round(model.repeat_stitches * by), up)

    def draw_in(self, pattern: StitchPattern) -> Ratio:
        """A pattern's draw-in ratio, as a panel of one repeat or as an endless texture."""
        weights = self.weights(pattern)
        del weights["stitch"]
        value = model_ratio(pattern, self.ratio) * self.correction(pattern, "width")
        return Ratio(value, self.width.sd(weights))

    def relative_sd(self, shares: Iterable[tuple[StitchPattern, float]], along: Along = "width") -> float:
        """Relative sd of a sum of widths, each a pattern and its size, on the piece as it will be finished."""
        return self.posterior(along).sd(self.slope(shares))

    def slope(self, shares: Iterable[tuple[StitchPattern, float]]) -> dict[str, float]:
        """By what part a sum of widths changes with each unknown."""
        listed = list(shares)
        total = sum(size for _, size in listed)
        out = {"piece": 1.0}
        for pattern, size in listed:
            for name, weight in self.weights(pattern).items():
                out[name] = out.get(name, 0.0) + weight * size / total
        return out


@lru_cache(maxsize=128)
def estimate(basis: Basis) -> Estimate:
    """The estimate of a basis; equal bases give the same object."""
    return Estimate(basis)
