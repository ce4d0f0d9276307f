"""Where the knitter is: events folded to a state, and the rows that fit what the cloth shows."""

from .events import COUNTED, KINDS, Event, EventKind, Progress, fold_events
from .whereabouts import LEANS, Leans, Panel, Shown, Sighting, Whereabouts, whereabouts

__all__ = [
    "COUNTED",
    "KINDS",
    "LEANS",
    "Event",
    "EventKind",
    "Leans",
    "Panel",
    "Progress",
    "Shown",
    "Sighting",
    "Whereabouts",
    "fold_events",
    "whereabouts",
]
