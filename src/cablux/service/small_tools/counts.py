"""Small tools beside the projects: gauge to count, lengths in both units, counts that suit a multiple."""

from __future__ import annotations

from dataclasses import dataclass

from ...core.library import LIBRARY, StitchPattern
from ...core.units import GAUGE_SPAN, Unit, from_mm, to_mm
from ..forms import FormReader

MOST = 3_000  # stitches, as many as the increases take
MOST_MULTIPLE = 200
MOST_LENGTH = 10_000.0
BESIDE = 2  # our choice: so many counts on either side are enough to choose from


@dataclass(frozen=True, kw_only=True)
class CountForWidth:
    """How many stitches a width takes at a gauge: the exact count, the nearest whole one, and how wide that is."""

    exact: float
    stitches: int
    width: float
    unit: Unit


def count_for_width(width: str, gauge: str, unit: Unit) -> CountForWidth:
    """Stitches for a width, from stitches to 10 cm or 4 in. Raises InvalidForm."""
    typed, (span_mm, span) = FormReader(), GAUGE_SPAN[unit]
    wide = typed.number(width, "Width", "wide", most=MOST_LENGTH)
    per = typed.number(gauge, f"Stitches to {span}", "per", most=100)
    typed.done()
    exact = to_mm(wide, unit) * per / span_mm
    stitches = max(1, round(exact))
    return CountForWidth(exact=exact, stitches=stitches, width=from_mm(stitches * span_mm / per, unit), unit=unit)


@dataclass(frozen=True)
class Length:
    """One length in both units."""

    cm: float
    inches: float


def both_units(length: str, unit: Unit) -> Length:
    """A length in centimetres and in inches (1 in is 2.54 cm exactly). Raises InvalidForm."""
    typed = FormReader()
    mm = to_mm(typed.number(length, "Length", "length", most=MOST_LENGTH), unit)
    typed.done()
    return Length(from_mm(mm, "cm"), from_mm(mm, "in"))


@dataclass(frozen=True, kw_only=True)
class Multiples:
    """Counts near one that suit a multiple, and the textures of the drawer that fit that one exactly."""

    near: int
    multiple: int
    plus: int
    counts: tuple[int, ...]
    patterns: tuple[StitchPattern, ...]


def suiting_counts(count: str, multiple: str, plus: str) -> Multiples:
    """The counts nearest to one that are a multiple plus so many. Raises InvalidForm."""
    typed = FormReader()
    near = typed.count(count, "Stitches", "count", most=MOST)
    each = typed.count(multiple, "The multiple", "multiple", most=MOST_MULTIPLE)
    more = typed.count(plus, "Plus", "plus", most=MOST_MULTIPLE) if plus.strip(" 0") else 0
    typed.done()
    at = max(0, (near - more) // each)
    found = {each * n + more for n in range(max(0, at - BESIDE), at + BESIDE + 2)}
    listed = sorted(sorted((n for n in found if n > 0), key=lambda n: (abs(n - near), n))[: 2 * BESIDE + 1])
    fitting = (p for p in LIBRARY.values() if "background" in p.uses and p.chart.multiple > 1)
    return Multiples(
        near=near,
        multiple=each,
        plus=more,
        counts=tuple(listed),
        patterns=tuple(p for p in fitting if p.chart.repeats_for(near)),
    )
