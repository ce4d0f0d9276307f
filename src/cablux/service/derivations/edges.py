"""Why an edge has its stitches, where they are made, and how the edge will lie."""

from __future__ import annotations

from ...core.ends.borders import multiple_text
from ...core.ends.cast_on import EdgePlan
from ...core.gauge.model import CABLES, cloth_kind
from ...core.piece.widths import segment_um
from ...core.rows.shaped_band import plan_stations
from ..bench import End
from ..caston import EDGE_ROWS, FLARES, edge_preview
from ..errors import NotFound
from .subject import CHOSEN, LAYOUT, MODEL, PRACTICE, SUM, SWATCH, YOURS, Derivation, Line, Subject


def explain_cast_on(subject: Subject) -> Derivation:
    """The stitches to cast on."""
    return _edge(subject, subject.numbers.cast_on.bottom, "cast on", band=0)


def explain_bind_off(subject: Subject) -> Derivation:
    """The stitches to bind off."""
    return _edge(subject, subject.numbers.cast_on.top, "bind off", band=len(subject.project.piece.bands) - 1)


def _edge(subject: Subject, edge: EdgePlan, what: str, *, band: int) -> Derivation:
    piece, border = subject.piece, edge.border
    question = f"Why {what} {edge.count}?"
    if piece.bands[band].shaping is not None:
        return Derivation(question=question, answer=str(edge.count), lines=_station_lines(subject, what, band))
    if not border.rows:
        line = Line(
            text=f"Without a border you {what} the body’s own stitches",
            value=f"{edge.body}",
            source=LAYOUT,
            why=f"body-at-{band}",
        )
        return Derivation(question=question, answer=str(edge.count), lines=(line,))
    lines = [
        subject.gauge_line(),
        Line(
            text="The body beside it lies",
            value=subject.um(edge.body_um),
            source="its segments side by side",
            why=f"width-at-{band}",
        ),
    ]
    name = border.pattern.name
    each = piece.measure.unit(border.pattern, False).repeat_um / border.pattern.chart.multiple
    lines.append(
        Line(
            text=f"A stitch of {name.lower()} is",
            value=subject.fine(each / 1000),
            source=MODEL if not piece.evidence.readings else SWATCH,
        )
    )
    if border.count:
        lines.append(Line(text="You chose the count yourself", value=f"{border.count}", source=YOURS))
    elif border.style == "straight":
        lines.append(Line(text="Straight: the border has the body’s stitches", value=f"{edge.body}", source=CHOSEN))
    else:
        part = "" if border.factor == 1.0 else f", times {border.factor:g}"
        lines.append(
            Line(
                text=f"Stepped: the border is to lie as wide as the body{part}",
                value=subject.um(edge.body_um * border.factor),
                source=CHOSEN,
            )
        )
    fits = f"{name} needs a multiple of {multiple_text(piece.band_views[band], border)}"
    lines.append(
        Line(text=f"{fits}; the nearest count that suits it", value=f"{edge.count}", source="from the border’s chart")
    )
    lines.append(Line(text=f"{edge.count} stitches of border lie", value=subject.um(edge.border_um), source=SUM))
    return Derivation(question=question, answer=str(edge.count), lines=tuple(lines))


def _station_lines(subject: Subject, what: str, band: int) -> tuple[Line, ...]:
    """The count of a shaped body's first or last place."""
    stations = plan_stations(subject.piece.band_views[band]).stations
    first = what == "cast on"
    own, widest = stations[0 if first else -1], max(stations, key=lambda s: s.count)
    lines = [
        Line(text=f"“{own.station.name}” is to be wide", value=subject.um(own.station.width_mm * 1000.0), source=YOURS),
        Line(
            text=f"At the widest, “{widest.station.name}”, the layout has",
            value=f"{widest.count}",
            source=LAYOUT,
            why=f"body-at-{band}",
        ),
    ]
    if own.station.count:
        lines.append(Line(text="The count of this place is given", value=f"{own.count}", source=YOURS))
    else:
        found = "of all counts that the rows can reach, the places together miss their widths by the least"
        lines.append(Line(text="Its count", value=f"{own.count}", source=found))
    lines.append(Line(text=f"{own.count} stitches lie", value=subject.um(own.width_um), source=MODEL))
    return tuple(lines)


