"""Mistakes at the chair: what each way out costs at the knitter's own pace, in words, and what it will look like."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from ...core.errors import CabluxError
from ...core.mistakes import MISTAKES, Mistake, MistakeKind, WayOut, altered_pattern, find_ways_out
from ...core.pattern import WorkedPattern, compile_piece
from ...core.piece.piece import Piece
from ...core.tracking import COMMON_SECONDS, time_text
from ...render.chart import ChartLine, ChartPart, chart_svg
from ...render.chart_cuts import windowed
from ...render.yarn import Yarn
from ...store.repository import StoredEvent
from ..answers import MendingWay, MendingWays
from ..cloth import cloth_around
from ..exchange import read_at_piece
from ..pattern import line_of

KIND_NAMES: dict[MistakeKind, str] = {
    "crossing-missed": "A crossing was forgotten",
    "crossing-early": "A cable was crossed too early",
    "wrong-lean": "A crossing leans the wrong way",
    "wrong-group": "A stitch too many or too few was on the cable needle",
    "ridge-missed": "A ridge is missing, or is where none should be",
    "knit-for-purl": "A stitch was knitted for purled, or purled for knitted",
    "stitch-lost": "A stitch has gone: two were worked together",
    "stitch-gained": "There is a stitch too many",
    "dropped": "A stitch was dropped and has run down",
    "increase-forgotten": "An increase was forgotten",
}
ANSWER_NAMES = {
    "leave": "Leave it",
    "drop": "Let these columns down",
    "duplicate": "Embroider over it later",
    "unknit": "Unknit back to it",
    "rip": "Rip back",
    "lifeline": "Rip to the lifeline",
}
UNDO, RIP, PICK_UP, FROM_LIFELINE, LADDER, EMBROIDER = 1.0, 0.05, 2.0, 1.0, 3.0, 8.0
"""Our choice, in times that a stitch takes: to unknit a loop, to rip it, to catch it on the needle bare or off a
lifeline, to work it up a ladder with a hook, to embroider over it."""
CROSS_SECONDS = 40.0
"""Our choice: to lay the strands of a crossing over each other on the way up a ladder."""


@dataclass(frozen=True, kw_only=True)
class Way:
    """An answer in words: what to do, its loops, its minutes at the knitter's pace, and its risk."""

    answer: WayOut
    name: str
    minutes: float
    time: str
    text: str


def minutes_of(answer: WayOut, stitch_seconds: float) -> float:
    """How long a way takes."""
    n, needle = answer.loops, answer.needle
    work = {
        "leave": 0.0,
        "drop": n * (RIP + LADDER) + answer.crossings * CROSS_SECONDS / stitch_seconds,
        "duplicate": n * EMBROIDER,
        "unknit": n * (UNDO + 1.0),
        "rip": n * (RIP + 1.0) + needle * PICK_UP,
        "lifeline": n * (RIP + 1.0) + needle * FROM_LIFELINE,
    }[answer.kind]
    return work * stitch_seconds / 60.0


def ways_out(
    pattern: WorkedPattern, mistake: Mistake, lifelines: Sequence[int], *, stitch_seconds: float = COMMON_SECONDS
) -> tuple[Way, ...]:
    """Every way, as a good teacher would tell it. Raises UnlikelyMistake."""
    what = pattern.piece.row_word
    out = []
    for answer in find_ways_out(pattern, mistake, lifelines):
        minutes = minutes_of(answer, stitch_seconds)
        out.append(
            Way(
                answer=answer,
                name=ANSWER_NAMES[answer.kind],
                minutes=minutes,
                time=time_text(minutes),
                text=_told(pattern, mistake, answer, what=what),
            )
        )
    return tuple(out)


def _told(pattern: WorkedPattern, mistake: Mistake, answer: WayOut, *, what: str) -> str:
    if not answer.possible:
        return answer.reason
    part = pattern.row(mistake.row).parts[mistake.segment]
    first, last = answer.columns
    columns = f"stitches {first} to {last}" if last > first else f"stitch {first}"
    rows = f"{answer.rows} {what}s deep" if answer.rows > 1 else f"one {what} deep"
    match answer.kind:
        case "leave":
            return _left(pattern, mistake, part.name, what=what)
        case "drop" if mistake.kind == "dropped" and first == last:
            bars = f"{answer.loops} bar{'s' if answer.loops != 1 else ''}"
            return (
                f"Catch its loop in {what} {mistake.row} with a hook and work it up the ladder as it appears: {bars}."
            )
        case "drop":
            again = f", with {answer.crossings} crossings on the way up" if answer.crossings > 1 else ""
            again = ", with its crossing on the way up" if answer.crossings == 1 else again
            return (
                f"Work to there, let {columns} (from the right) down, {rows}, and work them up again with a hook or "
                f"two needles as the chart shows{again}. Keep each bar in its order; put a marker on both sides first."
            )
        case "duplicate":
            return (
                f"Go on as if nothing had been. When the piece is done, embroider the strand over it in duplicate "
                f"stitch: about {answer.loops} stitch{'es' if answer.loops > 1 else ''}. From behind it still shows."
            )
        case "unknit":
            return f"Take the stitches back one by one, to where it lies in {what} {mistake.row}; no stitch is bare."
        case "rip":
            to = f"to {what} {answer.to_row}" if answer.to_row else "to the cast-on"
            return (
                f"Take the needle out, rip {to}, and catch {answer.needle} stitches; use a thinner needle to catch "
                "them, and slip a crossing's strands as they lie."
            )
    return f"Rip to the lifeline after {what} {answer.to_row}: its {answer.needle} stitches cannot run."


