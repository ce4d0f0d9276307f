"""The pattern in words: each row in its shortest form, rows that are alike together or each in its order."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import accumulate
from typing import Literal

from ..ends.edge_short_rows import edge_short_rows
from ..needle.schedule import number_list
from ..notation import Face, Side, Stitch
from ..piece.mirrored import mirrored_piece
from ..piece.piece import BandView
from ..rows.heights import first_row
from ..rows.shaped_band import shape_band, worked_view
from .compiler import WorkedPattern, compile_piece
from .wording import PLAIN_WORDS, Wording
from .worked import CHANGES, PieceSection, WorkedPart, WorkedRow

RowOrder = Literal["alike", "order", "every"]
"""Rows that are alike together, with what to repeat; each in its order, with all its numbers; or every row by itself.
"""
NO_MIRROR = (
    "This piece slopes at one side in short rows, which begin at the other side for the left hand, so its rows are "
    "those of the right hand: worked left-handed they make its picture in a mirror. Where two pieces mirror each "
    "other, take the rows of the other one."
)


@dataclass(frozen=True)
class Markers:
    """What a row does with markers: `sm` or `pm` between its parts from the right; `out` if others are taken out."""

    between: tuple[str, ...]
    out: bool


@dataclass(frozen=True, kw_only=True)
class WordsRow:
    """Some rows that are worked alike: their numbers, side, text, and the count after them; or rounds."""

    numbers: tuple[int, ...]
    side: Side
    text: str
    after: int
    round: bool = False

    @property
    def label(self) -> str:
        """`Row 5 (RS)`, `Rows 2, 4, 6 (WS)` or `Round 5`; inside out `Round 5 (WS)`."""
        what = "Round" if self.round else "Row"
        said = f"{what}{'s' if len(self.numbers) > 1 else ''} {number_list(self.numbers)}"
        return said if self.round and self.side is Side.RS else f"{said} ({self.side})"


@dataclass(frozen=True, kw_only=True)
class WordsSection:
    """A part of the pattern: its rows, and what to repeat after them.

    `band` is the body band it belongs to, `before` the stitches on the needle before its first row; `note` is what
    to do beside it.
    """

    section: PieceSection
    first: int
    last: int
    rows: tuple[WordsRow, ...]
    repeat: str = ""
    band: int = 0
    before: int = 0
    note: str = ""

    @property
    def heading(self) -> tuple[str, str]:
        """Its name and its rows, such as (“Bottom border”, “rows 1–9”), (“Set-up”, “rounds 11–12”)."""
        what = "round" if self.rows[0].round else "row"
        return self.name, _span(self.first, self.last, what)

    @property
    def name(self) -> str:
        """What it is called; rows that change the count by what they do."""
        if self.section not in CHANGES:
            return self.section.removesuffix(" rows").capitalize()
        more = self.rows[-1].after - self.before
        return "Increase" if more > 0 else "Decrease" if more < 0 else "Change"


def row_words(row: WorkedRow, wording: Wording = PLAIN_WORDS, markers: Markers | None = None) -> str:
    """The whole row as worked; where `markers` are told, with those that are placed or taken out in it.

    >>> from cablux.core import Band, Evidence, Gauge, Piece, compile_piece, library_segment
    >>> edge, background = library_segment("edge", "garter", 5), library_segment("background", "stockinette", 40)
    >>> band = Band(own=(edge, background, edge))
    >>> known = Evidence(gauge=Gauge(stitches=18, rows=25))
    >>> piece = Piece(name="Scarf", width_mm=300.0, height_mm=1500.0, evidence=known, bands=(band,))
    >>> row_words(compile_piece(piece).row(21))
    'k50'
    """
    parts = tuple(part.worked(row.side) for part in row.parts)
    marks = markers.between if markers else ()
    text = wording.row(*((parts, marks) if row.side is Side.RS else (parts[::-1], marks[::-1])))
    return f"{text}; remove the other markers as you come to them" if markers and markers.out else text


def part_text(part: WorkedPart, side: Side, wording: Wording = PLAIN_WORDS) -> str:
    """One section's share of a row as worked."""
    return wording.row((part.worked(side),))


