"""The database: SQLAlchemy models, repositories, Alembic migrations."""
