"""What is found at the chair: the rows that fit what is seen, and the ways out of a mistake."""

from __future__ import annotations

from ...core.mistakes import WayOutKind
from ...core.tracking import Question
from .answer import Answer

MANY = 8
"""Our choice: so many rows are offered at the most; of more it is said how many they are."""


class PanelPlace(Answer):
    """A panel that can be looked at, and the place of its segment from the right."""

    panel: str
    place: int


class RowsFound(Answer):
    """The rows that fit what was seen, each the last one worked; `seen` is told in words.

    `next` is what tells most to look at: a panel, or one of the `questions` that can be asked of this piece;
    `question` is the end of a sentence that says so. `next_place` is that of the panel that tells most, in either case.
    `crosser`: the panel whose crossings can be counted from the cast-on.
    """

    seen: tuple[str, ...]
    rows: tuple[int, ...]
    panels: tuple[PanelPlace, ...]
    next: str | None
    next_place: int | None
    crosser: str | None
    question: str
    questions: tuple[Question, ...]

    @property
    def offered(self) -> tuple[int, ...]:
        """The rows to choose from; none while there are too many."""
        return self.rows if len(self.rows) <= MANY else ()


class MendingWay(Answer):
    """A way out of a mistake, or why it cannot be taken; `columns`: the stitches let down, from the right."""

    kind: WayOutKind
    possible: bool
    loops: int
    minutes: float
    risk: str
    rows: int
    columns: tuple[int, int] | None
    needle: int
    text: str


class MendingWays(Answer):
    """All ways out of a mistake in a row of a section."""

    row: int
    section: str
    answers: tuple[MendingWay, ...]
