"""Where the knitter is: events folded to a state."""

from .events import Event, EventKind, State, fold

__all__ = ["Event", "EventKind", "State", "fold"]
