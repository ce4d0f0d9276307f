"""The row at hand: its sections in the order in which they are worked, what to look for, and what comes after."""

from __future__ import annotations

from typing import Literal

from ...core.library import FamilyName
from .answer import Answer


class HowWorked(Answer):
    """An operation that is more than knitting and purling, and how it is worked in the knitter's own way."""

    name: str
    text: str


class RowSection(Answer):
    """A section of a row. `seen`: its stitches as they lie on the left needle, as the knitter sees them.

    `say`: its words as they are spoken. `place`: how far from the chart's left it lies, and `share` how wide it is, as
    parts of the row.
    """

    name: str
    family: FamilyName
    text: str
    hint: str
    takes: int
    makes: int
    chart_row: int
    crossing: bool
    say: str
    seen: str
    how: tuple[HowWorked, ...]
    place: float
    share: float


class RowAtHand(Answer):
    """A row: what it does to the count, its sections, and what is done first.

    `short_rows` says what to do before it where the edge is filled in, `held` whose stitches go onto holders.
    `from_right`: the chart is read from its right end; None where no chart is read.
    """

    number: int
    title: str
    side: Literal["RS", "WS"]
    before: int
    after: int
    from_right: bool | None
    sections: tuple[RowSection, ...]
    short_rows: str
    held: str


class NextStep(Answer):
    """What comes when a piece is done: its next copy, another part of the project, or the making up."""

    kind: Literal["copy", "part", "making up"]
    name: str
    text: str


class ChairNow(Answer):
    """How far a piece is and what to work now; `row` is None when it is done.

    `crossing_row` is the next row with a crossing, 0 where none is left. `begin` and `end` say how the piece is begun
    and ended. `mistakes_left` are in the cloth; `lifeline`: after which row the last one lies.
    """

    done: int
    total: int
    round: bool
    copy_number: int
    row: RowAtHand | None
    crossing_row: int
    crossing_names: tuple[str, ...]
    row_minutes: float | None
    left_minutes: float | None
    mistakes_left: int
    lifeline: int | None
    begin: str
    end: str
    then: NextStep | None

    @property
    def word(self) -> str:
        """What a row is called."""
        return "round" if self.round else "row"

    @property
    def crossing_in(self) -> int:
        """Rows from this one to the next crossing row (0: this one)."""
        return self.crossing_row - self.done - 1

    @property
    def percent(self) -> int:
        """How much is done, by rows."""
        return 100 * self.done // self.total
