"""How an edge will lie: a border and the first rows of its body, relaxed loop by loop, in numbers and in relief."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from ...core.ends.cast_on import EdgePlan, as_style
from ...core.fabric.network import build_piece
from ...core.fabric.profile import profile_of
from ...core.fabric.relax import Relaxed
from ...core.fabric.whole import relax_piece
from ...core.gauge import Basis, estimate
from ...core.notation import Op
from ...core.pattern import WorkedPattern, compile_piece
from ...core.piece.border import CastOn
from ...core.piece.piece import Piece
from ...core.piece.widths import body_um
from ...core.rows.row_search import row_choices
from ...render.relief import piece_svg
from ...render.yarn import Yarn
from ..bench import End
from ..errors import NotFound
from ..projects import Project

EDGE_ROWS = 16
"""Our choice: so many rows of the body beside a border show how the edge lies."""
CORNER = 64
"""Our choice: so many stitches of a corner fit a picture that is not heavy."""
FLARES = 0.02  # our choice: a fiftieth of the width is within what blocking evens out


@dataclass(frozen=True, kw_only=True)
class EdgePreview:
    """How an edge will lie, from its rows relaxed with the body beside them.

    `edge_um` is the width of its outermost row, `body_um` that of the body beyond the border's pull, `scallop_um` how
    far the outermost row waves; `loops` were laid out for it.
    """

    plan: EdgePlan
    edge_um: float
    body_um: float
    scallop_um: float
    loops: int

    @property
    def flare_um(self) -> float:
        """How much wider the outermost row lies than the body."""
        return self.edge_um - self.body_um

    @property
    def verdict(self) -> str:
        """What that means, in a word or two."""
        part = self.flare_um / self.plan.body_um
        return "ruffles" if part > FLARES else "pulls in" if part < -FLARES else "lies flat"


def edge_preview(project: Project, end: End, style: CastOn) -> EdgePreview:
    """The edge in one style, laid out loop by loop. Raises IllegalPiece where it cannot be had."""
    return _edge_look(_with_edge(project.piece, end, style), end)


def edge_picture(project: Project, end: End, style: CastOn) -> str:
    """The same in relief, its right corner."""
    return _picture(_edge_rows(compile_piece(_with_edge(project.piece, end, style)), end), project)


def _with_edge(piece: Piece, end: End, style: CastOn) -> Piece:
    border = piece.bottom if end == "bottom" else piece.top
    if not border.rows:
        raise NotFound("There is no border at this edge.")
    styled = border if style == border.style else as_style(border, style)
    changed = replace(piece, bottom=styled) if end == "bottom" else replace(piece, top=styled)
    return replace(changed, name="", progress=())


@lru_cache(maxsize=32)
def _edge_look(piece: Piece, end: End) -> EdgePreview:
    pattern = compile_piece(piece)
    plan = pattern.cast_on.bottom if end == "bottom" else pattern.cast_on.top
    laid = _relaxed(_edge_rows(pattern, end), piece.estimate.gauge.ratio)
    shape = profile_of(laid)
    # the body's width where neither the border nor the open loops on the other side pull at it
    inner = sorted(shape.widths[-11:-6] if end == "bottom" else shape.widths[7:12])
    view = piece.band_views[0 if end == "bottom" else -1]
    known, stitch = view.outlook, view.outlook.gauge.stitch_mm * 1000.0
    bare = estimate(Basis(gauge=known.gauge, readings=(), finish=piece.evidence.finish, fibre=piece.evidence.fibre))
    # swatches say how far the model is off, in the body and in the border each
    body = float(inner[len(inner) // 2]) * stitch * body_um(view, known) / body_um(view, bare)
    outer = 0 if end == "bottom" else -1
    edge = float(shape.widths[outer]) * stitch * known.correction(plan.border.pattern, "width")
    return EdgePreview(
        plan=plan,
        edge_um=edge,
        body_um=body,
        scallop_um=stitch * shape.scallop[outer],
        loops=laid.net.loops,
    )


Rows = tuple[tuple[tuple[Op, ...], ...], ...]


def _edge_rows(pattern: WorkedPattern, end: End) -> Rows:
    """The rows of a border and those of the body beside it."""
    border = pattern.rows_plan.bottom if end == "bottom" else pattern.rows_plan.top
    near = border + EDGE_ROWS + (pattern.rows_plan.bands[0].lead if end == "bottom" else 0)
    rows = pattern.rows[:near] if end == "bottom" else pattern.rows[-near:]
    return tuple(tuple(p.ops for p in row.parts) for row in rows)


@lru_cache(maxsize=32)
def _relaxed(rows: Rows, ratio: float) -> Relaxed:
    # several ways to end a piece often share an edge; it is laid out once
    # a tube is cut open for this: closed, all its rows would be held to one width, and none could flare
    return relax_piece(build_piece(rows), ratio)


def _picture(rows: Rows, project: Project) -> str:
    return _drawn(rows, project.piece.estimate.gauge.ratio, project.paint)


@lru_cache(maxsize=32)
def _drawn(rows: Rows, ratio: float, yarn: Yarn) -> str:
    return piece_svg(_relaxed(rows, ratio), yarn=yarn, across=CORNER)


def way_picture(project: Project, name: str, end: End) -> str:
    """The right corner of the piece at one end, were it ended in a way (dashes for spaces). Raises NotFound."""
    found = next((a for a in row_choices(project.piece) if a.name.replace(" ", "-") == name), None)
    if found is None:
        raise NotFound("That way to end the piece is no longer offered.")
    return _picture(_edge_rows(compile_piece(replace(found.piece, name="", progress=())), end), project)
