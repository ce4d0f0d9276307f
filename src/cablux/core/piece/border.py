"""Borders: what a piece begins and ends with, and how its count is found."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from ..declared import Choosing
from ..library import Pattern, find_pattern

CastOn = Literal["stepped", "straight"]
SpreadStyle = Literal["cables", "even"]


@dataclass(frozen=True, kw_only=True)
class Border(Choosing):
    """The bottom or the top border: its pattern between the edges, its rows (0: there is none), and its count.

    `factor`: how wide it is to lie, as a part of the body's width. `count` is 0 where it follows from the style.
    """

    pattern_id: str = "garter"
    rows: int = 10
    style: CastOn = "stepped"
    spread: SpreadStyle = "cables"
    factor: float = 1.0
    count: int = 0

    @cached_property
    def pattern(self) -> Pattern:
        """Its pattern."""
        return find_pattern(self.pattern_id)
