"""Folds the lines of the pages' templates that are longer than a screen is wide; what they render stays as it is.

Run: .venv/bin/python tools/templates.py [--check]. A line is broken where HTML or Jinja takes no notice of it: beside
elements that stand on lines of their own, between attributes, inside of expressions, at spaces; elsewhere a minus in
Jinja's tag takes the new space away again. The outermost places come first.
"""

from __future__ import annotations

import re
import sys
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise
from pathlib import Path

WIDE = 120
ROOT = Path(__file__).resolve().parents[1]
TEMPLATES, STYLES = ROOT / "src" / "cablux" / "web" / "templates", ROOT / "frontend" / "app.css"
_LISTED = (
    "html head body title meta link script header footer nav main section article aside div p h1 h2 h3 h4 ul ol li dl "
    "dt dd table thead tbody tfoot tr th td caption form fieldset legend details summary figure figcaption hr option "
    "optgroup template g path rect line circle polygon polyline use defs"
)
OWN_LINE = frozenset(_LISTED.split())
"""Elements beside which a space is not seen: those on lines of their own, and what lies in a list or a drawing."""
ROOMS = frozenset(("button", "select", "svg"))
"""Elements that are part of a line, but inside of whose edges a space is not seen."""
_EMPTY = "br hr img input link meta path rect line circle polygon polyline use"
VOID = frozenset(_EMPTY.split())
_INSIDE = r"\{#.*?#\}|\{%.*?%\}|\{\{.*?\}\}"
_TAG = re.compile(rf'<(?:/?[A-Za-z][\w-]*|!)(?:{_INSIDE}|"(?:{_INSIDE}|[^"])*"|[^>"])*>', re.S)
_JINJA = re.compile(_INSIDE, re.S)
_WORD = re.compile(r"[^\s<{]+|[<{]")
_SPACES = re.compile(r"\s+")
_BOXES = re.compile(r"\.([\w-]+) \{ @apply (?:[^;]* )?(?:inline-)?(?:flex|grid)[ ;]")
_OPENS = re.compile(r"\{%-?\s*(if|for|macro|call|block|with|filter)\b|\{%-?\s*set\s+\w+\s*-?%\}")
_CLOSES = re.compile(r"\{%-?\s*end\w+")
_ELSE = re.compile(r"\{%-?\s*(else|elif)\b")


@dataclass(frozen=True)
class Token:
    """A tag, a piece of Jinja or a word. `spaced`: white space stands before it; `rowed`: it lies in a flex box.

    `depth`: how deep it lies in its line; `level`: how deep the place before it does.
    """

    text: str
    kind: str
    name: str = ""
    spaced: bool = False
    depth: int = 0
    level: int = 0
    rowed: bool = False

    @property
    def silent(self) -> bool:
        """Whether it renders nothing itself, and Jinja takes away the line's end behind it."""
        return self.kind == "statement"


def tokens(text: str) -> Iterator[Token]:
    """The tokens of a line, one after the other."""
    at, spaced = 0, False
    while at < len(text):
        if found := _SPACES.match(text, at):
            at, spaced = found.end(), True
            continue
        if found := _JINJA.match(text, at):
            kind = "expression" if found[0].startswith("{{") else "statement"
            yield Token(found[0], kind, spaced=spaced)
        elif found := _TAG.match(text, at):
            name = re.match(r"</?([\w-]*)", found[0])[1].lower()  # type: ignore[index]
            whole = name in VOID or found[0].endswith("/>") or found[0].startswith("<!")
            kind = "close" if found[0].startswith("</") else "void" if whole else "open"
            yield Token(found[0], kind, name, spaced)
        else:
            found = _WORD.match(text, at)
            assert found
            yield Token(found[0], "word", spaced=spaced)
        at, spaced = found.end(), False


def nested(found: list[Token], around: list[Token]) -> list[Token]:
    """With what is known of each token's place; `around`: the elements that are open, those of the line are added."""
    out, depth = [], 0
    for token in found:
        level, parent = depth, around[-1] if around else None
        opens = token.kind == "open" or (token.silent and _OPENS.match(token.text) is not None)
        closes = token.kind == "close" or (token.silent and _CLOSES.match(token.text) is not None)
        if closes:
            depth -= 1
        between = token.silent and _ELSE.match(token.text) is not None
        rowed = parent is not None and in_rows(parent.text)
        out.append(replace(token, depth=depth - between, level=level, rowed=rowed))
        depth += opens
        if token.kind == "open":
            around.append(token)
        elif token.kind == "close" and any(each.name == token.name for each in around):
            while around.pop().name != token.name:
                pass
    return out


