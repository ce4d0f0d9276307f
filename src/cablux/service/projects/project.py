"""Projects: make, list, open, change with undo, exchange."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache

from sqlalchemy.orm import Session

from ...core.errors import CabluxError, IllegalPiece
from ...core.gauge import EIGHTY
from ...core.layout.caston import CastOnPlan, plan_cast_on
from ...core.layout.heights import RowPlan, plan_rows
from ...core.layout.piece import BandView, Piece
from ...core.layout.problems import checked_piece
from ...core.layout.widths import body_sd_um, body_um, chance_within
from ...core.units import Unit
from ...render.yarn import Yarn
from ...store import repository
from ...store.database import Database
from ...store.repository import PROJECTS
from ..documents import Changed, DocumentChange, Documents, Opened
from ..exchange import ProjectFile, read_project

COPY, MAX_NAME = " (copy)", 80


@dataclass(frozen=True)
class PieceNumbers:
    """The numbers a knitter came for; every page takes them from here. Width and chance are the first band's."""

    cast_on: CastOnPlan
    rows: RowPlan
    width_um: int
    sd_um: float
    chance: float
    bands: tuple[BandWidth, ...] = ()

    @property
    def eighty_um(self) -> float:
        """Half of the interval in which eight of ten such pieces would lie."""
        return EIGHTY * self.sd_um

    @property
    def steady(self) -> bool:
        """Whether the count stays as it was cast on, all the way up."""
        ends = self.cast_on.bottom.count, self.cast_on.top.count
        return len({*ends, *(band.stitches for band in self.bands)}) == 1


@dataclass(frozen=True)
class BandWidth:
    """How wide a body band will be, and how sure that is."""

    stitches: int
    width_um: int
    sd_um: float
    chance: float

    @property
    def eighty_um(self) -> float:
        """Half of the interval in which eight of ten such bands would lie."""
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
    def numbers(self) -> PieceNumbers:
        """Cast-on, rows, width and how sure that is."""
        return piece_numbers(self.piece)


@lru_cache(maxsize=128)
def _piece(file: ProjectFile) -> Piece:
    return file.piece()


@lru_cache(maxsize=128)
def piece_numbers(piece: Piece) -> PieceNumbers:
    """The numbers of a piece."""
    bands = tuple(map(band_width, piece.band_views))
    first = bands[0]
    return PieceNumbers(plan_cast_on(piece), plan_rows(piece), first.width_um, first.sd_um, first.chance, bands)


def band_width(view: BandView) -> BandWidth:
    """The width of a band by all that is known."""
    width, sd = body_um(view, view.outlook), body_sd_um(view)
    wanted, tolerance = view.piece.width_mm * 1000.0, view.piece.tolerance_mm * 1000.0
    return BandWidth(view.stitches, width, sd, chance_within(width, sd, wanted - tolerance, wanted + tolerance))


@dataclass(frozen=True)
class Version:
    """A project as it was at a step of its history."""

    position: int
    label: str
    file: ProjectFile
    at: datetime | None = None

    @property
    def piece(self) -> Piece:
        """The piece it made."""
        return _piece(self.file)

    @property
    def numbers(self) -> PieceNumbers:
        """Its numbers."""
        return piece_numbers(self.piece)


class Projects:
    """The projects of one database."""

    def __init__(self, database: Database) -> None:
        self.database = database
        self.documents = Documents(database, PROJECTS, "project", lambda document: _piece(_read(document)))

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

    def copy(self, project_id: int) -> int:
        """A project of its own that begins as another is now, with nothing knitted; returns its id."""
        file = self.open(project_id).file
        name = f"{file.name[: MAX_NAME - len(COPY)]}{COPY}"
        return self.create(file.model_copy(update={"name": name, "measured": ()}))

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
        return Project(self.documents.change(project_id, label, _checked(change)))

    def change_piece(self, project_id: int, label: str, change: Callable[[Piece], Piece]) -> Project:
        """`change` on the piece alone."""
        return self.change(project_id, label, _on_piece(change))

    def change_pieces(self, project_ids: Iterable[int], label: str, change: Callable[[Piece], Piece]) -> None:
        """`change` on the pieces of several projects: on all, or on none where one refuses; it is named then."""

        def named(file: ProjectFile) -> ProjectFile:
            try:
                return _on_piece(change)(file)
            except CabluxError as error:
                raise IllegalPiece(f"{file.name}: {error}") from error

        self.documents.change_all(project_ids, label, _checked(named))

    def undo(self, project_id: int) -> Project:
        """One step back; nothing where there is none."""
        return Project(self.documents.move(project_id, -1))

    def redo(self, project_id: int) -> Project:
        """One step forward again."""
        return Project(self.documents.move(project_id, +1))

    def steps(self, project_id: int) -> list[Version]:
        """Every step of a project's history, the first first."""
        return [Version(s.position, s.label, _read(s.document), s.at) for s in self.documents.steps(project_id)]

    def go(self, project_id: int, position: int) -> Project:
        """To any step of the history."""
        return Project(self.documents.go(project_id, position))

    def remove(self, project_id: int) -> None:
        """Deletes a project for good."""
        self.documents.remove(project_id)


def _on_piece(change: Callable[[Piece], Piece]) -> Callable[[ProjectFile], ProjectFile]:
    return lambda file: file.with_piece(checked_piece(change(_piece(file))))


def _checked(change: Callable[[ProjectFile], ProjectFile]) -> DocumentChange:
    def checked(document: str) -> Changed:
        before = _read(document)
        after = change(before)
        piece_numbers(_piece(after))  # refuses what cannot be knitted
        return Changed(after.text() if after != before else document, lambda session: _keep_patterns(session, after))

    return checked


def _keep_patterns(session: Session, file: ProjectFile) -> None:
    """Keeps the knitter's own patterns that a project uses, so that their pictures can be asked for by id."""
    swatched = (own for used in file.swatches for own in used.swatch.patterns)
    for own in (*file.patterns, *swatched):
        repository.keep_pattern(session, own.id, own.model_dump_json())


@lru_cache(maxsize=256)
def _read(document: str) -> ProjectFile:
    return read_project(document)
