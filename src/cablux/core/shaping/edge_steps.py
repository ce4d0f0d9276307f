"""Steps: stitches that go at an edge one lot after the other, bound off or crossed away."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ..declared import Choosing, Ge, Le, Len, StationPlace
from .manner import Edge

StepKind = Literal["bound off", "crossed"]
STEP_EDGES: tuple[Edge, ...] = ("right", "left")
CROSSED = (2, 3)
"""How many stitches a crossing that decreases can take away: of 2 over 2, or of 3 over 3."""
_OTHER: dict[Literal["both", "right", "left"], Literal["both", "right", "left"]] = {
    "right": "left",
    "left": "right",
    "both": "both",
}


@dataclass(frozen=True, kw_only=True)
class EdgeStep(Choosing):
    """Stitches that go at an edge, or at both, in the rows after a station (from 0): such counts one after the other.

    Bound off, they go at the beginnings of rows: right-side rows begin at the right edge, wrong-side rows at the left
    one. Crossed, they go in right-side rows, inside the edge stitches, where as many others are crossed and worked
    together with them.
    """

    station: StationPlace
    counts: Annotated[tuple[Annotated[int, Ge(1), Le(1_500)], ...], Len(1, 30)]
    edge: Literal["both", "right", "left"] = "both"
    kind: StepKind = "bound off"

    @property
    def stitches(self) -> int:
        """All that it takes away."""
        return sum(self.counts) * (2 if self.edge == "both" else 1)

    def rows(self, first: int) -> dict[int, tuple[tuple[Edge, int], ...]]:
        """For each row by its number in the piece, the first after the station being `first`: edges and stitches."""
        sides = [edge for edge in STEP_EDGES if self.edge in ("both", edge)]
        if self.kind == "crossed":
            begin = first + (first + 1) % 2
            return {begin + 2 * n: tuple((edge, count) for edge in sides) for n, count in enumerate(self.counts)}
        left = {edge: list(self.counts) for edge in sides}
        out: dict[int, tuple[tuple[Edge, int], ...]] = {}
        while any(left.values()):
            edge: Edge = "right" if first % 2 else "left"
            if left.get(edge):
                out[first] = ((edge, left[edge].pop(0)),)
            first += 1
        return out

    def mirrored(self) -> EdgeStep:
        """At the other edge."""
        return EdgeStep(station=self.station, counts=self.counts, edge=_OTHER[self.edge], kind=self.kind)
