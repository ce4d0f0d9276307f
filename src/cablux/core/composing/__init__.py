"""Making and changing panels: an editor's moves on charts, which know loops and strands."""

from .box import set_box
from .columns import insert_columns, remove_columns
from .place import cross_loops, lift_operation, paint_faces, put_operation, turn_one_stitch
from .rows import copy_rows, insert_rows, remove_rows, rewrite_row
from .sheet import Sheet, blank_sheet, check_size
from .travel import lead_strand

__all__ = [
    "Sheet",
    "blank_sheet",
    "check_size",
    "copy_rows",
    "cross_loops",
    "insert_columns",
    "insert_rows",
    "lead_strand",
    "lift_operation",
    "paint_faces",
    "put_operation",
    "remove_columns",
    "remove_rows",
    "rewrite_row",
    "set_box",
    "turn_one_stitch",
]
