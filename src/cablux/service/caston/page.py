"""What the cast-on page and `cablux cast-on` tell: both edges, the rows that change the count, how the rows end."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import lru_cache

from ...core.ends.cast_on import EdgePlan, as_style, edge_plan
from ...core.ends.transition import Transition
from ...core.errors import CabluxError
from ...core.garment.cautions import needle_lengths
from ...core.library import LIBRARY
from ...core.pattern import WorkedRow, compile_piece
from ...core.pattern.words import row_words
from ...core.piece.border import CastOn
from ...core.piece.piece import BandView, Piece
from ...core.piece.widths import body_um, plain_um, segment_draw_in, segment_um
from ...core.rows.heights import RowPlan
from ...core.rows.row_search import Alignment, RowChoice, panel_alignment, row_choices
from ...core.units import length_text
from ..answers import (
    BandWidths,
    CountChange,
    EdgeCounts,
    EdgeWay,
    NamedPattern,
    PanelEnding,
    PanelPhase,
    PanelsTogether,
    PieceCastOn,
    PieceEnd,
    PieceRows,
    RowsWay,
    SegmentWidth,
)
from ..bench import End
from ..exchange import ProjectFile
from ..pattern import begin_sentence, end_sentence, is_grafted
from ..projects import piece_counts, piece_numbers, piece_of
from .advice import edge_advice


def cast_on_answer(file: ProjectFile) -> PieceCastOn:
    """How the piece at which a file is open begins and ends. Raises IllegalPiece."""
    piece = piece_of(file)
    numbers, gauge = piece_numbers(piece), piece.measure.gauge
    below = (numbers.cast_on.bottom.change, *numbers.cast_on.between)
    rows = compile_piece(piece).rows
    ending = piece.ends.kind
    return PieceCastOn(
        name=piece.name,
        unit=file.unit,
        counts=piece_counts(piece),
        wanted_mm=piece.width_mm,
        tolerance_mm=piece.tolerance_mm,
        stitches_to_10cm=gauge.stitches,
        stitch_mm=gauge.stitch_mm,
        row_mm=gauge.row_mm,
        method=piece.evidence.method,
        swatched=bool(piece.evidence.readings),
        finished=numbers.size.text(file.unit) if numbers.size.across else "",
        bands=tuple(_band(*each) for each in zip(piece.band_views, below, strict=True)),
        ends=(_end(file, piece, "bottom", rows=rows), _end(file, piece, "top", rows=rows)),
        between=_changes(rows, "change row"),
        meets=bool(piece.meets),
        dense=piece.dense,
        ending="grafted" if ending == "bound off" and is_grafted(file, "bind-off") else ending,
        rows=_rows(piece, numbers.rows),
        borders=tuple(NamedPattern(id=p.id, name=p.name) for p in LIBRARY.values() if "border" in p.uses),
        cords_mm=tuple(10.0 * cm for cm in needle_lengths(piece.band_views[0])),
    )


@lru_cache(maxsize=32)
def alignments(piece: Piece) -> tuple[Alignment, ...]:
    """Where the panels of each band begin a repeat together."""
    rows = piece_numbers(piece).rows
    return tuple(panel_alignment(view, b.body) for view, b in zip(piece.band_views, rows.bands, strict=True))


def _band(view: BandView, change: Transition | None) -> BandWidths:
    side, measure, numbers = [s.stitches for s in view.sides], view.measure, piece_numbers(view.piece)
    under = (*side[:1], *(change.shares if change else [s.stitches for s in view.inner]), *side[1:])
    segments = tuple(
        SegmentWidth(
            name=s.name,
            family=s.pattern.family,
            stitches=s.stitches,
            draw_in=segment_draw_in(s, measure),
            width_mm=segment_um(s, measure) / 1000.0,
            below=share,
        )
        for s, share in zip(view.segments, under, strict=True)
    )
    known, rows = numbers.bands[view.at], numbers.rows.bands[view.at]
    return BandWidths(
        segments=segments,
        stitches=view.stitches,
        below=sum(under),
        width_mm=body_um(view) / 1000.0,
        plain_mm=plain_um(view.stitches, measure.gauge) / 1000.0,
        expected_mm=known.width_um / 1000.0,
        expected_80_percent_mm=known.eighty_um / 1000.0,
        lead=rows.lead,
        rows=rows.body,
        row_mm=rows.row_um / 1000.0,
    )


def _end(file: ProjectFile, piece: Piece, end: End, *, rows: tuple[WorkedRow, ...]) -> PieceEnd:
    plan, bottom = piece_numbers(piece).cast_on, end == "bottom"
    mine = plan.bottom if bottom else plan.top
    view = piece.band_views[0 if bottom else -1]
    shaped = view.band.shaping is not None
    if piece.begins if bottom else piece.ends.kind != "bound off":
        name, said = ("How it begins", begin_sentence) if bottom else ("How it ends", end_sentence)
        instead = said(file)
        return PieceEnd(
            end=end, name=name, edge=_edge(mine), shaped=shaped, ways=(), changes=(), advice=(), instead=instead
        )
    return PieceEnd(
        end=end,
        name="The cast-on edge" if bottom else "The bind-off edge",
        edge=_edge(mine),
        shaped=shaped,
        ways=tuple(_way(view, mine, style) for style in ("stepped", "straight")),
        changes=_changes(rows, "bottom change row" if bottom else "top change row"),
        advice=edge_advice(view, mine, bottom=bottom),
        instead="",
    )


def _edge(plan: EdgePlan) -> EdgeCounts:
    border = plan.border
    return EdgeCounts(
        style=border.style,
        count=plan.count,
        body=plan.body,
        difference=plan.difference,
        rows=plan.rows,
        border=border.pattern_id,
        border_name=border.pattern.name,
        border_rows=border.rows,
        border_mm=plan.border_um / 1000.0,
        factor=border.factor,
        spread=border.spread,
        own_count=border.count,
        multiple=border.pattern.chart.multiple,
        balance=border.pattern.chart.balance,
    )


def _way(view: BandView, mine: EdgePlan, style: CastOn) -> EdgeWay:
    chosen = mine.border.style == style and not mine.border.count
    if not mine.border.rows:
        edge = _edge(mine) if style == "straight" else None
        return EdgeWay(style=style, chosen=chosen, edge=edge, refusal="There is no border to step from.")
    try:
        plan = edge_plan(view, as_style(mine.border, style))
    except CabluxError as error:
        return EdgeWay(style=style, chosen=chosen, edge=None, refusal=str(error))
    return EdgeWay(style=style, chosen=chosen, edge=_edge(plan), refusal="")


def _changes(rows: Iterable[WorkedRow], section: str) -> tuple[CountChange, ...]:
    return tuple(
        CountChange(row=r.number, side=str(r.side), before=r.before, after=r.after, text=row_words(r))
        for r in rows
        if r.section == section and r.before != r.after
    )


def _rows(piece: Piece, plan: RowPlan) -> PieceRows:
    return PieceRows(
        bottom=plan.bottom,
        top=plan.top,
        total=plan.total,
        height_mm=plan.height_um / 1000.0,
        wanted_mm=piece.height_mm,
        endings=tuple(
            PanelEnding(name=e.name, before=e.before, after=e.after, whole=e.whole, look=e.look) for e in plan.endings
        ),
        ways=tuple(_rows_way(way) for way in row_choices(piece)),
        together=tuple(PanelsTogether(panels=len(a.strips), rows=a.together) for a in alignments(piece)),
    )


def _rows_way(way: RowChoice) -> RowsWay:
    return RowsWay(
        name=way.name,
        good_for=way.good_for,
        rows=way.rows.total,
        height_mm=way.rows.height_um / 1000.0,
        cut=way.cut,
        phases=tuple(PanelPhase(name=name, row=row) for name, row in way.phases),
    )


def cast_on_sentences(told: PieceCastOn) -> Iterator[str]:
    """The answer for reading."""

    def length(mm: float) -> str:
        return length_text(mm, told.unit)

    counts, rows = told.counts, told.rows
    for end, verb in zip(told.ends, ("Cast on", "Bind off"), strict=True):
        edge = end.edge
        border = f", {edge.border_rows} {counts.row}s of {edge.border_name.lower()}" if edge.border_rows else ""
        yield end.instead or f"{verb} {edge.count}{border}."
        for change in end.changes:
            yield f"  {counts.row.capitalize()} {change.row}, from {change.before} to {change.after}: {change.text}."
    for at, band in enumerate(told.bands, start=1):
        where = f"Band {at}" if len(told.bands) > 1 else "The body"
        sure = length(band.expected_80_percent_mm)
        yield f"{where}: {band.stitches} stitches, {length(band.expected_mm)} wide, give or take {sure}."
        for s in band.segments:
            wide = f"{length(s.width_mm)} wide at a draw-in of {s.draw_in:.2f}"
            yield f"  {s.name}: {s.stitches} stitches, {s.below} below, {wide}."
    yield f"{rows.total} {counts.row}s, {length(rows.height_mm)} high; wanted {length(rows.wanted_mm)}."
    yield from (f"  {name} stops in mid motif at the top." for name in rows.cut)
