"""Shaped beside a spine: two wings that grow at both their ends, so that their rows bend and the cloth lies in a V.

Each wing is a trapezoid, its rows parallel. Both lie flat beside the spine only where each is turned about its
beginning until its inner side is upright: by the angle whose tangent is half of what the wing grows, over its height.
So the cloth's outer edges make twice that angle with the spine, a right angle where rows are half as high as stitches
are wide, as in garter.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar

from ..errors import IllegalPiece
from ..needle.columns import ActiveColumns, Column
from ..needle.stations import StationCount, StationPlan
from ..piece.own_outline import Caption, Measured, OutlinePoint, OwnOutline, PanelCorners
from ..piece.piece import BandView
from ..piece.widths import segment_um
from .chart_rows import ChartRows
from .sections import SectionShaped


@dataclass(frozen=True, kw_only=True)
class Spined(SectionShaped):
    """Two sections, the wings, with the spine between them; the rows of each wing lie at an angle to the spine."""

    kind: ClassVar[str] = "spine"

    def count_stations(self, view: BandView) -> tuple[StationCount, ...]:
        """As of any sections. Raises IllegalPiece where there are not two wings, worked flat."""
        if view.round or len(self.sections) != 2:
            raise IllegalPiece("A spine lies between two wings, worked flat: give it one section on either side.")
        return super().count_stations(view)

    def own_outline(
        self, view: BandView, plan: StationPlan, active: ActiveColumns, *, numbers: ChartRows
    ) -> OwnOutline:
        """Both wings turned beside the spine."""
        row_um = plan.stations[-1].at_um / max(1, plan.rows)
        wings = [_Wing(view, self, active, row_um=row_um, right=right) for right in (True, False)]
        rows = [s.row for s in plan.stations]
        outer = [[wing.place(row, wing.width(row) + wing.edge_um) for row in rows] for wing in wings]
        foot = [wing.place(rows[-1], 0.0) for wing in wings]
        corners = (*outer[0], foot[0], foot[1], *reversed(outer[1]))
        panels = tuple(panel for wing in wings for panel in wing.panels(numbers))
        tips = [max(line, key=lambda at: abs(at[0])) for line in outer]
        deep = max(y for _, y in foot)
        across = Measured("tip to tip", tips[0][0] - tips[1][0])
        along = Measured("deep", deep)
        told = (Caption("{} from tip to tip", (across.um,)), Caption("{} deep along the spine", (along.um,)))
        return OwnOutline(corners=corners, panels=panels, captions=told, across=across, along=along, hangs=True)

    def angle(self, view: BandView, plan: StationPlan, active: ActiveColumns) -> float:
        """Between an outer edge and the spine, in degrees: 90 where the upper edge lies straight."""
        row_um = plan.stations[-1].at_um / max(1, plan.rows)
        return 2.0 * math.degrees(_Wing(view, self, active, row_um=row_um, right=True).turn)


class _Wing:
    """One wing, told from its inner side: the distance of a column from there, its rows `row_um` high."""

    def __init__(self, view: BandView, shaping: Spined, active: ActiveColumns, *, row_um: float, right: bool) -> None:
        self.view, self.active, self.row_um, self.right = view, active, row_um, right
        self.section = shaping.sections[0 if right else 1]
        self.each = [segment_um(s, view.outlook) / s.stitches for s in view.segments]
        inside = range(shaping.sections[0].last + 1, shaping.sections[1].first)
        self.spine_um = sum(float(segment_um(view.segments[at], view.outlook)) for at in inside)
        ends = range(self.section.first) if right else range(self.section.last + 1, len(view.segments))
        self.edge_um = sum(float(segment_um(view.segments[at], view.outlook)) for at in ends)
        grown, high = self.width(len(active.rows)) - self.width(0), len(active.rows) * row_um
        self.turn = math.atan2(grown / 2.0, high)

    def columns(self, row: int) -> Sequence[Column]:
        """Those that are there after a row, from the inner side."""
        found = [c for c in self.active.columns[row] if self.section.first <= c[0] <= self.section.last]
        return found[::-1] if self.right else found

    def width(self, row: int) -> float:
        """How wide it is after a row."""
        return sum(self.each[lane] for lane, _ in self.columns(row))

    def place(self, row: int, away: float) -> OutlinePoint:
        """Where a point lies, so far from the inner side after a row."""
        x = away - (self.width(row) - self.width(0)) / 2.0
        y = row * self.row_um
        across = x * math.cos(self.turn) + y * math.sin(self.turn)
        up = y * math.cos(self.turn) - x * math.sin(self.turn)
        return (1.0 if self.right else -1.0) * (across + self.spine_um / 2.0), up

    def panels(self, numbers: ChartRows) -> list[PanelCorners]:
        """Its panels, between the rows in which their charts are worked."""
        out = []
        for at in range(self.section.first, self.section.last + 1):
            s = self.view.segments[at]
            worked = [r for r, each in enumerate(numbers) if each[at] > 0]
            if s.is_panel and worked:
                ends = [(row, *self._ends(row, at)) for row in (worked[0], worked[-1] + 1)]
                near = [self.place(row, low) for row, low, _ in ends]
                far = [self.place(row, high) for row, _, high in ends]
                out.append(PanelCorners((*near, *reversed(far)), s.pattern.family))
        return out

    def _ends(self, row: int, at: int) -> tuple[float, float]:
        """Where a segment begins and ends after a row, from the inner side."""
        columns = self.columns(row)
        mine = [n for n, (lane, _) in enumerate(columns) if lane == at]
        widths = [self.each[lane] for lane, _ in columns]
        return (sum(widths[: mine[0]]), sum(widths[: mine[-1] + 1])) if mine else (0.0, 0.0)
