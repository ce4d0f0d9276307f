"""Sentences of a pattern: how a piece begins and ends, and how edges are joined."""

from __future__ import annotations

from ...core.ends.cast_on import plan_cast_on
from ...core.garment.joins import ENDS, EdgeName
from ...core.pattern import compile_piece
from ...core.pattern.needle_ends import needles_text
from ...core.piece.piece import Piece
from ...core.units import Unit
from ..exchange import EdgeFile, ProjectFile

LEFT_HANDED = (
    "For left-handed knitters: each row is written from the end where you begin. Hold and cross as it says; in your "
    "cloth L leans right and R leans left, as the chart shows."
)
MARKERS = "pm: place a marker on the right needle; sm: slip the marker there is from the left needle to the right."


INSIDE_OUT = (
    "{how}: the wrong side faces you in every round, knit and purl have changed places, and each round is "
    "written as you work it. Push bobbles through to the right side."
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


def begin_sentence(file: ProjectFile) -> str:
    """How the piece at hand begins."""
    piece = file.piece()
    count = plan_cast_on(piece).cast_on
    if not piece.begins:
        how = " provisionally" if is_grafted(file, "cast-on") else ""
        told = f"Cast on {count} stitches{how}{' and join without a twist' if piece.round else ''}."
        return f"{told} {INSIDE_OUT.format(how='Work it inside out')}" if piece.inside_out else told
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
    return f"{told} {INSIDE_OUT.format(how='Turn the work inside out')}" if piece.inside_out else told


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


def next_part(file: ProjectFile) -> tuple[str, str] | None:
    """The piece that comes after the one at hand, and how it begins; None after the last."""
    at = file.pieces.index(file.own) + 1
    if at >= len(file.pieces):
        return None
    following = file.opened_at(file.pieces[at].number)
    return following.own.name or file.name, begin_sentence(following)