def _left(pattern: WorkedPattern, mistake: Mistake, name: str, *, what: str) -> str:
    """What leaving it means for what comes after."""
    if mistake.kind in ("stitch-lost", "increase-forgotten"):
        return f"In {what} {mistake.seen_at + 1} make one stitch there; the {what}s here say so. Hardly anyone sees it."
    if mistake.kind == "stitch-gained":
        return f"In {what} {mistake.seen_at + 1} work two together there; the {what}s here say so."
    crossed = [
        r.number
        for r in pattern.rows
        if mistake.segment < len(r.parts)
        and r.parts[mistake.segment] in r.crossing_parts
        and r.parts[mistake.segment].name == name
    ]
    after = next((n for n in crossed if n > mistake.row), 0)
    before = next((n for n in reversed(crossed) if n < mistake.row), 0)
    if mistake.kind == "crossing-missed" and after and before:
        return (
            f"{name} then runs straight from {what} {before} to {what} {after}. Nothing later depends on it: go on as "
            "the chart says."
        )
    if mistake.kind == "crossing-early" and after:
        return (
            f"It is not crossed again in {what} {after}; from then on the chart holds. Both distances differ a little."
        )
    if mistake.kind in ("wrong-lean", "wrong-group", "crossing-missed"):
        nxt = f" the next crossing is in {what} {after}, as charted" if after else " no crossing follows"
        return f"Nothing later depends on it:{nxt}. Look at it from where others will see it."
    return (
        "Nothing later depends on it; it is a matter of looks. Small gifts forgive; what must match another does not."
    )


@lru_cache(maxsize=32)
def mistake_picture(piece: Piece, mistake: Mistake, yarn: Yarn, *, left: bool) -> str:
    """The cloth around a mistake in relief, with it or as it should be; empty where it cannot be laid out."""
    pattern = compile_piece(piece)
    cloth = altered_pattern(pattern, [mistake]) if left else pattern
    return cloth_around(cloth, cloth.row(mistake.row), mistake.segment, yarn=yarn)


def rework_chart(pattern: WorkedPattern, mistake: Mistake, answer: WayOut) -> str:
    """The small chart of what is worked up again: these columns, from the row of the mistake."""
    if not answer.possible or answer.kind != "drop":
        return ""
    first, last = answer.columns[0] - 1, answer.columns[1]
    family = pattern.row(mistake.row).parts[mistake.segment].family
    lines = []
    for row in pattern.rows[mistake.row - 1 : mistake.seen_at]:
        line, _ = windowed(line_of(row), first, last)
        ops = tuple(op for part in line.parts for op in part.ops)
        lines.append(ChartLine(row.number, row.side, (ChartPart("", family, ops),)))
    return chart_svg(lines, f"Chart of the columns to work again, {len(lines)} rows")


# what is kept, and what commands say


def mistake_text(mistake: Mistake) -> str:
    """A mistake as an event keeps it."""
    return json.dumps(vars(mistake))


def kept_mistake(event: StoredEvent) -> Mistake | None:
    """The mistake of an event; None where it cannot be read."""
    try:
        known = json.loads(event.text)
        kind = next(kind for kind in MISTAKES if kind == known["kind"])
        return Mistake(
            kind=kind,
            row=event.row,
            segment=int(known["segment"]),
            seen_at=int(known["seen_at"]),
            stitch=int(known["stitch"]),
        )
    except (ValueError, KeyError, TypeError, StopIteration):
        return None


def mend_report(text: str, piece: str, mistake: Mistake, *, lifelines: Sequence[int] = ()) -> MendingWays:
    """The ways out of a mistake in a piece of a project file, for a program. Raises UnlikelyMistake."""
    pattern = compile_piece(read_at_piece(text, piece).piece())
    ways = ways_out(pattern, mistake, lifelines)
    return MendingWays(
        row=mistake.row,
        section=pattern.row(mistake.row).parts[mistake.segment].name,
        answers=tuple(
            MendingWay(
                kind=way.answer.kind,
                possible=way.answer.possible,
                loops=way.answer.loops,
                minutes=round(way.minutes, 1),
                risk=way.answer.risk,
                rows=way.answer.rows,
                columns=way.answer.columns if way.answer.columns[1] else None,
                needle=way.answer.needle,
                text=way.text,
            )
            for way in ways
        ),
    )


def mend_sentences(report: MendingWays) -> list[str]:
    """The same in words."""
    out = [f"{report.section}, row {report.row}:"]
    for way in report.answers:
        many = f"{way.loops} loop{'s' if way.loops > 1 else ''}"
        cost = f" ({many}, about {time_text(way.minutes)})" if way.loops else ""
        name = ANSWER_NAMES[way.kind]
        out.append(f"  {name}{cost}: {way.text}" if way.possible else f"  {name}: no. {way.text}")
    return out


def checked_kind(text: str) -> MistakeKind:
    """A kind of mistake by its name. Raises CabluxError."""
    found = next((kind for kind in MISTAKES if kind == text), None)
    if found is None:
        raise CabluxError(f"“{text}” is no mistake that is known here; these are: {', '.join(MISTAKES)}.")
    return found
