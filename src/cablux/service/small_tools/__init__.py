"""Small tools: counts that suit, widths in both units, changes spread evenly."""

from .counts import both_units, count_for_width, suiting_counts
from .even_spread import MOST, spread_evenly

__all__ = [
    "MOST",
    "both_units",
    "count_for_width",
    "spread_evenly",
    "suiting_counts",
]
