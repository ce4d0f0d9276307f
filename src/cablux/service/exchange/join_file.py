"""The joins of a project in its file, as the core declares them; there a piece is named by its number."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import TYPE_CHECKING, Any, cast

from ...core.garment.joins import Join, PieceEdge
from ...core.units import Unit
from .declared import codec
from .swatch_file import StrictModel

_JOIN = codec(Join)

if TYPE_CHECKING:

    class JoinFile(StrictModel):
        """What a join declares, for those who ask it."""

        def __getattr__(self, name: str) -> Any: ...

    EdgeFile = JoinFile
else:
    JoinFile, EdgeFile = _JOIN.annotation, codec(PieceEdge).annotation


def join_file(join: Join, unit: Unit) -> JoinFile:
    """A join as the file keeps it; pieces are numbered from 1 in their order."""
    return cast(JoinFile, _JOIN.write(join, unit, None))


def join_of(file: JoinFile, places: Mapping[int, int], unit: Unit) -> Join:
    """The core's join, by the places of the pieces, which are given by their numbers."""
    read = cast(Join, _JOIN.read(file, unit, ()))
    one, other, *more = (replace(edge, piece=places[edge.piece + 1]) for edge in read.edges)
    return replace(read, one=one, other=other, more=tuple(more))


def scaled_join(file: JoinFile, by: float) -> JoinFile:
    """With every length so many times what it is."""
    return cast(JoinFile, _JOIN.scale(file, by))
