"""The forms of the swatch book: text as a person types it, read with a sentence for every mistake."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import cast, get_args

from pydantic import ValidationError

from ..core.errors import IllegalPiece
from ..core.gauge import FIBRES, STATES, Fibre, State
from ..core.library import Pattern
from ..core.units import Unit
from .ownpatterns import PLAIN, PLAIN_LINES, own_files
from .swatchfile import KINDS, PRECISION, Kind, Precision, SwatchFile, SwatchPart, SwatchReading

Find = Callable[[str], Pattern]

# Categories of a published yarn standard (Craft Yarn Council), by their numbers; the names are the trade's.
WEIGHTS = {
    -1: "not known",
    0: "0 · lace",
    1: "1 · super fine",
    2: "2 · fine",
    3: "3 · light",
    4: "4 · medium",
    5: "5 · bulky",
    6: "6 · super bulky",
    7: "7 · jumbo",
}


@dataclass(frozen=True)
class SwatchForm:
    """The facts of a swatch as typed; `patterns` and `stitches` go together, empty ones are left out."""

    name: str = ""
    unit: str = "cm"
    yarn: str = ""
    fibre: str = "wool"
    weight: str = "-1"
    strands: str = "1"
    needle: str = "5"
    rows: str = "40"
    note: str = ""
    patterns: tuple[str, ...] = ("stockinette",)
    stitches: tuple[str, ...] = ("30",)


@dataclass(frozen=True)
class ReadingForm:
    """A reading as typed: several places are parted by commas or spaces."""

    kind: str = "stitches"
    state: str = "washed"
    part: str = "0"
    values: str = ""
    over: str = "10"
    precision: str = "half"


class _Reader:
    """Reads fields one by one and gathers what is wrong with them."""

    def __init__(self) -> None:
        self.problems: list[str] = []

    def number(self, text: str, what: str, *, whole: bool = False) -> float:
        try:
            value = float(text.strip().replace(",", "."))
        except ValueError:
            value = math.nan
        if not math.isfinite(value) or value <= 0 or (whole and value != int(value)):
            kind = "a whole number" if whole else "a number"
            self.problems.append(f"{what} must be {kind} above zero; “{text.strip()[:20]}” is not.")
            return 1.0
        return value

    def words(self, text: str, what: str, most: int, *, lines: bool = False) -> str:
        clean = text.strip() if lines else " ".join(text.split())
        if len(clean) > most:
            self.problems.append(f"{what} is longer than {most} letters.")
        if not re.fullmatch(PLAIN_LINES if lines else PLAIN, clean):
            self.problems.append(f"{what} holds markup; write it in plain words, without < and >.")
        return clean

    def choice(self, text: str, what: str, choices: tuple[str, ...]) -> str:
        if text not in choices:
            self.problems.append(f"{what} is one of {', '.join(choices)}.")
            return choices[0]
        return text

    def done(self) -> None:
        if self.problems:
            raise IllegalPiece(" ".join(self.problems))


def swatch_file(form: SwatchForm, find: Find, before: SwatchFile | None = None) -> SwatchFile:
    """A swatch from the form, with the readings and the photo it had `before`. Raises IllegalPiece or NotFound."""
    read = _Reader()
    name = read.words(form.name, "The name", 80)
    if not name:
        read.problems.append("Give the swatch a name, such as “Grey wool, braid”.")
    pairs = [(p, s) for p, s in zip(form.patterns, form.stitches, strict=False) if p and s.strip()]
    if not pairs:
        read.problems.append("Say at least one pattern and how many of its stitches you cast on.")
    parts = tuple(
        SwatchPart(pattern=pattern, stitches=int(read.number(count, "The stitches of a pattern", whole=True)))
        for pattern, count in pairs
    )
    values = {
        "name": name,
        "unit": cast(Unit, read.choice(form.unit, "The unit", ("cm", "in"))),
        "yarn": read.words(form.yarn, "The yarn", 200),
        "fibre": cast(Fibre, read.choice(form.fibre, "The fibre", FIBRES)),
        "weight": int(read.choice(form.weight, "The weight", tuple(map(str, WEIGHTS)))),
        "strands": int(read.number(form.strands, "The number of strands", whole=True)),
        "needle": read.number(form.needle, "The needle's size in mm"),
        "rows": int(read.number(form.rows, "The number of rows", whole=True)),
        "note": read.words(form.note, "The note", 2000, lines=True),
        "parts": parts,
    }
    read.done()
    own = own_files(find(p.pattern) for p in parts)
    kept = {"readings": before.readings, "photo": before.photo} if before else {}
    return valid_swatch({**values, **kept, "patterns": own})


def valid_swatch(values: Mapping[str, object]) -> SwatchFile:
    """A swatch from its fields. Raises IllegalPiece with what does not fit."""
    try:
        return SwatchFile.model_validate(values)
    except ValidationError as error:
        raise IllegalPiece(" ".join(_sentence(fault) for fault in error.errors())) from None


def swatch_form(file: SwatchFile) -> SwatchForm:
    """The form filled from a swatch."""
    return SwatchForm(
        file.name,
        file.unit,
        file.yarn,
        file.fibre,
        str(file.weight),
        str(file.strands),
        f"{file.needle:g}",
        str(file.rows),
        file.note,
        tuple(p.pattern for p in file.parts),
        tuple(str(p.stitches) for p in file.parts),
    )


def swatch_reading(form: ReadingForm) -> SwatchReading:
    """A reading from the form. Raises IllegalPiece."""
    read = _Reader()
    kind = cast(Kind, read.choice(form.kind, "What was measured", get_args(Kind)))
    texts = [t for t in re.split(r"[;\s]+|,\s+", form.values.strip()) if t]
    if not texts:
        read.problems.append(
            "Write what you read, in one place or several: “20, 20.5, 19.75”."
            if kind in ("stitches", "rows")
            else "Write the length you measured, in one place or several."
        )
    if len(texts) > 12:
        read.problems.append("Twelve places are the most that one reading takes.")
    what = KINDS[kind].capitalize()
    values = tuple(read.number(text, f"{what}: each place") for text in texts[:12])
    counted = kind in ("stitches", "rows")
    over = read.number(form.over, "The length you counted over") if counted else 0.0
    part = int(read.choice(form.part, "The pattern", tuple(map(str, range(12)))))
    state = cast(State, read.choice(form.state, "The state", STATES))
    precision = cast(Precision, read.choice(form.precision, "How finely you read", tuple(PRECISION)))
    read.done()
    try:
        return SwatchReading(kind=kind, state=state, part=part, values=values, over=over, precision=precision)
    except ValidationError as error:
        raise IllegalPiece(" ".join(_sentence(fault) for fault in error.errors())) from None


_FIELDS = {"needle": "The needle’s size in mm", "rows": "The number of rows", "strands": "The number of strands"}


def _sentence(fault: object) -> str:
    data = cast(dict[str, object], fault)
    place = cast(tuple[object, ...], data["loc"])
    what = _FIELDS.get(str(place[0]), f"“{place[0]}”") if place else "The swatch"
    text = str(data["msg"]).removeprefix("Value error, ")
    return f"{what}: {text[:1].lower()}{text[1:]}."
