"""Reads and writes projects, their history and their events; every function works inside a given session."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from .models import EventRow, ProjectRow, StepRow

KEEP_STEPS = 300  # our choice: nobody undoes more, and a document is about two kilobytes


@dataclass(frozen=True)
class Stored:
    """A project as stored: its document now, and where it stands in its history."""

    id: int
    document: str
    position: int
    undo_label: str
    redo_label: str
    created: datetime
    changed: datetime


def create(session: Session, document: str, label: str, now: datetime) -> int:
    """A new project; returns its id."""
    project = ProjectRow(position=0, created=now, changed=now)
    session.add(project)
    session.flush()
    session.add(StepRow(project_id=project.id, position=0, label=label, document=document))
    return project.id


def load(session: Session, project_id: int) -> Stored | None:
    """A project, or None."""
    project = session.get(ProjectRow, project_id)
    return _stored(session, project) if project else None


def load_all(session: Session) -> list[Stored]:
    """Every project, the last changed first."""
    rows = session.scalars(select(ProjectRow).order_by(ProjectRow.changed.desc(), ProjectRow.id.desc()))
    return [_stored(session, row) for row in rows]


def _stored(session: Session, project: ProjectRow) -> Stored:
    at = project.position
    near = select(StepRow).where(StepRow.project_id == project.id, StepRow.position.in_((at, at + 1)))
    steps = {s.position: s for s in session.scalars(near)}
    first = session.scalar(select(func.min(StepRow.position)).where(StepRow.project_id == project.id))
    return Stored(
        id=project.id,
        document=steps[at].document,
        position=at,
        undo_label=steps[at].label if first is not None and at > first else "",
        redo_label=steps[at + 1].label if at + 1 in steps else "",
        created=project.created,
        changed=project.changed,
    )


def append_step(session: Session, project_id: int, document: str, label: str, now: datetime) -> None:
    """A new step after the present one; steps that had been undone are forgotten, as are the oldest."""
    project = session.get_one(ProjectRow, project_id)
    mine = StepRow.project_id == project_id
    session.execute(delete(StepRow).where(mine, StepRow.position > project.position))
    project.position += 1
    project.changed = now
    session.add(StepRow(project_id=project_id, position=project.position, label=label, document=document))
    session.execute(delete(StepRow).where(mine, StepRow.position <= project.position - KEEP_STEPS))


def move_in_history(session: Session, project_id: int, by: int, now: datetime) -> bool:
    """Undo (−1) or redo (+1); False where there is no such step."""
    project = session.get_one(ProjectRow, project_id)
    wanted = project.position + by
    found = session.scalar(select(StepRow.id).where(StepRow.project_id == project_id, StepRow.position == wanted))
    if found is None:
        return False
    project.position = wanted
    project.changed = now
    return True


def remove(session: Session, project_id: int) -> None:
    """Deletes a project with its history and events."""
    session.execute(delete(ProjectRow).where(ProjectRow.id == project_id))


def add_event(session: Session, project_id: int, kind: str, row: int, now: datetime) -> None:
    """Appends an event of knitting."""
    session.add(EventRow(project_id=project_id, kind=kind, row=row, at=now))


def events(session: Session, project_id: int) -> Sequence[EventRow]:
    """All events of a project in the order in which they happened."""
    return session.scalars(select(EventRow).where(EventRow.project_id == project_id).order_by(EventRow.id)).all()
