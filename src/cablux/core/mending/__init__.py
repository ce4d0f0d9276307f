"""Mistakes: what the cloth is with one in it, and what each way of mending it costs in loops."""

from .altered import altered_pattern, can_be_left, left_in
from .answers import Answer, AnswerKind, mending_answers
from .mistake import MISTAKES, Mistake, MistakeKind, UnlikelyMistake

__all__ = [
    "MISTAKES",
    "Answer",
    "AnswerKind",
    "Mistake",
    "MistakeKind",
    "UnlikelyMistake",
    "altered_pattern",
    "can_be_left",
    "left_in",
    "mending_answers",
]
