"""A piece compiled to worked rows; words; the audit of every count."""

from .compiler import Pattern as WorkedPattern
from .compiler import compile_piece
from .worked import Section, WorkedPart, WorkedRow

__all__ = ["Section", "WorkedPart", "WorkedPattern", "WorkedRow", "compile_piece"]
