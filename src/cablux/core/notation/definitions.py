"""Names that a text defines for itself, as books do: “Cr5R: slip 3 to cn and hold in back, k2, then p1, k2 from cn”."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from .operations import Op

Ops = tuple[Op, ...]

_NAME = r"(?:\d+/\d+(?:/\d+)?\s*[a-z]{1,4}|\d+[a-z]{1,4}|[a-z][a-z0-9&/-]{0,11})"
_WORDS = r"[a-z][a-z0-9 /-]{1,40}"
_BODY = (
    r"(?:\(|(?:over\b|s(?:l|lip)?\b|sl\d|knit|purl|[kp]\d|[kp]\b|skip|miss|make|work|with|bring|insert|yo\b|m1|into))"
)
DEFINITION = re.compile(
    rf"(?:(?<=^)|(?<=\n))[ \t]*(?:[•*·-][ \t]*)?(?:(?P<long>{_WORDS})[ \t]+\((?P<short>{_NAME})\)|(?P<name>{_NAME})"
    rf"(?:[ \t]+\((?P<said>[^()\n]{{1,60}})\))?)[ \t]*(?P<sign>[:=]|[ \t][–—-])[ \t]*(?={_BODY})",
    re.I,
)
_NOT_NAMES = re.compile(
    r"(?:row|rows|rnd|rnds|round|rounds|r|rd|name|multiple|allow|rs|ws|note|notes|set|setup|foundation|next|all|every|"
    r"cast|co|k|p|\d+(?:st|nd|rd|th)?)$",
    re.I,
)


@dataclass(frozen=True)
class Definition:
    """A name as it is written, what it stands for, and where it was defined (a position from 0)."""

    name: str
    ops: Ops
    at: int = field(default=0, compare=False)


@dataclass(frozen=True)
class Names:
    """The names that a text defines, found before all others, whatever their case."""

    ops: Mapping[str, Ops] = field(default_factory=dict)

    def __bool__(self) -> bool:
        return bool(self.ops)

    @property
    def words(self) -> tuple[str, ...]:
        """The names."""
        return tuple(self.ops)

    @cached_property
    def _pattern(self) -> re.Pattern[str]:
        longest = sorted(self.ops, key=len, reverse=True)
        return re.compile(rf"({'|'.join(map(_loose, longest))})(?![a-z\d&/])", re.I)

    @cached_property
    def _by_bare(self) -> dict[str, Ops]:
        return {_bare(name): ops for name, ops in self.ops.items()}

    def match(self, text: str, at: int, end: int) -> tuple[Ops, int] | None:
        """What the name at a place stands for, and where it ends; None if none of these stands there."""
        found = self._pattern.match(text, at, end) if self.ops else None
        return (self._by_bare[_bare(found[0])], found.end()) if found else None


NO_NAMES = Names()


def _bare(name: str) -> str:
    return re.sub(r"[\s-]+", "", name.lower())


def _loose(name: str) -> str:
    """The name as a pattern: spaces and hyphens in it may be left out."""
    return r"[\s-]*".join(re.escape(part) for part in re.split(r"[\s-]+", name))


def defined_names(found: re.Match[str]) -> tuple[str, ...]:
    """The names that a line defines; none where what stands before its colon is no name."""
    names = [found["short"] or found["name"]]
    if found["said"] and re.fullmatch(_NAME, found["said"], re.I) and re.search(r"\d", found["said"]):
        names.append(found["said"])
    return tuple(name for name in names if name and not _NOT_NAMES.match(name))
