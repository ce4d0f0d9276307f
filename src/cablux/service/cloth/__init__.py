"""Whole pieces laid out loop by loop in the background, and what is kept of them between runs."""

from .draw_in_cache import load_draw_ins, save_draw_ins
from .near import cloth_after, cloth_around
from .piece_relaxer import PieceRelaxer, facts_at
from .round_picture import round_kind
from .startup import prepare_first_bench

__all__ = [
    "PieceRelaxer",
    "cloth_after",
    "cloth_around",
    "facts_at",
    "load_draw_ins",
    "prepare_first_bench",
    "round_kind",
    "save_draw_ins",
]
