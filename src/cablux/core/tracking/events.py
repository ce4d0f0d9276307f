"""Progress as an append-only list of events; the state is their fold, and nothing is ever overwritten."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

EventKind = Literal["row done", "undo", "jump"]


@dataclass(frozen=True)
class Event:
    """What happened: a row was finished, the last one taken back, or `row` was found to be the last that is done."""

    kind: EventKind
    row: int


@dataclass(frozen=True)
class Progress:
    """Rows done so far."""

    done: int = 0


def fold_events(events: Iterable[Event]) -> Progress:
    """The state after the events in order.

    An event counts only if it fits the state it met: row n is done when n − 1 were, and only the last done
    row can be taken back. So a tap that was sent twice counts once.
    """
    done = 0
    for event in events:
        if event.kind == "row done" and event.row == done + 1:
            done += 1
        elif event.kind == "undo" and event.row == done and done > 0:
            done -= 1
        elif event.kind == "jump" and event.row >= 0:
            done = event.row
    return Progress(done)
