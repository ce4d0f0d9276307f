"""A pattern as plain text."""

from __future__ import annotations

from ..core.units import GAUGE_SPAN, length_text
from .files import ProjectFile
from .pattern import in_words
from .projects import Project, numbers


def pattern_text(project: Project, *, hold: bool = False) -> str:
    """The whole pattern of a project."""
    return file_text(project.file, hold=hold)


def file_text(file: ProjectFile, *, hold: bool = False) -> str:
    """The whole pattern of a project file."""
    piece, unit = file.piece(), file.unit
    n = numbers(piece)
    give = length_text(n.eighty_um / 1000.0, unit)
    lines = [
        file.name,
        "=" * len(file.name),
        "",
        f"Finished size: {length_text(n.width_um / 1000.0, unit)} (give or take {give}) by "
        f"{length_text(n.rows.height_um / 1000.0, unit)}",
        f"Gauge: {file.gauge.stitches:g} stitches and {file.gauge.rows:g} rows to {GAUGE_SPAN[unit][1]} of stockinette",
    ]
    if file.yarn:
        lines.append(f"Yarn: {file.yarn}")
    lines += ["", f"Cast on {n.cast_on.cast_on} stitches."]
    for section in in_words(piece, hold=hold):
        lines += ["", section.section.capitalize()]
        lines += [f"{row.label}: {row.text}. ({row.after} stitches)" for row in section.rows]
        if section.repeat:
            lines.append(section.repeat)
    lines += ["", f"Bind off {n.cast_on.cast_on} stitches loosely, in pattern."]
    return "\n".join(lines) + "\n"
