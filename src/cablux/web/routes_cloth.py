"""The whole piece in relief: its page, its geometry as bytes, and what lies under a finger."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import JSONResponse, Response

from ..render.yarn import yarn_paint
from ..service.cloth import facts_at, round_kind
from ..service.errors import NotFound
from .deps import ChairDep, ProjectDep, RelaxerDep
from .pages import page

router = APIRouter(prefix="/projects/{project_id}/cloth")
LONGEST = 60.0  # seconds, our choice: a picture that takes longer is asked for again
WAIT = 0.25  # seconds, our choice: a small piece is then there at once, and a large one tells how far it is


@router.get("", name="cloth")
def show_cloth(request: Request, project: ProjectDep, chair: ChairDep) -> Response:
    """The page of the whole piece."""
    kind = round_kind(project.piece)
    return page(request, "cloth.html", project=project, done=chair.state(project).done, laid_round=kind)


@router.get("/round.svg", name="cloth_round")
def cloth_laid_round(project: ProjectDep, relaxer: RelaxerDep) -> Response:
    """A crown from above, or a bent band along its bend. Raises NotFound where the piece lies flat."""
    if not round_kind(project.piece):
        raise NotFound("This piece lies flat as it is; there is nothing to lay round.")
    svg = relaxer.laid_round(project.piece, project.paint, wait=LONGEST)
    return Response(svg, 200 if svg else 503, media_type="image/svg+xml", headers={"cache-control": "no-store"})


@router.get("/geometry", name="cloth_geometry")
def cloth_geometry(
    project: ProjectDep,
    relaxer: RelaxerDep,
    chair: ChairDep,
    behind: bool = False,
    which: Annotated[int, Query(ge=0, le=100)] = 0,
) -> Response:
    """The geometry as bytes; 202 with how far it is while it is being laid out.

    `which`: the copy that is knitted, with the mistakes that were left in it; 0 is the piece as it was planned.
    """
    left = chair.left(project, which) if which else ()
    found = relaxer.geometry(project.piece, behind=behind, wait=WAIT, left=left)
    if isinstance(found, float):
        return JSONResponse({"part": round(found, 3)}, 202, headers={"cache-control": "no-store"})
    return Response(found, media_type="application/octet-stream", headers={"cache-control": "no-store"})


@router.get("/paint", name="cloth_paint")
def cloth_colours(project: ProjectDep) -> Response:
    """The tones of the project's yarn, from shade to light."""
    p = yarn_paint(project.paint.colour)
    answer = {"tones": p.tones, "bumps": p.bumps, "ground": p.ground, "edge": p.edge, "dark": p.dark, "shine": p.shine}
    return JSONResponse(answer | {"thick": project.paint.thick}, headers={"cache-control": "no-store"})


@router.get("/behaviour", name="cloth_behaviour")
def cloth_behaviour(request: Request, project: ProjectDep, relaxer: RelaxerDep) -> Response:
    """What the piece does, in words, for those who do not see it; empty while it is being laid out."""
    return page(request, "_behaviour.html", project=project, does=relaxer.behaviour(project.piece, wait=WAIT))


@router.get("/at", name="cloth_at")
def loop_facts(
    request: Request,
    project: ProjectDep,
    row: Annotated[int, Query(ge=0, le=10_000)],
    place: Annotated[int, Query(ge=0, le=2_000)],
) -> Response:
    """What a loop is, in words."""
    return page(request, "_loop.html", project=project, facts=facts_at(project.piece, row, place))
