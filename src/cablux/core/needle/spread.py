"""Spreads increases between stitches, and decreases over stitches: evenly, or hidden in knit columns.

A row that changes the count joins a smaller row to a larger one. Its places are told by `made`: which stitches of
the larger row (from 0) have no partner in the smaller. Going up these are made; going down each is worked
together with a neighbour. So decreases lie just as increases would.
"""

from __future__ import annotations

from collections.abc import Sequence

from ..errors import IllegalPiece

ExtraPlaces = tuple[int, ...]


def most_made(small: int, *, dense: bool = False) -> int:
    """How many stitches one row can make over `small`: one after every other stitch (common practice).

    `dense`: one in every gap, as a strongly drawn panel may want.
    """
    return small - 1 if dense else small // 2


def count_stages(small: int, large: int, *, dense: bool = False) -> tuple[int, ...]:
    """The counts from `small` to `large`, both included, each reached in one row, in nearly equal parts.

    >>> count_stages(20, 50)
    (20, 27, 37, 50)
    """
    counts = [small]
    rows = 0
    reach = small
    while reach < large:
        if not most_made(reach, dense=dense):
            raise IllegalPiece("With 1 stitch there is no gap to increase in; start with 2 or more.")
        reach += most_made(reach, dense=dense)
        rows += 1
    for left in range(rows, 0, -1):
        now = counts[-1]
        step = round(now * (large / now) ** (1 / left)) - now if left > 1 else large - now
        counts.append(now + max(1, min(step, most_made(now, dense=dense))))
    return _reaching(counts, dense=dense)


def _reaching(counts: list[int], *, dense: bool) -> tuple[int, ...]:
    """The counts, the earlier ones raised where rounding has left too much for the last rows."""
    for at in range(len(counts) - 2, 0, -1):
        while counts[at] + most_made(counts[at], dense=dense) < counts[at + 1]:
            counts[at] += 1
    return tuple(counts)


def even_runs(small: int, many: int, *, closed: bool = False) -> tuple[int, ...]:
    """How many old stitches lie before, between and after `many` made ones: `many` + 1 runs.

    The runs between differ by at most one, the longer ones together, so that the row is said in few words; before
    the first and after the last lies about half a run. Closed (in the round) the last run goes on into the
    first. Symmetric where the numbers allow. Raises IllegalPiece where there are fewer gaps than stitches to make.

    >>> even_runs(20, 4)
    (3, 5, 4, 5, 3)
    """
    if many < 0 or many > (small if closed else small - 1):
        raise IllegalPiece(f"{many} increases do not fit between {small} stitches in one row.")
    if many == 0:
        return (small,)
    if closed:
        short, longer = divmod(small, many)
        runs = [short + 1] * longer + [short] * (many - longer)
        first = max(1, runs[0] // 2) if runs[0] > 1 else runs[0]
        return (first, *runs[1:], runs[0] - first) if many > 1 else (first, small - first)
    inside = many - 1
    tries = [(n, short) for short in {small // many, max(1, small // many - 1)} for n in range(inside + 1)]

    def ends(longer: int, short: int) -> int:
        return small - inside * short - longer

    def badness(choice: tuple[int, int]) -> tuple[bool, bool, float]:
        longer, short = choice
        rest = ends(longer, short)
        lopsided = rest % 2 == 1 or (longer % 2 == 1 and (inside - longer) % 2 == 1)
        return rest < 2, lopsided, abs(rest - small / many)

    longer, short = min(tries, key=badness)
    rest = ends(longer, short)
    return (rest // 2, *_blocks(short, inside - longer, longer), rest - rest // 2)


def _blocks(short: int, shorter: int, longer: int) -> tuple[int, ...]:
    """Runs of `short` and of one more, alike from both ends where that can be, the longer ones outside."""
    if longer % 2 == 0 or shorter % 2 == 1:
        half = longer // 2
        return (short + 1,) * half + (short,) * shorter + (short + 1,) * (longer - half)
    half = shorter // 2
    return (short,) * half + (short + 1,) * longer + (short,) * (shorter - half)


def even_made(small: int, large: int, *, closed: bool = False) -> ExtraPlaces:
    """The made stitches of a row of `large` over one of `small`, spread evenly."""
    runs = even_runs(small, large - small, closed=closed)
    out, at = [], 0
    for run in runs[:-1] if large > small else ():
        at += run
        out.append(at)
        at += 1
    return tuple(out)


def hidden_made(costs: Sequence[int], many: int, *, symmetric: bool) -> ExtraPlaces:
    """`many` made stitches in a row whose stitches cost so much each: the cheapest, and of those the most even.

    Neither the first nor the last stitch is made, and no two that touch. Symmetric about the middle where that is
    asked for and the numbers allow it. Raises IllegalPiece where they do not fit.

    >>> hidden_made((5, 1, 1, 5, 1, 1, 5), 2, symmetric=True)
    (1, 5)
    """
    n = len(costs)
    if many == 0:
        return ()
    if 2 * many > n - 1:
        raise IllegalPiece(f"{many} increases do not fit between {n - many} stitches in one row.")
    if symmetric and (many % 2 == 0 or n % 2 == 1):
        half = many // 2
        last = n // 2 - 2 if many % 2 or n % 2 == 0 else n // 2 - 1
        found = _cheapest(costs, half, last, of=many)
        if found is not None:
            middle = (n // 2,) if many % 2 else ()
            return (*found, *middle, *(n - 1 - at for at in reversed(found)))
    found = _cheapest(costs, many, n - 2, of=many)
    assert found is not None, "half of the inner stitches always fit"
    return found


def _cheapest(costs: Sequence[int], many: int, last: int, *, of: int) -> ExtraPlaces | None:
    """The best `many` places from 1 to `last`, no two touching; `of` says how far apart they would ideally lie.

    A table over places and how many are chosen so far; off-centre distances are whole numbers of 1 / 2·of stitches.
    """
    n = len(costs)
    Best = tuple[int, int, tuple[int, ...]]
    before: list[Best | None] = [(0, 0, ())] * (last + 1)  # with none chosen, up to each place
    for i in range(many):
        now: list[Best | None] = [None] * (last + 1)
        for at in range(1, last + 1):
            now[at] = now[at - 1]
            if i and at < 2:
                continue
            under = before[at - 2] if i else before[0]
            if under is None:
                continue
            off = 2 * of * at + of - (2 * i + 1) * n
            mine = (under[0] + costs[at], under[1] + off * off, (*under[2], at))
            there = now[at]
            if there is None or mine[:2] < there[:2]:
                now[at] = mine
        before = now
    best = before[last] if last >= 0 else None
    return best[2] if best is not None and len(best[2]) == many else None
