"""The swatch book: make, open, change with undo, photos, and what each swatch says."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import lru_cache

from sqlalchemy.orm import Session

from ...core.gauge import Basis, Gauge, estimate
from ...core.gauge.model import model_ratio
from ...core.gauge.reading import Reading, Worth, reading_worth
from ...core.library import StitchPattern
from ...core.practice import ROWS_TO_STITCHES
from ...store import repository
from ...store.database import Database
from ...store.repository import SWATCHES
from ..answers import ReadingWorth
from ..documents import Changed, Documents, Opened
from ..errors import NotFound
from ..exchange import SwatchFile, SwatchReading
from .form import valid_swatch
from .photos import cleaned_photo

PLANNED_MM = 1050.0  # our choice, where no piece is planned yet: a throw, on which a slip costs most


@dataclass(frozen=True, kw_only=True)
class Read:
    """A reading as the page shows it: per 10 cm (stitches or rows), against the model, and what it is worth."""

    file: SwatchReading
    core: Reading
    pattern: StitchPattern
    to_ten: float
    worth: Worth

    @property
    def told_worth(self) -> ReadingWorth:
        """What it is worth, as it is told."""
        return ReadingWorth(
            along=self.core.along,
            counted=self.file.counted,
            precision=self.file.precision,
            count=self.core.count,
            over_mm=self.core.mm,
            narrower_mm=self.worth.narrower_mm,
            wider_mm=self.worth.wider_mm,
            planned_mm=self.worth.planned_mm,
        )


class Swatch(Opened):
    """An opened swatch."""

    @property
    def file(self) -> SwatchFile:
        """The swatch as it is stored."""
        return _read(self.stored.document)

    @property
    def name(self) -> str:
        """Its name."""
        return self.file.name

    @property
    def readings(self) -> tuple[Read, ...]:
        """Its readings, with what each is worth over a throw."""
        return readings_of(self.file)

    @property
    def look(self) -> str:
        """Changes whenever its picture does: browsers keep pictures for good."""
        knitted = "+".join(f"{p.stitches} {p.pattern}" for p in self.file.parts)
        return hashlib.sha256(f"{knitted} {self.file.rows}".encode()).hexdigest()[:12]

    @property
    def ratios(self) -> tuple[tuple[StitchPattern, float, float], ...]:
        """Each pattern measured beside stockinette in the same state: its draw-in as read, and by the model."""
        plain = {r.file.state: r.to_ten for r in self.readings if _alone(r) and r.pattern.id == "stockinette"}
        return tuple(
            (r.pattern, plain[r.file.state] / r.to_ten, model_ratio(r.pattern, ROWS_TO_STITCHES))
            for r in self.readings
            if _alone(r) and r.file.state in plain and r.pattern.id != "stockinette"
        )

    @property
    def washing(self) -> tuple[tuple[StitchPattern, str, float], ...]:
        """What washing did where a pattern was read before and after it: the direction, and by what part it grew."""
        raw = {(r.pattern.id, r.file.kind): r for r in self.readings if r.file.state == "as knitted"}
        return tuple(
            (r.pattern, "wider" if r.core.along == "width" else "taller", before.to_ten / r.to_ten - 1.0)
            for r in self.readings
            if r.file.state == "washed" and (before := raw.get((r.pattern.id, r.file.kind)))
        )


def readings_of(file: SwatchFile, width_mm: float = PLANNED_MM, height_mm: float = PLANNED_MM) -> tuple[Read, ...]:
    """A swatch's readings, with what each is worth over the planned width or, where rows were counted, the height."""
    planned = {"width": width_mm, "height": height_mm}
    return tuple(
        _shown(told, core, planned[core.along]) for told, core in zip(file.readings, file.core_readings(), strict=True)
    )


def _shown(file: SwatchReading, core: Reading, planned_mm: float) -> Read:
    count = core.count / len(core.parts) if file.kind == "height" else core.count
    return Read(
        file=file,
        core=core,
        pattern=core.parts[0].pattern,
        to_ten=count / core.mm * 100.0,
        worth=reading_worth(core, planned_mm),
    )


