"""A piece in words: how it begins, its rows, how it ends, in the knitter's own terms."""

from __future__ import annotations

from ...core.pattern.worked import PieceSection
from .answer import Answer
from .cast_on import PieceCounts


class WordsLine(Answer):
    """Rows that are worked alike: their numbers, how they are called, the words, and the count after them."""

    numbers: tuple[int, ...]
    label: str
    text: str
    after: int


class WordsPart(Answer):
    """A part of a piece, such as its set-up rows: its lines, what is repeated after them, what is done beside it.

    `band`, from 1, is the body band that it belongs to; `rows` says which rows it has.
    """

    section: PieceSection
    name: str
    rows: str
    band: int
    note: str
    lines: tuple[WordsLine, ...]
    repeat: str


class PieceInWords(Answer):
    """The words of a piece from its cast-on to its end; `size` is told in the project's unit.

    `needles` says how a small round is divided, `for_hand` what is told to the left-handed; both may be empty.
    """

    name: str
    size: str
    counts: PieceCounts
    rows: int
    begin: str
    needles: str
    for_hand: str
    parts: tuple[WordsPart, ...]
    end: str
