"""Fits the fabric model's constants on values of common practice, and reports others that it never saw.

Run: .venv/bin/python tools/fit_fabric.py [--fit | --alternatives [--fit] | --spread]. Without a flag it reports the
constants in use; --alternatives reports the model's variants, each without one of its parts; --spread leaves each
fitted value out in turn and says how far off the model then is, which is the error of a pattern never fitted.
The values are common practice (relaxed after washing, against stockinette in the same yarn and needle).
"""

from __future__ import annotations

import sys
from dataclasses import replace

import numpy as np
from scipy.optimize import least_squares

from cablux.core.fabric.constants import FITTED, Constants
from cablux.core.fabric.draw_in import span_width
from cablux.core.fabric.network import build_tile
from cablux.core.fabric.relax import relax_tile
from cablux.core.notation import parse_chart

RATIO = 1.4  # rows to stitches; 20 stitches and 28 rows to 10 cm
FREE = ("course_squeezed", "leg", "shear", "bend", "curl", "flat")


def panel(body: str, width: int, every: int, crossings: dict[int, str]) -> str:
    """Chart text of `width` knit stitches between p2 purl margins, with crossing rows filled in."""
    lines = [f"name: trial\nmultiple: {width + 4}"]
    for row in range(1, every + 1):
        if row in crossings:
            lines.append(f"row {row}: p2, {crossings[row]}, p2")
        elif row % 2:
            lines.append(f"row {row}: p2, {body}, p2")
        else:
            lines.append(f"row {row} (WS): k2, {body.replace('k', 'p')}, k2")
    return "\n".join(lines)


def rope(n: int, every: int) -> str:
    """A rope of n over n."""
    at = every // 2 + 1
    return panel(f"k{2 * n}", 2 * n, every, {at + (at + 1) % 2: f"{n}/{n} LC"})


FIELD = "name: f\nmultiple: {w}\nrow 1: {a}\nrow 2 (WS): {b}"
HONEYCOMB = """name: h
multiple: 8
row 1: 2/2 RC, 2/2 LC
rows 2, 4, 6, 8 (WS): p8
rows 3, 7: k8
row 5: 2/2 LC, 2/2 RC"""
DIAMOND = """name: d
multiple: 14
row 1: p5, 2/2 RC, p5
row 2 (WS): k5, p4, k5
row 3: p4, 2/1 RPC, 2/1 LPC, p4
row 4 (WS): k4, p2, k2, p2, k4
row 5: p3, 2/1 RPC, p2, 2/1 LPC, p3
row 6 (WS): k3, p2, k4, p2, k3
row 7: p2, 2/1 RPC, p4, 2/1 LPC, p2
row 8 (WS): k2, p2, k6, p2, k2
row 9: p1, 2/1 RPC, p6, 2/1 LPC, p1
row 10 (WS): k1, p2, k8, p2, k1
row 11: p1, k2, p8, k2, p1
row 12 (WS): k1, p2, k8, p2, k1
row 13: p1, 2/1 LPC, p6, 2/1 RPC, p1
row 14 (WS): k2, p2, k6, p2, k2
row 15: p2, 2/1 LPC, p4, 2/1 RPC, p2
row 16 (WS): k3, p2, k4, p2, k3
row 17: p3, 2/1 LPC, p2, 2/1 RPC, p3
row 18 (WS): k4, p2, k2, p2, k4
row 19: p4, 2/1 LPC, 2/1 RPC, p4
row 20 (WS): k5, p4, k5"""
HUGS = {3: "2/2 RC, 2/2 LC", 7: "2/2 LC, 2/2 RC", 11: "2/2 LC, 2/2 RC", 15: "2/2 RC, 2/2 LC"}

