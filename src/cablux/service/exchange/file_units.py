"""A project file in another unit: every length that it keeps, converted; counts and rows stay."""

from __future__ import annotations

from ...core.shapes import SHAPES
from ...core.units import MM_PER, Unit
from .field_types import scaled_length
from .join_file import scaled_join
from .project_file import ProjectFile, ShapeFile


def file_in_unit(file: ProjectFile, unit: Unit) -> ProjectFile:
    """The same project with its lengths in `unit`; its gauge, counted over another length there, is not touched."""
    if file.unit == unit:
        return file
    by = MM_PER[file.unit] / MM_PER[unit]
    return file.model_copy(
        update={
            "unit": unit,
            "shape": _shape(file.shape, by) if file.shape else None,
            "pieces": tuple(piece.scaled(by) for piece in file.pieces),
            "joins": tuple(scaled_join(join, by) for join in file.joins),
        }
    )


def _shape(shape: ShapeFile, by: float) -> ShapeFile:
    asks = SHAPES[shape.id].asks if shape.id in SHAPES else ()
    lengths = {ask.name for ask in asks if ask.kind == "length"}
    asked = {
        name: scaled_length(value, by) if name in lengths and isinstance(value, float | int) else value
        for name, value in shape.asked.items()
    }
    return shape.model_copy(update={"asked": asked})
