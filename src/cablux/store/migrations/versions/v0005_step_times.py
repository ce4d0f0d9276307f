"""When each step of a history was made; steps of before this version do not say."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

TABLES = ("step", "panel_step", "swatch_step")


def upgrade() -> None:
    for table in TABLES:
        op.add_column(table, sa.Column("at", sa.DateTime(), nullable=True))


def downgrade() -> None:
    for table in TABLES:
        op.drop_column(table, "at")
