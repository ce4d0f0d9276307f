"""A project file in another unit: every length that it keeps, converted; counts and rows stay."""

from __future__ import annotations

from ...core.shapes import SHAPES
from ...core.units import MM_PER, Unit
from .evidence import MeasuredFile
from .piece_file import BandFile, PieceFile, SizeFile
from .project_file import JoinFile, ProjectFile, ShapeFile
from .shaping_file import scaled_shaping

_DIGITS = 3  # a hundredth of a millimetre, or of what an inch's ruler shows


def file_in_unit(file: ProjectFile, unit: Unit) -> ProjectFile:
    """The same project with its lengths in `unit`; its gauge, counted over another length there, is not touched."""
    if file.unit == unit:
        return file
    by = MM_PER[file.unit] / MM_PER[unit]
    return file.model_copy(
        update={
            "unit": unit,
            "shape": _shape(file.shape, by) if file.shape else None,
            "pieces": tuple(_piece(piece, by) for piece in file.pieces),
            "joins": tuple(_join(join, by) for join in file.joins),
        }
    )


def _piece(piece: PieceFile, by: float) -> PieceFile:
    size = {name: round(value * by, _DIGITS) for name, value in piece.size.model_dump().items()}
    measured = tuple(_measured(m, by) for m in piece.measured)
    bands = tuple(_band(band, by) for band in piece.bands)
    return piece.model_copy(update={"size": SizeFile(**size), "bands": bands, "measured": measured})


def _measured(measured: MeasuredFile, by: float) -> MeasuredFile:
    return measured.model_copy(update={"values": tuple(round(value * by, _DIGITS) for value in measured.values)})


def _band(band: BandFile, by: float) -> BandFile:
    return band.model_copy(update={"shaping": scaled_shaping(band.shaping, by)})


def _join(join: JoinFile, by: float) -> JoinFile:
    openings = tuple(
        o.model_copy(update={"start": round(o.start * by, _DIGITS), "end": round(o.end * by, _DIGITS)})
        for o in join.openings
    )
    one, other, *more = (
        e.model_copy(update={"start": round(e.start * by, _DIGITS), "end": round(e.end * by, _DIGITS)})
        for e in (join.one, join.other, *join.more)
    )
    return join.model_copy(update={"openings": openings, "one": one, "other": other, "more": tuple(more)})


def _shape(shape: ShapeFile, by: float) -> ShapeFile:
    asks = SHAPES[shape.id].asks if shape.id in SHAPES else ()
    lengths = {ask.name for ask in asks if ask.kind == "length"}
    asked = {
        name: round(value * by, _DIGITS) if name in lengths and isinstance(value, float | int) else value
        for name, value in shape.asked.items()
    }
    return shape.model_copy(update={"asked": asked})