def pattern_words(
    pattern: WorkedPattern, wording: Wording = PLAIN_WORDS, order: RowOrder = "alike"
) -> tuple[WordsSection, ...]:
    """The whole pattern in words, section by section from the cast-on."""
    pattern, wording = for_the_hand(pattern, wording)
    sections: list[list[WorkedRow]] = []
    for row in pattern.rows:
        last = sections[-1][-1] if sections else None
        if last is None or (last.section, last.band) != (row.section, row.band):
            sections.append([])
        sections[-1].append(row)
    marked = marker_words(pattern) if wording.markers else {}
    return tuple(_section(pattern, rows, wording, marked=marked, order=order) for rows in sections)


def for_the_hand(pattern: WorkedPattern, wording: Wording) -> tuple[WorkedPattern, Wording]:
    """The rows to be written for the hand that knits, and how.

    Rows that can only begin at their own edge, where they bind off, cast on or turn early, cannot be read from their
    other end: for the left hand they are those of the piece's picture in a mirror, or of the piece where it has none.
    """
    if not wording.left_handed or pattern.piece.round or not pattern.one_way:
        return pattern, wording
    mirrored = mirrored_piece(pattern.piece)
    return compile_piece(mirrored) if mirrored else pattern, replace(wording, left_handed=False)


def has_mirror(pattern: WorkedPattern) -> bool:
    """Whether its rows can be written for the left hand so that the piece comes out as it is."""
    own, wording = for_the_hand(pattern, Wording(left_handed=True))
    return wording.left_handed or own is not pattern


def marker_words(pattern: WorkedPattern) -> dict[int, Markers]:
    """What each row does with markers, by its number: they stand between the sections.

    A marker is told by the stitches to the right of it, so that one that hangs where the next is wanted stays.
    """
    out: dict[int, Markers] = {}
    there: set[int] = set()
    for row in pattern.rows:
        below = [*accumulate(part.takes for part in row.parts[:-1])]
        out[row.number] = Markers(tuple("sm" if at in there else "pm" for at in below), bool(there.difference(below)))
        there = set(accumulate(part.makes for part in row.parts[:-1]))
    return out


def _section(
    pattern: WorkedPattern, rows: list[WorkedRow], wording: Wording, *, marked: dict[int, Markers], order: RowOrder
) -> WordsSection:
    name, band, first, last = rows[0].section, rows[0].band, rows[0].number, rows[-1].number
    before, cycle, lead, repeat = rows[0].before, pattern.piece.row_period(band), len(rows), ""
    if name == "body" and worked_view(pattern.piece.band_views[band]).shaping is None:
        # a row that places markers stands alone: the repeat begins above it, where they hang
        lead = sum(1 for row in rows[:1] if row.number in marked and "pm" in marked[row.number].between)
        if len(rows) - lead > cycle and order == "alike":
            repeat = _repeat_text(first + lead, last, cycle, what=pattern.piece.row_word)
            rows = rows[: lead + cycle]
    elif name != "body" and order == "order":
        lead, cycle = _alike_throughout(rows, wording, marked)
    groups: dict[tuple[object, ...], list[WorkedRow]] = {}
    for at, row in enumerate(rows):
        groups.setdefault(_kin(row, at, lead, cycle=cycle, order=order, wording=wording, marked=marked), []).append(row)
    made = tuple(
        WordsRow(
            numbers=tuple(row.number for row in each),
            side=each[0].side,
            text=row_words(each[0], wording, marked.get(each[0].number)),
            after=each[0].after,
            round=pattern.piece.round,
        )
        for each in groups.values()
    )
    notes = (edge_note(pattern, band, first), holder_note(pattern, band)) if name == "body" else ()
    note = " ".join(filter(None, notes))
    return WordsSection(
        section=name, first=first, last=last, rows=made, repeat=repeat, band=band, before=before, note=note
    )


