"""Why so many rows, and why a row is as high as it is."""

from __future__ import annotations

from ...core.layout.heights import HEIGHT_TOLERANCE_MM, body_row_um
from ...core.layout.widths import segment_um, segment_unit
from .told import CHOSEN, MODEL, PRACTICE, SUM, YOURS, Derivation, Line, Subject


def explain_rows(told: Subject) -> Derivation:
    """All rows from cast-on to bind-off."""
    rows, piece = told.numbers.rows, told.project.piece
    what = piece.row_word
    lines = [Line("You want", f"{told.um(piece.height_mm * 1000)} high", YOURS)]
    lines += _border(told, "Bottom", rows.bottom, rows.bottom_row_um)
    for number, band in enumerate(rows.bands, start=1):
        name = "Body" if len(rows.bands) == 1 else f"Band {number}"
        height = told.fine(band.row_um / 1000)
        lines.append(Line(f"{name}: a {what}, by its segments’ draw-up, is", height, MODEL, f"row-at-{number - 1}"))
        lines.append(Line(f"{name}: {band.lead} {what}s to set up", told.um(band.lead * band.row_um), PRACTICE))
        given = piece.bands[number - 1].rows
        source = (
            YOURS if given else f"fewest panels cut within {HEIGHT_TOLERANCE_MM / 10:g} cm of the height, then nearest"
        )
        lines.append(Line(f"{name}: {band.body} {what}s of charts", told.um(band.body * band.row_um), source))
    lines += _border(told, "Top", rows.top, rows.top_row_um)
    lines.append(Line("Together", f"{rows.total} {what}s, {told.um(rows.height_um)}", SUM))
    return Derivation(f"Why {rows.total} {what}s?", f"{rows.total}", tuple(lines))


def _border(told: Subject, end: str, rows: int, row_um: float) -> list[Line]:
    text = f"{end} border: {rows} {told.project.piece.row_word}s of {told.fine(row_um / 1000)}"
    return [Line(text, told.um(rows * row_um), CHOSEN)] if rows else []


def explain_row(told: Subject) -> Derivation:
    """A row of the body: what each pattern wants, averaged by width."""
    piece = told.piece
    gauge, whole = piece.measure.gauge, sum(segment_um(s, piece.measure) for s in piece.segments)
    lines = [told.row_line()]
    wide: dict[tuple[str, float], int] = {}
    for s in piece.segments:
        key = (s.pattern.name, segment_unit(s, piece.measure).draw_up)
        wide[key] = wide.get(key, 0) + segment_um(s, piece.measure)
    for (name, up), um in wide.items():
        part = f"{100 * um / whole:.0f} % of the width"
        lines.append(
            Line(f"{name}, {part}: its {piece.row_word}s are as high as plain ones, times", f"{up:.3f}", MODEL)
        )
    lines.append(Line("Averaged by width", f"{body_row_um(piece) / 1000.0 / gauge.row_mm:.3f}", SUM))
    answer = told.fine(body_row_um(piece) / 1000)
    lines.append(Line(f"So a {piece.row_word} is", answer, SUM))
    return Derivation(f"Why {answer} a {piece.row_word}?", answer, tuple(lines))