@lru_cache
def _boxes() -> frozenset[str]:
    """The classes whose elements lay out what is in them, so that spaces between are not seen."""
    return frozenset(_BOXES.findall(STYLES.read_text("utf-8"))) | {"flex", "grid", "inline-flex", "inline-grid"}


def in_rows(tag: str) -> bool:
    """Whether an element with this tag lays out what is in it."""
    found = re.search(r'class="([^"]*)"', tag)
    return found is not None and not _boxes().isdisjoint(found[1].split())


def place(before: Token, after: Token) -> str:
    """What breaking a line between two tokens is: free, at a space, with a minus, or (empty) not possible."""
    if before.silent and after.silent:
        return "" if after.spaced else "free"
    unseen = (before.name in OWN_LINE or (before.kind == "open" and before.name in ROOMS)) or (
        after.name in OWN_LINE or (after.kind == "close" and after.name in ROOMS)
    )
    tags = ("open", "close", "void")
    if unseen or (after.rowed and (before.kind in tags or after.kind in tags)):
        return "free"
    if after.spaced:
        return "space"
    return "minus" if before.kind in ("statement", "expression") or after.silent else ""


class Folder:
    """Folds one line."""

    def __init__(self, line: str, around: list[Token]) -> None:
        self.indent = len(line) - len(line.lstrip())
        self.tokens = nested(list(tokens(line.strip())), around)
        self.base = self.tokens[0].depth

    def lines(self) -> list[str]:
        """The line's own lines."""
        return self._fold(self.tokens)

    def _room(self, token: Token) -> int:
        return max(0, self.indent + 2 * (token.depth - self.base))

    def _text(self, run: list[Token]) -> str:
        return run[0].text + "".join(f" {t.text}" if t.spaced else t.text for t in run[1:])

    def _fits(self, run: list[Token]) -> bool:
        text = self._text(run)
        return "\n" not in text and self._room(run[0]) + len(text) <= WIDE

    def _fold(self, run: list[Token]) -> list[str]:
        if self._fits(run):
            return [" " * self._room(run[0]) + self._text(run)]
        places = [(run[i].level, place(run[i - 1], run[i]), i) for i in range(1, len(run))]
        kinds = {"free": 0, "space": 1, "minus": 3}  # rather one level deeper than with a minus
        ranks = [(2 * level + kinds[kind], kind) for level, kind, _ in places if kind]
        if not self._may(run, places):
            ranks = [each for each in ranks if each[1] != "space"]
        if not ranks:
            return self._token(run)
        best, how = min(ranks)
        cuts = [i for level, kind, i in places if kind == how and 2 * level + kinds[kind] == best]
        chunks = [run[a:b] for a, b in zip([0, *cuts], [*cuts, len(run)], strict=True)]
        if how == "space":
            return self._filled(chunks)
        if how == "minus":
            chunks = self._taken(chunks)
        return [line for chunk in chunks for line in self._fold(chunk)]

    def _may(self, run: list[Token], places: list[tuple[int, str, int]]) -> bool:
        """Between a statement and a word the space must be that of the indent."""
        return all(not run[i - 1].silent or self._room(run[i]) > 0 for _, kind, i in places if kind == "space")

    def _filled(self, chunks: list[list[Token]]) -> list[str]:
        """As many of them in a line as there is room for."""
        out: list[str] = []
        line: list[Token] = []
        for chunk in chunks:
            if line and not self._fits([*line, *chunk]):
                out += self._fold(line)
                line = []
            line = [*line, *chunk]
        return out + (self._fold(line) if len(chunks) > 1 else self._token(line))

    def _taken(self, chunks: list[list[Token]]) -> list[list[Token]]:
        """With the minus that takes away the space between each of them and the next."""
        out = [list(chunk) for chunk in chunks]
        for one, other in pairwise(out):
            last = one[-1]
            if last.kind in ("statement", "expression"):
                text = last.text[:-2].rstrip("-").rstrip()
                one[-1] = replace(last, text=f"{text} -{last.text[-2:]}")
            else:
                first = other[0]
                other[0] = replace(first, text=f"{first.text[:2]}- {first.text[2:].lstrip('-').lstrip()}")
        return out

    def _token(self, run: list[Token]) -> list[str]:
        """Breaks inside of what cannot be parted: between attributes, else at spaces of expressions and classes."""
        room, text = self._room(run[0]), self._text(run)
        if not text.startswith("<"):
            return _packed(_pieces(text, whole=False), room)
        attributes: list[tuple[bool, str]] = []
        for spaced, piece in _pieces(text, whole=True):
            if room + 4 + len(piece) <= WIDE:
                attributes.append((spaced, piece))
            else:
                inner = list(_pieces(piece, whole=False))
                attributes += [(spaced, inner[0][1]), *inner[1:]]
        return _packed(attributes, room)


