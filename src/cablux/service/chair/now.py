"""The row to work now: where a piece is, as it is told, and the pictures beside it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from ...core.pattern import WorkedPattern, WorkedRow, compile_piece
from ...core.pattern.wording import Wording
from ...core.pattern.words import held_in, short_rows_due
from ...core.tracking import Pace, Progress
from ..answers import ChairNow, NextStep, RowAtHand
from ..errors import NotFound
from ..exchange import ProjectFile, read_at_piece
from ..pattern import begin_sentence, end_sentence, join_sentences, next_part
from .row import ChairLook, pattern_for, row_sections, row_symbols, strip_svg


@dataclass(frozen=True, kw_only=True)
class RowNow:
    """Where a copy of a piece is: its rows as they are worked, how they are worded, how the knitter likes it.

    `last_tap` is the name of the last tap that was counted, empty where none was.
    """

    pattern: WorkedPattern
    wording: Wording
    progress: Progress
    pace: Pace | None
    look: ChairLook
    copy: int = 1
    last_tap: str = ""

    @property
    def total(self) -> int:
        """All rows."""
        return len(self.pattern.rows)

    @property
    def done(self) -> int:
        """How many are done."""
        return min(self.progress.done, self.total)

    @cached_property
    def row(self) -> WorkedRow | None:
        """The row to work next; None when the piece is done."""
        return self.pattern.row(self.done + 1) if self.done < self.total else None

    @cached_property
    def strip(self) -> str:
        """The chart of the rows around it; empty where none is read."""
        return strip_svg(self.pattern, self.row) if self.row else ""

    @cached_property
    def symbols(self) -> dict[str, str]:
        """The symbols of what in it is more than knitting and purling, by its name."""
        return row_symbols(self.row, self.wording) if self.row else {}


def row_after(
    cloth: WorkedPattern, progress: Progress, copy: int, *, look: ChairLook, pace: Pace | None = None
) -> RowNow:
    """Where a copy is after what is done; `cloth` is the piece with what was left in it."""
    pattern, wording = pattern_for(cloth, look) if not progress.mistakes else (cloth, look.wording)
    return RowNow(pattern=pattern, wording=wording, progress=progress, pace=pace, look=look, copy=copy)


def chair_answer(now: RowNow, file: ProjectFile) -> ChairNow:
    """What is told at the chair."""
    ahead = now.pattern.next_crossing(now.done + 1)
    begun, done = now.row is not None and now.row.number == 1, now.row is None
    return ChairNow(
        done=now.done,
        total=now.total,
        round=now.pattern.piece.round,
        copy_number=now.copy,
        row=_told(now, now.row) if now.row else None,
        crossing_row=ahead.number if ahead else 0,
        crossing_names=tuple(dict.fromkeys(p.name for p in ahead.crossing_parts)) if ahead else (),
        row_minutes=now.pace.row_minutes if now.pace else None,
        left_minutes=now.pace.left_minutes if now.pace else None,
        mistakes_left=len(now.progress.mistakes),
        lifeline=now.progress.lifelines[-1] if now.progress.lifelines else None,
        begin=begin_sentence(file) if begun else "",
        end=end_sentence(file) if done else "",
        then=_then(now, file) if done else None,
    )


def _told(now: RowNow, row: WorkedRow) -> RowAtHand:
    charted = row.section in ("body", "set-up rows")
    return RowAtHand(
        number=row.number,
        title=row.title,
        side=row.side.value,
        before=row.before,
        after=row.after,
        from_right=row.side == "RS" if charted else None,
        sections=row_sections(now.pattern, row, now.wording, look=now.look),
        short_rows=short_rows_due(now.pattern, row.number),
        held=held_in(now.pattern, row.number),
    )


def _then(now: RowNow, file: ProjectFile) -> NextStep | None:
    own = file.own
    if now.copy < own.copies:
        return NextStep(kind="copy", name=own.name or file.name, text=begin_sentence(file))
    following = next_part(file)
    if following:
        return NextStep(kind="part", name=following[0], text=following[1])
    return NextStep(kind="making up", name="", text=" ".join(join_sentences(file))) if file.joins else None


def row_report(text: str, piece: str, row: int, *, left_handed: bool = False) -> ChairNow:
    """A row of a piece of a project file, as it is told at the chair. Raises NotFound where there is no such row."""
    file = read_at_piece(text, piece)
    pattern = compile_piece(file.piece())
    if not 1 <= row <= len(pattern.rows):
        raise NotFound(f"This piece has rows 1 to {len(pattern.rows)}; there is no row {row}.")
    return chair_answer(row_after(pattern, Progress(row - 1), 1, look=ChairLook(left_handed=left_handed)), file)


def row_sentences(told: ChairNow) -> list[str]:
    """The same in words."""
    row = told.row
    if row is None:
        return [told.end]
    side = "" if told.round else ", right side" if row.side == "RS" else ", wrong side"
    count = f"{row.before} stitches" + (f" become {row.after}" if row.after != row.before else "")
    first = [said for said in (told.begin, row.held, row.short_rows) if said]
    head = f"{told.word.capitalize()} {row.number} of {told.total}{side}: {count}."
    return [*first, head, *(f"  {s.name}: {s.text}" for s in row.sections)]
