"""A pattern as plain text."""

from __future__ import annotations

from typing import Literal

from ...core.layout.caston import plan_cast_on
from ...core.layout.joins import ENDS, EdgeName
from ...core.layout.piece import BandView, Piece
from ...core.layout.shaped import shape_band
from ...core.layout.wander import worked_view
from ...core.pattern import compile_piece
from ...core.pattern.chartwords import Work, chart_words
from ...core.pattern.inpattern import last_crossings_in_pattern, panels_in_pattern, stretches_in_pattern
from ...core.pattern.needle_ends import needles_text
from ...core.pattern.wording import PLAIN_WORDS, Wording
from ...core.units import GAUGE_SPAN, Unit, length_text
from ..errors import NotFound
from ..exchange import EdgeFile, ProjectFile
from ..projects import Project, piece_numbers
from .page import in_words

LEFT_HANDED = (
    "For left-handed knitters: each row is written from the end where you begin. Hold and cross as it says; in your "
    "cloth L leans right and R leans left, as the chart shows."
)
MARKERS = "pm: place a marker on the right needle; sm: slip the marker there is from the left needle to the right."


Manner = Literal["rows", "pattern"]
"""Every row written out; or in pattern, with what is done at the edges and a calendar of those rows."""

INSIDE_OUT = (
    "Turn the work inside out: the wrong side faces you in every round, knit and purl have changed places, and each "
    "round is written as you work it. Push bobbles through to the right side."
)
HOW_HELD: dict[str, str] = {
    "": "",
    "grafted": ", to be grafted",
    "three-needle": ", to be joined with three needles",
}
GRAFTED = "Graft {one} to {other}, from their holders"
HOW_JOINED: dict[str, str] = {
    "mattress": "Sew {one} to {other} in mattress stitch",
    "grafted": "Unpick the provisional cast-on and graft {other} to {one}; the graft makes one more row",
    "three-needle": "Join {one} and {other} with a three-needle bind-off",
    "picked up": "Pick up along {one} and work {other} onto it",
    "tacked": "Tack {one} to {other}",
    "button and loop": "Sew buttons to {one}, and crochet or sew loops to {other}",
}


def pattern_text(project: Project, wording: Wording = PLAIN_WORDS, manner: Manner = "rows") -> str:
    """The whole pattern of a project."""
    return project_words(project.file, wording, manner=manner)


def shaped_in_pattern(piece: Piece, wording: Wording = PLAIN_WORDS) -> dict[int, list[str]]:
    """For each shaped band what it says in pattern, line by line; empty where nothing is shaped."""
    told = filter(_told_in_pattern, map(worked_view, piece.band_views))
    return {view.at: [wording.terms(line) for line in _in_pattern(view, wording)] for view in told}


def _told_in_pattern(view: BandView) -> bool:
    """Short rows are few, each its own, and a cable that is halved spares some of the rest: they are written out."""
    if view.shaping is None or view.shaping.writes_rows:
        return False
    return not (view.shaping.cabled and any(row.crossed for row in shape_band(view).lives.rows))


def opened_at_piece(file: ProjectFile, name: str) -> ProjectFile:
    """A project open at the piece of that name, its first one without a name. Raises NotFound where there is none."""
    names = {(p.name or file.name).casefold(): p.number for p in file.pieces}
    if name and name.casefold() not in names:
        raise NotFound(
            f"There is no piece “{name}”; these are there: {', '.join(p.name or file.name for p in file.pieces)}."
        )
    return file.opened_at(names[name.casefold()]) if name else file.opened_at(0)


def project_words(file: ProjectFile, wording: Wording = PLAIN_WORDS, piece: str = "", manner: Manner = "rows") -> str:
    """The pattern of a project: of all its pieces, or of the one named. Raises NotFound where there is none."""
    if piece:
        return file_text(opened_at_piece(file, piece), wording, manner)
    texts = [file_text(file.opened_at(p.number), wording, manner) for p in file.pieces]
    return "\n\n".join(texts) + wording.terms(_joining(file))


def _joining(file: ProjectFile) -> str:
    """The making up, at the end of the pattern."""
    return "\n".join(["", "Making up", *join_sentences(file)]) + "\n" if file.joins else ""


def join_sentences(file: ProjectFile) -> list[str]:
    """How the edges are joined, and what stays open."""
    return [line for each in joined(file) for line in each]


