"""What is on the needles: each project with its cloth, its size and how far it is."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from ..render.fan import Fan, draw_fan
from .chair import Chair, Tally, next_up
from .projects import Project, Projects
from .shapes import main_place


@dataclass(frozen=True, kw_only=True)
class ProjectEntry:
    """A project in the list; `touched` is when it was last changed or knitted.

    `main` is open at the piece that shows it best, whose size and cloth are listed. `done` and `total` are rows of all
    its pieces, each as often as it is worked; `next_up` is what to go on with.
    """

    project: Project
    main: Project
    fan: Fan
    done: int
    total: int
    touched: datetime
    next_up: Tally

    @property
    def percent(self) -> int:
        """How much is done, by rows."""
        return 100 * self.done // self.total


def list_projects(projects: Projects, chair: Chair) -> list[ProjectEntry]:
    """Every project, the last touched first."""
    out = []
    every = projects.all()
    for project, knitted in zip(every, chair.knitted(every), strict=True):
        tallies = knitted.tallies
        main = project.pieces()[main_place(project.file)]
        view = main.piece.main_view
        out.append(
            ProjectEntry(
                project=project,
                main=main,
                fan=draw_fan(view, main.numbers.cast_on.cast_on, project.unit, yarn=project.paint),
                done=sum(t.done for t in tallies),
                total=sum(t.total for t in tallies),
                touched=max(project.stored.changed, knitted.last or project.stored.changed),
                next_up=next_up(tallies),
            )
        )
    return sorted(out, key=lambda entry: entry.touched, reverse=True)
