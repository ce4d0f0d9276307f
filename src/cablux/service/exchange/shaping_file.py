"""The shaping of a band in a project file, as the core declares its kinds."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from ...core.piece.piece import Shaping
from ...core.units import Unit
from .declared import codec
from .swatch_file import StrictModel

_CODEC = codec(Shaping)

if TYPE_CHECKING:
    ShapingFile = StrictModel
else:
    ShapingFile = _CODEC.annotation


def shaping_of(file: ShapingFile | None, unit: Unit) -> Shaping | None:
    """The core's shaping."""
    return None if file is None else cast(Shaping, _CODEC.read(file, unit))


def shaping_file(shaping: Shaping | None, unit: Unit, old: ShapingFile | None) -> ShapingFile | None:
    """The file's shaping; lengths that are unchanged stay as they were written in `old`."""
    return None if shaping is None else cast(StrictModel, _CODEC.write(shaping, unit, old))


def scaled_shaping(file: ShapingFile | None, by: float) -> ShapingFile | None:
    """With every length so many times what it is."""
    return None if file is None else cast(StrictModel, _CODEC.scale(file, by))
