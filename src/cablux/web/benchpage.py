"""The bench as routes are given it: the band at hand, what is chosen on it, and the page that follows a change."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated
from urllib.parse import urlencode

from fastapi import Depends, Form, Request
from fastapi.responses import RedirectResponse, Response

from ..core.piece.piece import BandView
from ..service.bench import bench_view
from ..service.commands import Command, carry_out
from ..service.projects import Place, Project, Projects
from .deps import PlaceDep, ProjectsDep
from .pages import page, path_maker, wants_part

PLACES = r"^\d{1,3}(,\d{1,3})*$"
"""Segments as forms and addresses name them: places from the right, with commas."""

BENCH_FIELDS = frozenset({"at", "band", "whole", "do"})
"""What every form of the bench says of where it stands, and what its button does."""


def places(text: str) -> tuple[int, ...]:
    """The places in such a text."""
    return tuple(int(n) for n in text.split(",") if n)


class Bench:
    """One change of a project on its bench, and the answer to it."""

    def __init__(
        self, request: Request, projects: Projects, project_id: Place, *, band: int, at: tuple[int, ...], whole: bool
    ) -> None:
        self.request, self.projects, self.project_id = request, projects, project_id
        self.band, self.at, self.whole = band, at, whole

    @cached_property
    def band_view(self) -> BandView:
        """The band at hand, as it was when the change was asked for."""
        band_views = self.projects.open(self.project_id).piece.band_views
        return band_views[min(self.band, len(band_views) - 1)]

    def done(self, command: Command) -> Project:
        """The project with a command carried out."""
        return carry_out(self.projects, self.project_id, command, pattern=self.request.app.state.drawer.pattern)

    def do(self, command: Command, at: tuple[int, ...] | None = None, band: int | None = None) -> Response:
        """Carries a command out, and shows the bench with `at` chosen."""
        return self.show(self.done(command), at, band)

    def show(self, project: Project, at: tuple[int, ...] | None = None, band: int | None = None) -> Response:
        """The bench's changing part where htmx asked, else the way to the page."""
        chosen, where = self.at if at is None else at, self.band if band is None else band
        if not wants_part(self.request):
            here = {"band": where, "selected": ",".join(map(str, chosen))} | ({"whole": 1} if self.whole else {})
            query = urlencode(here, safe=",")
            return RedirectResponse(f"{path_maker(self.request)('bench', project_id=project.place)}?{query}", 303)
        return page(
            self.request, "_bench.html", project=project, view=bench_view(project, where, chosen, whole=self.whole)
        )


def _bench(
    request: Request,
    projects: ProjectsDep,
    project_id: PlaceDep,
    *,
    at: Annotated[str, Form(pattern=PLACES, max_length=400)] = "1",
    band: Annotated[int, Form(ge=0, le=10)] = 0,
    whole: Annotated[bool, Form()] = False,
) -> Bench:
    return Bench(request, projects, project_id, band=band, at=places(at), whole=whole)


BenchDep = Annotated[Bench, Depends(_bench)]
