"""A lost place found again: what was seen of the cables, the rows that fit it, and what to look at next."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from functools import lru_cache
from types import MappingProxyType

from ...core.errors import IllegalPiece
from ...core.mistakes import Mistake, left_in
from ...core.needle.schedule import number_list
from ...core.notation import Side
from ...core.pattern import compile_piece
from ...core.piece.piece import Piece
from ...core.rows.heights import row_heights_um
from ...core.tracking import BORDER, SEEN_LEANS, Leans, Panel, PanelSights, Question, Sighting, panel_sights
from ...core.units import to_mm
from ..answers import PanelPlace, RowsFound
from ..errors import NotFound
from ..exchange import read_at_piece

OFF, LEAST_OFF_MM = 0.06, 15.0
"""Our choice: cloth on the needle is measured to within 6 in 100, one and a half centimetres at the least."""
NONE = "none"
"""What is said in place of a lean of a panel that has not crossed yet, or of a border too far away."""
Told = Mapping[Question, int | Side | None]
NOTHING: Told = MappingProxyType({})
QUESTIONS: dict[Question, str] = {
    "ridges": "count the ridges at the right edge",
    "stitches": "count the stitches on the needle",
    "crossings": "count the crossings of {crosser} from the cast-on",
    "facing": "see which side faces you as the next row begins",
}
LEAN_NAMES: dict[Leans, str] = {"left": "to the left", "right": "to the right", "both": "one each way"}


def find_place(
    piece: Piece,
    seen: Sequence[str] = (),
    long_mm: float = 0.0,
    *,
    told: Told = NOTHING,
    left: tuple[Mistake, ...] = (),
) -> RowsFound:
    """The rows that fit what was seen: `PANEL:BARS:LEAN` each, the panel by its name or its place from the right.

    The lean may be left out, and an answer be None. With a length from the cast-on only rows near it are taken. `left`:
    the mistakes that are in the cloth. Raises IllegalPiece for what cannot be read, NotFound for a panel that is not
    there.
    """
    found = _panel_sights(piece, left)
    sightings = tuple(_sighting(found, text) for text in seen)
    near = _rows_near(piece, long_mm) if long_mm else None
    answers = {question: answer for question, answer in told.items() if answer is not None}
    rows = found.fitting(sightings, near, answers)
    best = found.next_panel(rows, [s.panel for s in sightings]) if len(rows) > 1 else None
    other = found.next_question(rows, answers) if len(rows) > 1 else None
    ask = other[0] if other and (best is None or other[1] < found.left_by(best, rows)) else None
    crosser = found.crosser[1] if found.crosser else ""
    look = _place(found, best) if best else None
    return RowsFound(
        seen=tuple(map(_said, sightings)),
        rows=rows,
        panels=tuple(_place(found, panel) for panel in sorted(found.shown)),
        next=ask or (look.panel if look else None),
        next_place=look.place if look else None,
        crosser=crosser or None,
        question=QUESTIONS[ask].format(crosser=crosser) if ask else f"look at {look.panel}" if look else "",
        questions=found.questions,
    )


@lru_cache(maxsize=32)
def _panel_sights(piece: Piece, left: tuple[Mistake, ...]) -> PanelSights:
    return panel_sights(left_in(compile_piece(piece), left).rows)


def _rows_near(piece: Piece, long_mm: float) -> list[int]:
    """The rows after which a piece may be so long."""
    off = max(LEAST_OFF_MM, OFF * long_mm)
    return [row for row, um in enumerate(row_heights_um(piece)) if abs(um / 1000.0 - long_mm) <= off]


def _place(found: PanelSights, panel: Panel) -> PanelPlace:
    return PanelPlace(panel=_named(found, panel), place=panel[0] + 1)


def _named(found: PanelSights, panel: Panel) -> str:
    """Its name; where there are several of that name, which of them from the right."""
    same = [each for each in sorted(found.shown) if each[1] == panel[1]]
    place = f", number {same.index(panel) + 1} from the right" if len(same) > 1 else ""
    return f"{panel[1]}{place}"


def _sighting(found: PanelSights, text: str) -> Sighting:
    read = re.fullmatch(r"\s*(.+?)\s*:\s*(\d{0,3})\s*(?::\s*(\w*)\s*)?", text)
    none = read is not None and read[3] == NONE
    if read is None or not (none or (read[2] and (read[3] or "left") in SEEN_LEANS)):
        raise IllegalPiece(f"“{text}” says nothing that was seen: type PANEL:BARS:LEAN, such as Braid of 9:3:left.")
    named = [panel for panel in sorted(found.shown) if read[1].casefold() in (panel[1].casefold(), str(panel[0] + 1))]
    if not named:
        there = ", ".join(dict.fromkeys(name for _, name in sorted(found.shown))) or "none"
        raise NotFound(f"No panel “{read[1]}” crosses here; these do: {there}.")
    lean = next((each for each in SEEN_LEANS if each == read[3]), None)
    return Sighting(panel=named[0], bars=int(read[2] or 0), leans=lean, none=none)


def _said(seen: Sighting) -> str:
    if seen.none:
        return f"{seen.panel[1]}: {'more than can be counted' if seen.panel == BORDER else 'not crossed yet'}"
    if seen.panel == BORDER:
        return f"{seen.panel[1]}: {seen.bars}"
    bars = f"{seen.bars} bar{'' if seen.bars == 1 else 's'} above its last crossing"
    return f"{seen.panel[1]}: {bars}" + (f", which leans {LEAN_NAMES[seen.leans]}" if seen.leans else "")


def place_report(text: str, piece: str, seen: Sequence[str], *, length: float = 0.0, told: Told = NOTHING) -> RowsFound:
    """The rows of a project file's piece that fit what was seen, and its length in the file's unit, for a program."""
    file = read_at_piece(text, piece)
    return find_place(file.piece(), seen, to_mm(length, file.unit), told=told)


def place_sentences(report: RowsFound) -> list[str]:
    """The same in words."""
    rows = report.rows
    if not rows:
        return ["No row of this piece looks so: count the bars once more, from the crossing to the needle."]
    what = "row fits" if len(rows) == 1 else "rows fit"
    said = f"{len(rows)} {what}; the last one worked is {'one of ' if len(rows) > 1 else ''}{number_list(rows)}."
    question = report.question
    return [f"{said} {question[0].upper()}{question[1:]} next." if question else said]
