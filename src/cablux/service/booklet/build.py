"""A project's booklet as one tree of content: everything that any of its forms says."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from ...core.booklet import Block, Booklet, Calendar, Chapter, Note, Paragraph, RowList, Subheading
from ...core.pattern.inpattern import stretches_in_pattern
from ...core.rows.shaped_band import worked_view
from ...core.units import length_text
from ..errors import InvalidForm
from ..exchange import ProjectFile, opened_at_piece
from ..pattern import join_sentences, pattern_cautions, piece_words
from ..projects import piece_numbers
from ..shapes import shape_of
from ..sizes import by_sizes, grade_project, graded_pieces
from .charts import piece_sheets
from .front import cover_blocks, gauge_blocks, key_blocks, material_blocks, measures_blocks
from .printing import Part, Printing

READING = (
    "A chart shows the right side. Read it from below; a row begins on the side where its number is bold. What stands "
    "in a heavy box is repeated: across as often as its name says, upwards as the sentence beneath says. Small squares "
    "beside a row are to tick, one for every time that it is worked. What is shaded stands on another sheet as well."
)
FINISHED = {
    "as knitted": "Weave in the ends",
    "washed": "Weave in the ends. Wash it as it will be washed from now on, and let it dry flat",
    "blocked": "Weave in the ends. Wash it, pin it out to measure while it is wet, and let it dry",
    "after use": "Weave in the ends. It will be a little larger after some weeks of use",
}


def build_booklet(file: ProjectFile, printing: Printing = Printing()) -> Booklet:  # noqa: B008
    """The booklet of a project, or of the piece that is named. Raises NotFound where there is none of that name.

    Raises InvalidForm where nothing would be printed.
    """
    file = edition(file, printing)
    whole = file.opened_at(0)
    named = opened_at_piece(file, printing.piece)
    files = (named,) if printing.piece else tuple(file.opened_at(p.number) for p in file.pieces)
    words = {each.own.number: piece_words(each, printing.wording, printing.manner) for each in files}
    said = [_said(blocks) for blocks in words.values()]
    made: dict[Part, tuple[str, Callable[[], Iterator[Block]]]] = {
        "cover": ("", lambda: cover_blocks(whole, files, printing)),
        "materials": ("What you need", lambda: material_blocks(whole, files)),
        "gauge": ("Gauge", lambda: gauge_blocks(whole, files)),
        "key": ("Abbreviations", lambda: key_blocks(files, said, printing)),
    }
    chapters = [
        Chapter(kind=part, title=title, blocks=tuple(blocks()))
        for part, (title, blocks) in made.items()
        if printing.has(part)
    ]
    if printing.has("cover"):
        chapters.insert(
            1, Chapter(kind="measures", title="Measures", blocks=tuple(measures_blocks(whole, files, printing)))
        )
    for each in files:
        first, *others = _piece_chapters(each, words[each.own.number], printing) or [
            Chapter(kind="", title="", blocks=())
        ]
        chapters += [replace(first, fresh=True), *others]
    chapters += _back(whole, printing)
    kept = tuple(c for c in chapters if c.blocks)
    if not kept:
        raise InvalidForm({"part": "Nothing would be printed: choose at least one part that this project has."})
    return Booklet(whole.name, _subtitle(whole, named, printing), kept)


def edition(file: ProjectFile, printing: Printing) -> ProjectFile:
    """The project as it is printed: what is worked in the round turned inside out where that is wanted."""
    if not printing.inside_out:
        return file
    pieces = tuple(p.model_copy(update={"inside_out": True}) if p.round else p for p in file.pieces)
    return file.model_copy(update={"pieces": pieces})


def _subtitle(file: ProjectFile, named: ProjectFile, printing: Printing) -> str:
    found = shape_of(file)
    said = [found[0].name] if found else []
    if found and by_sizes(found[0]):
        said.append(f"size {found[1][found[0].asks[0].name]}")
    said += [named.own.name] if printing.piece and named.own.name else []
    said += ["for left-handed knitters"] if printing.wording.left_handed else []
    said += ["worked inside out"] if printing.inside_out else []
    text = ", ".join(said)
    return text[:1].upper() + text[1:]


def _said(blocks: tuple[Block, ...]) -> str:
    """All rows in words, with their labels."""
    rows = (row for block in blocks if isinstance(block, RowList) for row in block.rows)
    return "\n".join(f"{row.label}: {row.text}" for row in rows)


def _piece_chapters(file: ProjectFile, words: tuple[Block, ...], printing: Printing) -> list[Chapter]:
    """A piece's charts, its words and its calendars."""
    piece, several = file.piece(), len(file.pieces) > 1
    name = f"{file.own.name or file.name}: " if several else ""
    out = list[Chapter]()
    make = f" (make {file.own.copies})" if file.own.copies > 1 else ""

    def title(text: str) -> str:
        return f"{name}{text}{make}" if name else f"{text[:1].upper()}{text[1:]}{make}"

    if printing.has("charts"):
        sheets = tuple(piece_sheets(piece, printing.charts, printing.look, label=file.own.name or file.name))
        if sheets:
            reading = (Note(READING),) if file.own == file.pieces[0] or printing.piece else ()
            out.append(Chapter(kind="charts", title=title("charts"), blocks=(*reading, *sheets)))
    if printing.has("words"):
        out.append(Chapter(kind="words", title=title("row by row"), blocks=words))
    if printing.has("calendars") and printing.manner != "pattern":
        out.append(
            Chapter(kind="calendars", title=title("shaping, to cross out"), blocks=tuple(_calendars(file, printing)))
        )
    return [chapter for chapter in out if chapter.blocks]


