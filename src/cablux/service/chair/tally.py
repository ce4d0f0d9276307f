"""Company at the chair: the row to work now, and the tally of rows done."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from ...core.mistakes import Mistake, left_in
from ...core.pattern import compile_piece
from ...core.pattern.compiler import WorkedPattern as WorkedPattern
from ...core.tracking import EVENT_KINDS, Event, EventKind, Progress, fold_events, pace_of
from ...store import repository
from ...store.database import Database
from ...store.repository import EventFacts, StoredEvent
from ..answers import ProjectTotals
from ..documents import time_now
from ..errors import NotFound, TooEarly
from ..projects import Project
from .mistakes import kept_mistake
from .now import RowNow, row_after
from .row import ChairLook
from .totals import add_up


@dataclass(frozen=True, kw_only=True)
class Tally:
    """How far one copy of a piece is; `project` is open at the piece."""

    project: Project
    which: int
    done: int
    total: int

    @property
    def row(self) -> int:
        """The row to work next; the last where it is done."""
        return min(self.done + 1, self.total)


def next_up(tallies: Sequence[Tally]) -> Tally:
    """What to go on with: what is begun and not finished, else the first that is not begun, else the last."""
    open_ = [t for t in tallies if t.done < t.total]
    return next((t for t in open_ if t.done), open_[0] if open_ else tallies[-1])


@dataclass(frozen=True)
class Knitted:
    """How far every copy of every piece of a project is; `last` is when anything was last told of it (UTC)."""

    tallies: tuple[Tally, ...]
    last: datetime | None


class Chair:
    """The tally of one database's projects."""

    def __init__(self, database: Database) -> None:
        self.database = database

    def state(self, project: Project, copy: int = 1) -> Progress:
        """How far a copy of the piece is."""
        return fold_events(map(event_of, self.events(project, copy)))

    def events(self, project: Project, copy: int = 1) -> list[StoredEvent]:
        """All that happened to a copy of the piece."""
        with self.database.reading() as session:
            return _mine(repository.load_events(session, project.id), project, copy)

    def tallies(self, project: Project) -> tuple[Tally, ...]:
        """How far every copy of every piece of a project is."""
        with self.database.reading() as session:
            return _tallies(project, repository.load_events(session, project.id))

    def totals(self, project: Project) -> ProjectTotals:
        """What the whole project comes to, and how much of it is done."""
        with self.database.reading() as session:
            stored = repository.load_events(session, project.id)
        copies = []
        for piece in project.pieces():
            rows = compile_piece(piece.piece).rows
            for copy in range(1, piece.file.own.copies + 1):
                own = [*map(event_of, _mine(stored, piece, copy))]
                copies.append((rows, fold_events(own).done, own))
        return add_up(copies)

    def knitted(self, projects: Iterable[Project]) -> list[Knitted]:
        """How far each of the projects is, and when it was last knitted at."""
        with self.database.reading() as session:
            events = repository.load_every_event(session)
        own = ((project, events.get(project.id, ())) for project in projects)
        return [Knitted(_tallies(project, mine), max((e.at for e in mine), default=None)) for project, mine in own]

    def as_far(self, project: Project, done: int) -> tuple[int, ...]:
        """The copies of the piece of which so many rows are done."""
        copies = range(1, project.file.own.copies + 1)
        return tuple(copy for copy in copies if self.state(project, copy).done == done)

    def row_done(self, project: Project, row: int, copy: int = 1, *, tap: str = "", after: str = "") -> None:
        """Ticks off row `row`; a tap that comes twice counts once.

        `tap` is the name that a phone gave it, `after` that of the one before: where that has not arrived, raises
        TooEarly, so that it is sent again in its turn.
        """
        total = len(compile_piece(project.piece).rows)
        if not 1 <= row <= total:
            raise NotFound(f"This piece has rows 1 to {total}; there is no row {row}.")
        self._count(project, "row done", row, copy=copy, tap=tap, after=after)

    def catch_up(self, project: Project, row: int, copy: int = 1, *, minutes: float = 0.0) -> None:
        """Ticks off all rows up to `row` at once, for a piece begun elsewhere, each so many minutes after the other."""
        own, now = project.file.own.number, time_now()
        with self.database.writing() as session:
            found = _mine(repository.load_events(session, project.id), project, copy)
            for n in range(fold_events(map(event_of, found)).done + 1, row + 1):
                at = now - timedelta(minutes=minutes * (row - n))
                repository.add_event(session, project.id, "row done", row=n, now=at, piece=own, copy=copy)

    def undo(self, project: Project, row: int, copy: int = 1, *, tap: str = "", after: str = "") -> None:
        """Takes row `row` back if it is the last one done."""
        self._count(project, "undo", row, copy=copy, tap=tap, after=after)

    def jump(self, project: Project, row: int, copy: int = 1) -> None:
        """Goes on after row `row`, wherever the tally was; 0 is the cast-on."""
        total = len(compile_piece(project.piece).rows)
        if not 0 <= row <= total:
            raise NotFound(f"This piece has rows 1 to {total}; there is no row {row}.")
        self._count(project, "jump", row, copy=copy, tap="", after="")

    def _count(self, project: Project, kind: EventKind, row: int, *, copy: int, tap: str, after: str) -> None:
        check_copy(project, copy)
        own = project.file.own.number
        with self.database.writing() as session:
            stored = repository.load_events(session, project.id)
            taps = {event.tap for event in stored if event.tap}
            if tap in taps:
                return
            if after and after not in taps:
                raise TooEarly("A tap that was made before this one has not arrived yet.")
            done = list(map(event_of, _mine(stored, project, copy)))
            if tap or fold_events([*done, Event(kind=kind, row=row)]) != fold_events(done):
                facts = EventFacts(tap=tap or None)
                repository.add_event(
                    session, project.id, kind, row=row, now=time_now(), piece=own, copy=copy, facts=facts
                )

    def now(self, project: Project, copy: int = 1, look: ChairLook = ChairLook()) -> RowNow:  # noqa: B008
        """The row at hand of a copy of the piece."""
        events = self.events(project, copy)
        own = [*map(event_of, events)]
        progress = fold_events(own)
        cloth = left_in(compile_piece(project.piece), left_mistakes(events, progress))
        now = row_after(cloth, progress, copy, look=look, pace=pace_of(cloth.rows, own, progress.done))
        return replace(now, last_tap=next((e.tap for e in reversed(events) if e.tap), ""))

    def left(self, project: Project, copy: int = 1) -> tuple[Mistake, ...]:
        """The mistakes that are left in a copy of the piece."""
        events = self.events(project, copy)
        return tuple(left_mistakes(events, fold_events(map(event_of, events))))

    def cloth(self, project: Project, copy: int = 1) -> WorkedPattern:
        """The rows of a copy of the piece as they are, with the mistakes that were left in them."""
        return left_in(compile_piece(project.piece), self.left(project, copy))


