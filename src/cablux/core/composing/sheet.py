"""The sheet: a chart whose plain stitches are stored as what they do to the loop below, so that strands can be moved.

In a sheet a stitch is not knit or purl but *kept* (the face that its loop had below) or *changed*. A strand that
is led elsewhere therefore stays knit, and the background beneath it stays background, in every row above. Operations
are those of a chart, with knit standing for kept and purl for changed; `Sheet.chart` gives the faces back.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import IllegalChart, Problem
from ..notation import (
    Bobble,
    Chart,
    ChartRow,
    Crossing,
    DoubleStitch,
    Face,
    K,
    Leave,
    Op,
    Side,
    Slip,
    Stitch,
    faces,
    made_loops,
    makes,
    parse_ops,
    side_of,
    takes,
)

MAX_PANEL_ROWS = 120  # our choice: three times the tallest traditional panel, and a page still holds it
_MAX_STITCHES = 80


@dataclass(frozen=True)
class SheetRow:
    """One row, right to left, in kept and changed stitches; `before` and `after` are loops taken outside the box."""

    ops: tuple[Op, ...]
    before: int = 0
    after: int = 0


@dataclass(frozen=True, kw_only=True)
class Sheet:
    """A panel on the drawing table: the faces below row 1, the rows, and what the chart says besides."""

    base: tuple[Face, ...]
    rows: tuple[SheetRow, ...]
    name: str
    allow: tuple[str, ...] = ()
    setup: tuple[ChartRow, ...] = ()  # as the chart had it; it stays for as long as it fits the foundation

    @staticmethod
    def of(chart: Chart) -> Sheet:
        """The sheet of a chart, its box worked once. Where counts disagree, loops without a parent are knits."""
        below = chart.faces_below(1)
        base, rows = below, []
        for row in chart.rows:
            ops = row.ops()
            rows.append(SheetRow(_turned(ops, below), takes(row.before), takes(row.after)))
            below = _followed(ops, below)
        return Sheet(base=base, rows=tuple(rows), name=chart.name, allow=chart.allow, setup=chart.setup)

    @property
    def chart(self) -> Chart:
        """The chart, worked flat, with a set-up of plain rows in the faces below row 1."""
        made: list[ChartRow] = []
        below = self.base
        for number, row in enumerate(self.rows, start=1):
            ops = _turned(row.ops, below)
            below = _followed(ops, below)
            made.append(_cut(ops, row, side_of(number)))
        outside = self.rows[0].before + self.rows[0].after if self.rows else 0
        multiple = max(1, len(self.base) - outside)
        return Chart(
            name=self.name,
            multiple=multiple,
            rows=tuple(made),
            balance=outside,
            setup=self._setup_rows(),
            allow=self.allow,
        )

    def _setup_rows(self) -> tuple[ChartRow, ...]:
        """The set-up as it was if it still lays the foundation; else two plain rows that do."""
        first = self.rows[0] if self.rows else SheetRow(())
        cuts = {(takes(row.before), takes(row.after), takes(row.ops())) for row in self.setup}
        if cuts == {(first.before, first.after, len(self.base))} and faces(self.setup[-1].ops()) == self.base:
            return self.setup
        plain = tuple(Stitch(face) for face in self.base)
        return tuple(_cut(plain, first, side) for side in (Side.RS, Side.WS))

    @property
    def height(self) -> int:
        """Rows."""
        return len(self.rows)

    def count_below(self, number: int) -> int:
        """Loops on the needle before row `number`."""
        return makes(self.rows[number - 2].ops) if number > 1 else len(self.base)

    def shown_below(self, number: int) -> tuple[Face, ...]:
        """The faces on the needle before row `number`."""
        below = self.base
        for row in self.rows[: number - 1]:
            ops = _turned(row.ops, below)
            below = _followed(ops, below)
        return below

    def row(self, number: int) -> SheetRow:
        """Row `number`, from 1. Raises IllegalChart."""
        if not 1 <= number <= self.height:
            raise refuse_move(f"The panel has rows 1 to {self.height}; there is no row {number}.")
        return self.rows[number - 1]

    def with_row(self, number: int, ops: tuple[Op, ...]) -> Sheet:
        """The sheet with other operations in one row. Raises IllegalChart where one straddles the repeat's edge."""
        row = replace(self.row(number), ops=ops)
        check_box_edges(row, number)
        return replace(self, rows=(*self.rows[: number - 1], row, *self.rows[number:]))