# name: (chart text, first and last loop measured, wanted, band)
FIT = {
    "rope 2/2 every 4": (rope(2, 4), (2, 6), 0.74, (0.70, 0.78)),
    "rope 3/3 every 8": (rope(3, 8), (2, 8), 0.77, (0.72, 0.82)),
    "rope 4/4 every 8": (rope(4, 8), (2, 10), 0.73, (0.68, 0.78)),
    "honeycomb of 8": (HONEYCOMB, (0, 8), 0.66, (0.60, 0.72)),
    "1×1 rib": (FIELD.format(w=2, a="k1, p1", b="k1, p1"), (0, 2), 0.75, (0.65, 0.85)),
    "garter": (FIELD.format(w=1, a="k1", b="k1"), (0, 1), 1.04, (1.00, 1.08)),
    "gutter of 2": (FIELD.format(w=14, a="k6, p2, k6", b="p6, k2, p6"), (6, 8), 0.82, (0.70, 0.90)),
}
CHECK = {
    "rope 2/2 every 6": (rope(2, 6), (2, 6), 0.80, (0.75, 0.85)),
    "rope 3/3 every 6": (rope(3, 6), (2, 8), 0.73, (0.68, 0.78)),
    "braid of 6, every 4": (panel("k6", 6, 4, {1: "2/2 LC, k2", 3: "k2, 2/2 RC"}), (2, 8), 0.685, (0.62, 0.75)),
    "braid of 9, every 8": (panel("k9", 9, 8, {3: "3/3 LC, k3", 7: "k3, 3/3 RC"}), (2, 11), 0.75, (0.70, 0.80)),
    "horseshoe of 8, every 6": (panel("k8", 8, 6, {3: "2/2 RC, 2/2 LC"}), (2, 10), 0.75, (0.70, 0.80)),
    "hugs-and-kisses of 8": (panel("k8", 8, 16, HUGS), (2, 10), 0.73, (0.68, 0.78)),
    "diamond over purl": (DIAMOND, (0, 14), 0.90, (0.85, 0.95)),
    "2×2 rib": (FIELD.format(w=4, a="k2, p2", b="k2, p2"), (0, 4), 0.65, (0.55, 0.75)),
    "seed": (FIELD.format(w=2, a="k1, p1", b="p1, k1"), (0, 2), 1.05, (1.00, 1.10)),
}


CABLES = ("rope 2/2 every 4", "rope 3/3 every 8", "rope 4/4 every 8", "honeycomb of 8")
OFF = 1e-9  # a spring that is as good as not there

# name: (constants held at a value, free constants left out of the fit)
ALTERNATIVES: dict[str, dict[str, float]] = {
    "as it is": {},
    "no bending of strands": {"bend": OFF},
    "squeezed courses as stiff as stretched ones": {"course_squeezed": 1.0},
    "no shear": {"shear": OFF},
    "ribs do not fold": {"curl": 0.0},
    "ribs fold, but nothing holds them flat": {"flat": OFF},
    "rows give way as they like": {"lowest": 0.6},
}


FOUND: dict[str, dict[str, float]] = {
    "no bending of strands": {"course_squeezed": 0.292, "leg": 0.017, "shear": 0.123, "curl": 2.203, "flat": 2.081},
    "squeezed courses as stiff as stretched ones": {
        "leg": 0.02,
        "shear": 0.01,
        "bend": 0.752,
        "curl": 2.182,
        "flat": 2.032,
    },
    "no shear": {"course_squeezed": 0.315, "leg": 0.012, "bend": 0.16, "curl": 2.17, "flat": 2.0},
    "ribs do not fold": {"course_squeezed": 0.345, "leg": 0.013, "shear": 0.006, "bend": 0.182, "flat": 2.009},
    "ribs fold, but nothing holds them flat": {
        "course_squeezed": 1.24,
        "leg": 0.014,
        "shear": 0.006,
        "bend": 0.655,
        "curl": 1.366,
    },
    "rows give way as they like": {
        "course_squeezed": 0.343,
        "leg": 0.012,
        "shear": 0.005,
        "bend": 0.172,
        "curl": 2.172,
        "flat": 2.004,
    },
}
"""What `--alternatives --fit` found for each variant, so that its row can be printed without fitting again."""


def measure(text: str, span: tuple[int, int], k: Constants) -> tuple[float, float]:
    """(draw-in of the loops measured, draw-up of the tile)."""
    net = build_tile(parse_chart(text))
    tile = relax_tile(net, RATIO, k)
    assert tile.converged, text
    return span_width(tile, *span) / (span[1] - span[0]), tile.height_stitches * RATIO / net.rows


def fit(held: dict[str, float] | None = None, leave: str = "") -> Constants:
    """Least squares on FIT over the logarithms of the free constants, held near their start by a weak prior.

    `held` constants keep the value given; the value named `leave` is not fitted on.
    """
    begin_at = replace(FITTED, **(held or {}))
    names = [name for name in FREE if name not in (held or {})]
    begin = np.log([getattr(begin_at, name) for name in names])

    def misses(p: np.ndarray) -> np.ndarray:
        k = replace(begin_at, **dict(zip(names, np.exp(p), strict=True)))
        off = [measure(text, span, k)[0] - wanted for name, (text, span, wanted, _) in FIT.items() if name != leave]
        return np.concatenate((off, 0.01 * (p - begin)))

    found = least_squares(misses, begin, diff_step=1e-3)
    return replace(begin_at, **{n: round(float(v), 3) for n, v in zip(names, np.exp(found.x), strict=True)})


