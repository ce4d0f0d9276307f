"""The pattern in words: each row in its shortest form, alike rows written together, repeats of the body named."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

from ..notation import Face, Side, Stitch
from .compiler import Pattern, Section, WorkedPart, WorkedRow
from .wording import PLAIN_WORDS, Wording


@dataclass(frozen=True)
class WordsRow:
    """Some rows that are worked alike: their numbers, side, text, and the count after them."""

    numbers: tuple[int, ...]
    side: Side
    text: str
    after: int

    @property
    def label(self) -> str:
        """`Row 5 (RS)` or `Rows 2, 4, 6 (WS)`."""
        return f"{'Rows' if len(self.numbers) > 1 else 'Row'} {number_list(self.numbers)} ({self.side})"


@dataclass(frozen=True)
class WordsSection:
    """A part of the pattern: a heading, its rows, and what to repeat after them."""

    section: Section
    first: int
    last: int
    rows: tuple[WordsRow, ...]
    repeat: str = ""


def number_list(numbers: tuple[int, ...]) -> str:
    """`2, 4, 6`; from five in even steps `2, 4, … 20`, from three in a run `2–7`."""
    if len(numbers) >= 3 and all(b - a == 1 for a, b in pairwise(numbers)):
        return f"{numbers[0]}–{numbers[-1]}"
    steps = {b - a for a, b in pairwise(numbers)}
    if len(numbers) >= 5 and len(steps) == 1:
        return f"{numbers[0]}, {numbers[1]}, … {numbers[-1]}"
    return ", ".join(map(str, numbers))


def row_text(row: WorkedRow, wording: Wording = PLAIN_WORDS) -> str:
    """The whole row as worked."""
    parts = tuple(part.worked(row.side) for part in row.parts)
    return wording.row(parts if row.side is Side.RS else parts[::-1])


def part_text(part: WorkedPart, side: Side, wording: Wording = PLAIN_WORDS) -> str:
    """One section's share of a row as worked."""
    return wording.row((part.worked(side),))


def period(pattern: Pattern) -> int:
    """After how many body rows everything repeats, edges and sides included."""
    heights = [s.chart.height for s in pattern.piece.segments]
    return math.lcm(2, *heights)


def words(pattern: Pattern, wording: Wording = PLAIN_WORDS) -> tuple[WordsSection, ...]:
    """The whole pattern in words, section by section from the cast-on."""
    sections: list[tuple[Section, list[WorkedRow]]] = []
    for row in pattern.rows:
        if not sections or sections[-1][0] != row.section:
            sections.append((row.section, []))
        sections[-1][1].append(row)
    return tuple(_section(pattern, name, rows, wording) for name, rows in sections)


def _section(pattern: Pattern, name: Section, rows: list[WorkedRow], wording: Wording) -> WordsSection:
    first, last = rows[0].number, rows[-1].number
    cycle = period(pattern)
    repeat = ""
    if name == "body" and len(rows) > cycle:
        repeat = _repeat_text(first, last, cycle)
        rows = rows[:cycle]
    groups: dict[tuple[Side, str, int], list[int]] = {}
    for row in rows:
        groups.setdefault((row.side, row_text(row, wording), row.after), []).append(row.number)
    made = tuple(WordsRow(tuple(numbers), side, text, after) for (side, text, after), numbers in groups.items())
    return WordsSection(name, first, last, made, repeat)


def _repeat_text(first: int, last: int, cycle: int) -> str:
    end = first + cycle - 1
    whole, rest = divmod(last - end, cycle)
    times = {0: "", 1: "once more", 2: "twice more"}.get(whole, f"{whole} times more")
    parts = [f"rows {first}–{end} {times}"] if whole else []
    if rest:
        parts.append(f"rows {first}–{first + rest - 1} once" + (" more" if not whole else ""))
    return f"Then work {', then '.join(parts)}: to row {last}."


def hint(part: WorkedPart, side: Side, below: tuple[Face, ...]) -> str:
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
