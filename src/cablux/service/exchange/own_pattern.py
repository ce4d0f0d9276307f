"""A knitter's own patterns as they are exchanged: the chart as text, and what it is for."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterable
from functools import lru_cache
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from ...core.errors import IllegalPiece
from ...core.library import FamilyName, StitchPattern, Use, find_pattern
from ...core.notation import Chart, format_chart, parse_chart
from ...core.notation.audit import audited_chart
from ..forms import PLAIN, PLAIN_LINES

OWN = "own-"  # no pattern of the library begins so
MAX_CHART = 100_000  # characters, our choice: ten times the largest panel anyone has shown us

OwnId = Annotated[str, StringConstraints(pattern=r"^own-[a-z0-9-]{1,56}$")]
ChartText = Annotated[str, StringConstraints(max_length=MAX_CHART, pattern=PLAIN_LINES)]


class PanelFile(BaseModel):
    """A panel as it is stored, finished or not: its chart can be read, but its counts may still disagree."""

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True)

    chart: ChartText
    uses: Annotated[tuple[Use, ...], Field(min_length=1, max_length=4)] = ("panel",)
    family: FamilyName = "rope"
    note: Annotated[str, StringConstraints(max_length=400, pattern=PLAIN)] = ""

    def read(self) -> Chart:
        """Its chart, right or wrong. Raises InvalidText or AmbiguousText."""
        return _read(self.chart)

    def with_chart(self, chart: Chart) -> PanelFile:
        """The same panel with another chart."""
        return self.model_copy(update={"chart": format_chart(chart)})

    def finished(self) -> PatternFile:
        """The pattern that it makes, under an id that its content gives: two that differ never share one."""
        body = "\n".join((self.chart, *self.uses, self.family, self.note))
        slug = re.sub(r"[^a-z0-9]+", "-", self.read().name.lower()).strip("-")[:40].strip("-") or "panel"
        own = f"{OWN}{slug}-{hashlib.sha256(body.encode()).hexdigest()[:8]}"
        return PatternFile(id=own, **self.model_dump())


class PatternFile(PanelFile):
    """A finished pattern of one's own as it is exchanged: its id, its chart as text, its uses, family and a note."""

    id: OwnId

    def pattern(self) -> StitchPattern:
        """The core's pattern. Raises InvalidText, AmbiguousText or IllegalChart."""
        return _pattern(self)


@lru_cache(maxsize=256)
def _read(text: str) -> Chart:
    return parse_chart(text)


@lru_cache(maxsize=256)
def _pattern(file: PatternFile) -> StitchPattern:
    return StitchPattern(
        id=file.id, chart=audited_chart(file.read()), uses=file.uses, family=file.family, tags=(), note=file.note
    )


def find_among(own: Iterable[PatternFile], pattern_id: str) -> StitchPattern:
    """The pattern of that id, from those that came along or from the library. Raises IllegalPiece."""
    for file in own:
        if file.id == pattern_id:
            return file.pattern()
    if pattern_id.startswith(OWN):
        raise IllegalPiece(f"The project uses the panel “{pattern_id}”, but its chart did not come along.")
    return find_pattern(pattern_id)


def own_files(patterns: Iterable[StitchPattern]) -> tuple[PatternFile, ...]:
    """What has to come along with a project: the patterns that are not of the library, each once."""
    own = {p.id: p for p in patterns if p.id.startswith(OWN)}
    return tuple(
        PatternFile(id=p.id, chart=format_chart(p.chart), uses=p.uses, family=p.family, note=p.note)
        for p in own.values()
    )
