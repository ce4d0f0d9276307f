"""Company at the chair: the row to work now, the tally, a lost place, mistakes, the journal, a plan of days."""

from .day_plan import plan_calendar
from .journal import (
    NOTE_NAMES,
    Noted,
    add_note,
    journal_entries,
    leave_mistake,
    mend_mistake,
    mended_later,
    take_back,
    value_in_mm,
)
from .lost_place import find_place, place_report, place_sentences
from .mistakes import (
    ANSWER_NAMES,
    KIND_NAMES,
    Way,
    checked_kind,
    mend_report,
    mend_sentences,
    mistake_picture,
    rework_chart,
    ways_out,
)
from .now import RowNow, chair_answer, row_after, row_report, row_sentences
from .row import CABLE_WAYS, CableWay, ChairLook, TextSize
from .tally import Chair, Tally, next_up

__all__ = [
    "ANSWER_NAMES",
    "CABLE_WAYS",
    "KIND_NAMES",
    "NOTE_NAMES",
    "CableWay",
    "Chair",
    "ChairLook",
    "Noted",
    "RowNow",
    "Tally",
    "TextSize",
    "Way",
    "add_note",
    "chair_answer",
    "checked_kind",
    "find_place",
    "journal_entries",
    "leave_mistake",
    "mend_mistake",
    "mend_report",
    "mend_sentences",
    "mended_later",
    "mistake_picture",
    "next_up",
    "place_report",
    "place_sentences",
    "plan_calendar",
    "rework_chart",
    "row_after",
    "row_report",
    "row_sentences",
    "take_back",
    "value_in_mm",
    "ways_out",
]
