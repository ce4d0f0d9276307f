"""A piece in a project file: what the core declares of it, its number and copies, and what was measured on it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from functools import lru_cache
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field, create_model

from ...core.errors import IllegalPiece
from ...core.garment.holders import end_problems
from ...core.gauge import Evidence
from ...core.piece.border import Border
from ...core.piece.piece import Band, Piece
from ...core.piece.problems import checked_piece as check_piece
from ...core.piece.segment import Segment
from ...core.rows.shaped_band import shape_band, worked_view
from ...core.units import Unit
from .declared import codec, fields_codec
from .evidence import MeasuredFile, piece_reading
from .field_types import NoName
from .own_pattern import PatternFile, own_files
from .swatch_file import StrictModel

MOST_COPIES = 100  # our choice: more squares than any afghan has

_SIZE = fields_codec(Piece, ("width_mm", "height_mm", "tolerance_mm"))
_LAID = fields_codec(Piece, ("round", "bottom", "bands", "top", "gaps", "least_background"))
_WORKED = fields_codec(Piece, ("setup_rows", "dense", "short_rows", "meets", "begins", "ends", "inside_out"))
"""What a file has of a piece, in the order in which it has it; its `total` stands between the last two."""


class _PieceModel(StrictModel):
    """One piece of a project, worked `copies` times. `number` names it for good, in addresses and in the tally.

    Without a `name` of its own it has the project's.
    """

    if TYPE_CHECKING:

        def __init__(self, **fields: Any) -> None: ...

        def __getattr__(self, name: str) -> Any: ...

    def piece(self, name: str, unit: Unit, evidence: Evidence, *, patterns: tuple[PatternFile, ...]) -> Piece:
        """The core's piece. Raises IllegalPiece where its size or layout cannot be knitted."""
        return _piece_of(self, name, unit, evidence=evidence, patterns=patterns)

    def checked(self, name: str, unit: Unit, evidence: Evidence, *, patterns: tuple[PatternFile, ...]) -> Piece:
        """The core's piece, made and checked anew."""
        piece = check_piece(
            Piece(
                name=self.name or name,
                evidence=evidence,
                total=(self.total_multiple, self.total_plus),
                **_SIZE.read(self.size, unit, patterns),
                **_LAID.read(self, unit, patterns),
                **_WORKED.read(self, unit, patterns),
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
        laid, worked = _LAID.write(piece, unit, self), _WORKED.write(piece, unit, self)
        total = {"total_multiple": piece.total[0], "total_plus": piece.total[1]}
        size = SizeFile(**_SIZE.write(piece, unit, self.size))
        return self.model_copy(update={"size": size, **laid, **total, **worked})

    def scaled(self, by: float) -> PieceFile:
        """With every length so many times what it is."""
        size = self.size.model_copy(update=_SIZE.scale(self.size, by))
        measured = tuple(m.scaled(by) for m in self.measured)
        return self.model_copy(update={"size": size, **_LAID.scale(self, by), "measured": measured})


if TYPE_CHECKING:
    PieceFile = _PieceModel

    class SizeFile(StrictModel):
        """What a size declares, for those who make one."""

        width: float
        height: float
        tolerance: float

    def SegmentFile(**fields: Any) -> Any: ...  # noqa: D103
    def BandFile(**fields: Any) -> Any: ...  # noqa: D103
    def BorderFile(**fields: Any) -> Any: ...  # noqa: D103
else:
    SegmentFile, BandFile, BorderFile = (codec(record).annotation for record in (Segment, Band, Border))
    SizeFile = create_model(
        "SizeFile",
        __base__=StrictModel,
        __doc__="Finished size wanted, in the file's unit; the tolerance is for the width.",
        **{name: (annotation, ...) for name, (annotation, _) in _SIZE.declared.items()},
    )
    PieceFile = create_model(
        "PieceFile",
        __base__=_PieceModel,
        __doc__=_PieceModel.__doc__,
        number=(Annotated[int, Field(ge=1, le=9999)], 1),
        name=(NoName, ""),
        copies=(Annotated[int, Field(ge=1, le=MOST_COPIES)], 1),
        size=(SizeFile, ...),
        **_LAID.declared,
        total_multiple=(Annotated[int, Field(ge=1, le=100)], 1),
        total_plus=(Annotated[int, Field(ge=0, le=99)], 0),
        **_WORKED.declared,
        measured=(Annotated[tuple[MeasuredFile, ...], Field(max_length=60)], ()),
    )


@lru_cache(maxsize=256)
def _piece_of(own: PieceFile, name: str, unit: Unit, *, evidence: Evidence, patterns: tuple[PatternFile, ...]) -> Piece:
    """A piece is kept: of a project with several, a change of one leaves the others as they are."""
    return own.checked(name, unit, evidence, patterns=patterns)


def patterns_of(pieces: Iterable[Piece]) -> tuple[PatternFile, ...]:
    """The knitter's own patterns that pieces use, for their file."""
    return own_files(s.pattern for piece in pieces for band in piece.bands for s in band.own)
