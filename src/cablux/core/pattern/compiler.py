"""Compiles a piece to worked rows, each with its side, its parts and its counts."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Literal

from ..errors import IllegalPiece
from ..layout.caston import CastOnPlan, border_repeats, border_runs_through, plan
from ..layout.heights import RowPlan, plan_rows
from ..layout.piece import Piece, Segment, check
from ..notation import (
    Crossing,
    Decrease,
    Face,
    Increase,
    Lean,
    Op,
    Side,
    Stitch,
    faces,
    makes,
    side_of,
    takes,
    wrong_side_row,
)
from ..shaping.spread import gaps, joins

Section = Literal["bottom border", "increase row", "set-up rows", "body", "decrease row", "top border"]


@dataclass(frozen=True)
class WorkedPart:
    """One segment's share of a row, as seen from the right side; `segment` is its place from the right."""

    segment: int
    name: str
    ops: tuple[Op, ...]
    chart_row: int = 0

    @cached_property
    def takes(self) -> int:
        """Stitches it takes."""
        return takes(self.ops)

    @cached_property
    def makes(self) -> int:
        """Stitches it leaves."""
        return makes(self.ops)

    def worked(self, side: Side) -> tuple[Op, ...]:
        """Its operations in the order and the form in which they are worked."""
        return self.ops if side is Side.RS else wrong_side_row(self.ops)


@dataclass(frozen=True)
class WorkedRow:
    """One row: its number from the cast-on, the side that faces the knitter, and its parts from the right."""

    number: int
    section: Section
    side: Side
    parts: tuple[WorkedPart, ...]

    @cached_property
    def ops(self) -> tuple[Op, ...]:
        """The whole row as seen from the right side, right to left."""
        return tuple(op for part in self.parts for op in part.ops)

    @cached_property
    def worked(self) -> tuple[Op, ...]:
        """The whole row as it is worked."""
        return self.ops if self.side is Side.RS else wrong_side_row(self.ops)

    @cached_property
    def before(self) -> int:
        """Stitches on the needle before the row."""
        return sum(p.takes for p in self.parts)

    @cached_property
    def after(self) -> int:
        """Stitches on the needle after it."""
        return sum(p.makes for p in self.parts)

    @cached_property
    def crossing_parts(self) -> tuple[WorkedPart, ...]:
        """The parts that hold a crossing."""
        return tuple(p for p in self.parts if any(isinstance(op, Crossing) for op in p.ops))


@dataclass(frozen=True)
class Pattern:
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
def compile_piece(piece: Piece) -> Pattern:
    """The piece as worked rows, flat, the first row on the right side. Raises IllegalPiece.

    The last bottom border row is the increase row (a wrong-side row), the first of the top border the
    decrease row (a right-side row): so the counts change where the texture of the border hides it.
    """
    check(piece)
    cast_on, rows = plan(piece), plan_rows(piece)
    worked = tuple(_Compiler(piece, cast_on, rows).rows())
    problems = list(audit(worked, cast_on.cast_on))
    if problems:  # pragma: no cover - the property tests show that this cannot happen
        raise IllegalPiece("This pattern's counts do not agree and it is not shown: " + " ".join(problems))
    return Pattern(piece, cast_on, rows, worked)


def audit(rows: tuple[WorkedRow, ...], cast_on: int) -> Iterator[str]:
    """Every row must take what the row below left, part by part; and the piece must end as it began."""
    below = cast_on
    last_parts: tuple[int, ...] | None = None
    for row in rows:
        if row.before != below:
            yield f"Row {row.number} works {row.before} stitches, but {below} are on the needle."
        taken = tuple(p.takes for p in row.parts)
        if last_parts is not None and len(taken) == len(last_parts) and taken != last_parts:
            yield f"Row {row.number}: the sections' counts {taken} do not follow {last_parts}."
        below, last_parts = row.after, tuple(p.makes for p in row.parts)
    if below != cast_on:
        yield f"The last row leaves {below} stitches, but {cast_on} were cast on."


