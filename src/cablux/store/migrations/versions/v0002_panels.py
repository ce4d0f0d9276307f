"""Panels of one's own with their history, and patterns kept as they were placed."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "panel",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("created", sa.DateTime(), nullable=False),
        sa.Column("changed", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_panel"),
    )
    op.create_table(
        "panel_step",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("panel_id", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("label", sa.String(length=200), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(["panel_id"], ["panel.id"], name="fk_panel_step_panel_id_panel", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name="pk_panel_step"),
        sa.UniqueConstraint("panel_id", "position", name="uq_panel_step_panel_id"),
    )
    op.create_index("ix_panel_step_panel_id", "panel_step", ["panel_id"])
    op.create_table(
        "pattern",
        sa.Column("id", sa.String(length=60), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_pattern"),
    )


def downgrade() -> None:
    op.drop_table("pattern")
    op.drop_table("panel_step")
    op.drop_table("panel")
