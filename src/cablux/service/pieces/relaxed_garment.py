"""A project's pieces relaxed one after the other and laid out flat, each seam measured along both edges’ loops."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from ...core.garment.cautions import EASED
from ...core.garment.joins import Join, PieceEdge
from ...core.pattern import compile_piece
from ...core.pattern.cloth import relax_pattern
from ...core.pattern.cloth_outline import ClothOutline, cloth_outline, line_um
from ...core.piece.piece import Piece
from ...core.units import length_text
from ...render.laid_garment import draw_garment, relaxed_edge, relaxed_piece
from ..projects import Project
from ..shapes import joins_of

FLARES = 2.5
"""Our choice: an end that is still free lies wider by two stitches or so than it will when it is sewn."""


@dataclass(frozen=True)
class RelaxedSeam:
    """How long both edges of a seam lie, in words, and whether they meet."""

    number: int
    lengths: str
    meets: bool


@dataclass(frozen=True, kw_only=True)
class RelaxedGarment:
    """The garment as far as it is relaxed: `done` of the `names`; picture and seams once all of it is."""

    names: tuple[str, ...]
    done: int
    picture: str = ""
    seams: tuple[RelaxedSeam, ...] = ()


def relaxed_garment(project: Project, done: int | None = None) -> RelaxedGarment:
    """A project's pieces relaxed, the first `done` of them or all. Raises IllegalPiece where one is too large."""
    pieces = project.file.all_pieces()
    names = tuple(p.name or project.file.name for p in project.file.pieces)
    many = len(pieces) if done is None else min(done, len(pieces))
    outlines = [_outline(replace(piece, name="", progress=())) for piece in pieces[:many]]
    if many < len(pieces):
        return RelaxedGarment(names=names, done=many)
    joins = joins_of(project.file)
    laid = [relaxed_piece(piece, outline) for piece, outline in zip(pieces, outlines, strict=True)]
    seams = tuple(_seam(n, join, pieces, outlines=outlines, project=project) for n, join in enumerate(joins, start=1))
    return RelaxedGarment(names=names, done=many, picture=draw_garment(laid, joins, names), seams=seams)


@lru_cache(maxsize=64)
def _outline(piece: Piece) -> ClothOutline:
    return cloth_outline(relax_pattern(compile_piece(piece)))


def _seam(
    number: int, join: Join, pieces: tuple[Piece, ...], *, outlines: list[ClothOutline], project: Project
) -> RelaxedSeam:
    def long(edge: PieceEdge) -> float:
        return line_um(relaxed_edge(pieces[edge.piece], outlines[edge.piece], edge))

    one, other = long(join.one), sum(map(long, join.edges[1:]))
    stitch = pieces[join.one.piece].measure.gauge.stitch_mm * 1000.0
    meets = abs(one - other) <= max(FLARES * stitch, EASED * max(one, other))
    told = [length_text(um / 1000.0, project.unit) for um in (one, other)]
    return RelaxedSeam(number, told[0] if told[0] == told[1] else " and ".join(told), meets)
