"""Cuts the text of a chart into statements: its name, its size, its rows and what is said of them.

Understood as people write: `Row 3 (RS):`, `Rows 2 and 4:`, `1st row:`, `Rnd 5:`, `Rows 6–10 even:`, `Row 2 and all
WS rows:`, rows that run on over several lines, several rows on one line, `Multiple of 8 sts plus 4`, `Cast on 24`.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from ..errors import InvalidText, Problem
from .definitions import DEFINITION, defined_names

MAX_CHART_ROWS = 2_000  # our choice: taller than any chart; a guard against a slip such as `row 99999999`

RowMark = Literal["", "RS", "WS"]
Every = Literal["", "odd", "even"]

_NUMBER = r"\d+(?:st|nd|rd|th)?\b"
_NUMBERS = rf"{_NUMBER}(?:\s*(?:,|and|&|[–—-]|to|through|,\s*and)\s*{_NUMBER})*"
_SIDE = r"(?:[(\[]\s*(?:RS|WS|right\s+side|wrong\s+side)[^)\]\n]*[)\]]|(?:RS|WS)\b(?:\s+facing)?)"
_ASIDE = r"(?:\s*\([^()\n*]{1,40}\))?"
_WORD = r"(?:row|rnd|round|rd)"
_BEGINS = r"(?:[kp]\s?\d|(?:k|p|knit|purl)\b|[*\[(]|[ct]\d|sl\b|sl\d|\d+/\d+\s|yo\b|m1|ssk\b|\(?as\b|work\b|rep)"
_SETUP = r"(?:set-?\s?up|foundation|preparation)"
_EVERY = (
    rf"(?:\s*(?:,\s*)?(?:and\s+)?(?:all|every|each)\s+(?:other\s+|following\s+|foll\.?\s+)*"
    rf"(?P<every>even|odd|alternate|alt\.?|WS|RS|wrong\s+side|right\s+side)(?:-?numbered)?(?:\s+{_WORD}s?)?)"
)
HEAD = re.compile(
    rf"(?:(?<=^)|(?<=\n)|(?<=[.;!)]\s)|(?<=[.;!)]))[ \t]*(?:(?P<side0>{_SIDE})[\s:,.–-]*)?(?:"
    rf"(?P<setup>{_SETUP})\s+{_WORD}s?\s*(?P<setnum>{_NUMBERS})?"
    rf"|(?P<next>(?:next|foll(?:owing|\.)?)\s+{_WORD})"
    rf"|(?:(?:{_WORD}s?|nos?)\b\.?\s*|r\.?\s?(?=\d))(?P<nums>[\d][\d\s,–—&-]*(?:(?:and|to|through|&|–|—|-|,)\s*\d+\s*)*?)"
    rf"(?P<parity>\s+(?:even|odd)(?:-numbered)?)?"
    rf"|(?P<ordinal>{_NUMBERS})\s+(?:and\s+)?{_WORD}s?"
    rf"|(?P<ordinal2>{_NUMBERS})(?=\s+and\s+every)"
    rf"|(?P<all>(?:all\s+|every\s+)?(?P<which>WS|RS|even(?:-numbered)?|odd(?:-numbered)?|wrong\s+side|right\s+side"
    rf"|alternate)\s+{_WORD}s)"
    rf"|(?<![^\n])(?P<bare>\d{{1,3}})(?=[.):]\s+{_BEGINS})"
    rf")\s*(?P<side1>{_SIDE})?{_ASIDE}{_EVERY}?\s*(?P<side2>{_SIDE})?{_ASIDE}\s*"
    rf"(?P<stop>:|=|[.)](?=\s)|\s[–—-]\s|,\s*(?={_SIDE})|(?<=[\s)])(?={_BEGINS}))[ \t]*"
    rf"(?:(?P<side3>{_SIDE})\s*[:,.–-]?[ \t]*)?",
    re.I,
)
FIELD = re.compile(r"(?P<field>name|multiple|allow)\s*:\s*(?P<value>[^\n#]*)", re.I)
MULTIPLE = re.compile(
    r"(?:worked\s+)?\(?(?:multiple|mult)\.?\s+of\s+(?P<m>\d+)(?:\s*(?:sts?|stitches))?(?:\s*(?:\+|plus)\s*(?P<b>\d+)(?:\s*(?:sts?|stitches))?)?\)?\.?",
    re.I,
)
PANEL = re.compile(
    r"(?:[(]?(?:worked\s+(?:over|on)|panel\s+of|over(?:\s+a\s+panel\s+of)?)\s+(?:a\s+)?(?:panel\s+of\s+)?(?P<n>\d+)"
    r"(?:\s*(?:sts?|stitches))?[)]?|(?P<wide>\d+)[ -]?st(?:itch)?\s+panel)\.?",
    re.I,
)
CAST_ON = re.compile(
    r"(?:[^.\n:*]{0,80},\s*)?(?:loosely\s+)?(?:cast(?:ing)?[\s-]*on|c/?o)\b\s*(?:(?:a|any)\s+multiple\s+of\s+(?P<m>\d+)"
    r"(?:\s*(?:sts?|stitches))?(?:\s*(?:\+|plus)\s*(?P<b>\d+))?|(?:about\s+)?(?P<n>\d+))[^\n:*]*",
    re.I,
)
SAID = re.compile(
    r"(?:(?:bind|cast)\s*off|bo\b|notes?\b|materials?|gauge|tension|needles?|yarn|finished|size|cont(?:inue)?\b|work\s+(?:even|rows|until)|"
    r"rep(?:eat)?\b|abbreviations?|special\s+(?:stitches|abbreviations|terms)|stitch\s+(?:guide|key)|key\b|pattern|instructions?|"
    r"break|cut|fasten|weave|block|join\b|place\s+(?:a\s+)?marker|with\b|using\b|these\b|this\b|end(?:ing)?\b|measure|change\b|turn\b|"
    r"begin|beg\b|start|chart\b|\(?(?:multiple|rows?|sts?)\b|in\s+the\s+round|worked\s+flat|flat\b)[^*]*",
    re.I,
)
AFTER_ROWS = re.compile(
    r"(?:(?:bind|cast)\s*off\b|bo\b|cast\s*on\b|c/?o\s+\d|notes?\b\s*:|these\s+\d|cont(?:inue)?\b|fasten\b|break\b|cut\b|"
    r"abbreviations?\b|special\s+(?:stitches|abbreviations|terms)|stitch\s+(?:guide|key)|key\s*:)",
    re.I,
)
REPEATED = re.compile(
    rf"(?:then\s+)?rep(?:eat)?\.?\s+(?:these\s+\d+\s+{_WORD}s?|(?:these|last)\s+{_WORD}s|{_WORD}s?\s+\d+\s*(?:[–—-]|to|through)\s*\d+)[^.\n:*]*\.?",
    re.I,
)
AS_ROWS = re.compile(
    rf"(?:work\s+)?(?:(?:the\s+)?same\s+as|as|like|rep(?:eat)?\.?)\s+(?:for\s+)?(?:(?:{_WORD}s?|r)\.?\s*(?P<a>{_NUMBERS})|(?P<b>{_NUMBERS})\s+{_WORD}s?)"
    r"(?:[\s,]*(?:(?P<two>twice)|(?P<n>\d+)\s+(?:more\s+)?times?|(?:once\s+more|again|once)))?[\s.,;]*",
    re.I,
)
STITCH_COUNT = re.compile(r"[\s,;.]*(?:[(\[–—=-]+\s*)(\d+)\s*(?:sts?|stitches)\s*[)\]]?[\s.]*$", re.I)
_ENDS = [
    re.compile(r"(?:(?<=\n)|(?<=[.;]\s))[ \t]*(?:" + pattern.pattern + ")", re.I)
    for pattern in (FIELD, MULTIPLE, PANEL, REPEATED, AFTER_ROWS)
]
_BLANK = re.compile(r"\n[ \t]*\n")
_SIZE = re.compile(r"(\d{1,4})\s*(?:\+\s*(\d{1,4}))?")


@dataclass(frozen=True, kw_only=True)
class Statement:
    """One statement: what it is, the positions of its body, and for rows their numbers and side.

    `every` asks for all further rows of one parity; `numbers` is then where they begin (or empty). `names` are those
    that a definition defines.
    """

    kind: Literal["name", "size", "cast on", "allow", "row", "setup", "definition", "note", "unknown"]
    at: int
    start: int
    end: int
    numbers: tuple[int, ...] = ()
    side: RowMark = ""
    every: Every = ""
    names: tuple[str, ...] = ()


def read_statements(text: str) -> Iterator[Statement]:
    """The statements of a text in order. Raises InvalidText for bad numbers; `column` counts in the whole text."""
    heads = [*HEAD.finditer(text)]
    cuts = [m.start() for m in heads] + [len(text)]
    yield from _loose(text, 0, cuts[0])
    last = 0
    for head, stop in zip(heads, cuts[1:], strict=True):
        end = _row_end(text, head.end(), stop)
        row = _row(text, head, end, following=last + 1)
        last = max(row.numbers, default=last) if row.kind == "row" else last
        yield row
        yield from _loose(text, end, stop)


def _row_end(text: str, start: int, stop: int) -> int:
    """A row ends before the next head, a field, a blank line or a remark about repeating."""
    ends = [stop]
    for pattern in _ENDS:
        if found := pattern.search(text, start, stop):
            ends.append(found.start())
    defined = DEFINITION.search(text, start, stop)
    while defined and not defined_names(defined):
        defined = DEFINITION.search(text, defined.end(), stop)
    if defined:
        ends.append(defined.start())
    blank = _BLANK.search(text, start, stop)
    if blank:
        ends.append(blank.start())
    return min(ends)


def _loose(text: str, start: int, stop: int) -> Iterator[Statement]:
    """Lines that belong to no row. A definition may go on over several of them, up to its full stop."""
    done = start
    for line in re.compile(r"[^\n]+").finditer(text, start, stop):
        bare = line[0].split("#", 1)[0]
        at = line.start() + len(bare) - len(bare.lstrip())
        bare = bare.strip()
        if not bare or line.start() < done:
            continue
        end = at + len(bare)
        defined = DEFINITION.match(text, line.start(), line.end())
        if defined and (names := defined_names(defined)):
            done = _definition_end(text, defined.end(), stop)
            yield Statement(kind="definition", at=at, start=defined.end(), end=done, names=names)
            continue
        if field := FIELD.fullmatch(bare):
            kind = {"name": "name", "multiple": "size", "allow": "allow"}[field["field"].lower()]
            yield Statement(kind=kind, at=at, start=at + field.start("value"), end=end)  # type: ignore[arg-type]
        elif CAST_ON.fullmatch(bare):
            yield Statement(kind="cast on", at=at, start=at, end=end)
        elif MULTIPLE.search(bare) or PANEL.fullmatch(bare):
            yield Statement(kind="size", at=at, start=at, end=end)
        elif REPEATED.fullmatch(bare) or SAID.fullmatch(bare):
            yield Statement(kind="note", at=at, start=at, end=end)
        else:
            yield Statement(kind="unknown", at=at, start=at, end=end)


def _definition_end(text: str, start: int, stop: int) -> int:
    """Where a definition ends: at a blank line, at the next definition or at a line that begins with a capital."""
    at = start
    while True:
        line_end = text.find("\n", at, stop)
        if line_end < 0:
            return stop
        after = text[line_end + 1 : stop].split("\n", 1)[0]
        ended = text[start:line_end].rstrip().endswith(".")
        if ended or not after.strip() or after.strip()[0].isupper() or DEFINITION.match(text, line_end + 1, stop):
            return line_end
        at = line_end + 1


def _row(text: str, head: re.Match[str], end: int, *, following: int) -> Statement:
    """A row with its numbers; `following` is the number of a “next row”."""
    at = head.start() + len(head[0]) - len(head[0].lstrip())
    side = _mark(head["side0"] or head["side1"] or head["side2"] or head["side3"] or "")
    if head["setup"]:
        return Statement(
            kind="setup", at=at, start=head.end(), end=end, numbers=row_numbers(head["setnum"] or "1", at), side=side
        )
    every: Every = ""
    if head["all"]:
        every, side = _parity(head["which"], side)
        return Statement(kind="row", at=at, start=head.end(), end=end, numbers=(), side=side, every=every)
    written = head["nums"] or head["ordinal"] or head["ordinal2"] or head["bare"]
    numbers = row_numbers(written, at) if written else (following,)
    if head["every"]:
        every, side = _parity(head["every"], side)
        if head["every"].lower().startswith("alt"):
            every = "odd" if numbers[0] % 2 else "even"
    if head["parity"]:
        odd = "odd" in head["parity"].lower()
        numbers = tuple(n for n in numbers if n % 2 == odd)
    return Statement(kind="row", at=at, start=head.end(), end=end, numbers=numbers, side=side, every=every)


def _mark(text: str) -> RowMark:
    lower = text.lower()
    return "RS" if "rs" in lower or "right" in lower else "WS" if "ws" in lower or "wrong" in lower else ""


def _parity(word: str, side: RowMark) -> tuple[Every, RowMark]:
    lower = word.lower()
    if lower.startswith("odd"):
        return "odd", side
    if lower.startswith(("even", "alt")):
        return "even", side
    return ("odd", "RS") if _mark(word) == "RS" else ("even", "WS")


def row_numbers(text: str, at: int) -> tuple[int, ...]:
    """`1, 3–5 and 8`. Raises InvalidText with the column `at` + 1."""
    out: list[int] = []
    words = re.sub(r"(?<=\d)(?:st|nd|rd|th)", "", text)
    words = re.sub(r"\s*(?:[–—-]|\bto\b|\bthrough\b)\s*", "-", words)
    for part in re.split(r"\s*(?:,|\band\b|&|\s)\s*", words.strip()):
        if not part:
            continue
        low, _, high = part.partition("-")
        if not low.isdigit() or (high and not high.isdigit()):
            raise _bad(f"“{part}” is not a row number.", at)
        first, last = int(low), int(high or low)
        if not 1 <= first <= last <= MAX_CHART_ROWS:
            raise _bad(f"Row numbers run from 1 to {MAX_CHART_ROWS}; “{part}” does not.", at)
        out += range(first, last + 1)
    if not out:
        raise _bad("The row has no number.", at)
    return tuple(out)


def read_size(text: str, at: int) -> tuple[int, int]:
    """Multiple and balance from `8 + 4`, “multiple of 8 sts plus 4” or “cast on 24”. Raises InvalidText."""
    if found := MULTIPLE.search(text):
        return int(found["m"]), int(found["b"] or 0)
    if found := PANEL.fullmatch(text.strip()):
        return int(found["n"] or found["wide"]), 0
    if (found := CAST_ON.fullmatch(text.strip())) and found["m"]:
        return int(found["m"]), int(found["b"] or 0)
    size = _SIZE.fullmatch(text.strip())
    if not size or int(size[1]) < 1:
        raise _bad("The multiple is a whole number from 1, as in “multiple: 8” or “multiple: 8 + 4”.", at)
    return int(size[1]), int(size[2] or 0)


def _bad(message: str, at: int) -> InvalidText:
    return InvalidText((Problem(message=message, column=at + 1),))
