"""Simulated knitters: whose finished widths land where the estimate says, and how far each method misses.

Each knitter is drawn from what is believed before anything is measured: her true gauge, how tightly she crosses, how
far the model is off in each pattern, how her large piece drifts. She counts her stockinette as people do, may knit
swatches, is given a layout, knits it, and its true width is compared with what was said. Run:
`.venv/bin/python tools/simulate.py [knitters]`; the table in docs/sizing.md is its output.
"""

from __future__ import annotations

import math
import random
import statistics
import sys
from collections.abc import Callable
from dataclasses import replace

from cablux.core.counts.solver import solve_layout
from cablux.core.counts.swatch_adviser import advise_swatches, planned_reading
from cablux.core.gauge import EIGHTY, METHODS, Basis, Estimate, Evidence, Gauge, Method, Reading, estimate
from cablux.core.gauge.gauge import READING_SD
from cablux.core.gauge.priors import prior_belief
from cablux.core.library import LIBRARY, StitchPattern
from cablux.core.piece.piece import Band, BandView, Piece
from cablux.core.piece.segment import Segment, library_segment, proposed_purl_margin
from cablux.core.piece.widths import body_sd_um, body_um, segment_um

Swatches = Callable[["Knitter", Piece], tuple[Reading, ...]]
MOST_SWATCHES = 4
PANELS = ("rope-3-3-right", "braid-9", "honeycomb", "diamond-moss", "horseshoe-12", "rope-2-2-left", "wave-6")
BACKGROUNDS = ("reverse-stockinette", "seed", "stockinette")


class Knitter:
    """One knitter with her true hand: logarithms of how far she is from what is believed, drawn from the priors."""

    def __init__(self, seed: int, *, draw_in_only: bool = False) -> None:
        self.random = random.Random(seed)
        stitches = self.random.uniform(14.0, 24.0)
        self.true = Gauge(stitches, 1.4 * stitches)
        self.draw_in_only = draw_in_only
        self.off: dict[str, float] = {}

    def unknown(self, name: str) -> float:
        """The true value of an unknown of hers, drawn when first asked for."""
        if name not in self.off:
            mean, sd = prior_belief(name, "width", "wool", gauge_sd=0.0)
            drawn = self.random.gauss(mean, sd)
            self.off[name] = mean if self.draw_in_only and name == "piece" else drawn
        return self.off[name]

    def counted(self) -> Gauge:
        """Her stockinette as she counts it over 10 cm."""
        slip = self.random.gauss(0.0, READING_SD)
        stitches = self.true.stitches + (0.0 if self.draw_in_only else slip)
        return Gauge(stitches, 1.4 * stitches)

    def stretch(self, pattern: StitchPattern, truth: Estimate) -> float:
        """How much wider than the model her cloth in a pattern comes out."""
        names = [n for n in truth.weights(pattern) if n != "stitch"]
        return math.exp(sum(self.unknown(n) for n in names))

    def width_um(self, laid: BandView) -> float:
        """The true finished width of her piece."""
        truth = estimate(Basis(gauge=self.true))
        drift = math.exp(self.unknown("piece"))
        return drift * sum(segment_um(s, truth) * self.stretch(s.cloth, truth) for s in laid.segments)

    def swatch(self, pattern: StitchPattern, known: Estimate) -> Reading:
        """A swatch of a pattern as she reads it, washed, in three places."""
        reading = planned_reading(pattern, known)
        part = reading.parts[0]
        truth = estimate(Basis(gauge=self.true))
        unit = truth.unit(pattern, part.whole)
        slip = math.exp(self.random.gauss(0.0, reading.sd))
        if part.whole:
            return replace(reading, mm=unit.width_um(1) / 1000.0 * self.stretch(pattern, truth) * slip)
        each = unit.repeat_um / 1000.0 / pattern.chart.multiple * self.stretch(pattern, truth)
        return replace(reading, parts=(replace(part, count=reading.mm / each * slip),))


