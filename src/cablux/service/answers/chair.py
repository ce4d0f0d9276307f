"""What is found at the chair: the rows that fit what is seen, and the ways out of a mistake."""

from __future__ import annotations

from ...core.mistakes import WayOutKind
from .answer import Answer


class PanelPlace(Answer):
    """A panel that can be looked at, and the place of its segment from the right."""

    panel: str
    place: int


class RowsFound(Answer):
    """The rows that fit what was seen; `next` is what tells most to look at, `question` the sentence that asks it.

    `crosser`: the panel whose crossings can be counted from the cast-on.
    """

    rows: tuple[int, ...]
    panels: tuple[PanelPlace, ...]
    next: str | None
    crosser: str | None
    question: str


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
