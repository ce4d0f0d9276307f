"""What routes are given: the use cases of this application, and the project an address names."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Request

from ..service.chairside import Chair
from ..service.drawer import Drawer
from ..service.loom import Loom
from ..service.panels import Panels
from ..service.projects import Project, Projects
from ..service.swatches import SwatchBook


def _projects(request: Request) -> Projects:
    found: Projects = request.app.state.projects
    return found


def _chair(request: Request) -> Chair:
    found: Chair = request.app.state.chair
    return found


def _panels(request: Request) -> Panels:
    found: Panels = request.app.state.panels
    return found


def _drawer(request: Request) -> Drawer:
    found: Drawer = request.app.state.drawer
    return found


def _loom(request: Request) -> Loom:
    found: Loom = request.app.state.loom
    return found


def _book(request: Request) -> SwatchBook:
    found: SwatchBook = request.app.state.book
    return found


def _project(request: Request, project_id: int) -> Project:
    return _projects(request).open(project_id)


ProjectsDep = Annotated[Projects, Depends(_projects)]
PanelsDep = Annotated[Panels, Depends(_panels)]
DrawerDep = Annotated[Drawer, Depends(_drawer)]
ChairDep = Annotated[Chair, Depends(_chair)]
LoomDep = Annotated[Loom, Depends(_loom)]
BookDep = Annotated[SwatchBook, Depends(_book)]
ProjectDep = Annotated[Project, Depends(_project)]
