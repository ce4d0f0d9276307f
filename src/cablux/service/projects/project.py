"""Projects: make, list, open, change with undo, exchange."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property

from ...core.piece.piece import Piece
from ...core.units import Unit
from ...render.yarn import Yarn
from ...store import repository
from ...store.database import Database
from ...store.repository import PROJECTS, Stored
from ..documents import Documents, Opened
from ..exchange import ProjectFile, read_project
from .changes import checked_change, keep_patterns, on_piece, read_stored
from .numbers import PieceNumbers, piece_numbers, piece_of
from .place import Place, place_of

COPY, MAX_NAME = " (copy)", 80


@dataclass(frozen=True)
class Project(Opened):
    """An opened project, at one of its pieces: 0 is its first."""

    at_piece: int = 0

    @cached_property
    def file(self) -> ProjectFile:
        """The project file that it is, open at the piece."""
        return read_stored(self.stored.document).opened_at(self.at_piece)

    @property
    def place(self) -> Place:
        """Its number and the piece's, as addresses write them; the first piece needs none."""
        own = self.file.own.number
        return Place(self.id, 0 if own == self.file.pieces[0].number else own)

    @property
    def name(self) -> str:
        """Its name."""
        return self.file.name

    @property
    def several(self) -> bool:
        """Whether it has more than one piece, or one that is worked several times."""
        return len(self.file.pieces) > 1 or self.file.own.copies > 1

    @property
    def piece_name(self) -> str:
        """The name of the piece."""
        return self.file.own.name or self.name

    def pieces(self) -> tuple[Project, ...]:
        """The project at each of its pieces."""
        return tuple(Project(self.stored, p.number) for p in self.file.pieces)

    @property
    def unit(self) -> Unit:
        """The unit the person chose."""
        return self.file.unit

    @property
    def paint(self) -> Yarn:
        """What its cloth is painted with."""
        return Yarn(self.file.colour, self.file.thick)

    @cached_property
    def piece(self) -> Piece:
        """The piece it makes."""
        return piece_of(self.file)

    @cached_property
    def numbers(self) -> PieceNumbers:
        """Cast-on, rows, width and how sure that is."""
        return piece_numbers(self.piece)


@dataclass(frozen=True, kw_only=True)
class Version:
    """A project as it was at a step of its history."""

    position: int
    label: str
    file: ProjectFile
    at: datetime | None = None

    @property
    def piece(self) -> Piece:
        """The piece it made."""
        return piece_of(self.file)

    @property
    def numbers(self) -> PieceNumbers:
        """Its numbers."""
        return piece_numbers(self.piece)


class Projects:
    """The projects of one database."""

    def __init__(self, database: Database) -> None:
        self.database = database
        self.documents = Documents(
            database, PROJECTS, "project", read=lambda document: read_stored(document).all_pieces()
        )

    def create(self, file: ProjectFile) -> int:
        """Stores a new project; returns its id."""
        file.all_pieces()
        return self.documents.create(file.text(), "New project", lambda session: keep_patterns(session, file))

    def import_text(self, text: str | bytes) -> int:
        """Stores a project from a project file's text. Raises BadFile or IllegalPiece.

        Its swatches come along, but not their numbers: those were another book's.
        """
        file = read_project(text)
        unnumbered = tuple(used.model_copy(update={"book": 0}) for used in file.swatches)
        return self.create(file.model_copy(update={"swatches": unnumbered}))

    def copy(self, where: Place | int) -> int:
        """A project of its own that begins as another is now, with nothing knitted; returns its id."""
        file = self.open(where).file
        name = f"{file.name[: MAX_NAME - len(COPY)]}{COPY}"
        pieces = tuple(p.model_copy(update={"measured": ()}) for p in file.pieces)
        return self.create(file.model_copy(update={"name": name, "pieces": pieces}))

    def open(self, where: Place | int) -> Project:
        """A project by its number, at one of its pieces. Raises NotFound."""
        place = self._here(where)
        return _opened(self.documents.open(place.project), place)

    def _here(self, where: Place | int) -> Place:
        """A place; of a project that has become a piece of another one, where that is now."""
        place = place_of(where)
        with self.database.reading() as session:
            moved = repository.moved_to(session, place.project)
        return Place(*moved) if moved else place

    def all(self) -> list[Project]:
        """Every project, the last changed first."""
        return [Project(stored) for stored in self.documents.all()]

    def change(self, where: Place | int, label: str, change: Callable[[ProjectFile], ProjectFile]) -> Project:
        """Applies a change to the file, open at the piece at hand, and keeps it as a step that can be undone.

        Whatever `change` or the new piece's check raises leaves everything as it was; a change that changes
        nothing is no step.
        """
        place = self._here(where)
        return _moved(self.documents.change(place.project, label, checked_change(change, place.piece)), place)

    def change_piece(self, where: Place | int, label: str, change: Callable[[Piece], Piece]) -> Project:
        """`change` on the piece alone."""
        return self.change(where, label, on_piece(change))

    def spent_number(self, where: Place | int) -> int:
        """The highest number of a piece that was ever knitted at: a removed piece's tally is never another's."""
        with self.database.reading() as session:
            return repository.last_piece(session, self._here(where).project)

    def undo(self, where: Place | int) -> Project:
        """One step back; nothing where there is none."""
        place = self._here(where)
        return _moved(self.documents.move(place.project, -1), place)

    def redo(self, where: Place | int) -> Project:
        """One step forward again."""
        place = self._here(where)
        return _moved(self.documents.move(place.project, +1), place)

    def steps(self, where: Place | int) -> list[Version]:
        """Every step of a project's history, the first first, each at the piece or at its first where it had none."""
        place = self._here(where)
        return [
            Version(
                position=s.position, label=s.label, file=_at_or_first(read_stored(s.document), place.piece), at=s.at
            )
            for s in self.documents.steps(place.project)
        ]

    def go(self, where: Place | int, position: int) -> Project:
        """To any step of the history."""
        place = self._here(where)
        return _moved(self.documents.go(place.project, position), place)

    def remove(self, where: Place | int) -> None:
        """Deletes a project for good."""
        self.documents.remove(self._here(where).project)


def _at_or_first(file: ProjectFile, number: int) -> ProjectFile:
    return file.opened_at(number if any(p.number == number for p in file.pieces) else 0)


def _opened(stored: Stored, place: Place) -> Project:
    """The project at a piece. Raises NotFound where it has none of that number."""
    return Project(stored, read_stored(stored.document).opened_at(place.piece).own.number if place.piece else 0)


def _moved(stored: Stored, place: Place) -> Project:
    """The project at a piece, or at its first where a step of its history has no such piece."""
    return Project(
        stored, place.piece if any(p.number == place.piece for p in read_stored(stored.document).pieces) else 0
    )
