"""From one count to another, evenly: the rows that change it, in words, for any piece."""

from __future__ import annotations

from itertools import pairwise

from ...core.needle.spread import count_stages, even_made, most_made
from ...core.needle.steps import CountStep
from ...core.notation import Face, Op, Stitch
from ...core.notation.repeats import shortest_text
from ..answers import EvenSpread, SpreadRow
from ..errors import InvalidForm

MOST = 3_000  # our choice: more stitches than any piece we can plan


def spread_evenly(start: int, goal: int, *, edge: int = 0, in_the_round: bool = False, rows: int = 0) -> EvenSpread:
    """The rows that lead from `start` to `goal` stitches, `rows` of them at the most where that is asked for.

    Without it no row makes more than one after every other stitch. Raises IllegalPiece for what cannot be worked.
    """
    for field, count, what in (("start", start, "Start"), ("goal", goal, "End")):
        if not 1 <= count <= MOST:
            raise InvalidForm({field: f"{what} with 1 to {MOST} stitches."})
    if edge < 0 or (edge and in_the_round):
        raise InvalidForm(
            {
                "edge": "In the round there are no edge stitches; leave this empty."
                if edge > 0
                else "Type how many edge stitches, 0 or more."
            }
        )
    inner, target = start - 2 * edge, goal - 2 * edge
    if min(inner, target) < 1:
        raise InvalidForm(
            {"edge": f"{2 * edge} edge stitches leave none of {min(start, goal)} between them; type fewer."}
        )
    counts = _stages(min(inner, target), max(inner, target), rows)
    counts = counts if inner <= target else counts[::-1]
    made = tuple(_row(a, b, edge, closed=in_the_round) for a, b in pairwise(counts))
    return EvenSpread(start=start, goal=goal, edge=edge, round=in_the_round, rows=made)


def _stages(small: int, large: int, rows: int) -> tuple[int, ...]:
    """The counts on the way, with as few stitches made between two as the number of rows allows."""
    if rows < 0:
        raise InvalidForm({"rows": "Use one row or more."})
    for dense in (False, True):
        counts = count_stages(small, large, dense=dense)
        if not rows or len(counts) - 1 <= rows:
            return counts
    most = small
    for _ in range(rows):
        most += most_made(most, dense=True)
    raise InvalidForm(
        {
            "rows": f"In {rows} row{'s' if rows > 1 else ''}, {small} stitch{'es' if small > 1 else ''} can become "
            f"{most} at most; for {large} use {len(counts) - 1} rows."
        }
    )


def _row(before: int, after: int, edge: int, *, closed: bool) -> SpreadRow:
    made = even_made(*sorted((before, after)), closed=closed)
    sides = CountStep(before=edge, after=edge).ops((Face.KNIT,) * edge)
    # a decrease joins its stitch to the one before it or, in the left half, to the one after it
    ways = [CountStep(before=before, after=after, made=made, onward=onward) for onward in ((False,) * len(made), ())]
    rows = [way.ops((Face.KNIT,) * after) for way in ways]
    between = [_between(row, closed) for row in rows]
    texts = [shortest_text(sides + row + sides) for row in rows]
    best = min((0, 1), key=lambda i: (between[i][1] - between[i][0], len(texts[i])))
    return SpreadRow(before=before + 2 * edge, after=after + 2 * edge, text=texts[best], between=between[best])


def _between(row: tuple[Op, ...], closed: bool) -> tuple[int, int]:
    """The fewest and the most plain stitches between two changes, in the round over the join too."""
    places = [i for i, op in enumerate(row) if not isinstance(op, Stitch)]
    gaps = [b - a - 1 for a, b in pairwise(places)]
    if closed and places:
        gaps.append(len(row) - 1 - places[-1] + places[0])
    return (min(gaps), max(gaps)) if gaps else (0, 0)
