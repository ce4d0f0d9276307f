"""From one count to another, evenly: the rows that change it."""

from __future__ import annotations

from .answer import Answer


class SpreadRow(Answer):
    """One row: its counts, its words, and how many stitches lie between two changes (fewest, most)."""

    before: int
    after: int
    text: str
    between: tuple[int, int]


class EvenSpread(Answer):
    """The rows from one count to another; `edge` stitches on each side are left alone."""

    start: int
    goal: int
    edge: int
    round: bool
    rows: tuple[SpreadRow, ...]

    @property
    def sentence(self) -> str:
        """What it comes to."""
        by = abs(self.goal - self.start)
        if not by:
            return f"{self.start} stitches stay {self.start}; there is nothing to change."
        verb = "made" if self.goal > self.start else "decreased"
        what = "round" if self.round else "row"
        rows = f"{len(self.rows)} {what}s, a plain one between" if len(self.rows) > 1 else f"one {what}"
        return f"From {self.start} to {self.goal} stitches: {by} are {verb} in {rows}."
