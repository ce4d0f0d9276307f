"""Gets ready what the first change on a bench will need, so that it is as quick as the later ones."""

from __future__ import annotations

from ..core.library import LIBRARY
from ..core.pattern.facts import facts
from .bench import offers
from .memory import store
from .projects import Projects


def warm(projects: Projects) -> None:
    """Keeps what the first page computed, relaxes the library at the gauge changed last, loads the solver."""
    store(projects.database.file.parent)
    for project in projects.all()[:1]:
        offers(project.piece)
        for pattern in LIBRARY.values():
            facts(pattern)
            project.piece.estimate.unit(pattern, "panel" in pattern.uses)
