"""Projects: make, list, open, change with undo, exchange."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property, lru_cache

from sqlalchemy.orm import Session

from ...core.errors import CabluxError, IllegalPiece
from ...core.gauge import EIGHTY
from ...core.layout.caston import CastOnPlan, plan_cast_on
from ...core.layout.follow import follow_parts
from ...core.layout.heights import RowPlan, plan_rows
from ...core.layout.piece import BandView, Piece
from ...core.layout.problems import checked_piece
from ...core.layout.widths import body_sd_um, body_um, chance_within
from ...core.units import Unit
from ...render.yarn import Yarn
from ...store import repository
from ...store.database import Database
from ...store.repository import PROJECTS, Stored
from ..documents import Changed, DocumentChange, Documents, Opened
from ..exchange import PieceFile, ProjectFile, checked_file, read_project
from .place import Place, place_of

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


@dataclass(frozen=True)
class Project(Opened):
    """An opened project, at one of its pieces: 0 is its first."""

    at_piece: int = 0

    @cached_property
    def file(self) -> ProjectFile:
        """The project file that it is, open at the piece."""
        return _read(self.stored.document).opened_at(self.at_piece)

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
        self.documents = Documents(database, PROJECTS, "project", lambda document: _read(document).all_pieces())

    def create(self, file: ProjectFile) -> int:
        """Stores a new project; returns its id."""
        file.all_pieces()
        return self.documents.create(file.text(), "New project", lambda session: _keep_patterns(session, file))

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
        return _moved(self.documents.change(place.project, label, _checked(change, place.piece)), place)

    def change_piece(self, where: Place | int, label: str, change: Callable[[Piece], Piece]) -> Project:
        """`change` on the piece alone."""
        return self.change(where, label, _on_piece(change))

    def change_others(self, where: Place | int, label: str, change: Callable[[Piece], Piece]) -> Project:
        """`change` on all pieces but the one at hand: on all, or on none where one refuses; it is named then."""

        def others(file: ProjectFile) -> ProjectFile:
            at = file.own.number
            for own in file.pieces:
                if own.number == at:
                    continue
                try:
                    file = _on_piece(change)(file.opened_at(own.number))
                    piece_numbers(_piece(file))
                except CabluxError as error:
                    raise IllegalPiece(f"{own.name or file.name}: {error}") from error
            return file.opened_at(at)

        return self.change(where, label, others)

    def add_piece(self, where: Place | int, label: str, name: str, piece: Piece) -> Project:
        """One more piece, begun like the one at hand and then as `piece`; the project at it. Raises IllegalPiece."""
        made: list[int] = []

        with self.database.reading() as session:
            tallied = repository.last_piece(session, self._here(where).project)

        def added(file: ProjectFile) -> ProjectFile:
            number = 1 + max(tallied, *(p.number for p in file.pieces))  # a removed piece's tally is never another's
            own = file.own.model_copy(update={"number": number, "name": _free_name(file, name), "measured": ()})
            named = file.pieces if file.pieces[0].name else _named(file)
            grown = checked_file(file.model_copy(update={"pieces": (*named, own)}))
            made[:] = [number]
            return grown.opened_at(number).with_piece(checked_piece(piece)).opened_at(file.own.number)

        changed = self.change(where, label, added)
        return self.open(Place(changed.id, made[0])) if made else changed

    def change_own(self, where: Place | int, name: str, copies: int) -> Project:
        """Another name for the piece at hand, and how many times it is worked. Raises BadFile where it is taken."""
        label = f"{name or 'the piece'} × {copies}"[:200]
        return self.change(where, label, lambda file: checked_file(file.with_own(name=name, copies=copies)))

    def copy_piece(self, where: Place | int) -> Project:
        """One more piece that begins as the one at hand is; the project at it."""
        project = self.open(where)
        return self.add_piece(where, f"copy {project.piece_name}"[:200], project.piece_name, project.piece)

    def remove_piece(self, where: Place | int) -> Project:
        """Takes the piece at hand out, and its joins; undo brings it back. Raises IllegalPiece for the last one."""

        def without(file: ProjectFile) -> ProjectFile:
            if len(file.pieces) == 1:
                raise IllegalPiece("A project keeps one piece; to be rid of it, remove the project.")
            number = file.own.number
            joins = tuple(j for j in file.joins if number not in (j.one.piece, j.other.piece))
            pieces = tuple(p for p in file.pieces if p.number != number)
            return file.opened_at(0).model_copy(update={"pieces": pieces, "joins": joins})

        project = self.open(where)
        self.change(where, f"remove {project.piece_name}"[:200], without)
        return self.open(project.id)

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
            Version(s.position, s.label, _at_or_first(_read(s.document), place.piece), s.at)
            for s in self.documents.steps(place.project)
        ]

    def go(self, where: Place | int, position: int) -> Project:
        """To any step of the history."""
        place = self._here(where)
        return _moved(self.documents.go(place.project, position), place)

    def remove(self, where: Place | int) -> None:
        """Deletes a project for good."""
        self.documents.remove(self._here(where).project)


def _free_name(file: ProjectFile, name: str) -> str:
    """The name, with a number behind it where a piece has it already."""
    taken = {(p.name or file.name).casefold() for p in file.pieces}
    tries = (name, *(f"{name} {n}" for n in range(2, 100)))
    return next(each for each in tries if each.casefold() not in taken)


def _named(file: ProjectFile) -> tuple[PieceFile, ...]:
    """The pieces, the first with the project's name as its own, so that the project can be renamed."""
    return (file.pieces[0].model_copy(update={"name": file.name}), *file.pieces[1:])


def _at_or_first(file: ProjectFile, number: int) -> ProjectFile:
    return file.opened_at(number if any(p.number == number for p in file.pieces) else 0)


def _opened(stored: Stored, place: Place) -> Project:
    """The project at a piece. Raises NotFound where it has none of that number."""
    return Project(stored, _read(stored.document).opened_at(place.piece).own.number if place.piece else 0)


def _moved(stored: Stored, place: Place) -> Project:
    """The project at a piece, or at its first where a step of its history has no such piece."""
    return Project(stored, place.piece if any(p.number == place.piece for p in _read(stored.document).pieces) else 0)


def _on_piece(change: Callable[[Piece], Piece]) -> Callable[[ProjectFile], ProjectFile]:
    return lambda file: _followed(file, checked_piece(change(_piece(file))))


def _followed(file: ProjectFile, changed: Piece) -> ProjectFile:
    """The piece at hand changed, and with it those that go on from its held stitches. Raises IllegalPiece."""
    if not any(p.begins or p.ends.groups for p in file.pieces):
        return file.with_piece(changed)
    own = file.own.number
    before = dict(zip((p.number for p in file.pieces), file.all_pieces(), strict=True))
    found = follow_parts(before, before | {own: changed}, own)
    for number, piece in found.items():
        if piece != before[number]:
            file = file.opened_at(number).with_piece(piece)
    return file.opened_at(own)


def _checked(change: Callable[[ProjectFile], ProjectFile], number: int) -> DocumentChange:
    def checked(document: str) -> Changed:
        before = _read(document).opened_at(number)
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
