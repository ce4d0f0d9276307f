"""A piece in words, as blocks: how it begins, its rows in the manner that was chosen, and how it ends."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from ...core.booklet import Block, Calendar, Note, Paragraph, RowEntry, RowList, Subheading
from ...core.pattern import compile_piece
from ...core.pattern.chartwords import Work, chart_words
from ...core.pattern.inpattern import last_crossings_in_pattern, panels_in_pattern, stretches_in_pattern
from ...core.pattern.wording import PLAIN_WORDS, Wording
from ...core.pattern.words import NO_MIRROR, RowOrder, WordsSection, has_mirror
from ...core.piece.piece import BandView, Piece
from ...core.rows.shaped_band import shape_band, worked_view
from ...core.shaping.sections import SectionShaped
from ..answers import PieceInWords, WordsLine, WordsPart
from ..exchange import ProjectFile, opened_at_piece
from ..projects import piece_counts, piece_numbers
from .page import in_words
from .sentences import LEFT_HANDED, MARKERS, begin_sentence, end_sentence, round_needles

Manner = Literal["rows", "order", "every", "pattern"]
"""Rows that are alike together; each in its order; every row by itself; or shaped parts in pattern, with what is done
at the edges and a calendar of those rows."""
ORDERS: dict[Manner, RowOrder] = {"rows": "alike", "order": "order", "every": "every", "pattern": "alike"}


def piece_words(file: ProjectFile, wording: Wording = PLAIN_WORDS, manner: Manner = "rows") -> tuple[Block, ...]:
    """The words of the piece at which a file is open, from its cast-on to its end."""
    return tuple(_blocks(file, wording, manner))


def words_answer(file: ProjectFile, wording: Wording = PLAIN_WORDS, manner: Manner = "rows") -> PieceInWords:
    """The words of the piece at which a file is open, row by row in every manner. Raises IllegalPiece."""
    piece, terms = file.piece(), wording.terms
    numbers = piece_numbers(piece)
    return PieceInWords(
        name=file.own.name or file.name,
        size=numbers.size.text(file.unit),
        counts=piece_counts(piece),
        rows=numbers.rows.total,
        begin=terms(begin_sentence(file)),
        needles=terms(round_needles(piece)),
        for_hand=hand_note(piece, wording),
        parts=tuple(_part(section, wording) for section in in_words(piece, wording, ORDERS[manner])),
        end=terms(end_sentence(file)),
    )


def _part(section: WordsSection, wording: Wording) -> WordsPart:
    name, rows = section.heading
    terms = wording.terms
    return WordsPart(
        section=section.section,
        name=terms(name),
        rows=rows,
        band=section.band + 1,
        note=terms(section.note),
        lines=tuple(
            WordsLine(numbers=row.numbers, label=row.label, text=terms(row.text), after=row.after)
            for row in section.rows
        ),
        repeat=terms(section.repeat),
    )


def words_answers(file: ProjectFile, wording: Wording, piece: str) -> list[PieceInWords]:
    """The words of all pieces of a project, or of the one named. Raises NotFound where there is none."""
    files = [opened_at_piece(file, piece)] if piece else [file.opened_at(own.number) for own in file.pieces]
    return [words_answer(each, wording) for each in files]


def _blocks(file: ProjectFile, wording: Wording, manner: Manner) -> Iterator[Block]:
    piece, terms = file.piece(), wording.terms
    if note := hand_note(piece, wording):
        yield Note(note)
    if wording.markers:
        yield Note(MARKERS)
    needles = round_needles(piece)
    yield Paragraph(tuple(terms(line) for line in (begin_sentence(file), needles) if line))
    for section in in_words(piece, wording, ORDERS[manner]):
        name, rows = section.heading
        band = f" (band {section.band + 1})" if len(piece.bands) > 1 else ""
        yield Subheading(terms(name), rows + band)
        if section.note:
            yield Note(terms(section.note))
        view = worked_view(piece.band_views[section.band])
        if manner == "pattern" and section.section == "body" and _told_in_pattern(view):
            yield from in_pattern(view, wording)
        else:
            yield row_list(section, wording)
    yield Paragraph((terms(end_sentence(file)),))


def hand_note(piece: Piece, wording: Wording) -> str:
    """What is told to left-handed knitters of a piece; nothing where its words are for the right hand."""
    if not wording.left_handed:
        return ""
    return LEFT_HANDED if has_mirror(compile_piece(piece)) else NO_MIRROR


def row_list(section: WordsSection, wording: Wording) -> RowList:
    """A section's rows, with their counts where those are wanted."""
    counts = [f"{row.after} stitches" if wording.counts else "" for row in section.rows]
    rows = zip(section.rows, counts, strict=True)
    made = (
        RowEntry(numbers=row.numbers, label=row.label, text=wording.terms(row.text), count=count) for row, count in rows
    )
    return RowList(tuple(made), wording.terms(section.repeat))


def shaped_in_pattern(piece: Piece, wording: Wording = PLAIN_WORDS) -> dict[int, tuple[Block, ...]]:
    """For each shaped band what it says in pattern; empty where nothing is shaped."""
    told = filter(_told_in_pattern, map(worked_view, piece.band_views))
    return {view.at: tuple(in_pattern(view, wording)) for view in told}


def _told_in_pattern(view: BandView) -> bool:
    """Short rows are few, each its own, and a cable that is halved spares some of the rest: they are written out."""
    if view.shaping is None or view.shaping.told_row_by_row:
        return False
    cabled = isinstance(view.shaping, SectionShaped) and view.shaping.cabled
    return not (cabled and any(row.crossed for row in shape_band(view).active.rows))


def in_pattern(view: BandView, wording: Wording) -> Iterator[Block]:
    """A shaped body in pattern: its stretches with their calendars, its panels, and the rows of every chart."""
    terms, what = wording.terms, "Round" if view.round else "Row"
    for stretch in stretches_in_pattern(view):
        many = stretch.last > stretch.first
        rows = f"{what}s {stretch.first}–{stretch.last}" if many else f"{what} {stretch.first}"
        yield Paragraph((terms(f"{rows}: {stretch.sentence}"),))
        if stretch.calendar and len(stretch.calendar) < stretch.last - stretch.first + 1:
            yield Calendar(f"Shaping {what.lower()}s", stretch.calendar)
    for name, first, last, height in panels_in_pattern(view):
        text = (
            f"{name}: work its chart in rows {first}–{last}, its {height} rows over and over; before and after them "
            "its stitches are worked as the background."
        )
        yield Paragraph((terms(text),))
    for row, names in last_crossings_in_pattern(view).items():
        text = (
            f"{' and '.join(names)}: as it grows narrow, cross what is left of it (3/3, then 2/2, then 1/1); after "
            f"{what.lower()} {row} cross it no more, and work its stitches as they appear."
        )
        yield Paragraph((terms(text),))
    work: Work = "flat" if not view.round else "inside out" if view.piece.inside_out else "round"
    for name, chart in {s.name: s.chart for s in view.segments}.items():
        yield Subheading(terms(name), "" if chart.width() == 1 else f"over {chart.size_text} stitches")
        rows_of = chart_words(chart, wording, work)
        yield RowList(tuple(RowEntry(numbers=row.numbers, label=row.label, text=terms(row.text)) for row in rows_of))
