"""The form of size and yarn: text as a person types it, read with a sentence for every mistake."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import cast

from ..core.errors import InvalidText
from ..core.gauge import FIBRES, STATES, Fibre, State
from ..core.making import needle_mm, needle_text
from ..core.units import GAUGE_SPAN, Unit, from_mm, to_mm
from ..render.yarn import UNDYED
from .bench import refitted, rescaled, set_round, size_limits
from .exchange import GaugeFile, ProjectFile, SizeFile, file_in_unit, fresh_project
from .forms import FormReader

THICK = {"0.85": "thin, with air between", "1": "as usual", "1.12": "thick, close together"}


@dataclass(frozen=True, kw_only=True)
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
    needle: str = "5 mm"
    finish: str = "washed"
    colour: str = UNDYED
    thick: str = "1"
    cord: str = ""
    worked: str = "flat"


# a throw of a common size (common practice: 110 to 130 by 150 cm) in a worsted-weight gauge
EMPTY = SizeForm(name="", unit="cm", yarn="", width="110", height="150", tolerance="1.5", stitches="18", rows="25")


@dataclass(frozen=True, kw_only=True)
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
    cord: float


def _read(form: SizeForm) -> _Read:
    typed = FormReader()
    name = typed.words(form.name, "The name", "name", most=80)
    if not name:
        typed.refuse("name", "Give the project a name of up to 80 letters.")
    unit: Unit = "in" if form.unit == "in" else "cm"
    span, (least, most) = GAUGE_SPAN[unit][1], size_limits(unit)
    longest = round(from_mm(4_000.0, unit))
    colour = form.colour.lower()
    if not re.fullmatch("#[0-9a-f]{6}", colour):
        typed.refuse("colour", "Type the colour as # and six digits, such as #d2c7ae.")
    read = _Read(
        name=name,
        unit=unit,
        yarn=typed.words(form.yarn, "The yarn", "yarn", most=200),
        width=typed.number(form.width, "Width", "width", least=least, most=most),
        height=typed.number(form.height, "Height", "height", least=least, most=most),
        tolerance=typed.number(form.tolerance, "The tolerance", "tolerance"),
        stitches=typed.number(form.stitches, f"Stitches to {span}", "stitches"),
        rows=typed.number(form.rows, f"Rows to {span}", "rows"),
        band=form.source == "band",
        fibre=cast(Fibre, typed.choice(form.fibre, "The fibre", "fibre", choices=FIBRES)),
        needle=typed.needle(form.needle, "needle"),
        finish=cast(State, typed.choice(form.finish, "The finish", "finish", choices=STATES)),
        colour=colour,
        thick=float(typed.choice(form.thick, "Yarn in pictures", "thick", choices=tuple(THICK))),
        cord=typed.number(form.cord, "The needle’s length", "cord", most=longest) if form.cord.strip() else 0.0,
    )
    typed.done()
    return read


def needle_labels(form: SizeForm) -> str:
    """The needle typed, under every label it has; empty where it cannot be read."""
    try:
        return needle_text(needle_mm(form.needle))
    except InvalidText:
        return ""


def new_file(form: SizeForm) -> ProjectFile:
    """A new project's file from the form. Raises IllegalPiece with every mistake."""
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
        in_the_round=form.worked == "round",
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
        "cord": round(to_mm(r.cord, r.unit) / 10.0, 1),
    }


def changed_file(file: ProjectFile, form: SizeForm, *, fit: bool = False) -> ProjectFile:
    """The file with another size, yarn or gauge. Raises IllegalPiece.

    Its layout is kept; with `fit` the backgrounds between its panels are found anew for the size.
    """
    r = _read(form)
    changed = (
        file_in_unit(file, r.unit)
        .model_copy(
            update={
                "name": r.name,
                "yarn": r.yarn,
                **_yarn(r),
            }
        )
        .with_own(size=SizeFile(width=r.width, height=r.height, tolerance=r.tolerance))
    )
    changed = changed.with_piece(rescaled(changed.piece(), file.piece())) if _shaped(file) else changed
    if (form.worked == "round") != file.own.round:
        changed = changed.with_piece(set_round(on=form.worked == "round")(changed.piece()))
    return changed.with_piece(refitted(changed.piece())) if fit else changed


def _shaped(file: ProjectFile) -> bool:
    return any(band.shaping for band in file.own.bands)


def form_of(file: ProjectFile) -> SizeForm:
    """The form filled from a file."""
    return SizeForm(
        name=file.name,
        unit=file.unit,
        yarn=file.yarn,
        width=f"{file.own.size.width:g}",
        height=f"{file.own.size.height:g}",
        tolerance=f"{file.own.size.tolerance:g}",
        stitches=f"{file.gauge.stitches:g}",
        rows=f"{file.gauge.rows:g}",
        source="band" if file.gauge.band else "counted",
        fibre=file.fibre,
        needle=f"{file.needle or 5:g} mm",
        finish=file.finish,
        colour=file.colour,
        thick=f"{file.thick:g}",
        cord=f"{round(from_mm(file.cord * 10.0, file.unit), 1):g}" if file.cord else "",
        worked="round" if file.own.round else "flat",
    )
