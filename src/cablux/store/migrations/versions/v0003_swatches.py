"""The swatch book: swatches with their history, and their photos."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "swatch",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("created", sa.DateTime(), nullable=False),
        sa.Column("changed", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_swatch"),
    )
    op.create_table(
        "swatch_step",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("swatch_id", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("label", sa.String(length=200), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(
            ["swatch_id"], ["swatch.id"], name="fk_swatch_step_swatch_id_swatch", ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name="pk_swatch_step"),
        sa.UniqueConstraint("swatch_id", "position", name="uq_swatch_step_swatch_id"),
    )
    op.create_index("ix_swatch_step_swatch_id", "swatch_step", ["swatch_id"])
    op.create_table(
        "photo",
        sa.Column("id", sa.String(length=64), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_photo"),
    )


def downgrade() -> None:
    op.drop_table("photo")
    op.drop_table("swatch_step")
    op.drop_table("swatch")
