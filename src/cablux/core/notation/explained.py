"""What the line of a definition says: a crossing written out, a bobble, or a few operations."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import lru_cache

from ..errors import AmbiguousText, InvalidText, Problem
from .definitions import Names, Ops
from .longhand import match_longhand
from .rowparser import read_row
from .rowtext import MAX_ROW_STITCHES, AsSet, expand_repeats, stitches_in
from .stitches import Bobble
from .tokens import match_op

MOST = 40  # our choice: a name that stands for more is a row of its own
_INTO = re.compile(
    r"\(([^)]*)\)\s*(?:all\s+)?in(?:to)?\b|(?:in(?:to)?\s+(?:the\s+)?(?:next|same|one|1)[^,.(]*[,\s]+)\(?([kyp][^.;)]*)",
    re.I,
)


@lru_cache(maxsize=512)
def usual_meaning(name: str) -> Ops:
    """What a name stands for where nothing is said of it; nothing where it is no name, or has several meanings."""
    try:
        found = match_op(name, 0)
    except (InvalidText, AmbiguousText):
        return ()
    return (found[0],) * found[1] if found and found[2] == len(name) and found[1] <= MOST else ()


def read_definition(text: str, start: int, end: int, *, names: Names) -> tuple[Ops, list[Problem]]:
    """The operations that the words between two positions describe, or the problems in them."""
    at = start + len(text[start:end]) - len(text[start:end].lstrip(" (["))
    try:
        written = match_longhand(text, at, end)
    except InvalidText as error:
        return (), [replace(p, column=at + 1) for p in error.problems]
    if written and not text[written[1] : end].strip(" .,;)]"):
        return (written[0],), []
    if bobble := _bobble(text[start:end]):
        return (bobble,), []
    nodes, problems = read_row(text, start, end, names=names)
    if isinstance(nodes, AsSet):
        problems = [Problem(message="A name cannot stand for whatever lies below.", column=start + 1)]
    if problems or isinstance(nodes, AsSet) or not nodes:
        return (), problems or [Problem(message="Nothing is said.", column=start + 1)]
    if stitches_in(nodes) > min(MOST, MAX_ROW_STITCHES):
        return (), [Problem(message=f"A name stands for up to {MOST} operations.", column=start + 1)]
    return expand_repeats(nodes).ops, []


def _bobble(text: str) -> Bobble | None:
    """“(k1, yo, k1, yo, k1) in next st, turn, p5, turn, k5, pass 4 sts over the first”."""
    made = _INTO.search(text)
    if not made or not re.search(r"\bturn|\bpass|\btog", text, re.I):
        return None
    loops = len(re.findall(r"\b(?:[kp]\s?1?|yo|yfwd|yrn)\b", (made[1] or made[2]).split("turn")[0], re.I))
    if re.search(r"twice|2 times|x ?2", text[made.start() : made.end() + 12], re.I):
        loops *= 2
    size = {3: 3, 4: 5, 5: 5, 6: 7, 7: 7}.get(loops)
    return Bobble(size) if size else None  # type: ignore[arg-type]
