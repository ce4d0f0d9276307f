"""A pattern as plain text."""

from __future__ import annotations

from ...core.pattern.wording import PLAIN_WORDS, Wording
from ...core.units import GAUGE_SPAN, length_text
from ..exchange import ProjectFile
from ..projects import Project, piece_numbers
from .page import in_words

LEFT_HANDED = (
    "For left-handed knitters: each row is written from the end where you begin. Hold and cross as it says; in your "
    "cloth L leans right and R leans left, as the chart shows."
)
MARKERS = "pm: place a marker on the right needle; sm: slip the marker there is from the left needle to the right."


def pattern_text(project: Project, wording: Wording = PLAIN_WORDS) -> str:
    """The whole pattern of a project."""
    return file_text(project.file, wording)


def file_text(file: ProjectFile, wording: Wording = PLAIN_WORDS) -> str:
    """The whole pattern of a project file."""
    piece, unit = file.piece(), file.unit
    n, gauge = piece_numbers(piece), piece.measure.gauge
    per = GAUGE_SPAN[unit][0] / 100.0
    give = length_text(n.eighty_um / 1000.0, unit)
    size = [
        f"Finished size: {length_text(n.width_um / 1000.0, unit)} (give or take {give}) by "
        f"{length_text(n.rows.height_um / 1000.0, unit)}",
        f"Gauge: {gauge.stitches * per:.3g} stitches and {gauge.rows * per:.3g} rows to {GAUGE_SPAN[unit][1]} "
        "of stockinette",
    ]
    own = [file.name, "=" * len(file.name), "", *map(wording.terms, size)]  # the knitter's own words stay as they are
    own += [f"Yarn: {file.yarn}"] if file.yarn else []
    lines: list[str] = []
    if wording.left_handed:
        lines += ["", LEFT_HANDED]
    if wording.markers:
        lines += ["", MARKERS]
    lines += ["", f"Cast on {n.cast_on.cast_on} stitches" + (" and join without a twist." if piece.round else ".")]
    for section in in_words(piece, wording):
        heading = ": ".join(section.heading)
        lines += ["", heading + (f" (band {section.band + 1})" if len(piece.bands) > 1 else "")]
        lines += [section.note] if section.note else []
        for row in section.rows:
            count = f" ({row.after} stitches)" if wording.counts else ""
            lines.append(f"{row.label}: {row.text}.{count}")
        if section.repeat:
            lines.append(section.repeat)
    lines += ["", f"Bind off {n.cast_on.top.count} stitches loosely, in pattern."]
    return "\n".join(own) + "\n" + wording.terms("\n".join(lines) + "\n")
