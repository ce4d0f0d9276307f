"""What a raglan is asked: where it begins, body and sleeves, its neck and how it is split, yoke and lines."""

from __future__ import annotations

from dataclasses import replace

from ..asks import Ask
from ..bodies.garment_sizes import BODIES, SOURCE, by_size
from ..sweater.sweater_asks import SOME, body_asks, in_groups, neckband_ask, sleeve_asks
from .raglan_plan import LINES, OWN_SPLIT, SIDE_LINES, SPLITS

FROM = ("top", "bottom")
NECKS = ("raised at the back", "level")
NECK_PART, MOST_NECK_MM, HEAD_PART = 0.4, 440.0, 0.75
"""Zimmermann, Knitting Without Tears: a neck of 40 % of the body. Our choice: 44 cm at the most, which wide bodies
want, and three quarters of a head at the least, since the edge gives."""
_EASE_MM = 100.0
_PRACTICE = "common practice"


def _necks() -> dict[str, float | str]:
    return {
        name: float(round(max(HEAD_PART * b.mm("head"), min(MOST_NECK_MM, NECK_PART * (b.mm("chest") + _EASE_MM)))))
        for name, b in BODIES.items()
    }


def _underarms() -> dict[str, float | str]:
    return {name: float(round(min(100.0, max(25.0, 0.08 * (b.mm("chest") + _EASE_MM))))) for name, b in BODIES.items()}


def raglan_asks() -> tuple[Ask, ...]:
    """All that a raglan is asked."""
    body = {ask.name: ask for ask in body_asks()}
    sleeve = {ask.name: ask for ask in sleeve_asks()}
    deep, necks, under = by_size("armhole", 25.0), _necks(), _underarms()
    asks = (
        body["for"],
        Ask(name="from", label="Begun at the", default=FROM[0], source="our choice", kind="choice", choices=FROM),
        *(body[name] for name in ("chest", "fit", "ease", "length")),
        Ask(
            name="yoke_depth",
            label="Depth of the yoke",
            default=deep[SOME],
            source=f"{SOURCE}, and 0 to 5 cm more ({_PRACTICE})",
            by=deep,
            least=60.0,
            most=450.0,
            hint="From the neck to the underarm, straight down.",
        ),
        Ask(
            name="underarm",
            label="Under each arm",
            default=under[SOME],
            source=f"Zimmermann, Knitting Without Tears: 8 % of the body; {_PRACTICE}: 2.5 to 10 cm",
            by=under,
            least=10.0,
            most=200.0,
            hint="Cast on, or grafted, between body and sleeve.",
        ),
        Ask(
            name="neck",
            label="Round the neck",
            default=necks[SOME],
            source="Zimmermann, Knitting Without Tears: 40 % of the body; a head must pass it",
            by=necks,
            least=150.0,
            most=900.0,
        ),
        Ask(
            name="split",
            label="Neck split",
            default=next(iter(SPLITS)),
            source=_PRACTICE,
            kind="choice",
            choices=(*SPLITS, OWN_SPLIT),
        ),
        Ask(
            name="neck_width",
            label="Width of the neck",
            default=body["neck_width"].default,
            source=body["neck_width"].source,
            by=body["neck_width"].by,
            least=40.0,
            most=320.0,
            hint="Where the neck is split by it.",
        ),
        Ask(
            name="neckline",
            label="Neck",
            default=NECKS[0],
            source=f"{_PRACTICE}: raised 2 to 2.5 cm",
            kind="choice",
            choices=NECKS,
        ),
        neckband_ask(),
        Ask(name="lines", label="Lines", default=LINES[0], source="our choice", kind="choice", choices=LINES),
        Ask(
            name="sides",
            label="Lines down the sides",
            default=SIDE_LINES[0],
            source="our choice",
            kind="choice",
            choices=SIDE_LINES,
            hint="From the middle of each underarm to the hem.",
        ),
        body["hem"],
        replace(sleeve["arm"], hint="From the underarm to the wrist."),
        replace(sleeve["upper_arm"], hint="As the sleeve is to be, with its ease."),
        *(sleeve[name] for name in ("wrist", "cuff")),
    )
    return in_groups(asks)