def _alike_throughout(rows: list[WorkedRow], wording: Wording, marked: dict[int, Markers]) -> tuple[int, int]:
    """The rows that stand alone before the rest is a few rows again and again, twice at least, and how many those are;
    all stand alone where it is not."""
    told = [(row.side, row_words(row, wording, marked.get(row.number)), row.after) for row in rows]
    for lead in (0, 1):  # the first row may place markers
        rest = told[lead:]
        for cycle in range(1, len(rest) // 2 + 1):
            if rest[cycle:] == rest[:-cycle]:
                return lead, cycle
    return len(rows), 1


def _kin(
    row: WorkedRow, at: int, lead: int, *, cycle: int, order: RowOrder, wording: Wording, marked: dict[int, Markers]
) -> tuple[object, ...]:
    """Rows of a section with the same of these are told together."""
    match order:
        case "every":
            return (row.number,)
        case "order":  # a row of the repeat with those that are the same one of it again
            return ("repeat", (at - lead) % cycle) if at >= lead else ("lead", at)
    return row.side, row_words(row, wording, marked.get(row.number)), row.after


def edge_note(pattern: WorkedPattern, band: int, first: int) -> str:
    """How lower edges are filled in beside a body whose first row is `first`; empty where they are not."""
    view = pattern.piece.band_views[band]
    filled = edge_short_rows(view) if pattern.piece.short_rows else None
    if filled is None:
        return ""
    due = first + filled.every
    return (
        f"The edges are lower than the body: before row {due} and then every {filled.every} rows, and before the "
        f"row after each of these, work two short rows over the edge with which it begins. {short_rows_text(view)}"
    )


def holder_note(pattern: WorkedPattern, band: int) -> str:
    """Whose stitches are put on holders, row by row; empty where none are."""
    view = pattern.piece.band_views[band]
    if view.shaping is None or not view.shaping.put_aside:
        return ""
    first = first_row(view)
    rows = [first + at for at, row in enumerate(shape_band(view).active.rows) if row.held]
    return " ".join(f"In {pattern.piece.row_word} {row} {held_in(pattern, row)}" for row in rows)


def held_in(pattern: WorkedPattern, number: int) -> str:
    """Whose stitches row `number` puts on holders; empty where it holds none, though it may bind some off."""
    view = pattern.piece.band_views[pattern.row(number).band]
    if view.shaping is None or not any(p.held for p in pattern.row(number).parts):
        return ""
    here = [at for at, s in enumerate(shape_band(view).stations.stations) if s.row == number - first_row(view)]
    names = [aside.name for aside in view.shaping.put_aside if aside.station in here]
    if not names:
        return ""
    return f"the stitches to hold are, from the right, those of the {', then those of the '.join(names)}."


def short_rows_text(view: BandView) -> str:
    """Two short rows over an edge, in words (common practice: turned with the yarn brought round the next stitch)."""
    n = view.sides[0].stitches
    return f"Work its {n} stitches in pattern, wrap the next stitch and turn, work the {n} back, turn."


def short_rows_due(pattern: WorkedPattern, number: int) -> str:
    """What is done before row `number` to fill in the edge with which it begins; empty where nothing is."""
    row = pattern.row(number)
    view = pattern.piece.band_views[row.band]
    filled = edge_short_rows(view) if pattern.piece.short_rows and row.section == "body" else None
    if filled is None:
        return ""
    since = number - next(r.number for r in pattern.rows if r.section == "body" and r.band == row.band)
    return short_rows_text(view) if since >= filled.every and since % filled.every in (0, 1) else ""


def _span(first: int, last: int, what: str) -> str:
    return f"{what} {first}" if first == last else f"{what}s {first}–{last}"


def _repeat_text(first: int, last: int, cycle: int, *, what: str) -> str:
    end = first + cycle - 1
    whole, rest = divmod(last - end, cycle)
    times = {0: "", 1: "once more", 2: "twice more"}.get(whole, f"{whole} times more")
    parts = [f"{_span(first, end, what)} {times}"] if whole else []
    if rest:
        parts.append(f"{_span(first, first + rest - 1, what)} once" + (" more" if not whole else ""))
    return f"Then work {', then '.join(parts)}: to {what} {last}."


def plain_hint(part: WorkedPart, side: Side, below: tuple[Face, ...]) -> str:
    """“knit the knits, purl the purls” where that is all there is to do; else empty.

    `below` is the faces on the needle as seen from the right side.
    """
    if not all(isinstance(op, Stitch) and not op.tbl for op in part.ops):
        return ""
    shown = tuple(loop.face for op in part.ops for loop in op.made)
    if shown != below:
        return ""
    if len(set(shown)) == 1:
        return "knit" if (shown[0] is Face.KNIT) == (side is Side.RS) else "purl"
    return "knit the knits, purl the purls"
