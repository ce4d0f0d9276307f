"""A knitter for the tests: reads printed rows and knits them loop by loop. It shares nothing with what it checks.

The needle holds loops from the right edge to the left as the right side shows them. A row is read as it is printed and
worked from the end at which the knitter begins; every loop remembers which loops of the row below it was worked into
(the one that lies on top for whoever looks at the right side first), its face on the right side, and whether it passes
in front of its neighbours (+) or behind them (-). Meanings are common practice.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from functools import lru_cache
from typing import NamedTuple


class Loop(NamedTuple):
    """`face` is None where no face shows yet (yarn overs); `slipped` where the old loop was passed on unworked."""

    face: str | None
    parents: tuple[int, ...]
    depth: int = 0
    slipped: bool = False
    knob: int = 0


@dataclass
class Row:
    """One printed row: its side, its words, and the loops it left, right to left on the right side."""

    side: str
    text: str
    loops: list[Loop] = field(default_factory=list)
    held: list[int] = field(default_factory=list)
    bound: list[int] = field(default_factory=list)


# what each decrease takes, the face it shows whoever works it, and its stitches from the top one down as she sees them
DECREASES = {
    "k2tog": ("k", (1, 0)), "ssk": ("k", (0, 1)), "p2tog": ("p", (1, 0)), "ssp": ("p", (0, 1)),
    "k2tog tbl": ("k", (0, 1)), "p2tog tbl": ("p", (0, 1)), "k2tog twisted": ("k", (1, 0)),
    "p2tog twisted": ("p", (1, 0)), "k3tog": ("k", (2, 1, 0)), "sssk": ("k", (0, 1, 2)), "p3tog": ("p", (2, 1, 0)),
    "sssp": ("p", (0, 1, 2)), "sk2p": ("k", (0, 2, 1)), "sp2p": ("p", (0, 2, 1)), "sskp": ("k", (2, 0, 1)),
    "sspp": ("p", (2, 0, 1)), "S2KP": ("k", (1, 0, 2)), "S2PP": ("p", (1, 0, 2)),
}  # fmt: skip
INTO = {"kfb": "k k", "kbf": "k k", "pfb": "p p", "pbf": "p p"}
_PLAIN = re.compile(r"([kp])(\d+)(?: tbl)?$")
_GROUP = r"[kp]\d*(?:tbl)?(?: [kp]\d*(?:tbl)?)*"
_CROSS = re.compile(r"(\d+)/(?:(\d+)([fb]?)/)?(\d+) ([LR])(P?)([CT])(?: (rib|2x2 rib|tbl|purl|dec))?$")
_SPELLED = re.compile(rf"([LR])[CT]\[({_GROUP})\|(?:(?:([fb]) )?({_GROUP})\|)?({_GROUP})\]$")
_HOLD = re.compile(r"([CT])(\d+)([FB])(?: (rib|2x2 rib|tbl|purl))?$")


def faces_of(text: str) -> list[str]:
    """`k1 p2` as single faces."""
    return [w[0] for w in text.split() for _ in range(int(re.sub(r"\D", "", w) or 1))]


def _background(count: int, background: str) -> list[str]:
    return {"rib": "kp", "2x2 rib": "kkpp", "tbl": "k", "purl": "p"}[background] * count


class Hands:
    """One row under the hands: the loops still to be worked, in the order in which they come, and those made."""

    def __init__(self, waiting: list[int], marks: set[int] | None = None) -> None:
        self.waiting, self.made = waiting, list[Loop]()
        self.count, self.marks, self.marked = len(waiting), set(marks or ()), set[int]()
        self.held, self.bound = list[int](), list[int]()

    def mark(self, word: str) -> None:
        """`sm` needs a marker that hangs here, `pm` a place without one."""
        here = self.count - len(self.waiting)
        assert (here in self.marks) == (word == "sm"), f"{word} where {'no' if word == 'sm' else 'a'} marker hangs"
        self.marks.discard(here)
        self.marked.add(len(self.made))

    def take(self, n: int) -> list[int]:
        assert n <= len(self.waiting), f"the row wants {n} stitches, but {len(self.waiting)} are left"
        out, self.waiting = self.waiting[:n], self.waiting[n:]
        return out

    def plain(self, face: str, n: int = 1) -> None:
        self.made += [Loop(face, (p,)) for p in self.take(n)]

    def work(self, word: str) -> None:
        """One operation, as it is printed."""
        if m := _PLAIN.match(word):
            self.plain(m[1], int(m[2]))
        elif m := re.match(r"(?:leave (\d+)|w&t)$", word):  # not worked: it waits for a later row
            self.made += [Loop(None, (p,), slipped=True) for p in self.take(int(m[1] or 1))]
        elif m := re.match(r"move the beginning (\d+) on$", word):
            assert not self.made, "the beginning of a round is moved before anything is worked"
            self.waiting = self.waiting[int(m[1]) :] + self.waiting[: int(m[1])]
        elif m := re.match(r"move the beginning (\d+) back$", word):
            assert not self.waiting, "it is moved back once all is worked"
            self.made = self.made[-int(m[1]) :] + self.made[: -int(m[1])]
        elif word == "turn":  # nothing is worked by it: what follows is left
            pass
        elif m := re.match(r"hold (\d+)$", word):  # onto a holder: another part goes on from it
            self.held += self.take(int(m[1]))
        elif m := re.match(r"bind off (\d+)$", word):  # one of them is the first stitch of what is left
            assert not self.made, "stitches are bound off where a row begins"
            self.bound += self.take(int(m[1]))
        elif m := re.match(r"cast on (\d+)$", word):
            self.made += [Loop("k", ())] * int(m[1])
        elif m := re.match(r"sl(\d+)(?: wyi[fb])?$", word):
            self.made += [Loop(None, (p,), slipped=True) for p in self.take(int(m[1]))]
        elif word in DECREASES:
            face, order = DECREASES[word]
            taken = self.take(len(order))
            self.made.append(Loop(face, tuple(taken[i] for i in order)))
        elif m := re.match(r"M1(P?)[LR]$", word):
            self.made.append(Loop("p" if m[1] else "k", ()))
        elif word in ("yo", "yo2"):
            self.made += [Loop(None, ())] * (2 if word == "yo2" else 1)
        elif word in INTO or re.match(r"(?:[kp]1(?:tbl)?|yo)(?:-(?:[kp]1(?:tbl)?|yo))+$", word):
            parts = INTO[word].split() if word in INTO else word.split("-")
            (p,) = self.take(1)
            self.made += [Loop(None if part == "yo" else part[0], (p,)) for part in parts]
        elif m := re.match(r"MB(\d)( back)?$", word):
            knob = -int(m[1]) if m[2] else int(m[1])
            self.made.append(Loop("p" if m[2] else "k", tuple(self.take(1)), knob=knob))
        elif not self.cross(word):
            raise AssertionError(f"“{word}” is printed, but no knitter knows it")

    def cross(self, word: str) -> bool:
        """A cable: the first group is held in front (L) or behind (R) while the others are worked."""
        if m := _CROSS.match(word):
            over, centre, under = int(m[1]), int(m[2] or 0), int(m[4])
            if m[8] == "dec":
                return self.crossed_decrease(over, m[5], "p" if m[6] else "k")
            groups = [["k"] * over, ["k"] * centre, ["k"] * under]
            if m[8]:
                groups = [_background(n, m[8])[:n] for n in (over, centre, under)]  # type: ignore[misc]
            elif m[6]:
                groups[1 if centre else 2] = ["p"] * (centre or under)
            return self.swap(m[5], groups, m[3] or "")
        if m := _SPELLED.match(word):
            return self.swap(m[1], [faces_of(m[2]), faces_of(m[4] or ""), faces_of(m[5])], m[3] or "")
        if m := _HOLD.match(word):
            half, odd = divmod(int(m[2]), 2)
            over, under = ["k"] * (half + odd), ["k" if m[1] == "C" else "p"] * half
            if m[4]:
                over = under = list(_background(half, m[4])[:half])
            return self.swap({"F": "L", "B": "R"}[m[3]], [over, [], under], "")
        return False

    def swap(self, lean: str, groups: list[list[str]], centre_at: str) -> bool:
        over, centre, under = groups
        middle = {"": 0, "f": 2, "b": -2}[centre_at]
        if lean == "L":
            first, mid, last = (self.take(len(g)) for g in (over, centre, under))
            order = [(last, under, -1), (mid, centre, middle), (first, over, 1)]
        else:
            first, mid, last = (self.take(len(g)) for g in (under, centre, over))
            order = [(last, over, 1), (mid, centre, middle), (first, under, -1)]
        for parents, faces, depth in order:
            self.made += [Loop(f, (p,), depth) for p, f in zip(parents, faces, strict=True)]
        return True

    def crossed_decrease(self, n: int, lean: str, face: str) -> bool:
        first, second = self.take(n), self.take(n)
        front, back = (first, second) if lean == "L" else (second, first)
        self.made += [Loop(face, (f, b), 1) for f, b in zip(front, back, strict=True)]
        return True


_STAR = re.compile(r"(.*?)\*(.*?); rep from \*(?: (until (\d+) stitch(?:es)? remains?|to end))?(?:, (.*))?$")
_LINE = re.compile(
    r"(?:Row|Round)s? ([\d,… –]+(?:, every \d+\w\w)?)(?: \((RS|WS)\))?: (.*?)\.?(?: \((\d+) stitches\))?$"
)


@lru_cache(maxsize=20_000)
def phrases(text: str) -> tuple[str, ...]:
    """The text cut at its outermost commas."""
    out, depth, word = [], 0, ""
    for char in text:
        depth += (char in "([") - (char in ")]")
        if char == "," and depth == 0:
            out.append(word.strip())
            word = ""
        else:
            word += char
    return tuple(w for w in [*out, word.strip()] if w)


def work(hands: Hands, text: str) -> None:
    """Works the words of a row, or of what stands in a bracket."""
    if star := _STAR.match(text):
        before, box, how, left, after = star.groups()
        work(hands, before)
        stop = int(left) if left else 0 if how else None
        if stop is None:  # “rep from *” alone: as often as fits; what stands after it says how many must be left
            probe = Hands([*range(10_000)])
            work(probe, after or "")
            stop = 10_000 - len(probe.waiting)
        while len(hands.waiting) > stop:
            work(hands, box)
        assert len(hands.waiting) == stop, f"the repeat leaves {len(hands.waiting)} stitches, not {stop}"
        work(hands, after or "")
        return
    for phrase in phrases(text):
        if phrase in ("sm", "pm"):
            hands.mark(phrase)
        elif phrase[0] == "(" and (repeat := re.match(r"\((.*)\) (\d+) times$", phrase)):
            for _ in range(int(repeat[2])):
                work(hands, repeat[1])
        else:
            hands.work(phrase)


def knit(
    below: list[Loop],
    side: str,
    text: str,
    *,
    left_handed: bool = False,
    again: bool = False,
    marks: set[int] | None = None,
    held: list[int] | None = None,
    bound: list[int] | None = None,
) -> list[Loop]:
    """The loops that a printed row leaves on the needle, in right-side order.

    `held` takes those put on a holder, `bound` those bound off.

    A row without a marked repeat is worked over and over where `again` says that it is given for one multiple.
    `marks` are the markers on the needle, by the stitches to the right of each; it is brought up to date.
    """
    backwards = (side == "WS") != left_handed
    before = {len(below) - m for m in marks or ()} if backwards else marks
    hands = Hands([*range(len(below))][:: -1 if backwards else 1], before)
    said, out_of_use = re.subn(r"; remove the other markers.*", "", text)
    work(hands, said)
    while again and hands.waiting and "*" not in said:
        work(hands, said)
    assert not hands.waiting, f"{len(hands.waiting)} stitches are left over: {text}"
    assert not hands.marks or out_of_use, f"the row says nothing of the markers at {hands.marks}: {text}"
    if held is not None:
        held += sorted(hands.held)
    if bound is not None:
        bound += sorted(hands.bound)
    if marks is not None:
        marks.clear()
        marks |= {len(hands.made) - m for m in hands.marked} if backwards else hands.marked
    out = hands.made[:: -1 if backwards else 1]
    return [_seen(loop, side, below) for loop in out]


def _seen(loop: Loop, side: str, below: list[Loop]) -> Loop:
    """As the right side shows it; a slipped loop shows what it showed before."""
    face, parents, depth, slipped, knob = loop
    if side == "WS":
        face = _OTHER[face]
        depth, knob, parents = -depth, -knob, parents[::-1]
    elif not slipped:
        return loop
    if slipped:
        face = below[parents[0]].face
    return Loop(face, parents, depth, slipped, knob)


_OTHER = {"k": "p", "p": "k", None: None}


def numbers(text: str) -> list[int]:
    """`2, 4, … 20, every 2nd`, `3–7`, `5`."""
    out: list[int] = []
    text, _, every = text.partition(", every ")
    for part in text.replace("…", ",…").split(","):
        part = part.strip()
        if part.startswith("…"):
            step, last = out[-1] - out[-2], int(part[1:])
            assert every.startswith(str(step)), f"“{text}” is not every {every}"
            out += range(out[-1] + step, last + 1, step)
        elif "–" in part:
            first, last = map(int, part.split("–"))
            out += range(first, last + 1)
        elif part:
            out.append(int(part))
    return out


def begun(text: str) -> int:
    """With how many stitches a part begins: cast on, from holders, picked up; what it says they come to is so."""
    if cast_on := re.search(r"^Cast on (\d+) stitches", text, re.M):
        return int(cast_on[1])
    said = re.search(r"^(?:Put the|Pick up) .*: (\d+) stitches", text, re.M)
    assert said, "the pattern does not say how it begins"
    found = re.findall(r"[Pp]ut the (\d+) held stitches|[Pp]ick up and knit (\d+) along", said[0])
    assert sum(int(a or b) for a, b in found) == int(said[1]), said[0]
    return int(said[1])


def knit_pattern(text: str, *, inside: bool = False) -> tuple[int, list[Row]]:
    """A whole printed pattern: the cast-on, and its rows in the order in which they are worked."""
    cast_on = begun(text)
    rows: dict[int, tuple[str, str, int]] = {}
    for line in text.splitlines():
        if found := _LINE.match(line):
            side = found[2] or ("WS" if inside else "RS")
            for n in numbers(found[1]):
                assert n not in rows, f"row {n} is printed twice"
                rows[n] = (side, found[3], int(found[4]) if found[4] else -1)
        elif line.startswith("Then work "):
            _again(rows, line)
    needle, out = [Loop("k", ())] * cast_on, []
    assert sorted(rows) == [*range(1, len(rows) + 1)], "rows are missing"
    left, marks = "For left-handed knitters" in text, set[int]()
    for n in range(1, len(rows) + 1):
        side, said, count = rows[n]
        held, bound = list[int](), list[int]()
        needle = knit(needle, side, said, left_handed=left, marks=marks, held=held, bound=bound)
        assert count in (-1, len(needle)), f"row {n} says {count} stitches, but leaves {len(needle)}"
        out.append(Row(side, said, needle, held, bound))
    # bound off, held for a graft or for other parts, or drawn together
    ends = r"^(?:(?:Bind|Cast) off|Leave the|Put the|Cut the yarn, draw it twice through the) (\d+) st"
    last = re.search(ends, text, re.M)
    if halves := re.search(r"^Put the first (\d+) stitches .* last (\d+) .* graft", text, re.M):
        assert [int(halves[1]), int(halves[2])] == [len(needle) // 2] * 2 and len(needle) % 2 == 0
        return cast_on, out
    if last and (groups := re.findall(r"(\d+) for the ", text.splitlines()[-1])):
        assert sum(map(int, groups)) == int(last[1]), "what goes onto the holders is what there is"
    assert last and int(last[1]) == len(needle), f"{last} stitches at the end, but {len(needle)} are on the needle"
    return cast_on, out


def _again(rows: dict[int, tuple[str, str, int]], line: str) -> None:
    """“Then work rows 11–18 3 times more, then rows 11–14 once: to row 140.”"""
    at = max(rows) + 1
    for first, last, how in re.findall(r"(?:rows?|rounds?) (\d+)(?:–(\d+))? (once|twice|\d+ times)", line):
        times = {"once": 1, "twice": 2}.get(how) or int(how.split()[0])
        for _ in range(times):
            for n in range(int(first), int(last or first) + 1):
                rows[at] = rows[n]
                at += 1
    assert at - 1 == int(re.search(r"to (?:row|round) (\d+)", line)[1]), line  # type: ignore[index]
