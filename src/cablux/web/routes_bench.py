"""The bench: one band with its fan, its segments and what is done to them."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import Response

from ..core.counts.solver import LayoutName
from ..service import bench, commands
from ..service.bench import added_at, bench_view
from ..service.derivations import explain_number
from ..service.forms import FormReader
from .benchpage import PLACES, BenchDep, places
from .deps import DrawerDep, ProjectDep
from .pages import page, wants_part

router = APIRouter(prefix="/projects/{project_id}")
Pattern = Annotated[str, Form()]
Chosen = Annotated[str, Query(pattern=PLACES, max_length=400)]


@router.get("/bench", name="bench")
def show_bench(
    request: Request,
    project: ProjectDep,
    selected: Chosen = "1",
    band: Annotated[int, Query(ge=0, le=10)] = 0,
    whole: bool = False,
) -> Response:
    """The bench, or its changing part where htmx asked."""
    part = wants_part(request)
    return page(
        request,
        "_bench.html" if part else "bench.html",
        project=project,
        view=bench_view(project, band, places(selected), whole=whole),
        drawer=() if part else request.app.state.drawer.entries(),
    )


@router.get("/bench/offers", name="bench_offers")
def show_offers(request: Request, project: ProjectDep, band: Annotated[int, Query(ge=0, le=10)] = 0) -> Response:
    """The solver's other good answers, fetched after the bench itself."""
    view = bench_view(project, band)
    found = bench.bench_offers(view.band_view, project.unit)
    return page(request, "_offers.html", project=project, view=view, offers=found)


@router.get("/why/{what}", name="why")
def show_derivation(request: Request, project: ProjectDep, what: str) -> Response:
    """How a number came about."""
    name = "_why.html" if wants_part(request) else "why.html"
    return page(request, name, project=project, derivation=explain_number(project, what))


@router.post("/bench/add", name="bench_add")
def add_pattern(here: BenchDep, drawer: DrawerDep, pattern: Pattern) -> Response:
    """Puts a pattern in from the drawer."""
    project = here.done(commands.AddPattern(band=here.band, pattern=drawer.pattern(pattern).id, at=here.at[0]))
    band_view = bench_view(project, here.band).band_view
    return here.show(project, (added_at(band_view, drawer.pattern(pattern), here.at[0]),))


@router.post("/bench/remove", name="bench_remove")
def take_out_segments(here: BenchDep) -> Response:
    """Takes segments out."""
    return here.do(commands.RemoveSegments(band=here.band, at=here.at), (max(1, min(here.at) - 1),))


@router.post("/bench/move", name="bench_move")
def move_chosen(here: BenchDep, to: Annotated[int, Form(ge=0, le=100)]) -> Response:
    """Puts a segment elsewhere."""
    return here.do(commands.MoveSegment(band=here.band, at=here.at, to=to), (to,))


@router.post("/bench/repeats", name="bench_repeats")
def type_repeats(here: BenchDep, repeats: Annotated[int, Form()]) -> Response:
    """Sets how often the segments' multiples are worked."""
    return here.do(commands.SetRepeats(band=here.band, at=here.at, repeats=repeats))


@router.post("/bench/step", name="bench_step")
def step_chosen(here: BenchDep, by: Annotated[int, Form(ge=-100, le=100)]) -> Response:
    """Some repeats more or fewer."""
    return here.do(commands.StepRepeats(band=here.band, at=here.at, by=by))


@router.post("/bench/stitches", name="bench_stitches")
def type_stitches(here: BenchDep, stitches: Annotated[int, Form()]) -> Response:
    """Sets the segments' stitches."""
    return here.do(commands.SetStitches(band=here.band, at=here.at, stitches=stitches))


@router.post("/bench/width", name="bench_width")
def type_width(here: BenchDep, width: Annotated[str, Form()]) -> Response:
    """The repeats that come nearest to a width in the fabric."""
    typed = FormReader()
    wanted = typed.number(width, "Width", "width", most=10_000)
    typed.done()
    return here.do(commands.SetWidth(band=here.band, at=here.at, width=wanted))


@router.post("/bench/toggle", name="bench_toggle")
def toggle_chosen(here: BenchDep, field: Annotated[Literal["mirrored", "locked", "placed"], Form()]) -> Response:
    """Mirrors segments, locks their counts or holds them in their places."""
    return here.do(commands.ToggleFlag(band=here.band, at=here.at, field=field))


@router.post("/bench/placing", name="bench_placing")
def type_placing(
    here: BenchDep,
    begin: Annotated[int | None, Form(ge=1, le=2000)] = None,
    purl_margin: Annotated[int | None, Form(ge=0, le=20)] = None,
) -> Response:
    """The row of its repeat at which a panel begins, and the purl stitches beside it."""
    return here.do(commands.PlacePanel(band=here.band, at=here.at, begin=begin, purl_margin=purl_margin))


@router.post("/bench/wander", name="bench_wander")
def type_wander(
    here: BenchDep,
    stitches: Annotated[int, Form(ge=0, le=200)] = 0,
    to: Annotated[Literal["left", "right"], Form()] = "left",
    every: Annotated[int, Form(ge=1, le=200)] = 4,
) -> Response:
    """How far a panel wanders and back, and how steeply."""
    return here.do(commands.WanderPanel(band=here.band, at=here.at, stitches=stitches, to=to, every=every))


@router.post("/bench/bounds", name="bench_bounds")
def type_bounds(
    here: BenchDep,
    least: Annotated[int, Form(ge=0, le=1500)] = 0,
    most: Annotated[int, Form(ge=0, le=1500)] = 0,
    by: Annotated[int, Form(ge=1, le=50)] = 1,
) -> Response:
    """Bounds of backgrounds for the solver."""
    return here.do(commands.SetBounds(band=here.band, at=here.at, least=least, most=most, by=by))


@router.post("/bench/pattern", name="bench_pattern")
def choose_pattern(here: BenchDep, drawer: DrawerDep, pattern: Pattern) -> Response:
    """Another edge or background in the same place."""
    return here.do(commands.SetPattern(band=here.band, at=here.at, pattern=drawer.pattern(pattern).id))


@router.post("/bench/take", name="bench_take")
def take_offer(here: BenchDep, answer: Annotated[LayoutName, Form()]) -> Response:
    """Takes one of the answers."""
    return here.do(commands.TakeAnswer(band=here.band, answer=answer))


@router.post("/bench/cure", name="bench_cure")
def free_clash(here: BenchDep, number: Annotated[int, Form(ge=0, le=100)]) -> Response:
    """Makes one of the changes that would free a clash."""
    return here.do(commands.TakeCure(band=here.band, number=number))


@router.post("/bench/undo", name="bench_undo")
def undo_on_bench(here: BenchDep) -> Response:
    """One step back."""
    return here.show(here.projects.undo(here.project_id))


@router.post("/bench/redo", name="bench_redo")
def redo_on_bench(here: BenchDep) -> Response:
    """One step forward."""
    return here.show(here.projects.redo(here.project_id))
