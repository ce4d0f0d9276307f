"""Stations: the counts and rows at which a shaped band comes nearest to its widths, all of them found together."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

from ..errors import IllegalPiece, Infeasible
from ..shaping.outline import HeelKind, Shaping, Station
from ..shaping.schedule import allowed_rows
from .bend import plan_wedges
from .borders import fits_border
from .heel import heel_depth, heel_lives
from .piece import BandView
from .plane import Plane
from .problems import MAX_ROWS, MAX_STITCHES
from .sections import fixed_count, section_changes, section_counts, sections_um
from .station_checks import check_stations
from .widths import body_row_um, body_um

FEWEST = 2
"""Our choice: a needle holds two stitches or more; the last two are drawn together."""
BENDS = (10.0, 5_000.0)  # our choice: from a ring for a curtain to a gentle hem


@dataclass(frozen=True)
class StationCount:
    """A station as it will be: its count after `row` rows of the band, and its width and height in micrometres."""

    station: Station
    row: int
    count: int
    width_um: float
    at_um: float

    @property
    def off_mm(self) -> float:
        """How much wider than wanted it will be."""
        return self.width_um / 1000.0 - self.station.width_mm


def bound_off(shaping: Shaping, station: int) -> int:
    """The stitches bound off in steps after a station."""
    return sum(step.stitches for step in shaping.stepped(station))


def step_rows(view: BandView, shaping: Shaping, station: int, below: int) -> int:
    """The rows that the steps after a station take, `below` rows of the band done."""
    first = view.piece.bottom.rows + 1 + below
    return max((max(step.rows(first)) - first + 1 for step in shaping.stepped(station)), default=0)


def shaping_step(view: BandView, shaping: Shaping) -> int:
    """Every how many rows it may be shaped: in right-side rows only, in flat work, unless every row is wished for."""
    return 1 if view.round or shaping.every_row or shaping.edges == "in turn" else 2


def shaping_lag(view: BandView, shaping: Shaping, below: int) -> int:
    """How many rows earlier than its step's the first row is that may be shaped, `below` rows of the band done."""
    return (view.piece.bottom.rows + 1 + below) % 2 if shaping_step(view, shaping) == 2 else 0


