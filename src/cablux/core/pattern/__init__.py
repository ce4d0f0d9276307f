"""A piece compiled to worked rows; words; the audit of every count."""

from .compiler import WorkedPattern as WorkedPattern
from .compiler import compile_piece
from .worked import CHANGES, PieceSection, WorkedPart, WorkedRow

__all__ = ["CHANGES", "PieceSection", "WorkedPart", "WorkedPattern", "WorkedRow", "compile_piece"]
