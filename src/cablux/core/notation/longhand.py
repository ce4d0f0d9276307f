"""Crossings written out, as in “sl 2 sts to cn and hold in front, k2, k2 from cn”; with a part put back, or by hand."""

from __future__ import annotations

import re

from ..errors import InvalidText, Problem
from .crossings import MAX_CENTRE, MAX_GROUP, Crossing, Group
from .operations import Face, Lean
from .stitches import Stitch

_STS = r"(?:\s*(?:sts?|stitch(?:es)?)\b\.?)?"
_NEEDLE = (
    r"(?:(?:a|the|your|1st|2nd)\s+)?(?:cn|c\.n\.|(?:cable|spare|extra|dp|double[\s-]pointed)\s*(?:needle|ndl)|dpn)\b\.?"
)
_LEFT = r"(?:the\s+)?(?:left|l\.?h\.?|ln|main)(?:[\s-]*hand)?(?:\s*(?:needle|ndl)\b\.?)?"
_JOIN = r"[\s,;.]*(?:(?:and|then|next|now|with|work)\b[\s,]*)*"
_RUN = rf"(?:k(?:nit)?|p(?:url)?)\s*(?:the\s+)?(?:next\s+)?\d*{_STS}(?:\s*(?:tbl|through\s+(?:the\s+)?back\s+loops?))?"
_TIMES = r"(?:twice|\d+\s*(?:times\b|x)|x\s*\d+)"
_BRACKET = rf"[(\[]\s*{_RUN}(?:{_JOIN}{_RUN})*\s*[)\]]\s*{_TIMES}"
_RUNS = rf"(?:{_RUN}|{_BRACKET})(?:{_JOIN}(?:{_RUN}|{_BRACKET}))*"
_THEM = (
    r"(?:k(?:nit)?|p(?:url)?)\s+(?:them|it|those|these|(?:the\s+)?(?:(?:held|remaining|\d+)\s+)*(?:sts?|stitch(?:es)?))"
)
_FROM = rf"\s*(?:from|off|on|of)\s+{_NEEDLE}"
_HOLD = rf"""
    s(?:l(?:ip)?)?\.?\s*(?:the\s+)?(?:next\s+)?(?P<held>\d+){_STS}(?:\s*(?:purlwise|p-?wise))?
    \s*(?:on\s*to|onto|to|on)\s+{_NEEDLE}{_JOIN}
    (?:(?:hold|leave|place|keep|bring|let|put|drop|holding|held)\s+)?(?:(?:it|them|cn|this|these|the\s+cn)\s+)?
    (?:(?:hang|in|at|to)\s+)*(?:the\s+)?(?P<where>front|back|behind)(?:\s+of\s+(?:the\s+)?work)?
"""
_BACK = rf"""
    (?:sl(?:ip)?|place|put|return|move|transfer|pass)\.?\s+(?:the\s+)?
    (?:(?:last|next|left-?most|other|cent(?:re|er)|middle|purl|remaining)\s+)*(?P<put>\d+)?{_STS}(?:\s*from\s+{_NEEDLE})?
    \s*(?:back\s*)?(?:on\s*to|onto|to|on)\s+{_LEFT}{_JOIN}(?P<middle>{_THEM}|{_RUNS})(?:\s*from\s+{_LEFT})?
"""
LONGHAND = re.compile(
    rf"{_HOLD}{_JOIN}(?P<runs>{_RUNS})(?:\s*from\s+{_LEFT})?(?:{_JOIN}{_BACK})?"
    rf"(?:{_JOIN}(?:(?P<more>{_RUNS})|(?P<them>{_THEM})))?{_FROM}",
    re.I | re.X,
)
_FIRST = r"(?:\s*(?:the\s+)?1st(?:\s*(?:st|stitch)\b)?)?"
_ON_LEFT = rf"(?:\s*on\s+{_LEFT})?"
WITHOUT_NEEDLE = re.compile(
    rf"(?:(?:skip|miss)\s+(?:the\s+)?(?:1st|1|next)(?:\s*(?:st|stitch)\b)?{_JOIN})?(?P<a>k(?:nit)?|p(?:url)?)\s+"
    rf"(?:into\s+)?(?:the\s+)?(?P<which>2nd|next)(?:\s*(?:st|stitch)\b)?{_ON_LEFT}\s*"
    rf"(?P<how>in\s+front(?:\s+of{_FIRST})?|(?:from\s+)?behind{_FIRST}|in\s+back(?:\s+of{_FIRST})?|tbl"
    rf"|through\s+(?:the\s+)?(?:back|front)(?:\s+loop)?)?"
    rf"{_JOIN}(?P<b>k(?:nit)?|p(?:url)?)\s+(?:into\s+)?(?:the\s+)?(?:1st|skipped)(?:\s*(?:st|stitch)\b)?"
    rf"(?:{_JOIN}(?:sl(?:ip)?|drop|let|take)\s+both\b[^,.;*()]*)?",
    re.I,
)
_LONGEST = 320  # letters, our choice: twice the longest that is printed; it keeps the search short
_ONE_RUN = re.compile(_RUN, re.I)


