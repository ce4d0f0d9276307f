"""What the command line tells of a chart or a project file: its draw-in, its words, its sizes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import groupby
from pathlib import Path

from ..core.errors import CabluxError
from ..core.fabric.draw_in import compute_draw_in
from ..core.garment.joins import Join, join_lengths, way_round_um
from ..core.garment.silhouette import FinishedSize
from ..core.gauge import Gauge
from ..core.notation import Chart
from ..core.notation.audit import audited_chart
from ..core.notation.grid import read_any, read_source
from ..core.pattern import WorkedRow, compile_piece
from ..core.pattern.chartwords import Work, chart_words, laid_for_work
from ..core.pattern.wording import PLAIN_WORDS, Wording
from ..core.piece.piece import BandView
from ..core.units import length_text
from ..store.database import Database
from .answers import (
    BandLayout,
    ChartDrawIn,
    EdgeNamed,
    JoinLength,
    LayoutOffer,
    Measured,
    OpeningAlong,
    PieceInWords,
    PieceSize,
    ProjectSize,
    RowsInOne,
    SegmentCount,
)
from .bench import bench_offers
from .errors import NotFound
from .exchange import ProjectFile, read_project
from .pattern import LEFT_HANDED, Manner, pattern_text, project_words, words_answers
from .projects import Project, Projects, piece_numbers, station_table
from .shapes import joins_of, shape_cautions


def draw_in_report(text: str, stitches: float, rows: float) -> ChartDrawIn:
    """Relaxes a chart's tile. Raises for charts that do not add up and gauges nobody can knit."""
    chart, gauge = audited_chart(read_any(text)), Gauge(stitches, rows)
    tile = compute_draw_in(chart, gauge.ratio, 1 if chart.balance == 0 else 0)
    width = chart.width(1) * tile.draw_in * gauge.stitch_mm
    return ChartDrawIn(
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


def words_in_answers(text: str, wording: Wording = PLAIN_WORDS, piece: str = "") -> list[PieceInWords]:
    """A project's pattern in words, piece by piece. Raises CabluxError for a chart, whose words are text alone."""
    if not text.lstrip().startswith("{"):
        raise CabluxError("Only a project's words can be had as JSON: leave --json out for a chart, or name a project.")
    return words_answers(read_project(text), wording, piece)


def chart_text_words(chart: Chart, wording: Wording = PLAIN_WORDS, work: Work = "flat") -> str:
    """A chart in words as plain text."""
    chart = laid_for_work(chart, work)
    lines = [f"Over a multiple of {chart.size_text}."]
    lines += [LEFT_HANDED] if wording.left_handed else []
    for row in chart_words(chart, wording, work):
        lines.append(f"{row.label}: {row.text}" + (f" ({row.leaves})" if wording.counts else ""))
    return chart.name + "\n" + wording.terms("\n".join(lines) + "\n")


def size_report(text: str) -> ProjectSize:
    """The numbers of a project file: the same as on the bench."""
    file = read_project(text)
    piece = file.piece()
    n, found = piece_numbers(piece), bench_offers(piece.band_views[0], file.unit)
    return ProjectSize(
        name=piece.name,
        unit=file.unit,
        cast_on=n.cast_on.cast_on,
        body=n.cast_on.body,
        increase=n.cast_on.difference,
        increase_rows=n.cast_on.bottom.rows,
        style=piece.bottom.style,
        width_mm=n.width_um / 1000.0,
        width_80_percent_mm=round(n.eighty_um / 1000.0, 1),
        wanted_mm=piece.width_mm,
        tolerance_mm=piece.tolerance_mm,
        chance=round(n.chance, 3),
        rows=n.rows.total,
        height_mm=round(n.rows.height_um / 1000.0, 1),
        **_own_size(n.size),
        bind_off=n.cast_on.top.count,
        bands=tuple(
            BandLayout(rows=b.body, segments=_segments(view))
            for view, b in zip(piece.band_views, n.rows.bands, strict=True)
        ),
        segments=_segments(piece.band_views[0]),
        answers=tuple(
            LayoutOffer(
                name=o.layout.name,
                body=o.layout.stitches,
                width_mm=o.layout.width_um / 1000.0,
                good_for=o.good_for,
                chance=round(o.chance, 3),
                optimal=o.layout.optimal,
                doubt=o.doubt,
                segments=tuple(s.stitches for s in o.layout.segments),
            )
            for o in found.offers
        ),
        refusal=found.refusal,
        pieces=tuple(_piece_report(file, p.number) for p in file.pieces),
        joins=tuple(_join_report(file, join) for join in joins_of(file)),
        cautions=shape_cautions(file),
    )


def _own_size(size: FinishedSize) -> dict[str, tuple[Measured, ...]]:
    """What a piece measures where its rows do not lie level: width and height are those of its rows."""
    if not size.across:
        return {}
    ways = ((size.across, size.across_um), (size.along, size.along_um))
    return {"size": tuple(Measured(name=name, mm=round(um / 1000.0, 1)) for name, um in ways)}


def _piece_report(file: ProjectFile, number: int) -> PieceSize:
    own = file.opened_at(number)
    piece, pattern = own.piece(), compile_piece(own.piece())
    n = piece_numbers(piece)
    counts = [n.cast_on.cast_on, *(row.after for row in pattern.rows)]
    return PieceSize(
        number=number,
        name=piece.name,
        copies=own.own.copies,
        cast_on=n.cast_on.cast_on,
        bind_off=n.cast_on.top.count,
        rows=n.rows.total,
        width_mm=round(n.width_um / 1000.0, 1),
        height_mm=round(n.rows.height_um / 1000.0, 1),
        **_own_size(n.size),
        counts=tuple(counts[1:]),
        stations=station_table(piece),
        parts=tuple(_parts(pattern.rows, counts)),
    )


def _parts(rows: Sequence[WorkedRow], counts: Sequence[int]) -> Iterator[RowsInOne]:
    """Rows of one kind after another; `counts` has the count before the first row and after each."""
    for name, alike in groupby(rows, key=lambda row: row.section):
        first, *others = (row.number for row in alike)
        last = others[-1] if others else first
        yield RowsInOne(name=name, from_row=first, begins=counts[first - 1], to_row=last, ends=counts[last])


def _join_report(file: ProjectFile, join: Join) -> JoinLength:
    pieces = file.all_pieces()
    found = join_lengths(pieces, join)
    ring = way_round_um(pieces[join.one.piece], [join], join.one.piece)
    one, other = (EdgeNamed(piece=pieces[e.piece].name, edge=e.edge) for e in (join.one, join.other))
    return JoinLength(
        one=one,
        other=other,
        how=join.how,
        swallows=join.swallows,
        one_mm=round(found.one_um / 1000.0, 1),
        other_mm=round(found.other_um / 1000.0, 1),
        way_round_mm=round(ring / 1000.0, 1) if ring is not None else None,
        open=tuple(OpeningAlong(name=o.name, from_mm=o.start_mm, to_mm=o.end_mm) for o in join.openings),
    )


def _segments(view: BandView) -> tuple[SegmentCount, ...]:
    return tuple(SegmentCount(name=s.name, role=s.role, stitches=s.stitches) for s in view.segments)


def size_sentences(report: ProjectSize) -> list[str]:
    """The report for reading."""

    def length(mm: float) -> str:
        return length_text(mm, report.unit)

    if len(report.pieces) > 1 or any(len(set(piece.counts)) > 8 for piece in report.pieces):
        return _pieces_sentences(report)
    more, rows = report.increase, report.increase_rows
    where = "the last border row" if rows == 1 else f"{rows} rows of the border"
    step = f"{abs(more)} {'more' if more >= 0 else 'fewer'} in {where}" if more else "no increases"
    lines = [
        f"{report.name}: cast on {report.cast_on}, {step}, body {report.body}.",
        f"Width {length(report.width_mm)}, give or take {length(report.width_80_percent_mm)} "
        f"(wanted {length(report.wanted_mm)} ± {length(report.tolerance_mm)}, {100 * report.chance:.0f} in 100); "
        f"{report.rows} rows, {length(report.height_mm)}.",
    ]
    if report.refusal:
        lines.append(report.refusal)
    for offer in report.answers:
        counts = " ".join(map(str, offer.segments))
        lines.append(f"  {offer.name}: {offer.body} stitches, {length(offer.width_mm)}: {counts}")
        if offer.doubt:
            lines.append(f"    not proven to be the best; {offer.doubt}")
    return lines


def _pieces_sentences(report: ProjectSize) -> list[str]:
    """For several pieces, and for those that change their count: the ends, and the width at every station."""
    out = []
    for piece in report.pieces:
        times = f", worked {piece.copies} times" if piece.copies > 1 else ""
        out.append(f"{piece.name}{times}: cast on {piece.cast_on}, {piece.rows} rows, bind off {piece.bind_off}.")
        for s in piece.stations:
            at, wanted, expected = (length_text(mm, report.unit) for mm in (s.at_mm, s.wanted_mm, s.expected_mm))
            out.append(f"  {s.name} (at {at}): {s.count} stitches, {expected}; wanted {wanted}.")
    return [*out, *report.cautions]


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
