"""Why so many rows, and why a row is as high as it is."""

from __future__ import annotations

from ...core.piece.widths import body_row_um, segment_um, segment_unit
from ...core.rows.row_room import HEIGHT_TOLERANCE_MM
from .subject import CHOSEN, MODEL, PRACTICE, SUM, YOURS, Derivation, Line, Subject


def explain_rows(subject: Subject) -> Derivation:
    """All rows from cast-on to bind-off."""
    rows, piece = subject.numbers.rows, subject.project.piece
    what = piece.row_word
    lines = [Line(text="You want", value=f"{subject.um(piece.height_mm * 1000)} high", source=YOURS)]
    lines += _border(subject, "Bottom", rows.bottom, row_um=rows.bottom_row_um)
    for number, band in enumerate(rows.bands, start=1):
        name = "Body" if len(rows.bands) == 1 else f"Band {number}"
        height = subject.fine(band.row_um / 1000)
        lines.append(
            Line(
                text=f"{name}: a {what}, by its segments’ draw-up, is",
                value=height,
                source=MODEL,
                why=f"row-at-{number - 1}",
            )
        )
        lines.append(
            Line(
                text=f"{name}: {band.lead} {what}s to set up",
                value=subject.um(band.lead * band.row_um),
                source=PRACTICE,
            )
        )
        given = piece.bands[number - 1].rows
        seen = subject.um(HEIGHT_TOLERANCE_MM * 1000)
        if piece.bands[number - 1].shaping is not None:
            shaped = "from the places of the shaping, and the changes between them"
            lines.append(
                Line(text=f"{name}: {band.body} {what}s", value=subject.um(band.body * band.row_um), source=shaped)
            )
            continue
        if piece.meets:
            whole = f"whole repeats of {piece.row_period()} {what}s, the nearest"
            lines.append(
                Line(
                    text=f"{name}: {band.body} {what}s of charts",
                    value=subject.um(band.body * band.row_um),
                    source=whole,
                )
            )
            continue
        source = YOURS if given else f"fewest panels cut within {seen} of the height, then nearest"
        lines.append(
            Line(
                text=f"{name}: {band.body} {what}s of charts", value=subject.um(band.body * band.row_um), source=source
            )
        )
    lines += _border(subject, "Top", rows.top, row_um=rows.top_row_um)
    lines.append(Line(text="Together", value=f"{rows.total} {what}s, {subject.um(rows.height_um)}", source=SUM))
    return Derivation(question=f"Why {rows.total} {what}s?", answer=f"{rows.total}", lines=tuple(lines))


def _border(subject: Subject, end: str, rows: int, *, row_um: float) -> list[Line]:
    text = f"{end} border: {rows} {subject.project.piece.row_word}s of {subject.fine(row_um / 1000)}"
    return [Line(text=text, value=subject.um(rows * row_um), source=CHOSEN)] if rows else []


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
            Line(
                text=f"{name}, {part}: its {piece.row_word}s are as high as plain ones, times",
                value=f"{up:.3f}",
                source=MODEL,
            )
        )
    lines.append(
        Line(text="Averaged by width", value=f"{body_row_um(subject.view) / 1000.0 / gauge.row_mm:.3f}", source=SUM)
    )
    answer = subject.fine(body_row_um(subject.view) / 1000)
    lines.append(Line(text=f"So a {piece.row_word} is", value=answer, source=SUM))
    return Derivation(question=f"Why {answer} a {piece.row_word}?", answer=answer, lines=tuple(lines))
