"""The phrases in which people write a row: what says nothing, how a repeat ends, and what stands for whole rows."""

from __future__ import annotations

import re

_FILL_WORD = (
    r"(?:and|then|work(?:ing|ed)?|next|sts?|stitch(?:es)?|the|all|over|of|row|rnd|round|cn|(?:slip|place|sl)\s+marker|slm|sm|pm"
    r"|end(?:ing)?(?:\s+with)?|across)(?![a-z\d&-])"
)
SPACE = re.compile(rf"(?:[\s,;.:]|\#[^\n]*|{_FILL_WORD})+", re.I)
_STS = r"(?:\s*(?:sts?|stitch(?:es)?)(?![a-z]))"
_UNTIL = (
    rf"(?:(?:to|until)\s+(?:the\s+)?(?:last\s+(?P<last>\d+){_STS}?(?:\s+(?:remains?|rem))?"
    rf"|(?P<remain>\d+){_STS}?\s+(?:remain(?:s|ing)?|rem|are\s+left|left)"
    rf"|(?P<one>last\s+(?:st|stitch)(?![a-z]))|end(?:\s+of\s+(?:the\s+)?(?:row|rnd|round))?)"
    rf"|across(?:\s+(?:the\s+)?(?:row|rnd|round|all\s+sts))?|around)(?![a-z\d])"
)
_COUNT = (
    r"(?:(?P<n>\d+|two|three|four|five|six)\s+(?P<more>more\s+)?times?(?P<after>\s+more)?"
    r"|(?P<word>twice|once\s+more)|(?P<once>once)|(?P<times>\d+)\s*x|x\s*(?P<x>\d+))"
)
_STARS = r"(?:\s*(?:from\s+|between\s+)?\*(?:\s*(?:to|and)\s*\*|s)?)"
# “rep from *”; inside an asterisk also a bare “repeat”, but not “repeat rows 1 and 2”
REP = re.compile(
    rf"rep(?:eat)?\b\.?(?:{_STARS}|(?!\s+(?:row|rnd|round|these|last)))(?:[\s,]*(?:{_COUNT}|{_UNTIL}))?(?![a-z\d])",
    re.I,
)
CLOSE_STAR = re.compile(
    rf"\*(?:[\s,;.]*rep(?:eat)?\b\.?{_STARS}?)?[\s,]*(?:{_COUNT}|{_UNTIL}|(?=[,;.\s]*$)|(?=[,;.]))",
    re.I,
)
TIMES = re.compile(rf"\s*(?:{_COUNT}|{_UNTIL})(?![a-z\d])", re.I)
INTO_ONE = re.compile(r"\s*(?:all\s+)?in(?:to)?\s+(?:the\s+)?(?:same|next|one|1)(?:\s+(?:st|stitch))?(?![a-z])", re.I)
FILL = re.compile(rf"(k(?:nit)?|p(?:url)?)(?:\s+(?:all|every){_STS}?)?\s*(tbl\s+)?({_UNTIL})", re.I)
_ALL = r"(?:all|every|each|the|even|plain|back|across|around|this|of|in|row|rnd|round|sts?|stitch(?:es)?)"
WHOLE = re.compile(
    rf"(knit(?:\s+{_ALL}\b)*|purl(?:\s+{_ALL}\b)*|[kp](?:\s+{_ALL}\b)+)\.?\s*(?=[.,;]*\s*(?:\#[^\n]*)?$)", re.I
)
OVER_NEXT = re.compile(rf"(?:over|across|on)\s+(?:the\s+)?next\s+(\d+){_STS}", re.I)
AS_IT_IS = re.compile(
    r"(?:work\s+)?(?:all\s+)?(?P<v1>k|p)(?:nit|url)?\s+(?:all\s+)?(?:the\s+)?(?P<n1>k|p)(?:nits?|urls?|s)?\s*(?:sts?|stitch(?:es)?)?"
    r"\s*(?:and|,|&)?\s*(?P<v2>k|p)(?:nit|url)?\s+(?:all\s+)?(?:the\s+)?(?P<n2>k|p)(?:nits?|urls?|s)?\s*(?:sts?|stitch(?:es)?)?(?![a-z\d])",
    re.I,
)
AS_SET = re.compile(
    r"(?:work\s+)?(?:all\s+)?(?:the\s+)?(?:sts?|stitch(?:es)?)?\s*as\s+"
    r"(?:they\s+(?:appear|present(?:\s+themselves)?|face(?:\s+you)?|come|lie|look)|set|established)(?![a-z])",
    re.I,
)
WORD = re.compile(r"[^\s,;()\[\]*]+")
