"""Projects: made, opened, changed with undo, and compared with what they were."""

from .history import compare_steps
from .project import BandWidth, PieceNumbers, Project, Projects, piece_numbers

__all__ = [
    "BandWidth",
    "PieceNumbers",
    "Project",
    "Projects",
    "compare_steps",
    "piece_numbers",
]