def off_by(k: Constants, block: dict, names: tuple[str, ...] = ()) -> np.ndarray:
    """log(got / wanted) of each value of a block, or of those named."""
    chosen = [block[name] for name in names or block]
    return np.array([np.log(measure(text, span, k)[0] / wanted) for text, span, wanted, _ in chosen])


def variant_row(name: str, k: Constants) -> str:
    """A variant's row of the table: how far off it is on both blocks, and how many constants it was fitted with."""
    got, check = off_by(k, FIT), off_by(k, CHECK)
    worst = max(zip(np.abs(check), CHECK, strict=True))
    free = sum(n not in ALTERNATIVES[name] for n in FREE)
    rms = [100 * float(np.sqrt(np.mean(v**2))) for v in (got, check)]
    return f"| {name} | {free} | {rms[0]:.1f} | {rms[1]:.1f} | {worst[1]} ({100 * worst[0]:.0f} %) |"


def alternatives(*, again: bool) -> None:
    """The variants of the model, with the constants found for each, or fitted `again` on the same values."""
    print("| variant | fitted constants | fit, rms % | check, rms % | worst check |\n|---|---|---|---|---|")
    for name, held in ALTERNATIVES.items():
        k = fit(held) if again else as_found(name)
        print(variant_row(name, k), flush=True)
        if again:
            print("   ", {n: getattr(k, n) for n in FREE if n not in held}, flush=True)


def as_found(name: str) -> Constants:
    """A variant with the constants that its last fit found."""
    return replace(FITTED, **ALTERNATIVES[name], **FOUND.get(name, {}))


def spread() -> None:
    """How far off the model is on a cable that it was not fitted on: leave one out of the fitted block."""
    left = [float(off_by(fit(leave=name), FIT, (name,))[0]) for name in CABLES]
    print("left out:", {name: round(v, 3) for name, v in zip(CABLES, left, strict=True)})
    print(f"rms of a cable left out {np.sqrt(np.mean(np.square(left))):.3f}")
    ropes = tuple(name for name in CHECK if name not in ("2×2 rib", "seed"))
    print(f"rms on the checked cables {np.sqrt(np.mean(off_by(FITTED, CHECK, ropes) ** 2)):.3f}")


def rows_of(block: dict, k: Constants) -> list[str]:
    """The rows of a table of docs/fabric.md."""
    out = []
    for name, (text, span, wanted, band) in block.items():
        got, up = measure(text, span, k)
        off = max(band[0] - got, got - band[1], 0.0)
        note = f" (off by {off:.2f})" if off > 0.005 else ""
        out.append(f"| {name} | {wanted:.2f} | {band[0]:.2f}–{band[1]:.2f} | {got:.2f}{note} | {up:.2f} |")
    return out


RARE = (4, 6, 8, 12, 18, 24, 36, 48)


def rare_rows(k: Constants) -> list[str]:
    """Draw-in of p2, knit, p2 without a crossing and with one every so many rows."""
    out = []
    for n in (2, 3, 4):
        shown = [measure(panel(f"k{2 * n}", 2 * n, 4, {}), (0, 2 * n + 4), k)[0]]
        shown += [measure(rope(n, d), (0, 2 * n + 4), k)[0] for d in RARE if d >= 2 * n]
        first, *others = [f"{v:.3f}" for v in shown]
        out.append(f"| {n}/{n} | {' | '.join([first, *['–'] * (len(RARE) - len(others)), *others])} |")
    return out


def report(k: Constants) -> None:
    """The tables of docs/fabric.md."""
    print(k)
    for title, block in (("fit", FIT), ("check", CHECK)):
        print(f"\n| {title} | wanted | band | got | draw-up |\n|---|---|---|---|---|")
        print("\n".join(rows_of(block, k)))
    print(f"\n| crossing | none | {' | '.join(f'every {d}' for d in RARE)} |\n|---|{'---|' * (len(RARE) + 1)}")
    print("\n".join(rare_rows(k)))


if __name__ == "__main__":
    if "--alternatives" in sys.argv:
        alternatives(again="--fit" in sys.argv)
    elif "--spread" in sys.argv:
        spread()
    else:
        report(fit() if "--fit" in sys.argv else FITTED)
