"""Where the knitter is: events folded to a state, and the rows that fit what the cloth shows."""

from .events import COUNTED, KINDS, TAPPED, Event, EventKind, Progress, fold_events
from .whereabouts import BORDER, LEANS, Counted, Leans, Panel, Shown, Sighting, Whereabouts, whereabouts

__all__ = [
    "BORDER",
    "COUNTED",
    "KINDS",
    "LEANS",
    "TAPPED",
    "Counted",
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
