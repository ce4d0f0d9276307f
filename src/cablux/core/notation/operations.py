"""Operations: what is done to loops on the left needle to make loops on the right one.

Everything is stored as seen from the right side, loops counted right to left. `wrong_side()` gives the
same thing as a person works it with the wrong side facing, and is its own inverse.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
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


@dataclass(frozen=True)
class MadeLoop:
    """A loop an operation makes: its parents (indices into the taken loops, right to left), face and depth.

    `depth` is +1 where the loop's strand passes in front, -1 behind, 0 in the plane of the fabric.
    """

    parents: tuple[int, ...]
    face: Face
    depth: int = 0
    twisted: bool = False


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


@dataclass(frozen=True)
class Stitch(Op):
    """A plain knit or purl stitch, through the back loop if `tbl`."""

    face: Face
    tbl: bool = False

    @property
    def takes(self) -> int:
        return 1

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return (MadeLoop((0,), self.face, 0, self.tbl),)

    @property
    def token(self) -> str:
        return f"{self.face}1 tbl" if self.tbl else f"{self.face}1"

    def wrong_side(self) -> Stitch:
        return replace(self, face=self.face.other)

    def mirrored(self) -> Stitch:
        return self


@dataclass(frozen=True)
class YarnOver(Op):
    """A loop made from nothing, which leaves a hole."""

    @property
    def takes(self) -> int:
        return 0

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return (MadeLoop((), Face.KNIT),)

    @property
    def token(self) -> str:
        return "yo"

    def wrong_side(self) -> YarnOver:
        return self

    def mirrored(self) -> YarnOver:
        return self


@dataclass(frozen=True)
class Increase(Op):
    """Make one from the bar between two stitches (M1), twisted shut, leaning left or right.

    A twist keeps its hand when it is seen from the other side, so only the face changes there.
    """

    lean: Lean = Lean.LEFT
    face: Face = Face.KNIT

    @property
    def takes(self) -> int:
        return 0

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return (MadeLoop((), self.face, 0, True),)

    @property
    def token(self) -> str:
        return f"M1{'P' if self.face is Face.PURL else ''}{self.lean}"

    def wrong_side(self) -> Increase:
        return replace(self, face=self.face.other)

    def mirrored(self) -> Increase:
        return replace(self, lean=self.lean.other)


@dataclass(frozen=True)
class Decrease(Op):
    """Two stitches worked as one: k2tog and ssk, and on the other side p2tog and ssp.

    The stitch on top is the one that the decrease leans away from: of k2tog the left one.
    """

    lean: Lean
    face: Face = Face.KNIT

    @property
    def takes(self) -> int:
        return 2

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        parents = (1, 0) if self.lean is Lean.RIGHT else (0, 1)
        return (MadeLoop(parents, self.face),)

    @property
    def token(self) -> str:
        if self.face is Face.KNIT:
            return "k2tog" if self.lean is Lean.RIGHT else "ssk"
        return "p2tog" if self.lean is Lean.RIGHT else "ssp"

    def wrong_side(self) -> Decrease:
        return replace(self, face=self.face.other)

    def mirrored(self) -> Decrease:
        return replace(self, lean=self.lean.other)


K = Stitch(Face.KNIT)
P = Stitch(Face.PURL)
YO = YarnOver()
K2TOG = Decrease(Lean.RIGHT)
SSK = Decrease(Lean.LEFT)


def takes(ops: tuple[Op, ...]) -> int:
    """Loops a run of operations takes."""
    return sum(op.takes for op in ops)


def makes(ops: tuple[Op, ...]) -> int:
    """Loops a run of operations makes."""
    return sum(op.makes for op in ops)


def made_loops(ops: tuple[Op, ...]) -> tuple[MadeLoop, ...]:
    """Every loop of a row in right-side order, parents as indices into the row below."""
    out: list[MadeLoop] = []
    start = 0
    for op in ops:
        for loop in op.made:
            out.append(replace(loop, parents=tuple(start + i for i in loop.parents)) if start else loop)
        start += op.takes
    return tuple(out)


def faces(ops: tuple[Op, ...]) -> tuple[Face, ...]:
    """The faces a row shows on the right side, right to left."""
    return tuple(loop.face for op in ops for loop in op.made)


def wrong_side_row(ops: tuple[Op, ...]) -> tuple[Op, ...]:
    """A row as it is read with the other side facing; its own inverse."""
    return tuple(op.wrong_side() for op in reversed(ops))


def mirrored_row(ops: tuple[Op, ...]) -> tuple[Op, ...]:
    """A row with left and right exchanged; its own inverse."""
    return tuple(op.mirrored() for op in reversed(ops))
