"""Turns charts and worked rows into networks of springs: loops are nodes, courses and legs are springs.

A tile repeats sideways and upwards without end; a piece has edges, a cast-on and a last row.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..notation import Chart, Op, makes, takes
from .runs import Floats, Ints, Run, run_of


@dataclass(frozen=True, kw_only=True)
class Network:
    """`loops` loops in `rows` rows; the order of loops is row by row, right to left in each.

    `row`, `place`: each loop's row and place in it, from 0. `sign`: +1 knit, -1 purl. `depth`: +1 where its
    strand passes in front, -1 behind. `knob` is the size of its bobble, less than 0 behind; `hole` 1 where it is
    a yarn over; `slipped` 1 where it was passed on unworked, 2 where a short row did not reach it.

    Springs are index pairs (from, to). `course` leads from a loop to its left neighbour, `course_wrap` 1 where
    that lies in the next tile. `leg` leads from a parent to its child, `leg_up` 1 where the parent lies in the
    tile below, `leg_side` the number of tiles the parent lies to the left; `leg_weight` is less than 1 where the
    child hangs from a bar, more where it was passed on unworked. `bend` has pairs of legs (indices into `leg`) on
    one strand, `strand` the leg that a loop's strand comes up by, −1 where it begins.

    `closed`: rows run round. `endless`: it is a tile, whose last row is followed by its first. `band`: rows of one band
    lie between two changes of count, or are shaped and know their columns. `column`: each loop's column in its band,
    in the order of the row; −1 where rows lie above each other by place. `tall`: how high each loop is to be, as a part
    of what its texture wants: less than 1 on the outside of a bend that is laid straight.
    """

    counts: Ints
    row: Ints
    place: Ints
    sign: Floats
    depth: Ints
    knob: Ints
    hole: Ints
    slipped: Ints
    course: Ints
    course_wrap: Ints
    leg: Ints
    leg_up: Ints
    leg_side: Ints
    leg_weight: Floats
    bend: Ints
    strand: Ints
    closed: bool
    endless: bool
    band: Ints
    column: Ints
    tall: Floats

    @property
    def tied(self) -> bool:
        """Whether all rows share one way round."""
        return bool(self.course_wrap.any())

    @property
    def rows(self) -> int:
        """How many rows it has; in a piece the cast-on is the first."""
        return int(self.counts.size)

    @property
    def loops(self) -> int:
        """How many loops it has."""
        return int(self.row.size)

    @property
    def starts(self) -> Ints:
        """The index of each row's first loop."""
        return _starts(self.counts)


def _starts(counts: Ints) -> Ints:
    return np.concatenate(([0], np.cumsum(counts)))[:-1].astype(np.int64)


@dataclass(frozen=True)
class _Row:
    """A row ready to be joined: its run, and for every leg the tiles its parent lies to the left."""

    run: Run
    side: Ints


def build_tile(chart: Chart, repeats: int = 0) -> Network:
    """The network of one tile of the chart.

    With `repeats` the whole chart is wrapped, edges and all; with 0 only the box is, which is the
    endless texture. A box that begins later in one row than in another wraps through the seam.
    """
    rows = [_tile_row(chart, at, repeats) for at in range(chart.height)]
    return _join(rows, closed=True, endless=True)


def _tile_row(chart: Chart, at: int, repeats: int) -> _Row:
    row = chart.rows[at]
    run = run_of(row.ops(repeats) if repeats else row.box)
    outside: tuple[Op, ...] = () if repeats else row.before
    shift_down, shift = takes(outside), makes(outside)
    tile, place = np.divmod(np.arange(run.makes) + shift, run.makes)
    side, parent = np.divmod(run.parent + shift_down, run.takes)
    order = np.argsort(place, kind="stable")
    turned = replace(
        run,
        sign=run.sign[order],
        depth=run.depth[order],
        knob=run.knob[order],
        hole=run.hole[order],
        slipped=run.slipped[order],
        parent=parent,
        child=place[run.child],
    )
    return _Row(turned, side - tile[run.child])


def build_piece(
    rows: Sequence[Sequence[tuple[Op, ...]]],
    *,
    in_the_round: bool = False,
    meets: bool = False,
    tapers: bool = False,
    columns: Sequence[Ints | None] = (),
) -> Network:
    """The network of a piece: `rows` from the bottom, each in parts from the right, above a cast-on.

    Where the ends are joined (`meets`) the cast-on is the row of the join: its loops stand on those of the last row.
    Rounds that `taper` each have a way round of their own: no spring ties a round's last loop to its first.

    `columns` has for the cast-on and each row the columns of its loops, rising from the right, or None where a row has
    none.

    Parts that are the same object are turned into arrays once, so rows that come round again cost little.
    Raises ValueError where a row does not take what the row below made.
    """
    known: dict[int, Run] = {}

    def run(ops: tuple[Op, ...]) -> Run:
        if id(ops) not in known:
            known[id(ops)] = run_of(ops)
        return known[id(ops)]

    joined = [_beside([run(ops) for ops in parts if ops]) for parts in rows]
    first = joined[0]
    above = _above(first)
    # the cast-on folds with the rows above it: as a rib's does, and as little as garter's or seed's
    folds, held = first.sign, above
    if len(joined) > 1 and joined[1].takes == first.makes:
        folds, then = joined[1].sign, _above(joined[1])
        held = np.where(above >= 0, then[above], -1)
    none, zero = np.zeros(0, np.int64), np.zeros(first.takes, np.int64)
    sign = np.where(held >= 0, folds[held], 1.0)
    below = np.arange(first.takes) if meets and joined[-1].makes == first.takes else none
    cast_on = Run(
        takes=len(below),
        sign=sign,
        depth=zero,
        knob=zero,
        hole=zero,
        slipped=zero,
        parent=below,
        child=below,
        weight=np.ones(len(below)),
    )
    made = first.takes
    for number, each in enumerate(joined, start=1):
        if each.takes != made:
            raise ValueError(f"row {number} takes {each.takes} loops, but there are {made}")
        made = each.makes
    tied = in_the_round and not tapers
    plain = [_bars(each, closed=tied) for each in joined]
    net = _join([_Row(cast_on, np.zeros_like(below)), *plain], closed=tied, endless=False)
    net = replace(net, closed=in_the_round)
    return _with_columns(net, columns) if any(c is not None for c in columns) else net


