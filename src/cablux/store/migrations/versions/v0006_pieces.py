"""Pieces have a tally of their own, and a set of squares becomes one project of several pieces."""

from __future__ import annotations

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

Document = dict[str, Any]

OF_THE_PIECE = (
    *("size", "round", "bottom", "bands", "top", "gaps", "least_background", "total_multiple", "total_plus"),
    *("setup_rows", "dense", "short_rows", "measured"),
)
LEFT_OUT = (*OF_THE_PIECE, "name", "squares", "patterns", "cablux")
MOST = 60


def upgrade() -> None:
    for name in ("piece", "copy"):
        op.add_column("event", sa.Column(name, sa.Integer(), nullable=False, server_default="1"))
    op.create_table(
        "moved",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("project_id", sa.Integer(), nullable=False),
        sa.Column("piece", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["project_id"], ["project.id"], name="fk_moved_project_id_project", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name="pk_moved"),
    )
    for members in sets_of(documents(op.get_bind())):
        merge(op.get_bind(), members)


def documents(bind: sa.Connection) -> list[tuple[int, Document]]:
    """Every project as it is now, by its number."""
    found = bind.execute(
        sa.text(
            "SELECT project.id, step.document FROM project JOIN step "
            "ON step.project_id = project.id AND step.position = project.position ORDER BY project.id"
        )
    )
    out = []
    for number, text in found:
        try:
            data = json.loads(text)
        except ValueError:
            continue
        if isinstance(data, dict) and data.get("cablux") == 2 and isinstance(data.get("bands"), list):
            out.append((number, data))
    return out


def sets_of(found: list[tuple[int, Document]]) -> list[list[tuple[int, Document]]]:
    """The sets of two squares or more that share what belongs to the knitter and the yarn."""
    sets: dict[str, list[tuple[int, Document]]] = {}
    for number, data in found:
        if data.get("squares"):
            alike = {name: value for name, value in data.items() if name not in LEFT_OUT}
            sets.setdefault(json.dumps([data["squares"], alike], sort_keys=True), []).append((number, data))
    return [members[:MOST] for members in sets.values() if len(members) > 1]


def merged(members: list[tuple[int, Document]]) -> Document:
    """One project of several pieces: its name is the set's, each piece keeps the name of its project."""
    first = members[0][1]
    kept = {name: value for name, value in first.items() if name not in LEFT_OUT}
    pieces, names = [], set[str]()
    for at, (_, data) in enumerate(members, start=1):
        name = data["name"]
        while name.casefold() in names:
            name = f"{data['name'][:74]} {at}"
        names.add(name.casefold())
        pieces.append({"number": at, "name": name} | {n: data[n] for n in OF_THE_PIECE if n in data})
    patterns = {p["id"]: p for _, data in members for p in data.get("patterns", [])}
    return kept | {"cablux": 3, "name": first["squares"][:80], "patterns": [*patterns.values()], "pieces": pieces}


def merge(bind: sa.Connection, members: list[tuple[int, Document]]) -> None:
    """Carries a set over: its tallies go with their pieces, and its old addresses lead to them."""
    home = members[0][0]
    document = json.dumps(merged(members))
    bind.execute(sa.text("DELETE FROM step WHERE project_id = :home"), {"home": home})
    bind.execute(sa.text("UPDATE project SET position = 0 WHERE id = :home"), {"home": home})
    bind.execute(
        sa.text(
            "INSERT INTO step (project_id, position, label, document) VALUES (:home, 0, 'set of squares', :document)"
        ),
        {"home": home, "document": document},
    )
    for piece, (number, _) in enumerate(members, start=1):
        where = {"home": home, "piece": piece, "number": number}
        bind.execute(
            sa.text("UPDATE event SET project_id = :home, piece = :piece WHERE project_id = :number AND piece = 1"),
            where,
        )
        if number != home:
            bind.execute(sa.text("DELETE FROM step WHERE project_id = :number"), where)
            bind.execute(sa.text("DELETE FROM project WHERE id = :number"), where)
            bind.execute(sa.text("INSERT INTO moved (id, project_id, piece) VALUES (:number, :home, :piece)"), where)


def downgrade() -> None:
    op.drop_table("moved")
    for name in ("piece", "copy"):
        op.drop_column("event", name)
