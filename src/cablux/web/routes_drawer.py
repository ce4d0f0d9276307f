"""The panel drawer, and a pattern's own page with its chart in every form."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Form, Query, Request
from fastapi.responses import RedirectResponse, Response

from ..core.errors import CabluxError
from ..core.pattern.chartwords import Work
from ..core.pattern.facts import ATTENTION
from ..core.pattern.wording import Wording
from ..service.bench import added_at, widest_background
from ..service.commands import AddPattern, carry_out
from ..service.exchange import ChartForm, chart_as
from ..service.panels import Search, pattern_page
from .deps import DrawerDep, PanelsDep, ProjectsDep
from .pages import page, path_maker, wants_part

router = APIRouter()

FORMS = {
    "text": ("txt", "text/plain; charset=utf-8"),
    "csv": ("csv", "text/csv; charset=utf-8"),
    "svg": ("svg", "image/svg+xml"),
    "png": ("png", "image/png"),
}


def _number(text: str) -> int:
    """A number from a field that may be empty."""
    return int(text) if text.isdigit() and len(text) < 5 else 0


def _search(
    q: Annotated[str, Query(max_length=100)] = "",
    use: Literal["", "panel", "background", "edge"] = "",
    widest: str = "",
    tallest: str = "",
    draws: Literal["", "hardly", "some", "much"] = "",
    attention: Literal["", "from memory", "a glance now and then"] = "",
    reversible: str = "",
    no_needle: str = "",
    own: str = "",
    every: str = "",
) -> Search:
    return Search(
        q=q,
        use=use,
        widest=_number(widest),
        tallest=_number(tallest),
        draws=draws,
        attention=attention,
        reversible=bool(reversible),
        no_needle=bool(no_needle),
        own=bool(own),
        every=_number(every),
    )


def _wording(
    names: Literal["over", "hold"] = "over",
    count: Literal["up", "down"] = "up",
    hand: Literal["right", "left"] = "right",
) -> Wording:
    return Wording(hold=names == "hold", until=count == "down", left_handed=hand == "left")


@router.get("/drawer", name="drawer")
def show_drawer(
    request: Request, drawer: DrawerDep, panels: PanelsDep, search: Annotated[Search, Depends(_search)]
) -> Response:
    """The drawer, or what fits where htmx asked."""
    entries = drawer.search(search)
    name = "_drawer.html" if wants_part(request) else "drawer.html"
    unfinished = [p for p in panels.all() if not p.pattern]
    return page(
        request,
        name,
        entries=entries,
        search=search,
        unfinished=unfinished,
        unreadable=panels.documents.unreadable(),
        attention=ATTENTION,
    )


@router.get("/drawer/{pattern_id}", name="drawer_pattern")
def show_pattern(
    request: Request,
    drawer_: DrawerDep,
    projects: ProjectsDep,
    pattern_id: str,
    wording: Annotated[Wording, Depends(_wording)],
    work: Work = "flat",
) -> Response:
    """A pattern: relief of both sides, chart, words, how each operation is worked."""
    entry = drawer_.find(pattern_id)
    choices = {"names": "hold" if wording.hold else "over", "count": "down" if wording.until else "up"}
    choices |= {"hand": "left" if wording.left_handed else "right", "work": work}
    shown = pattern_page(entry, wording, work)
    return page(
        request, "panel.html", entry=entry, shown=shown, wording=wording, choices=choices, projects=projects.all()
    )


@router.get("/drawer/{pattern_id}/chart/{form}", name="pattern_chart")
def chart_file(drawer: DrawerDep, pattern_id: str, form: ChartForm) -> Response:
    """The chart as text, CSV, SVG or PNG."""
    entry = drawer.find(pattern_id)
    ending, media = FORMS[form]
    headers = {"content-disposition": f'attachment; filename="{entry.pattern.id}.{ending}"'}
    return Response(chart_as(entry.pattern.chart, form), media_type=media, headers=headers)


@router.post("/drawer/{pattern_id}/place", name="place_pattern")
def place_on_bench(
    request: Request, drawer: DrawerDep, projects: ProjectsDep, pattern_id: str, project: Annotated[int, Form()]
) -> Response:
    """Lays the pattern on a project's bench."""
    entry = drawer.find(pattern_id)
    if entry.use == "edge":
        raise CabluxError(f"{entry.pattern.name} is an edge; choose an edge on the bench and change its pattern there.")
    near = widest_background(projects.open(project).piece.band_views[0])
    command = AddPattern(pattern=entry.pattern.id, at=near)
    opened = carry_out(projects, project, command, pattern=drawer.pattern)
    address = path_maker(request)("bench", project_id=project)
    return RedirectResponse(f"{address}?selected={added_at(opened.piece.band_views[0], entry.pattern, near)}", 303)