def explain_increase(subject: Subject) -> Derivation:
    """The stitches made between the bottom border and the body."""
    edge = subject.numbers.cast_on.bottom
    lines = (
        Line(text="The body has", value=f"{edge.body}", source=LAYOUT, why="body"),
        Line(text="The border has", value=f"{edge.count}", source="what lies as wide as the body", why="cast-on"),
        Line(text="So between them are made", value=f"{edge.difference}", source=SUM),
        Line(text="One row can make one after every other stitch: rows needed", value=f"{edge.rows}", source=PRACTICE),
    )
    return Derivation(
        question=f"Why {abs(edge.difference)} {'more' if edge.difference >= 0 else 'fewer'}?",
        answer=str(edge.difference),
        lines=lines,
    )


def explain_share(subject: Subject) -> Derivation:
    """The stitches that lie under a segment: of the border, or of the band below."""
    piece, s, plan = subject.piece, subject.segment, subject.numbers.cast_on
    question = f"Why {{}} under {s.name}?"
    inner, what = subject.at - len(subject.view.sides[:1]), f"Band {subject.band}" if subject.band else "The border"
    change = plan.between[subject.band - 1] if subject.band else plan.bottom.change
    if change is None or s.is_side:
        line = Line(text="The edge stitches run up from cast-on to bind-off", value=f"{s.stitches}", source=LAYOUT)
        return Derivation(question=question.format(s.stitches), answer=f"{s.stitches}", lines=(line,))
    count, made, between = change.shares[inner], s.stitches - change.shares[inner], change.counts[0]
    number = f"body-at-{subject.band - 1}" if subject.band else "cast-on"
    lines = [
        Line(text=f"{what} has, between the edges", value=f"{between}", source="its count, less the edges", why=number)
    ]
    if subject.band or plan.bottom.by_width:
        body, um = sum(segment_um(x, piece.measure) for x in subject.view.inner), segment_um(s, piece.measure)
        lines += [
            Line(
                text=f"{s.name} lies {subject.um(um)} wide, of",
                value=subject.um(body),
                source=MODEL,
                why=f"segment-at-{subject.band}-{subject.at}",
            ),
            Line(
                text=f"By width it would stand on, of those {between}", value=f"{between * um / body:.1f}", source=SUM
            ),
            Line(
                text="In whole stitches, mirrored pairs alike, no row asked for too much", value=f"{count}", source=SUM
            ),
        ]
    else:
        lines.append(
            Line(text="Spread evenly along the row, so many of them lie under it", value=f"{count}", source=CHOSEN)
        )
    done = "made in it" if made >= 0 else "worked together in it"
    lines.append(Line(text=f"It has {s.stitches} stitches itself, so {done} are", value=f"{abs(made)}", source=SUM))
    aside = (
        "They are hidden in knit columns of the cable to come." if made > 0 and cloth_kind(s.pattern) in CABLES else ""
    )
    return Derivation(question=question.format(count), answer=f"{count}", lines=tuple(lines), aside=aside)


def explain_flare(subject: Subject) -> Derivation:
    """How far an edge lies wider than its body: `band` 0 for the cast-on, 1 for the bind-off, `at` 1 if straight."""
    if subject.band > 1 or subject.at > 1:
        raise NotFound("There is no such edge.")
    end: End = "top" if subject.band else "bottom"
    look = edge_preview(subject.project, end, "straight" if subject.at else "stepped")
    border = look.plan.border
    what = "flare" if look.flare_um >= 0 else "pull in"
    answer = subject.um(abs(look.flare_um))
    source = MODEL if not subject.project.piece.evidence.readings else f"{MODEL}, corrected by your swatches"
    lines = (
        Line(
            text=f"{look.plan.count} stitches of {border.pattern.name.lower()}, {border.rows} rows, with "
            f"{EDGE_ROWS} rows of the body and what leads to them, every loop relaxed as springs",
            value=f"{look.loops} loops",
            source=MODEL,
        ),
        Line(text="The outermost row then lies", value=subject.um(look.edge_um), source=source),
        Line(text="The body beside it, past the border’s pull", value=subject.um(look.body_um), source=source),
        Line(text="Difference", value=subject.um(look.flare_um), source=SUM),
        Line(
            text="What blocking evens out, a fiftieth of the width",
            value=subject.um(FLARES * look.body_um),
            source="our choice",
        ),
    )
    return Derivation(question=f"Why does it {what} by {answer}?", answer=subject.um(look.flare_um), lines=lines)
