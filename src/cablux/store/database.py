"""Opens the SQLite database, brings it up to date, and hands out one transaction an action."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Any

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.engine.interfaces import DBAPIConnection
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

if TYPE_CHECKING:
    from alembic.config import Config

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
        if self._version() == newest_version():
            return
        from alembic import command  # here: half a second that only a new version needs

        command.upgrade(alembic_config(self.file), "head")

    def _version(self) -> str:
        """The version of the tables; empty for a new file."""
        with self.engine.connect() as connection:
            try:
                found = connection.exec_driver_sql("SELECT version_num FROM alembic_version").scalar()
            except OperationalError:
                return ""
        return str(found or "")

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


def newest_version() -> str:
    """The version that the last migration file makes, from its name: v0001_….py makes 0001."""
    files = sorted((Path(__file__).parent / "migrations" / "versions").glob("v*_*.py"))
    return files[-1].name[1:].split("_")[0]


def alembic_config(file: Path) -> Config:
    """Alembic's settings for a database file, without an ini file."""
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations").replace("%", "%%"))
    config.set_main_option("sqlalchemy.url", f"sqlite:///{file}".replace("%", "%%"))
    return config
