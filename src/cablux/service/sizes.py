"""The form of size and yarn: text as a person types it, read with a sentence for every mistake."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import cast

from ..core.errors import IllegalPiece
from ..core.gauge import FIBRES, STATES, Fibre, State
from ..core.units import Unit
from ..render.yarn import UNDYED
from .files import GaugeFile, ProjectFile, SizeFile, fresh_project
from .ownpatterns import PLAIN

THICK = {"0.85": "airy", "1": "as usual", "1.12": "close"}


@dataclass(frozen=True)
class SizeForm:
    """The fields as typed."""

    name: str
    unit: str
    yarn: str
    width: str
    height: str
    tolerance: str
    stitches: str
    rows: str
    source: str = "counted"
    fibre: str = "wool"
    needle: str = "5"
    finish: str = "washed"
    colour: str = UNDYED
    thick: str = "1"


# a throw of a common size (common practice: 110 to 130 by 150 cm) in a worsted-weight gauge
EMPTY = SizeForm("", "cm", "", "110", "150", "1.5", "18", "25")


@dataclass(frozen=True)
class _Read:
    name: str
    unit: Unit
    yarn: str
    width: float
    height: float
    tolerance: float
    stitches: float
    rows: float
    band: bool
    fibre: Fibre
    needle: float
    finish: State
    colour: str
    thick: float


def _read(form: SizeForm) -> _Read:
    problems: list[str] = []
    name = " ".join(form.name.split())
    if not 1 <= len(name) <= 80:
        problems.append("Give the project a name of up to 80 letters.")
    if len(form.yarn.strip()) > 200:
        problems.append("Describe the yarn in up to 200 letters.")
    for text, what in ((name, "The name"), (form.yarn.strip(), "The yarn")):
        if not re.fullmatch(PLAIN, text):
            problems.append(f"{what} holds markup; write it in plain words, without < and >.")
    unit: Unit = "in" if form.unit == "in" else "cm"
    values = {}
    for field, label in (
        ("width", "The width"),
        ("height", "The height"),
        ("tolerance", "The tolerance"),
        ("stitches", "The number of stitches"),
        ("rows", "The number of rows"),
        ("needle", "The needle’s size in mm"),
    ):
        text = str(getattr(form, field)).strip().replace(",", ".")
        try:
            values[field] = float(text)
        except ValueError:
            values[field] = math.nan
        if not math.isfinite(values[field]):
            problems.append(f"{label} must be a number, such as 110 or 12.5; “{text[:20]}” is not.")
        elif values[field] <= 0:
            problems.append(f"{label} must be more than zero, not {text[:20]}.")
    if values["needle"] > 30:
        problems.append("The needle’s size is in millimetres, between 1 and 30.")
    if form.fibre not in FIBRES:
        problems.append(f"The fibre is one of {', '.join(FIBRES)}.")
    if form.finish not in STATES:
        problems.append(f"The piece is finished {', '.join(STATES)}.")
    if form.thick not in THICK:
        problems.append("The strands lie airy, as usual or close.")
    if not re.fullmatch("#[0-9a-f]{6}", form.colour.lower()):
        problems.append("The colour is written as # and six digits, such as #d2c7ae.")
    if problems:
        raise IllegalPiece(" ".join(problems))
    fibre, finish = cast(Fibre, form.fibre), cast(State, form.finish)
    return _Read(
        name,
        unit,
        form.yarn.strip(),
        **values,
        band=form.source == "band",
        fibre=fibre,
        finish=finish,
        colour=form.colour.lower(),
        thick=float(form.thick),
    )


def new_file(form: SizeForm) -> ProjectFile:
    """A new throw's file from the form. Raises IllegalPiece with every mistake."""
    r = _read(form)
    fresh = fresh_project(
        name=r.name,
        unit=r.unit,
        yarn=r.yarn,
        width=r.width,
        height=r.height,
        tolerance=r.tolerance,
        stitches=r.stitches,
        rows=r.rows,
    )
    return fresh.model_copy(update=_yarn(r))


def _yarn(r: _Read) -> dict[str, object]:
    """What the form says of yarn and gauge, as fields of the file."""
    return {
        "gauge": GaugeFile(stitches=r.stitches, rows=r.rows, band=r.band),
        "fibre": r.fibre,
        "needle": r.needle,
        "finish": r.finish,
        "colour": r.colour,
        "thick": r.thick,
    }


def changed_file(file: ProjectFile, form: SizeForm) -> ProjectFile:
    """The file with another size, yarn or gauge, its layout kept. Raises IllegalPiece."""
    r = _read(form)
    return file.model_copy(
        update={
            "name": r.name,
            "unit": r.unit,
            "yarn": r.yarn,
            "size": SizeFile(width=r.width, height=r.height, tolerance=r.tolerance),
            **_yarn(r),
        }
    )


def form_of(file: ProjectFile) -> SizeForm:
    """The form filled from a file."""
    return SizeForm(
        file.name,
        file.unit,
        file.yarn,
        f"{file.size.width:g}",
        f"{file.size.height:g}",
        f"{file.size.tolerance:g}",
        f"{file.gauge.stitches:g}",
        f"{file.gauge.rows:g}",
        "band" if file.gauge.band else "counted",
        file.fibre,
        f"{file.needle or 5:g}",
        file.finish,
        file.colour,
        f"{file.thick:g}",
    )
