"""Looks at knitted loops column by column: each stands in its column, worked as its chart wants it or as it appears."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from hypothesis import event

from cablux.core.needle.chart_columns import Lane
from cablux.core.needle.columns import Column, RowShaping
from cablux.core.notation import Chart, made_loops
from tests.knitter import Loop


@dataclass(frozen=True)
class Wanted:
    """What a chart wants in each of its columns: the column that the loop comes from, its face, its whole component."""

    parent: dict[int, int]
    face: dict[int, str]
    depth: dict[int, int]
    with_: dict[int, set[int]]


@lru_cache(maxsize=4096)
def wanted(chart: Chart, number: int, repeats: int) -> Wanted:
    """Read off the chart's loops alone: columns that trade places, with all between them, hang together."""
    loops = made_loops(chart.ops(number, repeats))
    parent = {c: loop.parents[0] for c, loop in enumerate(loops)}
    reach = [range(min(c, p), max(c, p) + 1) for c, p in parent.items()]
    together = {c: {c} for c in parent}
    for span in reach:
        whole = set[int]().union(*(together[c] for c in span))
        for c in whole:
            together[c] = whole
    return Wanted(
        parent,
        {c: loop.face.value for c, loop in enumerate(loops)},
        {c: loop.depth for c, loop in enumerate(loops)},
        together,
    )


_FAR = 40  # repeats to either side of the chart: further than any piece of the tests reaches


def want(lane: Lane, number: int, c: int) -> tuple[int, str, int, set[int]]:
    """What is wanted in column `c`: its parent, its face, its depth, and the columns it hangs together with.

    Less than 0 `number` is a row of the background beside the lane; beyond a chart its repeat goes on in its rhythm.
    """
    if number > 0 and 0 <= c < lane.width:
        plan, shift = wanted(lane.chart, number, lane.repeats), 0
    else:
        chart = lane.chart if number > 0 else lane.rest
        assert chart is not None, "a lane that rests has a background"
        row = chart.row(abs(number))
        plan, shift = wanted(chart, abs(number), 2 * _FAR), _FAR * chart.multiple
        before = sum(op.takes for op in row.before)
        if number < 0 and c < before:
            shift += chart.multiple * 4
    at = c + shift
    return plan.parent[at] - shift, plan.face[at], plan.depth[at], {o - shift for o in plan.with_[at]}


def look_at_columns(
    lanes: tuple[Lane, ...],
    numbers: Sequence[int],
    shaping: RowShaping,
    below: tuple[Column, ...],
    faces_below: list[str | None],
    above: tuple[Column, ...],
    loops: list[Loop],
    *,
    narrow: bool = False,
) -> None:
    """One row: `below` and `above` are the columns that live, `loops` what a knitter made of the printed words."""
    taken = {t.column: t.into for t in shaping.taken}
    made = {m.column: m for m in shaping.made}
    doubled = {m.beside for m in shaping.made if m.kind == "kfb"}
    held = set(shaping.away)
    halved = {c: each for each in shaping.crossed for c in each.columns}
    claimed = {*taken, *taken.values(), *made, *doubled, *held, *halved}
    faces = dict(zip(below, faces_below, strict=True))
    used: list[Column] = []
    for column, loop in zip(above, loops, strict=True):
        lane, c = column
        parents = {below[p] for p in loop.parents}
        used += parents
        if column in halved:
            columns, at = halved[column].columns, halved[column].left.index(column)
            half = len(columns) // 2
            assert parents == {columns[at], columns[half + at]} and loop.depth == 1, "two lie over each other"
            front = columns[at] if halved[column].lean == "L" else columns[half + at]
            assert below[loop.parents[0]] == front, "the group that lies in front"
            event("a cable crossed and halved")
            continue
        if column in made:
            kind = made[column].kind
            assert parents == ({made[column].beside} if kind == "kfb" else set())
            continue
        if column in taken.values():
            assert parents == {column, *(t for t, into in taken.items() if into == column)}
            _, face, _, with_ = want(lanes[lane], numbers[lane], c)
            assert loop.face == (face if len(with_) == 1 else faces[column] or loop.face), "in its column's texture"
            continue
        parent, face, depth, with_ = want(lanes[lane], numbers[lane], c)
        together = {(lane, other) for other in with_}
        if together <= set(below) and together.isdisjoint(claimed):
            assert parents == {(lane, parent)}, "worked as the chart wants it"
            assert (loop.face, loop.depth) == (face, depth)
            event("worked as charted" if len(together) == 1 else "crossed as charted")
        elif narrow and parents != {column}:
            assert parents <= together and together.isdisjoint(claimed), "crossed as what is left of it"
            event("a cable that grows narrow")
        else:
            assert parents == {column}, "what is not worked stays in its column"
            if column not in doubled and len(together) > 1:
                assert faces[column] in (loop.face, None), "and is worked as it appears"
                event("a crossing that is worked as it appears")
    twice = [c for c in used if c in doubled]
    waits = [c for c in below if c in held]
    assert sorted([*used, *waits]) == sorted([*below, *twice[::2]]), "every loop is taken exactly once, or held"
