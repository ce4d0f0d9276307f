"""Squares that must match: the pieces of a project, sized like one of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from ...core.counts.arrange import ready_arrangements
from ...core.counts.squares import Match, compare_squares, matched_square
from ...core.errors import CabluxError, IllegalPiece
from ...core.library import StitchPattern
from ...core.piece.piece import Piece
from ..bench import background_pattern
from ..projects import Project


@dataclass(frozen=True)
class SquareSet:
    """The pieces of a project (the one at hand first), and how they match."""

    members: tuple[Project, ...]
    match: Match

    @property
    def reasons(self) -> tuple[str, ...]:
        """Why squares that do not match cannot be sized like the first any better, a sentence for each."""
        like, *others = self.members
        if self.match.fits:
            return ()
        return tuple(_reason(member, like) for member in others if _stuck(member, like))


def _stuck(member: Project, like: Project) -> bool:
    try:
        return matched_square(member.piece, like.piece) == member.piece
    except CabluxError:
        return True


def _reason(member: Project, like: Project) -> str:
    """How near a square can come to another."""
    width, height = (
        mine / theirs - 1.0
        for mine, theirs in (
            (member.numbers.width_um, like.numbers.width_um),
            (member.numbers.rows.height_um, like.numbers.rows.height_um),
        )
    )
    off, what = max(
        (abs(width), "wider" if width > 0 else "narrower"), (abs(height), "taller" if height > 0 else "shorter")
    )
    return (
        f"{member.piece_name} stays {100 * off:.1f} % {what} than {like.piece_name}: its panels allow nothing nearer. "
        "Give it a background beside its panels, or another panel."
    )


def square_set(project: Project) -> SquareSet:
    """The pieces of a project as squares, the one at hand first."""
    members = (project, *(p for p in project.pieces() if p.file.own.number != project.file.own.number))
    return SquareSet(members, compare_squares([p.piece for p in members]))


def matched_to(like: Piece) -> Callable[[Piece], Piece]:
    """Gives a square the size, edges and borders of another one, with its own counts. Raises IllegalPiece."""
    return lambda piece: matched_square(piece, like)


def square_with(like: Piece, pattern: StitchPattern, arrangement: str) -> Piece:
    """A square like another one with another panel, in a ready arrangement. Raises IllegalPiece."""
    ready = ready_arrangements(like.band_views[0], [pattern], background_pattern(like.band_views[0]))
    found = next((a for a in ready if a.name == arrangement), None)
    if found is None:
        names = ", ".join(a.name for a in ready) or "none"
        raise IllegalPiece(f"{pattern.name} cannot be arranged that way at this size. These would fit: {names}.")
    return matched_square(replace(like, bands=(found.band,), progress=()), like)
