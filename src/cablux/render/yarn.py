"""The yarn as it is painted: tones from shade to light, made of one colour, and how thick it lies."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from ..core.errors import IllegalPiece

UNDYED = "#d2c7ae"
_STEPS = (-0.44, -0.26, -0.12, 0.0, 0.24, 0.46, 0.68)  # to black and to white, from the deepest shade to the light


@dataclass(frozen=True)
class Yarn:
    """What the cloth is painted with. `thick`: the strand against the one that just fills a stitch."""

    colour: str = UNDYED
    thick: float = 1.0


@dataclass(frozen=True, kw_only=True)
class Paint:
    """Colours of a yarn: `tones` from deep shade to full light, `ground` of purl cloth, `edge` between strands."""

    tones: tuple[str, ...]
    bumps: tuple[str, ...]
    ground: str
    edge: str
    dark: str
    shine: str


@lru_cache(maxsize=64)
def yarn_paint(colour: str = UNDYED) -> Paint:
    """The paint of a colour such as `#d2c7ae`. Raises IllegalPiece for what is no colour."""
    if not re.fullmatch(r"#[0-9a-fA-F]{6}", colour):
        raise IllegalPiece(f"“{colour[:20]}” is no colour; write it as # and six digits, such as #d2c7ae.")
    rgb = [int(colour[i : i + 2], 16) for i in (1, 3, 5)]

    bright = sum(rgb) / 765
    shows = min(1.0, 0.3 + 0.9 * bright)  # our choice: dark wool shines less, or its light would look like snow

    def mixed(part: float) -> str:
        if part > 0:
            part *= shows
            return "#" + "".join(f"{round(c + (255 - c) * part):02x}" for c in rgb)
        return "#" + "".join(f"{round(c * (1 + part)):02x}" for c in rgb)

    return Paint(
        tones=tuple(mixed(step) for step in _STEPS),
        bumps=tuple(mixed(step) for step in (-0.36, -0.28, -0.18, -0.04, 0.14)),
        ground=mixed(-0.5),
        edge=mixed(-0.57),
        dark=mixed(-0.85),
        shine=mixed(0.85),
    )


def tone_level(tone: float, levels: int) -> int:
    """Which of so many tones a lightness from 0 to 1 is."""
    return max(0, min(levels - 1, int(tone * levels)))
