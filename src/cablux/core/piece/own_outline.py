"""An outline of its own: where the rows of a piece do not lie level, its corners, its panels, and what it measures."""

from __future__ import annotations

from dataclasses import dataclass

from ..units import Unit, length_text

OutlinePoint = tuple[float, float]
"""Micrometres from the middle (less than 0 to the left) and from where the piece begins, upwards."""


@dataclass(frozen=True)
class Measured:
    """A measure of a piece: what it is called (“tip to tip”), and how long it is, µm."""

    name: str
    um: float


@dataclass(frozen=True)
class PanelCorners:
    """Where a panel lies: its corners, and its family."""

    corners: tuple[OutlinePoint, ...]
    family: str


@dataclass(frozen=True)
class Caption:
    """A line beneath the picture: `{}` stands for each of its lengths."""

    words: str
    lengths_um: tuple[float, ...]

    def text(self, unit: Unit) -> str:
        """The line in a unit."""
        return self.words.format(*(length_text(um / 1000.0, unit) for um in self.lengths_um))


@dataclass(frozen=True, kw_only=True)
class OwnOutline:
    """The corners of a piece, where its panels lie, and what is said beneath.

    `hangs`: it is shown as it hangs, what is worked first at the top, turned about and not mirrored.
    `across`, `along`: its two measures; None where those of its rows are what one wants to know.
    """

    corners: tuple[OutlinePoint, ...]
    panels: tuple[PanelCorners, ...]
    captions: tuple[Caption, ...]
    across: Measured | None = None
    along: Measured | None = None
    hangs: bool = False

    @property
    def span_um(self) -> float:
        """How wide the picture of it is."""
        return max(x for x, _ in self.corners) - min(x for x, _ in self.corners)

    @property
    def tall_um(self) -> float:
        """How tall the picture of it is."""
        return max(y for _, y in self.corners) - min(y for _, y in self.corners)