def joined(file: ProjectFile) -> list[tuple[str, ...]]:
    """For each join how its edges are joined, and what stays open."""
    out = []
    names = {p.number: p.name for p in file.pieces}
    for join in file.joins:
        ends = (join.one, join.other, *join.more)
        one, *others = (_edge_words(e, names[e.piece], file.unit) for e in ends)
        other = " and then to ".join(others)
        if join.one.piece == join.other.piece and names[join.one.piece]:
            other = f"its {join.other.edge}"
        along = "the right edge" if any(e.edge in ENDS for e in ends) else "the cast-on"
        live = join.how == "grafted" and all(e.edge == "bind-off" for e in ends)
        lines = [(GRAFTED if live else HOW_JOINED[join.how]).format(one=one, other=other) + "."]
        for o in join.openings:
            lines.append(
                f"Leave it open from {round(o.start, 1):g} to {round(o.end, 1):g} {file.unit}, from {along}, for the "
                f"{o.name}."
            )
        out.append(tuple(lines))
    return out


def _edge_words(edge: EdgeFile, name: str, unit: Unit) -> str:
    """An edge of a piece, or the part of it, as one says it."""
    said = f"the {edge.edge}{f' of {name}' if name else ''}"
    start, end = f"{round(edge.start, 1):g}", f"{round(edge.end, 1):g} {unit}"
    if edge.edge in ENDS:
        if edge.start and not edge.end:
            return f"{said} from {start} {unit} from its right end to its left end"
        return f"{said} from {start} to {end} from its right end" if edge.end else said
    if edge.over:
        part = {0.5: "to the middle of its top", 1.0: "its top"}.get(edge.over, f"{100 * edge.over:.0f} % of its top")
        return f"{said} from {start} {unit} up and over {part}"
    if edge.start and edge.end:
        return f"{said} from {start} to {end}"
    return f"{said} from {start} {unit} up" if edge.start else f"{said} up to {end}" if edge.end else said


def file_text(file: ProjectFile, wording: Wording = PLAIN_WORDS, manner: Manner = "rows") -> str:
    """The whole pattern of the piece at which a project file is open."""
    piece, unit = file.piece(), file.unit
    n, gauge = piece_numbers(piece), piece.measure.gauge
    per = GAUGE_SPAN[unit][0] / 100.0
    give = length_text(n.eighty_um / 1000.0, unit)
    size = [
        f"Finished size: {length_text(n.width_um / 1000.0, unit)} (give or take {give}) by "
        f"{length_text(n.rows.height_um / 1000.0, unit)}",
        f"Gauge: {gauge.stitches * per:.3g} stitches and {gauge.rows * per:.3g} rows to {GAUGE_SPAN[unit][1]} "
        "of stockinette",
    ]
    title = f"{file.name}: {file.own.name}" if file.own.name and len(file.pieces) > 1 else file.name
    own = [title, "=" * len(title), "", *map(wording.terms, size)]  # the knitter's own words stay as they are
    own += [f"Yarn: {file.yarn}"] if file.yarn else []
    own += [f"Make {file.own.copies}."] if file.own.copies > 1 else []
    lines: list[str] = []
    if wording.left_handed:
        lines += ["", LEFT_HANDED]
    if wording.markers:
        lines += ["", MARKERS]
    lines += ["", begin_sentence(file)]
    lines += [round_needles(piece)] if round_needles(piece) else []
    for section in in_words(piece, wording):
        heading = ": ".join(section.heading)
        lines += ["", heading + (f" (band {section.band + 1})" if len(piece.bands) > 1 else "")]
        lines += [section.note] if section.note else []
        view = worked_view(piece.band_views[section.band])
        if manner == "pattern" and section.section == "body" and _told_in_pattern(view):
            lines += _in_pattern(view, wording)
            continue
        for row in section.rows:
            count = f" ({row.after} stitches)" if wording.counts else ""
            lines.append(f"{row.label}: {row.text}.{count}")
        if section.repeat:
            lines.append(section.repeat)
    lines += ["", end_sentence(file)]
    return "\n".join(own) + "\n" + wording.terms("\n".join(lines) + "\n")


