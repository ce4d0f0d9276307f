"""What the gauge page and `cablux gauge` tell: the estimate, its patterns, the swatches in use, the adviser."""

from __future__ import annotations

from collections.abc import Iterable

from ...core.counts.swatch_adviser import Advice, advise_swatches
from ...core.piece.piece import Piece
from ...core.units import GAUGE_SPAN, Unit, length_text, to_mm
from ..answers import MeasuredOnPiece, ProjectGauge, StockinetteGauge, SwatchAdvice, SwatchInBook, SwatchInUse
from ..exchange import MeasuredFile, ProjectFile, UsedSwatch
from ..projects import piece_numbers, piece_of
from ..swatches import Swatch, readings_of
from .edits import without_photo
from .pattern_widths import pattern_widths
from .progress import project_outlook


def gauge_answer(file: ProjectFile, book: Iterable[Swatch] = ()) -> ProjectGauge:
    """What is known of the piece at which a file is open, and of the swatches of a book. Raises IllegalPiece."""
    piece, swatches = piece_of(file), {s.id: s for s in book}
    numbers, outlook, advised = piece_numbers(piece), project_outlook(piece, file.unit), advise_swatches(piece)
    return ProjectGauge(
        name=file.own.name or file.name,
        unit=file.unit,
        method=file.method,
        fibre=file.fibre,
        finish=file.finish,
        from_charts_alone=not (piece.progress or piece.evidence.readings),
        width_mm=numbers.width_um / 1000.0,
        width_80_percent_mm=numbers.eighty_um / 1000.0,
        wanted_mm=piece.width_mm,
        tolerance_mm=piece.tolerance_mm,
        chance=numbers.chance,
        stockinette=_stockinette(piece),
        patterns=tuple(pattern_widths(piece)),
        enough=advised.enough,
        advised=tuple(map(_advice, advised.swatches)),
        swatches=tuple(_in_use(u, swatches.get(u.book), piece) for u in file.swatches),
        others=tuple(
            SwatchInBook(id=s.id, name=s.name, needle_mm=s.file.needle, readings=len(s.file.readings))
            for s in swatches.values()
            if s.id not in {u.book for u in file.swatches} and s.file.readings
        ),
        measured=tuple(_measured(m, file.unit) for m in file.own.measured),
        says=outlook.says,
        body_rows=outlook.body_rows,
        planned_body_rows=numbers.rows.body,
        set_rows=file.own.bands[0].rows if len(file.own.bands) == 1 else 0,
    )


def _stockinette(piece: Piece) -> StockinetteGauge:
    known, given = piece.outlook.gauge, piece.gauge
    return StockinetteGauge(
        stitches_to_10cm=known.stitches,
        rows_to_10cm=known.rows,
        given_stitches_to_10cm=given.stitches,
        given_rows_to_10cm=given.rows,
        from_label=given.band,
        corrected=bool(piece.evidence.readings),
    )


def _advice(advice: Advice) -> SwatchAdvice:
    return SwatchAdvice(
        pattern=advice.pattern.id,
        name=advice.pattern.name,
        stitches=advice.stitches,
        rows=advice.rows,
        before_mm=advice.before_um / 1000.0,
        after_mm=advice.after_um / 1000.0,
    )


def _in_use(used: UsedSwatch, swatch: Swatch | None, piece: Piece) -> SwatchInUse:
    reads = readings_of(used.swatch, piece.width_mm, piece.height_mm)
    return SwatchInUse(
        name=used.swatch.name,
        book=used.book,
        in_book=swatch is not None,
        newer=swatch is not None and without_photo(swatch) != used.swatch,
        same_yarn=used.same,
        unit=used.swatch.unit,
        readings=len(used.swatch.readings),
        worth=tuple(r.told_worth for r in reads if r.core.along == "width"),
    )


def _measured(measured: MeasuredFile, unit: Unit) -> MeasuredOnPiece:
    return MeasuredOnPiece(
        row=measured.row,
        along=measured.along,
        values_mm=tuple(to_mm(value, unit) for value in measured.values),
        state=measured.state,
        on_needle=measured.on_needle and measured.along == "width",
    )


def gauge_sentences(told: ProjectGauge) -> list[str]:
    """The answer for reading."""

    def length(mm: float) -> str:
        return length_text(mm, told.unit)

    span, known = GAUGE_SPAN[told.unit], told.stockinette
    to_ten = span[0] / 100.0
    out = [
        f"{told.name}: {length(told.width_mm)} wide, give or take {length(told.width_80_percent_mm)} "
        f"(wanted {length(told.wanted_mm)} ± {length(told.tolerance_mm)}, {100 * told.chance:.0f} in 100).",
        f"Stockinette: {known.stitches_to_10cm * to_ten:.1f} stitches, {known.rows_to_10cm * to_ten:.1f} rows "
        f"to {span[1]}{', from the yarn label' if known.from_label and not known.corrected else ''}.",
        *(f"  {pattern.words}." for pattern in told.patterns),
        *told.says,
    ]
    if told.enough:
        return [*out, told.enough]
    out.append("A swatch would tell more:")
    for a in told.advised:
        known_to = f"± {length(a.after_mm)} instead of ± {length(a.before_mm)}"
        out.append(f"  {a.name}, {a.stitches} stitches × {a.rows} rows: the width would be known to {known_to}.")
    return out
