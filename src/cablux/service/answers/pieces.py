"""A project's pieces beside one another: their counts and sizes, how far each copy is, how they are joined."""

from __future__ import annotations

from .answer import Answer
from .cast_on import PieceCounts


class CopyDone(Answer):
    """How far a copy of a piece is."""

    copy_number: int
    done: int
    total: int

    @property
    def percent(self) -> int:
        """How much is done, by rows."""
        return 100 * self.done // self.total


class PieceOfProject(Answer):
    """A piece: `named` is its own name, which may be empty; `size` is told in the project's unit.

    `begin` and `end` say how it is begun and ended, `bound_off` whether that is by binding off. `tally` has each copy
    with `next_up` to go on with; both are of a project that is kept, not of a file.
    """

    number: int
    name: str
    named: str
    copies: int
    counts: PieceCounts
    rows: int
    size: str
    begin: str
    end: str
    bound_off: bool
    tally: tuple[CopyDone, ...]
    next_up: CopyDone | None

    @property
    def done(self) -> bool:
        """Whether nothing of it is left to work."""
        return self.next_up is not None and self.next_up.done == self.next_up.total


class SeamFit(Answer):
    """A join in words, how long both its edges are, and what does not meet; empty where they do."""

    sentences: tuple[str, ...]
    lengths: str
    problem: str


class ProjectPieces(Answer):
    """All pieces in their order, the joins, and what the shape warns of.

    `joined`: whether one piece is joined to another, not to itself alone.
    """

    name: str
    pieces: tuple[PieceOfProject, ...]
    seams: tuple[SeamFit, ...]
    joined: bool
    cautions: tuple[str, ...]