def _tallies(project: Project, events: Sequence[StoredEvent]) -> tuple[Tally, ...]:
    each, out = dict[tuple[int, int], list[Event]](), list[Tally]()
    for event in events:
        each.setdefault((event.piece, event.copy), []).append(event_of(event))
    for mine in project.pieces():
        own, total = mine.file.own, mine.numbers.rows.total
        for which in range(1, own.copies + 1):
            done = fold_events(each.get((own.number, which), ())).done
            out.append(Tally(project=mine, which=which, done=min(done, total), total=total))
    return tuple(out)


def left_mistakes(events: Sequence[StoredEvent], progress: Progress) -> list[Mistake]:
    """The mistakes that are left in the cloth, in the order in which they were told."""
    found = (kept_mistake(event) for event in events if event.id in progress.mistakes)
    return [mistake for mistake in found if mistake is not None]


def check_copy(project: Project, copy: int) -> None:
    """Raises NotFound where the piece is not worked so often."""
    if not 1 <= copy <= project.file.own.copies:
        raise NotFound(f"{project.piece_name} is worked {project.file.own.copies} times; there is no copy {copy}.")


def _mine(found: Sequence[StoredEvent], project: Project, copy: int) -> list[StoredEvent]:
    """What happened to one copy of the piece, of all that happened to its project."""
    own = project.file.own.number
    return [e for e in found if e.piece == own and e.copy == copy]


def event_of(stored: StoredEvent) -> Event:
    """A stored event as the core folds it; one of a kind that is not known here is a note."""
    kind: EventKind = next((kind for kind in EVENT_KINDS if kind == stored.kind), "note")
    return Event(kind=kind, row=stored.row, id=stored.id, of=stored.of, at=stored.at)
