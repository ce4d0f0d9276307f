"""The piece over which a reading is told, and the swatch that the adviser means."""

from __future__ import annotations

from dataclasses import dataclass

from ...core.counts.swatch_adviser import swatch_size
from ...core.library import StitchPattern, find_pattern
from ..bench import BACKGROUND
from ..projects import Project, Projects
from ..swatches import PLANNED_MM, Swatch, SwatchForm


@dataclass(frozen=True)
class Planned:
    """The piece over which a reading's worth is told."""

    name: str
    width_mm: float
    height_mm: float


def planned_for(swatch: Swatch, projects: Projects) -> Planned:
    """The piece that goes by a swatch, else the one changed last, else any throw."""
    every = projects.all()
    goes_by = [p for p in every if any(u.book == swatch.id for u in p.file.swatches)]
    for project in (*goes_by, *every):
        return Planned(project.name, project.piece.width_mm, project.piece.height_mm)
    return Planned("a throw", PLANNED_MM, PLANNED_MM)


def swatch_to_knit(project: Project, pattern: StitchPattern | None = None) -> SwatchForm:
    """The form of the swatch that the adviser means: the project's yarn and needle, the size that can be read well.

    A panel stands between two backgrounds, of the project's own if it has one. Without a pattern it is stockinette.
    """
    file, piece = project.file, project.piece
    knit = pattern or find_pattern("stockinette")
    stitches, rows = swatch_size(knit, piece.outlook)
    parts = [(knit.id, stitches)]
    if "panel" in knit.uses:
        background = next((s.pattern for s in piece.everything if s.is_background), find_pattern(BACKGROUND))
        beside = (stitches - knit.chart.width(1)) // 2
        parts = [(background.id, beside), (knit.id, knit.chart.width(1)), (background.id, beside)]
    return SwatchForm(
        unit=project.unit,
        yarn=file.yarn,
        fibre=file.fibre,
        needle=f"{file.needle:g}" if file.needle else "",
        rows=str(rows),
        patterns=tuple(p for p, _ in parts),
        stitches=tuple(str(n) for _, n in parts),
    )
