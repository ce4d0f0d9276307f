"""A piece in a project file: its size, its bands and borders, its shaping, and what was measured on it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from functools import lru_cache
from typing import Annotated

from pydantic import Field

from ...core.errors import IllegalPiece
from ...core.garment.holders import end_problems
from ...core.gauge import Evidence
from ...core.piece.border import Border, CastOn, SpreadStyle
from ...core.piece.piece import Band, Gaps, Piece
from ...core.piece.problems import checked_piece as check_piece
from ...core.piece.segment import Role, Segment
from ...core.rows.shaped_band import shape_band, worked_view
from ...core.units import Unit, to_mm
from .evidence import MeasuredFile, piece_reading
from .field_types import Finite, Id, NoName, kept_length
from .own_pattern import PatternFile, find_among, own_files
from .part_file import EndFile, SourceFile, end_file, source_file
from .shaping_file import ShapingFile, shaping_file, shaping_of
from .swatch_file import StrictModel

MOST_COPIES = 100  # our choice: more squares than any afghan has


class SegmentFile(StrictModel):
    """One segment: what it is for, its pattern, how often its multiple is worked, and how it is placed.

    `locked`: its count stays; `placed`: its place stays. `phase`: it begins so many rows later in its repeat.
    `purl_margin`: purl stitches on each side of a panel. `least`, `most`, `by`: bounds of a background's stitches, and
    of what its repeats are a multiple. `wander`: a panel goes so many stitches to the left (less than 0: to the right)
    and back, one every `wander_every` rows.
    """

    role: Role
    pattern: Id
    repeats: Annotated[int, Field(ge=1, le=1500)]
    mirrored: bool = False
    locked: bool = False
    placed: bool = False
    phase: Annotated[int, Field(ge=0, le=2000)] = 0
    purl_margin: Annotated[int, Field(ge=0, le=6)] = 0
    least: Annotated[int, Field(ge=0, le=1500)] = 0
    most: Annotated[int, Field(ge=0, le=1500)] = 0
    by: Annotated[int, Field(ge=1, le=50)] = 1
    wander: Annotated[int, Field(ge=-200, le=200)] = 0
    wander_every: Annotated[int, Field(ge=1, le=200)] = 4


class BandFile(StrictModel):
    """A body band: its segments from right to left.

    Where it is `symmetric` they run from the right edge to the middle only, and the left half is their mirror image;
    the last one stands alone in the middle if `middle`. `rows`: 0 where they follow from the height, of
    which the band then takes its `share`. `shaping`: its segments are those of its widest row. `runs_on`: its charts
    go on where those of the band below have stopped.
    """

    segments: Annotated[tuple[SegmentFile, ...], Field(min_length=1, max_length=60)]
    symmetric: bool = False
    middle: bool = True
    rows: Annotated[int, Field(ge=0, le=5000)] = 0
    share: Annotated[float, Field(gt=0, le=20, allow_inf_nan=False)] = 1.0
    shaping: ShapingFile | None = None
    runs_on: bool = False


class SizeFile(StrictModel):
    """Finished size wanted, in the file's unit; the tolerance is for the width."""

    width: Finite
    height: Finite
    tolerance: Finite


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


