"""Reads one operation in either dialect: over/under (`3/3 LC`) or count and hold (`C6F`)."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

from ..errors import AmbiguousText, InvalidText, Problem
from .crossings import MAX_CENTRE, MAX_GROUP, Crossing, Group, crossing, group
from .operations import K2TOG, SSK, YO, Decrease, Face, Increase, Lean, Op, Stitch

_NAMED: dict[str, Op] = {
    "yo": YO,
    "k2tog": K2TOG,
    "ssk": SSK,
    "p2tog": Decrease(Lean.RIGHT, Face.PURL),
    "ssp": Decrease(Lean.LEFT, Face.PURL),
    "m1": Increase(Lean.LEFT),  # common practice: M1 alone is M1L
    "m1l": Increase(Lean.LEFT),
    "m1r": Increase(Lean.RIGHT),
    "m1p": Increase(Lean.LEFT, Face.PURL),
    "m1pl": Increase(Lean.LEFT, Face.PURL),
    "m1pr": Increase(Lean.RIGHT, Face.PURL),
}

_TWIST = "a twist (T) is one stitch over one; for this write C."
_GROUP_TEXT = r"[kp]\d*(?:tbl)?(?:\s+[kp]\d*(?:tbl)?)*"
_SPELLED = re.compile(rf"([LR])([CT])\[({_GROUP_TEXT}(?:\|{_GROUP_TEXT}){{1,2}})\]", re.I)
_OVER_UNDER = re.compile(r"(\d+)/(\d+)(?:/(\d+))?\s*([LR])(P?)([CT])(?![a-z\d])", re.I)
_COUNT_HOLD = re.compile(r"([CT])(\d+)([FBLR])(?![a-z\d])", re.I)
_NAME = re.compile(r"(k2tog|p2tog|ssk|ssp|yo|m1p?[lr]?)(?![a-z\d])", re.I)
_PLAIN = re.compile(r"([kp])\s?(\d*)(\s?tbl)?(?![a-z])", re.I)
_RUN = re.compile(r"([kp])(\d*)(tbl)?", re.I)


def match_op(text: str, at: int) -> tuple[Op, int, int] | None:
    """The operation at position `at`: (operation, how often, where it ends), or None if there is none.

    Raises InvalidText or AmbiguousText (problems without line or column) where something that looks
    like an operation cannot be one.
    """
    readers: tuple[tuple[re.Pattern[str], Callable[[re.Match[str]], tuple[Op, int]]], ...] = (
        (_SPELLED, _read_spelled),
        (_OVER_UNDER, _read_over_under),
        (_COUNT_HOLD, _read_count_hold),
        (_NAME, lambda m: (_NAMED[m[1].lower()], 1)),
        (_PLAIN, _read_plain),
    )
    for pattern, read in readers:
        found = pattern.match(text, at)
        if found:
            op, count = read(found)
            return op, count, found.end()
    return None


def parse_op(text: str) -> Op:
    """Exactly one operation, such as `3/3 LC` or `k1`; the inverse of `Op.token`."""
    found = match_op(text, 0)
    if not found or found[2] != len(text) or found[1] != 1:
        raise InvalidText((Problem(f"“{text}” is not one operation."),))
    return found[0]


def _read_plain(m: re.Match[str]) -> tuple[Op, int]:
    count = int(m[2] or 1)
    if count == 0:
        raise InvalidText((Problem(f"“{m[0]}” works no stitch; leave it out or give a number from 1."),))
    return Stitch(Face(m[1].lower()), bool(m[3])), count


def _read_over_under(m: re.Match[str]) -> tuple[Op, int]:
    middle = [int(n) for n in m.group(1, 2, 3) if n is not None]
    over, under = middle[0], middle[-1]
    centre = middle[1] if len(middle) == 3 else 0
    _check_size(m[0], over, under, centre, has_centre=len(middle) == 3)
    made = crossing(over, under, m[4].upper(), centre=centre, purl=bool(m[5]))
    if m[6].upper() == "C":
        return made, 1
    if (over, under, centre) != (1, 1, 0):
        raise InvalidText((Problem(f"“{m[0]}”: {_TWIST}"),))
    return Crossing(made.over, made.under, made.lean, twist=True), 1


def _check_size(text: str, over: int, under: int, centre: int, *, has_centre: bool) -> None:
    if not (1 <= over <= MAX_GROUP and 1 <= under <= MAX_GROUP and centre <= MAX_CENTRE):
        raise InvalidText(
            (Problem(f"“{text}”: groups have 1 to {MAX_GROUP} stitches, a centre at most {MAX_CENTRE}."),)
        )
    if has_centre and centre == 0:
        raise InvalidText((Problem(f"“{text}”: a centre of 0 stitches is left out: write {over}/{under}."),))


def _read_spelled(m: re.Match[str]) -> tuple[Op, int]:
    groups = [_read_group(part) for part in m[3].split("|")]
    centre = groups[1] if len(groups) == 3 else ()
    _check_size(m[0], len(groups[0]), len(groups[-1]), len(centre), has_centre=False)
    twist = m[2].upper() == "T"
    if twist and (len(groups[0]), len(centre), len(groups[-1])) != (1, 0, 1):
        raise InvalidText((Problem(f"“{m[0]}”: {_TWIST}"),))
    return Crossing(groups[0], groups[-1], Lean(m[1].upper()), centre, twist), 1


def _read_group(text: str) -> Group:
    return tuple(s for m in _runs(text) for s in (Stitch(Face(m[1].lower()), bool(m[3])),) * int(m[2] or 1))


def _runs(text: str) -> Iterator[re.Match[str]]:
    for word in text.split():
        found = _RUN.fullmatch(word)
        assert found, "the pattern that matched the whole also matches its words"
        yield found


def _read_count_hold(m: re.Match[str]) -> tuple[Op, int]:
    """C: all knit; T: the lower group purled. F holds in front and leans left, B behind, right."""
    kind, count, hold = m[1].upper(), int(m[2]), m[3].upper()
    lean = "L" if hold in "FL" else "R"
    purl = kind == "T"
    if count < 2 or count > 2 * MAX_GROUP:
        raise InvalidText((Problem(f"“{m[0]}”: a crossing has 2 to {2 * MAX_GROUP} stitches."),))
    if kind == "T" and hold in "LR" and count == 5:
        return crossing(2, 2, lean, centre=1, purl=True), 1
    if hold in "FB":
        if (kind == "C" and count % 2 == 0) or (kind == "T" and count == 2):
            return crossing(count // 2, count // 2, lean, purl=purl), 1
        if kind == "T" and count == 3:
            return crossing(2, 1, lean, purl=True), 1
    raise AmbiguousText((Problem(f"“{m[0]}” can mean {_choices(count, lean, purl)}; write the one you want."),))


def _choices(count: int, lean: str, purl: bool) -> str:
    half = (count + 1) // 2
    pairs = [(half, count - half), (count - half, half)] if count % 2 else [(half, half), (count - 1, 1)]
    names = sorted({Crossing(group(o), group(u, Face.PURL if purl else Face.KNIT), Lean(lean)).token for o, u in pairs})
    return " or ".join(names)
