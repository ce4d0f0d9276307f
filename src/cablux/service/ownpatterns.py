"""A knitter's own patterns as they are exchanged: the chart as text, and what it is for."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterable
from functools import lru_cache
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from ..core.errors import IllegalPiece
from ..core.library import FamilyName, Pattern, Use, find_pattern
from ..core.notation import format_chart, parse_chart
from ..core.notation.audit import check

OWN = "own-"  # no pattern of the library begins so
PLAIN = r"^[^<>\x00-\x1f]*$"  # plain words: no markup, no control characters
MAX_CHART = 100_000  # characters, our choice: ten times the largest panel anyone has shown us

OwnId = Annotated[str, StringConstraints(pattern=r"^own-[a-z0-9-]{1,56}$")]
PLAIN_LINES = r"^[^<>\x00-\x08\x0b-\x1f]*$"  # the same, over several lines
ChartText = Annotated[str, StringConstraints(max_length=MAX_CHART, pattern=PLAIN_LINES)]


class PatternFile(BaseModel):
    """A pattern of one's own: its id, its chart as text, what it may be used as, its family and a note."""

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True)

    id: OwnId
    chart: ChartText
    uses: Annotated[tuple[Use, ...], Field(min_length=1, max_length=4)] = ("panel",)
    family: FamilyName = "rope"
    note: Annotated[str, StringConstraints(max_length=400, pattern=PLAIN)] = ""

    def pattern(self) -> Pattern:
        """The core's pattern. Raises InvalidText, AmbiguousText or IllegalChart."""
        return _pattern(self)


@lru_cache(maxsize=256)
def _pattern(file: PatternFile) -> Pattern:
    return Pattern(file.id, check(parse_chart(file.chart)), file.uses, file.family, (), file.note)


def pattern_file(pattern: Pattern) -> PatternFile:
    """The pattern as it is exchanged, under an id that its content gives: two that differ never share one."""
    chart = format_chart(pattern.chart)
    body = "\n".join((chart, *pattern.uses, pattern.family, pattern.note))
    slug = re.sub(r"[^a-z0-9]+", "-", pattern.name.lower()).strip("-")[:40].strip("-") or "panel"
    own = f"{OWN}{slug}-{hashlib.sha256(body.encode()).hexdigest()[:8]}"
    return PatternFile(id=own, chart=chart, uses=pattern.uses, family=pattern.family, note=pattern.note)


def find_among(own: Iterable[PatternFile], pattern_id: str) -> Pattern:
    """The pattern of that id, from those that came along or from the library. Raises IllegalPiece."""
    for file in own:
        if file.id == pattern_id:
            return file.pattern()
    if pattern_id.startswith(OWN):
        raise IllegalPiece(f"The project uses the panel “{pattern_id}”, but its chart did not come along.")
    return find_pattern(pattern_id)


def own_files(patterns: Iterable[Pattern]) -> tuple[PatternFile, ...]:
    """What has to come along with a project: the patterns that are not of the library, each once."""
    own = {p.id: p for p in patterns if p.id.startswith(OWN)}
    return tuple(
        PatternFile(id=p.id, chart=format_chart(p.chart), uses=p.uses, family=p.family, note=p.note)
        for p in own.values()
    )