def _packed(pieces: Iterable[tuple[bool, str]], room: int) -> list[str]:
    """As many pieces in a line as there is room for, the following lines further in."""
    out, line = [], " " * room
    for spaced, piece in pieces:
        begun = bool(line.strip())
        if spaced and begun and len(line) + 1 + len(piece) > WIDE:
            out.append(line)
            line, begun = " " * (room + 4), False
        line += f" {piece}" if spaced and begun else piece
    return [*out, line]


def _pieces(text: str, *, whole: bool) -> Iterator[tuple[bool, str]]:
    """Pieces, and whether white space stands before each: `whole` attributes, or the words of Jinja and classes."""
    begin, spaced = 0, False
    value, jinja, string = "", "", ""  # in which attribute's value, which kind of Jinja, which string
    for i, c in enumerate(text):
        two, last = text[i : i + 2], text[max(0, i - 1) : i + 1]
        if string:
            string = "" if c == string else string
        elif jinja:
            jinja = "" if last == jinja else jinja
            string = c if jinja and c in "'\"" else ""
        elif two in _ENDS:
            jinja = _ENDS[two]
        elif c == '"':
            value = "" if value else (re.search(r"([\w:@.-]+)=$", text[:i]) or ["", "text"])[1]
        here = not (value or jinja) if whole else bool(jinja) or value in ("", "class")
        if c.isspace() and not string and here and not (text[:i].endswith("%}") and text[i:].lstrip().startswith("{%")):
            if begin < i:
                yield spaced, text[begin:i]
            begin, spaced = i + 1, True
    yield spaced, text[begin:]


_ENDS = {"{{": "}}", "{%": "%}", "{#": "#}"}


def _joined(tag: re.Match[str]) -> str:
    """A tag of several lines in one line, where one of them is too long."""
    lines = tag.string[tag.string.rfind("\n", 0, tag.start()) + 1 :][: tag.end() - tag.start() + WIDE].split("\n")
    many = tag[0].count("\n")
    return re.sub(r"\s*\n\s*", " ", tag[0]) if many and any(len(each) > WIDE for each in lines[: many + 1]) else tag[0]


def formatted(text: str) -> str:
    """The template with its long lines folded."""
    text = _TAG.sub(_joined, text)
    out: list[str] = []
    around: list[Token] = []
    at = 0
    tags = [(found.start(), found[0]) for found in _TAG.finditer(text)]
    for line in text.split("\n"):
        open_here = list(around)
        if len(line.rstrip()) <= WIDE:
            out.append(line.rstrip())
        else:
            out += Folder(line, open_here).lines()
        end = at + len(line)
        nested([t for start, tag in tags if at <= start <= end for t in tokens(tag)], around)
        at = end + 1
    return "\n".join(out)


def main() -> int:
    """Folds every template, or with --check names those that are not; how many there are of them."""
    wrong = 0
    for file in sorted(TEMPLATES.glob("*.html")):
        text = file.read_text("utf-8")
        new = formatted(text)
        left = [n for n, line in enumerate(new.split("\n"), start=1) if len(line) > WIDE]
        if "--check" in sys.argv:
            if new != text or left:
                print(f"{file.name}: fold it with tools/templates.py")
                wrong += 1
            continue
        if new != text:
            file.write_text(new, "utf-8")
        for n in left:
            print(f"{file.name}:{n}: too long, and there is no place to fold it")
            wrong += 1
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
