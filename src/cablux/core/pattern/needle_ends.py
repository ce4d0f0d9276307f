"""Where a round is divided over needles so that no crossing is split between two of them."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import accumulate, pairwise

from ..notation import Crossing, HalfCrossing
from ..piece.piece import BandView


@dataclass(frozen=True)
class NeedleParts:
    """A round over so many needles: the stitches on each, from its beginning; empty where crossings leave no way."""

    needles: int
    counts: tuple[int, ...]


def needle_ends(view: BandView) -> tuple[int, ...]:
    """The places in a round, in stitches from its beginning, at which a needle may end in every row of the charts."""
    total, closed = view.stitches, set[int]()
    starts = [0, *accumulate(s.stitches for s in view.segments)]
    for s, start in zip(view.segments, starts, strict=False):
        for number in s.chart.crossing_rows:
            at = start
            for op in s.chart.ops(number, s.repeats):
                if isinstance(op, Crossing | HalfCrossing):
                    closed.update(range(at + 1, at + op.takes))
                at += op.takes
    return tuple(place for place in range(1, total) if place not in closed)


def divide_round(view: BandView, needles: int) -> NeedleParts:
    """The round over so many needles, as evenly as can be without splitting a crossing: squares of the counts least.

    Found from the first needle to the last, every end tried with the best of what comes before it; so it is the best.
    """
    ends, total = needle_ends(view), view.stitches
    best: dict[int, tuple[float, tuple[int, ...]]] = {0: (0.0, (0,))}
    for needle in range(1, needles + 1):
        here: dict[int, tuple[float, tuple[int, ...]]] = {}
        for end in (total,) if needle == needles else ends:
            before = [(cost + (end - at) ** 2, path) for at, (cost, path) in best.items() if at < end]
            if before:
                cost, path = min(before)
                here[end] = (cost, (*path, end))
        best = here
    if total not in best:
        return NeedleParts(needles, ())
    return NeedleParts(needles, tuple(b - a for a, b in pairwise(best[total][1])))


def needles_text(view: BandView) -> str:
    """How to divide a round over a long cord, two circulars or double-pointed needles, in words."""
    two, four = divide_round(view, 2), divide_round(view, 4)
    if not two.counts or not four.counts:
        return ""
    halves, quarters = (", ".join(map(str, p.counts[:-1])) + f" and {p.counts[-1]}" for p in (two, four))
    return (
        f"On one long cord or two circular needles divide the round into {halves} stitches, on four double-pointed "
        f"needles into {quarters}: no crossing is split."
    )
