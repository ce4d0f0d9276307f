"""What belongs to a whole band or piece: its size, its halves, its bands, what the solver keeps to; arrangements."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import Response

from ..core.piece.piece import BandView, Gaps
from ..service import bench, commands
from ..service.bench import bench_view
from ..service.forms import FormReader
from ..service.panels import Drawer
from .benchpage import BENCH_FIELDS, BenchDep
from .deps import DrawerDep, ProjectDep, TypedDep
from .pages import page

router = APIRouter(prefix="/projects/{project_id}/bench")
Text = Annotated[str, Form()]


@router.post("/target", name="bench_target")
def type_target(here: BenchDep, width: Text = "", tolerance: Text = "", height: Text = "") -> Response:
    """Another size, typed on the bench."""
    return here.do(commands.SetTarget(width=width, tolerance=tolerance, height=height))


@router.post("/halves", name="bench_halves")
def choose_halves(here: BenchDep, alike: Literal["yes", ""] = Form("")) -> Response:
    """Ties the halves together or lets them differ."""
    return here.do(commands.TieHalves(band=here.band, alike=alike == "yes"), (1,))


@router.post("/wishes", name="bench_wishes")
def type_wishes(
    here: BenchDep,
    least: Annotated[int, Form()],
    gaps: Annotated[Gaps, Form()] = "equal",
    multiple: Annotated[int, Form()] = 1,
    plus: Annotated[int, Form()] = 0,
) -> Response:
    """What the solver must keep to."""
    return here.do(commands.SetRules(least=least, gaps=gaps, multiple=multiple, plus=plus))


@router.post("/shaping", name="bench_shaping")
def change_shaping(here: BenchDep, typed: TypedDep, do: Literal["", "begin", "end"] = Form("")) -> Response:
    """Begins to shape a band, makes it straight again, or changes its stations, edges and rows."""
    if do:
        return here.do((commands.BeginShaping if do == "begin" else commands.EndShaping)(band=here.band))
    fields = {n: value for n, value in typed.items() if isinstance(value, str) and n not in BENCH_FIELDS}
    fields = dict.fromkeys(bench.SHAPING_BOXES, "") | fields  # a page says nothing of a box that is not ticked
    return here.do(commands.TypeShaping(band=here.band, fields=fields))


@router.post("/sides", name="bench_sides")
def choose_sides(
    here: BenchDep,
    drawer: DrawerDep,
    pattern: Text,
    stitches: Annotated[int, Form(ge=1, le=60)],
    role: Annotated[Literal["edge", "seam"], Form()] = "edge",
) -> Response:
    """Other edges, or seam stitches."""
    return here.do(commands.SetSides(pattern=drawer.pattern(pattern).id, role=role, stitches=stitches))


@router.post("/edges", name="bench_edges")
def mend_edges(here: BenchDep, do: Annotated[Literal["short rows", "plain", "slipped", "ridges"], Form()]) -> Response:
    """What is done about edges that are lower than the body."""
    return here.do(commands.MendEdges(band=here.band, how=do))


@router.post("/band", name="bench_band")
def change_bands(here: BenchDep, do: Annotated[Literal["add", "remove"], Form()]) -> Response:
    """One more band, or one fewer."""
    if do == "add":
        return here.do(commands.AddBand(band=here.band), (1,), here.band + 1)
    return here.do(commands.RemoveBand(band=here.band), (1,), max(0, here.band - 1))


@router.post("/bandrows", name="bench_band_rows")
def band_rows(
    here: BenchDep, rows: Annotated[int, Form(ge=0, le=5000)] = 0, share: Annotated[float, Form(ge=0, le=20)] = 0.0
) -> Response:
    """The rows of a band, or its share of the height."""
    return here.do(commands.SetBandRows(band=here.band, rows=rows, share=share))


@router.get("/arrange", name="bench_arrange")
def show_arrangements(
    request: Request,
    project: ProjectDep,
    drawer: DrawerDep,
    band: int = 0,
    panels: Annotated[list[str] | None, Query()] = None,
    background: str = "",
    gap: Annotated[str, Query(max_length=10)] = "",
) -> Response:
    """Arrangements to start from, computed for this width: of the band's own panels, or of those asked for."""
    view = bench_view(project, band)
    wanted = _plan(drawer, view.band_view, panels, background=background, gap=_gap(gap))
    return page(
        request,
        "_arrange.html",
        project=project,
        view=view,
        wanted=wanted,
        ready=bench.arrangements_for(view.band_view, wanted),
        backgrounds=bench.all_backgrounds(),
        panel_choices=[(e.pattern.id, e.pattern.name) for e in drawer.entries() if e.use == "panel"],
    )


@router.post("/arrange", name="bench_take_arrangement")
def take_offered_arrangement(
    here: BenchDep,
    drawer: DrawerDep,
    name: Text,
    panels: Annotated[list[str] | None, Form()] = None,
    background: Text = "",
    gap: Annotated[str, Form(max_length=10)] = "",
) -> Response:
    """Takes one of them."""
    listed = tuple(drawer.pattern(p).id for p in panels or [] if p)
    beside = drawer.pattern(background).id if background else ""
    wanted = commands.TakeArrangement(band=here.band, name=name, panels=listed, background=beside, gap=_gap(gap))
    return here.do(wanted, (1,))


def _gap(text: str) -> int:
    """The gap typed; 0 where it is empty and follows from the width. Raises InvalidForm."""
    if not text.strip(" 0"):
        return 0
    typed = FormReader()
    gap = typed.count(text, "Gaps", "gap", most=200)
    typed.done()
    return gap


def _plan(drawer: Drawer, band_view: BandView, panels: list[str] | None, background: str, gap: int) -> bench.Plan:
    """What is asked for; the band's own where nothing is."""
    own = bench.plan_of(band_view)
    listed = tuple(drawer.pattern(p) for p in panels or [] if p)
    return bench.Plan(listed or own.panels, drawer.pattern(background) if background else own.background, gap)
