"""Loads the library's pattern files, and refuses a file whose chart does not pass the audit."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from importlib import resources
from typing import Literal, get_args

from ..errors import IllegalPiece, InvalidText, Problem
from ..notation import Chart, parse_chart
from ..notation.audit import audited_chart

Use = Literal["panel", "background", "edge", "border"]
FamilyName = Literal[
    "ground", "edge", "texture", "rope", "braid", "wave", "honeycomb", "diamond", "lattice", "twist", "lace", "figure"
]

_FIELDS = {"uses", "family", "tags", "note", "chart"}


@dataclass(frozen=True, repr=False, kw_only=True)
class StitchPattern:
    """A library pattern: its chart, what it is used for, and a note in plain words."""

    id: str
    chart: Chart
    uses: tuple[Use, ...]
    family: FamilyName
    tags: tuple[str, ...] = ()
    note: str = ""

    def __repr__(self) -> str:  # a chart has hundreds of operations
        return f"<StitchPattern {self.id}>"

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


def load_pattern(pattern_id: str, text: str) -> StitchPattern:
    """A pattern from the text of its file. Raises InvalidText or IllegalChart."""
    data = tomllib.loads(text)
    wrong = sorted(set(data) ^ _FIELDS)
    if wrong:
        raise InvalidText((Problem(message=f"{pattern_id}: fields missing or unknown: {', '.join(wrong)}."),))
    bad_uses = sorted(set(data["uses"]) - set(get_args(Use)))
    if bad_uses or data["family"] not in get_args(FamilyName):
        raise InvalidText((Problem(message=f"{pattern_id}: unknown use or family: {bad_uses or data['family']}."),))
    chart = audited_chart(parse_chart(data["chart"]))
    return StitchPattern(
        id=pattern_id,
        chart=chart,
        uses=tuple(data["uses"]),
        family=data["family"],
        tags=tuple(data["tags"]),
        note=data["note"],
    )


@lru_cache(maxsize=1)
def _ids() -> tuple[str, ...]:
    folder = resources.files(__package__) / "data"
    return tuple(sorted(f.name[:-5] for f in folder.iterdir() if f.name.endswith(".toml")))


@cache
def _loaded(pattern_id: str) -> StitchPattern:
    file = resources.files(__package__) / "data" / f"{pattern_id}.toml"
    return load_pattern(pattern_id, file.read_text("utf-8"))


class _Library(Mapping[str, StitchPattern]):
    """The whole library by id; each file is read when its pattern is first asked for."""

    def __getitem__(self, key: str) -> StitchPattern:
        if key not in _ids():
            raise KeyError(key)
        return _loaded(key)

    def __iter__(self) -> Iterator[str]:
        return iter(_ids())

    def __len__(self) -> int:
        return len(_ids())


LIBRARY: Mapping[str, StitchPattern] = _Library()


def find_pattern(pattern_id: str) -> StitchPattern:
    """The pattern of that id, or IllegalPiece with a sentence."""
    try:
        return LIBRARY[pattern_id]
    except KeyError:
        raise IllegalPiece(f"The drawer has no pattern “{pattern_id[:60]}”.") from None
