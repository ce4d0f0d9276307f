"""Why so many rows, and why a row is as high as it is."""

from __future__ import annotations

from ...core.piece.widths import body_row_um, segment_um, segment_unit
from ...core.rows.row_room import HEIGHT_TOLERANCE_MM
from .subject import CHOSEN, MODEL, PRACTICE, SUM, YOURS, Derivation, Line, Subject


def explain_rows(subject: Subject) -> Derivation:
    """All rows from cast-on to bind-off."""
    rows, piece = subject.numbers.rows, subject.project.piece
    what = piece.row_word
    lines = [Line("You want", f"{subject.um(piece.height_mm * 1000)} high", YOURS)]
    lines += _border(subject, "Bottom", rows.bottom, rows.bottom_row_um)
    for number, band in enumerate(rows.bands, start=1):
        name = "Body" if len(rows.bands) == 1 else f"Band {number}"
        height = subject.fine(band.row_um / 1000)
        lines.append(Line(f"{name}: a {what}, by its segments’ draw-up, is", height, MODEL, f"row-at-{number - 1}"))
        lines.append(Line(f"{name}: {band.lead} {what}s to set up", subject.um(band.lead * band.row_um), PRACTICE))
        given = piece.bands[number - 1].rows
        seen = subject.um(HEIGHT_TOLERANCE_MM * 1000)
        if piece.bands[number - 1].shaping is not None:
            shaped = "from the places of the shaping, and the changes between them"
            lines.append(Line(f"{name}: {band.body} {what}s", subject.um(band.body * band.row_um), shaped))
            continue
        if piece.meets:
            whole = f"whole repeats of {piece.row_period()} {what}s, the nearest"
            lines.append(Line(f"{name}: {band.body} {what}s of charts", subject.um(band.body * band.row_um), whole))
            continue
        source = YOURS if given else f"fewest panels cut within {seen} of the height, then nearest"
        lines.append(Line(f"{name}: {band.body} {what}s of charts", subject.um(band.body * band.row_um), source))
    lines += _border(subject, "Top", rows.top, rows.top_row_um)
    lines.append(Line("Together", f"{rows.total} {what}s, {subject.um(rows.height_um)}", SUM))
    return Derivation(f"Why {rows.total} {what}s?", f"{rows.total}", tuple(lines))


def _border(subject: Subject, end: str, rows: int, row_um: float) -> list[Line]:
    text = f"{end} border: {rows} {subject.project.piece.row_word}s of {subject.fine(row_um / 1000)}"
    return [Line(text, subject.um(rows * row_um), CHOSEN)] if rows else []


def explain_row(subject: Subject) -> Derivation:
    """A row of the body: what each pattern wants, averaged by width."""
    piece = subject.piece
    gauge, whole = piece.measure.gauge, sum(segment_um(s, piece.measure) for s in subject.view.segments)
    lines = [subject.row_line()]
    wide: dict[tuple[str, float], int] = {}
    for s in subject.view.segments:
        key = (s.pattern.name, segment_unit(s, piece.measure).draw_up)
        wide[key] = wide.get(key, 0) + segment_um(s, piece.measure)
    for (name, up), um in wide.items():
        part = f"{100 * um / whole:.0f} % of the width"
        lines.append(
            Line(f"{name}, {part}: its {piece.row_word}s are as high as plain ones, times", f"{up:.3f}", MODEL)
        )
    lines.append(Line("Averaged by width", f"{body_row_um(subject.view) / 1000.0 / gauge.row_mm:.3f}", SUM))
    answer = subject.fine(body_row_um(subject.view) / 1000)
    lines.append(Line(f"So a {piece.row_word} is", answer, SUM))
    return Derivation(f"Why {answer} a {piece.row_word}?", answer, tuple(lines))
