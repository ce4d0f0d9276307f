"""The drawer of patterns and the composer: the library, the knitter’s own panels, and how they are made."""

from .chart_key import KeyEntry, key_of
from .composer import (
    Action,
    Done,
    Tools,
    allow_warning,
    composer_view,
    describe_panel,
    make_move,
    tools_within,
    write_row,
)
from .drawer import Drawer, Search, pattern_page, search_words
from .own_panels import Panels
from .pasted_rows import PastedRows, Reader, RowsRead
from .pictures import ReliefView, relief_picture, swatch_picture

__all__ = [
    "Action",
    "Done",
    "Drawer",
    "KeyEntry",
    "Panels",
    "PastedRows",
    "Reader",
    "ReliefView",
    "RowsRead",
    "Search",
    "Tools",
    "allow_warning",
    "composer_view",
    "describe_panel",
    "key_of",
    "make_move",
    "pattern_page",
    "relief_picture",
    "search_words",
    "swatch_picture",
    "tools_within",
    "write_row",
]