def station_um(plane: Plane, shaping: Shaping, count: int) -> float:
    """Width of a row of `count` stitches."""
    inner = count - plane.view.side_stitches
    if inner < 0:
        return plane.sides_um * count / max(1, plane.view.side_stitches)
    low = {"right": plane.width - inner, "left": 0}.get(shaping.edges, (plane.width - inner) // 2)
    return plane.sides_um + plane.inner_um(low, low + inner)


@lru_cache(maxsize=256)
def count_stations(view: BandView) -> tuple[StationCount, ...]:
    """The stations of a shaped band: the counts whose widths miss by the least, squared and summed; proven.

    Raises IllegalPiece for stations out of order, Infeasible where the rows between two are too few for the change.
    """
    shaping = view.shaping
    assert shaping is not None, "a band without shaping has no stations"
    plane, row_um = Plane(view), body_row_um(view)
    check_stations(view, shaping)
    if shaping.bend is not None:
        return _bent_stations(view, shaping, row_um)
    if shaping.heel is not None:
        return _heel_stations(plane, shaping, shaping.heel, row_um)
    if shaping.short:
        return _short_stations(plane, shaping, row_um)
    rows = _rows(view, shaping, row_um)
    if shaping.sections:
        sections = section_counts(plane, shaping)
        counts = [sum(each) + fixed_count(plane, shaping) for each in zip(*sections, strict=True)]
        for at in (0, len(counts) - 1):
            _fitting(view, shaping, at, [counts[at]])
        changes = [section_changes(shaping, sections, at) for at in range(len(counts))]
        widths = [sections_um(plane, shaping, each) for each in zip(*sections, strict=True)]
    else:
        counts = _counts(plane, shaping, rows)
        lost = [bound_off(shaping, at) for at in range(len(counts))]
        changed = (b - a + gone for (a, b), gone in zip(pairwise(counts), lost, strict=False))
        changes = [0, *(abs(change) // shaping.step for change in changed)]
        widths = [station_um(plane, shaping, count) for count in counts]
    placed: list[int] = []
    for i, wanted in enumerate(rows):
        if wanted is None:
            begin = placed[-1] + step_rows(view, shaping, i - 1, placed[-1])
            wanted = begin + _paced_rows(view, shaping, changes[i], begin)
        if placed and wanted < placed[-1]:
            name, below = shaping.stations[i].name, shaping.stations[i - 1].name
            raise IllegalPiece(
                f"“{name}” comes after row {wanted} of the band, but “{below}” only after row {placed[-1]}; "
                f"give “{name}” a greater height."
            )
        placed.append(wanted)
    if placed[-1] > MAX_ROWS:
        raise IllegalPiece(f"The shaping would take {placed[-1]} rows; the most is {MAX_ROWS}.")
    stations = [  # where counts are what is wanted, the widths follow
        replace(s, width_mm=um / 1000.0) if shaping.sections or (s.count and not s.width_mm) else s
        for s, um in zip(shaping.stations, widths, strict=True)
    ]
    return tuple(
        StationCount(s, row, count, um, row * row_um)
        for s, row, count, um in zip(stations, placed, counts, widths, strict=True)
    )


def _bent_stations(view: BandView, shaping: Shaping, row_um: float) -> tuple[StationCount, ...]:
    """The two ends of a bent band, whose height is that of its inside edge."""
    if view.round or len(shaping.stations) != 2 or shaping.sections:
        raise IllegalPiece("A bent band is worked flat, from one end to the other, without sections.")
    if shaping.bend is not None and not BENDS[0] <= shaping.bend.radius_mm <= BENDS[1]:
        raise IllegalPiece(f"The inside of a bend has a radius of {BENDS[0] / 10:g} to {BENDS[1] / 10:g} cm.")
    wedges, wide = plan_wedges(view), float(body_um(view))
    rows, count = 2 * len(wedges.rows), view.stitches
    if rows > MAX_ROWS:
        raise IllegalPiece(f"The bend would take {rows} rows; the most is {MAX_ROWS}.")
    first, last = shaping.stations
    first, last = (replace(s, width_mm=wide / 1000.0) for s in (first, last))
    return StationCount(first, 0, count, wide, 0.0), StationCount(last, rows, count, wide, 2 * wedges.inside * row_um)


def _heel_stations(plane: Plane, shaping: Shaping, heel: HeelKind, row_um: float) -> tuple[StationCount, ...]:
    """A heel's beginning and end; its height is what it adds to the sole."""
    if plane.view.round or len(shaping.stations) != 2 or shaping.sections:
        raise IllegalPiece("A heel is worked flat, from one end to the other, without sections.")
    lives, (first, last) = heel_lives(plane, heel), shaping.stations
    wide = float(body_um(plane.view))
    begin, end = lives.counts[0], lives.counts[-1]
    high = heel_depth(plane, heel) * row_um
    first, last = replace(first, width_mm=wide / 1000.0), replace(last, width_mm=wide * end / begin / 1000.0)
    return StationCount(first, 0, begin, wide, 0.0), StationCount(last, len(lives.rows), end, wide * end / begin, high)


def stations_below(view: BandView) -> tuple[StationCount, ...]:
    """The stations of the band below, where it is shaped at its edges and this one goes on with its columns."""
    below = view.piece.band_views[view.at - 1] if view.at and view.band.runs_on else None
    if below is None or below.shaping is None or below.shaping.sections or below.segments != view.segments:
        return ()
    return count_stations(below)


def _short_stations(plane: Plane, shaping: Shaping, row_um: float) -> tuple[StationCount, ...]:
    """The two ends of a band of short rows: its count stays, and where all rows reach it is as high as they are."""
    if len(shaping.stations) != 2:
        raise IllegalPiece("Short rows have a beginning and an end: two places with a width.")
    first, last = shaping.stations
    below = stations_below(plane.view)
    if below:
        count, wide = below[-1].count, below[-1].width_um
    elif shaping.sections:
        sections = [counts[0] for counts in section_counts(plane, shaping)]
        count, wide = sum(sections) + fixed_count(plane, shaping), sections_um(plane, shaping, sections)
    else:
        count, wide = plane.view.stitches, float(body_um(plane.view))
    first, last = replace(first, width_mm=wide / 1000.0), replace(last, width_mm=wide / 1000.0)
    rows = len(shaping.short)
    return StationCount(first, 0, count, wide, 0.0), StationCount(last, rows, count, wide, rows * row_um)


def _rows(view: BandView, shaping: Shaping, row_um: float) -> list[int | None]:
    """The rows below each station; None where they follow from the counts."""
    out: list[int | None] = []
    for s in shaping.stations:
        row = s.row if s.row is not None else None if s.paced else round(s.at_mm * 1000.0 / row_um)
        if row is not None and s is shaping.stations[-1]:
            row += (row + view.piece.bottom.rows) % view.piece.row_step()  # what follows begins on the right side
        out.append(row)
    return out


def _paced_rows(view: BandView, shaping: Shaping, changes: int, below: int) -> int:
    return max(0, changes * shaping_step(view, shaping) - shaping_lag(view, shaping, below))


def _counts(plane: Plane, shaping: Shaping, rows: list[int | None]) -> list[int]:
    """The counts of all stations, found from the first to the last: of every way the one that misses least."""
    options = [_options(plane, shaping, i) for i in range(len(rows))]
    reach: list[int | None] = [None]
    for i in range(1, len(rows)):
        below, row = rows[i - 1], rows[i]
        if below is not None and row is not None:
            below = _above_steps(plane.view, shaping, i, below, row)
        reach.append(None if below is None or row is None else _reach(plane.view, shaping, below, row))
    best: list[dict[int, tuple[float, int]]] = []
    for i, counts in enumerate(options):
        wanted = shaping.stations[i].width_mm * 1000.0
        given = shaping.stations[i].count > 0
        here: dict[int, tuple[float, int]] = {}
        for count in counts:
            miss = 0.0 if given else (station_um(plane, shaping, count) - wanted) ** 2
            if i == 0:
                here[count] = (miss, 0)
                continue
            limit, lost = reach[i], bound_off(shaping, i - 1)
            there = [(cost[0], c) for c, cost in best[-1].items() if not lost or c - lost > FEWEST]
            under = [(cost, c) for cost, c in there if limit is None or abs(c - lost - count) <= limit]
            if under:
                least, c = min(under)
                here[count] = (least + miss, c)
        if not here:
            raise _out_of_reach(shaping, i, reach[i] or 0)
        best.append(here)
    found = [min((cost, c) for c, cost in best[-1].items())[1]]
    for here in reversed(best[1:]):
        found.insert(0, here[found[0]][1])
    _check_reached(plane, shaping, found, reach)
    return found


def _above_steps(view: BandView, shaping: Shaping, at: int, below: int, row: int) -> int:
    """The row of the band from which a station is reached, the steps after the one below it done."""
    steps = step_rows(view, shaping, at - 1, below)
    if below <= row < below + steps:
        a, b = shaping.stations[at - 1].name, shaping.stations[at].name
        raise Infeasible(f"What is bound off above “{a}” takes {steps} rows; give “{b}” a greater height.")
    return below + steps


def _options(plane: Plane, shaping: Shaping, at: int) -> list[int]:
    """The counts that a station may have: its own, the layout's where it is the widest, else those near its width."""
    station, view = shaping.stations[at], plane.view
    sides = view.side_stitches
    parity = (view.stitches - sides) % 2
    if station.count:
        options = [station.count]
    elif station.width_mm >= max(s.width_mm for s in shaping.stations if not s.count):
        options = [view.stitches]
    else:
        most = MAX_STITCHES if any(plane.grows) else view.stitches
        guess = _nearest_count(plane, shaping, station.width_mm * 1000.0, most)
        spread = 12 + abs(guess) // 4
        options = [*range(max(FEWEST, sides + 1, guess - spread), min(most, guess + spread) + 1)]
    if shaping.edges == "both":
        even = [c for c in options if (c - sides) % 2 == parity]
        if not even:
            raise IllegalPiece(
                f"“{station.name}” has {options[0]} stitches and the layout {view.stitches}: shaped at both edges the "
                f"counts must differ by an even number. Type {options[0] + 1}, or change the layout by one stitch."
            )
        options = even
    return _fitting(view, shaping, at, options)


def _fitting(view: BandView, shaping: Shaping, at: int, options: list[int]) -> list[int]:
    """Those counts of a station that suit the border beside it. Raises IllegalPiece where none does."""
    lowest, highest = at == 0 and view.at == 0, at == len(shaping.stations) - 1 and view.at == len(view.piece.bands) - 1
    for border, beside in ((view.piece.bottom, lowest), (view.piece.top, highest)):
        if beside and border.rows:
            fitting = [c for c in options if fits_border(view, border, c)]
            if not fitting:
                raise IllegalPiece(
                    f"{border.pattern.name} does not fit “{shaping.stations[at].name}”, which has {options[0]} "
                    "stitches; change the count of the layout, or choose another border."
                )
            options = fitting
    return options


def _nearest_count(plane: Plane, shaping: Shaping, wanted_um: float, most: int) -> int:
    """The count whose width comes nearest: widths grow with counts, so it is found by halving."""
    low, high = FEWEST, most
    while low < high:
        middle = (low + high) // 2
        if station_um(plane, shaping, middle) < wanted_um:
            low = middle + 1
        else:
            high = middle
    return low


def _reach(view: BandView, shaping: Shaping, below: int, row: int) -> int:
    """How far the count can change between two rows of the band."""
    if row < below:
        raise IllegalPiece("A place with a width lies lower than the one before it; type a greater height.")
    changes = len(allowed_rows(row - below, shaping_step(view, shaping), shaping_lag(view, shaping, below)))
    return changes * (2 if shaping.edges == "in turn" else shaping.step)


def _check_reached(plane: Plane, shaping: Shaping, counts: list[int], reach: list[int | None]) -> None:
    """A station that stays short of its width because the rows below it or above it are too few is no answer."""
    for i, (station, count) in enumerate(zip(shaping.stations, counts, strict=True)):
        off = abs(station_um(plane, shaping, count) - station.width_mm * 1000.0)
        stuck = next((j for j in (i, i + 1) if j < len(reach) and _at_limit(shaping, counts, reach, j)), None)
        if not station.count and stuck is not None and off > 2 * max(plane.lane_um) * shaping.step:
            raise _out_of_reach(shaping, stuck, reach[stuck] or 0)


def _at_limit(shaping: Shaping, counts: list[int], reach: list[int | None], at: int) -> bool:
    limit = reach[at] if at else None
    return limit is not None and abs(counts[at] - counts[at - 1] + bound_off(shaping, at - 1)) >= limit


def _out_of_reach(shaping: Shaping, at: int, limit: int) -> Infeasible:
    a, b = shaping.stations[at - 1], shaping.stations[at]
    often = "" if shaping.every_row or shaping.edges == "in turn" else ", shape on wrong-side rows too"
    return Infeasible(
        f"From “{a.name}” to “{b.name}” there are too few rows: the count can change there by {limit} at most. "
        f"Make the piece taller between the two, bring the widths nearer to each other{often}."
    )