def blank_sheet(name: str, foundation: str, rows: int) -> Sheet:
    """A new sheet: plain rows on a foundation such as `p2, k6, p2`. Raises InvalidText or IllegalChart."""
    ops = parse_ops(foundation)
    if not all(isinstance(op, Stitch) and not op.tbl for op in ops):
        raise refuse_move("The starting row is knits and purls only, such as p2, k6, p2; add crossings later.")
    check_size(len(ops), rows)
    return Sheet(base=faces(ops), rows=(SheetRow((K,) * len(ops)),) * rows, name=name)


def check_size(stitches: int, rows: int) -> None:
    """Raises IllegalChart for a panel that is too small or too large."""
    if not 1 <= stitches <= _MAX_STITCHES or not 1 <= rows <= MAX_PANEL_ROWS:
        raise refuse_move(
            f"A panel can have 1 to {_MAX_STITCHES} stitches and 1 to {MAX_PANEL_ROWS} rows; "
            f"this one would have {stitches} by {rows}."
        )


def refuse_move(message: str) -> IllegalChart:
    """A move that cannot be made."""
    return IllegalChart((Problem(message=message),))


def _followed(ops: tuple[Op, ...], below: tuple[Face, ...]) -> tuple[Face, ...]:
    """The faces in which strands go on above a row: a bobble stands on its background, which goes on as it was."""
    if takes(ops) != len(below) or not any(isinstance(op, Bobble | Slip | Leave | DoubleStitch) for op in ops):
        return faces(ops, below if takes(ops) == len(below) else ())
    return tuple(below[loop.parents[0]] if loop.knob or loop.slipped else loop.face for loop in made_loops(ops))


def _turned(ops: tuple[Op, ...], below: tuple[Face, ...]) -> tuple[Op, ...]:
    """Faces to kept/changed, or back: the same step in both directions, since changing twice is keeping."""
    out: list[Op] = []
    at = 0
    for op in ops:
        under = below[at : at + op.takes]
        at += op.takes
        out.append(turned_faces(op, under) if len(under) == op.takes else op)
    return tuple(out)


def turned_faces(op: Op, under: tuple[Face, ...]) -> Op:
    """One operation's faces to kept/changed on the faces `under` it, or back."""
    if isinstance(op, Stitch):
        return _turned_stitch(op, under[0])
    if not isinstance(op, Crossing):
        return op
    first, centre, last = op.groups_taken
    a, b = len(first), len(first) + len(centre)
    groups = ((first, under[:a]), (centre, under[a:b]), (last, under[b:]))
    return op.regrouped(*(tuple(map(_turned_stitch, group, part)) for group, part in groups))


def _turned_stitch(stitch: Stitch, under: Face) -> Stitch:
    return replace(stitch, face=stitch.face.other if under is Face.PURL else stitch.face)


def _cut(ops: tuple[Op, ...], row: SheetRow, side: Side) -> ChartRow:
    """The row's operations before, in and after the box."""
    if not row.before and not row.after:
        return ChartRow(box=ops, side=side)
    total, at = takes(ops), 0
    parts: tuple[list[Op], list[Op], list[Op]] = ([], [], [])
    for op in ops:
        parts[0 if at < row.before else 1 if at < total - row.after else 2].append(op)
        at += op.takes
    return ChartRow(box=tuple(parts[1]), before=tuple(parts[0]), after=tuple(parts[2]), side=side)


def check_box_edges(row: SheetRow, number: int) -> None:
    """Raises IllegalChart where an operation reaches across the edge of the repeat."""
    total, at, edges = takes(row.ops), 0, {0}
    for op in row.ops:
        at += op.takes
        edges.add(at)
    if row.before not in edges or total - row.after not in edges:
        raise refuse_move(f"In row {number} this would cross the edge of the repeat; place it on one side.")
