"""Turns the rows of a text into the rows of a chart: what repeats, and how often where the text leaves it open."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from ..errors import InvalidText, Problem
from .charts import ChartRow, Counts, Written, place_in
from .operations import Face, Side, faces, makes, takes, wrong_side_row
from .rowtext import MAX_CHART, MAX_ROW_STITCHES, AsSet, Item, Node, Placed, Repeat, expand_repeats
from .stitches import Stitch


@dataclass(frozen=True)
class ReadRow:
    """A row as read: its tree, the side it was written from, and where it begins."""

    nodes: tuple[Node, ...] | AsSet
    side: Side
    at: int


@dataclass(frozen=True, kw_only=True)
class _Cut:
    """A row in working order: what stands before, in and after its open repeat."""

    before: Placed
    box: Placed
    after: Placed
    open: bool
    plain: bool = False  # an open run of one stitch, which fits any count

    @property
    def outside(self) -> int:
        return _taken(self.before) + _taken(self.after)


def _taken(part: Placed) -> int:
    return takes(part.ops)


class Resolver:
    """Resolves the rows of one chart in their order, from the counts that each leaves."""

    def __init__(self, rows: Mapping[int, ReadRow], size: Counts | None, lines: tuple[int, ...]) -> None:
        self.rows, self.size, self.lines = rows, size, lines
        self.problems: list[Problem] = []

    def bad(self, message: str, at: int) -> None:
        line, column = place_in(self.lines, at)
        self.problems.append(Problem(message=message, line=line, column=column))

    def chart_rows(self, setup: Mapping[int, ReadRow]) -> tuple[Counts, tuple[ChartRow, ...], tuple[ChartRow, ...]]:
        """Multiple and balance, the set-up rows, and the rows from 1 on."""
        every = [row for rows in (setup, self.rows) for _, row in sorted(rows.items())]
        cuts = [self.cut(row) for row in every]
        by_rows = cuts[len(setup) :] + cuts[: len(setup)]  # the set-up says the size only where no row does
        size = self.size or self.find_size([c for c in by_rows if c])
        fixed = not size[1] and not self.boxed(cuts)
        have, out = size, list[ChartRow]()
        shown: tuple[Face, ...] = ()
        total = 0
        for row, cut in zip(every, cuts, strict=True):
            total += sum(have)
            if sum(have) > MAX_ROW_STITCHES or total > MAX_CHART:
                self.bad(
                    f"The chart grows beyond {MAX_ROW_STITCHES} stitches in a row or {MAX_CHART} in all; "
                    "check the repeat counts.",
                    row.at,
                )
                break
            if cut:
                made = self.chart_row(row, self.fitted(cut, have, fixed=fixed))
            else:
                made = self.as_set(row, out[-1] if out else None, shown)
            out.append(made)
            have = made.counts[1]
            shown = faces(made.ops(), shown if sum(made.counts[0]) == len(shown) else ())
        return size, tuple(out[: len(setup)]), tuple(out[len(setup) :])

    def boxed(self, cuts: list[_Cut | None]) -> bool:
        """Whether any row marks a repeat; else the panel has one width, and open runs only fill it."""
        return any(c is not None and c.open and not c.plain for c in cuts)

    def cut(self, row: ReadRow) -> _Cut | None:
        """The row in three parts; None for “knit the knits”."""
        if isinstance(row.nodes, AsSet):
            return None
        repeats = [(i, node) for i, node in enumerate(row.nodes) if isinstance(node, Repeat)]
        opened = [i for i, node in repeats if node.times is None]
        if len(opened) > 1 or any(_hides_open_repeat(node) for _, node in repeats):
            self.bad("Only one repeat in a row may go on “as often as fits”.", _first_at(row.nodes))
            return _Cut(before=Placed(), box=Placed(), after=Placed(), open=False)
        if not opened:
            return _Cut(before=Placed(), box=self.expanded(row.nodes), after=Placed(), open=False)
        at = opened[0]
        node = row.nodes[at]
        assert isinstance(node, Repeat)
        parts = [self.expanded(p) for p in (row.nodes[:at], (node,), row.nodes[at + 1 :])]
        if node.left is not None and node.left != _taken(parts[2]):
            text = f"The repeat is to leave {node.left} stitches, but {_taken(parts[2])} are worked after it."
            self.bad(text, node.at)
        plain = len(parts[1]) == 1 and isinstance(parts[1].ops[0], Stitch)
        return _Cut(before=parts[0], box=parts[1], after=parts[2], open=True, plain=plain)

    def expanded(self, nodes: tuple[Node, ...]) -> Placed:
        try:
            return expand_repeats(nodes)
        except InvalidText as error:
            self.bad(error.problems[0].message, error.problems[0].column - 1)
            return Placed()

    def find_size(self, cuts: list[_Cut]) -> Counts:
        """Multiple and balance where the text is silent: from the rows that mark a repeat, or else from any count."""
        boxed = [c for c in cuts if c.open and not c.plain and c.box]
        if boxed:
            multiple = math.lcm(*(max(1, _taken(c.box)) for c in boxed))
            return multiple, max(c.outside for c in cuts if c.open)
        whole = [c for c in cuts if not c.open and c.box]
        if whole:
            return max(1, _taken(whole[0].box)), 0
        return 1, max((c.outside for c in cuts), default=0)

    def fitted(self, cut: _Cut, have: Counts, *, fixed: bool) -> _Cut:
        """The open repeat worked as often as the stitches on the needle allow; unchanged where it does not fit."""
        one = _taken(cut.box)
        if not cut.open or not one:
            return cut
        if fixed or (cut.outside and not have[1]):
            times, rest = divmod(sum(have) - cut.outside, one)
            if not fixed and times < 1:
                return cut
            return (
                replace(cut, before=Placed(), box=cut.before + cut.box * times + cut.after, after=Placed())
                if times >= 0 and not rest
                else cut
            )
        more, rest = divmod(have[1] - cut.outside, one)
        if more < 0 or rest or have[0] % one:
            return cut
        return replace(cut, before=cut.before + cut.box * more, box=cut.box * (have[0] // one))

    def chart_row(self, row: ReadRow, cut: _Cut) -> ChartRow:
        placed = cut.before + cut.box + cut.after
        parts = [part.ops for part in (cut.before, cut.box, cut.after)]
        if row.side is Side.WS:
            parts = [wrong_side_row(part) for part in reversed(parts)]
        written = Written(placed.spots, self.lines)
        return ChartRow(box=parts[1], before=parts[0], after=parts[2], side=row.side, written=written)

    def as_set(self, row: ReadRow, below: ChartRow | None, shown: tuple[Face, ...]) -> ChartRow:
        """Each loop that the row below leaves, whose faces are `shown`, worked in its own face or in the other one."""
        assert isinstance(row.nodes, AsSet)
        if below is None:
            self.bad("This is the first row: there are no knits and purls below it yet.", row.nodes.at)
            return ChartRow(box=(), side=row.side)
        ops = tuple(Stitch(face.other if row.nodes.changed else face) for face in shown)
        a = makes(below.before)
        b = a + makes(below.box)
        return ChartRow(
            box=ops[a:b],
            before=ops[:a],
            after=ops[b:],
            side=row.side,
            written=Written((row.nodes.at,) * len(ops), self.lines),
        )


def _hides_open_repeat(node: Node) -> bool:
    if isinstance(node, Item):
        return False
    return any(isinstance(n, Repeat) and (n.times is None or _hides_open_repeat(n)) for n in node.items)


def _first_at(nodes: tuple[Node, ...]) -> int:
    return nodes[0].at if nodes else 0
