"""A plan of days: which rows on which day, at the knitter's pace, as a calendar that other programs read."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from ...core.pattern import compile_piece
from ...core.tracking import COMMON_SECONDS
from ..errors import InvalidForm
from ..projects import Project
from .tally import Chair

LEAST_MINUTES, MOST_MINUTES = 5.0, 720.0
MOST_DAYS = 1000  # our choice: nobody plans further, and a calendar of more days is slow to read


@dataclass(frozen=True, kw_only=True)
class Day:
    """A day's rows: the first and the last, and how long they will take."""

    day: date
    first: int
    last: int
    minutes: float


def planned_days(
    project: Project, done: int, minutes: float, *, start: date, stitch_seconds: float = COMMON_SECONDS
) -> tuple[Day, ...]:
    """The rows that are left, so many minutes a day, each day at least a row. Raises InvalidForm."""
    if not LEAST_MINUTES <= minutes <= MOST_MINUTES:
        sentence = f"Type the minutes that you knit on a day, from {LEAST_MINUTES:g} to {MOST_MINUTES:g}."
        raise InvalidForm({"minutes": sentence})
    days = tuple(_days(project, done, minutes, start=start, seconds=stitch_seconds))
    if len(days) > MOST_DAYS:
        raise InvalidForm({"minutes": f"That would be {len(days)} days; plan for more minutes a day."})
    return days


def _days(project: Project, done: int, minutes: float, *, start: date, seconds: float) -> Iterator[Day]:
    rows, first, spent, day = compile_piece(project.piece).rows, done + 1, 0.0, start
    for row in rows[done:]:
        own = row.after * seconds / 60.0
        if spent and spent + own > minutes:
            yield Day(day=day, first=first, last=row.number - 1, minutes=spent)
            first, spent, day = row.number, 0.0, day + timedelta(days=1)
        spent += own
    if first <= len(rows):
        yield Day(day=day, first=first, last=len(rows), minutes=spent)


def plan_calendar(chair: Chair, project: Project, copy: int, *, minutes: float, start: date) -> bytes:
    """The plan as iCalendar (RFC 5545): an event of the whole day for each. Raises InvalidForm."""
    from icalendar import Calendar, Event  # here: it takes a tenth of a second, and only this wants it

    now = chair.now(project, copy)
    seconds = now.pace.stitch_seconds if now.pace else COMMON_SECONDS
    what, name = project.piece.row_word, project.name
    if project.several:
        name += f", {project.piece_name}" + (f" {copy}" if project.file.own.copies > 1 else "")
    calendar = Calendar()
    calendar.add("prodid", "-//Cablux//Plan of days//EN")
    calendar.add("version", "2.0")
    for day in planned_days(project, now.done, minutes, start=start, stitch_seconds=seconds):
        event = Event()
        rows = f"{what}s {day.first}–{day.last}" if day.last > day.first else f"{what} {day.first}"
        event.add("summary", f"{name}: {rows}")
        event.add("description", f"About {day.minutes:.0f} minutes. Rest your hands every half hour.")
        event.add("dtstart", day.day)
        event.add("dtend", day.day + timedelta(days=1))
        event.add("dtstamp", datetime.now(UTC))
        event.add("uid", f"project-{project.id}-{project.file.own.number}-{copy}-row-{day.first}@cablux")
        calendar.add_component(event)
    return bytes(calendar.to_ical())
