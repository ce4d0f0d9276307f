"""Where the knitter is: events folded to a state, and the rows that fit what the cloth shows."""

from .events import COUNTED, KINDS, TAPPED, Event, EventKind, Progress, fold_events
from .whereabouts import BORDER, LEANS, Leans, Panel, Question, Shown, Sighting, Whereabouts, whereabouts

__all__ = [
    "BORDER",
    "COUNTED",
    "KINDS",
    "LEANS",
    "TAPPED",
    "Event",
    "EventKind",
    "Leans",
    "Panel",
    "Progress",
    "Question",
    "Shown",
    "Sighting",
    "Whereabouts",
    "fold_events",
    "whereabouts",
]
