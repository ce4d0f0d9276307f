"""The booklet of a project: what of it to print and how, its content as one tree, and its files."""

from .build import build_booklet
from .charts import ChartChoice
from .files import FORMS, Form, booklet_file, file_in_size, page_pictures, rows_csv
from .printing import LEFT_OUT, PARTS, Paper, Part, Printing

__all__ = [
    "FORMS",
    "LEFT_OUT",
    "PARTS",
    "ChartChoice",
    "Form",
    "Paper",
    "Part",
    "Printing",
    "booklet_file",
    "build_booklet",
    "file_in_size",
    "page_pictures",
    "rows_csv",
]
