"""The project file: JSON with a version and a published schema (docs/project.schema.json)."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, ValidationError

from ..core.errors import IllegalPiece
from ..core.gauge import Along, Fibre, Gauge, Part, Reading, School, State
from ..core.layout.piece import CastOn, Piece, Role, Segment, Spread
from ..core.layout.piece import check as check_piece
from ..core.layout.widths import segment_um
from ..core.units import GAUGE_SPAN, Unit, to_mm
from ..render.yarn import UNDYED
from .errors import BadFile
from .ownpatterns import PLAIN, PatternFile, find_among, own_files
from .swatchfile import SwatchFile, Value
from .typed import faults

LEAST_BODY_ROWS = 12  # our choice: fewer rows of cable lie as the border below makes them lie

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80, pattern=PLAIN)]
Text = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200, pattern=PLAIN)]
Id = Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,60}$")]
Finite = Annotated[float, Field(allow_inf_nan=False)]


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, strict=True)


class SegmentFile(_Model):
    """One segment, right to left: what it is for, its pattern, and how often its multiple is worked."""

    role: Role
    pattern: Id
    repeats: Annotated[int, Field(ge=1, le=1500)]
    mirrored: bool = False
    locked: bool = False


class SizeFile(_Model):
    """Finished size wanted, in the file's unit; the tolerance is for the width."""

    width: Finite
    height: Finite
    tolerance: Finite


class GaugeFile(_Model):
    """Stitches and rows of stockinette, over 10 cm where the unit is cm, over 4 in where it is in.

    `band`: they were taken from the yarn's band.
    """

    stitches: Finite
    rows: Finite
    band: bool = False


class UsedSwatch(_Model):
    """A swatch that the project goes by, as it was when it was taken in; `book` is its number in the swatch book.

    `same`: knitted in the piece's own yarn, on its needle; otherwise it tells of the hands only.
    """

    swatch: SwatchFile
    book: Annotated[int, Field(ge=0)] = 0
    same: bool = True


class MeasuredFile(_Model):
    """What was measured on the piece itself after `row`: its width, or the height of its body; in the file's unit."""

    row: Annotated[int, Field(ge=1, le=10_000)]
    along: Along = "width"
    values: Annotated[tuple[Value, ...], Field(min_length=1, max_length=12)]
    state: State = "as knitted"
    on_needle: bool = True


class BorderFile(_Model):
    """Bottom and top border: the pattern between the edges and the rows of each border."""

    pattern: Id = "garter"
    rows: Annotated[int, Field(ge=2, le=60)] = 10


class ProjectFile(_Model):
    """A project as it is exchanged and stored."""

    cablux: Literal[1] = 1
    name: Name
    unit: Unit = "cm"
    yarn: Text = ""
    size: SizeFile
    gauge: GaugeFile
    border: BorderFile = BorderFile()
    cast_on: CastOn = "stepped"
    spread: Spread = "cables"
    symmetric: bool = True
    least_background: Annotated[int, Field(ge=1, le=40)] = 2
    segments: Annotated[tuple[SegmentFile, ...], Field(min_length=3, max_length=60)]
    patterns: Annotated[tuple[PatternFile, ...], Field(max_length=60)] = ()
    fibre: Fibre = "other"
    needle: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 0.0
    finish: State = "washed"
    school: School = "estimate"
    swatches: Annotated[tuple[UsedSwatch, ...], Field(max_length=24)] = ()
    measured: Annotated[tuple[MeasuredFile, ...], Field(max_length=60)] = ()
    body_rows: Annotated[int, Field(ge=0, le=5000)] = 0
    colour: Annotated[str, StringConstraints(pattern=r"^#[0-9a-f]{6}$")] = UNDYED
    thick: Annotated[float, Field(ge=0.6, le=1.3)] = 1.0

    def piece(self) -> Piece:
        """The core's piece. Raises IllegalPiece where sizes, gauge or layout cannot be knitted."""
        span = GAUGE_SPAN[self.unit][0] / 100.0
        piece = check_piece(
            Piece(
                name=self.name,
                width_mm=to_mm(self.size.width, self.unit),
                height_mm=to_mm(self.size.height, self.unit),
                tolerance_mm=to_mm(self.size.tolerance, self.unit),
                gauge=Gauge(self.gauge.stitches / span, self.gauge.rows / span, self.gauge.band),
                segments=tuple(
                    Segment(s.role, find_among(self.patterns, s.pattern), s.repeats, s.mirrored, s.locked)
                    for s in self.segments
                ),
                border_id=self.border.pattern,
                border_rows=self.border.rows,
                cast_on=self.cast_on,
                spread=self.spread,
                symmetric=self.symmetric,
                least_background=self.least_background,
                readings=tuple(reading for used in self.swatches for reading in _readings(used)),
                finish=self.finish,
                fibre=self.fibre,
                school=self.school,
                body_rows=self.body_rows,
            )
        )
        if not self.measured:
            return piece
        return replace(piece, progress=tuple(piece_reading(piece, m, self.unit) for m in self.measured))

    def with_piece(self, piece: Piece) -> ProjectFile:
        """This file with the layout and the choices of `piece`; sizes and gauge stay as they were written."""
        segments = tuple(
            SegmentFile(role=s.role, pattern=s.pattern_id, repeats=s.repeats, mirrored=s.mirrored, locked=s.locked)
            for s in piece.segments
        )
        return self.model_copy(
            update={
                "segments": segments,
                "patterns": own_files(s.pattern for s in piece.segments),
                "border": BorderFile(pattern=piece.border_id, rows=piece.border_rows),
                "cast_on": piece.cast_on,
                "spread": piece.spread,
                "symmetric": piece.symmetric,
                "least_background": piece.least_background,
            }
        )

    def text(self) -> str:
        """The file's text."""
        return self.model_dump_json(indent=2) + "\n"


