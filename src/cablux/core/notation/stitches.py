"""Stitches that take one loop or none: knit, purl, slipped, yarn overs, bobbles, short-row turns, empty cells."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import ClassVar, Literal

from .operations import Face, MadeLoop, Op


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
        return (MadeLoop(parents=(0,), face=self.face, depth=0, twisted=self.tbl),)

    @property
    def counted(self) -> str:
        return f"{self.face}{{}} tbl" if self.tbl else f"{self.face}{{}}"

    @property
    def token(self) -> str:
        return self.counted.format(1)

    def wrong_side(self) -> Stitch:
        return replace(self, face=self.face.other)

    def mirrored(self) -> Stitch:
        return self


@dataclass(frozen=True)
class _Alike(Op):
    """An operation that looks the same in a mirror and from behind, and has one name."""

    NAME: ClassVar[str] = ""

    @property
    def token(self) -> str:
        return self.NAME

    def wrong_side(self) -> Op:
        return self

    def mirrored(self) -> Op:
        return self


@dataclass(frozen=True)
class Slip(Op):
    """A loop slipped as if to purl, unworked; the yarn lies in front of it or behind it."""

    yarn: Literal["front", "back"] = "back"

    @property
    def takes(self) -> int:
        return 1

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return (MadeLoop(parents=(0,), face=Face.KNIT, slipped=True),)

    @property
    def counted(self) -> str:
        return "sl{} wyif" if self.yarn == "front" else "sl{} wyib"

    @property
    def token(self) -> str:
        return self.counted.format(1)

    def wrong_side(self) -> Slip:
        return Slip("back" if self.yarn == "front" else "front")

    def mirrored(self) -> Slip:
        return self


@dataclass(frozen=True)
class YarnOver(_Alike):
    """Loops made from nothing, which leave a hole: one, or two with the yarn laid over twice."""

    count: Literal[1, 2] = 1

    @property
    def takes(self) -> int:
        return 0

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return (MadeLoop(parents=(), face=Face.KNIT, hole=True),) * self.count

    @property
    def token(self) -> str:
        return "yo" if self.count == 1 else "yo2"


@dataclass(frozen=True)
class Bobble(Op):
    """A bobble of 3, 5 or 7 loops, made and closed in one row; `behind` if it is pushed through to the far side."""

    size: Literal[3, 5, 7] = 5
    behind: bool = False

    @property
    def takes(self) -> int:
        return 1

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        face, knob = (Face.PURL, -self.size) if self.behind else (Face.KNIT, self.size)
        return (MadeLoop(parents=(0,), face=face, knob=knob),)

    @property
    def token(self) -> str:
        return f"MB{self.size} back" if self.behind else f"MB{self.size}"

    def wrong_side(self) -> Bobble:
        return replace(self, behind=not self.behind)

    def mirrored(self) -> Bobble:
        return self


@dataclass(frozen=True)
class _Waiting(_Alike):
    """A loop that is not worked in this row."""

    @property
    def takes(self) -> int:
        return 1

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return (MadeLoop(parents=(0,), face=Face.KNIT, slipped=True),)


@dataclass(frozen=True)
class WrapTurn(_Waiting):
    """Wrap and turn: the yarn goes round the next stitch, which is not worked, and the work is turned."""

    NAME = "w&t"


@dataclass(frozen=True)
class DoubleStitch(_Waiting):
    """The first loop after a turn, pulled up over the needle until both its legs show; it counts as one."""

    NAME = "ds"


@dataclass(frozen=True)
class Leave(_Waiting):
    """A loop that a short row does not reach."""

    NAME = "leave 1"

    @property
    def counted(self) -> str:
        return "leave {}"


@dataclass(frozen=True)
class Hold(_Alike):
    """A loop put on a holder, from which another part of the work goes on."""

    NAME = "hold 1"

    @property
    def takes(self) -> int:
        return 1

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return ()

    @property
    def cells(self) -> int:
        return 1

    @property
    def counted(self) -> str:
        return "hold {}"


@dataclass(frozen=True)
class BindOff(Hold):
    """A loop bound off at the beginning of a row, for an armhole, a neck or a shoulder."""

    NAME = "bind off 1"

    @property
    def counted(self) -> str:
        return "bind off {}"


@dataclass(frozen=True)
class CastOnLoop(_Alike):
    """A new loop on the right needle, cast on over a gap."""

    NAME = "cast on 1"

    @property
    def takes(self) -> int:
        return 0

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return (MadeLoop(parents=(), face=Face.KNIT),)

    @property
    def counted(self) -> str:
        return "cast on {}"


@dataclass(frozen=True)
class _Nothing(_Alike):
    """A mark in the row that works no loop."""

    @property
    def takes(self) -> int:
        return 0

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return ()


@dataclass(frozen=True)
class Turn(_Nothing):
    """The work is turned in the middle of a row, before a double stitch (German short rows)."""

    NAME = "turn"


@dataclass(frozen=True)
class NoStitch(_Nothing):
    """An empty cell, which keeps a chart's columns one above the other; nothing is worked."""

    NAME = "no-st"

    @property
    def cells(self) -> int:
        return 1


K = Stitch(Face.KNIT)
P = Stitch(Face.PURL)
YO = YarnOver()
