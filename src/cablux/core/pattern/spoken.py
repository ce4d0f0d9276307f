"""The words of a row as they are read aloud: no letters that stand for words, no strokes."""

from __future__ import annotations

import re

_WORDS: tuple[tuple[str, str], ...] = (  # the longest first; common practice
    (r"(\d+)/(\d+)[fb]?/(\d+) L(P?)C", r"\1 over \2 over \3, left cross\4"),
    (r"(\d+)/(\d+)[fb]?/(\d+) R(P?)C", r"\1 over \2 over \3, right cross\4"),
    (r"(\d+)/(\d+) L(P?)([CT])", r"\1 over \2, left \4\3"),
    (r"(\d+)/(\d+) R(P?)([CT])", r"\1 over \2, right \4\3"),
    (r"\b([CT])(\d+)([FB])\b", r"\1 \2 \3"),
    (r"\bM1P([LR])\b", r"make 1 purlwise, \1"),
    (r"\bM1([LR])\b", r"make 1, \1"),
    (r"\bk(\d+)tog\b", r"knit \1 together"),
    (r"\bp(\d+)tog\b", r"purl \1 together"),
    (r"\bssk\b", "slip, slip, knit"),
    (r"\bssp\b", "slip, slip, purl"),
    (r"\bsl(\d+)\b", r"slip \1"),
    (r"\bwyif\b", "with yarn in front"),
    (r"\bwyib\b", "with yarn behind"),
    (r"\btbl\b", "through the back loop"),
    (r"\byo\b", "yarn over"),
    (r"\bsm\b", "slip marker"),
    (r"\bpm\b", "place marker"),
    (r"\bMB(\d)\b", r"bobble of \1"),
    (r"\bw&t\b", "wrap and turn"),
    (r"\bk(\d+)\b", r"knit \1"),
    (r"\bp(\d+)\b", r"purl \1"),
)
_LETTERS = {" C": " cross", " T": " twist", "crossP": "cross with purl", "twistP": "twist with purl"}
_SIDES = {"L": "left", "R": "right"}


def spoken(text: str) -> str:
    """A row's words to be read aloud.

    >>> spoken("k3, (p2, 2/2 LC) 3 times, 2/1 RPC, M1L")
    'knit 3, 3 times: purl 2, 2 over 2, left cross; 2 over 1, right cross with purl, make 1, left'
    """
    for pattern, words in _WORDS:
        text = re.sub(pattern, words, text)
    for short, long in _LETTERS.items():
        text = re.sub(rf"{short}(?=[P,;)]|$)", long, text)
    text = re.sub(r"(?<=, )([LR])(?=[,;)]|$)", lambda side: _SIDES[side[1]], text)
    return re.sub(r"\(([^()]*)\) (\d+ times)(?:,|$)", r"\2: \1;", text).rstrip(";").replace("*", "")
