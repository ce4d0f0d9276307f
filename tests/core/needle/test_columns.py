"""Columns that begin and end: what is worked on active loops, read from its words and looked at column by column."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import IllegalPiece
from cablux.core.library import LIBRARY
from cablux.core.needle.chart_columns import Lane
from cablux.core.needle.columns import PLAIN_ROW, ActiveColumns, MadeColumn, RowShaping, TakenColumn
from cablux.core.needle.needle import Needle
from cablux.core.notation import Crossing, Lean, Side, Stitch, shortest_text, wrong_side_row
from tests.core.columns import look_at_columns
from tests.examples import examples
from tests.knitter import Loop, knit

STEADY = sorted(
    p.id
    for p in LIBRARY.values()
    if not p.chart.setup and all(isinstance(op, Stitch | Crossing) for row in p.chart.rows for op in row.ops())
)


@st.composite
def planes(draw: st.DrawFn) -> tuple[Lane, ...]:
    charts = [LIBRARY[draw(st.sampled_from(STEADY))].chart for _ in range(draw(st.integers(1, 4)))]
    return tuple(Lane(chart=chart, repeats=draw(st.integers(1, 2))) for chart in charts)


@st.composite
def active(draw: st.DrawFn, lanes: tuple[Lane, ...]) -> ActiveColumns:
    """Any columns of the plane at first; then in some rows any that do not live are made and any that do are taken."""
    every = [(at, c) for at, lane in enumerate(lanes) for c in range(lane.width)]
    dead_at_first = draw(st.sets(st.sampled_from(every), max_size=max(0, min(6, len(every) - 3))))
    active_now = sorted(set(every) - dead_at_first)
    first, rows = tuple(active_now), []
    for _ in range(draw(st.integers(1, 8))):
        made, taken = list[MadeColumn](), list[TakenColumn]()
        if draw(st.booleans()) and len(active_now) > 3:
            at = draw(st.integers(0, len(active_now) - 2))
            pair = active_now[at : at + 2]
            if draw(st.booleans()):
                pair = pair[::-1]
            taken.append(TakenColumn(pair[0], pair[1], draw(st.sampled_from(Lean))))
        held = {c for t in taken for c in (t.column, t.into)}
        dead = [c for c in every if c not in active_now and not (held and min(held) < c < max(held))]
        if draw(st.booleans()) and dead:
            new = draw(st.sampled_from(dead))
            after = sorted([*(c for c in active_now if c not in held), new])
            beside = after[after.index(new) - 1] if after.index(new) else None
            near = sorted([*active_now, new])
            touching = beside is not None and near[near.index(new) - 1] == beside
            kind = draw(st.sampled_from(["M1", "yo", "kfb"] if touching else ["M1", "yo"]))
            made.append(
                MadeColumn(
                    column=new, kind=kind, lean=draw(st.sampled_from(Lean)), beside=beside if kind == "kfb" else None
                )
            )
        rows.append(RowShaping(made=tuple(made), taken=tuple(taken)) if made or taken else PLAIN_ROW)
        active_now = sorted({*active_now, *(m.column for m in made)} - {t.column for t in taken})
    return ActiveColumns(first, tuple(rows))


@given(st.data())
@examples(50)
def test_every_loop_stands_in_its_column_and_is_worked_as_the_chart_or_as_it_appears(data: st.DataObject) -> None:
    lanes = data.draw(planes())
    life = data.draw(active(lanes))
    needle, loops = Needle(lanes, life.first), [Loop("k", ())] * len(life.first)
    for n, shaping in enumerate(life.rows, start=1):
        side = data.draw(st.sampled_from(Side))
        numbers = [data.draw(st.integers(1, lane.chart.height)) for lane in lanes]
        ops = tuple(op for row in needle.work(side, numbers, shaping) for op in row.ops)
        text = shortest_text(ops if side is Side.RS else wrong_side_row(ops))
        below, faces_below = life.columns[n - 1], [loop.face for loop in loops]
        loops = knit(loops, side.value, text)
        assert needle.columns == life.columns[n], "the needle holds the columns that live"
        assert len(loops) == len(life.columns[n])
        look_at_columns(lanes, numbers, shaping, below, faces_below, life.columns[n], loops)


def test_lives_that_nobody_can_knit_are_refused() -> None:
    columns = ((0, 0), (0, 1), (0, 2), (0, 3))
    for row, said in (
        (RowShaping(taken=(TakenColumn((0, 0), (0, 2)),)), "side by side"),
        (RowShaping(taken=(TakenColumn((0, 5), (0, 2)),)), "takes a column that is not"),
        (RowShaping(taken=(TakenColumn((0, 1), (0, 5)),)), "together with one that is not"),
        (RowShaping(made=(MadeColumn(column=(0, 1)),)), "on the needle already"),
        (RowShaping(made=(MadeColumn(column=(0, 9), kind="kfb", beside=(0, 1)),)), "does not lie beside"),
        (RowShaping(made=(MadeColumn(column=(0, 9), kind="kfb"),)), "not there"),
    ):
        with pytest.raises(IllegalPiece, match=said):
            ActiveColumns(columns, (row,))


def test_a_cable_that_grows_narrow_is_crossed_as_what_is_left_of_it() -> None:
    rope = LIBRARY["rope-3-3-left"].chart
    crossing = next(n for n in rope.crossing_rows)
    at = next(i for i, op in enumerate(rope.ops(crossing)) if isinstance(op, Crossing))
    left = [(0, c) for c in range(rope.width()) if c not in (at, at + 5)]  # 3/3 → 2/2: its outermost columns are gone
    needle = Needle((Lane(chart=rope, repeats=1),), tuple(left), narrow=True)
    (row,) = needle.work(Side.RS, [crossing])
    assert [op.token for op in row.ops if isinstance(op, Crossing)] == ["2/2 LC"]
    plain = Needle((Lane(chart=rope, repeats=1),), tuple(left))
    assert not [op for op in plain.work(Side.RS, [crossing])[0].ops if isinstance(op, Crossing)]


def test_a_background_goes_on_beyond_its_chart_in_its_own_rhythm() -> None:
    rib = LIBRARY["rib-2x2"].chart
    lane = Lane(chart=rib, repeats=3, open_right=True, open_left=True)
    needle = Needle((lane,), tuple((0, c) for c in range(-13, lane.width + 9)))
    ops = needle.work(Side.RS, [1])[0].ops
    shown = [loop.face.value for op in ops for loop in op.made]
    inside = [op.made[0].face.value for op in rib.ops(1, 3)]
    assert shown[13 : 13 + lane.width] == inside
    assert all(a == b for a, b in zip(shown, shown[rib.multiple :], strict=False)), "the rib is never broken"


@given(st.data())
@examples(20)
def test_a_short_row_works_what_it_reaches_and_the_next_comes_back_from_its_turn(data: st.DataObject) -> None:
    lanes = data.draw(planes())
    columns = tuple((at, c) for at, lane in enumerate(lanes) for c in range(lane.width))
    needle, loops = Needle(lanes, columns), [Loop("k", ())] * len(columns)
    many, turned, side = len(columns), None, Side.RS
    for _ in range(6):
        reach = None
        if data.draw(st.booleans()) and many > 2:
            stop = data.draw(st.integers(1, many - 1))
            if turned is None:
                reach = (0, stop) if side is Side.RS else (stop, many)
            elif side is Side.RS:
                reach = (turned, data.draw(st.integers(turned + 1, many)))
            else:
                reach = (data.draw(st.integers(0, turned - 1)), turned)
        elif turned is not None:
            reach = (turned, many) if side is Side.RS else (0, turned)
        low, high = reach or (0, many)
        numbers = [data.draw(st.integers(1, lane.chart.height)) for lane in lanes]
        ops = tuple(op for row in needle.work(side, numbers, RowShaping(reach=reach)) for op in row.ops)
        below = loops
        loops = knit(below, side.value, shortest_text(ops if side is Side.RS else wrong_side_row(ops)))
        assert len(loops) == many and needle.columns == columns
        for place, (loop, old) in enumerate(zip(loops, below, strict=True)):
            if low <= place < high:
                assert not loop.slipped
            else:
                assert loop.slipped and loop.parents == (place,) and loop.face == old.face, "it waits as it is"
        ends = high if side is Side.RS else low
        turned = None if ends == (many if side is Side.RS else 0) else ends
        side = side.other


def test_a_row_that_does_not_come_back_from_the_turn_is_refused() -> None:
    lane = Lane(chart=LIBRARY["stockinette"].chart, repeats=8)
    needle = Needle((lane,), tuple((0, c) for c in range(8)))
    needle.work(Side.RS, [1], RowShaping(reach=(0, 5)))
    with pytest.raises(IllegalPiece, match="where the work was turned"):
        needle.work(Side.WS, [2])
    with pytest.raises(IllegalPiece, match="stitches 1 to 9, but there are 8"):
        ActiveColumns(tuple((0, c) for c in range(8)), (RowShaping(reach=(0, 9)),))
