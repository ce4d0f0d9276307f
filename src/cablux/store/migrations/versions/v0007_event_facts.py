"""Events say more than a row: words, a photo, a number, what they are about; and taps are known by their own names."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("event", sa.Column("text", sa.String(2000), nullable=False, server_default=""))
    op.add_column("event", sa.Column("value", sa.Double(), nullable=False, server_default="0"))
    op.add_column("event", sa.Column("photo", sa.String(64), nullable=True))
    op.add_column("event", sa.Column("of", sa.Integer(), nullable=False, server_default="0"))
    op.add_column("event", sa.Column("tap", sa.String(40), nullable=True))
    op.create_index("ix_event_tap", "event", ["project_id", "tap"], unique=True)


def downgrade() -> None:
    op.drop_index("ix_event_tap", "event")
    for name in ("tap", "of", "photo", "value", "text"):
        op.drop_column("event", name)
