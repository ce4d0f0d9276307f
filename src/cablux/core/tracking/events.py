"""Progress as an append-only list of events; the state is their fold, and nothing is ever overwritten."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Literal, get_args

EventKind = Literal[
    "row done",
    "undo",
    "jump",
    "lifeline",
    "note",
    "mistake",
    "mended",
    "measured",
    "weighed",
    "pause",
    "taken back",
]
EVENT_KINDS: tuple[EventKind, ...] = get_args(EventKind)
COUNTED: tuple[EventKind, ...] = ("row done", "undo", "jump")
"""What moves the tally."""
TAPPED: tuple[EventKind, ...] = ("row done", "undo")
"""What is put right by going back a row, and not by being taken back."""


@dataclass(frozen=True, kw_only=True)
class Event:
    """What happened at a row: it was finished, the last one taken back, or found to be the last that is done; a
    lifeline was drawn through it, something was noted, measured or weighed after it, work was laid aside; a mistake
    lies in it.

    `id` tells it from others, `at` when it was. `of`: the mistake that was mended, or the event that is taken back.
    """

    kind: EventKind
    row: int
    id: int = 0
    of: int = 0
    at: datetime | None = None


@dataclass(frozen=True)
class Progress:
    """Rows done so far, the rows through which a lifeline lies, and the mistakes that are left in the cloth, by id."""

    done: int = 0
    lifelines: tuple[int, ...] = ()
    mistakes: tuple[int, ...] = ()


def fold_events(events: Iterable[Event]) -> Progress:
    """The state after the events in order.

    An event counts only if it fits the state it met: row n is done when n − 1 were, and only the last done
    row can be taken back. So a tap that was sent twice counts once. What lies in ripped rows is gone with them.
    """
    events = list(events)
    ignored = {event.of for event in events if event.kind == "taken back"}
    done, lifelines, mistakes = 0, set[int](), dict[int, int]()
    for event in events:
        if event.id and event.id in ignored and event.kind not in TAPPED:
            continue
        match event.kind:
            case "row done" if event.row == done + 1:
                done += 1
            case "undo" if event.row == done > 0:
                done -= 1
            case "jump" if event.row >= 0:
                done = event.row
            case "lifeline" if event.row <= done:
                lifelines.add(event.row)
            case "mistake" if event.row <= done:
                mistakes[event.id] = event.row
            case "mended":
                mistakes.pop(event.of, None)
        if event.kind in COUNTED:
            lifelines = {row for row in lifelines if row <= done}
            mistakes = {at: row for at, row in mistakes.items() if row <= done}
    return Progress(done, tuple(sorted(lifelines)), tuple(mistakes))
