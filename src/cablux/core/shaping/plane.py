"""The plane of a body band: its segments as lanes, its columns counted across, and how wide any run of them is."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from itertools import accumulate

from ..library import find_pattern
from ..needle.chart_columns import Lane, steady_counts
from ..needle.columns import Column
from ..notation import Chart
from ..piece.piece import BandView
from ..piece.widths import segment_um

_REST = "reverse-stockinette"  # common practice: cables stand on purl


@dataclass(frozen=True)
class Plane:
    """The plane of a band. Its inner columns are counted from 0 at the right; the outermost backgrounds go on."""

    view: BandView

    @cached_property
    def first(self) -> int:
        """The lane of the first inner segment: 1 where there is an edge, else 0."""
        return 1 if self.view.sides else 0

    @cached_property
    def lanes(self) -> tuple[Lane, ...]:
        """All lanes from the right, edges among them."""
        out = [Lane(chart=s.chart, repeats=s.repeats) for s in self.view.segments]
        inner = self.view.inner
        background = next((s.chart for s in inner if s.is_background and steady_counts(s.chart)), None)
        rest = background or find_pattern(_REST).chart
        for at, s in enumerate(inner, start=self.first):
            if s.is_panel or not steady_counts(s.chart):
                out[at] = replace(out[at], rest=self._background_beside(at - self.first) or rest)
        for at, side in ((self.first, "open_right"), (self.first + len(inner) - 1, "open_left")):
            if inner[at - self.first].is_background and steady_counts(out[at].chart):
                out[at] = replace(out[at], **{side: True})  # type: ignore[arg-type]
        return tuple(out)

    def _background_beside(self, at: int) -> Chart | None:
        inner = self.view.inner
        near = [inner[i] for i in (at - 1, at + 1) if 0 <= i < len(inner)]
        return next((s.chart for s in near if s.is_background and steady_counts(s.chart)), None)

    @cached_property
    def starts(self) -> tuple[int, ...]:
        """Where each inner lane begins, counted across; and where the last one ends."""
        return (0, *accumulate(s.stitches for s in self.view.inner))

    @property
    def width(self) -> int:
        """Inner columns of the layout."""
        return self.starts[-1]

    def column(self, place: int) -> Column:
        """The lane and column of a place counted across."""
        last = len(self.view.inner) - 1
        at = next((i for i in range(last) if place < self.starts[i + 1]), last)
        return self.first + at, place - self.starts[at]

    def columns(self, low: int, high: int) -> tuple[Column, ...]:
        """The columns of the places from `low` up to but not `high`."""
        return tuple(self.column(place) for place in range(low, high))

    @cached_property
    def lane_um(self) -> tuple[float, ...]:
        """Width of one column of each inner lane, in micrometres: an equal share of its segment's."""
        return tuple(segment_um(s, self.view.measure) / s.stitches for s in self.view.inner)

    @cached_property
    def sides_um(self) -> float:
        """Width of both edges."""
        return float(sum(segment_um(s, self.view.measure) for s in self.view.sides))

    def inner_um(self, low: int, high: int) -> float:
        """Width of the places from `low` up to but not `high`."""
        total, last = 0.0, len(self.lane_um) - 1
        for at, um in enumerate(self.lane_um):
            a = low if at == 0 else max(low, self.starts[at])
            b = high if at == last else min(high, self.starts[at + 1])
            total += max(0, b - a) * um
        return total

    @property
    def grows(self) -> tuple[bool, bool]:
        """Whether the background at the right, and at the left, goes on beyond the layout."""
        inner = self.lanes[self.first : self.first + len(self.view.inner)]
        return inner[0].open_right, inner[-1].open_left
