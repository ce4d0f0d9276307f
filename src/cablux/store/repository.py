"""Reads and writes what has a history, kept patterns and photos, and events, inside a given session."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields
from datetime import datetime

from sqlalchemy import ColumnElement, delete, func, select, true
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session

from .models import (
    EventRow,
    HistoryRow,
    MovedRow,
    NameRow,
    OwnerRow,
    PanelRow,
    PanelStepRow,
    PatternRow,
    PhotoRow,
    ProjectRow,
    StepRow,
    SwatchRow,
    SwatchStepRow,
)

KEEP_STEPS = 300  # our choice: nobody undoes more, and a document is about two kilobytes


@dataclass(frozen=True, kw_only=True)
class Stored:
    """A document as stored, and where it stands in its history."""

    id: int
    document: str
    position: int
    undo_label: str
    redo_label: str
    created: datetime
    changed: datetime


@dataclass(frozen=True, kw_only=True)
class HistoryStep:
    """A step of a history: where it stands, what it was called, the document after it, and when it was made (UTC).

    Steps made before times were kept have none.
    """

    position: int
    label: str
    document: str
    at: datetime | None = None


class Histories:
    """Documents of one kind, each with its steps."""

    def __init__(self, owner: type[OwnerRow], step: type[HistoryRow]) -> None:
        self.owner, self.step = owner, step

    def create(self, session: Session, document: str, label: str, *, now: datetime) -> int:
        """A new document; returns its id."""
        row = self.owner(position=0, created=now, changed=now)
        session.add(row)
        session.flush()
        session.add(self.step(owner_id=row.id, position=0, label=label, document=document, at=now))
        return row.id

    def load(self, session: Session, owner_id: int) -> Stored | None:
        """A document, or None."""
        return next(iter(self._stored(session, self.owner.id == owner_id)), None)

    def load_all(self, session: Session) -> list[Stored]:
        """Every document, the last changed first."""
        return self._stored(session, true())

    def _stored(self, session: Session, wanted: ColumnElement[bool]) -> list[Stored]:
        """Those of the documents that are wanted, the last changed first, in three queries however many they are."""
        owner, step = self.owner, self.step
        rows = session.scalars(select(owner).where(wanted).order_by(owner.changed.desc(), owner.id.desc())).all()
        theirs = owner.id == step.owner_id
        near = step.position.between(owner.position, owner.position + 1)
        steps = {
            (s.owner_id, s.position): s for s in session.scalars(select(step).join(owner, theirs).where(wanted, near))
        }
        first = (
            select(step.owner_id, func.min(step.position).label("first"))
            .join(owner, theirs)
            .where(wanted)
            .group_by(step.owner_id)
        )
        firsts = {mine.owner_id: mine.first for mine in session.execute(first)}
        return [
            Stored(
                id=row.id,
                document=steps[row.id, row.position].document,
                position=row.position,
                undo_label=steps[row.id, row.position].label if row.position > firsts[row.id] else "",
                redo_label=steps[after].label if (after := (row.id, row.position + 1)) in steps else "",
                created=row.created,
                changed=row.changed,
            )
            for row in rows
        ]

    def append(self, session: Session, owner_id: int, document: str, *, label: str, now: datetime) -> None:
        """A new step after the present one; steps that had been undone are forgotten, as are the oldest."""
        row = session.get_one(self.owner, owner_id)
        step, mine = self.step, self.step.owner_id == owner_id
        session.execute(delete(step).where(mine, step.position > row.position))
        row.position += 1
        row.changed = now
        session.add(step(owner_id=owner_id, position=row.position, label=label, document=document, at=now))
        session.execute(delete(step).where(mine, step.position <= row.position - KEEP_STEPS))

    def move(self, session: Session, owner_id: int, by: int, *, now: datetime) -> bool:
        """Undo (−1) or redo (+1); False where there is no such step."""
        row = session.get_one(self.owner, owner_id)
        step, wanted = self.step, row.position + by
        found = session.scalar(select(step.id).where(step.owner_id == owner_id, step.position == wanted))
        if found is None:
            return False
        row.position = wanted
        row.changed = now
        return True

    def steps(self, session: Session, owner_id: int) -> list[HistoryStep]:
        """All steps that are kept, the first first; those that were undone are among them."""
        found = session.scalars(select(self.step).where(self.step.owner_id == owner_id).order_by(self.step.position))
        return [HistoryStep(position=s.position, label=s.label, document=s.document, at=s.at) for s in found]

    def remove(self, session: Session, owner_id: int) -> None:
        """Deletes a document with its history and all that hangs on it."""
        session.execute(delete(self.owner).where(self.owner.id == owner_id))


PROJECTS = Histories(ProjectRow, StepRow)
PANELS = Histories(PanelRow, PanelStepRow)
SWATCHES = Histories(SwatchRow, SwatchStepRow)


def keep_pattern(session: Session, pattern_id: str, document: str) -> None:
    """Keeps a pattern under the id that its content gives; once kept it stays as it is."""
    session.execute(insert(PatternRow).values(id=pattern_id, document=document).on_conflict_do_nothing())


def kept_pattern(session: Session, pattern_id: str) -> str | None:
    """A kept pattern's document, or None."""
    row = session.get(PatternRow, pattern_id)
    return row.document if row else None


