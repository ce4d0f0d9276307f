"""Reads the text of one row, as we write it and as people write it.

`(…) n times`, `(…) x n`, `(…) twice`, `*…* to end`, square brackets and nesting are read. `rep from * n times`
works the group n times in all, `n more times` once more than that. `rep from *` without a number, `to end`, `to last
5 sts` and `until 5 stitches remain` repeat as often as the stitches allow. What cannot be read is reported
word by word, and nothing is guessed.
"""

from __future__ import annotations

import re
from functools import lru_cache

from ..errors import AmbiguousText, InvalidText, Problem
from .definitions import NO_NAMES, Names
from .longhand import match_longhand
from .operations import Face, Op
from .phrases import AS_IT_IS, AS_SET, CLOSE_STAR, FILL, INTO_ONE, OVER_NEXT, REP, SPACE, TIMES, WHOLE, WORD
from .proposals import unknown_word
from .rowtext import MAX_ROW_STITCHES, AsSet, Item, Node, Repeat, check_digits, expand_repeats, stitches_in
from .shaping import MOST_INTO_ONE, Into
from .stitches import Stitch, YarnOver
from .tokens import match_op

_CLOSE = {"(": ")", "[": "]"}
PROPOSALS = 30  # our choice: what is wrong in more places is no text of ours
MAX_DEPTH = 12  # our choice: three are hard to follow already
_NUMBERS = {"two": 2, "three": 3, "four": 4, "five": 5, "six": 6}


def parse_row(text: str) -> tuple[Node, ...]:
    """The row's tree. Raises InvalidText or AmbiguousText with every problem; `column` counts from 1 in `text`."""
    check_digits(text)
    nodes, problems = read_row(text, 0, len(text))
    if isinstance(nodes, AsSet):
        problems = [_problem("Only a whole chart says which stitches are knits and which are purls.", nodes.at)]
    if problems:
        raise _error(problems)
    assert not isinstance(nodes, AsSet)
    return nodes


def parse_ops(text: str) -> tuple[Op, ...]:
    """The operations of a row written out; open repeats are worked once.

    >>> [op.token for op in parse_ops("*k2, C4F; rep from * twice, p1")]
    ['k1', 'k1', '2/2 LC', 'k1', 'k1', '2/2 LC', 'p1']
    """
    return expand_repeats(parse_row(text)).ops


def read_row(
    text: str, start: int, end: int, *, names: Names = NO_NAMES, propose: int = PROPOSALS
) -> tuple[tuple[Node, ...] | AsSet, list[Problem]]:
    """The tree of the row between two positions, and its problems; their `column` counts from 1 in the whole text.

    `names` are those that the text defines for itself; they go before all others. `propose`: for so many words
    that cannot be read a proposal is looked for.
    """
    if not names and (plain := _plain_row(text, start, end)):
        return plain, []
    if whole := _as_set(text, start, end):
        return whole, []
    parser = _Parser(text, end, names, propose=propose)
    nodes, _ = parser.sequence(start, "")
    return nodes, parser.problems


def _plain_row(text: str, start: int, end: int) -> tuple[Node, ...] | None:
    """The row where it is nothing but operations between commas, which is read much faster; else None."""
    pieces = text[start:end].split(",")
    known = [_known(piece) for piece in pieces]
    if None in known:
        return None
    nodes, at = [], start
    for piece, found in zip(pieces, known, strict=True):
        assert found
        nodes.append(Item(found[0], found[1], at + found[2]))
        at += len(piece) + 1
    return tuple(nodes)


@lru_cache(maxsize=4096)
def _known(piece: str) -> tuple[Op, int, int] | None:
    """The operation that a piece is, how often, and how many spaces stand before it; None if it is anything else."""
    bare = piece.strip()
    try:
        found = match_op(bare, 0) if bare and bare.lower() not in ("knit", "purl") else None
    except (InvalidText, AmbiguousText):
        return None
    if not found or found[2] != len(bare) or found[1] > MAX_ROW_STITCHES:
        return None
    return found[0], found[1], len(piece) - len(piece.lstrip())


def _error(problems: list[Problem]) -> InvalidText | AmbiguousText:
    ambiguous = all(" can mean " in p.message for p in problems)
    return AmbiguousText(tuple(problems)) if ambiguous else InvalidText(tuple(problems))


