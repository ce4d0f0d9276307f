"""The cast-on page: how a piece begins and ends, and how its edges will lie."""

from .edge_preview import EDGE_ROWS, FLARES, edge_picture, edge_preview, way_picture
from .page import alignments, cast_on_answer, cast_on_sentences

__all__ = [
    "EDGE_ROWS",
    "FLARES",
    "alignments",
    "cast_on_answer",
    "cast_on_sentences",
    "edge_picture",
    "edge_preview",
    "way_picture",
]
