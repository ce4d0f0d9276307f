"""“Why 118?”: how each number came about, line by line, with the values used and where each came from."""

from __future__ import annotations

from collections.abc import Callable

from ..errors import NotFound
from ..projects import Project
from . import answers, edges, rows, widths
from .told import Derivation, Line, Told

_TOLD: dict[str, Callable[[Told], Derivation]] = {
    "answer": answers.answer,
    "cast-on": edges.cast_on,
    "bind-off": edges.bind_off,
    "increase": edges.increase,
    "share": edges.share,
    "flare": edges.flare,
    "body": widths.body,
    "width": widths.width,
    "sure": widths.sure,
    "chance": widths.chance,
    "plain": widths.plain,
    "segment": widths.segment,
    "rows": rows.rows,
    "row": rows.row,
}


def why(project: Project, what: str) -> Derivation:
    """The derivation of a number by its name, with the band and the segment it speaks of. Raises NotFound."""
    name, _, rest = what.partition("-at-")
    if name not in _TOLD:
        raise NotFound("There is no such number on this page.")
    band, _, at = rest.partition("-")
    return _TOLD[name](Told(project, int(band) if band.isdigit() else 0, int(at) if at.isdigit() else 0))


__all__ = ["Derivation", "Line", "why"]
