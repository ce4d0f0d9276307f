"""Documents with a history: opened, changed in one transaction, undone, removed; what projects and panels share."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy.orm import Session

from ..store.database import Database
from ..store.repository import Histories, Step, Stored
from .errors import NotFound


def now() -> datetime:
    """The time, UTC, as stored."""
    return datetime.now(UTC).replace(tzinfo=None)


@dataclass(frozen=True)
class Changed:
    """A document as a change leaves it; `also` is done in the transaction that keeps it."""

    document: str
    also: Callable[[Session], None] | None = None


Change = Callable[[str], Changed]


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

    def change(self, number: int, label: str, change: Change) -> Stored:
        """Applies a change and keeps it as a step that can be undone.

        Whatever `change` raises leaves everything as it was; a change that changes nothing is no step.
        """
        self.change_all([number], label, change)
        return self.open(number)

    def change_all(self, numbers: Iterable[int], label: str, change: Change) -> None:
        """`change` on several documents in one transaction: on all of them or, where it raises, on none.

        It is worked out before the transaction begins, so that nobody else's tap waits for a solver. Where a document
        was changed meanwhile it is worked out again; the last time nobody else may write until it is done.
        """
        numbers = list(numbers)
        for last in (False, False, True):
            with self.database.reading() as session:
                before = {number: self._load(session, number) for number in numbers}
            made = {number: change(stored.document) for number, stored in before.items()}
            with self.database.writing() as session:
                now_there = {number: self._load(session, number) for number in numbers}
                moved = [n for n in numbers if _place(now_there[n]) != _place(before[n])]
                if moved and not last:
                    continue
                made |= {number: change(now_there[number].document) for number in moved}
                for number, changed in made.items():
                    if changed.also:
                        changed.also(session)
                    if changed.document != now_there[number].document:
                        self.kind.append(session, number, changed.document, label, now())
                return

    def move(self, number: int, by: int) -> Stored:
        """One step back (−1) or forward (+1); nothing where there is none."""
        with self.database.writing() as session:
            self._load(session, number)
            self.kind.move(session, number, by, now())
        return self.open(number)

    def steps(self, number: int) -> list[Step]:
        """The steps of a document's history, the first first."""
        with self.database.reading() as session:
            self._load(session, number)
            return self.kind.steps(session, number)

    def go(self, number: int, position: int) -> Stored:
        """To any step of the history. Raises NotFound where it is no longer kept."""
        with self.database.writing() as session:
            by = position - self._load(session, number).position
            if by and not self.kind.move(session, number, by, now()):
                raise NotFound("That step is no longer kept.")
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


def _place(stored: Stored) -> tuple[int, str]:
    return stored.position, stored.document
