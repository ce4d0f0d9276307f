"""Rows between two counts: how many stitches stand under each segment, in which rows, and where each is made."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from itertools import pairwise

from ..needle.spread import count_stages, even_made, hidden_made, most_made
from ..needle.steps import CountStep, Steps
from ..notation import Face
from ..piece.border import SpreadStyle
from ..piece.piece import BandView
from ..piece.segment import Segment
from ..piece.symmetry import is_symmetric
from ..piece.widths import segment_um

MOST_ROWS = 3
"""Our choice: three rows more than triple a count; what needs more is another piece."""

_PURL, _KNIT = 1, 0


@dataclass(frozen=True)
class Transition:
    """From the stitches of a border (or of the band below) to those of a body band, segment by segment.

    `parts[i]` are the steps over inner segment i; every part has the same number of rows.
    """

    parts: tuple[Steps, ...]

    @property
    def rows(self) -> int:
        """In how many rows the count changes."""
        return len(self.parts[0].steps)

    @property
    def changes(self) -> bool:
        """Whether anything is made or worked together at all."""
        return any(step.made for part in self.parts for step in part.steps)

    @cached_property
    def shares(self) -> tuple[int, ...]:
        """The stitches under each segment before the first of the rows."""
        return tuple(p.steps[0].before for p in self.parts)

    @cached_property
    def counts(self) -> tuple[int, ...]:
        """The whole count between the sides, before the first row and after each."""
        return tuple(map(sum, zip(*(p.counts for p in self.parts), strict=True)))

    def reversed(self) -> Transition:
        """The way back."""
        return Transition(tuple(p.reversed() for p in self.parts))


def reachable_counts(stitches: int, rows: int, *, dense: bool = False) -> tuple[int, int]:
    """The fewest and the most stitches from which so many rows lead to `stitches`.

    >>> reachable_counts(40, 1)
    (27, 60)
    """
    low = high = stitches
    for _ in range(rows):
        low = next(n for n in range(1, low + 1) if n + most_made(n, dense=dense) >= low)
        high += most_made(high, dense=dense)
    return low, high


def transition_bounds(segments: Sequence[Segment], rows: int, *, dense: bool = False) -> tuple[int, int]:
    """The fewest and the most stitches that so many rows can lead to these segments."""
    each = [reachable_counts(s.stitches, rows, dense=dense) for s in segments]
    return sum(low for low, _ in each), sum(high for _, high in each)


def rows_needed(segments: Sequence[Segment], below: int, *, dense: bool = False) -> int:
    """In how many rows `below` stitches can become those of the segments; MOST_ROWS + 1 if in none of them."""
    for rows in range(1, MOST_ROWS + 1):
        low, high = transition_bounds(segments, rows, dense=dense)
        if low <= below <= high:
            return rows
    return MOST_ROWS + 1


@lru_cache(maxsize=256)
def increase_rows(view: BandView, below: int, spread: SpreadStyle) -> Transition:
    """From `below` stitches between the sides to those of a band, in as few rows as that takes.

    "cables": each segment's share follows its width in the fabric, so that stitches are made where the cables draw
    in, and within a segment they lie in the knit columns to come. "even": along the whole row.

    >>> from cablux.core import Band, Evidence, Gauge, Piece, library_segment
    >>> edge, background = library_segment("edge", "garter", 5), library_segment("background", "stockinette", 40)
    >>> band = Band(own=(edge, background, edge))
    >>> known = Evidence(gauge=Gauge(stitches=18, rows=25))
    >>> piece = Piece(name="Scarf", width_mm=300.0, height_mm=1500.0, evidence=known, bands=(band,))
    >>> increase_rows(piece.band_views[0], 36, "even").counts
    (36, 40)
    """
    inner = view.inner
    if below == sum(s.stitches for s in inner):
        return Transition(tuple(Steps((CountStep(before=s.stitches, after=s.stitches),)) for s in inner))
    rows = rows_needed(inner, below, dense=view.piece.dense)
    if spread == "even" and (found := _even(inner, below, dense=view.piece.dense)):
        return found
    shares = share_out(view, below, rows)
    symmetric, last = is_symmetric(view.segments), len(inner) - 1
    parts: list[Steps] = []
    for i, (s, share) in enumerate(zip(inner, shares, strict=True)):
        twin = last - i
        if symmetric and twin < i and shares[twin] == share:
            parts.append(parts[twin].mirrored())
        else:
            parts.append(_hidden(s, share, rows, symmetric=symmetric and twin == i, dense=view.piece.dense))
    return Transition(tuple(parts))


def _hidden(s: Segment, share: int, rows: int, *, symmetric: bool, dense: bool) -> Steps:
    """One segment's steps; they are chosen from the larger count down, so that each lies in what comes above it."""
    small, large = sorted((share, s.stitches))
    grows = share <= s.stitches
    costs = [_KNIT if face is Face.KNIT else _PURL for face in s.chart.faces_below(1, s.repeats)]
    costs = costs if grows else [_KNIT] * large
    counts = count_stages(small, large, dense=dense)
    counts = (small,) * (rows + 1 - len(counts)) + counts
    out: list[CountStep] = []
    for before, after in zip(counts[-2::-1], counts[:0:-1], strict=True):
        made = hidden_made(costs, after - before, symmetric=symmetric)
        out.insert(0, CountStep(before=before, after=after, made=made))
        costs = [cost for at, cost in enumerate(costs) if at not in set(made)]
    steps = Steps(tuple(out))
    return steps if grows else steps.reversed()


