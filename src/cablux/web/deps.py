"""What routes are given: the use cases of this application, and the project an address names."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any

from fastapi import Depends, Query, Request
from starlette.datastructures import FormData

from ..service.chair import Chair
from ..service.cloth import PieceRelaxer
from ..service.panels import Drawer, Panels, Reader
from ..service.projects import Place, Project, Projects
from ..service.swatches import SwatchBook


def _kept(name: str) -> Callable[[Request], Any]:
    """What the application keeps under a name from its start to its end."""

    def get(request: Request) -> Any:
        return getattr(request.app.state, name)

    return get


ProjectsDep = Annotated[Projects, Depends(_kept("projects"))]
PanelsDep = Annotated[Panels, Depends(_kept("panels"))]
DrawerDep = Annotated[Drawer, Depends(_kept("drawer"))]
ChairDep = Annotated[Chair, Depends(_kept("chair"))]
RelaxerDep = Annotated[PieceRelaxer, Depends(_kept("relaxer"))]
ReaderDep = Annotated[Reader, Depends(_kept("reader"))]
BookDep = Annotated[SwatchBook, Depends(_kept("book"))]


async def _typed(request: Request) -> FormData:
    return await request.form()


TypedDep = Annotated[FormData, Depends(_typed)]
"""All fields of a form as typed, where a page makes them up."""


def _place(project_id: str) -> Place:
    return Place.parse(project_id)


PlaceDep = Annotated[Place, Depends(_place)]


def _project(projects: ProjectsDep, place: PlaceDep) -> Project:
    return projects.open(place)


ProjectDep = Annotated[Project, Depends(_project)]


def _copy(project: ProjectDep, which: Annotated[int, Query(ge=1, le=100)] = 1) -> int:
    copies: int = project.file.own.copies
    return min(which, copies)


CopyDep = Annotated[int, Depends(_copy)]
"""Which copy of a piece that is worked several times; the last where there are not so many."""