def _alone(read: Read) -> bool:
    return read.core.along == "width" and len(read.core.parts) == 1


class SwatchBook:
    """The swatches of one database."""

    def __init__(self, database: Database) -> None:
        self.database = database
        self.documents = Documents(database, SWATCHES, "swatch", read=lambda document: _read(document).core_readings())

    def create(self, file: SwatchFile) -> int:
        """Stores a new swatch; returns its number."""
        return self.documents.create(_checked(file).model_dump_json(), "New swatch", self._keep(file))

    def create_all(self, files: Iterable[SwatchFile]) -> None:
        """Stores several new swatches in one go: all of them or none."""
        checked = [_checked(file) for file in files]
        self.documents.create_all((Changed(f.model_dump_json(), self._keep(f)) for f in checked), "From a table")

    def open(self, swatch_id: int) -> Swatch:
        """A swatch by number. Raises NotFound."""
        return Swatch(self.documents.open(swatch_id))

    def all(self) -> list[Swatch]:
        """Every swatch, the last changed first."""
        return [Swatch(stored) for stored in self.documents.all()]

    def change(self, swatch_id: int, label: str, change: Callable[[SwatchFile], SwatchFile]) -> Swatch:
        """Applies a change and keeps it as a step that can be undone; what it raises leaves all as it was."""

        def checked(document: str) -> Changed:
            before = _read(document)
            after = _checked(change(before))
            return Changed(after.model_dump_json() if after != before else document, self._keep(after))

        return Swatch(self.documents.change(swatch_id, label, checked))

    def move(self, swatch_id: int, by: int) -> Swatch:
        """One step back (−1) or forward (+1) in the history; nothing where there is none."""
        return Swatch(self.documents.move(swatch_id, by))

    def remove(self, swatch_id: int) -> None:
        """Deletes a swatch for good, and its photos; projects that use it keep their own copy of its readings."""
        self.documents.remove(swatch_id)
        with self.database.writing() as session:
            repository.drop_photos(session)

    def add_reading(self, swatch_id: int, reading: SwatchReading) -> Swatch:
        """One more reading."""
        return self.change(swatch_id, "add a measurement", lambda f: _with(f, readings=(*f.readings, reading)))

    def drop_reading(self, swatch_id: int, at: int) -> Swatch:
        """Takes a reading out. Raises NotFound."""

        def change(file: SwatchFile) -> SwatchFile:
            if not 0 <= at < len(file.readings):
                raise NotFound("That measurement is no longer there.")
            return _with(file, readings=file.readings[:at] + file.readings[at + 1 :])

        return self.change(swatch_id, "remove a measurement", change)

    def add_photo(self, swatch_id: int, data: bytes) -> Swatch:
        """Keeps a photo with the swatch. Raises InvalidText where it is no picture."""
        photo, content = cleaned_photo(data)
        with self.database.writing() as session:
            repository.keep_photo(session, photo, content)
        return self.change(swatch_id, "add a photo", lambda f: _with(f, photo=photo))

    def photo(self, photo_id: str) -> bytes:
        """A kept photo, a JPEG. Raises NotFound."""
        with self.database.reading() as session:
            data = repository.kept_photo(session, photo_id)
        if data is None:
            raise NotFound("There is no such photo.")
        return data

    @staticmethod
    def _keep(file: SwatchFile) -> Callable[[Session], None]:
        """Keeps the knitter's own patterns that a swatch shows, so that their pictures can be asked for by id."""

        def keep(session: Session) -> None:
            for own in file.patterns:
                repository.keep_pattern(session, own.id, own.model_dump_json())

        return keep


def _with(file: SwatchFile, **changes: object) -> SwatchFile:
    return file.model_copy(update=changes)


def _checked(file: SwatchFile) -> SwatchFile:
    """The file itself, once its patterns and every reading make sense. Raises IllegalPiece."""
    again = valid_swatch(file.model_dump())
    again.core_parts()
    estimate(Basis(gauge=Gauge(20.0, 28.0), readings=again.core_readings("whatever it is")))
    return again


@lru_cache(maxsize=512)
def _read(document: str) -> SwatchFile:
    return SwatchFile.model_validate_json(document)