def layout(knitter: Knitter, gauge: Gauge) -> Piece:
    """A throw of three to five kinds of panels, symmetric, before its counts are found."""
    rng = knitter.random
    edge = library_segment("edge", "garter", 5)
    own: list[Segment] = [edge]
    background = LIBRARY[rng.choice(BACKGROUNDS)]
    for name in rng.sample(PANELS, rng.randint(2, 4)):
        pattern = LIBRARY[name]
        repeats = rng.randint(2, 4) if pattern.chart.balance else 1
        own.append(Segment(role="background", pattern=background, repeats=6))
        own.append(Segment(role="panel", pattern=pattern, repeats=repeats, purl_margin=proposed_purl_margin(pattern)))
    return Piece(
        name="simulated",
        width_mm=rng.uniform(700.0, 1300.0),
        height_mm=1500.0,
        evidence=Evidence(gauge=gauge),
        bands=(Band(own=tuple(own), symmetric=True),),
    )


def sized(piece: Piece) -> BandView | None:
    """Its band with the backgrounds that come nearest to the width by the piece's own measure."""
    found = solve_layout(piece.band_views[0], "closest", any_width=True)
    return piece.band_views[0].with_segments(found.segments) if found else None


def main(knitters: int) -> None:
    """Knits them all and prints the tables."""
    print(f"{knitters} knitters, throws of 70 to 130 cm\n")
    print("| known before casting on | inside the 80 % interval | half interval, mean | miss of the width, mean |")
    print("|---|---|---|---|")
    for name, swatches in KNOWN.items():
        landed, halves, misses = [], [], []
        for seed in range(knitters):
            knitter = Knitter(seed)
            piece = layout(knitter, knitter.counted())
            laid = sized(replace(piece, evidence=replace(piece.evidence, readings=swatches(knitter, piece))))
            if laid is None:
                continue
            half, true = EIGHTY * body_sd_um(laid), knitter.width_um(laid)
            landed.append(abs(true - body_um(laid)) <= half)
            halves.append(half / 10_000.0)
            misses.append(abs(true / 1000.0 - piece.width_mm) / 10.0)
        share, half, miss = 100.0 * sum(landed) / len(landed), statistics.mean(halves), statistics.mean(misses)
        print(f"| {name} | {share:.1f} % | ± {half:.1f} cm | {miss:.1f} cm |", flush=True)
    for only, what in ((True, "draw-in alone unknown"), (False, "counting and drift too")):
        print(f"\n| miss of the width, mean: {what} | " + " | ".join(METHODS) + " |")
        print("|---|" + "---|" * len(METHODS))
        for name in ("the swatches advised", "every pattern"):
            found = [_sized_by(knitters, method, KNOWN[name], only) for method in METHODS]
            cells = [f"{miss:.1f} cm (× {miss / found[0]:.1f})" for miss in found]
            print(f"| {name} | " + " | ".join(cells) + " |", flush=True)


def _sized_by(knitters: int, method: Method, swatches: Swatches, only: bool) -> float:
    misses = []
    for seed in range(knitters):
        knitter = Knitter(seed, draw_in_only=only)
        piece = layout(knitter, knitter.counted())
        laid = sized(replace(piece, evidence=replace(piece.evidence, readings=swatches(knitter, piece), method=method)))
        if laid is not None:
            misses.append(abs(knitter.width_um(laid) / 1000.0 - piece.width_mm) / 10.0)
    return statistics.mean(misses)


def _none(_: Knitter, __: Piece) -> tuple[Reading, ...]:
    return ()


def _advised(knitter: Knitter, piece: Piece) -> tuple[Reading, ...]:
    """What the adviser asks for, one after the other, until it says stop."""
    while len(piece.evidence.readings) < MOST_SWATCHES:
        advised = advise_swatches(piece)
        if advised.best is None:
            break
        read = knitter.swatch(advised.best.pattern, piece.estimate)
        piece = replace(piece, evidence=replace(piece.evidence, readings=(*piece.evidence.readings, read)))
    return piece.evidence.readings


def _all(knitter: Knitter, piece: Piece) -> tuple[Reading, ...]:
    patterns = dict.fromkeys(s.cloth for s in piece.band_views[0].band.own)
    return tuple(knitter.swatch(p, piece.estimate) for p in patterns)


KNOWN: dict[str, Swatches] = {"no swatch": _none, "the swatches advised": _advised, "every pattern": _all}

if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 1_000)
