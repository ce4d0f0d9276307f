"""Projects, the steps of their history, and the events of knitting."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "project",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("created", sa.DateTime(), nullable=False),
        sa.Column("changed", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_project"),
    )
    op.create_table(
        "step",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("project_id", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("label", sa.String(length=200), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name="fk_step_project_id_project", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name="pk_step"),
        sa.UniqueConstraint("project_id", "position", name="uq_step_project_id"),
    )
    op.create_index("ix_step_project_id", "step", ["project_id"])
    op.create_table(
        "event",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("project_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=20), nullable=False),
        sa.Column("row", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name="fk_event_project_id_project", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name="pk_event"),
    )
    op.create_index("ix_event_project_id", "event", ["project_id"])


def downgrade() -> None:
    op.drop_table("event")
    op.drop_table("step")
    op.drop_table("project")
