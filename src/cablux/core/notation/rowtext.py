"""Reads and writes the text of one row: `k3, *p4, 2/2 LC; rep from * 4 times, p4, k3`.

`(…) n times`, `(…) x n`, `(…) twice`, square brackets and nesting are read. `rep from * n times` works the
group n times in all, `n more times` once more than that. `rep from *` without a number repeats as often
as the stitches allow. What we write for people is always `(…) n times`, which nobody can misread.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from ..errors import AmbiguousText, InvalidText, Problem
from .operations import Op
from .tokens import match_op

MAX_STITCHES = 20_000  # our choice: wider than any piece, so that a slip like `k99999999` is caught


@dataclass(frozen=True)
class Item:
    """One operation worked `count` times; `at` is where it stands in the text, from 0."""

    op: Op
    count: int = 1
    at: int = field(default=0, compare=False, repr=False)


@dataclass(frozen=True)
class Repeat:
    """A group worked `times` times, or as often as fits where `times` is None."""

    items: tuple[Item | Repeat, ...]
    times: int | None
    at: int = field(default=0, compare=False, repr=False)


Node = Item | Repeat

_SPACE = re.compile(r"[\s,;.]+")
_REP = re.compile(
    r"rep(?:eat)?\s+from\s+\*(?:\s*(?:"
    r"(?P<n>\d+)\s+(?P<more>more\s+)?times?(?P<after>\s+more)?|(?P<word>twice|once\s+more)"
    r"|to\s+end|across))?(?![a-z\d])",
    re.I,
)
_TIMES = re.compile(r"\s*(?:(\d+)\s*times|[x×]\s*(\d+)|(twice)|(once))(?![a-z\d])", re.I)
_WORD = re.compile(r"[^\s,;()\[\]*]+")
_CLOSE = {"(": ")", "[": "]"}


def parse_row(text: str) -> tuple[Node, ...]:
    """The row's tree. Raises InvalidText or AmbiguousText; each problem's `column` counts from 1 in `text`."""
    nodes, end = _Parser(text).sequence(0, "")
    if end != len(text):  # pragma: no cover - sequence() reads to the end or raises
        raise InvalidText((Problem("The row could not be read to its end.", column=end + 1),))
    return nodes


def expand(nodes: tuple[Node, ...]) -> tuple[tuple[Op, int], ...]:
    """Every operation in working order with its place in the text; open repeats are worked once."""
    out: list[tuple[Op, int]] = []
    for node in nodes:
        if isinstance(node, Item):
            out += [(node.op, node.at)] * node.count
        else:
            out += expand(node.items) * (1 if node.times is None else node.times)
        if len(out) > MAX_STITCHES:
            raise InvalidText((Problem(f"The row has more than {MAX_STITCHES} operations.", column=node.at + 1),))
    return tuple(out)


def parse_ops(text: str) -> tuple[Op, ...]:
    """The operations of a row written out; open repeats are worked once."""
    return tuple(op for op, _ in expand(parse_row(text)))


class _Parser:
    """Recursive descent over one row; positions count from 0 in the text."""

    def __init__(self, text: str) -> None:
        self.text = text

    def sequence(self, at: int, close: str) -> tuple[tuple[Node, ...], int]:
        """Reads nodes up to `close` ('' is the end of the text)."""
        nodes: list[Node] = []
        star: tuple[int, int] | None = None  # where the asterisk stands, and how many nodes came before
        while True:
            space = _SPACE.match(self.text, at)
            at = space.end() if space else at
            char = self.text[at : at + 1]
            if char == close:
                if star is not None:
                    raise _bad("After * the row never says “rep from *”.", star[0])
                return tuple(nodes), at
            if not char:
                raise _bad(f"A bracket is opened but not closed: “{close}” is missing.", at)
            if char == "*":
                if star is not None:
                    raise _bad("A second * before “rep from *”; use brackets for repeats inside repeats.", at)
                star, at = (at, len(nodes)), at + 1
            elif char in _CLOSE:
                node, at = self.bracket(at)
                nodes.append(node)
            elif rep := _REP.match(self.text, at):
                if star is None:
                    raise _bad("“rep from *”, but there is no * before it.", at)
                inside = tuple(nodes[star[1] :])
                nodes[star[1] :] = [Repeat(inside, _times(rep), star[0])]
                if not inside:
                    raise _bad("Nothing stands between * and “rep from *”.", star[0])
                star, at = None, rep.end()
            else:
                item, at = self.item(at)
                nodes.append(item)

    def bracket(self, at: int) -> tuple[Repeat, int]:
        close = _CLOSE[self.text[at]]
        inside, end = self.sequence(at + 1, close)
        found = _TIMES.match(self.text, end + 1)
        if not found:
            raise _bad("After the bracket say how often: “(…) 3 times”.", end)
        times = 2 if found[3] else 1 if found[4] else int(found[1] or found[2])
        if not inside:
            raise _bad("The bracket is empty.", at)
        if times == 0:
            raise _bad("A repeat of 0 times works nothing; leave it out.", at)
        return Repeat(inside, times, at), found.end()

    def item(self, at: int) -> tuple[Item, int]:
        try:
            found = match_op(self.text, at)
        except (InvalidText, AmbiguousText) as error:
            raise type(error)((Problem(error.problems[0].message, column=at + 1),)) from None
        if not found:
            word = _WORD.match(self.text, at)
            raise _bad(f"“{word[0] if word else self.text[at]}” is not an operation we know.", at)
        op, count, end = found
        if count > MAX_STITCHES:
            raise _bad(f"{count} stitches in one go: more than {MAX_STITCHES} cannot be meant.", at)
        return Item(op, count, at), end


def _times(rep: re.Match[str]) -> int | None:
    if rep["word"]:
        return 2
    if not rep["n"]:
        return None
    return max(1, int(rep["n"])) + (1 if rep["more"] or rep["after"] else 0)


def _bad(message: str, at: int) -> InvalidText:
    return InvalidText((Problem(message, column=at + 1),))


def format_flat(ops: tuple[Op, ...], *, hold: bool = False) -> str:
    """Operations in a line, runs joined (`k3, 2/2 LC, p2`) and nothing repeated; `parse_ops` undoes it."""
    return ", ".join(run_text(op, n, hold=hold) for op, n in runs(ops))


def runs(ops: tuple[Op, ...]) -> list[tuple[Op, int]]:
    """Equal neighbours counted together."""
    out: list[tuple[Op, int]] = []
    for op in ops:
        if out and out[-1][0] == op:
            out[-1] = (op, out[-1][1] + 1)
        else:
            out.append((op, 1))
    return out


def run_text(op: Op, count: int, *, hold: bool = False) -> str:
    """`k3`, `k2 tbl`, `2/2 LC`, or `(2/2 LC) 3 times`."""
    token = op.hold_token if hold else op.token
    if op.takes == 1 and op.makes == 1 and token[1:2] == "1":
        return f"{token[0]}{count}{token[2:]}"
    return token if count == 1 else f"({token}) {count} times"
