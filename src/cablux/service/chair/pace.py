"""The knitter's pace: the time that a row takes her, learnt from her taps, pauses left out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from statistics import median

from ...core.pattern import compile_piece
from ...core.piece.piece import Piece
from ...store.models import EventRow

FEWEST = 5
"""Our choice: of fewer rows than that no pace is told."""
PAUSE = 3.0
"""Our choice: a row that took more than three times as long as most, for its stitches, had a pause in it."""
LEAST_SECONDS = 5.0
"""Our choice: what is tapped faster than that was knitted elsewhere and is only entered."""
COMMON_SECONDS = 2.0
"""Common practice: 25 to 35 stitches a minute; cables and turning taken in, about two seconds each."""


@dataclass(frozen=True, kw_only=True)
class Pace:
    """Seconds a stitch, by how many rows that is known, and how long the rows that are left will take."""

    stitch_seconds: float
    rows: int
    row_minutes: float
    left_minutes: float


def row_times(events: Sequence[EventRow]) -> list[tuple[int, float]]:
    """Rows with the seconds since the event before, where both are rows that were ticked off one after the other."""
    out: list[tuple[int, float]] = []
    last: tuple[int, datetime] | None = None
    for event in events:
        if event.kind == "row done" and last and last[0] == event.row - 1:
            out.append((event.row, (event.at - last[1]).total_seconds()))
        last = (event.row, event.at) if event.kind == "row done" else None
    return out


def learnt_seconds(piece: Piece, events: Sequence[EventRow]) -> tuple[float, int] | None:
    """The median seconds a stitch without pauses, and of how many rows; None where too few are known."""
    rows = compile_piece(piece).rows
    each = [
        seconds / rows[number - 1].after
        for number, seconds in row_times(events)
        if number <= len(rows) and rows[number - 1].after and seconds >= LEAST_SECONDS
    ]
    if len(each) < FEWEST:
        return None
    usual = median(each)
    kept = [s for s in each if s <= PAUSE * usual]
    return median(kept), len(kept)


def pace_of(piece: Piece, events: Sequence[EventRow]) -> Pace | None:
    """Her pace on this piece; None where too few rows tell it."""
    found = learnt_seconds(piece, events)
    if found is None:
        return None
    seconds, many = found
    rows = compile_piece(piece).rows
    done = max((e.row for e in events if e.kind == "row done"), default=0)
    left = rows[min(done, len(rows)) :]
    here = left[0].after if left else rows[-1].after
    return Pace(
        stitch_seconds=seconds,
        rows=many,
        row_minutes=seconds * here / 60.0,
        left_minutes=seconds * sum(r.after for r in left) / 60.0,
    )


def time_text(minutes: float) -> str:
    """`40 seconds`, `6 minutes`, `3 h 40 min`."""
    if minutes < 1.0:
        return f"{max(5, 5 * round(minutes * 12))} seconds"
    if minutes < 90.0:
        return f"{round(minutes)} minute{'s' if round(minutes) != 1 else ''}"
    hours, rest = divmod(round(minutes / 10.0) * 10, 60)
    return f"{hours} h {rest} min" if rest and hours < 10 else f"{hours + (rest >= 30)} h"
