"""A bent band: short rows that reach from its outside edge, so many in each zone as the radius wants."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import accumulate, pairwise
from typing import Annotated, ClassVar

from ..declared import Gt, Le, Length
from ..errors import IllegalPiece
from ..needle.columns import PLAIN_ROW, ActiveColumns, Column, RowShaping
from ..needle.stations import Begin, PatternStretch, StationCount, StationPlan
from ..piece.own_outline import Caption, OutlinePoint, OwnOutline, PanelCorners
from ..piece.piece import BandView, Shaping
from ..piece.problems import MAX_ROWS
from ..piece.widths import body_row_um, body_um, segment_um, stitch_widths
from .chart_rows import ChartRows, reached_chart_rows
from .manner import Edge
from .placed import check_order, two_ends
from .plane import Plane
from .row_ends import RowEnds, edge_ends

ZONE = 12
"""Our choice: short rows turn in the middle of a background, in wide ones every twelve stitches: few places to mind."""
_EDGE = 2
"""Our choice: a short row works two stitches or more, and leaves two or more."""
CORNERS = 48  # our choice: so many straight lines look like an arc
RADIUS_MM = (10.0, 5_000.0)  # our choice: from a ring for a curtain to a gentle hem


@dataclass(frozen=True, kw_only=True)
class Wedges:
    """The rows of a bent band, in pairs: for each the stitches, from the inside edge, that it leaves; 0 works them all.

    `turns` are the places at which a short row may turn, and `pairs` how many short pairs turn at each.
    `inside_pairs`: how many pairs the inside edge itself is long.
    """

    rows: tuple[int, ...]
    turns: tuple[int, ...]
    pairs: tuple[int, ...]
    inside_pairs: float

    @property
    def whole(self) -> int:
        """How many pairs go all the way across."""
        return self.rows.count(0)


@dataclass(frozen=True, kw_only=True)
class Bent(Shaping):
    """A band that short rows bend: its count stays, and its heights are those of its inside edge, of such a radius."""

    kind: ClassVar[str] = "bend"

    radius_mm: Annotated[Length, Gt(0), Le(500)]
    inside: Edge = "right"

    def count_stations(self, view: BandView) -> tuple[StationCount, ...]:
        """The two ends of a bent band, whose height is that of its inside edge."""
        check_order(self.stations)
        if view.round or len(self.stations) != 2:
            raise IllegalPiece("A bent band is worked flat, from one end to the other, without sections.")
        if not RADIUS_MM[0] <= self.radius_mm <= RADIUS_MM[1]:
            low, high = (mm / 10 for mm in RADIUS_MM)
            raise IllegalPiece(f"The inside of a bend has a radius of {low:g} to {high:g} cm.")
        found, whole = self.wedges(view), (view.stitches, float(body_um(view)))
        rows = 2 * len(found.rows)
        if rows > MAX_ROWS:
            raise IllegalPiece(f"The bend would take {rows} rows; the most is {MAX_ROWS}.")
        return two_ends(self.stations, whole, whole, rows=rows, high_um=2 * found.inside_pairs * body_row_um(view))

    def wedges(self, view: BandView) -> Wedges:
        """How often each zone is worked. Raises IllegalPiece for too tight a bend."""
        return _wedges(view, self)

    def reaches(self, view: BandView) -> tuple[tuple[int, int] | None, ...]:
        """What each row works, in stitches from the right: (first, beyond the last); None where it works them all.

        Bent to the right, short rows begin at the left edge, after the right-side row of a whole pair; bent to the
        left they begin at the right edge, before it.
        """
        right, count, out = self.inside == "right", view.stitches, list[tuple[int, int] | None]()
        wedge: list[tuple[int, int] | None] = []
        for left in self.wedges(view).rows:
            if left:
                reach = (left, count) if right else (0, count - left)
                wedge += [reach, reach]
                continue
            out += [None, *wedge, None] if right else [*wedge, None, None]
            wedge = []
        return tuple(out)

    def columns(self, view: BandView, plan: StationPlan, begin: Begin, *, begun: tuple[Column, ...]) -> ActiveColumns:
        """All columns are there in every row; short rows reach some of them."""
        lanes = tuple((at, c) for at, s in enumerate(view.segments) for c in range(s.stitches))
        rows = (PLAIN_ROW if reach is None else RowShaping(reach=reach) for reach in self.reaches(view))
        return ActiveColumns(lanes, tuple(rows))

    def chart_rows(
        self, view: BandView, active: ActiveColumns, begin: Begin, *, last_crossings: Mapping[int, int]
    ) -> ChartRows:
        """Each lane goes on only in the rows that reach it."""
        return reached_chart_rows(Plane(view), active)

    def row_ends(self, view: BandView, plan: StationPlan, active: ActiveColumns) -> RowEnds:
        """As if it were straight; its picture bends it."""
        return edge_ends(view, plan, active)

    def own_outline(
        self, view: BandView, plan: StationPlan, active: ActiveColumns, *, numbers: ChartRows
    ) -> OwnOutline:
        """The sector of a ring, its panels as rings in it."""
        right = self.inside == "right"
        order = range(len(view.segments)) if right else range(len(view.segments) - 1, -1, -1)
        ends = [0.0, *accumulate(float(segment_um(view.segments[at], view.outlook)) for at in order)]
        length, radius, wide = plan.stations[-1].at_um, self.radius_mm * 1000.0, ends[-1]
        turn = min(length / radius, 2.0 * math.pi - 0.02)

        def sector(low: float, high: float) -> tuple[OutlinePoint, ...]:
            turns = [turn * n / CORNERS for n in range(CORNERS + 1)]
            arcs = [(radius + low, t) for t in turns] + [(radius + high, t) for t in reversed(turns)]
            return tuple(((-1.0 if right else 1.0) * away * math.cos(t), away * math.sin(t)) for away, t in arcs)

        panels = tuple(
            PanelCorners(sector(ends[n], ends[n + 1]), view.segments[at].pattern.family)
            for n, at in enumerate(order)
            if view.segments[at].is_panel
        )
        told = (
            Caption("inside {}, outside {}", (length, length * (radius + wide) / radius)),
            Caption("{} wide, radius inside {}", (wide, radius)),
        )
        return OwnOutline(corners=sector(0.0, wide), panels=panels, captions=told)

    def sentences(
        self, view: BandView, plan: StationPlan, active: ActiveColumns, *, first: int
    ) -> Iterator[PatternStretch]:
        """The short rows, by the stitches that they work."""
        rows = self.reaches(view)
        short: dict[int, list[int]] = {}
        begins = True
        for at, reach in enumerate(rows):
            if reach is None:
                begins = True
                continue
            if begins:
                short.setdefault(reach[1] - reach[0], []).append(first + at)
            begins = not begins
        last, count = first + len(rows) - 1, view.stitches
        whole = len(rows) - 2 * sum(map(len, short.values()))
        text = f"Work in pattern, {whole} rows all the way across, with short rows between them."
        yield PatternStretch(first=first, last=last, sentence=text, calendar=(), before=count, after=count)
        for stitches, turned in sorted(short.items()):
            often = f"{len(turned)} times" if len(turned) > 1 else "once"
            text = f"Work {stitches} stitches, wrap the next and turn, then work back: {often}, as the rows come."
            yield PatternStretch(
                first=turned[0], last=turned[-1] + 1, sentence=text, calendar=tuple(turned), before=count, after=count
            )

    def loop_heights(self, view: BandView) -> tuple[float, ...]:
        """Laid straight: r / (r + d), at the distance d from the inside edge of radius r."""
        each = [um / 1000.0 for um in stitch_widths(view.segments, view.outlook)]
        right = self.inside == "right"
        edges = accumulate(each if right else each[::-1])
        halves = [mm / 2.0 for mm in each]
        across = [edge - half for edge, half in zip(edges, halves, strict=True)]
        tall = [self.radius_mm / (self.radius_mm + d) for d in (across if right else across[::-1])]
        return tuple(tall)

    def mirrored(self, segments: int) -> Bent:
        """Bent the other way."""
        return replace(self, inside="left" if self.inside == "right" else "right")


def turning_places(view: BandView) -> tuple[int, ...]:
    """Where a short row may turn, in stitches from the right edge: within plain backgrounds, else between segments."""
    starts, out = [0, *accumulate(s.stitches for s in view.segments)], set[int]()
    for at, (s, start) in enumerate(zip(view.segments, starts, strict=False)):
        if s.is_background and s.steady and s.chart.height <= 2 and s.stitches > 1:
            parts = 1 + max(1, round(s.stitches / ZONE))
            out.update(start + s.stitches * k // parts for k in range(1, parts))
        elif s.is_panel and at and view.segments[at - 1].is_panel:
            out.add(start)
    return tuple(sorted(c for c in out if _EDGE <= c <= view.stitches - _EDGE))


@lru_cache(maxsize=256)
def _wedges(view: BandView, bend: Bent) -> Wedges:
    """How often each zone is worked, nearest to its length round the bend.

    A zone at the distance d from the inside edge of radius r is (r + d) / r as long as that edge, so it wants as many
    times its rows.
    """
    turns = turning_places(view)
    if bend.inside == "left":
        turns = tuple(sorted(view.stitches - c for c in turns))
    if not turns:
        raise IllegalPiece("Short rows have no place to turn in this band: put a background beside its panels.")
    ends = (*turns, view.stitches)
    widths = [um / 1000.0 for um in stitch_widths(view.segments, view.measure)]
    across = [0.0, *accumulate(widths if bend.inside == "right" else widths[::-1])]
    inside = bend.stations[-1].at_mm * 1000.0 / body_row_um(view) / 2.0
    longer = [1.0 + (across[a] + across[b]) / 2.0 / bend.radius_mm for a, b in zip((0, *turns), ends, strict=True)]
    reached = [max(1, round(inside * each)) for each in longer]
    whole = reached[0]
    pairs = tuple(b - a for a, b in pairwise(reached))
    rows: list[int] = []
    for n in range(whole):
        for place, many in zip(turns, pairs, strict=True):  # all in step, so that they make wedges
            rows += [place] * (math.floor((n + 1) * many / whole + 0.5) - math.floor(n * many / whole + 0.5))
        rows.append(0)
    return Wedges(rows=tuple(rows), turns=turns, pairs=pairs, inside_pairs=whole / longer[0])
