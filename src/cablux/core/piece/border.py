"""Borders: what a piece begins and ends with, and how its count is found."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Literal

from ..declared import Called, Choosing, Count, Ge, Le, PatternId
from ..library import StitchPattern, find_pattern

CastOn = Literal["stepped", "straight"]
SpreadStyle = Literal["cables", "even"]


@dataclass(frozen=True, kw_only=True)
class Border(Choosing):
    """The bottom or the top border: its pattern between the edges, its rows (0: there is none), and its count.

    `factor`: how wide it is to lie, as a part of the body's width. `count` is 0 where it follows from the style.
    """

    pattern_id: Annotated[PatternId, Called("pattern")] = "garter"
    rows: Annotated[int, Ge(0), Le(60)] = 10
    style: CastOn = "stepped"
    spread: SpreadStyle = "cables"
    factor: Annotated[float, Ge(0.5), Le(1.5)] = 1.0
    count: Count = 0

    @cached_property
    def pattern(self) -> StitchPattern:
        """Its pattern."""
        return find_pattern(self.pattern_id)
