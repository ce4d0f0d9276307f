"""Making and changing panels: an editor's moves on charts, which know loops and strands."""

from .box import set_box
from .columns import insert_columns, remove_columns
from .place import bump, cross, lift, paint, put
from .rows import copy_rows, insert_rows, remove_rows, rewrite_row
from .sheet import Sheet, blank, check_size
from .travel import travel

__all__ = [
    "Sheet",
    "blank",
    "bump",
    "check_size",
    "copy_rows",
    "cross",
    "insert_columns",
    "insert_rows",
    "lift",
    "paint",
    "put",
    "remove_columns",
    "remove_rows",
    "rewrite_row",
    "set_box",
    "travel",
]
