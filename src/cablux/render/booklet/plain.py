"""A booklet as plain text, and as Markdown: the same lines, marked differently."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from ...core.booklet import (
    Block,
    Booklet,
    Calendar,
    Chapter,
    ChartSheet,
    Key,
    Note,
    Paragraph,
    Picture,
    RowList,
    Subheading,
    Table,
)


def write_text(booklet: Booklet) -> str:
    """Plain text: titles are underlined, two empty lines stand between chapters, pictures are left out."""
    head = "\n".join(filter(None, (*_PLAIN.title(booklet.title), booklet.subtitle)))
    return "\n\n\n".join(([head] if head else []) + [*_chapters(booklet, _PLAIN)]) + "\n"


def write_markdown(booklet: Booklet) -> str:
    """Markdown (CommonMark with tables): what would be read as markup in the words is escaped."""
    lines = [f"# {_escaped(booklet.title)}", *([f"*{_escaped(booklet.subtitle)}*"] if booklet.subtitle else [])]
    return "\n\n".join(("\n\n".join(lines), *_chapters(booklet, _MARKDOWN))) + "\n"


def _chapters(booklet: Booklet, form: _Form) -> Iterator[str]:
    """Each chapter that has words; one of pictures alone has none."""
    told = ("\n".join(_chapter(chapter, form)).lstrip("\n") for chapter in _worded(booklet))
    yield from filter(None, told)


def _worded(booklet: Booklet) -> list[Chapter]:
    """The chapters that have words: charts are pictures, and what is said beside them is about those."""
    return [c for c in booklet.chapters if not any(isinstance(block, ChartSheet) for block in c.blocks)]


@dataclass(frozen=True, kw_only=True)
class _Form:
    """How a form marks what is not a plain sentence."""

    title: Callable[[str], list[str]]
    heading: Callable[[str, str], str]
    note: Callable[[str], str]
    row: Callable[[str, str], str]
    line: Callable[[str], str]
    table: Callable[[Table], list[str]]
    loose: bool


_MARKUP = re.compile(r"([\\`*_{}\[\]<>#|~])")


def _escaped(text: str) -> str:
    """The text as Markdown shows it unchanged."""
    text = _MARKUP.sub(r"\\\1", text)
    return re.sub(r"^(\d+)([.)])(?=\s|$)|^([-+])(?=\s)", lambda m: f"{m[1]}\\{m[2]}" if m[1] else f"\\{m[3]}", text)


def _columns(table: Table) -> list[str]:
    """A table of columns that are as wide as their widest word; a head without words is left out."""
    rows = [table.head, *table.rows] if any(table.head) else list(table.rows)
    wide = [max(len(row[at]) for row in rows) for at in range(len(table.head))]
    return ["  ".join(cell.ljust(w) for cell, w in zip(row, wide, strict=True)).rstrip() for row in rows]


def _piped(table: Table) -> list[str]:
    rows = [table.head, ("---",) * len(table.head), *(tuple(map(_escaped, row)) for row in table.rows)]
    return [f"| {' | '.join(row)} |" for row in rows]


_PLAIN = _Form(
    title=lambda text: [text, "=" * len(text)],
    heading=lambda text, detail: f"{text}: {detail}" if detail else text,
    note=lambda text: text,
    row=lambda label, text: f"{label}: {text}",
    line=lambda text: text,
    table=_columns,
    loose=False,
)
_MARKDOWN = _Form(
    title=lambda text: [f"## {_escaped(text)}"],
    heading=lambda text, detail: f"### {_escaped(f'{text}: {detail}' if detail else text)}",
    note=lambda text: f"> {_escaped(text)}",
    row=lambda label, text: f"- **{_escaped(label)}:** {_escaped(text)}",
    line=lambda text: f"{_escaped(text)}  ",
    table=_piped,
    loose=True,
)


def _chapter(chapter: Chapter, form: _Form) -> Iterator[str]:
    """A chapter's lines; blocks stand apart, but what belongs to a heading follows it at once."""
    if chapter.title:
        yield from form.title(chapter.title)
    before: Block | None = None
    for block in chapter.blocks:
        lines = list(_lines(block, form))
        close = isinstance(before, Subheading) or isinstance(block, RowList | Calendar)
        if lines and (form.loose or not close):
            yield ""
        yield from lines
        before = block if lines else before


def _lines(block: Block, form: _Form) -> Iterator[str]:
    match block:
        case Paragraph():
            yield from map(form.line, block.lines)
        case Note():
            yield form.note(block.text)
        case Subheading():
            yield form.heading(block.text, block.detail)
        case Table():
            yield from form.table(block)
        case Calendar():
            yield form.row(f"{block.what}, to cross out", f"{', '.join(map(str, block.numbers))}.")
        case RowList():
            for row in block.rows:
                yield form.row(row.label, f"{row.text}.{f' ({row.count})' if row.count else ''}")
            if block.again:
                yield from ("", form.line(block.again)) if form.loose else (form.line(block.again),)
        case Key():
            for term in block.terms:
                other = f" (also {term.other_name})" if term.other_name else ""
                yield form.row(f"{term.name}{other}", term.text)
        case Picture() | ChartSheet():
            return
