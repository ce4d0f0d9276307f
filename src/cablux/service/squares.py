"""Squares that must match: the pieces of a project, sized like one of them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..core.counts.arrange import ready_arrangements
from ..core.counts.squares import Match, compare_squares, matched_square
from ..core.errors import CabluxError, IllegalPiece
from ..core.library import Pattern
from .bench import background_pattern
from .forms import FormReader
from .projects import Project, Projects


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


def match_all(projects: Projects, project: Project) -> Project:
    """Gives every other square the size, edges and borders of this one, each with its own counts.

    All of them or none. Raises IllegalPiece, naming the square that cannot be had so.
    """
    like = project.piece
    label = f"match {project.piece_name}"[:200]
    return projects.change_others(project.place, label, lambda piece: matched_square(piece, like))


def add_square(projects: Projects, project: Project, name: str, *, pattern: Pattern, arrangement: str) -> Project:
    """A new square with another panel, in a ready arrangement; the project at that piece. Raises IllegalPiece."""
    like = project.piece
    ready = ready_arrangements(like.band_views[0], [pattern], background_pattern(like.band_views[0]))
    found = next((a for a in ready if a.name == arrangement), None)
    if found is None:
        names = ", ".join(a.name for a in ready) or "none"
        raise IllegalPiece(f"{pattern.name} cannot be arranged that way at this size. These would fit: {names}.")
    typed = FormReader()
    clean = typed.words(name, "The name of the square", "name", most=80) or pattern.name
    typed.done()
    made = matched_square(replace(like, bands=(found.band,), progress=()), like)
    return projects.add_piece(project.place, f"add {clean}"[:200], clean, piece=made)
