"""How to cast on or bind off at an edge, in words."""

from __future__ import annotations

from ...core.ends.cast_on import EdgePlan
from ...core.gauge.model import cloth_kind
from ...core.piece.piece import BandView


def edge_advice(view: BandView, edge: EdgePlan, *, bottom: bool) -> tuple[str, ...]:
    """How to cast on or bind off here, in words (common practice)."""
    border = edge.border
    stretchy = view.round or border.factor < 1.0 or (border.rows > 0 and cloth_kind(border.pattern) == "rib")
    loose = "over two needles held together, or on a needle a size or two larger"
    said = []
    if bottom and stretchy:
        said.append(
            "The edge has to stretch: a long-tail or thumb cast-on worked loosely, " + loose + ", or a knitted-on one."
        )
    elif bottom:
        said.append(f"A firm edge suits it: long-tail or thumb. Cast on loosely all the same, {loose}.")
    elif stretchy:
        said.append("The edge has to stretch: bind off loosely in pattern on a larger needle, or sew the stitches off.")
    else:
        said.append("Bind off in pattern, loosely; a larger needle helps. A tight edge draws the cables together.")
    if not border.rows:
        what = "crosses close above the cast-on" if bottom else "ends at the bind-off"
        said.append(f"Without a border what {what} gathers the edge: leave a row or two plain.")
    return tuple(said)
