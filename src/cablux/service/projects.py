"""Projects: make, list, open, change with undo, exchange."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from sqlalchemy.orm import Session

from ..core.gauge import EIGHTY
from ..core.layout.caston import CastOnPlan, plan
from ..core.layout.heights import RowPlan, plan_rows
from ..core.layout.piece import Piece
from ..core.layout.widths import body_sd_um, body_um, chance_within
from ..core.units import Unit
from ..render.yarn import Yarn
from ..store import repository
from ..store.database import Database
from ..store.repository import PROJECTS
from .documents import Documents, Opened
from .files import ProjectFile, read_project


@dataclass(frozen=True)
class Numbers:
    """The numbers a knitter came for; every page takes them from here."""

    cast_on: CastOnPlan
    rows: RowPlan
    width_um: int
    sd_um: float
    chance: float

    @property
    def eighty_um(self) -> float:
        """Half of the interval in which eight of ten such pieces would lie."""
        return EIGHTY * self.sd_um


class Project(Opened):
    """An opened project."""

    @property
    def file(self) -> ProjectFile:
        """The project file that it is."""
        return _read(self.stored.document)

    @property
    def name(self) -> str:
        """Its name."""
        return self.file.name

    @property
    def unit(self) -> Unit:
        """The unit the person chose."""
        return self.file.unit

    @property
    def paint(self) -> Yarn:
        """What its cloth is painted with."""
        return Yarn(self.file.colour, self.file.thick)

    @property
    def piece(self) -> Piece:
        """The piece it makes."""
        return _piece(self.file)

    @property
    def numbers(self) -> Numbers:
        """Cast-on, rows, width and how sure that is."""
        return numbers(self.piece)


@lru_cache(maxsize=128)
def _piece(file: ProjectFile) -> Piece:
    return file.piece()


@lru_cache(maxsize=128)
def numbers(piece: Piece) -> Numbers:
    """The numbers of a piece."""
    width, sd = body_um(piece, piece.outlook), body_sd_um(piece)
    wanted, tolerance = piece.width_mm * 1000.0, piece.tolerance_mm * 1000.0
    chance = chance_within(width, sd, wanted - tolerance, wanted + tolerance)
    return Numbers(plan(piece), plan_rows(piece), width, sd, chance)


class Projects:
    """The projects of one database."""

    def __init__(self, database: Database) -> None:
        self.database = database
        self.documents = Documents(database, PROJECTS, "project")

    def create(self, file: ProjectFile) -> int:
        """Stores a new project; returns its id."""
        file.piece()
        return self.documents.create(file.text(), "New project", lambda session: _keep_patterns(session, file))

    def import_text(self, text: str | bytes) -> int:
        """Stores a project from a project file's text. Raises BadFile or IllegalPiece.

        Its swatches come along, but not their numbers: those were another book's.
        """
        file = read_project(text)
        unnumbered = tuple(used.model_copy(update={"book": 0}) for used in file.swatches)
        return self.create(file.model_copy(update={"swatches": unnumbered}))

    def open(self, project_id: int) -> Project:
        """A project by id. Raises NotFound."""
        return Project(self.documents.open(project_id))

    def all(self) -> list[Project]:
        """Every project, the last changed first."""
        return [Project(stored) for stored in self.documents.all()]

    def change(self, project_id: int, label: str, change: Callable[[ProjectFile], ProjectFile]) -> Project:
        """Applies a change and keeps it as a step that can be undone.

        Whatever `change` or the new piece's check raises leaves everything as it was; a change that changes
        nothing is no step.
        """

        def checked(session: Session, document: str) -> str:
            before = _read(document)
            after = change(before)
            numbers(_piece(after))  # refuses what cannot be knitted
            _keep_patterns(session, after)
            return after.text() if after != before else document

        return Project(self.documents.change(project_id, label, checked))

    def change_piece(self, project_id: int, label: str, change: Callable[[Piece], Piece]) -> Project:
        """`change` on the piece alone."""
        return self.change(project_id, label, lambda file: file.with_piece(change(_piece(file))))

    def undo(self, project_id: int) -> Project:
        """One step back; nothing where there is none."""
        return Project(self.documents.move(project_id, -1))

    def redo(self, project_id: int) -> Project:
        """One step forward again."""
        return Project(self.documents.move(project_id, +1))

    def remove(self, project_id: int) -> None:
        """Deletes a project for good."""
        self.documents.remove(project_id)


def _keep_patterns(session: Session, file: ProjectFile) -> None:
    """Keeps the knitter's own patterns that a project uses, so that their pictures can be asked for by id."""
    swatched = (own for used in file.swatches for own in used.swatch.patterns)
    for own in (*file.patterns, *swatched):
        repository.keep_pattern(session, own.id, own.model_dump_json())


@lru_cache(maxsize=256)
def _read(document: str) -> ProjectFile:
    return read_project(document)
