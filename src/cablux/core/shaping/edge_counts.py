"""The counts at the stations of a band that is shaped at its edges, all found together: of every way the best."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

from ..errors import IllegalPiece, Infeasible
from ..needle.schedule import allowed_rows
from ..needle.stations import Station
from ..piece.piece import BandView
from ..piece.problems import MAX_STITCHES
from .edge_steps import CROSSED, EdgeStep
from .manner import ShapedEdges
from .placed import counts_beside_border, shaping_lag, shaping_step
from .plane import Plane

_FEWEST = 2
"""Our choice: a needle holds two stitches or more; the last two are drawn together."""


@dataclass(frozen=True, kw_only=True)
class EdgeCounts:
    """What is asked of the edges of a band: its stations, at which edges it is shaped, and what goes in steps."""

    plane: Plane
    stations: tuple[Station, ...]
    edges: ShapedEdges
    steps: tuple[EdgeStep, ...]
    every_row: bool

    @property
    def view(self) -> BandView:
        """The band."""
        return self.plane.view

    @property
    def change(self) -> int:
        """How many stitches a change adds or takes away."""
        return 2 if self.edges == "both" else 1

    @property
    def step(self) -> int:
        """Every how many rows it may be shaped."""
        return shaping_step(self.view, every_row=self.every_row or self.edges == "in turn")

    def stepped(self, station: int) -> tuple[EdgeStep, ...]:
        """The steps after a station."""
        return tuple(s for s in self.steps if s.station == station)

    def bound_off(self, station: int) -> int:
        """The stitches that go in steps after a station."""
        return sum(step.stitches for step in self.stepped(station))

    def step_rows(self, station: int, below: int) -> int:
        """The rows that the steps after a station take, `below` rows of the band done."""
        first = self.view.piece.bottom.rows + 1 + below
        return max((max(step.rows(first)) - first + 1 for step in self.stepped(station)), default=0)

    def changes(self, counts: list[int]) -> list[int]:
        """How many changes lead to each station, at both edges at once where both are shaped."""
        lost = [self.bound_off(at) for at in range(len(counts))]
        changed = (b - a + gone for (a, b), gone in zip(pairwise(counts), lost, strict=False))
        return [0, *(abs(change) // self.change for change in changed)]

    def check_steps(self) -> None:
        """Raises IllegalPiece for steps that cannot be."""
        if self.steps and self.view.round:
            raise IllegalPiece("Steps lie at the edges of flat pieces, without sections or short rows.")
        for step in self.steps:
            if not 0 <= step.station < len(self.stations) - 1 or not step.counts or min(step.counts) < 1:
                raise IllegalPiece("Steps are bound off above a place with a width, one stitch or more at a time.")
            if self.edges == "both" and step.edge != "both":
                raise IllegalPiece("Where both edges are shaped alike, steps are bound off at both of them.")
            if step.kind == "crossed" and not set(step.counts) <= set(CROSSED):
                raise IllegalPiece("A crossing takes away 2 stitches, or 3: type those.")
            if step.kind == "crossed" and len(self.stepped(step.station)) > 1:
                raise IllegalPiece("Where crossings take stitches away, none are bound off in the same rows.")

    def width_um(self, count: int) -> float:
        """Width of a row of `count` stitches."""
        inner = count - self.plane.view.side_stitches
        if inner < 0:
            return self.plane.sides_um * count / max(1, self.plane.view.side_stitches)
        low = {"right": self.plane.width - inner, "left": 0}.get(self.edges, (self.plane.width - inner) // 2)
        return self.plane.sides_um + self.plane.inner_um(low, low + inner)

    def counts(self, rows: list[int | None]) -> list[int]:
        """The counts of all stations, found from the first to the last: of every way the one that misses least."""
        options = [self._options(i) for i in range(len(rows))]
        reach: list[int | None] = [None]
        for i in range(1, len(rows)):
            below, row = rows[i - 1], rows[i]
            if below is not None and row is not None:
                below = self._above_steps(i, below, row)
            reach.append(None if below is None or row is None else self._reach(below, row))
        best: list[dict[int, tuple[float, int]]] = []
        for i, counts in enumerate(options):
            wanted = self.stations[i].width_mm * 1000.0
            given = self.stations[i].count > 0
            here: dict[int, tuple[float, int]] = {}
            for count in counts:
                miss = 0.0 if given else (self.width_um(count) - wanted) ** 2
                if i == 0:
                    here[count] = (miss, 0)
                    continue
                limit, lost = reach[i], self.bound_off(i - 1)
                there = [(cost[0], c) for c, cost in best[-1].items() if not lost or c - lost > _FEWEST]
                under = [(cost, c) for cost, c in there if limit is None or abs(c - lost - count) <= limit]
                if under:
                    least, c = min(under)
                    here[count] = (least + miss, c)
            if not here:
                raise self._out_of_reach(i, reach[i] or 0)
            best.append(here)
        found = [min((cost, c) for c, cost in best[-1].items())[1]]
        for here in reversed(best[1:]):
            found.insert(0, here[found[0]][1])
        self._check_reached(found, reach)
        return found

    def _above_steps(self, at: int, below: int, row: int) -> int:
        """The row of the band from which a station is reached, the steps after the one below it done."""
        steps = self.step_rows(at - 1, below)
        if below <= row < below + steps:
            a, b = self.stations[at - 1].name, self.stations[at].name
            raise Infeasible(
                f"What is bound off above “{a}” takes {steps} rows; give “{b}” a greater height.", clash=(a, b)
            )
        return below + steps

    def _options(self, at: int) -> list[int]:
        """The counts that a station may have: its own, the layout's where it is widest, else those near its width."""
        station, view = self.stations[at], self.view
        sides = view.side_stitches
        parity = (view.stitches - sides) % 2
        if station.count:
            options = [station.count]
        elif station.width_mm >= max(s.width_mm for s in self.stations if not s.count):
            options = [view.stitches]
        else:
            most = MAX_STITCHES if any(self.plane.grows) else view.stitches
            guess = self._nearest_count(station.width_mm * 1000.0, most)
            spread = 12 + abs(guess) // 4
            options = [*range(max(_FEWEST, sides + 1, guess - spread), min(most, guess + spread) + 1)]
        if self.edges == "both":
            even = [c for c in options if (c - sides) % 2 == parity]
            if not even:
                raise IllegalPiece(
                    f"“{station.name}” has {options[0]} stitches and the layout {view.stitches}: shaped at both edges "
                    "the counts must differ by an even number. "
                    f"Type {options[0] + 1}, or change the layout by one stitch."
                )
            options = even
        return counts_beside_border(view, self.stations, at, options=options)

    def _nearest_count(self, wanted_um: float, most: int) -> int:
        """The count whose width comes nearest: widths grow with counts, so it is found by halving."""
        low, high = _FEWEST, most
        while low < high:
            middle = (low + high) // 2
            if self.width_um(middle) < wanted_um:
                low = middle + 1
            else:
                high = middle
        return low

    def _reach(self, below: int, row: int) -> int:
        """How far the count can change between two rows of the band."""
        if row < below:
            raise IllegalPiece("A place with a width lies lower than the one before it; type a greater height.")
        changes = len(allowed_rows(row - below, self.step, shaping_lag(self.view, self.step, below)))
        return changes * (2 if self.edges == "in turn" else self.change)

    def _check_reached(self, counts: list[int], reach: list[int | None]) -> None:
        """A station that stays short of its width because the rows below it or above it are too few is no answer."""
        for i, (station, count) in enumerate(zip(self.stations, counts, strict=True)):
            off = abs(self.width_um(count) - station.width_mm * 1000.0)
            stuck = next((j for j in (i, i + 1) if j < len(reach) and self._at_limit(counts, reach, j)), None)
            if not station.count and stuck is not None and off > 2 * max(self.plane.lane_um) * self.change:
                raise self._out_of_reach(stuck, reach[stuck] or 0)

    def _at_limit(self, counts: list[int], reach: list[int | None], at: int) -> bool:
        limit = reach[at] if at else None
        return limit is not None and abs(counts[at] - counts[at - 1] + self.bound_off(at - 1)) >= limit

    def _out_of_reach(self, at: int, limit: int) -> Infeasible:
        a, b = self.stations[at - 1], self.stations[at]
        often = "" if self.every_row or self.edges == "in turn" else ", shape on wrong-side rows too"
        return Infeasible(
            f"From “{a.name}” to “{b.name}” there are too few rows: the count can change there by {limit} at most. "
            f"Make the piece taller between the two, bring the widths nearer to each other{often}.",
            clash=(a.name, b.name),
        )
