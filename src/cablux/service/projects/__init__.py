"""Projects: made, opened, changed with undo, and compared with what they were."""

from .history import compare_steps
from .place import Place, place_of
from .project import BandWidth, PieceNumbers, Project, Projects, piece_numbers

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
