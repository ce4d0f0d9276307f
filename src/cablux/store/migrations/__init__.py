"""Alembic migrations, one file a released version of the tables."""
