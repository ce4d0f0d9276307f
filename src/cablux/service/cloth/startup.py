"""Gets ready what the first change on a bench will need, so that it is as quick as the later ones."""

from __future__ import annotations

from ...core.library import LIBRARY
from ...core.pattern.facts import pattern_facts
from ..bench import bench_offers
from ..projects import Projects
from ..shapes import shape_cards
from .draw_in_cache import save_draw_ins


def prepare_first_bench(projects: Projects) -> None:
    """Keeps what the first page computed, relaxes the library, loads the solver, draws the shapes."""
    save_draw_ins(projects.database.file.parent)
    for project in projects.all()[:1]:
        bench_offers(project.piece.band_views[0])
        for pattern in LIBRARY.values():
            pattern_facts(pattern)
            project.piece.estimate.unit(pattern, "panel" in pattern.uses)
    shape_cards()
