"""Operations: what is done to loops on the left needle to make loops on the right one.

Everything is stored as seen from the right side, loops counted right to left. `wrong_side()` gives the
same thing as a person works it with the wrong side facing, and is its own inverse.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property


class Face(StrEnum):
    """Which face of a loop shows on the side one looks at."""

    KNIT = "k"
    PURL = "p"

    @property
    def other(self) -> Face:
        """The face that shows from the other side."""
        return Face.PURL if self is Face.KNIT else Face.KNIT


class Lean(StrEnum):
    """The way the upper strand, or the decrease, travels as the work grows."""

    LEFT = "L"
    RIGHT = "R"

    @property
    def other(self) -> Lean:
        """The mirrored lean."""
        return Lean.RIGHT if self is Lean.LEFT else Lean.LEFT


class Side(StrEnum):
    """The side that faces the knitter while a row is worked."""

    RS = "RS"
    WS = "WS"

    @property
    def other(self) -> Side:
        """The side that faces away."""
        return Side.WS if self is Side.RS else Side.RS


def side_of(number: int) -> Side:
    """The side from which row `number` is worked flat: odd rows from the right side."""
    return Side.RS if number % 2 else Side.WS


@dataclass(frozen=True, kw_only=True)
class MadeLoop:
    """A loop an operation makes: its parents (indices into the taken loops, right to left), face and depth.

    `depth` is +1 where the loop's strand passes in front, -1 behind, 0 in the plane of the fabric (a centre
    group before or behind both others has +2 or -2). A `slipped` loop is the old one, unworked: it keeps
    the face it has, and `face` is only its stand-in where nothing is known. `knob` is a bobble's size, on
    the side from which the chart is seen, or less than 0 behind. A yarn over leaves a `hole`, and has no face
    of its own until it is worked.
    """

    parents: tuple[int, ...]
    face: Face
    depth: int = 0
    twisted: bool = False
    slipped: bool = False
    knob: int = 0
    hole: bool = False


@dataclass(frozen=True)
class Op:
    """One operation. Subclasses give `takes`, `made`, the two views and the two dialects' names."""

    @property
    def takes(self) -> int:
        """Loops taken from the left needle."""
        raise NotImplementedError

    @property
    def made(self) -> tuple[MadeLoop, ...]:
        """Loops put on the right needle, in right-side order."""
        raise NotImplementedError

    @cached_property
    def makes(self) -> int:
        """How many loops it puts on the right needle."""
        return len(self.made)

    @property
    def cells(self) -> int:
        """Cells it fills in a chart: one for each loop it makes."""
        return self.makes

    @property
    def counted(self) -> str:
        """How several in a row are written, with {} for their number (`k{}`); empty where they are not joined."""
        return ""

    @property
    def token(self) -> str:
        """Its name in the over/under dialect, as `parse_op` reads it."""
        raise NotImplementedError

    @property
    def hold_token(self) -> str:
        """Its name in the count-and-hold dialect, or `token` where that dialect has no certain name."""
        return self.token

    def wrong_side(self) -> Op:
        """The same loops as worked (or seen) from the other side."""
        raise NotImplementedError

    def mirrored(self) -> Op:
        """Left and right exchanged."""
        raise NotImplementedError


_MANY = 60  # from here on it is quicker to count equal operations first: rows of 300 hold a few kinds


def _kinds(ops: tuple[Op, ...]) -> dict[int, Op]:
    """The different operations of a row by identity: rows of 300 hold a few, and share them."""
    return dict(zip(map(id, ops), ops, strict=True))


def _tally(ops: tuple[Op, ...]) -> list[tuple[Op, int]]:
    """Operations with how often they stand there, told apart by identity, which needs no look into them."""
    kinds = _kinds(ops)
    return [(kinds[key], n) for key, n in Counter(map(id, ops)).items()]


def takes(ops: tuple[Op, ...]) -> int:
    """Loops a run of operations takes."""
    if len(ops) < _MANY:
        return sum(op.takes for op in ops)
    return sum(n * op.takes for op, n in _tally(ops))


def makes(ops: tuple[Op, ...]) -> int:
    """Loops a run of operations makes."""
    if len(ops) < _MANY:
        return sum(op.makes for op in ops)
    return sum(n * op.makes for op, n in _tally(ops))


def counts(ops: tuple[Op, ...]) -> tuple[int, int]:
    """Loops a run of operations takes, and makes.

    >>> from cablux.core import parse_ops
    >>> counts(parse_ops("k2tog, yo, k1")), counts(parse_ops("k1, m1l, k1"))
    ((3, 3), (2, 3))
    """
    tally = _tally(ops)
    return sum(n * op.takes for op, n in tally), sum(n * op.makes for op, n in tally)


def made_loops(ops: tuple[Op, ...]) -> tuple[MadeLoop, ...]:
    """Every loop of a row in right-side order, parents as indices into the row below."""
    out: list[MadeLoop] = []
    start = 0
    for op in ops:
        for loop in op.made:
            parents = tuple([start + i for i in loop.parents])
            out.append(
                MadeLoop(
                    parents=parents,
                    face=loop.face,
                    depth=loop.depth,
                    twisted=loop.twisted,
                    slipped=loop.slipped,
                    knob=loop.knob,
                    hole=loop.hole,
                )
                if start
                else loop
            )
        start += op.takes
    return tuple(out)


def faces(ops: tuple[Op, ...], below: tuple[Face, ...] = ()) -> tuple[Face, ...]:
    """The faces a row shows on the right side, right to left; slipped loops keep the face they had `below`."""
    if not below or not any(loop.slipped for op in _kinds(ops).values() for loop in op.made):
        return tuple([loop.face for op in ops for loop in op.made])
    return tuple(below[loop.parents[0]] if loop.slipped else loop.face for loop in made_loops(ops))


def wrong_side_row(ops: tuple[Op, ...]) -> tuple[Op, ...]:
    """A row as it is read with the other side facing; its own inverse.

    >>> from cablux.core import parse_ops
    >>> [op.token for op in wrong_side_row(parse_ops("k2, p3"))]
    ['k1', 'k1', 'k1', 'p1', 'p1']
    """
    turned = {key: op.wrong_side() for key, op in _kinds(ops).items()}
    return tuple(map(turned.__getitem__, map(id, reversed(ops))))


def mirrored_row(ops: tuple[Op, ...]) -> tuple[Op, ...]:
    """A row with left and right exchanged; its own inverse.

    >>> from cablux.core import parse_ops
    >>> [op.token for op in mirrored_row(parse_ops("3/3 LC, p2, k1"))]
    ['k1', 'p1', 'p1', '3/3 RC']
    """
    turned = {key: op.mirrored() for key, op in _kinds(ops).items()}
    return tuple(map(turned.__getitem__, map(id, reversed(ops))))
