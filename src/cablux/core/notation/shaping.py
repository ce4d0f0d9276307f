"""Increases and decreases: one loop from the bar, several from one, and one from two or three."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from .operations import Face, Lean, MadeLoop, Op
from .stitches import Stitch

MOST_INTO_ONE = 9  # our choice: more loops than this do not fit into one


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
        return (MadeLoop(parents=(), face=self.face, depth=0, twisted=True),)

    @property
    def token(self) -> str:
        return f"M1{'P' if self.face is Face.PURL else ''}{self.lean}"

    def wrong_side(self) -> Increase:
        return replace(self, face=self.face.other)

    def mirrored(self) -> Increase:
        return replace(self, lean=self.lean.other)


@dataclass(frozen=True)
class Into(Op):
    """Several loops worked into one, such as kfb or k1-yo-k1; None among the parts is a yarn over.

    The parts stand in right-side order. Seen from the other side, and in a mirror, they stand the other way
    round: kfb becomes pbf and kbf.
    """

    parts: tuple[Stitch | None, ...]

    @property
    def takes(self) -> int:
        return 1

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return tuple(
            MadeLoop(parents=(0,), face=p.face, depth=0, twisted=p.tbl)
            if p
            else MadeLoop(parents=(0,), face=Face.KNIT, hole=True)
            for p in self.parts
        )

    @property
    def token(self) -> str:
        short = _FRONT_BACK.get(self.parts)
        return short or "-".join(p.token.replace(" ", "") if p else "yo" for p in self.parts)

    def wrong_side(self) -> Into:
        return Into(tuple(p and p.wrong_side() for p in reversed(self.parts)))

    def mirrored(self) -> Into:
        return Into(self.parts[::-1])


def _front_back() -> dict[tuple[Stitch | None, ...], str]:
    out: dict[tuple[Stitch | None, ...], str] = {}
    for face in Face:
        front, back = Stitch(face), Stitch(face, tbl=True)
        out |= {(front, back): f"{face}fb", (back, front): f"{face}bf"}
    return out


_FRONT_BACK = _front_back()
FRONT_BACK = {name: Into(parts) for parts, name in _FRONT_BACK.items()}

Kind = Literal["plain", "twisted", "passed", "centred"]


@dataclass(frozen=True, kw_only=True)
class Decrease(Op):
    """Two or three stitches worked as one, leaning left or right, or with the middle one on top.

    `plain`: k2tog, k3tog and ssk, sssk. `twisted`: through the back loops (leaning right, each stitch is turned
    round first). `passed`: two together and the third passed over them (sk2p, and its mirror image sskp).
    `centred`: S2KP, which has no lean. With a purled face they are the forms that give the same cloth when
    they are worked from the other side. The first parent is the one that lies on top.
    """

    lean: Lean
    face: Face = Face.KNIT
    count: Literal[2, 3] = 2
    kind: Kind = "plain"

    def __post_init__(self) -> None:
        if (self.kind, self.count) not in _ORDER or (self.kind == "centred" and self.lean is Lean.RIGHT):
            raise ValueError(f"there is no {self.kind} decrease of {self.count} leaning {self.lean}")

    @property
    def takes(self) -> int:
        return self.count

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        order = _ORDER[self.kind, self.count]
        if self.lean is Lean.RIGHT:
            order = tuple(self.count - 1 - i for i in order)
        return (MadeLoop(parents=order, face=self.face, depth=0, twisted=self.kind == "twisted"),)

    @property
    def token(self) -> str:
        return DECREASE_NAMES[self.count, self.kind, self.lean, self.face]

    def wrong_side(self) -> Decrease:
        return replace(self, face=self.face.other)

    def mirrored(self) -> Decrease:
        return self if self.kind == "centred" else replace(self, lean=self.lean.other)


# Which stitch lies on top, next and last, counted from the right, of the decreases that lean left.
_ORDER: dict[tuple[Kind, int], tuple[int, ...]] = {
    ("plain", 2): (0, 1),
    ("plain", 3): (0, 1, 2),
    ("twisted", 2): (0, 1),
    ("passed", 3): (0, 2, 1),
    ("centred", 3): (1, 0, 2),
}
DECREASE_NAMES: dict[tuple[int, Kind, Lean, Face], str] = {
    (2, "plain", Lean.RIGHT, Face.KNIT): "k2tog",
    (2, "plain", Lean.LEFT, Face.KNIT): "ssk",
    (2, "plain", Lean.RIGHT, Face.PURL): "p2tog",
    (2, "plain", Lean.LEFT, Face.PURL): "ssp",
    (2, "twisted", Lean.LEFT, Face.KNIT): "k2tog tbl",
    (2, "twisted", Lean.LEFT, Face.PURL): "p2tog tbl",
    (2, "twisted", Lean.RIGHT, Face.KNIT): "k2tog twisted",
    (2, "twisted", Lean.RIGHT, Face.PURL): "p2tog twisted",
    (3, "plain", Lean.RIGHT, Face.KNIT): "k3tog",
    (3, "plain", Lean.LEFT, Face.KNIT): "sssk",
    (3, "plain", Lean.RIGHT, Face.PURL): "p3tog",
    (3, "plain", Lean.LEFT, Face.PURL): "sssp",
    (3, "passed", Lean.LEFT, Face.KNIT): "sk2p",
    (3, "passed", Lean.LEFT, Face.PURL): "sp2p",
    (3, "passed", Lean.RIGHT, Face.KNIT): "sskp",
    (3, "passed", Lean.RIGHT, Face.PURL): "sspp",
    (3, "centred", Lean.LEFT, Face.KNIT): "S2KP",
    (3, "centred", Lean.LEFT, Face.PURL): "S2PP",
}
DECREASES = {
    name: Decrease(lean=lean, face=face, count=2 if n == 2 else 3, kind=kind)
    for (n, kind, lean, face), name in DECREASE_NAMES.items()
}

K2TOG = Decrease(lean=Lean.RIGHT)
SSK = Decrease(lean=Lean.LEFT)
