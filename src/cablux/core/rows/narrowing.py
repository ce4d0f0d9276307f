"""Narrowing panels: cables that run on into bands which take their columns, and which crossing is their last."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, TypeGuard

from ..needle.chart_columns import crossing_blocks
from ..needle.stations import Begin
from ..notation import Chart, Crossing
from ..piece.piece import BandView, Shaping, count_stations, station_plan
from ..piece.segment import Segment
from ..shaping.sections import SectionShaped
from .endings import REST, Ending, panel_ending

Crossed = Literal["even", "uneven", "lost"]
"""Its two groups stand to each other as in the chart, or not; lost: shaping takes a column of it in that very row."""
Columns = frozenset[int]


@dataclass(frozen=True, kw_only=True)
class Narrowing:
    """A panel that is drawn in, the segment at `at`: the row of its last crossing, and the plain rows above that
    while both its groups live.

    The last is one whose groups are as even as in the chart, and that is not taken away at once. Those above it,
    `left_out` rows of them, are worked as their loops appear. `uneven` and `lost` count the rows below of such
    crossings. `cut`: it is the last of the body itself that is taken away at once. `halved`: as it was wished, the
    last one takes half of the cable; so too where nobody wished it.
    """

    segment: Segment
    at: int
    last_row: int
    after: int
    left_out: int
    uneven: int
    lost: int
    cut: bool
    halved: bool = True


@dataclass(frozen=True, kw_only=True)
class _LaneRow:
    """One row of a lane: its chart, its chart row, its columns below and above, and those that shaping claims.

    `unhalved`: its cables are to be halved as they cross, and in this row none is.
    """

    chart: Chart
    number: int
    below: Columns
    above: Columns
    claimed: Columns
    unhalved: bool


def narrowing_views(view: BandView) -> tuple[BandView, ...]:
    """The bands above a steady one into which its panels run on and are drawn in along lines; empty where none is."""
    out: list[BandView] = []
    for above in view.piece.band_views[view.at + 1 :] if view.shaping is None else ():
        alike = len(above.segments) == len(view.segments)
        if not (above.band.runs_on and alike and cuts_panels(above.shaping)):
            break
        out.append(above)
    return tuple(out) if any(_draws_in(each) for each in out) else ()


def cuts_panels(shaping: Shaping | None) -> TypeGuard[SectionShaped]:
    """Whether a band is shaped in sections that take columns of panels as they come."""
    return isinstance(shaping, SectionShaped) and not shaping.manner.whole_panels


def _draws_in(view: BandView) -> bool:
    """Whether a section with a panel in it ends with fewer columns than it has whole."""
    for s in view.shaping.sections if cuts_panels(view.shaping) else ():
        inside = view.segments[s.first : s.last + 1]
        if any(each.is_panel for each in inside) and 0 <= s.counts[-1] < sum(each.stitches for each in inside):
            return True
    return False


def narrowings(view: BandView, begin: Begin, rows: int) -> tuple[Narrowing, ...]:
    """How each panel of a steady band ends in the bands above it, after so many rows of its charts, which begin there.

    Raises IllegalPiece or Infeasible where those bands cannot be worked.
    """
    lanes: list[list[_LaneRow]] = [[] for _ in view.segments]
    row, offset = begin.row + rows, begin.offset + rows
    for above in narrowing_views(view):
        shaping = above.shaping
        cabled = cuts_panels(shaping) and shaping.cabled
        # where shaping falls depends on whether the rows are odd, unless a cable waits for its crossing to be halved
        found = _lane_rows(above, Begin(row, offset if cabled else offset % 2))
        shift = 0 if view.round else (row + 1) % 2
        for at, s in enumerate(above.segments):
            lanes[at] += _numbered(found[at], s.chart, offset - shift, cabled=cabled)
        height = count_stations(above)[-1].row
        row, offset = row + height, offset + height
    panels = (at for at, s in enumerate(view.segments) if s.is_panel and s.chart.crossing_rows)
    return tuple(_narrowed(view, at, begin, rows=rows, above=lanes[at]) for at in panels if _is_narrow(lanes[at]))


def _numbered(
    rows: Sequence[tuple[Columns, Columns, Columns, Columns]], chart: Chart, offset: int, *, cabled: bool
) -> Iterator[_LaneRow]:
    for r, (below, above, claimed, halved) in enumerate(rows):
        yield _LaneRow(
            chart=chart,
            number=(r + offset) % chart.height + 1,
            below=below,
            above=above,
            claimed=claimed,
            unhalved=cabled and not halved,
        )


@lru_cache(maxsize=64)
def _lane_rows(view: BandView, begin: Begin) -> tuple[tuple[tuple[Columns, Columns, Columns, Columns], ...], ...]:
    """For each lane and row: the columns that live below and above it, those that shaping claims, those it halves."""
    shaping = view.shaping
    if shaping is None:
        raise ValueError("a band that is not shaped draws nothing in")
    active = shaping.columns(view, station_plan(view, begin), begin, begun=())
    active_now = [_by_lane(each, len(view.segments)) for each in active.columns]
    claimed = [
        _by_lane(
            (*row.held, *(c for t in row.taken for c in (t.column, t.into)), *(m.column for m in row.made)),
            len(view.segments),
        )
        for row in active.rows
    ]
    halved = [_by_lane([c for each in row.crossed for c in each.columns], len(view.segments)) for row in active.rows]
    return tuple(
        tuple(
            (active_now[r][at], active_now[r + 1][at], claimed[r][at], halved[r][at]) for r in range(len(active.rows))
        )
        for at in range(len(view.segments))
    )


def _by_lane(columns: Sequence[tuple[int, int]], lanes: int) -> list[Columns]:
    out: list[set[int]] = [set() for _ in range(lanes)]
    for lane, column in columns:
        out[lane].add(column)
    return [frozenset(each) for each in out]


def _is_narrow(rows: Sequence[_LaneRow]) -> bool:
    return bool(rows) and len(rows[-1].above) < len(rows[0].below)


def _narrowed(view: BandView, at: int, begin: Begin, *, rows: int, above: Sequence[_LaneRow]) -> Narrowing:
    """One panel: its crossings from the last one of the body up, by their place among the rows above it."""
    s = view.segments[at]
    found = [*_body_crossing(s, begin.offset, rows), *_crossings(s, above)]
    kinds = [kind for _, kind, _ in found]
    kept, after = 0, 0
    for kept in range(len(found) - 1, -1, -1):
        place, kind, groups = found[kept]
        apart = (n for n, row in enumerate(above) if n > place and not _is_cable(groups, row.above))
        after = next(apart, len(above)) - place - 1
        if place < 0 or (kind == "even" and after >= REST):
            break
    place = found[kept][0] if found else -1
    return Narrowing(
        segment=s,
        at=at,
        last_row=begin.row + rows + place,
        after=after,
        left_out=len(found) - kept - 1 if found else 0,
        uneven=kinds[:kept].count("uneven"),
        lost=kinds[:kept].count("lost"),
        cut=place < 0 and after < REST,
        halved=not all(row.unhalved for row in above),
    )


_Found = tuple[int, Crossed, "tuple[tuple[Columns, Columns], ...]"]


def _body_crossing(s: Segment, offset: int, rows: int) -> Iterator[_Found]:
    """The last crossing of a panel before it is drawn in, counted back from the first row above."""
    for n in range(rows, 0, -1):
        groups = _groups(s.chart, s.repeats, (n - 1 + offset) % s.chart.height + 1)
        if groups:
            yield n - rows - 1, "even", groups
            return


def _crossings(s: Segment, above: Sequence[_LaneRow]) -> Iterator[_Found]:
    """The rows in which a panel would cross while both groups of a crossing live."""
    for at, row in enumerate(above):
        groups = _groups(row.chart, s.repeats, row.number)
        here = tuple((a, b) for a, b in groups if a & row.below and b & row.below)
        if here:
            kinds = {_crossed(a, b, row) for a, b in here}
            yield at, "lost" if "lost" in kinds else "uneven" if "uneven" in kinds else "even", here


def _is_cable(groups: Sequence[tuple[Columns, Columns]], active_now: Columns) -> bool:
    """Whether both groups of a crossing still have a column."""
    return any(a & active_now and b & active_now for a, b in groups)


@lru_cache(maxsize=4096)
def _groups(chart: Chart, repeats: int, number: int) -> tuple[tuple[Columns, Columns], ...]:
    """The crossings of a chart row: the columns of their two outer groups, counted from the right."""
    out = []
    for block in crossing_blocks(chart, repeats, number):
        op = block.ops[0]
        if isinstance(op, Crossing):
            first, centre, last = (len(group) for group in op.groups_taken)
            low, high = block.start + first, block.start + first + centre
            out.append((frozenset(range(block.start, low)), frozenset(range(high, high + last))))
    return tuple(out)


def _crossed(a: Columns, b: Columns, row: _LaneRow) -> Crossed:
    if row.claimed & (a | b):
        return "lost"
    return "even" if len(a & row.below) * len(b) == len(b & row.below) * len(a) else "uneven"


def narrowing_score(found: Sequence[Narrowing]) -> tuple[int, int, int, int]:
    """Stitches of panels that are not halved as was wished, of those with a crossing cut or left out; crossings lost,
    and uneven ones: the fewer the better.
    """
    whole = sum(n.segment.stitches for n in found if not n.halved)
    cut = sum(n.segment.stitches for n in found if n.cut or n.left_out)
    return whole, cut, sum(n.lost for n in found), sum(n.uneven for n in found)


def narrowed_endings(found: Sequence[Narrowing], rows: int, lead: int) -> tuple[Ending, ...]:
    """The same as endings: the plain rows below each panel's first crossing and above its last one."""
    return tuple(
        Ending(
            name=n.segment.pattern.name,
            stitches=n.segment.stitches,
            before=panel_ending(n.segment, rows, lead).before,
            after=n.after,
            whole=False,
            look="cut" if n.cut else "rests",
        )
        for n in found
    )
