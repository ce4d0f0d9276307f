"""What a whole project comes to: all pieces, each as often as it is worked."""

from __future__ import annotations

from .answer import Answer


class ProjectTotals(Answer):
    """Pieces with their copies, rows and stitches in all and done, and the time that the rest will take.

    `stitches` counts every stitch of every row. `learnt_rows`: the rows that tell the knitter's own pace; 0 where the
    common one of `stitch_seconds` is taken.
    """

    pieces: int
    rows: int
    rows_done: int
    stitches: int
    stitches_done: int
    minutes_left: float
    stitch_seconds: float
    learnt_rows: int

    @property
    def percent(self) -> int:
        """How much is done, by stitches; 100 is said of what is done whole."""
        return 100 * self.stitches_done // self.stitches if self.stitches else 0
