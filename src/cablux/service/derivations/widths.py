"""Why a segment, a body or its chance is what it is: from the stockinette stitch to the width in the fabric."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from ...core.counts.program import grows_sideways
from ...core.gauge import EIGHTY
from ...core.gauge.methods import own_swatch_width
from ...core.gauge.model import model_width
from ...core.piece.piece import Piece
from ...core.piece.segment import Segment
from ...core.piece.widths import body_um, plain_um, segment_draw_in, segment_shares, segment_um, segment_unit
from .subject import CHOSEN, LAYOUT, MODEL, PRACTICE, SUM, SWATCH, YOURS, Derivation, Line, Subject


def _measured(piece: Piece, s: Segment) -> str:
    if own_swatch_width(piece.estimate, s.pattern) is not None:
        return "computed from the chart, corrected by its own swatch"
    return "computed from the chart, corrected by your other swatches" if piece.evidence.readings else MODEL


def explain_segment(subject: Subject) -> Derivation:
    """A segment’s width by all that is known."""
    piece, s = subject.piece, subject.segment
    plain, um = plain_um(s.stitches, piece.outlook.gauge), segment_um(s, piece.outlook)
    times = f"{s.repeats} × {s.chart.multiple}" + (f" + {s.chart.balance}" if s.chart.balance else "")
    stitch = subject.fine(piece.outlook.gauge.stitch_mm)
    lines = [
        subject.gauge_line(piece.outlook.gauge),
        Line(text=f"{s.name}: {times} stitches", value=f"{s.stitches}", source="locked by you" if s.locked else LAYOUT),
        Line(text=f"If nothing drew in: {s.stitches} × {stitch}", value=subject.um(plain), source=SUM),
    ]
    lines += [Line(text="The seam takes them", value=subject.um(0), source=PRACTICE)] if s.is_seam else _drawn(subject)
    known = piece.outlook.relative_sd([(s.cloth, 1.0)])
    lines.append(
        Line(
            text="Eight times in ten it lies within",
            value=f"± {100 * EIGHTY * known:.1f} %",
            source=_measured(piece, s),
        )
    )
    sized = segment_um(s, piece.measure)
    if piece.evidence.method != "estimate":
        lines.append(Line(text="The method that you cast on by says", value=subject.um(sized), source=CHOSEN))
    elif piece.progress:
        lines.append(
            Line(
                text="Before the piece itself was measured", value=subject.um(sized), source="what the cast-on goes by"
            )
        )
    lines += _otherwise(subject)
    return Derivation(question=f"Why {subject.um(um)} for {s.name}?", answer=subject.um(um), lines=tuple(lines))


def _drawn(subject: Subject) -> list[Line]:
    """From the chart to the width in the fabric, so that a pocket calculator finds the same."""
    piece, s, known = subject.piece, subject.segment, subject.piece.outlook
    unit, um, whole = segment_unit(s, known), segment_um(s, known), s.is_panel
    model = model_width(s.cloth, known.ratio, whole=whole)
    first = s.chart.width(1) if whole else s.chart.multiple
    ratio = ((model.fixed_stitches if whole else 0.0) + model.repeat_stitches) / first
    grown = whole and s.chart.balance > 0 and s.repeats > 1
    what = f"One repeat of it, {first} stitches," if grown else "Its chart,"
    lines = [Line(text=f"{what} relaxed as a network of springs, draws in to", value=f"{ratio:.3f}", source=MODEL)]
    correction = known.correction(s.cloth, "width")
    by = ""
    if known.basis.readings and s.pattern.id != "stockinette":
        by = f" × {correction:.3f}"
        lines.append(
            Line(text="What was measured multiplies that by", value=f"{correction:.3f}", source=_measured_on(piece))
        )
    sum_of = f"{first} × {subject.fine(known.gauge.stitch_mm)} × {ratio:.3f}{by}"
    if not grown:
        plain = subject.um(plain_um(s.stitches, known.gauge))
        return [
            *lines,
            Line(text=f"So in the fabric it is {plain} × {ratio:.3f}{by}", value=subject.um(um), source=SUM),
        ]
    lines.append(Line(text=f"So its first repeat is {sum_of}", value=subject.um(unit.width_um(1), 2), source=SUM))
    lines.append(
        Line(
            text=f"Each repeat more, {s.chart.multiple} stitches, adds",
            value=subject.um(unit.repeat_um, 2),
            source=MODEL,
        )
    )
    return [
        *lines,
        Line(text=f"So in the fabric it is the first, and {s.repeats - 1} more", value=subject.um(um), source=SUM),
    ]


def _measured_on(piece: Piece) -> str:
    if not piece.progress:
        return SWATCH
    return f"{SWATCH} and the piece itself" if piece.evidence.readings else "measured on the piece"


def _otherwise(subject: Subject) -> list[Line]:
    """What one repeat fewer or more would do to the body, for counts that are for choosing."""
    piece, s = subject.piece, subject.segment
    if s.locked or not (s.is_background or (s.is_panel and grows_sideways(s))):
        return []
    home, _ = subject.view.band.home(subject.at)
    both = "" if subject.view.band.partner(subject.at) is None else " and its partner"
    lines = []
    for by, words in ((-1, "fewer"), (1, "more")):
        if s.repeats + by >= 1:
            own = list(subject.view.band.own)
            own[home] = replace(own[home], repeats=s.repeats + by)
            other = subject.view.with_band(replace(subject.view.band, own=tuple(own)))
            lines.append(
                Line(
                    text=f"With one repeat {words} in it{both}, the body would lie",
                    value=subject.um(body_um(other, piece.outlook)),
                    source=f"you want {subject.um(piece.width_mm * 1000)}",
                )
            )
    return lines


def explain_width(subject: Subject) -> Derivation:
    """A body band’s width."""
    piece, known = subject.piece, subject.piece.outlook
    lines = [subject.gauge_line(known.gauge)]
    same: dict[tuple[str, int], list[Segment]] = {}
    for s in subject.view.segments:
        same.setdefault((s.pattern.name, s.stitches), []).append(s)
    for (name, stitches), group in same.items():
        at = subject.view.segments.index(group[0])
        um = sum(segment_um(s, known) for s in group)
        times = f"{len(group)} × {stitches}" if len(group) > 1 else f"{stitches}"
        lines.append(
            Line(
                text=f"{name}: {times} stitches, draws in to {segment_draw_in(group[0], known):.2f}",
                value=subject.um(um),
                source=_measured(piece, group[0]),
                why=f"segment-at-{subject.band}-{at}",
            )
        )
    aside = "What you measured on the piece is in these widths." if piece.progress else ""
    band = subject.numbers.bands[subject.band]
    width, whole = band.width_um, subject.view.stitches
    if band.stitches != whole:
        lines.append(
            Line(
                text=f"Of these {whole} stitches {band.stitches} are on the needle here",
                value=subject.um(width),
                source=LAYOUT,
            )
        )
    lines.append(Line(text="Together", value=subject.um(width), source=SUM))
    return Derivation(
        question=f"Why {subject.um(width)} wide?", answer=subject.um(width), lines=tuple(lines), aside=aside
    )


def explain_certainty(subject: Subject) -> Derivation:
    """How sure that is."""
    piece, band = subject.piece, subject.numbers.bands[subject.band]
    slope = piece.outlook.slope(segment_shares(subject.view))
    posterior = piece.outlook.width
    groups: dict[str, Callable[[str], bool]] = {
        "the stitch width, as you counted it": lambda n: n.startswith("stitch"),
        "how tightly you cross": lambda n: n == "cables",
        "the model’s own error in each pattern": lambda n: n.startswith("own"),
        "washing, blocking and use": lambda n: n.partition(":")[0] in ("wash", "block", "use"),
        "how a large piece drifts from its swatch": lambda n: n == "piece",
    }
    lines = []
    for words, mine in groups.items():
        part = {name: weight for name, weight in slope.items() if mine(name)}
        if part:
            um = EIGHTY * posterior.sd(part) * band.width_um
            lines.append(
                Line(
                    text=f"If only {words} were unsure", value=f"± {subject.um(um)}", source=_doubt_source(piece, words)
                )
            )
    lines.append(
        Line(
            text="Together (errors add as squares, and swatches tie some of them)",
            value=f"± {subject.um(band.eighty_um)}",
            source=SUM,
        )
    )
    return Derivation(
        question=f"Why give or take {subject.um(band.eighty_um)}?",
        answer=f"± {subject.um(band.eighty_um)}",
        lines=tuple(lines),
        aside="Eight of ten such pieces would lie within it.",
    )


def _doubt_source(piece: Piece, words: str) -> str:
    if "drifts" in words:
        return PRACTICE
    return SWATCH if piece.evidence.readings else f"{PRACTICE}, until you measure a swatch"


def explain_chance(subject: Subject) -> Derivation:
    """The chance to land within what is wanted."""
    piece, band = subject.piece, subject.numbers.bands[subject.band]
    lines = (
        Line(
            text="You want",
            value=f"{subject.um(piece.width_mm * 1000)} ± {subject.um(piece.tolerance_mm * 1000)}",
            source=YOURS,
        ),
        Line(
            text="It will most likely be",
            value=subject.um(band.width_um),
            source=MODEL if not piece.evidence.readings else SWATCH,
        ),
        Line(text="Eight times in ten within", value=f"± {subject.um(band.eighty_um)}", source=SUM),
        Line(
            text="So of a hundred such pieces lie within what you want",
            value=f"{100 * band.chance:.0f}",
            source="normal distribution",
        ),
    )
    return Derivation(
        question=f"Why {100 * band.chance:.0f} in 100?", answer=f"{100 * band.chance:.0f} in 100", lines=lines
    )


def explain_body(subject: Subject) -> Derivation:
    """The stitches of a body band."""
    groups: dict[str, list[int]] = {}
    for s in subject.view.segments:
        groups.setdefault(s.name, []).append(s.stitches)
    lines = [
        Line(text=f"{name}: {' + '.join(map(str, counts))}", value=f"{sum(counts)}", source=LAYOUT)
        for name, counts in groups.items()
    ]
    lines.append(Line(text="Together", value=f"{subject.view.stitches}", source=SUM))
    return Derivation(
        question=f"Why {subject.view.stitches} in the body?", answer=str(subject.view.stitches), lines=tuple(lines)
    )


def explain_plain(subject: Subject) -> Derivation:
    """What the stitches would be if nothing drew in."""
    piece = subject.piece
    um = plain_um(subject.view.stitches, piece.measure.gauge)
    lines = (
        subject.gauge_line(),
        Line(text=f"{subject.view.stitches} stitches of it, side by side", value=subject.um(um), source=SUM),
    )
    return Derivation(question=f"Why {subject.um(um)} on the needle?", answer=subject.um(um), lines=lines)
