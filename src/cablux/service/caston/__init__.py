"""The cast-on page: how a piece begins and ends, and how its edges will lie."""

from .edge_preview import EDGE_ROWS, FLARES, edge_picture, edge_preview, way_picture
from .page import cast_on_story

__all__ = [
    "EDGE_ROWS",
    "FLARES",
    "cast_on_story",
    "edge_picture",
    "edge_preview",
    "way_picture",
]