def _with_columns(net: Network, columns: Sequence[Ints | None]) -> Network:
    """The network with its columns told; between two rows that have them a change of count parts no band."""
    told = [c is not None and len(c) == n for c, n in zip(columns, net.counts, strict=True)]
    column = [
        c if ok and c is not None else np.full(n, -1, np.int64)
        for c, ok, n in zip(columns, told, net.counts, strict=True)
    ]
    changes = (np.diff(net.counts) != 0) & ~(np.array(told[1:]) & np.array(told[:-1]))
    return replace(net, column=np.concatenate(column), band=np.cumsum(np.concatenate(([0], changes))))


def _above(run: Run) -> Ints:
    """For each loop a row takes, the loop it holds up; −1 where it holds none."""
    out = np.full(run.takes, -1, np.int64)
    whole = run.weight >= 1.0
    out[run.parent[whole]] = run.child[whole]
    return out


def _beside(runs: list[Run]) -> Run:
    """Runs side by side as one."""
    taken = np.cumsum([0] + [r.takes for r in runs])
    made = np.cumsum([0] + [r.makes for r in runs])
    return Run(
        takes=int(taken[-1]),
        sign=np.concatenate([r.sign for r in runs]),
        depth=np.concatenate([r.depth for r in runs]),
        knob=np.concatenate([r.knob for r in runs]),
        hole=np.concatenate([r.hole for r in runs]),
        slipped=np.concatenate([r.slipped for r in runs]),
        parent=np.concatenate([r.parent + t for r, t in zip(runs, taken, strict=False)]),
        child=np.concatenate([r.child + m for r, m in zip(runs, made, strict=False)]),
        weight=np.concatenate([r.weight for r in runs]),
    )


def _bars(run: Run, *, closed: bool) -> _Row:
    """Bars that would reach beyond the row go round it, or are dropped where it ends."""
    side, parent = np.divmod(run.parent, run.takes)
    if closed:
        return _Row(replace(run, parent=parent), side)
    inside = side == 0
    kept = replace(run, parent=parent[inside], child=run.child[inside], weight=run.weight[inside])
    return _Row(kept, side[inside])


def _join(rows: list[_Row], *, closed: bool, endless: bool) -> Network:
    counts = np.array([r.run.makes for r in rows], np.int64)
    starts = _starts(counts)
    total = int(counts.sum())
    row = np.repeat(np.arange(len(rows)), counts)
    place = np.arange(total) - starts[row]
    last = place == counts[row] - 1
    course = np.stack((np.arange(total), np.where(last, starts[row], np.arange(total) + 1)), axis=1)
    course_wrap = last.astype(np.int64)
    if not closed:
        course, course_wrap = course[~last], course_wrap[~last]
    legs = np.array([r.run.parent.size for r in rows])
    of = np.repeat(np.arange(len(rows)), legs)
    parent = np.concatenate([r.run.parent for r in rows]) + np.roll(starts, 1)[of]
    child = np.concatenate([r.run.child for r in rows]) + starts[of]
    weight = np.concatenate([r.run.weight for r in rows])
    strand = np.full(total, -1, np.int64)
    whole = np.flatnonzero(weight >= 1.0)[::-1]  # the first parent is the strand one sees, so it is written last
    strand[child[whole]] = whole
    under = strand[parent[strand]]
    runs_on = (strand >= 0) & (under >= 0)
    slipped = np.concatenate([r.run.slipped for r in rows])
    sign = _signs(np.concatenate([r.run.sign for r in rows]), slipped, parent[strand], endless=endless)
    up = (of == 0).astype(np.int64)
    changes = np.concatenate(([0], np.diff(counts) != 0))
    return Network(
        counts=counts,
        row=row,
        place=place,
        sign=sign,
        depth=np.concatenate([r.run.depth for r in rows]),
        knob=np.concatenate([r.run.knob for r in rows]),
        hole=np.concatenate([r.run.hole for r in rows]),
        slipped=slipped,
        course=course,
        course_wrap=course_wrap,
        leg=np.stack((parent, child), axis=1),
        leg_up=up,
        leg_side=np.concatenate([r.side for r in rows]),
        leg_weight=weight,
        bend=np.stack((under[runs_on], strand[runs_on]), axis=1),
        strand=strand,
        closed=closed,
        endless=endless,
        band=np.zeros(len(rows), np.int64) if endless else np.cumsum(changes),
        column=np.full(total, -1, np.int64),
        tall=np.ones(total),
    )


def _signs(sign: Floats, slipped: Ints, parent: Ints, *, endless: bool) -> Floats:
    """+1 knit, -1 purl; a slipped loop has the face of the loop that it is."""
    out = sign.copy()
    passed = np.flatnonzero(slipped)
    for _ in range(2 if endless else 1):  # once more for those that were slipped through the tile's top
        for child in passed:
            out[child] = out[parent[child]]
    return out


__all__ = ["Floats", "Ints", "Network", "build_piece", "build_tile"]
