"""The journal of a piece: lifelines, notes with photos, weights, measures, pauses and mistakes beside its rows."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from ...core.mistakes import Mistake
from ...core.tracking import COUNTED, TAPPED, EventKind, fold_events
from ...core.units import Unit, length_text, to_mm
from ...store import repository
from ...store.repository import EventFacts, StoredEvent
from ..documents import time_now
from ..errors import InvalidForm, NotFound
from ..projects import Project
from ..swatches import cleaned_photo
from .mistakes import KIND_NAMES, kept_mistake, mistake_text
from .tally import Chair, check_copy, event_of

MOST_TEXT = 1000
Noted = Literal["lifeline", "note", "measured", "weighed", "pause"]
NOTE_NAMES: dict[Noted, str] = {
    "note": "Note",
    "lifeline": "Lifeline",
    "weighed": "Weighed",
    "measured": "Measured",
    "pause": "Laid aside",
}


@dataclass(frozen=True, kw_only=True)
class Entry:
    """A line of the journal: when it happened, at which row, what, in words; `id` where it can be taken back.

    `left`: it is a mistake that is in the cloth still.
    """

    at: datetime
    row: int
    title: str
    text: str
    photo: str = ""
    id: int = 0
    left: bool = False


def add_note(
    chair: Chair, project: Project, kind: Noted, *, copy: int, text: str = "", value: float = 0.0, photo: bytes = b""
) -> None:
    """Notes something after the last row that is done. Raises InvalidForm or InvalidText; nothing is then kept."""
    check_copy(project, copy)
    text = text.strip()
    if len(text) > MOST_TEXT:
        raise InvalidForm({"text": f"A note has up to {MOST_TEXT} characters, not {len(text)}; make it two."})
    if kind == "note" and not text and not photo:
        raise InvalidForm({"text": "Type what to keep in mind, or choose a photo."})
    if kind in ("weighed", "measured") and not 0.0 < value <= 100_000.0:
        what = "the grams that the scales show" if kind == "weighed" else "how long it is from the cast-on"
        raise InvalidForm({"value": f"Type {what}, more than 0."})
    cleaned = cleaned_photo(photo) if photo else None
    own = project.file.own.number
    done = chair.state(project, copy).done
    with chair.database.writing() as session:
        if cleaned:
            repository.keep_photo(session, *cleaned)
        facts = EventFacts(text=text, value=value, photo=cleaned[0] if cleaned else None)
        repository.add_event(session, project.id, kind, row=done, now=time_now(), piece=own, copy=copy, facts=facts)


def leave_mistake(chair: Chair, project: Project, mistake: Mistake, *, copy: int) -> None:
    """Keeps a mistake as one that is left in the cloth, from which the rows to come follow."""
    _keep(chair, project, "mistake", row=mistake.row, copy=copy, facts=EventFacts(text=mistake_text(mistake)))


def mend_mistake(chair: Chair, project: Project, mistake: Mistake, *, copy: int, how: str) -> None:
    """Keeps that a mistake was mended where it lay."""
    _keep(
        chair,
        project,
        "mended",
        row=mistake.row,
        copy=copy,
        facts=EventFacts(text=f"{KIND_NAMES[mistake.kind]}: {how}"),
    )


def mended_later(chair: Chair, project: Project, event: int, *, copy: int) -> None:
    """Keeps that a mistake that had been left is mended now. Raises NotFound where it is not there."""
    found = next((e for e in chair.events(project, copy) if e.id == event and e.kind == "mistake"), None)
    if found is None:
        raise NotFound("There is no such mistake in this piece.")
    _keep(chair, project, "mended", row=found.row, copy=copy, facts=EventFacts(of=event))


def take_back(chair: Chair, project: Project, event: int, *, copy: int) -> None:
    """Takes an entry back; it stays in the list of events, and counts no more. Raises NotFound."""
    events = chair.events(project, copy)
    found = next((e for e in events if e.id == event), None)
    if found is None or found.kind in TAPPED:
        raise NotFound("This entry cannot be undone here; rows are undone with “Back”.")
    if found.kind == "jump" and found.id != last_counted(events):
        raise NotFound("Rows were ticked off since: undo those with “Back” first.")
    _keep(chair, project, "taken back", row=found.row, copy=copy, facts=EventFacts(of=event))


def last_counted(events: list[StoredEvent]) -> int:
    """The last event that moved the tally, those that were taken back left out; 0 where there is none."""
    gone = {e.of for e in events if e.kind == "taken back"}
    return max((e.id for e in events if e.kind in COUNTED and e.id not in gone), default=0)


def _keep(chair: Chair, project: Project, kind: EventKind, *, row: int, copy: int, facts: EventFacts) -> None:
    check_copy(project, copy)
    own = project.file.own.number
    with chair.database.writing() as session:
        repository.add_event(session, project.id, kind, row=row, now=time_now(), piece=own, copy=copy, facts=facts)


def journal_entries(chair: Chair, project: Project, copy: int = 1) -> tuple[Entry, ...]:
    """Everything that happened to a copy of the piece, the last first; rows that followed each other are one line."""
    events = chair.events(project, copy)
    progress = fold_events(map(event_of, events))
    gone = {e.of for e in events if e.kind == "taken back"} | {e.id for e in events if e.kind == "taken back"}
    kept = [e for e in events if e.id not in gone]
    return tuple(_entries(kept, project, progress.mistakes, last=last_counted(events)))[::-1]


def _entries(events: list[StoredEvent], project: Project, left: tuple[int, ...], *, last: int) -> Iterator[Entry]:
    what, rows = project.piece.row_word, list[StoredEvent]()
    for event in events:
        if rows and (
            event.kind != "row done" or event.row != rows[-1].row + 1 or event.at.date() != rows[-1].at.date()
        ):
            yield _worked(rows, what)
            rows = []
        if event.kind == "row done":
            rows.append(event)
        else:
            yield _entry(event, project, left, last=last)
    if rows:
        yield _worked(rows, what)


def _worked(rows: list[StoredEvent], what: str) -> Entry:
    many = f"{what}s {rows[0].row}–{rows[-1].row}" if len(rows) > 1 else f"{what} {rows[0].row}"
    return Entry(at=rows[-1].at, row=rows[-1].row, title=many.capitalize(), text="")


def _entry(event: StoredEvent, project: Project, left: tuple[int, ...], *, last: int) -> Entry:
    what, photo = project.piece.row_word, event.photo or ""
    match event.kind:
        case "undo":
            return Entry(at=event.at, row=event.row, title=f"{what.capitalize()} {event.row} taken back", text="")
        case "jump":
            back = event.id if event.id == last else 0
            return Entry(at=event.at, row=event.row, title=f"On after {what} {event.row}", text="", id=back)
        case "mistake":
            mistake = kept_mistake(event)
            name = KIND_NAMES[mistake.kind] if mistake else "A mistake"
            return Entry(at=event.at, row=event.row, title="Left in", text=name, id=event.id, left=event.id in left)
        case "mended":
            return Entry(at=event.at, row=event.row, title="Mended", text=event.text, id=event.id)
        case "weighed":
            return Entry(
                at=event.at,
                row=event.row,
                title="Weighed",
                text=f"{event.value:g} g left. {event.text}".strip(),
                photo=photo,
                id=event.id,
            )
        case "measured":
            said = f"{length_text(event.value, project.unit)} long. {event.text}".strip()
            return Entry(at=event.at, row=event.row, title="Measured", text=said, photo=photo, id=event.id)
    title = {"lifeline": "Lifeline", "pause": "Laid aside"}.get(event.kind, "Note")
    return Entry(at=event.at, row=event.row, title=title, text=event.text, photo=photo, id=event.id)


def value_in_mm(kind: Noted, value: float, unit: Unit) -> float:
    """What was typed, as it is kept: lengths in millimetres, weights in grams."""
    return to_mm(value, unit) if kind == "measured" else value
