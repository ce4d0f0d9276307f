"""What of a booklet is printed, and how: paper, colour, size of print, edition, parts."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ...core.pattern.wording import PLAIN_WORDS, Wording
from ..pattern import Manner
from .charts import ChartChoice, ChartLook

Paper = Literal["a4", "letter"]
Part = Literal["cover", "materials", "gauge", "key", "charts", "words", "calendars", "making up", "sizes", "cautions"]
PARTS: dict[Part, str] = {
    "cover": "Cover with relief and measures",
    "materials": "Yarn, needles and notions",
    "gauge": "Gauge",
    "key": "Abbreviations and how each is worked",
    "charts": "Charts",
    "words": "Rows in words",
    "calendars": "Calendars of shaping rows",
    "making up": "Joins and finishing",
    "sizes": "All sizes in one text",
    "cautions": "Cautions",
}
LEFT_OUT: frozenset[Part] = frozenset({"sizes"})
"""Our choice: a size is knitted from its own booklet; the text of all sizes is printed where it is asked for."""


@dataclass(frozen=True, kw_only=True)
class Printing:
    """How a booklet is printed; `inside_out`: what is worked in the round is worked with its wrong side facing.

    `piece`: only the piece of that name; all of them without one.
    """

    paper: Paper = "a4"
    colour: bool = True
    large: bool = False
    charts: ChartChoice = "repeat"
    manner: Manner = "order"
    wording: Wording = PLAIN_WORDS
    inside_out: bool = False
    leave_out: frozenset[Part] = LEFT_OUT
    piece: str = ""

    @property
    def look(self) -> ChartLook:
        """How its charts are drawn."""
        return ChartLook(self.large, self.colour)

    def has(self, part: Part) -> bool:
        """Whether a part is printed."""
        return part not in self.leave_out
