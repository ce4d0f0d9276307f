"""Turns a chart into a network of springs: loops are nodes, courses and legs are springs, a tile wraps round."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..notation import Chart, Face, MadeLoop, Op, made_loops, makes, takes

Ints = NDArray[np.int64]
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Network:
    """A tile of `loops` loops that repeats sideways and upwards.

    `row`, `place`: each loop's row and place in it (right to left), both from 0. `sign`: +1 knit, -1 purl.
    `depth`: +1 where its strand passes in front, -1 behind. Springs are index pairs (from, to):
    `course` from a loop to its left neighbour, `course_wrap` 1 where that lies in the next tile;
    `leg` from a parent to its child, `leg_up` 1 where the parent lies in the tile below and `leg_side`
    the number of tiles the parent lies to the left; `bend` pairs of legs (indices into `leg`) on one strand.
    `knob` is the size of a loop's bobble, less than 0 behind, and `hole` 1 where it is a yarn over.
    """

    rows: int
    counts: tuple[int, ...]
    row: Ints
    place: Ints
    sign: Floats
    depth: Ints
    course: Ints
    course_wrap: Ints
    leg: Ints
    leg_up: Ints
    leg_side: Ints
    bend: Ints
    knob: Ints
    hole: Ints

    @property
    def loops(self) -> int:
        """How many loops the tile has."""
        return int(self.row.size)


TileLoop = tuple[MadeLoop, tuple[tuple[int, int], ...]]


def tile_rows(chart: Chart, repeats: int = 0) -> list[list[TileLoop]]:
    """The loops of each row, right to left, with their parents as (place, tiles to the left).

    With `repeats` the whole chart is wrapped, edges and all; with 0 only the box is, which is the
    endless texture. A box that begins later in one row than in another wraps through the seam.
    """
    out = []
    for row in chart.rows:
        ops: tuple[Op, ...] = row.ops(repeats) if repeats else row.box
        outside: tuple[Op, ...] = () if repeats else row.before
        taken, made = takes(ops), makes(ops)
        taken_before, made_before = takes(outside), makes(outside)
        loops: list[tuple[int, TileLoop]] = []
        for i, loop in enumerate(made_loops(ops)):
            tile, place = divmod(i + made_before, made)
            at = (divmod(p + taken_before, taken) for p in loop.parents)
            loops.append((place, (loop, tuple((column, side - tile) for side, column in at))))
        out.append([loop for _, loop in sorted(loops, key=lambda pair: pair[0])])
    return out


def build(chart: Chart, repeats: int = 0) -> Network:
    """The network of one tile of the chart."""
    rows = tile_rows(chart, repeats)
    counts = tuple(len(r) for r in rows)
    starts = np.concatenate(([0], np.cumsum(counts)))[:-1].astype(np.int64)
    course: list[tuple[int, int, int]] = []
    legs: list[tuple[int, int, int, int]] = []
    main_leg: dict[int, int] = {}  # child -> the leg of its first parent, which is the strand one sees
    for r, loops in enumerate(rows):
        base = int(starts[r])
        below = int(starts[r - 1])
        n = len(loops)
        course += [(base + i, base + (i + 1) % n, int(i + 1 == n)) for i in range(n)]
        for i, (_, parents) in enumerate(loops):
            for k, (parent, side) in enumerate(parents):
                if k == 0:
                    main_leg[base + i] = len(legs)
                legs.append((below + parent, base + i, int(r == 0), side))
    flat = [loop for loops in rows for loop, _ in loops]
    bends = [(leg, main_leg[child]) for leg, child in _strands(legs, main_leg)]
    c, lg = np.array(course, np.int64).reshape(-1, 3), np.array(legs, np.int64).reshape(-1, 4)
    return Network(
        rows=len(rows),
        counts=counts,
        row=np.repeat(np.arange(len(rows)), counts),
        place=np.concatenate([np.arange(n) for n in counts]),
        sign=_signs(flat, lg),
        depth=np.array([loop.depth for loop in flat], np.int64),
        course=c[:, :2],
        course_wrap=c[:, 2],
        leg=lg[:, :2],
        leg_up=lg[:, 2],
        leg_side=lg[:, 3],
        bend=np.array(bends, np.int64).reshape(-1, 2),
        knob=np.array([loop.knob for loop in flat], np.int64),
        hole=np.array([loop.hole for loop in flat], np.int64),
    )


def _strands(legs: list[tuple[int, int, int, int]], main_leg: dict[int, int]) -> list[tuple[int, int]]:
    """(leg below, child of the leg above) wherever a strand runs on through a loop."""
    return [(main_leg[parent], child) for child, at in main_leg.items() if (parent := legs[at][0]) in main_leg]


def _signs(loops: list[MadeLoop], legs: Ints) -> Floats:
    """+1 knit, -1 purl; a slipped loop has the face of the loop that it is."""
    sign = np.array([1.0 if loop.face is Face.KNIT else -1.0 for loop in loops])
    slipped = [(int(parent), int(child)) for parent, child, *_ in legs if loops[int(child)].slipped]
    for _ in range(2 if slipped else 0):  # once more for those that were slipped through the tile's top
        for parent, child in slipped:
            sign[child] = sign[parent]
    return sign
