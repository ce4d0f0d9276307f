"""Loads the library's pattern files, and refuses a file whose chart does not pass the audit."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources
from types import MappingProxyType
from typing import Literal, get_args

from ..errors import IllegalPiece, InvalidText, Problem
from ..notation import Chart, parse_chart
from ..notation.audit import check

Use = Literal["panel", "background", "edge", "border"]
FamilyName = Literal[
    "ground", "edge", "texture", "rope", "braid", "wave", "honeycomb", "diamond", "lattice", "twist", "lace", "figure"
]

_FIELDS = {"uses", "family", "tags", "note", "chart"}


@dataclass(frozen=True)
class Pattern:
    """A library pattern: its chart, what it is used for, and a note in plain words."""

    id: str
    chart: Chart
    uses: tuple[Use, ...]
    family: FamilyName
    tags: tuple[str, ...] = ()
    note: str = ""

    def __hash__(self) -> int:  # asked for at every look into a cache
        return hash((self.id, self.chart))

    @property
    def name(self) -> str:
        """The trade's name."""
        return self.chart.name

    @property
    def least(self) -> int:
        """The fewest stitches it can stand on: one repeat."""
        return self.chart.width(1)


def load_pattern(pattern_id: str, text: str) -> Pattern:
    """A pattern from the text of its file. Raises InvalidText or IllegalChart."""
    data = tomllib.loads(text)
    wrong = sorted(set(data) ^ _FIELDS)
    if wrong:
        raise InvalidText((Problem(f"{pattern_id}: fields missing or unknown: {', '.join(wrong)}."),))
    bad_uses = sorted(set(data["uses"]) - set(get_args(Use)))
    if bad_uses or data["family"] not in get_args(FamilyName):
        raise InvalidText((Problem(f"{pattern_id}: unknown use or family: {bad_uses or data['family']}."),))
    chart = check(parse_chart(data["chart"]))
    return Pattern(pattern_id, chart, tuple(data["uses"]), data["family"], tuple(data["tags"]), data["note"])


@lru_cache(maxsize=1)
def _all() -> Mapping[str, Pattern]:
    folder = resources.files(__package__) / "data"
    files = sorted((f for f in folder.iterdir() if f.name.endswith(".toml")), key=lambda f: f.name)
    loaded = {f.name[:-5]: load_pattern(f.name[:-5], f.read_text("utf-8")) for f in files}
    return MappingProxyType(loaded)


class _Library(Mapping[str, Pattern]):
    """The whole library by id, read on first use."""

    def __getitem__(self, key: str) -> Pattern:
        return _all()[key]

    def __iter__(self) -> Iterator[str]:
        return iter(_all())

    def __len__(self) -> int:
        return len(_all())


LIBRARY: Mapping[str, Pattern] = _Library()


def find_pattern(pattern_id: str) -> Pattern:
    """The pattern of that id, or IllegalPiece with a sentence."""
    try:
        return LIBRARY[pattern_id]
    except KeyError:
        raise IllegalPiece(f"The drawer has no pattern “{pattern_id[:60]}”.") from None
