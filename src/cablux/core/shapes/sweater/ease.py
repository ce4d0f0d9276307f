"""Ease: how much wider than the body a sweater is, as typed, or by its fit and by how thick its cables make it."""

from __future__ import annotations

from collections.abc import Sequence

from ...gauge import Measure
from ...piece.segment import Segment
from ...piece.widths import segment_um
from ..asks import Ask
from .sweater_answers import WornAnswers

FITS = ((0.0, "close to the body"), (50.0, "a standard fit"), (100.0, "a loose fit"), (150.0, "oversized"))
"""Craft Yarn Council, Standards & Guidelines, fit: ease in millimetres from which a body is said to fit so; 2 in are
taken as 5 cm."""
OWN_EASE = "by the ease"
_EASE_MM = {OWN_EASE: 0.0} | {name: least + 25.0 for least, name in FITS}
"""The middle of what the standard calls so."""
MUCH = 1 / 3
"""Our choice: cables that take more than a third of the width make all of the cloth thick."""
THICK_MM = (25.0, 50.0)
"""Common practice: a body with heavy cables wants 2.5 to 5 cm more ease."""


def ease_asks() -> tuple[Ask, Ask]:
    """How a sweater is to fit, and the ease where that is typed."""
    practice = "common practice"
    return (
        Ask(
            name="fit",
            label="Fit",
            default=OWN_EASE,
            source=f"Craft Yarn Council, Standards & Guidelines; {practice}: heavy cables 2.5 to 5 cm more",
            kind="choice",
            choices=tuple(_EASE_MM),
            hint="It chooses the ease, and more of it where cables make thick cloth.",
        ),
        Ask(
            name="ease",
            label="Ease",
            default=100.0,
            source=f"{practice}: 5 to 15 cm; heavy cables 2.5 to 5 cm more",
            least=0.0,
            most=500.0,
            hint="What it is wider than the chest, all round, where the fit does not choose it.",
        ),
    )


def wanted_ease_mm(answers: WornAnswers, segments: Sequence[Segment] = (), measure: Measure | None = None) -> float:
    """The ease that is wanted of a body; where a fit chooses, more of it if the segments laid out for it are thick."""
    if answers.fit == OWN_EASE:
        return answers.ease_mm
    more = sum(THICK_MM) / 2.0 if measure is not None and is_thick(segments, measure) else 0.0
    return _EASE_MM[answers.fit] + more


def cables_part(segments: Sequence[Segment], measure: Measure) -> float:
    """What of the width cables take, from 0 to 1."""
    all_of_it = sum(segment_um(s, measure) for s in segments)
    return sum(segment_um(s, measure) for s in segments if s.is_panel and s.chart.crossing_rows) / all_of_it


def is_thick(segments: Sequence[Segment], measure: Measure) -> bool:
    """Whether cables make all of a cloth thick."""
    return cables_part(segments, measure) > MUCH
