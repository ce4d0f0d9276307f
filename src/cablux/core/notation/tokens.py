"""Reads one operation in either dialect: over/under (`3/3 LC`) or count and hold (`C6F`), and its common synonyms."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

from ..errors import AmbiguousText, InvalidText, Problem
from .crossings import (
    MAX_CENTRE,
    MAX_GROUP,
    CentreAt,
    CrossedDecrease,
    Crossing,
    Ground,
    Group,
    crossing,
    crossing_on,
    uniform_group,
)
from .names import NAMED
from .operations import Face, Lean, Op
from .shaping import MOST_INTO_ONE, Into
from .stitches import BindOff, CastOnLoop, Hold, Leave, Slip, Stitch

_TWIST = "a twist (T) is one stitch over one; for this write C."
_END = r"(?![a-z\d&/])"
_TBL = r"(?:\s*-?\s*(?:tbl|through\s+(?:the\s+)?back\s+loops?))"
_GROUP_TEXT = r"[kp]\d*(?:tbl)?(?:\s+[kp]\d*(?:tbl)?)*"
_SPELLED = re.compile(rf"([LR])([CT])\[({_GROUP_TEXT}(?:\|(?:[fb]\s)?{_GROUP_TEXT}){{1,2}})\]", re.I)
_BACKGROUND = (
    r"(?:\s+(dec)|\s+(?:in\s+)?(?:k1[ ,]*p1\s+|1x1\s+)?(rib)|\s+(?:in\s+)?(?:2[x×]2|k2[ ,]*p2)\s+(rib)"
    r"|\s+(tbl)|\s+(purl))?"
)
_OVER_UNDER = re.compile(rf"(\d+)/(\d+)([fb])?(?:/(\d+))?\s*([LR])(P?)([CT]){_BACKGROUND}{_END}", re.I)
_IN_WORDS = re.compile(
    rf"(\d+)\s*(?:/|over)\s*(\d+)\s+(left|right)\s+(purl\s+)?(cross(?:ing)?|cable|twist){_END}", re.I
)
_SIZED = re.compile(rf"(\d+)[ -]?st\s+(L|R|left|right)\s*(P|purl)?\s*(?:C|cross|cable){_END}", re.I)
_COUNT_HOLD = re.compile(
    rf"(cable|cross|cr|c|t)\s?(\d+)\s?(front|back|left|right|[FBLR])(p(?:url)?)?{_BACKGROUND}{_END}", re.I
)
_SLIP = re.compile(
    r"(?:sl(?:ip)?|s)\.?\s*(\d*)\s*(?:sts?|stitch(?:es)?)?\s*(?:p-?wise|purlwise|as\s+if\s+to\s+purl)?\s*"
    r"(?:(wyif|with\s+yarn\s+in\s+front|yf)|(wyib|with\s+yarn\s+in\s+back|yb))?(?![a-z\d&]|\s*(?:k-?wise|knitwise|m(?:arker)?\b))",
    re.I,
)
_HELD = re.compile(
    rf"(?:hold|(?:put|place|slip)(?=[^,.;]*hold))\s*(?:the\s+)?(?:next\s+)?(\d+)\s*(?:sts?|stitch(?:es)?)?"
    rf"(?:\s+on(?:to)?\s+(?:a\s+)?hold(?:er)?)?{_END}",
    re.I,
)
_BOUND = re.compile(rf"(?:bind\s+off|cast\s+off|bo)\s*(\d+)\s*(?:sts?|stitch(?:es)?)?{_END}", re.I)
_CAST_ON = re.compile(rf"(?:cast\s+on|co)\s*(\d+)\s*(?:sts?|stitch(?:es)?)?{_END}", re.I)
_LEAVE = re.compile(rf"leave\s*(\d+)\s*(?:sts?|stitch(?:es)?)?(?:\s+unworked)?{_END}", re.I)
_PART = r"(?:[kp]1(?:\s?tbl)?|yo)"
_INTO = re.compile(rf"({_PART}(?:-{_PART})+){_END}", re.I)
_PLAIN = re.compile(
    rf"(k(?:nit)?|p(?:url)?)(?:\s+(?:the\s+)?(?:(?:next|foll(?:owing|\.)?)\s+)?(?=\d)|\s?)(\d*)({_TBL})?(?![a-z/&-])",
    re.I,
)
_LONGEST = 400  # our choice: three groups spelled out stitch by stitch
_RUN = re.compile(r"([kp])(\d*)(tbl)?", re.I)


def match_op(text: str, at: int, end: int | None = None) -> tuple[Op, int, int] | None:
    """The operation at position `at`: (operation, how often, where it ends), or None if there is none.

    Nothing from `end` on is looked at. Raises InvalidText or AmbiguousText (problems without line or column)
    where something that looks like an operation cannot be one.
    """
    stop = len(text) if end is None else end
    for pattern, read in _READERS:
        found = pattern.match(text, at, stop)
        if found:
            op, count = read(found)
            return op, count, found.end()
    return None


def parse_op(text: str) -> Op:
    """Exactly one operation, such as `3/3 LC` or `k1`; the inverse of `Op.token`."""
    found = match_op(text, 0) if len(text) <= _LONGEST else None
    if not found or found[2] != len(text) or found[1] != 1:
        raise _invalid(f"“{text}” is not one operation.")
    return found[0]


def _invalid(message: str) -> InvalidText:
    return InvalidText((Problem(message=message),))


def _read_named(m: re.Match[str]) -> tuple[Op, int]:
    return NAMED[re.sub(r"[\s,-]+", " ", m[0].lower())], 1


def _read_plain(m: re.Match[str]) -> tuple[Op, int]:
    count = int(m[2] or 1)
    if count == 0:
        raise _invalid(f"“{m[0]}” works no stitch; leave it out or give a number from 1.")
    return Stitch(Face(m[1][0].lower()), bool(m[3])), count


def _read_slip(m: re.Match[str]) -> tuple[Op, int]:
    if m[1] == "0":
        raise _invalid(f"“{m[0]}” slips no stitch; leave it out or give a number from 1.")
    return Slip("front" if m[2] else "back"), int(m[1] or 1)


def _read_leave(m: re.Match[str]) -> tuple[Op, int]:
    return Leave(), int(m[1])


def _read_held(m: re.Match[str]) -> tuple[Op, int]:
    return Hold(), int(m[1])


def _read_bound(m: re.Match[str]) -> tuple[Op, int]:
    return BindOff(), int(m[1])


def _read_cast_on(m: re.Match[str]) -> tuple[Op, int]:
    return CastOnLoop(), int(m[1])


def _read_into(m: re.Match[str]) -> tuple[Op, int]:
    words = m[1].lower().split("-")
    if len(words) > MOST_INTO_ONE:
        raise _invalid(f"“{m[0]}”: more than {MOST_INTO_ONE} loops do not fit into one stitch.")
    return Into(tuple(None if w == "yo" else Stitch(Face(w[0]), w.endswith("tbl")) for w in words)), 1


def _read_over_under(m: re.Match[str]) -> tuple[Op, int]:
    over, under = int(m[1]), int(m[4] or m[2])
    centre = int(m[2]) if m[4] else 0
    if m[3] and not m[4]:
        raise _invalid(f"“{m[0]}”: f and b say where a centre lies, and there is none; write {over}/n{m[3]}/{under}.")
    _check_size(m[0], over, under, centre=centre, has_centre=bool(m[4]))
    lean, purl, twist = m[5].upper(), bool(m[6]), m[7].upper() == "T"
    at: CentreAt = "between" if not m[3] else "front" if m[3].lower() == "f" else "behind"
    if m[8]:
        return _decreasing(m[0], over, under, lean=lean, purl=purl, possible=not (centre or twist)), 1
    made = _grounded(m, 9, over, under=under, centre=centre, lean=lean, at=at) or crossing(
        over, under, lean, centre=centre, purl=purl, centre_at=at
    )
    if not twist:
        return made, 1
    if (over, under, centre) != (1, 1, 0):
        raise _invalid(f"“{m[0]}”: {_TWIST}")
    return Crossing(over=made.over, under=made.under, lean=made.lean, twist=True), 1


def _decreasing(text: str, over: int, under: int, *, lean: str, purl: bool, possible: bool) -> CrossedDecrease:
    if over != under or over not in (2, 3) or not possible:
        raise _invalid(f"“{text}”: a decreasing crossing is 2/2 or 3/3, without a centre.")
    return CrossedDecrease(over, Lean(lean), Face.PURL if purl else Face.KNIT)


def _grounded(
    m: re.Match[str], first: int, over: int, *, under: int, centre: int, lean: str, at: CentreAt
) -> Crossing | None:
    """The crossing in rib, through the back or in purl that the groups of `m` from `first` on ask for."""
    backgrounds: tuple[Ground, ...] = ("rib", "2x2 rib", "tbl", "purl")
    asked = next((background for i, background in enumerate(backgrounds) if m[first + i]), None)
    if asked is None:
        return None
    made = crossing_on(over, under, lean, background=asked, centre=centre, centre_at=at)
    if made is None:
        raise _invalid(f"“{m[0]}”: each group must hold whole ribs; spell it out, as in LC[k1 p1|k1 p1].")
    return made


def _read_words(m: re.Match[str]) -> tuple[Op, int]:
    letters = m[3][0].upper() + ("P" if m[4] else "") + ("T" if m[5].lower() == "twist" else "C")
    found = _OVER_UNDER.fullmatch(f"{m[1]}/{m[2]} {letters}")
    assert found, "the words were put into the short form"
    return _read_over_under(found)


def _read_sized(m: re.Match[str]) -> tuple[Op, int]:
    return _by_count(m[0], "T" if m[3] else "C", int(m[1]), hold=m[2][0].upper())


def _check_size(text: str, over: int, under: int, *, centre: int, has_centre: bool) -> None:
    if not (1 <= over <= MAX_GROUP and 1 <= under <= MAX_GROUP and centre <= MAX_CENTRE):
        raise _invalid(f"“{text}”: groups have 1 to {MAX_GROUP} stitches, a centre at most {MAX_CENTRE}.")
    if has_centre and centre == 0:
        raise _invalid(f"“{text}”: a centre of 0 stitches is left out: write {over}/{under}.")


def _read_spelled(m: re.Match[str]) -> tuple[Op, int]:
    texts = m[3].split("|")
    at: CentreAt = "between"
    if texts[1][:2].lower() in ("f ", "b "):
        if len(texts) == 2:
            raise _invalid(f"“{m[0]}”: f and b say where a centre lies, and there is none.")
        at = "front" if texts[1][0] in "fF" else "behind"
        texts[1] = texts[1][2:]
    if texts[-1][:2].lower() in ("f ", "b "):
        raise _invalid(f"“{m[0]}”: f and b belong before the centre, the middle one of three groups.")
    groups = [_read_group(part) for part in texts]
    centre = groups[1] if len(groups) == 3 else ()
    _check_size(m[0], len(groups[0]), len(groups[-1]), centre=len(centre), has_centre=False)
    twist = m[2].upper() == "T"
    if twist and (len(groups[0]), len(centre), len(groups[-1])) != (1, 0, 1):
        raise _invalid(f"“{m[0]}”: {_TWIST}")
    return Crossing(
        over=groups[0], under=groups[-1], lean=Lean(m[1].upper()), centre=centre, twist=twist, centre_at=at
    ), 1


def _read_group(text: str) -> Group:
    return tuple(s for m in _runs(text) for s in (Stitch(Face(m[1].lower()), bool(m[3])),) * int(m[2] or 1))


def _runs(text: str) -> Iterator[re.Match[str]]:
    for word in text.split():
        found = _RUN.fullmatch(word)
        assert found, "the pattern that matched the whole also matches its words"
        yield found


def _read_count_hold(m: re.Match[str]) -> tuple[Op, int]:
    """C: all knit; T: the lower group purled. F holds in front and leans left, B behind, right."""
    kind = "T" if m[1].lower() in ("t", "cr") else "C"
    count, hold = int(m[2]), m[3][0].upper()
    lean = "L" if hold in "FL" else "R"
    if m[5]:
        return _decreasing(m[0], count // 2, count - count // 2, lean=lean, purl=False, possible=kind == "C"), 1
    if made := _grounded(m, 6, count // 2, under=count - count // 2, centre=0, lean=lean, at="between"):
        return made, 1
    if m[4] and kind == "C" and count % 2 == 0 and count <= 2 * MAX_GROUP:  # C4BP: the lower half is purled
        _check_size(m[0], count // 2, count // 2, centre=0, has_centre=False)
        return crossing(count // 2, count // 2, lean, purl=True), 1
    return _by_count(m[0], "T" if m[4] else kind, count, hold=hold)


def _by_count(text: str, kind: str, count: int, *, hold: str) -> tuple[Op, int]:
    lean, purl = "L" if hold in "FL" else "R", kind == "T"
    if count < 2 or count > 2 * MAX_GROUP:
        raise _invalid(f"“{text}”: a crossing has 2 to {2 * MAX_GROUP} stitches.")
    if kind == "T" and hold in "LR" and count == 5:
        return crossing(2, 2, lean, centre=1, purl=True), 1
    if (kind == "C" and count % 2 == 0) or (kind == "T" and count == 2):
        return crossing(count // 2, count // 2, lean, purl=purl), 1
    if kind == "T" and count == 3:
        return crossing(2, 1, lean, purl=True), 1
    raise AmbiguousText((Problem(message=f"“{text}” can mean {_choices(count, lean, purl)}; write the one you want."),))


def _choices(count: int, lean: str, purl: bool) -> str:
    half = (count + 1) // 2
    pairs = [(half, count - half), (count - half, half)] if count % 2 else [(half, half), (count - 1, 1)]
    names = sorted(
        {
            Crossing(
                over=uniform_group(o), under=uniform_group(u, Face.PURL if purl else Face.KNIT), lean=Lean(lean)
            ).token
            for o, u in pairs
        }
    )
    return " or ".join(names)


def _named_pattern() -> re.Pattern[str]:
    """All fixed names, the longest first; a space in a name stands for spaces, commas or a hyphen."""
    longest = sorted(NAMED, key=len, reverse=True)
    texts = [r"[\s,-]+".join(re.escape(word) for word in name.split(" ")) for name in longest]
    return re.compile(rf"(?:{'|'.join(texts)}){_END}", re.I)


_READERS: tuple[tuple[re.Pattern[str], Callable[[re.Match[str]], tuple[Op, int]]], ...] = (
    (_SPELLED, _read_spelled),
    (_OVER_UNDER, _read_over_under),
    (_IN_WORDS, _read_words),
    (_SIZED, _read_sized),
    (_COUNT_HOLD, _read_count_hold),
    (_INTO, _read_into),
    (_named_pattern(), _read_named),
    (_SLIP, _read_slip),
    (_LEAVE, _read_leave),
    (_HELD, _read_held),
    (_BOUND, _read_bound),
    (_CAST_ON, _read_cast_on),
    (_PLAIN, _read_plain),
)
