"""Documents with a history: opened, changed in one transaction, undone, removed; what projects and panels share."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy.orm import Session

from ..store.database import Database
from ..store.repository import Histories, Stored
from .errors import NotFound


def now() -> datetime:
    """The time, UTC, as stored."""
    return datetime.now(UTC).replace(tzinfo=None)


@dataclass(frozen=True)
class Opened:
    """A document that has been opened, where it stands in its history."""

    stored: Stored

    @property
    def id(self) -> int:
        """Its number."""
        return self.stored.id

    @property
    def position(self) -> int:
        """Which step of its history it is."""
        return self.stored.position

    @property
    def undo_label(self) -> str:
        """What undo would take back; empty where there is nothing."""
        return self.stored.undo_label

    @property
    def redo_label(self) -> str:
        """What redo would do again; empty where there is nothing."""
        return self.stored.redo_label


class Documents:
    """The documents of one kind in one database; `what` is their name in a sentence, such as “project”."""

    def __init__(self, database: Database, kind: Histories, what: str) -> None:
        self.database, self.kind, self.what = database, kind, what

    def create(self, document: str, label: str, also: Callable[[Session], None] | None = None) -> int:
        """A new document; `also` is done in the same transaction. Returns its number."""
        with self.database.writing() as session:
            if also:
                also(session)
            return self.kind.create(session, document, label, now())

    def open(self, number: int) -> Stored:
        """A document by number. Raises NotFound."""
        with self.database.reading() as session:
            return self._load(session, number)

    def all(self) -> list[Stored]:
        """Every document, the last changed first."""
        with self.database.reading() as session:
            return self.kind.load_all(session)

    def change(self, number: int, label: str, change: Callable[[Session, str], str]) -> Stored:
        """Applies a change and keeps it as a step that can be undone.

        Whatever `change` raises leaves everything as it was; a change that changes nothing is no step.
        """
        with self.database.writing() as session:
            before = self._load(session, number).document
            after = change(session, before)
            if after != before:
                self.kind.append(session, number, after, label, now())
        return self.open(number)

    def move(self, number: int, by: int) -> Stored:
        """One step back (−1) or forward (+1); nothing where there is none."""
        with self.database.writing() as session:
            self._load(session, number)
            self.kind.move(session, number, by, now())
        return self.open(number)

    def remove(self, number: int) -> None:
        """Deletes a document for good."""
        with self.database.writing() as session:
            self.kind.remove(session, number)

    def _load(self, session: Session, number: int) -> Stored:
        stored = self.kind.load(session, number)
        if stored is None:
            raise NotFound(f"There is no such {self.what}; it may have been removed.")
        return stored