class _Compiler:
    """Writes the rows of one piece from the bottom up."""

    def __init__(self, piece: Piece, cast_on: CastOnPlan, rows: RowPlan) -> None:
        self.piece, self.cast_on, self.plan = piece, cast_on, rows
        repeats = border_repeats(piece, cast_on.cast_on)
        assert repeats is not None, "the cast-on was chosen to fit the border"
        self.border_repeats = repeats
        self.through = border_runs_through(piece)
        self.made: dict[tuple[int, int], WorkedPart] = {}  # by segment and chart row: they come round again

    def rows(self) -> Iterator[WorkedRow]:
        """All rows in order."""
        border, body = self.plan.border, self.plan.body
        number = 1
        for _ in range(border - 1):
            yield self.border_row(number, number, "bottom border")
            number += 1
        yield self.transition(number, border, up=True)
        number += 1
        for setup in range(1 - self.plan.setup, 1):
            yield self.body_row(number, setup)
            number += 1
        for chart_row in range(1, body + 1):
            yield self.body_row(number, chart_row)
            number += 1
        yield self.transition(number, 1, up=False)
        number += 1
        for border_row in range(2, border + 1):
            yield self.border_row(number, border_row, "top border")
            number += 1

    def edge(self, at: int, number: int) -> WorkedPart:
        """An edge in its own texture, which runs on from cast-on to bind-off."""
        return self.charted(at, (number - 1) % self.piece.segments[at].chart.height + 1)

    def charted(self, at: int, chart_row: int) -> WorkedPart:
        """A segment's row of its own chart; each is made once."""
        if (at, chart_row) not in self.made:
            s = self.piece.segments[at]
            self.made[at, chart_row] = WorkedPart(at, s.name, s.chart.ops(chart_row, s.repeats), chart_row)
        return self.made[at, chart_row]

    def border_parts(self, number: int, border_row: int) -> tuple[WorkedPart, WorkedPart, WorkedPart]:
        """Right edge, border, left edge; where they are one texture, its row is cut in three."""
        last = len(self.piece.segments) - 1
        ops = self.piece.border.chart.ops(border_row, self.border_repeats)
        chart_row = (border_row - 1) % self.piece.border.chart.height + 1
        right, left = self.edge(0, number), self.edge(last, number)
        if self.through:
            a, b = right.takes, len(ops) - left.takes
            right = WorkedPart(0, right.name, ops[:a], chart_row)
            left = WorkedPart(last, left.name, ops[b:], chart_row)
            ops = ops[a:b]
        return right, WorkedPart(1, self.piece.border.name, ops, chart_row), left

    def border_row(self, number: int, border_row: int, section: Section) -> WorkedRow:
        return WorkedRow(number, section, side_of(number), self.border_parts(number, border_row))

    def body_row(self, number: int, chart_row: int) -> WorkedRow:
        """A body row, or a set-up row: chart row 0 is the last of them, −1 the one below it."""
        last = len(self.piece.segments) - 1
        inner = [self.body_part(i, s, chart_row) for i, s in enumerate(self.piece.inner, start=1)]
        section: Section = "body" if chart_row > 0 else "set-up rows"
        parts = (self.edge(0, number), *inner, self.edge(last, number))
        return WorkedRow(number, section, side_of(number), parts)

    def body_part(self, at: int, s: Segment, chart_row: int) -> WorkedPart:
        if chart_row > 0:
            return self.charted(at, (chart_row - 1) % s.chart.height + 1)
        ops = s.chart.setup_ops(self.plan.setup + chart_row, self.plan.setup, s.repeats)
        return WorkedPart(at, s.name, ops)

    def transition(self, number: int, border_row: int, *, up: bool) -> WorkedRow:
        """The increase row (`up`), from the border's count to the body's, or the decrease row back."""
        last = len(self.piece.segments) - 1
        right, middle, left = self.border_parts(number, border_row)
        loops = faces(middle.ops)
        parts, start = [right], 0
        for i, s in enumerate(self.piece.inner, start=1):
            share = self.cast_on.shares[i]
            mine = loops[start : start + share]
            flip = i > last / 2  # mirrored pairs are spread as mirror images
            parts.append(WorkedPart(i, s.name, _spread(mine, s.stitches, up=up, flip=flip)))
            start += share
        parts.append(left)
        return WorkedRow(number, "increase row" if up else "decrease row", side_of(number), tuple(parts))


def _spread(border: tuple[Face, ...], body: int, *, up: bool, flip: bool) -> tuple[Op, ...]:
    """Operations between a segment's border loops (their faces) and its body stitches, in either direction."""
    share = len(border)
    more = body - share if up else share - body
    if more >= 0:
        ops = _increase(border[: share if up else body], more, flip=flip)
        # above the body the border's own faces are worked, in its own order
        return ops if up else tuple(replace(op, face=face) for op, face in zip(ops, border, strict=True))
    return _decrease(border, body, -more, up=up, flip=flip)


def _increase(old: tuple[Face, ...], more: int, *, flip: bool) -> tuple[Stitch | Increase, ...]:
    places = gaps(len(old), more)
    if flip:
        places = tuple(len(old) - p for p in reversed(places))
    after = set(places)
    lean = Lean.RIGHT if flip else Lean.LEFT
    out: list[Stitch | Increase] = []
    for i, face in enumerate(old, start=1):
        out.append(Stitch(face))
        if i in after:
            out.append(Increase(lean, face))
    return tuple(out)


def _decrease(border: tuple[Face, ...], body: int, fewer: int, *, up: bool, flip: bool) -> tuple[Op, ...]:
    old = len(border) if up else body
    firsts = joins(old, fewer)
    if flip:
        firsts = tuple(old - 2 - f for f in reversed(firsts))
    new = len(border) - fewer if up else len(border)
    shown = border[:new]
    pairs = set(firsts)
    lean = Lean.LEFT if flip else Lean.RIGHT
    out: list[Op] = []
    at = 0
    for face in shown:
        if at in pairs:
            out.append(Decrease(lean, face))
            at += 2
        else:
            out.append(Stitch(face))
            at += 1
    assert at == old, "every stitch of the row below is worked"
    return tuple(out)
