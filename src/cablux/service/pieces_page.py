"""A project's own page: its pieces to scale, how far each copy is, how they are joined, what to mind."""

from __future__ import annotations

from dataclasses import dataclass

from ..core.layout.joins import JoinKind, JoinLengths, join_lengths
from ..core.units import length_text
from ..render.schematic import draw_schematic
from .chairside import Chair, Tally, next_up
from .projects import Project
from .shaped_projects import joins_of, shape_cautions

HOW_MET: dict[JoinKind, str] = {
    "mattress": "sewn in mattress stitch",
    "grafted": "grafted",
    "three-needle": "in a three-needle bind-off",
    "picked up": "picked up",
    "tacked": "tacked",
    "button and loop": "closed with buttons and loops",
}


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
        own = tuple(join for join in joins if at in (join.one.piece, join.other.piece))
        cards.append(PieceCard(mine, draw_schematic(mine.piece, project.unit, own), done))
    pieces = project.file.all_pieces()
    said = tuple(_join_words(project, join_lengths(pieces, join)) for join in joins)
    return PiecesOverview(tuple(cards), said, shape_cautions(project.file))


def _join_words(project: Project, found: JoinLengths) -> str:
    names = [p.piece_name for p in project.pieces()]
    several = len(names) > 1
    one, other = (f"{e.edge}{f' of {names[e.piece]}' if several else ''}" for e in (found.join.one, found.join.other))
    joined = length_text(found.sewn_um / 1000.0, project.unit)
    text = f"The {one} meets the {other}, {HOW_MET[found.join.how]}: {joined} joined"
    for o in found.join.openings:
        start, end = (length_text(mm, project.unit) for mm in (o.start_mm, o.end_mm))
        text += f", open from {start} to {end} for the {o.name}"
    return text + "."
