"""The outline of a piece: what is cast on, how many rows of what, how it is shaped, in sentences that sizes share."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

from ...core.needle.stations import PatternStretch
from ...core.pattern import WorkedRow, compile_piece
from ...core.pattern.inpattern import stretches_in_pattern
from ...core.piece.piece import BandView, Piece
from ...core.rows.shaped_band import worked_view
from ...core.shaping.short_rows import ShortRowed
from ..exchange import ProjectFile
from .sentences import begin_sentence, end_sentence

_EACH = re.compile(r" in (?:rounds|rows) \d+(?:, \d+)+")
"""A schedule told row by row."""


@dataclass(frozen=True)
class OutlineBlock:
    """Sentences that belong together; `key` names the same place in every size."""

    key: str
    lines: tuple[str, ...]


def piece_outline(file: ProjectFile) -> tuple[OutlineBlock, ...]:
    """The outline of the piece at which a file is open, from its beginning to its end."""
    return tuple(_blocks(file))


def _blocks(file: ProjectFile) -> Iterator[OutlineBlock]:
    piece = file.piece()
    yield OutlineBlock("begin", (begin_sentence(file),))
    rows = compile_piece(piece).rows
    for (band, section), run in groupby(rows, key=lambda row: (row.band, row.section)):
        found = list(run)
        view = piece.band_views[min(band, len(piece.band_views) - 1)]
        if section == "body":
            yield from _body(piece, worked_view(view), found)
        elif "border" in section:
            border = piece.bottom if section.startswith("bottom") else piece.top
            text = f"{border.pattern.name}: work {_many(piece, len(found))}, {found[-1].after} stitches."
            yield OutlineBlock(section, (text,))
        else:
            yield OutlineBlock(f"{section} {band}", (_change(piece, section, found),))
    yield OutlineBlock("end", (end_sentence(file),))


def _many(piece: Piece, rows: int) -> str:
    return f"{rows} {piece.row_word}{'s' if rows != 1 else ''}"


def _change(piece: Piece, section: str, rows: Sequence[WorkedRow]) -> str:
    """Set-up rows, and rows that change the count."""
    before, after = rows[0].before, rows[-1].after
    if before == after:
        return f"{section.capitalize()}: work {_many(piece, len(rows))} in pattern."
    verb = "increase" if after > before else "decrease"
    return f"In {_many(piece, len(rows))} {verb} {abs(after - before)} stitches, spread as the chart shows: {after}."


def _body(piece: Piece, view: BandView, rows: Sequence[WorkedRow]) -> Iterator[OutlineBlock]:
    """The layout of a band, then how it is shaped, or how many rows it has."""
    layout = ", ".join(f"{s.stitches} of {s.name}" for s in view.segments)
    at = view.at
    yield OutlineBlock(f"layout {at}", (f"From the right{_of_all(view)}: {layout}.",))
    if view.shaping is None:
        text = f"Work {_many(piece, len(rows))} in pattern: {rows[-1].after} stitches."
        yield OutlineBlock(f"rows {at}", (text,))
    elif isinstance(view.shaping, ShortRowed):
        yield OutlineBlock(f"short rows {at}", tuple(_short(piece, view.shaping.rows)))
    else:
        for n, stretch in enumerate(stretches_in_pattern(view)):
            yield OutlineBlock(f"shaping {at} {n}", (_stretch(piece, stretch),))


def _of_all(view: BandView) -> str:
    """Where a band's rows have fewer stitches than its layout, that is said."""
    return ", at the widest" if view.shaping is not None and view.shaping.in_sections else ""


def _short(piece: Piece, rows: Sequence[tuple[int, int]]) -> Iterator[str]:
    for at, (low, high) in enumerate(rows):
        yield f"Short row {at + 1}: work the stitches {low + 1} to {high}, counted from the right; turn."


def _stretch(piece: Piece, stretch: PatternStretch) -> str:
    """A stretch's sentence; rows that are told one by one are in the size's own calendar."""
    many = f" {len(stretch.calendar)} times in {_many(piece, stretch.last - stretch.first + 1)}, as evenly as can be"
    return _EACH.sub(many, stretch.sentence)
