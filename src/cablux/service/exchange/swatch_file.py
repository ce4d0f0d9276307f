"""A swatch as it is stored and exchanged: what was knitted, in what, and what was read off it."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, model_validator

from ...core.errors import IllegalPiece
from ...core.gauge import Along, Fibre, Part, Reading, State
from ...core.units import Unit, to_mm
from ..forms import PLAIN, PLAIN_LINES
from .own_pattern import PatternFile, find_among

Kind = Literal["stitches", "rows", "across", "width", "height"]
KINDS: dict[Kind, str] = {
    "stitches": "stitches counted over a length",
    "rows": "rows counted over a length",
    "across": "the width of one pattern, edge to edge",
    "width": "the width of the whole swatch",
    "height": "the height of the whole swatch",
}
Precision = Literal["whole", "half", "quarter"]
PRECISION: dict[Precision, float] = {"whole": 1.0, "half": 0.5, "quarter": 0.25}

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80, pattern=PLAIN)]
Words = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200, pattern=PLAIN)]
Note = Annotated[str, StringConstraints(max_length=2000, pattern=PLAIN_LINES)]
Id = Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,60}$")]
Value = Annotated[float, Field(gt=0, le=5000, allow_inf_nan=False)]


class StrictModel(BaseModel):
    """A part of a file: nothing in it that we do not know, nothing read for what it is not."""

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True)


class SwatchPart(StrictModel):
    """A pattern of the swatch and how many of its stitches; parts stand side by side, from the right."""

    pattern: Id
    stitches: Annotated[int, Field(ge=1, le=400)]


class SwatchReading(StrictModel):
    """What was read, in one place or several.

    `values` are counts over the length `over` (stitches, rows), or lengths (across, width, height); lengths are in
    the swatch's unit. `part` says which pattern was counted or measured, from 0. `precision`: to what part of a
    stitch or row counts were read.
    """

    kind: Kind
    state: State = "washed"
    part: Annotated[int, Field(ge=0, le=11)] = 0
    values: Annotated[tuple[Value, ...], Field(min_length=1, max_length=12)]
    over: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 0.0
    precision: Precision = "half"

    @property
    def mean(self) -> float:
        """The mean of the places."""
        return sum(self.values) / len(self.values)

    @property
    def counted(self) -> bool:
        """Whether stitches or rows were counted over a length."""
        return self.kind in ("stitches", "rows")


class SwatchFile(StrictModel):
    """A swatch. `weight` is the published yarn category 0 to 7, −1 where unknown; `photo` a kept photo's id."""

    cablux_swatch: Literal[1] = 1
    name: Name
    unit: Unit = "cm"
    yarn: Words = ""
    fibre: Fibre = "wool"
    weight: Annotated[int, Field(ge=-1, le=7)] = -1
    strands: Annotated[int, Field(ge=1, le=6)] = 1
    needle: Annotated[float, Field(ge=1, le=30, allow_inf_nan=False)] = 5.0
    rows: Annotated[int, Field(ge=1, le=1000)] = 30
    parts: Annotated[tuple[SwatchPart, ...], Field(min_length=1, max_length=12)]
    readings: Annotated[tuple[SwatchReading, ...], Field(max_length=40)] = ()
    note: Note = ""
    photo: Annotated[str, StringConstraints(pattern=r"^([0-9a-f]{64})?$")] = ""
    patterns: Annotated[tuple[PatternFile, ...], Field(max_length=12)] = ()

    @model_validator(mode="after")
    def _parts_exist(self) -> SwatchFile:
        for reading in self.readings:
            if reading.part >= len(self.parts):
                raise ValueError(f"a measurement is of pattern {reading.part + 1}, but there are {len(self.parts)}")
            if reading.counted and reading.over <= 0:
                raise ValueError("a count needs the length over which it was counted")
        return self

    @property
    def cast_on(self) -> int:
        """Stitches on the needle: those of all parts."""
        return sum(p.stitches for p in self.parts)

    @property
    def yarn_key(self) -> str:
        """The same for swatches in one yarn, held alike, on one needle."""
        return f"{' '.join(self.yarn.casefold().split())}, {self.strands} on {self.needle:g}"

    def core_parts(self) -> tuple[Part, ...]:
        """The parts with their patterns. Raises IllegalPiece for a pattern nobody knows."""
        return _core_parts(self)

    def core_readings(self, yarn: str = "") -> tuple[Reading, ...]:
        """The readings for the estimate; `yarn` names another yarn than the piece's. Raises IllegalPiece."""
        return tuple(self._core(reading, yarn) for reading in self.readings)

    def _core(self, reading: SwatchReading, yarn: str) -> Reading:
        parts = self.core_parts()
        one = parts[reading.part]
        along: Along = "height" if reading.kind in ("rows", "height") else "width"
        name = f"{self.name}, {KINDS[reading.kind]}"
        if reading.counted:
            counted = Part(pattern=one.pattern, count=reading.mean, whole=one.whole)
            return Reading(
                parts=(counted,),
                mm=to_mm(reading.over, self.unit),
                along=along,
                precision=PRECISION[reading.precision],
                places=len(reading.values),
                state=reading.state,
                yarn=yarn,
                name=name,
            )
        if reading.kind == "height":
            measured = tuple(Part(pattern=p.pattern, count=float(self.rows), whole=p.whole) for p in parts)
        else:
            measured = (one,) if reading.kind == "across" else parts
        length = to_mm(reading.mean, self.unit)
        return Reading(
            parts=measured,
            mm=length,
            along=along,
            precision=0.0,
            places=len(reading.values),
            state=reading.state,
            yarn=yarn,
            name=name,
        )


@lru_cache(maxsize=256)
def _core_parts(file: SwatchFile) -> tuple[Part, ...]:
    def parts() -> Iterator[Part]:
        for part in file.parts:
            pattern = find_among(file.patterns, part.pattern)
            whole = "panel" in pattern.uses
            if whole and pattern.chart.repeats_for(part.stitches) is None:
                raise IllegalPiece(
                    f"{pattern.name} needs {pattern.chart.size_text} stitches; the swatch gives it {part.stitches}."
                )
            yield Part(pattern=pattern, count=float(part.stitches), whole=whole)

    return tuple(parts())
