"""Schedules against the worked values of the trade and against every way there is."""

from __future__ import annotations

from itertools import combinations

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from cablux.core.errors import IllegalPiece
from cablux.core.needle.schedule import Rate, block_schedule, mixed_schedule, ordinal, rated_schedule, rates_text

# computed by brute force: changes, rows, rows between those in which it may be shaped, the blocks, how
# many plain rows follow, how far they stray, how far the mixed schedule strays
WORKED = [
    (14, 96, 2, [(6, 8), (8, 6)], 0, 1.00, 0.62),
    (16, 110, 2, [(6, 9), (8, 7)], 0, 1.15, 0.64),
    (15, 84, 1, [(5, 7), (6, 8)], 1, 0.89, 0.57),
    (16, 44, 2, [(2, 10), (4, 6)], 0, 2.73, 0.82),
    (12, 130, 2, [(10, 8), (12, 4)], 2, 0.92, 0.58),
    (28, 120, 2, [(4, 24), (6, 4)], 0, 1.60, 0.73),
    (10, 30, 2, [(2, 5), (4, 5)], 0, 1.67, 0.67),
    (14, 72, 1, [(4, 1), (5, 13)], 3, 0.78, 0.58),
]


@pytest.mark.parametrize(("changes", "rows", "step", "blocks", "plain", "strays", "mixed"), WORKED)
def test_schedules_are_those_of_the_worked_table(
    changes: int, rows: int, step: int, blocks: list[tuple[int, int]], plain: int, strays: float, mixed: float
) -> None:
    found = block_schedule(changes, rows, step=step)
    assert [(rate.every, rate.times) for rate in found.rates] == blocks
    assert found.plain == plain
    assert found.strays == pytest.approx(strays, abs=0.006)
    assert mixed_schedule(changes, rows, step=step).strays == pytest.approx(mixed, abs=0.006)


def furthest(at: tuple[int, ...], rows: int) -> float:
    """How far from the straight line, row by row, without the row's own change and with it."""
    done = [(sum(row < r for row in at), sum(row <= r for row in at), r) for r in range(rows + 1)]
    return max(abs(k - len(at) * r / rows) for before, after, r in done for k in (before, after))


@given(st.integers(0, 5), st.integers(1, 16), st.sampled_from([1, 2]), st.data())
def test_no_other_two_neighbouring_rates_stray_less(changes: int, rows: int, step: int, data: st.DataObject) -> None:
    lag = data.draw(st.integers(0, step - 1))
    allowed = [row for row in range(1, rows + 1) if (row + lag) % step == 0]
    if changes > len(allowed):
        with pytest.raises(IllegalPiece, match="do not fit"):
            block_schedule(changes, rows, step=step, lag=lag)
        return
    found = block_schedule(changes, rows, step=step, lag=lag)
    assert set(found.at) <= set(allowed)
    assert len(found.at) == changes
    assert found.strays == pytest.approx(furthest(found.at, rows))
    for at in combinations(allowed, changes):
        gaps = [b - a for a, b in zip((-lag, *at), at, strict=False)]
        turns = [gap for i, gap in enumerate(gaps) if i == 0 or gap != gaps[i - 1]]
        ends_alike = not at or rows - at[-1] < min(gaps)
        if len(turns) <= 2 and max(gaps, default=0) - min(gaps, default=0) <= step and ends_alike:
            assert furthest(at, rows) >= found.strays - 1e-9, at


@given(st.integers(1, 30), st.integers(1, 200), st.sampled_from([1, 2]), st.data())
def test_a_mixed_schedule_keeps_within_a_step_of_the_line(
    changes: int, rows: int, step: int, data: st.DataObject
) -> None:
    lag = data.draw(st.integers(0, step - 1))
    assume(changes * step * 2 <= rows)
    found = mixed_schedule(changes, rows, step=step, lag=lag)
    assert list(found.at) == sorted({row for row in found.at if (row + lag) % step == 0 and 1 <= row <= rows})
    assert len(found.at) == changes
    assert furthest(found.at, rows) < 1.0 + changes * step / rows


def test_rates_are_said_as_people_say_them() -> None:
    assert rates_text((Rate(6, 8), Rate(8, 1))) == "every 6th row 8 times, then every 8th row once"
    assert rates_text((Rate(1, 2),), "round") == "every round twice"
    assert [ordinal(n) for n in (1, 2, 3, 4, 11, 12, 13, 21, 22, 101, 111)] == [
        *("1st", "2nd", "3rd", "4th", "11th", "12th", "13th", "21st", "22nd", "101st", "111th")
    ]
    with pytest.raises(IllegalPiece, match="takes 16 rows, but there are 12"):
        rated_schedule((Rate(2, 8),), 12)
