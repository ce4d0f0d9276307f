"""What can go wrong in a row, and where."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from ..errors import CabluxError

MistakeKind = Literal[
    "crossing-missed",
    "crossing-early",
    "wrong-lean",
    "wrong-group",
    "ridge-missed",
    "knit-for-purl",
    "stitch-lost",
    "stitch-gained",
    "dropped",
    "increase-forgotten",
]
MISTAKES: tuple[MistakeKind, ...] = get_args(MistakeKind)
COUNTS: tuple[MistakeKind, ...] = ("stitch-lost", "stitch-gained", "increase-forgotten")
"""Those after which the needle holds one stitch more or fewer."""


class UnlikelyMistake(CabluxError):
    """A mistake that cannot have been made where it is said to lie."""


@dataclass(frozen=True, kw_only=True)
class Mistake:
    """What happened in row `row`, in the section at place `segment` from the right (from 0).

    `stitch`: which stitch of the section, from the right and from 1, as the row left them; 0 where the section has only
    one thing that it can be about, such as its crossing. `seen_at`: the last row that was worked when it was noticed.
    """

    kind: MistakeKind
    row: int
    segment: int
    seen_at: int
    stitch: int = 0
