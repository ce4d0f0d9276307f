"""Company at the chair: the row to work now, by section, and the tally of rows done."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from ..core.pattern import WorkedRow, compile_piece
from ..core.pattern.compiler import WorkedPattern as WorkedPattern
from ..core.pattern.words import held_in, part_text, plain_hint, short_rows_due
from ..core.tracking import Event, EventKind, Progress, fold_events
from ..store import repository
from ..store.database import Database
from ..store.models import EventRow
from .documents import time_now
from .errors import NotFound
from .projects import Project

KINDS: tuple[EventKind, ...] = ("undo", "jump", "row done")


@dataclass(frozen=True)
class PartNow:
    """One section of the row at hand, in the order in which it is met."""

    name: str
    family: str
    text: str
    hint: str
    takes: int
    chart_row: int
    crossing: bool


@dataclass(frozen=True)
class RowNow:
    """The row at hand and what to look for; `row` is None when the piece is done.

    `short_rows` says what to do first where the edge is filled in before this row, `held` whose stitches it puts on
    holders.
    """

    done: int
    total: int
    row: WorkedRow | None
    parts: tuple[PartNow, ...]
    crossing_row: int
    crossing_names: tuple[str, ...]
    short_rows: str = ""
    held: str = ""
    copy: int = 1

    @property
    def crossing_in(self) -> int:
        """Rows from this one to the next crossing row (0: this one)."""
        return self.crossing_row - self.done - 1

    @property
    def percent(self) -> int:
        """How much is done, by rows."""
        return 100 * self.done // self.total


@dataclass(frozen=True)
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


class Chair:
    """The tally of one database's projects."""

    def __init__(self, database: Database) -> None:
        self.database = database

    def state(self, project: Project, copy: int = 1) -> Progress:
        """How far a copy of the piece is."""
        with self.database.reading() as session:
            return fold_events(_events(repository.load_events(session, project.id), project, copy))

    def tallies(self, project: Project) -> tuple[Tally, ...]:
        """How far every copy of every piece of a project is."""
        with self.database.reading() as session:
            events = repository.load_events(session, project.id)
        out = []
        for mine in project.pieces():
            total = mine.numbers.rows.total
            for which in range(1, mine.file.own.copies + 1):
                done = fold_events(_events(events, mine, which)).done
                out.append(Tally(mine, which, min(done, total), total))
        return tuple(out)

    def last_tap(self, project_id: int) -> datetime | None:
        """When a row of a project was last ticked off or taken back (UTC); None before the first."""
        with self.database.reading() as session:
            return max((event.at for event in repository.load_events(session, project_id)), default=None)

    def row_done(self, project: Project, row: int, copy: int = 1) -> RowNow:
        """Ticks off row `row`; a tap that comes twice counts once."""
        total = len(compile_piece(project.piece).rows)
        if not 1 <= row <= total:
            raise NotFound(f"This piece has rows 1 to {total}; there is no row {row}.")
        self._append(project, "row done", row, copy)
        return self.now(project, copy)

    def catch_up(self, project: Project, row: int, copy: int = 1) -> None:
        """Ticks off all rows up to `row` at once, for a piece begun elsewhere."""
        own = project.file.own.number
        with self.database.writing() as session:
            for n in range(self._done(session, project, copy) + 1, row + 1):
                repository.add_event(session, project.id, "row done", n, time_now(), piece=own, copy=copy)

    @staticmethod
    def _done(session: Session, project: Project, copy: int) -> int:
        return fold_events(_events(repository.load_events(session, project.id), project, copy)).done

    def undo(self, project: Project, row: int, copy: int = 1) -> RowNow:
        """Takes row `row` back if it is the last one done."""
        self._append(project, "undo", row, copy)
        return self.now(project, copy)

    def jump(self, project: Project, row: int, copy: int = 1) -> RowNow:
        """Goes on after row `row`, wherever the tally was; 0 is the cast-on."""
        total = len(compile_piece(project.piece).rows)
        if not 0 <= row <= total:
            raise NotFound(f"This piece has rows 1 to {total}; there is no row {row}.")
        self._append(project, "jump", row, copy)
        return self.now(project, copy)

    def _append(self, project: Project, kind: str, row: int, copy: int) -> None:
        if not 1 <= copy <= project.file.own.copies:
            raise NotFound(f"{project.piece_name} is worked {project.file.own.copies} times; there is no copy {copy}.")
        own = project.file.own.number
        with self.database.writing() as session:
            done = _events(repository.load_events(session, project.id), project, copy)
            if fold_events([*done, Event(_kind(kind), row)]) != fold_events(done):
                repository.add_event(session, project.id, kind, row, time_now(), piece=own, copy=copy)

    def now(self, project: Project, copy: int = 1) -> RowNow:
        """The row at hand of a copy of the piece."""
        pattern = compile_piece(project.piece)
        total = len(pattern.rows)
        done = min(self.state(project, copy).done, total)
        row = pattern.row(done + 1) if done < total else None
        ahead = pattern.next_crossing(done + 1)
        return RowNow(
            done=done,
            total=total,
            row=row,
            parts=_parts(pattern, row) if row else (),
            crossing_row=ahead.number if ahead else 0,
            copy=copy,
            crossing_names=tuple(dict.fromkeys(p.name for p in ahead.crossing_parts)) if ahead else (),
            short_rows=short_rows_due(pattern, row.number) if row else "",
            held=held_in(pattern, row.number) if row else "",
        )


def _events(found: Sequence[EventRow], project: Project, copy: int) -> list[Event]:
    """What happened to one copy of the piece, of all that happened to its project."""
    own = project.file.own.number
    return [Event(_kind(e.kind), e.row) for e in found if e.piece == own and e.copy == copy]


def _kind(text: str) -> EventKind:
    return next((kind for kind in KINDS if kind == text), "row done")


def _parts(pattern: WorkedPattern, row: WorkedRow) -> tuple[PartNow, ...]:
    below = pattern.faces_before(row.number)
    out = []
    start = 0
    for part in row.parts:
        mine = below[start : start + part.takes]
        start += part.takes
        out.append(
            PartNow(
                name=part.name,
                family=part.family,
                text=part_text(part, row.side),
                hint=plain_hint(part, row.side, mine),
                takes=part.takes,
                chart_row=part.chart_row,
                crossing=part in row.crossing_parts,
            )
        )
    return tuple(out if row.side == "RS" else out[::-1])
