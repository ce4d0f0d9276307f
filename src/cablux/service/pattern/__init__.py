"""The pattern of a project: its chart and words, on the page and as plain text."""

from .cautions import pattern_cautions
from .outline import OutlineBlock, piece_outline
from .page import chart_key, chart_ops, chart_window, compiled_pattern, line_of, shaped_lines
from .piece_words import Manner, piece_words, shaped_in_pattern, words_answer, words_answers
from .plain_text import file_text, pattern_text, piece_chapter, project_words
from .sentences import (
    LEFT_HANDED,
    MARKERS,
    begin_sentence,
    end_sentence,
    is_grafted,
    join_sentences,
    joined,
    next_part,
    round_needles,
)
from .whole_chart import BandChart, whole_charts

__all__ = [
    "LEFT_HANDED",
    "MARKERS",
    "BandChart",
    "Manner",
    "OutlineBlock",
    "begin_sentence",
    "chart_key",
    "chart_ops",
    "chart_window",
    "compiled_pattern",
    "end_sentence",
    "file_text",
    "is_grafted",
    "join_sentences",
    "joined",
    "line_of",
    "next_part",
    "pattern_cautions",
    "pattern_text",
    "piece_chapter",
    "piece_outline",
    "piece_words",
    "project_words",
    "round_needles",
    "shaped_in_pattern",
    "shaped_lines",
    "whole_charts",
    "words_answer",
    "words_answers",
]