def _readings(used: UsedSwatch) -> tuple[Reading, ...]:
    return used.swatch.core_readings("" if used.same else used.swatch.yarn_key)


def piece_reading(piece: Piece, measured: MeasuredFile, unit: Unit) -> Reading:
    """What was measured on a piece as a reading for its estimate. Raises IllegalPiece where the row says too little."""
    begins = piece.border_rows + LEAST_BODY_ROWS
    if measured.row < begins:
        raise IllegalPiece(
            f"After row {measured.row} most of the piece is border; measure from row {begins} on, better after 15 cm."
        )
    mm = to_mm(sum(measured.values) / len(measured.values), unit)
    rows = measured.row - piece.border_rows
    return Reading(
        tuple(
            Part(
                s.pattern,
                float(rows if measured.along == "height" else s.stitches),
                whole=s.role == "panel",
                weight=float(segment_um(s, piece.estimate)),
            )
            for s in (piece.inner if measured.along == "height" else piece.segments)
        ),
        mm,
        measured.along,
        precision=0.0,
        places=len(measured.values),
        state=measured.state,
        on_piece=True,
        on_needle=measured.on_needle and measured.along == "width",
        name=f"the piece itself after row {measured.row}",
    )


def read_project(text: str | bytes) -> ProjectFile:
    """A project file checked through and through. Raises BadFile or IllegalPiece; nothing is half read."""
    try:
        file = ProjectFile.model_validate_json(text)
    except ValidationError as error:
        raise BadFile("This is not a Cablux project: " + " ".join(faults(error, "the file"))) from None
    file.piece()
    return file


def fresh_project(
    *, name: str, unit: Unit, yarn: str, width: float, height: float, tolerance: float, stitches: float, rows: float
) -> ProjectFile:
    """A new throw before any panel: garter edges and a purl ground that fills the width. Raises IllegalPiece."""
    span, mm = GAUGE_SPAN[unit][0], to_mm(width, unit)
    gauge = Gauge(stitches * 100.0 / span, rows * 100.0 / span)
    edge = max(2, min(8, round(25.0 / gauge.stitch_mm)))  # common practice: an edge of about 2.5 cm
    ground = max(1, min(1400, round(mm / gauge.stitch_mm) - 2 * edge))
    border = max(2, min(60, 2 * round(15.0 / gauge.row_mm / 0.73)))  # 3 cm of garter, whose rows are shorter
    file = ProjectFile(
        name=name,
        unit=unit,
        yarn=yarn,
        size=SizeFile(width=width, height=height, tolerance=tolerance),
        gauge=GaugeFile(stitches=stitches, rows=rows),
        border=BorderFile(rows=border),
        segments=(
            SegmentFile(role="edge", pattern="garter", repeats=edge),
            SegmentFile(role="background", pattern="reverse-stockinette", repeats=ground),
            SegmentFile(role="edge", pattern="garter", repeats=edge),
        ),
    )
    file.piece()
    return file
