"""Gets ready what the first change on a bench will need, so that it is as quick as the later ones."""

from __future__ import annotations

from ..core.layout.widths import unit_width
from ..core.library import LIBRARY
from .bench import offers
from .projects import Projects


def warm(projects: Projects) -> None:
    """Relaxes the library at the gauge of the project changed last, and loads the solver."""
    for project in projects.all()[:1]:
        offers(project.piece)
        for pattern in LIBRARY.values():
            unit_width(pattern.id, "panel" if "panel" in pattern.uses else "background", project.piece.gauge)
