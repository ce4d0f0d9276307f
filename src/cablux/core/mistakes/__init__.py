"""Mistakes: what the cloth is with one in it, and what each way of mending it costs in loops."""

from .altered import altered_pattern, can_be_left, left_in
from .mistake import MISTAKES, Mistake, MistakeKind, UnlikelyMistake
from .ways_out import WayOut, WayOutKind, find_ways_out

__all__ = [
    "MISTAKES",
    "Mistake",
    "MistakeKind",
    "UnlikelyMistake",
    "WayOut",
    "WayOutKind",
    "altered_pattern",
    "can_be_left",
    "find_ways_out",
    "left_in",
]
