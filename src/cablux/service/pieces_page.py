"""A project's own page: its pieces to scale, how far each copy is, how they are joined, what to mind."""

from __future__ import annotations

from dataclasses import dataclass

from ..render.schematic import draw_schematic
from .chairside import Chair, Tally, next_up
from .pattern import join_sentences
from .projects import Project
from .shaped_projects import joins_of, shape_cautions


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
class PiecesOverview:
    """All pieces, the joins in words, and what the shape warns of."""

    cards: tuple[PieceCard, ...]
    joins: tuple[str, ...]
    cautions: tuple[str, ...]


def pieces_overview(project: Project, chair: Chair) -> PiecesOverview:
    """The page of a project's pieces."""
    joins, tallies = joins_of(project.file), chair.tallies(project)
    cards = []
    for at, mine in enumerate(project.pieces()):
        done = tuple(t for t in tallies if t.project.file.own.number == mine.file.own.number)
        own = tuple(join for join in joins if any(e.piece == at for e in join.edges))
        cards.append(PieceCard(mine, draw_schematic(mine.piece, project.unit, own, place=at), done))
    return PiecesOverview(tuple(cards), tuple(join_sentences(project.file)), shape_cautions(project.file))
