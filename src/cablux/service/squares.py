"""Sets of squares: projects that share a name for their set, sized to match one of them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..core.errors import CabluxError, IllegalPiece
from ..core.layout.arrange import ready_arrangements
from ..core.layout.squares import Match, compare_squares, matched_square
from ..core.library import Pattern
from .bench import ground_pattern
from .exchange import ProjectFile
from .forms import FormReader
from .projects import Project, Projects


@dataclass(frozen=True)
class SquareSet:
    """A set: its name, its projects (the one at hand first), and how they match."""

    name: str
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
        f"{member.name} stays {100 * off:.1f} % {what} than {like.name}: its panels allow nothing nearer. "
        "Give it a background beside its panels, or another panel."
    )


def square_set(projects: Projects, project: Project) -> SquareSet:
    """The set a project belongs to; itself alone where it belongs to none."""
    name = project.file.squares
    others = [p for p in projects.all() if name and p.file.squares == name and p.id != project.id]
    members = (project, *sorted(others, key=lambda p: p.id))
    return SquareSet(name, members, compare_squares([p.piece for p in members]))


def name_set(projects: Projects, project_id: int, name: str) -> Project:
    """Lets a project belong to the set of that name. Raises IllegalPiece."""
    typed = FormReader()
    clean = typed.words(name, "The name of the set", "name", 80)
    typed.done()
    return projects.change(project_id, "set of squares", lambda file: file.model_copy(update={"squares": clean}))


def match_all(projects: Projects, project: Project) -> None:
    """Gives every other square of the set the size, edges and borders of this one, each with its own counts.

    All of them or none. Raises IllegalPiece, naming the square that cannot be had so.
    """
    others = [member.id for member in square_set(projects, project).members[1:]]
    projects.change_pieces(others, f"match {project.name}"[:200], lambda piece: matched_square(piece, project.piece))


def add_square(projects: Projects, project: Project, name: str, pattern: Pattern, arrangement: str) -> int:
    """A new square of the set with another panel, in a ready arrangement; returns its number. Raises IllegalPiece."""
    if not project.file.squares:
        raise IllegalPiece("Name the set first, then add squares to it.")
    like = project.piece
    ready = ready_arrangements(like.band_views[0], [pattern], ground_pattern(like.band_views[0]))
    found = next((a for a in ready if a.name == arrangement), None)
    if found is None:
        names = ", ".join(a.name for a in ready) or "none"
        raise IllegalPiece(f"{pattern.name} cannot be arranged that way at this size. These would fit: {names}.")
    typed = FormReader()
    clean = typed.words(name, "The name of the square", "name", 80) or pattern.name
    typed.done()
    fresh: ProjectFile = project.file.model_copy(update={"name": clean, "measured": ()})
    made = matched_square(replace(like, bands=(found.band,), progress=()), like)
    return projects.create(fresh.with_piece(made))