class PieceFile(StrictModel):
    """One piece of a project, worked `copies` times. `number` names it for good, in addresses and in the tally.

    Without a `name` of its own it has the project's.
    """

    number: Annotated[int, Field(ge=1, le=9999)] = 1
    name: NoName = ""
    copies: Annotated[int, Field(ge=1, le=MOST_COPIES)] = 1
    size: SizeFile
    round: bool = False
    bottom: BorderFile = BorderFile()
    bands: Annotated[tuple[BandFile, ...], Field(min_length=1, max_length=4)]
    top: BorderFile = BorderFile()
    gaps: Gaps = "equal"
    least_background: Annotated[int, Field(ge=1, le=40)] = 2
    total_multiple: Annotated[int, Field(ge=1, le=100)] = 1
    total_plus: Annotated[int, Field(ge=0, le=99)] = 0
    setup_rows: Annotated[int, Field(ge=0, le=60)] = 2
    dense: bool = False
    short_rows: bool = False
    meets: bool = False
    begins: Annotated[tuple[SourceFile, ...], Field(max_length=12)] = ()
    ends: EndFile = EndFile()
    inside_out: bool = False
    measured: Annotated[tuple[MeasuredFile, ...], Field(max_length=60)] = ()

    def piece(self, name: str, unit: Unit, evidence: Evidence, *, patterns: tuple[PatternFile, ...]) -> Piece:
        """The core's piece. Raises IllegalPiece where its size or layout cannot be knitted."""
        return _piece_of(self, name, unit, evidence=evidence, patterns=patterns)

    def checked(self, name: str, unit: Unit, evidence: Evidence, *, patterns: tuple[PatternFile, ...]) -> Piece:
        """The core's piece, made and checked anew."""
        piece = check_piece(
            Piece(
                name=self.name or name,
                width_mm=to_mm(self.size.width, unit),
                height_mm=to_mm(self.size.height, unit),
                tolerance_mm=to_mm(self.size.tolerance, unit),
                evidence=evidence,
                bands=tuple(_band(band, unit, patterns) for band in self.bands),
                bottom=_border(self.bottom),
                top=_border(self.top),
                round=self.round,
                gaps=self.gaps,
                least_background=self.least_background,
                total=(self.total_multiple, self.total_plus),
                setup_rows=self.setup_rows,
                dense=self.dense,
                short_rows=self.short_rows,
                meets=self.meets,
                begins=tuple(s.source() for s in self.begins),
                ends=self.ends.end(),
                inside_out=self.inside_out,
            )
        )
        for view in piece.band_views:
            if worked_view(view).shaping is not None:
                shape_band(worked_view(view))  # refuses what cannot be knitted
        if piece.begins or piece.ends.groups:
            problem = " ".join(end_problems(piece))
            if problem:
                raise IllegalPiece(problem)
        if not self.measured:
            return piece
        return replace(piece, progress=tuple(piece_reading(piece, m, unit) for m in self.measured))

    def with_piece(self, piece: Piece, unit: Unit) -> PieceFile:
        """This piece with the layout and the choices of `piece`; unchanged sizes stay as they were written."""
        before = self.size
        size = {
            "width": kept_length(before.width, piece.width_mm, unit),
            "height": kept_length(before.height, piece.height_mm, unit),
            "tolerance": kept_length(before.tolerance, piece.tolerance_mm, unit),
        }
        return self.model_copy(
            update={
                "size": SizeFile(**size),
                "bands": tuple(
                    _band_file(band, unit, old)
                    for band, old in zip(piece.bands, (*self.bands, *(None,) * len(piece.bands)), strict=False)
                ),
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
                "meets": piece.meets,
                "begins": tuple(source_file(s) for s in piece.begins),
                "ends": end_file(piece.ends),
                "inside_out": piece.inside_out,
            }
        )


@lru_cache(maxsize=256)
def _piece_of(own: PieceFile, name: str, unit: Unit, *, evidence: Evidence, patterns: tuple[PatternFile, ...]) -> Piece:
    """A piece is kept: of a project with several, a change of one leaves the others as they are."""
    return own.checked(name, unit, evidence, patterns=patterns)


def patterns_of(pieces: Iterable[Piece]) -> tuple[PatternFile, ...]:
    """The knitter's own patterns that pieces use, for their file."""
    return own_files(s.pattern for piece in pieces for band in piece.bands for s in band.own)


def _band(band: BandFile, unit: Unit, patterns: tuple[PatternFile, ...]) -> Band:
    own = tuple(
        Segment(pattern=find_among(patterns, s.pattern), **s.model_dump(exclude={"pattern"})) for s in band.segments
    )
    shaping = shaping_of(band.shaping, unit)
    return Band(
        own=own,
        symmetric=band.symmetric,
        middle=band.middle,
        rows=band.rows,
        share=band.share,
        shaping=shaping,
        runs_on=band.runs_on,
    )


def _border(b: BorderFile) -> Border:
    return Border(pattern_id=b.pattern, rows=b.rows, style=b.style, spread=b.spread, factor=b.factor, count=b.count)


def _border_file(b: Border) -> BorderFile:
    return BorderFile(pattern=b.pattern_id, rows=b.rows, style=b.style, spread=b.spread, factor=b.factor, count=b.count)


def _band_file(band: Band, unit: Unit, old: BandFile | None) -> BandFile:
    segments = tuple(
        SegmentFile(
            role=s.role,
            pattern=s.pattern_id,
            repeats=s.repeats,
            mirrored=s.mirrored,
            locked=s.locked,
            placed=s.placed,
            phase=s.phase,
            purl_margin=s.purl_margin,
            least=s.least,
            most=s.most,
            by=s.by,
            wander=s.wander,
            wander_every=s.wander_every,
        )
        for s in band.own
    )
    return BandFile(
        segments=segments,
        symmetric=band.symmetric,
        middle=band.middle,
        rows=band.rows,
        share=band.share,
        shaping=shaping_file(band.shaping, unit, old.shaping if old else None),
        runs_on=band.runs_on,
    )
