"""The forms of the swatch book: text as a person types it, read with a sentence for every mistake."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import cast, get_args

from pydantic import ValidationError

from ...core.errors import IllegalPiece
from ...core.gauge import FIBRES, STATES, Fibre, State
from ...core.library import StitchPattern
from ...core.units import Unit
from ..exchange import PRECISION, Kind, Precision, SwatchFile, SwatchPart, SwatchReading, own_files
from ..forms import FormReader, field_faults

Find = Callable[[str], StitchPattern]

# Categories of the Standard Yarn Weight System (Craft Yarn Council), by their numbers; the names are the trade's.
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


@dataclass(frozen=True, kw_only=True)
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


@dataclass(frozen=True, kw_only=True)
class ReadingForm:
    """A reading as typed: several places are parted by commas or spaces."""

    kind: str = "stitches"
    state: str = "washed"
    part: str = "0"
    values: str = ""
    over: str = "10"
    precision: str = "half"


def swatch_file(form: SwatchForm, find: Find, before: SwatchFile | None = None) -> SwatchFile:
    """A swatch from the form, with the readings and the photo it had `before`. Raises IllegalPiece or NotFound."""
    read = FormReader()
    name = read.words(form.name, "The name", "name", most=80)
    if not name:
        read.refuse("name", "Give the swatch a name, such as “Grey wool, braid”.")
    pairs = [(p, s) for p, s in zip(form.patterns, form.stitches, strict=False) if p and s.strip()]
    if not pairs:
        read.refuse("pattern", "Choose at least one pattern, and type how many stitches of it you cast on.")
    parts = tuple(
        SwatchPart(
            pattern=find(pattern).id, stitches=read.count(count, "The stitches of a pattern", "stitches", most=400)
        )
        for pattern, count in pairs
    )
    values = {
        "name": name,
        "unit": cast(Unit, read.choice(form.unit, "The unit", "unit", choices=("cm", "in"))),
        "yarn": read.words(form.yarn, "The yarn", "yarn", most=200),
        "fibre": cast(Fibre, read.choice(form.fibre, "The fibre", "fibre", choices=FIBRES)),
        "weight": int(read.choice(form.weight, "The weight", "weight", choices=tuple(map(str, WEIGHTS)))),
        "strands": read.count(form.strands, "Strands", "strands", most=6),
        "needle": read.needle(form.needle, "needle"),
        "rows": read.count(form.rows, "Rows knitted", "rows", most=1000),
        "note": read.words(form.note, "The note", "note", most=2000, lines=True),
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
        raise IllegalPiece(" ".join(field_faults(error, "The swatch"))) from None


def swatch_form(file: SwatchFile) -> SwatchForm:
    """The form filled from a swatch."""
    return SwatchForm(
        name=file.name,
        unit=file.unit,
        yarn=file.yarn,
        fibre=file.fibre,
        weight=str(file.weight),
        strands=str(file.strands),
        needle=f"{file.needle:g} mm",
        rows=str(file.rows),
        note=file.note,
        patterns=tuple(p.pattern for p in file.parts),
        stitches=tuple(str(p.stitches) for p in file.parts),
    )


def swatch_reading(form: ReadingForm) -> SwatchReading:
    """A reading from the form. Raises IllegalPiece."""
    read = FormReader()
    kind = cast(Kind, read.choice(form.kind, "What you measured", "kind", choices=get_args(Kind)))
    counted = kind in ("stitches", "rows")
    example = "20, 20.5, 19.75" if counted else "10.5, 10.4"
    values = read.places(
        form.values, "What you counted" if counted else "The length you measured", "values", example=example
    )
    over = read.number(form.over, "The length you counted over", "over", most=1000) if counted else 0.0
    part = int(read.choice(form.part, "The pattern", "part", choices=tuple(map(str, range(12)))))
    state = cast(State, read.choice(form.state, "The state", "state", choices=STATES))
    precision = cast(
        Precision, read.choice(form.precision, "How finely you read it", "precision", choices=tuple(PRECISION))
    )
    read.done()
    return SwatchReading(kind=kind, state=state, part=part, values=values, over=over, precision=precision)
