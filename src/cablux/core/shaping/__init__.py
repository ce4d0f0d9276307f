"""How a band is shaped: each kind of shaping in a file of its own; those that a file can have are listed here."""

from __future__ import annotations

from ..piece.piece import Shaping
from .bend import Bent
from .edges import EdgeShaped
from .heel import Heeled
from .sections import SectionShaped
from .short_rows import ShortRowed
from .spine import Spined

KINDS: tuple[type[Shaping], ...] = (EdgeShaped, SectionShaped, Spined, Bent, Heeled, ShortRowed)

__all__ = ["KINDS", "Bent", "EdgeShaped", "Heeled", "SectionShaped", "ShortRowed", "Spined"]
