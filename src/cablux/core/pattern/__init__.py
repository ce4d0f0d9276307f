"""A piece compiled to worked rows; words; the audit of every count."""

from .compiler import Pattern as WorkedPattern
from .compiler import Section, WorkedPart, WorkedRow, compile_piece

__all__ = ["Section", "WorkedPart", "WorkedPattern", "WorkedRow", "compile_piece"]
