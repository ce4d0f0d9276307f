"""What is believed before anything is measured, as means and standard deviations of logarithms, each with its reason.

Unknowns are named by strings: "stitch" (this yarn and needle; "stitch:…" another yarn or needle), "cables" (how
much tighter this knitter crosses than the model thinks), "own:kind:pattern" (the model's own error), "piece" (how
far knitting a large piece drifts from the swatch), "wash:yarn", "block:yarn", "use:yarn" (what each does), and
"open:kind" (what pinning out does to cables and ribs beyond that).
"""

from __future__ import annotations

from typing import Literal

Along = Literal["width", "height"]
Fibre = Literal["wool", "superwash", "alpaca", "cotton", "linen", "silk", "acrylic", "other"]
State = Literal["as knitted", "washed", "blocked", "after use"]
FIBRES: tuple[Fibre, ...] = ("wool", "superwash", "alpaca", "cotton", "linen", "silk", "acrylic", "other")
STATES: tuple[State, ...] = ("as knitted", "washed", "blocked", "after use")

Belief = tuple[float, float]

_CABLES: dict[Along, Belief] = {"width": (0.0, 0.05), "height": (0.0, 0.015)}
"""Common practice gives each cable's draw-in as a band of ± 6 to 7 %: knitters differ by about 5 % either way.
Heights: dense cables make 0 to 8 % more rows, a band of 4 % either way, of which this is the knitter's part."""

OWN: dict[Along, dict[str, Belief]] = {
    "width": {
        "plain": (0.0, 0.01),
        "texture": (0.0, 0.03),
        "rib": (0.0, 0.1),
        "cable": (0.0, 0.035),
        "ribbed cable": (0.0, 0.1),
    },
    "height": {
        "plain": (0.0, 0.01),
        "texture": (0.0, 0.04),
        "rib": (0.0, 0.04),
        "cable": (0.0, 0.025),
        "ribbed cable": (0.0, 0.06),
    },
}
"""Cables: how far off the model is on those it was not fitted on (`tools/fit_fabric.py --spread`: 0.035 on the checked
ones, 0.044 with one of the fitted left out in turn, part of which is the uncertainty of the values themselves).
Textures: half of the bands of common practice (garter 1.00 to 1.08 wide; moss 1.6 to 1.9 rows to a stitch). Ribs:
bands of 13 to 15 % either way (1×1 rib 0.65 to 0.85, 2×2 rib 0.55 to 0.75), taken to hold eight in ten. Cables in
rib, and those that are alike on both sides, fold and cross at once: no figures are known for them, so they are as
uncertain as ribs (our choice). Plain
cloth with its purls outside is the same cloth; our choice, because some purl more loosely than they knit."""

PIECE: dict[Along, Belief] = {"width": (0.0, 0.02), "height": (0.0, 0.02)}
"""A piece drifts from its swatch by 2 to 5 % (common practice): taken as 2 %, the rest lies in the other terms."""

ELSEWHERE: Belief = (0.0, 1.0)
"""The stitch width in another yarn or on another needle: as good as unknown."""

# Change in the first wash, unpinned, by fibre: (width, height). Common practice, as ranges: wool 0 to +5 %; superwash
# +3 to +10, rows most; alpaca +5 to +15 in length in use; cotton −2 to −5 in length, then sag; linen +3 to +8; silk and
# viscose +5 to +15 in length under load; acrylic 0 to +3. The middle of a range, and half of it as sd.
WASH: dict[Fibre, tuple[Belief, Belief]] = {
    "wool": ((0.025, 0.025), (0.025, 0.025)),
    "superwash": ((0.05, 0.03), (0.065, 0.035)),
    "alpaca": ((0.02, 0.03), (0.04, 0.04)),
    "cotton": ((0.0, 0.025), (-0.035, 0.02)),
    "linen": ((0.02, 0.03), (0.05, 0.03)),
    "silk": ((0.0, 0.03), (0.05, 0.05)),
    "acrylic": ((0.015, 0.015), (0.015, 0.015)),
    "other": ((0.02, 0.04), (0.02, 0.05)),
}
BLOCK: Belief = (0.02, 0.02)
"""What pinning out adds to the mere wash in stockinette: a little (our choice); see `OPENED` for the rest."""
OPENED: dict[Along, dict[str, Belief]] = {
    "width": {"cable": (0.055, 0.03), "rib": (0.1, 0.08), "ribbed cable": (0.1, 0.08)},
    "height": {"cable": (0.02, 0.04), "rib": (0.02, 0.06), "ribbed cable": (0.05, 0.1)},
}
"""What pinning out adds to what folds and crosses, over what it adds to stockinette. Cables gain 5 to 10 % of width in
all, and lose some again (common practice). How far a rib is opened is up to whoever pins it, and lengths are hardly
ever told: our choice, and wide."""
USE: Belief = (0.01, 0.03)
"""After some weeks of use cloth is a little larger (common practice: “larger after weeks”)."""

_OFFSETS: dict[State, tuple[str, ...]] = {
    "as knitted": (),
    "washed": ("wash",),
    "blocked": ("wash", "block"),
    "after use": ("wash", "use"),
}


def state_offset(state: State, finish: State, yarn: str) -> dict[str, float]:
    """The changes that lie between the state of the finished piece and the state measured, with their signs."""
    out: dict[str, float] = {}
    for sign, each in ((1.0, state), (-1.0, finish)):
        for name in _OFFSETS[each]:
            key = f"{name}:{yarn}"
            out[key] = out.get(key, 0.0) + sign
    return {name: sign for name, sign in out.items() if sign}


def prior_belief(name: str, along: Along, fibre: Fibre, *, gauge_sd: float) -> Belief:
    """The prior of an unknown by its name."""
    what, _, rest = name.partition(":")
    if what == "stitch":
        return ELSEWHERE if rest else (0.0, gauge_sd)
    if what == "own":
        return OWN[along][rest.partition(":")[0]]
    if what == "open":
        return OPENED[along][rest.partition(":")[0]]
    if what == "wash":
        return WASH[fibre][0 if along == "width" else 1]
    return {"cables": _CABLES[along], "piece": PIECE[along], "block": BLOCK, "use": USE}[what]
