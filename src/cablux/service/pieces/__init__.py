"""The pieces of a project beside one another: to scale, as their loops relax, as squares that match."""

from .pieces_page import pieces_answer, pieces_pictures, pieces_sentences
from .relaxed_garment import RelaxedGarment, relaxed_garment
from .squares import matched_to, square_set, square_with

__all__ = [
    "RelaxedGarment",
    "matched_to",
    "pieces_answer",
    "pieces_pictures",
    "pieces_sentences",
    "relaxed_garment",
    "square_set",
    "square_with",
]
