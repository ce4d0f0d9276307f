"""Projects: made, opened, changed with undo, and compared with what they were."""

from .history import compare_steps
from .numbers import BandWidth, PieceNumbers, piece_numbers
from .place import Place, place_of
from .project import Project, Projects

__all__ = [
    "BandWidth",
    "PieceNumbers",
    "Place",
    "Project",
    "Projects",
    "compare_steps",
    "piece_numbers",
    "place_of",
]