def _even(inner: Sequence[Segment], below: int, *, dense: bool) -> Transition | None:
    """Evenly along the row; each segment gets what lies under it. None where that would be nothing at all."""
    body = sum(s.stitches for s in inner)
    counts = count_stages(*sorted((below, body)), dense=dense)
    grows = below <= body
    whole = [CountStep(before=a, after=b, made=even_made(a, b)) for a, b in pairwise(counts)] or [
        CountStep(before=body, after=body)
    ]
    widths = [s.stitches for s in inner]
    if not grows:
        whole = [step.reversed() for step in reversed(whole)]
    parts: list[list[CountStep]] = [[] for _ in inner]
    for step in reversed(whole):
        cut = _cut(step, widths)
        for part, piece in zip(parts, cut, strict=True):
            part.insert(0, piece)
        widths = [piece.before for piece in cut]
        if min(widths) < 1:
            return None
    return Transition(tuple(Steps(tuple(part)) for part in parts))


def _cut(step: CountStep, widths: Sequence[int]) -> list[CountStep]:
    """A row's step cut into parts that have so many stitches above it each."""
    out = []
    start = 0
    for wide in widths:
        end = start + wide
        if step.up:
            at = [n for n, i in enumerate(step.made) if start <= i < end]
            made = tuple(step.made[n] - start for n in at)
            out.append(
                CountStep(before=wide - len(made), after=wide, made=made, onward=tuple(step.onward[n] for n in at))
            )
        else:
            mine = [i for i, small in enumerate(step.partners) if start <= small < end]
            at = [n for n, i in enumerate(step.made) if mine[0] <= i <= mine[-1]]
            made = tuple(step.made[n] - mine[0] for n in at)
            out.append(CountStep(before=len(mine), after=wide, made=made, onward=tuple(step.onward[n] for n in at)))
        start = end
    return out


def share_out(view: BandView, below: int, rows: int) -> tuple[int, ...]:
    """Stitches of the row below under each inner segment, by width in the fabric.

    Largest remainders, in mirrored pairs where the layout is symmetric; each within what the rows can reach.
    """
    inner = view.inner
    weights = [segment_um(s, view.measure) for s in inner]
    low, high = zip(*(reachable_counts(s.stitches, rows, dense=view.piece.dense) for s in inner), strict=True)
    return apportion(weights, below, low, high=high, paired=is_symmetric(view.segments))


def apportion(
    weights: Sequence[float], total: int, low: Sequence[int], *, high: Sequence[int], paired: bool
) -> tuple[int, ...]:
    """`total` in whole parts as nearly in proportion to `weights` as their bounds allow."""
    whole = sum(weights)
    exact = [total * w / whole for w in weights]
    shares = [min(max(int(e), lo), hi) for e, lo, hi in zip(exact, low, high, strict=True)]
    last = len(shares) - 1
    while (rest := total - sum(shares)) != 0:
        step = 1 if rest > 0 else -1
        open_ = [i for i in range(last + 1) if (shares[i] < high[i] if step > 0 else shares[i] > low[i])]
        best = max(open_, key=lambda i: (step * (exact[i] - shares[i]), -abs(2 * i - last)))
        partner = last - best
        if paired and partner != best:
            if abs(rest) >= 2:
                shares[best] += step
                shares[partner] += step
                continue
            middle = last // 2
            if last % 2 == 0 and middle in open_:
                best = middle
            elif last % 2 == 0 and partner in open_ and low[middle] <= shares[middle] - step <= high[middle]:
                shares[middle] -= step  # the middle gives way, so that a pair can take two
                shares[partner] += step
        shares[best] += step
    return tuple(shares)
