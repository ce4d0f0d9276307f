"""All sizes of a project at once: made, told side by side in numbers and in one text."""

from .grading import by_sizes, file_in, grade_project, graded_lines, graded_report
from .size_texts import graded_pieces, graded_words
from .sizes_page import SizesView, has_sizes, size_choices, sizes_view

__all__ = [
    "SizesView",
    "by_sizes",
    "file_in",
    "grade_project",
    "graded_lines",
    "graded_pieces",
    "graded_report",
    "graded_words",
    "has_sizes",
    "size_choices",
    "sizes_view",
]