def kept_names(session: Session) -> dict[str, str]:
    """The names that are kept, with their meanings, in the order of the alphabet."""
    return {row.name: row.meaning for row in session.scalars(select(NameRow).order_by(NameRow.name))}


def keep_names(session: Session, names: Mapping[str, str]) -> None:
    """Keeps names; what is kept already is exchanged."""
    for name, meaning in names.items():
        row = insert(NameRow).values(name=name, meaning=meaning)
        session.execute(row.on_conflict_do_update(index_elements=["name"], set_={"meaning": meaning}))


def forget_name(session: Session, name: str) -> None:
    """Keeps a name no longer."""
    session.execute(delete(NameRow).where(NameRow.name == name))


def keep_photo(session: Session, photo_id: str, data: bytes) -> None:
    """Keeps a photo under the id that its content gives."""
    session.execute(insert(PhotoRow).values(id=photo_id, data=data).on_conflict_do_nothing())


def kept_photo(session: Session, photo_id: str) -> bytes | None:
    """A kept photo, or None."""
    row = session.get(PhotoRow, photo_id)
    return row.data if row else None


def drop_photos(session: Session) -> None:
    """Deletes photos that no swatch, no step of a swatch's history and no event shows any more."""
    shown = select(SwatchStepRow.id).where(SwatchStepRow.document.contains(PhotoRow.id)).exists()
    noted = select(EventRow.id).where(EventRow.photo == PhotoRow.id).exists()
    session.execute(delete(PhotoRow).where(~shown, ~noted))


@dataclass(frozen=True, kw_only=True)
class EventFacts:
    """What an event says beside its kind and its row."""

    text: str = ""
    value: float = 0.0
    photo: str | None = None
    of: int = 0
    tap: str | None = None


def add_event(
    session: Session,
    project_id: int,
    kind: str,
    *,
    row: int,
    now: datetime,
    piece: int = 1,
    copy: int = 1,
    facts: EventFacts = EventFacts(),
) -> int:
    """Appends an event of knitting, of one copy of a piece; returns its id."""
    event = EventRow(project_id=project_id, piece=piece, copy=copy, kind=kind, row=row, at=now, **vars(facts))
    session.add(event)
    session.flush()
    return event.id


@dataclass(frozen=True, kw_only=True)
class StoredEvent:
    """An event as stored, by its id; `piece` and `copy` say of what, `of` which event it is about, 0 for none.

    `tap`: the name that a phone gave it.
    """

    id: int
    piece: int
    copy: int
    kind: str
    row: int
    at: datetime
    text: str
    value: float
    photo: str | None
    of: int
    tap: str | None


_EVENT = tuple(getattr(EventRow, each.name) for each in fields(StoredEvent))


def load_events(session: Session, project_id: int) -> list[StoredEvent]:
    """All events of a project in the order in which they happened."""
    found = session.execute(select(*_EVENT).where(EventRow.project_id == project_id).order_by(EventRow.id))
    return [StoredEvent(**each) for each in found.mappings()]


def load_every_event(session: Session) -> dict[int, list[StoredEvent]]:
    """All events of each project that has any, in the order in which they happened."""
    out: dict[int, list[StoredEvent]] = {}
    for each in session.execute(select(EventRow.project_id, *_EVENT).order_by(EventRow.id)).mappings():
        facts = dict(each)
        out.setdefault(facts.pop("project_id"), []).append(StoredEvent(**facts))
    return out


def last_piece(session: Session, project_id: int) -> int:
    """The highest number of a piece that was ever knitted at; 0 where nothing was."""
    return session.scalar(select(func.max(EventRow.piece)).where(EventRow.project_id == project_id)) or 0


def moved_to(session: Session, project_id: int) -> tuple[int, int] | None:
    """The project and the piece that a project has become; None where it is one of its own."""
    row = session.get(MovedRow, project_id)
    return (row.project_id, row.piece) if row else None
