"""What the command line tells of a chart or a project file: its draw-in, its words, its sizes."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

from ..core.errors import CabluxError
from ..core.fabric.draw_in import compute_draw_in
from ..core.garment.joins import Join, join_lengths, way_round_um
from ..core.garment.silhouette import FinishedSize
from ..core.gauge import Gauge
from ..core.notation import Chart
from ..core.notation.audit import audited_chart
from ..core.notation.grid import read_any, read_source
from ..core.pattern import compile_piece
from ..core.pattern.chartwords import Work, chart_words, laid_for_work
from ..core.pattern.wording import PLAIN_WORDS, Wording
from ..core.piece.piece import BandView
from ..core.units import length_text
from ..store.database import Database
from .bench import bench_offers
from .errors import NotFound
from .exchange import ProjectFile, read_project
from .pattern import LEFT_HANDED, Manner, pattern_text, project_words
from .projects import Project, Projects, piece_numbers
from .shaped_projects import joins_of, shape_cautions
from .stations import station_table


@dataclass(frozen=True, kw_only=True)
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


def words_of_text(
    text: str,
    wording: Wording = PLAIN_WORDS,
    work: Work = "flat",
    *,
    size: int = 0,
    piece: str = "",
    manner: Manner = "rows",
) -> str:
    """A chart row by row, or a project's pattern, in words: of all its pieces, or of the one named."""
    if text.lstrip().startswith("{"):
        return project_words(read_project(text), wording, piece, manner=manner)
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
        **_own_size(n.size),
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
        "pieces": [_piece_report(file, p.number) for p in file.pieces],
        "joins": [_join_report(file, join) for join in joins_of(file)],
        "cautions": list(shape_cautions(file)),
    }


def _own_size(size: FinishedSize) -> dict[str, Any]:
    """What a piece measures where its rows do not lie level: width and height are those of its rows."""
    if not size.across:
        return {}
    ways = ((size.across, size.across_um), (size.along, size.along_um))
    return {"size": [{"name": name, "mm": round(um / 1000.0, 1)} for name, um in ways]}


def _piece_report(file: ProjectFile, number: int) -> dict[str, Any]:
    """One piece: its counts after each row, its stations, and the parts that it is worked in."""
    own = file.opened_at(number)
    piece, pattern = own.piece(), compile_piece(own.piece())
    n = piece_numbers(piece)
    counts = [n.cast_on.cast_on, *(row.after for row in pattern.rows)]
    parts: list[dict[str, Any]] = []
    for row in pattern.rows:
        if not parts or parts[-1]["name"] != row.section:
            parts.append({"name": row.section, "from_row": row.number, "begins": counts[row.number - 1]})
        parts[-1] |= {"to_row": row.number, "ends": row.after}
    return {
        "number": number,
        "name": piece.name,
        "copies": own.own.copies,
        "cast_on": n.cast_on.cast_on,
        "bind_off": n.cast_on.top.count,
        "rows": n.rows.total,
        "width_mm": round(n.width_um / 1000.0, 1),
        "height_mm": round(n.rows.height_um / 1000.0, 1),
        **_own_size(n.size),
        "counts": counts[1:],
        "stations": station_table(piece),
        "parts": parts,
    }


def _join_report(file: ProjectFile, join: Join) -> dict[str, Any]:
    pieces = file.all_pieces()
    found = join_lengths(pieces, join)
    ring = way_round_um(pieces[join.one.piece], [join], join.one.piece)
    one, other = ({"piece": pieces[e.piece].name, "edge": e.edge} for e in (join.one, join.other))
    return {
        "one": one,
        "other": other,
        "how": join.how,
        "swallows": join.swallows,
        "one_mm": round(found.one_um / 1000.0, 1),
        "other_mm": round(found.other_um / 1000.0, 1),
        "way_round_mm": round(ring / 1000.0, 1) if ring is not None else None,
        "open": [{"name": o.name, "from_mm": o.start_mm, "to_mm": o.end_mm} for o in join.openings],
    }


def _segments(view: BandView) -> list[dict[str, Any]]:
    return [{"name": s.name, "role": s.role, "stitches": s.stitches} for s in view.segments]


def size_sentences(report: dict[str, Any]) -> list[str]:
    """The report for reading."""

    def length(name: str, of: dict[str, Any] = report) -> str:
        return length_text(of[name], report["unit"])

    if len(report["pieces"]) > 1 or any(len(set(piece["counts"])) > 8 for piece in report["pieces"]):
        return _pieces_sentences(report)
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


def _pieces_sentences(report: dict[str, Any]) -> list[str]:
    """For several pieces, and for those that change their count: the ends, and the width at every station."""
    out = []
    for piece in report["pieces"]:
        times = f", worked {piece['copies']} times" if piece["copies"] > 1 else ""
        out.append(
            f"{piece['name']}{times}: cast on {piece['cast_on']}, {piece['rows']} rows, bind off {piece['bind_off']}."
        )
        for s in piece["stations"]:
            at, wanted, expected = (length_text(s[k], report["unit"]) for k in ("at_mm", "wanted_mm", "expected_mm"))
            out.append(f"  {s['name']} (at {at}): {s['count']} stitches, {expected}; wanted {wanted}.")
    return [*out, *report["cautions"]]


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
