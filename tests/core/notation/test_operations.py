"""Operations: two views that undo each other, and crossings as the permutations of a general algebra library."""

from __future__ import annotations

import pytest
from hypothesis import given
from sympy.combinatorics import Permutation

from cablux.core.library import LIBRARY
from cablux.core.notation import crossing, faces, made_loops, makes, mirrored_row, parse_op, takes, wrong_side_row
from tests.core.strategies import crossings, ops, rows


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


# Common practice: what each operation takes and makes, which strand lies on top (0 is the right one; -1 where
# there is none), and what is worked on a wrong-side row for the same cloth.
TRADE = [
    ("k1", 1, 1, 0, "p1"),
    ("k1 tbl", 1, 1, 0, "p1 tbl"),
    ("sl1 wyib", 1, 1, 0, "sl1 wyif"),
    ("yo", 0, 1, -1, "yo"),
    ("yo2", 0, 2, -1, "yo2"),
    ("M1L", 0, 1, -1, "M1PL"),
    ("M1R", 0, 1, -1, "M1PR"),
    ("kfb", 1, 2, 0, "pbf"),
    ("k1-yo-k1", 1, 3, 0, "p1-yo-p1"),
    ("k2tog", 2, 1, 1, "p2tog"),
    ("ssk", 2, 1, 0, "ssp"),
    ("k2tog tbl", 2, 1, 0, "p2tog tbl"),
    ("k3tog", 3, 1, 2, "p3tog"),
    ("sssk", 3, 1, 0, "sssp"),
    ("sk2p", 3, 1, 0, "sp2p"),
    ("S2KP", 3, 1, 1, "S2PP"),
    ("MB5", 1, 1, 0, "MB5 back"),
    ("w&t", 1, 1, 0, "w&t"),
    ("ds", 1, 1, 0, "ds"),
    ("turn", 0, 0, -1, "turn"),
    ("no-st", 0, 0, -1, "no-st"),
    ("leave 1", 1, 1, 0, "leave 1"),
    ("2/2 LC dec", 4, 2, 0, "2/2 LPC dec"),
    ("3/3 RC dec", 6, 3, 3, "3/3 RPC dec"),
    ("2/1 LPC", 3, 3, 2, "1/2 LPC"),
    ("3/3/3 LC", 9, 9, 6, "3/3/3 LC purl"),
    ("6/2f/6 RPC", 14, 14, 8, "RC[p6|b k2|p6]"),
    ("4/4 LC rib", 8, 8, 4, "4/4 LC rib"),
]


@pytest.mark.parametrize(("token", "taken", "made", "top", "behind"), TRADE)
def test_every_operation_takes_makes_and_turns_as_the_trade_says(token, taken, made, top, behind):
    op = parse_op(token)
    assert (op.token, op.takes, op.makes) == (token, taken, made)
    assert (op.made[0].parents[0] if op.made and op.made[0].parents else -1) == top
    shown = op.wrong_side().token
    assert parse_op(shown) == parse_op(behind) and parse_op(behind).wrong_side() == op
    assert op.mirrored().mirrored() == op


def test_every_crossing_up_to_eight_over_eight_with_any_centre_is_the_shift_of_a_list():
    """The oracle is python's own list slicing: the outer groups change places, the centre stays between them."""
    for over in range(1, 9):
        for under in range(1, 9):
            for centre in range(5):
                for lean, (first, last) in (("L", (over, under)), ("R", (under, over))):
                    loops = list(range(over + centre + under))
                    wanted = loops[first + centre :] + loops[first : first + centre] + loops[:first]
                    op = crossing(over, under, lean, centre=centre)
                    assert [loop.parents[0] for loop in op.made] == wanted and last == len(loops) - first - centre
                    assert parse_op(op.token) == op


@pytest.mark.parametrize(("at", "depth"), [("", 0), ("f", 2), ("b", -2)])
def test_a_centre_lies_between_in_front_or_behind(at, depth):
    """Common practice: 6/2/6 has both its habits."""
    op = parse_op(f"6/2{at}/6 LPC")
    depths = [loop.depth for loop in op.made]
    assert depths == [-1] * 6 + [depth] * 2 + [1] * 6
    assert [loop.depth for loop in op.wrong_side().made[6:8]] == [-depth] * 2
