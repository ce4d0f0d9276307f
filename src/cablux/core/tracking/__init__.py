"""Where the knitter is: events folded to a state, and the rows that fit what the cloth shows."""

from .events import COUNTED, EVENT_KINDS, TAPPED, Event, EventKind, Progress, fold_events
from .lost_place import BORDER, SEEN_LEANS, Leans, Panel, PanelSights, Question, Shown, Sighting, panel_sights

__all__ = [
    "BORDER",
    "COUNTED",
    "EVENT_KINDS",
    "SEEN_LEANS",
    "TAPPED",
    "Event",
    "EventKind",
    "Leans",
    "Panel",
    "PanelSights",
    "Progress",
    "Question",
    "Shown",
    "Sighting",
    "fold_events",
    "panel_sights",
]