def _as_set(text: str, start: int, end: int) -> AsSet | None:
    """“Knit the knits and purl the purls”, where that is the whole row."""
    space = re.compile(r"[\s,;.]*").match(text, start, end)
    at = space.end() if space else start
    for pattern in (AS_IT_IS, AS_SET):
        found = pattern.match(text, at, end)
        if not found or SPACE.sub("", text[found.end() : end]):
            continue
        if pattern is AS_SET:
            return AsSet(False, at)
        same = [found[v].lower() == found[n].lower() for v, n in (("v1", "n1"), ("v2", "n2"))]
        if found["v1"].lower() != found["v2"].lower() and same[0] == same[1]:
            return AsSet(not same[0], at)
    return None


class _Parser:
    """Recursive descent over one row; positions count from 0 in the text. Problems are collected in reading order."""

    def __init__(self, text: str, end: int, names: Names, *, propose: int) -> None:
        self.text, self.end, self.names, self.propose = text, end, names, propose
        self.problems: list[Problem] = []
        self.depth = 0

    def bad(self, message: str, at: int) -> None:
        self.problems.append(_problem(message, at))

    def match(self, pattern: re.Pattern[str], at: int) -> re.Match[str] | None:
        return pattern.match(self.text, at, self.end)

    def sequence(self, at: int, close: str) -> tuple[tuple[Node, ...], int]:
        """Reads nodes up to `close` ('' is the end of the row)."""
        nodes: list[Node] = []
        star: tuple[int, int] | None = None  # where the asterisk stands, and how many nodes came before
        while True:
            at = self.space(at, nodes)
            char = self.text[at : at + 1] if at < self.end else ""
            if char == close or not char:
                if star is not None:
                    self.bad("After * the row never says “rep from *”.", star[0])
                if char != close:
                    self.bad(f"A bracket is opened but not closed: “{close}” is missing.", at)
                return tuple(nodes), at
            if char == "*":
                closed = self.match(CLOSE_STAR, at) if star is not None else None
                if star is None:
                    star, at = (at, len(nodes)), at + 1
                elif closed and (self.text[at - 1] not in " ,;\t" or closed.end() > at + 1):
                    self.wrap(nodes, star, closed)
                    star, at = None, closed.end()
                else:
                    self.bad("A second * before “rep from *”; use brackets for repeats inside repeats.", at)
                    at += 1
            elif char in _CLOSE:
                node, at = self.bracket(at)
                nodes += [node] if node else []
            elif (rep := self.match(REP, at)) and (star is not None or "*" in rep[0]):
                if star is None:
                    self.bad("“rep from *”, but there is no * before it.", at)
                else:
                    self.wrap(nodes, star, rep)
                star, at = None, rep.end()
            else:
                found, at = self.item(at)
                nodes += [found] if found else []

    def space(self, at: int, nodes: list[Node]) -> int:
        """Skips what says nothing, and checks “over next 6 sts” against what stands before it."""
        while True:
            start = at
            if over := self.match(OVER_NEXT, at):
                last = nodes[-1] if nodes else None
                if isinstance(last, Item) and last.op.takes * last.count != int(over[1]):
                    self.bad(f"“{over[0]}”, but what stands before it takes {last.op.takes * last.count}.", at)
                at = over.end()
            if (space := self.match(SPACE, at)) and not self.match(REP, at):
                at = self.stop_before_over(at, space.end())
            if at == start:
                return at

    def stop_before_over(self, start: int, end: int) -> int:
        if end - start < 4:
            return end
        over = re.compile(r"(?:over|across|on)\s+(?:the\s+)?next\s+\d", re.I).search(
            self.text, start, min(self.end, end + 24)
        )
        return over.start() if over and start < over.start() < end else end

    def wrap(self, nodes: list[Node], star: tuple[int, int], rep: re.Match[str]) -> None:
        """Puts what stands since the asterisk into a repeat."""
        inside = tuple(nodes[star[1] :])
        if not inside:
            self.bad("Nothing stands between * and “rep from *”.", star[0])
            return
        times = _times(rep)
        if times == 0:
            self.bad("A repeat of 0 times works nothing; leave it out.", star[0])
        nodes[star[1] :] = [Repeat(items=inside, times=times, at=star[0], left=_left(rep))]

    def bracket(self, at: int) -> tuple[Node | None, int]:
        close = _CLOSE[self.text[at]]
        before = len(self.problems)
        if self.depth == MAX_DEPTH:
            self.bad(f"Brackets are nested {MAX_DEPTH} deep here; write part of the row out.", at)
            return None, self.end
        self.depth += 1
        inside, end = self.sequence(at + 1, close)
        self.depth -= 1
        if end >= self.end:
            return None, end
        if into := self.match(INTO_ONE, end + 1):
            return self.into(inside, at), into.end()
        found = self.match(TIMES, end + 1)
        if not found:
            if len(self.problems) == before:  # what stands inside may be no stitches at all, and is reported itself
                self.bad("After the bracket say how often: “(…) 3 times”.", end)
            return None, end + 1
        if not inside:
            if len(self.problems) == before:
                self.bad("The bracket is empty.", at)
            return None, found.end()
        times = _times(found)
        if times == 0:
            self.bad("A repeat of 0 times works nothing; leave it out.", at)
            return None, found.end()
        return Repeat(items=inside, times=times, at=at, left=_left(found)), found.end()

    def into(self, inside: tuple[Node, ...], at: int) -> Item | None:
        """`(k1, yo, k1) in next st`."""
        ops = expand_repeats(inside).ops if stitches_in(inside) <= MOST_INTO_ONE else ()
        parts = [None if isinstance(op, YarnOver) and op.count == 1 else op for op in ops]
        plain = tuple(p for p in parts if p is None or isinstance(p, Stitch))
        if len(plain) != len(parts) or not 2 <= len(parts) <= MOST_INTO_ONE:
            self.bad(f"Into one stitch go 2 to {MOST_INTO_ONE} knits, purls and yarn overs.", at)
            return None
        return Item(Into(plain), 1, at)

    def item(self, at: int) -> tuple[Node | None, int]:
        if own := self.names.match(self.text, at, self.end):
            return Repeat(items=tuple(Item(op, 1, at) for op in own[0]), times=1, at=at), own[1]
        if fill := self.match(FILL, at):
            stitch = Stitch(Face(fill[1][0].lower()), bool(fill[2]))
            return Repeat(items=(Item(stitch, 1, at),), times=None, at=at, left=_left(fill)), fill.end()
        if whole := self.match(WHOLE, at):
            return Repeat(
                items=(Item(Stitch(Face(whole[1][0].lower())), 1, at),), times=None, at=at, left=0
            ), whole.end()
        try:
            written = match_longhand(self.text, at, self.end)
            found = (written[0], 1, written[1]) if written else match_op(self.text, at, self.end)
        except (InvalidText, AmbiguousText) as error:
            self.bad(error.problems[0].message, at)
            return None, self.past_word(at, inside=True)
        if not found:
            word = self.match(WORD, at)
            more = self.propose > len(self.problems)
            self.bad(unknown_word(word[0] if word else self.text[at], self.names, propose=more), at)
            return None, self.past_word(at)
        op, count, end = found
        if count > MAX_ROW_STITCHES:
            self.bad(f"{count} stitches in one go: more than {MAX_ROW_STITCHES} is a slip of the pen.", at)
            return None, end
        return Item(op, count, at), end

    def past_word(self, at: int, *, inside: bool = False) -> int:
        """Where reading goes on after something that could not be read."""
        if inside and (sep := re.compile(r"[,;)*\n]").search(self.text, at, self.end)):
            return sep.start()
        if inside:
            return self.end
        word = self.match(WORD, at)
        return word.end() if word else at + 1


def _times(found: re.Match[str]) -> int | None:
    if found["word"]:
        return 2
    if found["once"]:
        return 1
    said = found["n"] or found["times"] or found["x"]
    if not said:
        return None
    n = _NUMBERS.get(said.lower()) or int(said)
    more = 1 if found["more"] or found["after"] else 0
    return n + more if "rep" in found[0].lower() else n


def _left(found: re.Match[str]) -> int | None:
    """How many stitches are to be left; 0 for “to end”, None where nothing is said."""
    if found["last"] or found["remain"]:
        return int(found["last"] or found["remain"])
    if found["one"]:
        return 1
    return 0 if re.search(r"\b(?:end|across|around)\b", found[0], re.I) else None


def _problem(message: str, at: int) -> Problem:
    return Problem(message=message, column=at + 1)
