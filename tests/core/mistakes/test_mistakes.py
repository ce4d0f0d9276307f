"""Mistakes of every kind in random rows: the cloth that is left is knitted, and costs are counted loop by loop."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.mistakes import MISTAKES, Mistake, UnlikelyMistake, altered_pattern, find_ways_out
from cablux.core.mistakes.mistake import COUNTS
from cablux.core.pattern import WorkedPattern, compile_piece
from cablux.core.pattern.words import row_words
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.segment import library_segment
from cablux.demo.loader import DEMO
from tests.core.strategies import pieces
from tests.examples import examples
from tests.knitter import Loop, knit
from tests.service.chair.test_lost_place import demo

PIECES = [(name, own.number) for name, _ in DEMO for own in demo(name).pieces]


def patterns() -> Iterator[tuple[str, WorkedPattern]]:
    for name, number in PIECES:
        yield name, compile_piece(demo(name).opened_at(number).piece())


def knitted(pattern: WorkedPattern, first: int, last: int) -> list[list[Loop]]:
    """The loops of rows `first` to `last`, knitted from their words over what the row below leaves."""
    needle = [Loop("k", ())] * pattern.row(first).before
    out = []
    for row in pattern.rows[first - 1 : last]:
        needle = knit(needle, str(row.side), row_words(row))
        out.append(needle)
    return out


def bound_together(row: list[Loop]) -> list[set[int]]:
    """Loops of a row that only come down together: strands that cross each other, and what was made of one loop."""
    groups = [{i} for i in range(len(row))]

    def joined(i: int, j: int) -> None:
        one, other = (next(g for g in groups if each in g) for each in (i, j))
        if one is not other:
            one |= other
            groups.remove(other)

    reach = [(min(loop.parents, default=-1), max(loop.parents, default=-1)) for loop in row]
    for i, (_, high) in enumerate(reach):
        for j in range(i + 1, min(len(row), i + 40)):
            if row[i].parents and row[j].parents and reach[j][0] <= high:
                joined(i, j)
    return groups


def let_down(rows: list[list[Loop]], start: set[int]) -> int:
    """Loops that come down when `start` of the first row is to be free: whatever stands on them, with its company."""
    below, total = start, len(start)
    for row in rows[1:]:
        above = {i for i, loop in enumerate(row) if set(loop.parents) & below}
        above = set().union(*(g for g in bound_together(row) if g & above)) if above else set()
        below, total = above, total + len(above)
    return total


def tries(pattern: WorkedPattern, chance: random.Random, kind: str) -> Iterator[Mistake]:
    """Mistakes of a kind at places that can have it: crossings for crossings, anywhere else for the others."""
    for _ in range(12):
        row = chance.choice(pattern.rows)
        if "crossing" in kind or kind.startswith("wrong"):
            rows = [r for r in pattern.rows if bool(r.crossing_parts) == (kind != "crossing-early")]
            if not rows:
                return
            row = chance.choice(rows)
        segment = chance.randrange(len(row.parts))
        if row.crossing_parts:
            segment = chance.choice([n for n, p in enumerate(row.parts) if p in row.crossing_parts])
        seen = min(len(pattern.rows) - 1, row.number + chance.randrange(0, 12))
        if not row.parts[segment].makes:
            continue
        stitch = 0 if kind.startswith(("crossing", "wrong")) else chance.randrange(1, row.parts[segment].makes + 1)
        if row.number <= seen:
            yield Mistake(kind=kind, row=row.number, segment=segment, seen_at=seen, stitch=stitch)  # type: ignore[arg-type]


@pytest.mark.parametrize("kind", MISTAKES)
def test_what_is_left_in_the_cloth_can_be_knitted_on(kind: str) -> None:
    """Every row after it takes what is there, as a knitter finds it, and the count is the planned one in the end."""
    chance, made = random.Random(MISTAKES.index(kind)), 0
    for _, pattern in patterns():
        for mistake in tries(pattern, chance, kind):
            try:
                cloth = altered_pattern(pattern, [mistake])
            except UnlikelyMistake:
                continue
            last = min(len(pattern.rows), mistake.seen_at + 2)
            first = max(1, mistake.row)
            rows = knitted(cloth, first, last)
            planned = knitted(pattern, first, last)
            counts = [len(row) - len(plan) for row, plan in zip(rows, planned, strict=True)]
            off = {"stitch-lost": -1, "stitch-gained": 1, "increase-forgotten": -1}.get(kind, 0)
            since = mistake.seen_at - mistake.row + 1
            assert counts == [off] * since + [0] * (len(counts) - since)
            if kind != "dropped":
                assert any(row != plan for row, plan in zip(rows, planned, strict=True)), "nothing is wrong in it"
            made += 1
            break
    assert made >= 5 or kind in ("increase-forgotten", "crossing-early")


@examples(8)
@given(pieces(), st.sampled_from(MISTAKES), st.randoms(use_true_random=False))
def test_rows_follow_each_other_over_a_mistake_in_any_piece(piece: Piece, kind: str, chance: random.Random) -> None:
    pattern = compile_piece(piece)
    for mistake in tries(pattern, chance, kind):
        try:
            cloth = altered_pattern(pattern, [mistake])
        except UnlikelyMistake:
            continue
        last = min(len(pattern.rows), mistake.seen_at + 3)
        needle = [len(row) for row in knitted(cloth, mistake.row, last)]
        assert needle[-1] == pattern.row(last).after
        assert needle == [row.after for row in cloth.rows[mistake.row - 1 : last]]
        return


def test_costs_are_those_of_a_knitter_who_counts_every_loop() -> None:
    chance, told = random.Random(3), 0
    for _, pattern in patterns():
        for kind in ("crossing-missed", "wrong-lean", "knit-for-purl", "ridge-missed", "dropped"):
            for mistake in tries(pattern, chance, kind):
                try:
                    answers = {a.kind: a for a in find_ways_out(pattern, mistake)}
                    cloth = altered_pattern(pattern, [mistake])
                except UnlikelyMistake:
                    continue
                rows = knitted(cloth, mistake.row, mistake.seen_at)
                assert answers["rip"].loops == sum(map(len, rows))
                back = answers["unknit"].loops - sum(map(len, rows[1:]))
                assert 0 < back <= len(rows[0])
                drop = answers["drop"]
                if drop.possible:
                    planned = knitted(pattern, mistake.row, mistake.row)[0]
                    wrong = {i for i, (a, b) in enumerate(zip(rows[0], planned, strict=True)) if a != b}
                    if kind == "dropped":
                        right = sum(p.makes for p in pattern.row(mistake.row).parts[: mistake.segment])
                        assert drop.loops >= mistake.seen_at - mistake.row
                        assert drop.columns[0] <= right + mistake.stitch + 12
                    else:
                        start = set().union(*(g for g in bound_together(planned) if g & wrong))
                        assert drop.loops == let_down(rows, start), f"{mistake}"
                    told += 1
                elif not drop.columns[1]:
                    assert "In row" in drop.reason
                break
    assert told > 30


def test_a_crossing_comes_down_with_all_its_strands() -> None:
    """Common practice: all strands of a crossing are dropped together, however many rows deep."""
    pattern = compile_piece(demo("skerry-throw.json").piece())
    rows = [r for r in pattern.rows if any("3/3" in op.token for op in r.ops)]
    segment = next(n for n, p in enumerate(rows[0].parts) if p.name.startswith("Rope 3/3"))
    again = [r.number for r in rows if any("3/3" in op.token for op in r.parts[segment].ops)]
    mistake = Mistake(kind="wrong-lean", row=again[0], segment=segment, seen_at=again[1] + 2)
    answers = {a.kind: a for a in find_ways_out(pattern, mistake, lifelines=(again[0] - 3,))}
    deep = again[1] + 2 - again[0] + 1
    assert answers["drop"].loops == 6 * deep and answers["drop"].rows == deep
    assert answers["drop"].columns[1] - answers["drop"].columns[0] == 5 and answers["drop"].crossings == 2
    assert answers["duplicate"].possible and answers["lifeline"].rows == again[1] + 5 - again[0]
    assert answers["lifeline"].loops == sum(r.after for r in pattern.rows[again[0] - 3 : again[1] + 2])


def test_what_cannot_be_done_says_why() -> None:
    pattern = compile_piece(demo("skerry-throw.json").piece())
    lost = {
        a.kind: a for a in find_ways_out(pattern, Mistake(kind="stitch-lost", row=60, segment=1, seen_at=66, stitch=4))
    }
    assert not lost["drop"].possible and "length of yarn" in lost["drop"].reason
    assert "put right in row 67" in lost["leave"].reason
    dropped = {
        a.kind: a for a in find_ways_out(pattern, Mistake(kind="dropped", row=60, segment=1, seen_at=66, stitch=4))
    }
    assert not dropped["leave"].possible and "catch it" in dropped["leave"].reason
    edge, woven = library_segment("edge", "garter", 3), library_segment("panel", "basket-6-wide", 4)
    basket = compile_piece(
        replace(demo("skerry-throw.json").piece(), bands=(Band(own=(edge, woven, edge)),), top=Border())
    )
    row = next(r for r in basket.rows if r.crossing_parts).number
    bound = {
        a.kind: a
        for a in find_ways_out(basket, Mistake(kind="wrong-lean", row=row, segment=1, seen_at=row + 40, stitch=0))
    }
    assert not bound["drop"].possible and "bind" in bound["drop"].reason
    for bad in (
        Mistake(kind="crossing-missed", row=48, segment=2, seen_at=50),
        Mistake(kind="ridge-missed", row=999, segment=0, seen_at=999),
    ):
        with pytest.raises(UnlikelyMistake):
            find_ways_out(pattern, bad)
    assert set(COUNTS) < set(MISTAKES)
