"""Short rows of one's own: what each row works, told stitch by stitch, so that one part of a piece grows higher."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from ..errors import IllegalPiece
from ..notation import Side, side_of
from ..shaping.lives import Column, Lives, RowShaping
from .bend import reached_numbers
from .heights import chart_offset, first_row
from .plane import Plane
from .section_walk import first_columns

Reach = tuple[int, int]
"""The stitches that a row works, counted from the right: the first of them, and the first beyond them."""


def short_lives(plane: Plane, begun: tuple[Column, ...] = ()) -> Lives:
    """All columns live in every row, those that a band below has left or all there are; each row works some of them.

    Raises IllegalPiece for rows that do not begin where the one before has turned.
    """
    shaping = plane.view.shaping
    assert shaping is not None and shaping.short, "only bands with short rows of their own come here"
    first = begun or first_columns(plane, 0)
    _check(plane, shaping.short, len(first))
    whole = (0, len(first))
    return Lives(first, tuple(RowShaping() if reach == whole else RowShaping(reach=reach) for reach in shaping.short))


def _check(plane: Plane, rows: tuple[Reach, ...], count: int) -> None:
    if plane.view.round:
        raise IllegalPiece("Short rows are turned, so they are worked flat: begin a round part after them.")
    number = first_row(plane.view)
    at = 0 if side_of(number) is Side.RS else count
    for n, (low, high) in enumerate(rows, start=number):
        if not 0 <= low < high <= count:
            raise IllegalPiece(f"Row {n} is to work stitches {low + 1} to {high}, but there are {count}.")
        begin, end = (low, high) if side_of(n) is Side.RS else (high, low)
        if begin != at:
            raise IllegalPiece(f"Row {n} begins at stitch {begin}, but the yarn is at stitch {at}: let it begin there.")
        at = end


def short_numbers(plane: Plane, lives: Lives) -> tuple[tuple[int, ...], ...]:
    """The chart rows of all lanes: each goes on only in the rows that reach it."""
    return reached_numbers(plane, lives, chart_offset(plane.view))


def sloped_rows(steps: Sequence[int], count: int, edge: Literal["both", "right", "left"]) -> tuple[Reach, ...]:
    """Short rows that leave stitches in steps at an edge, or at both, and at the end work all of them once more.

    >>> sloped_rows((3, 3, 2), 20, "both")
    ((0, 17), (3, 17), (3, 14), (6, 14), (6, 20), (0, 20))
    """
    out: list[Reach] = []
    right = left = 0
    for step in steps[:-1]:
        left += step if edge != "right" else 0
        out.append((right, count - left))
        right += step if edge != "left" else 0
        out.append((right, count - left))
    return (*out, (right, count), (0, count))


def raised_rows(right: int, left: int, count: int, pairs: int, outermost: int) -> tuple[Reach, ...]:
    """Short rows that raise what lies between two places, each pair reaching further until `outermost` is left there.

    The last row goes on to the left end, where the piece can be joined in the round.

    >>> raised_rows(10, 20, 40, 2, 4)
    ((0, 20), (10, 20), (10, 26), (4, 26), (4, 40))
    """
    out: list[Reach] = []
    at = 0
    for n in range(pairs):
        further = round((right - outermost) * n / max(1, pairs - 1))
        low, high = right - further, left + further
        out += [(at, high), (low, high)]
        at = low
    return (*out, (at, count))
