"""A bent band: short rows that reach from its outside edge, so many in each zone as the radius wants."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from itertools import accumulate, pairwise

from ..errors import IllegalPiece
from ..shaping.lives import PLAIN_ROW, Lives, RowShaping
from .piece import BandView
from .plane import Plane
from .widths import body_row_um, stitch_widths

ZONE = 12
"""Our choice: short rows turn in the middle of a ground, in wide ones every twelve stitches: few places to mind."""
EDGE = 2
"""Our choice: a short row works two stitches or more, and leaves two or more."""


@dataclass(frozen=True)
class Wedges:
    """The rows of a bent band, in pairs: for each the stitches, from the inside edge, that it leaves; 0 works them all.

    `turns` are the places at which a short row may turn, and `pairs` how many short pairs turn at each. `inside`: how
    many pairs the inside edge itself is long.
    """

    rows: tuple[int, ...]
    turns: tuple[int, ...]
    pairs: tuple[int, ...]
    inside: float

    @property
    def whole(self) -> int:
        """How many pairs go all the way across."""
        return self.rows.count(0)


def turning_places(view: BandView) -> tuple[int, ...]:
    """Where a short row may turn, in stitches from the right edge: within plain grounds, else between segments."""
    starts, out = [0, *accumulate(s.stitches for s in view.segments)], set[int]()
    for at, (s, start) in enumerate(zip(view.segments, starts, strict=False)):
        if s.is_ground and s.steady and s.chart.height <= 2 and s.stitches > 1:
            parts = 1 + max(1, round(s.stitches / ZONE))
            out.update(start + s.stitches * k // parts for k in range(1, parts))
        elif s.is_panel and at and view.segments[at - 1].is_panel:
            out.add(start)
    return tuple(sorted(c for c in out if EDGE <= c <= view.stitches - EDGE))


@lru_cache(maxsize=256)
def plan_wedges(view: BandView) -> Wedges:
    """How often each zone is worked, nearest to its length round the bend. Raises IllegalPiece for too tight a bend.

    A zone at the distance d from the inside edge of radius r is (r + d) / r as long as that edge, so it wants as many
    times its rows.
    """
    shaping = view.shaping
    assert shaping is not None and shaping.bend is not None, "only bent bands come here"
    bend, measure = shaping.bend, view.measure
    turns = turning_places(view)
    if bend.inside == "left":
        turns = tuple(sorted(view.stitches - c for c in turns))
    if not turns:
        raise IllegalPiece("Short rows have no place to turn in this band: put a background beside its panels.")
    ends = (*turns, view.stitches)
    widths = [um / 1000.0 for um in stitch_widths(view.segments, measure)]
    across = [0.0, *accumulate(widths if bend.inside == "right" else widths[::-1])]
    inside = shaping.stations[-1].at_mm * 1000.0 / body_row_um(view) / 2.0
    longer = [1.0 + (across[a] + across[b]) / 2.0 / bend.radius_mm for a, b in zip((0, *turns), ends, strict=True)]
    reached = [max(1, round(inside * each)) for each in longer]
    whole = reached[0]
    pairs = tuple(b - a for a, b in pairwise(reached))
    rows: list[int] = []
    for n in range(whole):
        for place, many in zip(turns, pairs, strict=True):  # all in step, so that they make wedges
            rows += [place] * (math.floor((n + 1) * many / whole + 0.5) - math.floor(n * many / whole + 0.5))
        rows.append(0)
    return Wedges(tuple(rows), turns, pairs, whole / longer[0])


def bent_rows(view: BandView) -> tuple[tuple[int, int] | None, ...]:
    """What each row works, in stitches from the right: (first, beyond the last); None where it works them all.

    Bent to the right, short rows begin at the left edge, after the right-side row of a whole pair; bent to the left
    they begin at the right edge, before it.
    """
    shaping = view.shaping
    assert shaping is not None and shaping.bend is not None, "only bent bands come here"
    right, count, out = shaping.bend.inside == "right", view.stitches, list[tuple[int, int] | None]()
    wedge: list[tuple[int, int] | None] = []
    for left in plan_wedges(view).rows:
        if left:
            reach = (left, count) if right else (0, count - left)
            wedge += [reach, reach]
            continue
        out += [None, *wedge, None] if right else [*wedge, None, None]
        wedge = []
    return tuple(out)


def bent_lives(plane: Plane) -> Lives:
    """All columns live in every row; short rows reach some of them."""
    count = plane.view.stitches
    lanes = [(at, c) for at, s in enumerate(plane.view.segments) for c in range(s.stitches)]
    assert len(lanes) == count, "each stitch has a column"
    rows = bent_rows(plane.view)
    return Lives(tuple(lanes), tuple(PLAIN_ROW if reach is None else RowShaping(reach=reach) for reach in rows))


def bent_numbers(plane: Plane) -> tuple[tuple[int, ...], ...]:
    """The chart rows of all lanes: each goes on only in the rows that reach it."""
    return reached_numbers(plane, bent_lives(plane))


def reached_numbers(plane: Plane, lives: Lives, below: int = 0) -> tuple[tuple[int, ...], ...]:
    """The chart rows of all lanes in short rows: each goes on only in the rows that reach it, `below` rows done."""
    done, out = [below] * len(plane.lanes), []
    for living, row in zip(lives.living, lives.rows, strict=False):
        low, high = row.reach or (0, len(living))
        for at in {lane for lane, _ in living[low:high]}:
            done[at] += 1
        out.append(tuple((max(1, n) - 1) % lane.chart.height + 1 for n, lane in zip(done, plane.lanes, strict=True)))
    return tuple(out)
