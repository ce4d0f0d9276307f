"""Names that a text explained and that are kept for the next one."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "kept_name",
        sa.Column("name", sa.String(length=20), nullable=False),
        sa.Column("meaning", sa.String(length=400), nullable=False),
        sa.PrimaryKeyConstraint("name", name="pk_kept_name"),
    )


def downgrade() -> None:
    op.drop_table("kept_name")
