"""The tables: projects, the steps of their history, and the events of knitting."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import DateTime, ForeignKey, MetaData, String, Text, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

NAMING = {
    "ix": "ix_%(column_0_label)s",
    "uq": "uq_%(table_name)s_%(column_0_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
    "pk": "pk_%(table_name)s",
}


class Base(DeclarativeBase):
    """Names every constraint, so that migrations can find it."""

    metadata = MetaData(naming_convention=NAMING)


class ProjectRow(Base):
    """A project; its layout is the document of the step at `position`."""

    __tablename__ = "project"

    id: Mapped[int] = mapped_column(primary_key=True)
    position: Mapped[int] = mapped_column(default=0)
    created: Mapped[datetime] = mapped_column(DateTime)
    changed: Mapped[datetime] = mapped_column(DateTime)


class StepRow(Base):
    """One step of a project's history: the whole document after it, and what the step was called."""

    __tablename__ = "step"
    __table_args__ = (UniqueConstraint("project_id", "position"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[int] = mapped_column(ForeignKey("project.id", ondelete="CASCADE"), index=True)
    position: Mapped[int]
    label: Mapped[str] = mapped_column(String(200))
    document: Mapped[str] = mapped_column(Text)


class EventRow(Base):
    """One event of knitting; rows are only ever added."""

    __tablename__ = "event"

    id: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[int] = mapped_column(ForeignKey("project.id", ondelete="CASCADE"), index=True)
    kind: Mapped[str] = mapped_column(String(20))
    row: Mapped[int]
    at: Mapped[datetime] = mapped_column(DateTime)
