"""A project's own page: its pieces to scale, how far each copy is, how they are joined, what to mind."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...core.garment.joins import Join, join_lengths, join_problems
from ...core.piece.piece import Piece
from ...core.units import Unit, length_text
from ...render.laid_garment import draw_garment, planned_piece
from ...render.schematic import draw_schematic
from ..chair import Chair, Tally, next_up
from ..pattern import joined
from ..projects import Project
from ..shapes import joins_of, shape_cautions


@dataclass(frozen=True)
class PieceCard:
    """A piece: its picture, and how far each copy of it is."""

    project: Project
    picture: str
    tallies: tuple[Tally, ...]

    @property
    def next_up(self) -> Tally:
        """The copy to go on with."""
        return next_up(self.tallies)


@dataclass(frozen=True)
class SeamFit:
    """A join in words, how long both its edges are, and what does not meet; empty where they do."""

    sentences: tuple[str, ...]
    lengths: str
    problem: str


@dataclass(frozen=True, kw_only=True)
class PiecesOverview:
    """All pieces, the joins with their numbers on the picture of all of them, and what the shape warns of.

    `paper` is that picture; empty where nothing is joined to another piece.
    """

    cards: tuple[PieceCard, ...]
    seams: tuple[SeamFit, ...]
    paper: str
    cautions: tuple[str, ...]


def pieces_overview(project: Project, chair: Chair) -> PiecesOverview:
    """The page of a project's pieces."""
    joins, tallies = joins_of(project.file), chair.tallies(project)
    cards = []
    for at, mine in enumerate(project.pieces()):
        done = tuple(t for t in tallies if t.project.file.own.number == mine.file.own.number)
        own = tuple(join for join in joins if any(e.piece == at for e in join.edges))
        cards.append(PieceCard(mine, draw_schematic(mine.piece, project.unit, own, place=at), done))
    pieces = project.file.all_pieces()
    between = any(len({e.piece for e in join.edges}) > 1 for join in joins)
    names = [mine.piece_name + _times(mine.file.own.copies) for mine in project.pieces()]
    laid = [planned_piece(piece, project.unit) for piece in pieces] if between else []
    paper = draw_garment(laid, joins, names) if between else ""
    seams = (
        _seam(pieces, join, told, unit=project.unit) for join, told in zip(joins, joined(project.file), strict=True)
    )
    return PiecesOverview(cards=tuple(cards), seams=tuple(seams), paper=paper, cautions=shape_cautions(project.file))


def _times(copies: int) -> str:
    return f" × {copies}" if copies > 1 else ""


def _seam(pieces: Sequence[Piece], join: Join, told: tuple[str, ...], *, unit: Unit) -> SeamFit:
    found = join_lengths(pieces, join)
    one, other = (length_text(um / 1000.0, unit) for um in (found.one_um, found.other_um))
    lengths = one if one == other else f"{one} to {other}"
    return SeamFit(told, lengths, " ".join(join_problems(pieces, join, unit)))
