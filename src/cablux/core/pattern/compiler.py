"""Compiles a piece to its worked rows, and audits every count."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

from ..ends.cast_on import CastOnPlan, plan_cast_on
from ..errors import IllegalPiece
from ..notation import BindOff, CastOnLoop, DoubleStitch, Face, Turn, WrapTurn, faces, takes
from ..piece.piece import Piece
from ..piece.problems import checked_piece
from ..rows.heights import RowPlan, plan_rows
from .audit import audit_columns, audit_worked_rows
from .rowmaker import RowMaker
from .worked import WorkedRow


@dataclass(frozen=True, kw_only=True)
class WorkedPattern:
    """A whole piece, row by row; only one whose every count has passed the audit exists."""

    piece: Piece
    cast_on: CastOnPlan
    rows_plan: RowPlan
    rows: tuple[WorkedRow, ...]

    def row(self, number: int) -> WorkedRow:
        """Row `number`, from 1."""
        return self.rows[number - 1]

    @cached_property
    def crossing_rows(self) -> tuple[int, ...]:
        """The numbers of all rows with a crossing."""
        return tuple(r.number for r in self.rows if r.crossing_parts)

    @cached_property
    def one_way(self) -> bool:
        """Whether some rows can only begin at their own edge, since they bind off, cast on or turn early there."""
        tied = (BindOff, CastOnLoop, Turn, WrapTurn, DoubleStitch)
        return any(isinstance(op, tied) for row in self.rows for op in row.ops)

    def faces_before(self, number: int) -> tuple[Face, ...]:
        """The faces on the needle before row `number`, right to left; slipped loops keep those they had.

        A long-tail cast-on shows knits on the side from which it is worked.
        """
        rows = []
        for at in range(number - 1, 0, -1):
            rows.append(self.row(at).ops)
            if not any(loop.slipped for op in rows[-1] for loop in op.made):
                break
        shown = (Face.KNIT,) * (self.row(number).before if not rows else takes(rows[-1]))
        for ops in reversed(rows):
            shown = faces(ops, shown)
        return shown

    def next_crossing(self, at: int) -> WorkedRow | None:
        """The first row from `at` on that has a crossing."""
        return next((self.row(n) for n in self.crossing_rows if n >= at), None)


@lru_cache(maxsize=64)
def compile_piece(piece: Piece) -> WorkedPattern:
    """The piece as worked rows, the first on the right side. Raises IllegalPiece.

    Flat, the last bottom border row is the increase row (a wrong-side row), the first of the top border the decrease
    row (a right-side row): so the counts change where the texture of the border hides it. Where that takes
    several rows, a plain one lies between two of them. In the round every row is a right-side row.

    >>> from cablux.core import Band, Evidence, Gauge, Piece, library_segment
    >>> edge, background = library_segment("edge", "garter", 5), library_segment("background", "stockinette", 40)
    >>> band = Band(own=(edge, background, edge))
    >>> known = Evidence(gauge=Gauge(stitches=18, rows=25))
    >>> piece = Piece(name="Scarf", width_mm=300.0, height_mm=1500.0, evidence=known, bands=(band,))
    >>> compile_piece(piece).row(20).before
    50
    """
    checked_piece(piece)
    cast_on, rows = plan_cast_on(piece), plan_rows(piece)
    worked = tuple(RowMaker(piece, cast_on, rows).rows())
    problems = list(audit_worked_rows(worked, cast_on.cast_on, cast_on.top.count))
    problems += audit_columns(piece, worked)
    if problems:  # pragma: no cover - the property tests show that this cannot happen
        raise IllegalPiece("The counts of this pattern do not agree, so it is not shown: " + " ".join(problems))
    return WorkedPattern(piece=piece, cast_on=cast_on, rows_plan=rows, rows=worked)
