"""The booklet's tree of content: what a pattern says, in chapters and blocks, before any form is given to it."""

from .content import (
    Block,
    Booklet,
    Calendar,
    Chapter,
    ChartSheet,
    Key,
    KeyTerm,
    Note,
    Paragraph,
    Picture,
    RowEntry,
    RowList,
    Strip,
    Subheading,
    Table,
)

__all__ = [
    "Block",
    "Booklet",
    "Calendar",
    "Chapter",
    "ChartSheet",
    "Key",
    "KeyTerm",
    "Note",
    "Paragraph",
    "Picture",
    "RowEntry",
    "RowList",
    "Strip",
    "Subheading",
    "Table",
]
