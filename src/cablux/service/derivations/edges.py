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
    return _edge(subject, subject.numbers.cast_on.bottom, "cast on", 0)


def explain_bind_off(subject: Subject) -> Derivation:
    """The stitches to bind off."""
    return _edge(subject, subject.numbers.cast_on.top, "bind off", len(subject.project.piece.bands) - 1)


def _edge(subject: Subject, edge: EdgePlan, what: str, band: int) -> Derivation:
    piece, border = subject.piece, edge.border
    question = f"Why {what} {edge.count}?"
    if piece.bands[band].shaping is not None:
        return Derivation(question, str(edge.count), _station_lines(subject, what, band))
    if not border.rows:
        line = Line(f"Without a border you {what} the body’s own stitches", f"{edge.body}", LAYOUT, f"body-at-{band}")
        return Derivation(question, str(edge.count), (line,))
    lines = [
        subject.gauge_line(),
        Line("The body beside it lies", subject.um(edge.body_um), "its segments side by side", f"width-at-{band}"),
    ]
    name = border.pattern.name
    each = piece.measure.unit(border.pattern, False).repeat_um / border.pattern.chart.multiple
    lines.append(
        Line(
            f"A stitch of {name.lower()} is",
            subject.fine(each / 1000),
            MODEL if not piece.evidence.readings else SWATCH,
        )
    )
    if border.count:
        lines.append(Line("You chose the count yourself", f"{border.count}", YOURS))
    elif border.style == "straight":
        lines.append(Line("Straight: the border has the body’s stitches", f"{edge.body}", CHOSEN))
    else:
        part = "" if border.factor == 1.0 else f", times {border.factor:g}"
        lines.append(
            Line(
                f"Stepped: the border is to lie as wide as the body{part}",
                subject.um(edge.body_um * border.factor),
                CHOSEN,
            )
        )
    fits = f"{name} needs a multiple of {multiple_text(piece.band_views[band], border)}"
    lines.append(Line(f"{fits}; the nearest count that suits it", f"{edge.count}", "from the border’s chart"))
    lines.append(Line(f"{edge.count} stitches of border lie", subject.um(edge.border_um), SUM))
    return Derivation(question, str(edge.count), tuple(lines))


def _station_lines(subject: Subject, what: str, band: int) -> tuple[Line, ...]:
    """The count of a shaped body's first or last place."""
    stations = plan_stations(subject.piece.band_views[band]).stations
    first = what == "cast on"
    own, widest = stations[0 if first else -1], max(stations, key=lambda s: s.count)
    lines = [
        Line(f"“{own.station.name}” is to be wide", subject.um(own.station.width_mm * 1000.0), YOURS),
        Line(f"At the widest, “{widest.station.name}”, the layout has", f"{widest.count}", LAYOUT, f"body-at-{band}"),
    ]
    if own.station.count:
        lines.append(Line("The count of this place is given", f"{own.count}", YOURS))
    else:
        found = "of all counts that the rows can reach, the places together miss their widths by the least"
        lines.append(Line("Its count", f"{own.count}", found))
    lines.append(Line(f"{own.count} stitches lie", subject.um(own.width_um), MODEL))
    return tuple(lines)


def explain_increase(subject: Subject) -> Derivation:
    """The stitches made between the bottom border and the body."""
    edge = subject.numbers.cast_on.bottom
    lines = (
        Line("The body has", f"{edge.body}", LAYOUT, "body"),
        Line("The border has", f"{edge.count}", "what lies as wide as the body", "cast-on"),
        Line("So between them are made", f"{edge.difference}", SUM),
        Line("One row can make one after every other stitch: rows needed", f"{edge.rows}", PRACTICE),
    )
    return Derivation(
        f"Why {abs(edge.difference)} {'more' if edge.difference >= 0 else 'fewer'}?", str(edge.difference), lines
    )


def explain_share(subject: Subject) -> Derivation:
    """The stitches that lie under a segment: of the border, or of the band below."""
    piece, s, plan = subject.piece, subject.segment, subject.numbers.cast_on
    question = f"Why {{}} under {s.name}?"
    inner, what = subject.at - len(subject.view.sides[:1]), f"Band {subject.band}" if subject.band else "The border"
    change = plan.between[subject.band - 1] if subject.band else plan.bottom.change
    if change is None or s.is_side:
        line = Line("The edge stitches run up from cast-on to bind-off", f"{s.stitches}", LAYOUT)
        return Derivation(question.format(s.stitches), f"{s.stitches}", (line,))
    count, made, between = change.shares[inner], s.stitches - change.shares[inner], change.counts[0]
    number = f"body-at-{subject.band - 1}" if subject.band else "cast-on"
    lines = [Line(f"{what} has, between the edges", f"{between}", "its count, less the edges", number)]
    if subject.band or plan.bottom.by_width:
        body, um = sum(segment_um(x, piece.measure) for x in subject.view.inner), segment_um(s, piece.measure)
        lines += [
            Line(
                f"{s.name} lies {subject.um(um)} wide, of",
                subject.um(body),
                MODEL,
                f"segment-at-{subject.band}-{subject.at}",
            ),
            Line(f"By width it would stand on, of those {between}", f"{between * um / body:.1f}", SUM),
            Line("In whole stitches, mirrored pairs alike, no row asked for too much", f"{count}", SUM),
        ]
    else:
        lines.append(Line("Spread evenly along the row, so many of them lie under it", f"{count}", CHOSEN))
    done = "made in it" if made >= 0 else "worked together in it"
    lines.append(Line(f"It has {s.stitches} stitches itself, so {done} are", f"{abs(made)}", SUM))
    aside = (
        "They are hidden in knit columns of the cable to come." if made > 0 and cloth_kind(s.pattern) in CABLES else ""
    )
    return Derivation(question.format(count), f"{count}", tuple(lines), aside)


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
            f"{look.plan.count} stitches of {border.pattern.name.lower()}, {border.rows} rows, with {EDGE_ROWS} rows "
            "of the body and what leads to them, every loop relaxed as springs",
            f"{look.loops} loops",
            MODEL,
        ),
        Line("The outermost row then lies", subject.um(look.edge_um), source),
        Line("The body beside it, past the border’s pull", subject.um(look.body_um), source),
        Line("Difference", subject.um(look.flare_um), SUM),
        Line("What blocking evens out, a fiftieth of the width", subject.um(FLARES * look.body_um), "our choice"),
    )
    return Derivation(f"Why does it {what} by {answer}?", subject.um(look.flare_um), lines)
