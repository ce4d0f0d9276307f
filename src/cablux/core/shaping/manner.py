"""The manner of shaping: how a stitch is made or taken away, and in which rows, at edges and in sections alike."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..declared import Choosing
from ..needle.columns import IncreaseKind
from ..needle.schedule import ScheduleManner
from ..notation import Lean

Edge = Literal["right", "left"]
ShapedEdges = Literal["both", "right", "left", "in turn"]
"""Which edges are shaped: in turn means at the beginning of each row, so one edge and then the other."""
EDGES: tuple[ShapedEdges, ...] = ("both", "right", "left", "in turn")
MIRRORED: dict[ShapedEdges, ShapedEdges] = {"right": "left", "left": "right", "both": "both", "in turn": "in turn"}
DecreaseLean = Literal["along", "against", "k2tog"]
"""Decreases lean along the edge, against it, or are the same as they are worked at both."""
LEANS: tuple[DecreaseLean, ...] = ("along", "against", "k2tog")


@dataclass(frozen=True, kw_only=True)
class Manner(Choosing):
    """How stitches are made and taken away.

    `schedule`: in one or two blocks, or as evenly as can be, where no rates are given. `every_row`: wrong-side rows
    are shaped too. `sewn`: crossings keep clear of the edges. `whole_panels`: a panel begins where all of it is there
    and ends before it loses a column, on whole repeats; elsewhere its columns are worked as the background beside it.
    """

    increase: IncreaseKind = "M1"
    lean: DecreaseLean = "along"
    schedule: ScheduleManner = "blocks"
    every_row: bool = False
    sewn: bool = False
    whole_panels: bool = True

    def decrease(self, edge: Edge) -> Lean:
        """Which way a decrease at an edge leans."""
        along = Lean.LEFT if edge == "right" else Lean.RIGHT
        return {"along": along, "against": along.other, "k2tog": Lean.RIGHT}[self.lean]

    def words(self, *, grows: bool) -> str:
        """By which increase, or which way a decrease leans."""
        by = {"M1": "", "yo": "with a yarn over ", "kfb": "by working two into one "}[self.increase]
        leans = {"along": "leaning along the edge ", "against": "leaning against the edge ", "k2tog": "with k2tog "}
        return by if grows else leans[self.lean]


CUT_PANELS = Manner(whole_panels=False)
"""What most shapes want: panels are worked as far as their columns are there."""
