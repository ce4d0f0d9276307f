"""Documents with a history: opened, changed in one transaction, undone, removed; what projects and panels share."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import UTC, datetime

from pydantic import ValidationError
from sqlalchemy.orm import Session

from ..core.errors import CabluxError
from ..store.database import Database
from ..store.repository import Histories, HistoryStep, Stored
from .errors import BadFile, NotFound
from .forms import field_faults


def time_now() -> datetime:
    """The time, UTC, as stored."""
    return datetime.now(UTC).replace(tzinfo=None)


@dataclass(frozen=True)
class Changed:
    """A document as a change leaves it; `also` is done in the transaction that keeps it."""

    document: str
    also: Callable[[Session], None] | None = None


DocumentChange = Callable[[str], Changed]


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
    """The documents of one kind in one database; `what` is their name in a sentence, such as “project”.

    `read` makes of a document's text what the program works with, and raises where it cannot. No text is written that
    it does not read: it is tried before a transaction begins, and on what the database gives back before the commit.
    """

    def __init__(self, database: Database, kind: Histories, what: str, *, read: Callable[[str], object]) -> None:
        self.database, self.kind, self.what, self.read = database, kind, what, read

    def create(self, document: str, label: str, also: Callable[[Session], None] | None = None) -> int:
        """A new document; `also` is done in the same transaction. Returns its number."""
        return self.create_all([Changed(document, also)], label)[0]

    def create_all(self, documents: Iterable[Changed], label: str) -> list[int]:
        """Several new documents, all of them or none; their numbers."""
        new, numbers = list(documents), list[int]()
        for each in new:
            self.readable(each.document)
        with self.database.writing() as session:
            for each in new:
                if each.also:
                    each.also(session)
                numbers.append(self.kind.create(session, each.document, label, now=time_now()))
                self.readable(self._load(session, numbers[-1]).document)
        return numbers

    def readable(self, document: str) -> str:
        """The document, if it can be read again. Raises BadFile, or what the reading itself finds."""
        try:
            self.read(document)
        except ValidationError as error:
            said = " ".join(field_faults(error, f"the {self.what}"))
            raise BadFile(f"This {self.what} cannot be kept, nothing was changed: {said}") from None
        return document

    def open(self, number: int) -> Stored:
        """A document by number. Raises NotFound."""
        with self.database.reading() as session:
            return self._load(session, number)

    def all(self) -> list[Stored]:
        """Every document that can be read, the last changed first."""
        return [stored for stored in self._all() if self._reads(stored)]

    def unreadable(self) -> list[Stored]:
        """Those that cannot: an older version of the program wrote what it should not have written."""
        return [stored for stored in self._all() if not self._reads(stored)]

    def _all(self) -> list[Stored]:
        with self.database.reading() as session:
            return self.kind.load_all(session)

    def _reads(self, stored: Stored) -> bool:
        try:
            self.readable(stored.document)
        except CabluxError:
            return False
        return True

    def change(self, number: int, label: str, change: DocumentChange) -> Stored:
        """Applies a change and keeps it as a step that can be undone.

        Whatever `change` raises leaves everything as it was; a change that changes nothing is no step.
        """
        self.change_all([number], label, change)
        return self.open(number)

    def change_all(self, numbers: Iterable[int], label: str, change: DocumentChange) -> None:
        """`change` on several documents in one transaction: on all of them or, where it raises, on none.

        It is worked out before the transaction begins, so that nobody else's tap waits for a solver. Where a document
        was changed meanwhile it is worked out again; the last time nobody else may write until it is done.
        """
        numbers = list(numbers)
        for last in (False, False, True):
            with self.database.reading() as session:
                before = {number: self._load(session, number) for number in numbers}
            made = {number: self._made(change, stored) for number, stored in before.items()}
            with self.database.writing() as session:
                now_there = {number: self._load(session, number) for number in numbers}
                moved = [n for n in numbers if _place(now_there[n]) != _place(before[n])]
                if moved and not last:
                    continue
                made |= {number: self._made(change, now_there[number]) for number in moved}
                for number, changed in made.items():
                    if changed.also:
                        changed.also(session)
                    if changed.document != now_there[number].document:
                        self.kind.append(session, number, changed.document, label=label, now=time_now())
                        self.readable(self._load(session, number).document)
                return

    def _made(self, change: DocumentChange, stored: Stored) -> Changed:
        """What a change makes of a document, if that can be read again."""
        changed = change(stored.document)
        if changed.document != stored.document:
            self.readable(changed.document)
        return changed

    def move(self, number: int, by: int) -> Stored:
        """One step back (−1) or forward (+1); nothing where there is none."""
        with self.database.writing() as session:
            self._load(session, number)
            self.kind.move(session, number, by, now=time_now())
        return self.open(number)

    def steps(self, number: int) -> list[HistoryStep]:
        """The steps of a document's history, the first first."""
        with self.database.reading() as session:
            self._load(session, number)
            return self.kind.steps(session, number)

    def go(self, number: int, position: int) -> Stored:
        """To any step of the history. Raises NotFound where it is no longer kept."""
        with self.database.writing() as session:
            by = position - self._load(session, number).position
            if by and not self.kind.move(session, number, by, now=time_now()):
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
