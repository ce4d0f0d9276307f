"""The totals of a project, from its pieces and from what was ticked off of each copy."""

from __future__ import annotations

from collections.abc import Sequence

from ...core.pattern import WorkedRow
from ...core.tracking import COMMON_SECONDS, Event, learnt_seconds, stitch_times
from ..answers import ProjectTotals


def add_up(copies: Sequence[tuple[Sequence[WorkedRow], int, Sequence[Event]]]) -> ProjectTotals:
    """The totals of copies, each with its rows, how many of them are done, and what happened to it."""
    stitches = sum(row.after for rows, _, _ in copies for row in rows)
    done = sum(row.after for rows, many, _ in copies for row in rows[:many])
    found = learnt_seconds([each for rows, _, events in copies for each in stitch_times(rows, events)])
    seconds, known = found or (COMMON_SECONDS, 0)
    return ProjectTotals(
        pieces=len(copies),
        rows=sum(len(rows) for rows, _, _ in copies),
        rows_done=sum(min(many, len(rows)) for rows, many, _ in copies),
        stitches=stitches,
        stitches_done=done,
        minutes_left=round(seconds * (stitches - done) / 60.0, 1),
        stitch_seconds=round(seconds, 2),
        learnt_rows=known,
    )
