"""A piece compiled to worked rows; words; the audit of every count."""

from .compiler import WorkedPattern as WorkedPattern
from .compiler import compile_piece
from .worked import CHANGES, Section, WorkedPart, WorkedRow

__all__ = ["CHANGES", "Section", "WorkedPart", "WorkedPattern", "WorkedRow", "compile_piece"]
