"""“Why 118?”: how each number came about, line by line, with the values used and where each came from."""

from __future__ import annotations

from collections.abc import Callable

from ..errors import NotFound
from ..projects import Project
from . import answers, edges, rows, widths
from .subject import Derivation, Line, Subject

_EXPLAINED: dict[str, Callable[[Subject], Derivation]] = {
    "answer": answers.explain_answer,
    "cast-on": edges.explain_cast_on,
    "bind-off": edges.explain_bind_off,
    "increase": edges.explain_increase,
    "share": edges.explain_share,
    "flare": edges.explain_flare,
    "body": widths.explain_body,
    "width": widths.explain_width,
    "sure": widths.explain_certainty,
    "chance": widths.explain_chance,
    "plain": widths.explain_plain,
    "segment": widths.explain_segment,
    "rows": rows.explain_rows,
    "row": rows.explain_row,
}


def explain_number(project: Project, what: str) -> Derivation:
    """The derivation of a number by its name, with the band and the segment it speaks of. Raises NotFound."""
    name, _, rest = what.partition("-at-")
    if name not in _EXPLAINED:
        raise NotFound("There is no such number on this page.")
    band, _, at = rest.partition("-")
    return _EXPLAINED[name](Subject(project, int(band) if band.isdigit() else 0, int(at) if at.isdigit() else 0))


__all__ = [
    "Derivation",
    "Line",
    "explain_number",
]
