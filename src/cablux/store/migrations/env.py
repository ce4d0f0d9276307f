"""Runs migrations with foreign keys off: SQLite tables are rebuilt by copying, which would cascade deletes."""

from __future__ import annotations

from typing import Any

from alembic import context
from sqlalchemy import Connection, create_engine, event, pool
from sqlalchemy.engine.interfaces import DBAPIConnection

from cablux.store.models import Base


def _prepare(connection: DBAPIConnection, _: Any) -> None:
    connection.isolation_level = None
    cursor = connection.cursor()
    cursor.execute("PRAGMA foreign_keys=OFF")
    cursor.execute("PRAGMA journal_mode=WAL")
    cursor.close()


def _begin(connection: Connection) -> None:
    connection.exec_driver_sql("BEGIN IMMEDIATE")


def run() -> None:
    """Upgrades, each migration in its own transaction, then checks that no child lost its parent."""
    url = context.config.get_main_option("sqlalchemy.url")
    assert url, "the caller names the database"
    engine = create_engine(url, poolclass=pool.NullPool)
    event.listen(engine, "connect", _prepare)
    event.listen(engine, "begin", _begin)
    with engine.connect() as connection:
        context.configure(
            connection=connection,
            target_metadata=Base.metadata,
            render_as_batch=True,
            transaction_per_migration=True,
        )
        with context.begin_transaction():
            context.run_migrations()
    with engine.connect() as connection:
        orphans = connection.exec_driver_sql("PRAGMA foreign_key_check").fetchall()
    engine.dispose()
    if orphans:
        raise RuntimeError(f"After the migration {len(orphans)} rows point to nothing; nothing was removed.")


run()
