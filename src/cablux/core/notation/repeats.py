"""Finds the shortest way to write a row with repeats: `k3, (p4, 2/2 LC) 4 times, p4, k3`."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from .crossings import HalfCrossing
from .operations import Op
from .rowtext import equal_runs, run_text

_Token = tuple[Op, int]
_Cost = tuple[int, int]  # things to read, then characters: people read steps, not letters


@dataclass(frozen=True, kw_only=True)
class _Part:
    """One thing to read: a run, or a block of `width` runs worked `times` times, from run `start` on."""

    text: str
    start: int
    width: int = 1
    times: int = 1


@lru_cache(maxsize=4096)
def shortest_text(ops: tuple[Op, ...], *, hold: bool = False) -> str:
    """The row in the form with the fewest things to read; `rowparser.parse_ops` gives the row back.

    >>> from cablux.core import parse_ops
    >>> shortest_text(parse_ops("k1, p1, k1, p1, k1, p1, k2"))
    '(k1, p1) 3 times, k2'
    """
    texts = tuple(run_text(op, n, hold=hold) for op, n in equal_runs(ops))
    return ", ".join(part.text for part in _write(texts)[1])


def until_text(after: tuple[Op, ...]) -> str:
    """How a repeat ends that is counted down to what is left after it.

    Where the beginning of a round was moved on, the stitches passed over wait at its end too.
    """
    left = sum(op.whole.takes if isinstance(op, HalfCrossing) and not op.begins else op.takes for op in after)
    return f"until {left} stitch{'es remain' if left > 1 else ' remains'}" if left else "to end"


@lru_cache(maxsize=4096)
def until_remain(ops: tuple[Op, ...], *, hold: bool = False) -> str:
    """The row with its longest repeat counted down: `*p4, 2/2 LC; rep from * until 7 stitches remain, p4, k3`.

    People lose count of long repeats, and see more easily what is left. Where nothing repeats it is `shortest`.

    >>> from cablux.core import parse_ops
    >>> until_remain(parse_ops("k1, p1, k1, p1, k1, p1, k2"))
    '*k1, p1; rep from * until 2 stitches remain, k2'
    """
    all_runs = equal_runs(ops)
    texts = tuple(run_text(op, n, hold=hold) for op, n in all_runs)
    parts = _write(texts)[1]
    longest = max(parts, key=lambda part: part.width * (part.times - 1), default=None)
    if longest is None or longest.times < 2:
        return ", ".join(part.text for part in parts)
    end = longest.start + longest.width * longest.times
    after = tuple(op for op, n in all_runs[end:] for _ in range(n))
    inner = ", ".join(p.text for p in _write(texts[longest.start : longest.start + longest.width], inside=True)[1])
    counted = f"*{inner}; rep from * {until_text(after)}"
    return ", ".join(counted if part is longest else part.text for part in parts)


@lru_cache(maxsize=16384)
def _write(texts: tuple[str, ...], *, inside: bool = False) -> tuple[_Cost, tuple[_Part, ...]]:
    """The cheapest way to write a list of runs, by dynamic programming over where the last block starts.

    A repeat costs one more thing to read, and three where it stands `inside` another: nested ones are hard to follow.
    """
    n = len(texts)
    best: list[tuple[_Cost, tuple[_Part, ...]]] = [((0, 0), ())]
    periods = _periods(texts)
    for end in range(1, n + 1):
        cost, parts = best[end - 1]
        options = [(_add(cost, texts[end - 1]), (*parts, _Part(text=texts[end - 1], start=end - 1)))]
        for start, width in periods.get(end, ()):
            (steps, _), inner = _write(texts[start : start + width], inside=True)
            times = (end - start) // width
            text = f"({', '.join(part.text for part in inner)}) {times} times"
            before, parts = best[start]
            cost_here = (before[0] + steps + (3 if inside else 1), before[1] + len(text))
            options.append((cost_here, (*parts, _Part(text=text, start=start, width=width, times=times))))
        best.append(min(options, key=lambda option: option[0]))
    return best[n]


def _add(cost: _Cost, text: str) -> _Cost:
    return cost[0] + 1, cost[1] + len(text)


def _periods(texts: tuple[str, ...]) -> dict[int, list[tuple[int, int]]]:
    """For each end, the (start, width) of every run of two or more equal blocks that ends there."""
    n = len(texts)
    out: dict[int, list[tuple[int, int]]] = {}
    reach: dict[int, list[int]] = {}  # by width: how many positions from here on repeat `width` later
    for width in range(1, n // 2 + 1):
        same = [0] * (n + 1)
        for at in range(n - width - 1, -1, -1):
            same[at] = same[at + 1] + 1 if texts[at] == texts[at + width] else 0
        reach[width] = same
        parts = [d for d in range(1, width // 2 + 1) if width % d == 0]
        for at in range(n - 2 * width + 1):
            # a block that is itself a repeat is covered by the shorter block
            if same[at] < width or any(reach[d][at] >= width - d for d in parts):
                continue
            for times in range(2, same[at] // width + 2):
                out.setdefault(at + times * width, []).append((at, width))
    return out
