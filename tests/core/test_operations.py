"""Operations: two views that undo each other, and crossings as the permutations of a general algebra library."""

from __future__ import annotations

import pytest
from hypothesis import given
from sympy.combinatorics import Permutation

from cablux.core.library import LIBRARY
from cablux.core.notation import crossing, faces, made_loops, makes, mirrored_row, takes, wrong_side_row

from .strategies import crossings, ops, rows


@given(ops)
def test_the_wrong_side_of_the_wrong_side_and_the_mirror_of_the_mirror_are_the_operation_itself(op):
    assert op.wrong_side().wrong_side() == op
    assert op.mirrored().mirrored() == op
    assert op.mirrored().wrong_side() == op.wrong_side().mirrored()


@given(rows)
def test_both_views_of_a_row_keep_its_counts_and_turn_its_faces(row):
    behind = wrong_side_row(row)
    assert (takes(behind), makes(behind)) == (takes(row), makes(row))
    with_face = [loop for loop in made_loops(row) if not (loop.hole or loop.slipped)]
    seen_behind = [loop for loop in made_loops(behind) if not (loop.hole or loop.slipped)]
    assert [a.face for a in with_face] == [b.face.other for b in reversed(seen_behind)]
    assert wrong_side_row(behind) == row
    assert mirrored_row(mirrored_row(row)) == row


def _as_permutation(op) -> Permutation:
    """Where each loop goes: loop i of the row below becomes loop image[i]."""
    image = [0] * op.takes
    for place, loop in enumerate(op.made):
        image[loop.parents[0]] = place
    return Permutation(image)


@given(crossings())
def test_a_crossing_is_the_block_transposition_that_its_groups_describe(op):
    o, c, u = len(op.over), len(op.centre), len(op.under)
    first, last = (o, u) if op.lean == "L" else (u, o)
    n = o + c + u
    # exchanging the outer blocks is a reversal of everything, then of each block
    blocks = [range(last), range(last, last + c), range(last + c, n)]
    reverse_all = Permutation(list(range(n - 1, -1, -1)))
    reverse_blocks = Permutation([block[-1 - i] for block in blocks for i in range(len(block))])
    got = _as_permutation(op)
    assert got == reverse_all * reverse_blocks
    assert first + c + last == n
    # its mirror image is the conjugate by the reflection, and undoes it where the groups change places
    mirror = reverse_all
    assert _as_permutation(op.mirrored()) == mirror * got * mirror
    # in front is in front: exactly the over-group is marked so, and it travels the way the crossing leans
    front = [place - loop.parents[0] for place, loop in enumerate(op.made) if loop.depth == 1]
    assert len(front) == o and all(step == (c + u if op.lean == "L" else -(c + u)) for step in front)


def test_a_knitted_row_behind_a_crossing_leans_the_same_way():
    """Common practice: held to the front of the worker on the wrong side, it lies behind on the right side."""
    behind = crossing(2, 1, "L", purl=True).wrong_side()
    assert behind.token == "1/2 LPC"


@pytest.mark.parametrize(
    ("pattern", "order"),
    [
        # common practice: row repeats before every stitch is back in its own column
        ("rope-2-2-left", 2),
        ("rope-3-3-right", 2),
        ("rope-4-4-left", 2),
        ("rope-pair-3-3", 2),
        ("braid-6", 3),
        ("braid-9", 3),
        ("horseshoe-8", 2),
        ("horseshoe-12", 2),
        ("honeycomb", 1),
        ("wave-6", 1),
        ("hugs-8", 1),
        ("diamond-moss", 2),
    ],
)
def test_strands_come_home_after_as_many_repeats_as_tradition_says(pattern, order):
    chart = LIBRARY[pattern].chart
    total = Permutation(list(range(chart.width(2))))
    for row in chart.rows:
        image = [0] * chart.width(2)
        for place, loop in enumerate(made_loops(row.ops(2))):
            image[loop.parents[0]] = place
        total = total * Permutation(image)
    assert total.order() == order


@given(rows)
def test_each_made_loop_points_at_loops_of_the_row_below(row):
    below = takes(row)
    parents = [p for loop in made_loops(row) for p in loop.parents]
    assert sorted(set(parents)) == list(range(below)), "every loop is worked"
    assert len(faces(row)) == makes(row)
