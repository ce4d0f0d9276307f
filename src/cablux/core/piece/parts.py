"""Parts: how a piece begins where it is not cast on, and how it ends where it is not bound off."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ..declared import Choosing, Len, Name, PieceNumber, Stitches

SourceKind = Literal["held", "picked up"]
HeldJoin = Literal["", "grafted", "three-needle"]
EndKind = Literal["bound off", "held", "drawn together", "grafted together"]


@dataclass(frozen=True, kw_only=True)
class Source(Choosing):
    """Stitches that a part begins with: those on a holder of another piece, or picked up along an edge of one.

    `piece` is that piece's number in the project, `name` the holder's or the edge's.
    """

    kind: SourceKind
    piece: PieceNumber
    name: Name
    stitches: Stitches


@dataclass(frozen=True)
class HeldGroup(Choosing):
    """So many stitches that wait on a holder of their own; `joined`: how they meet those of another piece at last."""

    name: Name
    stitches: Stitches
    joined: HeldJoin = ""


@dataclass(frozen=True)
class PartEnd(Choosing):
    """How a part ends; `groups` are what is left on holders, from the right, where it ends held."""

    kind: EndKind = "bound off"
    groups: Annotated[tuple[HeldGroup, ...], Len(0, 12)] = ()


BOUND_OFF = PartEnd()
