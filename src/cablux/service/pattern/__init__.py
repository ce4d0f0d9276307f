"""The pattern of a project: its chart and words, on the page and as plain text."""

from .outline import OutlineBlock, piece_outline
from .page import chart_key, chart_window, compiled_pattern, in_words
from .plain_text import (
    LEFT_HANDED,
    MARKERS,
    Manner,
    begin_sentence,
    end_sentence,
    file_text,
    is_grafted,
    join_sentences,
    joined,
    opened_at_piece,
    pattern_text,
    project_words,
    round_needles,
    shaped_in_pattern,
)

__all__ = [
    "LEFT_HANDED",
    "MARKERS",
    "Manner",
    "OutlineBlock",
    "begin_sentence",
    "chart_key",
    "chart_window",
    "compiled_pattern",
    "end_sentence",
    "file_text",
    "in_words",
    "is_grafted",
    "join_sentences",
    "joined",
    "opened_at_piece",
    "pattern_text",
    "piece_outline",
    "project_words",
    "round_needles",
    "shaped_in_pattern",
]