def match_longhand(text: str, at: int, end: int) -> tuple[Crossing, int] | None:
    """The crossing that is written out at a place, and where its words end; None if there is none.

    Raises InvalidText where the counts in it do not agree.
    """
    end = min(end, at + _LONGEST)
    if text[at : at + 1].lower() == "s" and (found := LONGHAND.match(text, at, end)):
        return _read(found), found.end()
    if text[at : at + 1].lower() in ("k", "p", "s", "m") and (found := WITHOUT_NEEDLE.match(text, at, end)):
        if found["which"].lower() == "next" and not found[0].lower().startswith(("skip", "miss")):
            return None
        behind = bool(re.search(r"behind|back|tbl", found["how"] or "", re.I))
        second, first = (Stitch(Face(found[g][0].lower())) for g in "ab")
        if behind:  # the first lies in front and travels left
            return Crossing(over=(first,), under=(second,), lean=Lean.LEFT, twist=True), found.end()
        return Crossing(over=(second,), under=(first,), lean=Lean.RIGHT, twist=True), found.end()
    return None


def _unbracketed(m: re.Match[str]) -> str:
    times = re.search(r"\d+", m[2])
    return f"{m[1]}, " * min(int(times[0]) if times else 2, MAX_GROUP)


def _stitches(text: str | None) -> Group:
    out: list[Stitch] = []
    written_out = re.sub(rf"[(\[]([^)\]]*)[)\]]\s*({_TIMES})", _unbracketed, text or "", flags=re.I)
    for run in _ONE_RUN.findall(written_out):
        count = re.search(r"\d+", run)
        tbl = bool(re.search(r"tbl|back", run, re.I))
        out += [Stitch(Face(run[0].lower()), tbl)] * min(int(count[0]) if count else 1, 2 * MAX_GROUP + 1)
    return tuple(out)


def _read(m: re.Match[str]) -> Crossing:
    held, front = int(m["held"]), m["where"].lower() == "front"
    middle = _middle(m)
    runs, more = _stitches(m["runs"]), _stitches(m["more"])
    if m["put"] and not more and not m["them"]:  # “put the last 3 back, p3, k3 from cn”
        middle, more = middle[: int(m["put"])], middle[int(m["put"]) :]
    if m["them"] or re.fullmatch(r"(?:k(?:nit)?|p(?:url)?)\s+(?:the\s+)?(?:sts|stitches)", m["more"] or "", re.I):
        more = (Stitch(Face((m["them"] or m["more"])[0].lower())),) * (held - len(middle))
    if not more and len(runs) > held - len(middle) > 0:  # “k2, p1, k2 from cn”: those of the needle come last
        runs, more = runs[: len(middle) - held], runs[len(middle) - held :]
    elif len(more) > held - len(middle) > 0 and not middle:
        extra = len(more) - held
        runs, more = runs + more[:extra], more[extra:]
    if len(more) + len(middle) != held or not runs:
        raise InvalidText(
            (Problem(message=f"“{m[0]}”: {held} go to the cable needle, but {len(more) + len(middle)} come off it."),)
        )
    if max(len(runs), len(more)) > MAX_GROUP or len(middle) > MAX_CENTRE:
        raise InvalidText(
            (Problem(message=f"“{m[0]}”: groups have 1 to {MAX_GROUP} stitches, a centre at most {MAX_CENTRE}."),)
        )
    over, under = (more, runs) if front else (runs, more)
    return Crossing(over=over, under=under, lean=Lean.LEFT if front else Lean.RIGHT, centre=middle)


def _middle(m: re.Match[str]) -> Group:
    """What is put back on the left needle and worked between."""
    if not m["middle"]:
        return ()
    said = _stitches(m["middle"])
    count = int(m["put"] or 0) or len(said) or 1
    if re.search(r"them|it|those|these|the", m["middle"], re.I) and not re.search(r"\d", m["middle"]):
        return (Stitch(Face(m["middle"][0].lower())),) * min(count, MAX_CENTRE + 1)
    return said
