"""The tables: projects, panels and swatches with their histories, kept patterns and photos, the events of knitting."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import DateTime, ForeignKey, Index, LargeBinary, MetaData, String, Text, UniqueConstraint
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


class OwnerRow(Base):
    """What has a history: its document is that of the step at `position`."""

    __abstract__ = True

    id: Mapped[int] = mapped_column(primary_key=True)
    position: Mapped[int] = mapped_column(default=0)
    created: Mapped[datetime] = mapped_column(DateTime)
    changed: Mapped[datetime] = mapped_column(DateTime)


class HistoryRow(Base):
    """One step of a history: the whole document after it, and what the step was called."""

    __abstract__ = True

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int]
    position: Mapped[int]
    label: Mapped[str] = mapped_column(String(200))
    document: Mapped[str] = mapped_column(Text)
    at: Mapped[datetime | None] = mapped_column(DateTime)


class ProjectRow(OwnerRow):
    """A project."""

    __tablename__ = "project"


class StepRow(HistoryRow):
    """One step of a project's history."""

    __tablename__ = "step"
    __table_args__ = (UniqueConstraint("project_id", "position"),)

    owner_id: Mapped[int] = mapped_column("project_id", ForeignKey("project.id", ondelete="CASCADE"), index=True)


class PanelRow(OwnerRow):
    """A panel of the knitter's own."""

    __tablename__ = "panel"


class PanelStepRow(HistoryRow):
    """One step of a panel's history."""

    __tablename__ = "panel_step"
    __table_args__ = (UniqueConstraint("panel_id", "position"),)

    owner_id: Mapped[int] = mapped_column("panel_id", ForeignKey("panel.id", ondelete="CASCADE"), index=True)


class SwatchRow(OwnerRow):
    """A swatch of the swatch book."""

    __tablename__ = "swatch"


class SwatchStepRow(HistoryRow):
    """One step of a swatch's history."""

    __tablename__ = "swatch_step"
    __table_args__ = (UniqueConstraint("swatch_id", "position"),)

    owner_id: Mapped[int] = mapped_column("swatch_id", ForeignKey("swatch.id", ondelete="CASCADE"), index=True)


class PhotoRow(Base):
    """A photo as it was kept: re-encoded, without metadata; its id comes from its content."""

    __tablename__ = "photo"

    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)


class PatternRow(Base):
    """A pattern as it was placed in a project; its id comes from its content, so it never changes."""

    __tablename__ = "pattern"

    id: Mapped[str] = mapped_column(String(60), primary_key=True)
    document: Mapped[str] = mapped_column(Text)


class NameRow(Base):
    """A name that a text explained, kept for the next one."""

    __tablename__ = "kept_name"

    name: Mapped[str] = mapped_column(String(20), primary_key=True)
    meaning: Mapped[str] = mapped_column(String(400))


class EventRow(Base):
    """One event of knitting, of a piece by its number and of which copy of it; rows are only ever added.

    `of` is the event that it is about, 0 for none; `tap` the name that a phone gave it, by which it is known when it is
    sent again.
    """

    __tablename__ = "event"
    __table_args__ = (Index("ix_event_tap", "project_id", "tap", unique=True),)

    id: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[int] = mapped_column(ForeignKey("project.id", ondelete="CASCADE"), index=True)
    piece: Mapped[int] = mapped_column(default=1, server_default="1")
    copy: Mapped[int] = mapped_column(default=1, server_default="1")
    kind: Mapped[str] = mapped_column(String(20))
    row: Mapped[int]
    at: Mapped[datetime] = mapped_column(DateTime)
    text: Mapped[str] = mapped_column(String(2000), default="", server_default="")
    value: Mapped[float] = mapped_column(default=0.0, server_default="0")
    photo: Mapped[str | None] = mapped_column(String(64))
    of: Mapped[int] = mapped_column(default=0, server_default="0")
    tap: Mapped[str | None] = mapped_column(String(40))


class MovedRow(Base):
    """A project that has become a piece of another one: where it is found now."""

    __tablename__ = "moved"

    id: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[int] = mapped_column(ForeignKey("project.id", ondelete="CASCADE"))
    piece: Mapped[int]
