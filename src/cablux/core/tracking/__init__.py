"""Where the knitter is: events folded to a state."""

from .events import Event, EventKind, Progress, fold_events

__all__ = ["Event", "EventKind", "Progress", "fold_events"]
