"""The knitter's pace: the time that a row takes her, learnt from what she ticked off, pauses left out."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from statistics import median

from ..pattern import WorkedRow
from .events import Event

FEWEST_ROWS = 5
"""Our choice: of fewer rows than that no pace is told."""
PAUSE = 3.0
"""Our choice: a row that took more than three times as long as most, for its stitches, had a pause in it."""
LEAST_SECONDS = 5.0
"""Our choice: what is tapped faster than that was knitted elsewhere and is only entered."""
COMMON_SECONDS = 2.0
"""Common practice: 25 to 35 stitches a minute; cables and turning taken in, about two seconds each."""


@dataclass(frozen=True, kw_only=True)
class Pace:
    """Seconds a stitch, by how many rows that is known, and how long the row at hand and all that are left take."""

    stitch_seconds: float
    rows: int
    row_minutes: float
    left_minutes: float


def row_times(events: Iterable[Event]) -> list[tuple[int, float]]:
    """Rows with the seconds since the event before, where both are rows that were ticked off one after the other."""
    out: list[tuple[int, float]] = []
    last: Event | None = None
    for event in events:
        if event.kind != "row done" or event.at is None:
            last = None
            continue
        if last is not None and last.at is not None and last.row == event.row - 1:
            out.append((event.row, (event.at - last.at).total_seconds()))
        last = event
    return out


def stitch_times(rows: Sequence[WorkedRow], events: Iterable[Event]) -> list[float]:
    """Seconds a stitch of each row of a piece that was ticked off in its turn and not only entered."""
    return [
        seconds / rows[number - 1].after
        for number, seconds in row_times(events)
        if number <= len(rows) and rows[number - 1].after and seconds >= LEAST_SECONDS
    ]


def learnt_seconds(times: Sequence[float]) -> tuple[float, int] | None:
    """The median seconds a stitch without pauses, and of how many rows; None where too few are known."""
    if len(times) < FEWEST_ROWS:
        return None
    usual = median(times)
    kept = [seconds for seconds in times if seconds <= PAUSE * usual]
    return median(kept), len(kept)


def pace_of(rows: Sequence[WorkedRow], events: Sequence[Event], done: int) -> Pace | None:
    """Her pace on a piece of which so many rows are done; None where too few rows tell it."""
    found = learnt_seconds(stitch_times(rows, events))
    if found is None:
        return None
    seconds, many = found
    left = rows[min(done, len(rows)) :]
    here = left[0].after if left else rows[-1].after
    return Pace(
        stitch_seconds=seconds,
        rows=many,
        row_minutes=seconds * here / 60.0,
        left_minutes=seconds * sum(row.after for row in left) / 60.0,
    )


def time_text(minutes: float) -> str:
    """`40 seconds`, `6 minutes`, `3 h 40 min`."""
    if minutes < 1.0:
        return f"{max(5, 5 * round(minutes * 12))} seconds"
    if minutes < 90.0:
        return f"{round(minutes)} minute{'s' if round(minutes) != 1 else ''}"
    hours, rest = divmod(round(minutes / 10.0) * 10, 60)
    return f"{hours} h {rest} min" if rest and hours < 10 else f"{hours + (rest >= 30)} h"
