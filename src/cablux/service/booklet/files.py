"""The files that a booklet is written to: PDF, HTML, Markdown, plain text, its rows as CSV, its charts as SVG."""

from __future__ import annotations

import csv
import io
import zipfile
from functools import lru_cache
from typing import Literal

from ...core.booklet import Booklet
from ...core.pattern import compile_piece
from ...core.pattern.words import for_the_hand, marker_words, row_words
from ...render.booklet import Sheet, write_html, write_markdown, write_pages, write_pdf, write_text
from ..exchange import ProjectFile, opened_at_piece, read_project
from ..sizes import file_in
from .build import build_booklet, edition
from .printing import Printing

Form = Literal["pdf", "html", "md", "txt", "csv", "zip"]
FORMS: dict[Form, str] = {
    "pdf": "application/pdf",
    "html": "text/html; charset=utf-8",
    "md": "text/markdown; charset=utf-8",
    "txt": "text/plain; charset=utf-8",
    "csv": "text/csv; charset=utf-8",
    "zip": "application/zip",
}
COLUMNS = ("piece", "row", "side", "section", "before", "after", "words")


@lru_cache(maxsize=8)
def booklet_file(text: str, form: Form, printing: Printing) -> bytes:
    """A project file's booklet in one of its forms. Raises BadFile, IllegalPiece or NotFound."""
    file = read_project(text)
    if form == "csv":
        return rows_csv(file, printing).encode()
    book = build_booklet(file, printing)
    match form:
        case "pdf":
            return write_pdf(book, _sheet(printing))
        case "html":
            return write_html(book, large=printing.large).encode()
        case "md":
            return write_markdown(book).encode()
        case "zip":
            return _charts(book)
    return write_text(book).encode()


def _charts(book: Booklet) -> bytes:
    """Every sheet of every chart as an SVG file of its own, in one archive that is the same each time."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for at, sheet in enumerate(book.charts(), start=1):
            archive.writestr(zipfile.ZipInfo(f"{at:02}-{sheet.name}.svg"), sheet.svg)
    return out.getvalue()


def _sheet(printing: Printing) -> Sheet:
    return Sheet(printing.paper, printing.colour, printing.large)


@lru_cache(maxsize=4)
def page_pictures(text: str, printing: Printing) -> tuple[bytes, ...]:
    """The booklet's pages as PNG pictures, as they will be printed."""
    return write_pages(build_booklet(read_project(text), printing), _sheet(printing))


def file_in_size(text: str, size: str) -> str:
    """A project file in another size of its table, by the size's name or its last word; as it is without one."""
    return file_in(read_project(text), size).text() if size else text


def rows_csv(file: ProjectFile, printing: Printing = Printing()) -> str:  # noqa: B008
    """Every row of every piece as a line: its number, side, section, the counts before and after it, and its words."""
    out = io.StringIO()
    lines = csv.writer(out, lineterminator="\n")
    lines.writerow(COLUMNS)
    file = edition(file, printing)
    numbers = [opened_at_piece(file, printing.piece).own.number] if printing.piece else [p.number for p in file.pieces]
    for number in numbers:
        own = file.opened_at(number)
        pattern, wording = for_the_hand(compile_piece(own.piece()), printing.wording)
        marked = marker_words(pattern) if wording.markers else {}
        for row in pattern.rows:
            words = wording.terms(row_words(row, wording, marked.get(row.number)))
            name = own.own.name or own.name
            lines.writerow((name, row.number, row.side, row.title, row.before, row.after, words))
    return out.getvalue()
