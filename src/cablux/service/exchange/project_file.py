"""The project file: JSON with a version and a published schema (docs/project.schema.json)."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from pydantic import Field, StringConstraints, ValidationError

from ...core.gauge import Evidence, Fibre, Gauge, School, State
from ...core.layout.piece import Band, Border, CastOn, Gaps, Piece, SpreadStyle, is_symmetric
from ...core.layout.problems import checked_piece as check_piece
from ...core.layout.segment import Role, Segment
from ...core.practice import edge_stitches
from ...core.units import GAUGE_SPAN, MM_PER, Unit, to_mm
from ...render.yarn import UNDYED
from ..errors import BadFile
from ..forms import PLAIN, field_faults
from .evidence import MeasuredFile, UsedSwatch, piece_reading
from .older_versions import upgrade_text
from .own_pattern import PatternFile, find_among, own_files
from .swatch_file import StrictModel

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80, pattern=PLAIN)]
Text = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200, pattern=PLAIN)]
Id = Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,60}$")]
Finite = Annotated[float, Field(allow_inf_nan=False)]


class SegmentFile(StrictModel):
    """One segment: what it is for, its pattern, how often its multiple is worked, and how it is placed.

    `locked`: its count stays; `placed`: its place stays. `phase`: it begins so many rows later in its repeat.
    `gutter`: purl stitches on each side of a panel. `least`, `most`, `by`: bounds of a background's stitches, and of
    what its repeats are a multiple.
    """

    role: Role
    pattern: Id
    repeats: Annotated[int, Field(ge=1, le=1500)]
    mirrored: bool = False
    locked: bool = False
    placed: bool = False
    phase: Annotated[int, Field(ge=0, le=2000)] = 0
    gutter: Annotated[int, Field(ge=0, le=6)] = 0
    least: Annotated[int, Field(ge=0, le=1500)] = 0
    most: Annotated[int, Field(ge=0, le=1500)] = 0
    by: Annotated[int, Field(ge=1, le=50)] = 1


class BandFile(StrictModel):
    """A body band: its segments from right to left.

    Where it is `symmetric` they run from the right edge to the middle only, and the left half is their mirror image;
    the last one stands alone in the middle if `middle`. `rows`: 0 where they follow from the height, of
    which the band then takes its `share`.
    """

    segments: Annotated[tuple[SegmentFile, ...], Field(min_length=1, max_length=60)]
    symmetric: bool = False
    middle: bool = True
    rows: Annotated[int, Field(ge=0, le=5000)] = 0
    share: Annotated[float, Field(gt=0, le=20, allow_inf_nan=False)] = 1.0


class SizeFile(StrictModel):
    """Finished size wanted, in the file's unit; the tolerance is for the width."""

    width: Finite
    height: Finite
    tolerance: Finite


class GaugeFile(StrictModel):
    """Stitches and rows of stockinette, over 10 cm where the unit is cm, over 4 in where it is in.

    `band`: they were taken from the yarn's band.
    """

    stitches: Finite
    rows: Finite
    band: bool = False


class BorderFile(StrictModel):
    """The bottom or the top border: its pattern between the edges, its rows (0: none), and how its count is found.

    `factor`: as a part of the body's width. `count`: a count of one's own; 0 where it follows from the style.
    """

    pattern: Id = "garter"
    rows: Annotated[int, Field(ge=0, le=60)] = 10
    style: CastOn = "stepped"
    spread: SpreadStyle = "cables"
    factor: Annotated[float, Field(ge=0.5, le=1.5, allow_inf_nan=False)] = 1.0
    count: Annotated[int, Field(ge=0, le=1500)] = 0


