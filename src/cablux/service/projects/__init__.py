"""Projects: made, opened, changed with undo, and compared with what they were."""

from .changes import on_others, on_piece, with_added, without_piece
from .counts import piece_counts
from .history import compare_steps
from .numbers import BandWidth, PieceNumbers, piece_numbers, piece_of
from .place import Place, place_of
from .project import Project, Projects
from .stations import station_table

__all__ = [
    "BandWidth",
    "PieceNumbers",
    "Place",
    "Project",
    "Projects",
    "compare_steps",
    "on_others",
    "on_piece",
    "piece_counts",
    "piece_numbers",
    "piece_of",
    "place_of",
    "station_table",
    "with_added",
    "without_piece",
]
