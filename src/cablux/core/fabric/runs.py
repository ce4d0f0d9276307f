"""A run of operations as arrays: the loops it makes, and the legs to those it takes."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..notation import Face, Leave, MadeLoop, Op, WrapTurn

Ints = NDArray[np.int64]
Floats = NDArray[np.float64]

SOFT = 0.5
"""Weight of a leg to the loop beside the bar from which a new loop hangs: two of them hold it (our choice)."""

WAITS = 2
"""In place of 1 for a slipped loop: one that a short row does not reach stays where it is, and takes no height."""

TAUT = 9.0
"""Weight of a leg that spans two rows, since its loop was passed on unworked: it is drawn taut (our choice)."""


@dataclass(frozen=True, kw_only=True)
class Run:
    """Loops of a run, right to left, each array of shape (makes,), and its legs of shape (legs,).

    `parent` and `child` are places among the loops taken and made. A loop that is made of none (an increase
    from the bar, a yarn over) hangs from the bar between two loops of the row below: it has a leg of
    weight `SOFT` to each, whose places may be −1 or `takes` where the neighbour belongs to the next run.
    """

    takes: int
    sign: Floats
    depth: Ints
    knob: Ints
    hole: Ints
    slipped: Ints
    parent: Ints
    child: Ints
    weight: Floats

    @property
    def makes(self) -> int:
        """How many loops it makes."""
        return int(self.sign.size)


def run_of(ops: tuple[Op, ...]) -> Run:
    """The arrays of a run of operations."""
    parent: list[int] = []
    child: list[int] = []
    weight: list[float] = []
    loops: list[MadeLoop] = []
    slipped: list[int] = []
    taken = 0
    for op in ops:
        for loop in op.made:
            if loop.parents:
                parent += [taken + p for p in loop.parents]
                child += [len(loops)] * len(loop.parents)
                weight += [TAUT if loop.slipped else 1.0] * len(loop.parents)
            else:
                parent += [taken - 1, taken + op.takes]
                child += [len(loops)] * 2
                weight += [SOFT] * 2
            loops.append(loop)
            slipped.append(WAITS if isinstance(op, Leave | WrapTurn) else int(loop.slipped))
        taken += op.takes
    return Run(
        takes=taken,
        sign=np.array([1.0 if loop.face is Face.KNIT else -1.0 for loop in loops]),
        depth=np.array([loop.depth for loop in loops], np.int64),
        knob=np.array([loop.knob for loop in loops], np.int64),
        hole=np.array([loop.hole for loop in loops], np.int64),
        slipped=np.array(slipped, np.int64),
        parent=np.array(parent, np.int64),
        child=np.array(child, np.int64),
        weight=np.array(weight),
    )
