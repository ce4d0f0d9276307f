"""What is on the needles: each project with its cloth, its size and how far it is."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from ..render.fan import Fan, draw_fan
from .chairside import Chair
from .projects import Project, Projects


@dataclass(frozen=True)
class ProjectEntry:
    """A project in the list; `touched` is when it was last changed or knitted.

    `done` and `total` are rows of all its pieces, each as often as it is worked; `here` is the first piece that is not
    finished, `which` the copy of it, and `row` the row to work next.
    """

    project: Project
    fan: Fan
    done: int
    total: int
    touched: datetime
    here: Project
    which: int
    row: int

    @property
    def percent(self) -> int:
        """How much is done, by rows."""
        return 100 * self.done // self.total


def list_projects(projects: Projects, chair: Chair) -> list[ProjectEntry]:
    """Every project, the last touched first."""
    out = []
    for project in projects.all():
        tallies = [
            (mine, which, min(chair.state(mine, which).done, mine.numbers.rows.total))
            for mine in project.pieces()
            for which in range(1, mine.file.own.copies + 1)
        ]
        here, which, row = next((t for t in tallies if t[2] < t[0].numbers.rows.total), tallies[-1])
        tapped = chair.last_tap(project.id)
        out.append(
            ProjectEntry(
                project,
                draw_fan(project.piece.band_views[0], project.numbers.cast_on.cast_on, project.unit, project.paint),
                sum(rows for *_, rows in tallies),
                sum(mine.numbers.rows.total for mine, *_ in tallies),
                max(project.stored.changed, tapped or project.stored.changed),
                here,
                which,
                min(row + 1, here.numbers.rows.total),
            )
        )
    return sorted(out, key=lambda entry: entry.touched, reverse=True)
