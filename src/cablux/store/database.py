"""Opens the SQLite database, brings it up to date, and hands out one transaction an action."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.engine.interfaces import DBAPIConnection
from sqlalchemy.orm import Session

_PRAGMAS = (
    "PRAGMA journal_mode=WAL",
    "PRAGMA synchronous=FULL",  # a tap at the chair must survive a power cut
    "PRAGMA foreign_keys=ON",
    "PRAGMA busy_timeout=5000",
    "PRAGMA temp_store=MEMORY",
    "PRAGMA cache_size=-16000",
)


def _prepare(connection: DBAPIConnection, _: Any) -> None:
    # we begin transactions ourselves: the driver's own way commits half a migration
    connection.isolation_level = None
    cursor = connection.cursor()
    for pragma in _PRAGMAS:
        cursor.execute(pragma)
    cursor.close()


def _begin(connection: Connection) -> None:
    write = connection.get_execution_options().get("cablux_write")
    # a writer that reads first must hold the lock from the start, or it fails as "locked" later
    connection.exec_driver_sql("BEGIN IMMEDIATE" if write else "BEGIN")


class Database:
    """The database file of one data folder."""

    def __init__(self, file: Path) -> None:
        self.file = file
        file.parent.mkdir(parents=True, exist_ok=True)
        self.engine: Engine = create_engine(f"sqlite:///{file}")
        event.listen(self.engine, "connect", _prepare)
        event.listen(self.engine, "begin", _begin)

    def upgrade(self) -> None:
        """Brings the tables to the newest version."""
        command.upgrade(alembic_config(self.file), "head")

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A session for reading."""
        with Session(self.engine) as session:
            yield session

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """A session that commits when the block ends well, and changes nothing otherwise."""
        engine = self.engine.execution_options(cablux_write=True)
        with Session(engine) as session, session.begin():
            yield session

    def close(self) -> None:
        """Lets go of the file."""
        self.engine.dispose()


def alembic_config(file: Path) -> Config:
    """Alembic's settings for a database file, without an ini file."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations").replace("%", "%%"))
    config.set_main_option("sqlalchemy.url", f"sqlite:///{file}".replace("%", "%%"))
    return config
