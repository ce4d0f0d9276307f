"""What the command line tells of a chart or a project file: its draw-in, its words, its sizes."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

from ..core.errors import CabluxError
from ..core.fabric.draw_in import compute_draw_in
from ..core.gauge import Gauge
from ..core.layout.piece import BandView
from ..core.notation import Chart
from ..core.notation.audit import audited_chart
from ..core.notation.grid import read_any, read_source
from ..core.pattern.chartwords import Work, chart_words, laid_for_work
from ..core.pattern.wording import PLAIN_WORDS, Wording
from ..core.units import length_text
from ..store.database import Database
from .bench import bench_offers
from .errors import NotFound
from .exchange import read_project
from .pattern import LEFT_HANDED, file_text, pattern_text
from .projects import Project, Projects, piece_numbers


@dataclass(frozen=True)
class DrawInReport:
    """A chart's draw-in and draw-up at a gauge, one multiple wide with its balance."""

    name: str
    stitches: int
    rows: int
    draw_in: float
    draw_up: float
    width_mm: float
    height_mm: float
    converged: bool
    iterations: int
    residual: float


def draw_in_report(text: str, stitches: float, rows: float) -> DrawInReport:
    """Relaxes a chart's tile. Raises for charts that do not add up and gauges nobody can knit."""
    chart, gauge = audited_chart(read_any(text)), Gauge(stitches, rows)
    tile = compute_draw_in(chart, gauge.ratio, 1 if chart.balance == 0 else 0)
    width = chart.width(1) * tile.draw_in * gauge.stitch_mm
    return DrawInReport(
        name=chart.name,
        stitches=chart.width(1),
        rows=tile.rows,
        draw_in=round(tile.draw_in, 4),
        draw_up=round(tile.draw_up, 4),
        width_mm=round(width, 2),
        height_mm=round(tile.rows * tile.draw_up * gauge.row_mm, 2),
        converged=tile.converged,
        iterations=tile.iterations,
        residual=tile.residual,
    )


def words_of_text(text: str, wording: Wording = PLAIN_WORDS, work: Work = "flat", size: int = 0) -> str:
    """A chart row by row, or a project's pattern, in words."""
    if text.lstrip().startswith("{"):
        return file_text(read_project(text), wording)
    return chart_text_words(audited_chart(read_source(text, size=size).chart), wording, work)


def chart_text_words(chart: Chart, wording: Wording = PLAIN_WORDS, work: Work = "flat") -> str:
    """A chart in words as plain text."""
    chart = laid_for_work(chart, work)
    lines = [f"Over a multiple of {chart.size_text}."]
    lines += [LEFT_HANDED] if wording.left_handed else []
    for row in chart_words(chart, wording, work):
        lines.append(f"{row.label}: {row.text}" + (f" ({row.leaves})" if wording.counts else ""))
    return chart.name + "\n" + wording.terms("\n".join(lines) + "\n")


def size_report(text: str) -> dict[str, Any]:
    """The numbers of a project file: the same as on the bench."""
    file = read_project(text)
    piece = file.piece()
    n, found = piece_numbers(piece), bench_offers(piece.band_views[0], file.unit)
    return {
        "name": piece.name,
        "unit": file.unit,
        "cast_on": n.cast_on.cast_on,
        "body": n.cast_on.body,
        "increase": n.cast_on.difference,
        "increase_rows": n.cast_on.bottom.rows,
        "style": piece.bottom.style,
        "width_mm": n.width_um / 1000.0,
        "width_80_percent_mm": round(n.eighty_um / 1000.0, 1),
        "wanted_mm": piece.width_mm,
        "tolerance_mm": piece.tolerance_mm,
        "chance": round(n.chance, 3),
        "rows": n.rows.total,
        "height_mm": round(n.rows.height_um / 1000.0, 1),
        "bind_off": n.cast_on.top.count,
        "bands": [
            {"rows": b.body, "segments": _segments(view)}
            for view, b in zip(piece.band_views, n.rows.bands, strict=True)
        ],
        "segments": _segments(piece.band_views[0]),
        "answers": [
            {
                "name": o.answer.name,
                "body": o.answer.stitches,
                "width_mm": o.answer.width_um / 1000.0,
                "good_for": o.good_for,
                "chance": round(o.chance, 3),
                "optimal": o.answer.optimal,
                "doubt": o.doubt,
                "segments": [s.stitches for s in o.answer.segments],
            }
            for o in found.offers
        ],
        "refusal": found.refusal,
    }


def _segments(view: BandView) -> list[dict[str, Any]]:
    return [{"name": s.name, "role": s.role, "stitches": s.stitches} for s in view.segments]


def size_sentences(report: dict[str, Any]) -> list[str]:
    """The report for reading."""

    def length(name: str, of: dict[str, Any] = report) -> str:
        return length_text(of[name], report["unit"])

    more, rows = report["increase"], report["increase_rows"]
    where = "the last border row" if rows == 1 else f"{rows} rows of the border"
    step = f"{abs(more)} {'more' if more >= 0 else 'fewer'} in {where}" if more else "no increases"
    lines = [
        f"{report['name']}: cast on {report['cast_on']}, {step}, body {report['body']}.",
        f"Width {length('width_mm')}, give or take {length('width_80_percent_mm')} "
        f"(wanted {length('wanted_mm')} ± {length('tolerance_mm')}, {100 * report['chance']:.0f} in 100); "
        f"{report['rows']} rows, {length('height_mm')}.",
    ]
    if report["refusal"]:
        lines.append(report["refusal"])
    for a in report["answers"]:
        counts = " ".join(map(str, a["segments"]))
        lines.append(f"  {a['name']}: {a['body']} stitches, {length('width_mm', a)}: {counts}")
        if a["doubt"]:
            lines.append(f"    not proven to be the best; {a['doubt']}")
    return lines


def export_project(database: Path, wanted: str, *, text: bool = False) -> str:
    """A stored project as a file's text, or the list of all where none is named. Raises NotFound."""
    if not database.exists():
        raise NotFound(f"There is no data yet in {database.parent}.")
    opened = Database(database)
    try:
        opened.upgrade()
        projects = Projects(opened).all()
    finally:
        opened.close()
    if not wanted:
        return "".join(f"{p.id}\t{p.name}\n" for p in projects) or "There are no projects yet.\n"
    project = _find(projects, wanted)
    return pattern_text(project) if text else project.file.text()


def _find(projects: list[Project], wanted: str) -> Project:
    found = [p for p in projects if str(p.id) == wanted or p.name.casefold() == wanted.casefold()]
    if not found:
        raise NotFound(f"There is no project “{wanted}”; run export without a name for the list.")
    if len(found) > 1:
        raise CabluxError(f"Several projects are called “{wanted}”: numbers {', '.join(str(p.id) for p in found)}.")
    return found[0]