class ProjectFile(StrictModel):
    """A project as it is exchanged and stored."""

    cablux: Literal[2] = 2
    name: Name
    unit: Unit = "cm"
    yarn: Text = ""
    size: SizeFile
    gauge: GaugeFile
    round: bool = False
    bottom: BorderFile = BorderFile()
    bands: Annotated[tuple[BandFile, ...], Field(min_length=1, max_length=4)]
    top: BorderFile = BorderFile()
    gaps: Gaps = "equal"
    least_background: Annotated[int, Field(ge=1, le=40)] = 2
    total_multiple: Annotated[int, Field(ge=1, le=100)] = 1
    total_plus: Annotated[int, Field(ge=0, le=99)] = 0
    setup_rows: Annotated[int, Field(ge=0, le=12)] = 2
    dense: bool = False
    short_rows: bool = False
    patterns: Annotated[tuple[PatternFile, ...], Field(max_length=60)] = ()
    fibre: Fibre = "other"
    needle: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 0.0
    cord: Annotated[float, Field(ge=0, le=400, allow_inf_nan=False)] = 0.0
    finish: State = "washed"
    school: School = "estimate"
    swatches: Annotated[tuple[UsedSwatch, ...], Field(max_length=24)] = ()
    measured: Annotated[tuple[MeasuredFile, ...], Field(max_length=60)] = ()
    colour: Annotated[str, StringConstraints(pattern=r"^#[0-9a-f]{6}$")] = UNDYED
    thick: Annotated[float, Field(ge=0.6, le=1.3)] = 1.0
    squares: Text = ""

    @property
    def evidence(self) -> Evidence:
        """What the project knows of the knitter and the yarn."""
        span = GAUGE_SPAN[self.unit][0] / 100.0
        return Evidence(
            Gauge(self.gauge.stitches / span, self.gauge.rows / span, self.gauge.band),
            tuple(reading for used in self.swatches for reading in used.readings),
            self.finish,
            self.fibre,
            self.school,
        )

    def piece(self) -> Piece:
        """The core's piece. Raises IllegalPiece where sizes, gauge or layout cannot be knitted."""
        piece = check_piece(
            Piece(
                name=self.name,
                width_mm=to_mm(self.size.width, self.unit),
                height_mm=to_mm(self.size.height, self.unit),
                tolerance_mm=to_mm(self.size.tolerance, self.unit),
                evidence=self.evidence,
                bands=tuple(self._band(band) for band in self.bands),
                bottom=_border(self.bottom),
                top=_border(self.top),
                round=self.round,
                gaps=self.gaps,
                least_background=self.least_background,
                total=(self.total_multiple, self.total_plus),
                setup_rows=self.setup_rows,
                dense=self.dense,
                short_rows=self.short_rows,
            )
        )
        if not self.measured:
            return piece
        return replace(piece, progress=tuple(piece_reading(piece, m, self.unit) for m in self.measured))

    def _band(self, band: BandFile) -> Band:
        own = tuple(
            Segment(pattern=find_among(self.patterns, s.pattern), **s.model_dump(exclude={"pattern"}))
            for s in band.segments
        )
        return Band(own, band.symmetric, band.middle, band.rows, band.share)

    def with_piece(self, piece: Piece) -> ProjectFile:
        """This file with the layout and the choices of `piece`; gauge and unchanged sizes stay as they were written."""
        before = self.size
        size = {
            "width": _kept(before.width, piece.width_mm, self.unit),
            "height": _kept(before.height, piece.height_mm, self.unit),
            "tolerance": _kept(before.tolerance, piece.tolerance_mm, self.unit),
        }
        kept = (s.pattern for band in piece.bands for s in band.own)
        return self.model_copy(
            update={
                "size": SizeFile(**size),
                "bands": tuple(_band_file(band) for band in piece.bands),
                "patterns": own_files(kept),
                "bottom": _border_file(piece.bottom),
                "top": _border_file(piece.top),
                "round": piece.round,
                "gaps": piece.gaps,
                "least_background": piece.least_background,
                "total_multiple": piece.total[0],
                "total_plus": piece.total[1],
                "setup_rows": piece.setup_rows,
                "dense": piece.dense,
                "short_rows": piece.short_rows,
            }
        )

    def text(self) -> str:
        """The file's text."""
        return self.model_dump_json(indent=2) + "\n"


def _kept(written: float, mm: float, unit: Unit) -> float:
    """A length as it was written if it is still the same, else what it has become, to a tenth of a millimetre."""
    return written if abs(to_mm(written, unit) - mm) < 1e-9 else round(mm / MM_PER[unit], 3)


def _border(b: BorderFile) -> Border:
    return Border(b.pattern, b.rows, b.style, b.spread, b.factor, b.count)


def _border_file(b: Border) -> BorderFile:
    return BorderFile(pattern=b.pattern_id, rows=b.rows, style=b.style, spread=b.spread, factor=b.factor, count=b.count)


def _band_file(band: Band) -> BandFile:
    segments = tuple(
        SegmentFile(
            role=s.role,
            pattern=s.pattern_id,
            repeats=s.repeats,
            mirrored=s.mirrored,
            locked=s.locked,
            placed=s.placed,
            phase=s.phase,
            gutter=s.gutter,
            least=s.least,
            most=s.most,
            by=s.by,
        )
        for s in band.own
    )
    return BandFile(segments=segments, symmetric=band.symmetric, middle=band.middle, rows=band.rows, share=band.share)


def read_project(text: str | bytes) -> ProjectFile:
    """A project file checked through and through. Raises BadFile or IllegalPiece; nothing is half read."""
    newer, was_symmetric = upgrade_text(text)
    try:
        file = ProjectFile.model_validate_json(newer)
    except ValidationError as error:
        raise BadFile("This is not a Cablux project: " + " ".join(field_faults(error, "the file"))) from None
    piece = file.piece()
    if was_symmetric and is_symmetric(piece.band_views[0].segments):
        return file.with_piece(piece.with_band(piece.bands[0].folded(), 0))
    return file


def fresh_project(
    *,
    name: str,
    unit: Unit,
    yarn: str,
    width: float,
    height: float,
    tolerance: float,
    stitches: float,
    rows: float,
    in_the_round: bool = False,
) -> ProjectFile:
    """A new piece before any panel: garter edges and a purl ground that fills the width. Raises IllegalPiece."""
    span, mm = GAUGE_SPAN[unit][0], to_mm(width, unit)
    gauge = Gauge(stitches * 100.0 / span, rows * 100.0 / span)
    edge = edge_stitches(gauge.stitch_mm)
    ground = max(1, min(1400, round(mm / gauge.stitch_mm) - (0 if in_the_round else 2 * edge)))
    border = max(2, min(60, 2 * round(15.0 / gauge.row_mm / 0.73)))  # 3 cm of garter, whose rows are shorter
    sides = () if in_the_round else (SegmentFile(role="edge", pattern="garter", repeats=edge),)
    middle = SegmentFile(role="background", pattern="reverse-stockinette", repeats=ground)
    file = ProjectFile(
        name=name,
        unit=unit,
        yarn=yarn,
        size=SizeFile(width=width, height=height, tolerance=tolerance),
        gauge=GaugeFile(stitches=stitches, rows=rows),
        round=in_the_round,
        bottom=BorderFile(rows=border),
        top=BorderFile(rows=border),
        bands=(BandFile(segments=(*sides, middle), symmetric=True),),
    )
    file.piece()
    return file
