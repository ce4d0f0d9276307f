"""Where the knitter is: events folded to a state, and the rows that fit what the cloth shows."""

from .events import COUNTED, EVENT_KINDS, TAPPED, Event, EventKind, Progress, fold_events
from .lost_place import BORDER, SEEN_LEANS, Leans, Panel, PanelSights, Question, Shown, Sighting, panel_sights
from .pace import COMMON_SECONDS, Pace, learnt_seconds, pace_of, row_times, stitch_times, time_text

__all__ = [
    "BORDER",
    "COMMON_SECONDS",
    "COUNTED",
    "EVENT_KINDS",
    "SEEN_LEANS",
    "TAPPED",
    "Event",
    "EventKind",
    "Leans",
    "Pace",
    "Panel",
    "PanelSights",
    "Progress",
    "Question",
    "Shown",
    "Sighting",
    "fold_events",
    "learnt_seconds",
    "pace_of",
    "panel_sights",
    "row_times",
    "stitch_times",
    "time_text",
]