def begin_sentence(file: ProjectFile) -> str:
    """How the piece at hand begins."""
    piece = file.piece()
    count = plan_cast_on(piece).cast_on
    if not piece.begins:
        how = " provisionally" if is_grafted(file, "cast-on") else ""
        return f"Cast on {count} stitches{how}{' and join without a twist' if piece.round else ''}."
    names = {p.number: p.name or file.name for p in file.pieces}
    said = []
    for source in piece.begins:
        whose = f"{source.name} ({names.get(source.piece, 'gone')})"
        if source.kind == "held":
            said.append(f"put the {source.stitches} held stitches of the {whose} on the needle")
        else:
            said.append(f"pick up and knit {source.stitches} along the {whose}")
    text = ", ".join(said)
    told = f"{text[0].upper()}{text[1:]}: {count} stitches{', joined into a round' if piece.round else ''}."
    return f"{told} {INSIDE_OUT}" if piece.inside_out else told


SMALL_ROUND = 350.0
"""Common practice: a round of less than 35 to 40 cm wants a long cord, two circulars or double-pointed needles."""


def round_needles(piece: Piece) -> str:
    """How a small round is divided over needles, or from when on one is small.

    Empty where the piece is flat, or goes round a circular needle from end to end.
    """
    view, fewest = piece.band_views[0], SMALL_ROUND / piece.measure.gauge.stitch_mm
    if not piece.round:
        return ""
    if view.stitches < fewest:
        return needles_text(view)
    small = next((row for row in compile_piece(piece).rows if row.after < fewest), None)
    if small is None:
        return ""
    return (
        f"After round {small.number} ({small.after} stitches) it no longer goes round a 40 cm needle: change to "
        "double-pointed needles, or to a long one with a loop of its cord pulled out."
    )


def end_sentence(file: ProjectFile) -> str:
    """How the piece at hand ends."""
    piece = file.piece()
    count = plan_cast_on(piece).top.count
    match piece.ends.kind:
        case "drawn together":
            return f"Cut the yarn, draw it twice through the {count} stitches that are left, pull tight and fasten off."
        case "grafted together":
            half = count // 2
            return f"Put the first {half} stitches on one needle, the last {half} on another, and graft them together."
        case "held":
            groups = ", ".join(f"{g.stitches} for the {g.name}{HOW_HELD[g.joined]}" for g in piece.ends.groups)
            return f"Put the {count} stitches on holders, from the right: {groups}."
    if is_grafted(file, "bind-off"):
        return f"Leave the {count} stitches on the needle, to be grafted."
    return f"Bind off {count} stitches loosely, in pattern."


def is_grafted(file: ProjectFile, edge: EdgeName) -> bool:
    """Whether an end of the piece at hand is grafted, and so neither cast on for good nor bound off."""
    own = file.own.number
    ends = (e for join in file.joins if join.how == "grafted" for e in (join.one, join.other))
    return any(e.piece == own and e.edge == edge for e in ends)


def _in_pattern(view: BandView, wording: Wording) -> list[str]:
    """A shaped body in pattern: its stretches with their calendars, its panels, and the rows of every chart."""
    out = []
    for stretch in stretches_in_pattern(view):
        what = "Round" if view.round else "Row"
        many = stretch.last > stretch.first
        rows = f"{what}s {stretch.first}–{stretch.last}" if many else f"{what} {stretch.first}"
        out.append(f"{rows}: {stretch.sentence}")
        if stretch.calendar and len(stretch.calendar) < stretch.last - stretch.first + 1:
            out.append(f"Shaping {what.lower()}s, to cross out: {', '.join(map(str, stretch.calendar))}.")
    for name, first, last, height in panels_in_pattern(view):
        out.append(
            f"{name}: work its chart in rows {first}–{last}, its {height} rows over and over; before and after them "
            "its stitches are worked as the background."
        )
    for row, names in last_crossings_in_pattern(view).items():
        out.append(
            f"{' and '.join(names)}: as it grows narrow, cross what is left of it (3/3, then 2/2, then 1/1); after "
            f"{'round' if view.round else 'row'} {row} cross it no more, and work its stitches as they appear."
        )
    charts = {s.name: s.chart for s in view.segments}
    work: Work = "flat" if not view.round else "inside out" if view.piece.inside_out else "round"
    for name, chart in charts.items():
        out += ["", name if chart.width() == 1 else f"{name}, over {chart.size_text} stitches"]
        out += [f"{row.label}: {row.text}" for row in chart_words(chart, wording, work)]
    return out
