"""The words of a project as plain text, from the same blocks as every other form."""

from __future__ import annotations

from ...core.booklet import Block, Booklet, Chapter, Paragraph, Subheading
from ...core.pattern.wording import PLAIN_WORDS, Wording
from ...core.units import GAUGE_SPAN, length_text
from ...render.booklet import write_text
from ..exchange import ProjectFile, opened_at_piece
from ..projects import Project, piece_numbers
from .piece_words import Manner, piece_words
from .sentences import join_sentences


def pattern_text(project: Project, wording: Wording = PLAIN_WORDS, manner: Manner = "rows") -> str:
    """The whole pattern of a project."""
    return project_words(project.file, wording, manner=manner)


def project_words(
    file: ProjectFile, wording: Wording = PLAIN_WORDS, piece: str = "", *, manner: Manner = "rows"
) -> str:
    """The pattern of a project: of all its pieces, or of the one named. Raises NotFound where there is none."""
    if piece:
        return file_text(opened_at_piece(file, piece), wording, manner)
    chapters = [piece_chapter(file.opened_at(p.number), wording, manner) for p in file.pieces]
    if file.joins:
        making_up = (Subheading("Making up"), Paragraph(tuple(map(wording.terms, join_sentences(file)))))
        chapters[-1] = Chapter(kind="words", title=chapters[-1].title, blocks=(*chapters[-1].blocks, *making_up))
    return write_text(Booklet("", "", tuple(chapters)))


def file_text(file: ProjectFile, wording: Wording = PLAIN_WORDS, manner: Manner = "rows") -> str:
    """The whole pattern of the piece at which a project file is open."""
    return write_text(Booklet("", "", (piece_chapter(file, wording, manner),)))


def piece_chapter(file: ProjectFile, wording: Wording, manner: Manner) -> Chapter:
    """The piece at hand with its size and its gauge, and its words; the knitter's own words stay as they are."""
    title = f"{file.name}: {file.own.name}" if file.own.name and len(file.pieces) > 1 else file.name
    facts: list[str] = [*map(wording.terms, size_lines(file))]
    facts += [f"Yarn: {file.yarn}"] if file.yarn else []
    facts += [f"Make {file.own.copies}."] if file.own.copies > 1 else []
    blocks: tuple[Block, ...] = (Paragraph(tuple(facts)), *piece_words(file, wording, manner))
    return Chapter(kind="words", title=title, blocks=blocks)


def size_lines(file: ProjectFile) -> tuple[str, str]:
    """The finished size of the piece at hand, and the gauge."""
    piece, unit = file.piece(), file.unit
    n, gauge = piece_numbers(piece), piece.measure.gauge
    per = GAUGE_SPAN[unit][0] / 100.0
    give = f"(give or take {length_text(n.give_um / 1000.0, unit)})"
    return (
        f"Finished size: {n.size.text(unit, by='by', give=give)}",
        f"Gauge: {gauge.stitches * per:.3g} stitches and {gauge.rows * per:.3g} rows to {GAUGE_SPAN[unit][1]} "
        "of stockinette",
    )