def _calendars(file: ProjectFile, printing: Printing) -> Iterator[Block]:
    piece = file.piece()
    for view in map(worked_view, piece.band_views):
        if view.shaping is None:
            continue
        for stretch in stretches_in_pattern(view):
            if stretch.calendar and stretch.last > stretch.first:
                yield Paragraph((printing.wording.terms(stretch.sentence),))
                yield Calendar(f"{piece.row_word.capitalize()}s", stretch.calendar)


def _back(file: ProjectFile, printing: Printing) -> Iterator[Chapter]:
    terms = printing.wording.terms
    if printing.has("making up"):
        joins = [terms(line) for line in join_sentences(file)]
        blocks: list[Block] = [Paragraph(tuple(joins))] if joins else []
        blocks.append(Paragraph((terms(_finishing(file)),)))
        yield Chapter(kind="making up", title="Joins and finishing" if joins else "Finishing", blocks=tuple(blocks))
    if printing.has("sizes"):
        yield Chapter(kind="sizes", title="All sizes", blocks=tuple(_sizes(file, printing)))
    if printing.has("cautions"):
        yield Chapter(kind="cautions", title="Take care", blocks=tuple(Note(text) for text in pattern_cautions(file)))


def _finishing(file: ProjectFile) -> str:
    text = FINISHED[file.finish]
    if len(file.pieces) > 1 or file.finish in ("as knitted", "after use"):
        return f"{text}."
    n = piece_numbers(file.piece())
    size = n.size.text(file.unit, by="by")
    return f"{text}: {size}, give or take {length_text(n.give_um / 1000.0, file.unit)}."


def _sizes(file: ProjectFile, printing: Printing) -> Iterator[Block]:
    found = shape_of(file)
    if found is None or not by_sizes(found[0]):
        return
    kind = str(found[1][found[0].asks[0].name]).rsplit(" ", 1)[0]
    wanted = [c for c in found[0].asks[0].choices if c.rsplit(" ", 1)[0] == kind]
    sizes = grade_project(file.text(), wanted)
    made = [each.size for each in sizes if each.file is not None]
    if made:
        yield Paragraph((f"Sizes: {made[0]} ({', '.join(made[1:])}). Numbers stand in this order.",))
    for name, lines in graded_pieces(sizes):
        yield Subheading(name)
        yield Paragraph(tuple(map(printing.wording.terms, lines)))
    refused = [f"{each.size} cannot be had: {each.refusal}" for each in sizes if each.refusal]
    if refused:
        yield Paragraph(tuple(refused))
