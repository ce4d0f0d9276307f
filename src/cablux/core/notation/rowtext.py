"""The row as a tree of items and repeats, and its text: `k3, (p4, 2/2 LC) 4 times, p4, k3`."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from ..errors import InvalidText, Problem
from .operations import Op

MAX_ROW_STITCHES = 20_000  # our choice: wider than any piece, so that a slip like `k99999999` is caught
MAX_CHART = 400_000  # our choice: twice a whole piece of 300 stitches by 600 rows


@dataclass(frozen=True)
class Item:
    """One operation worked `count` times; `at` is where it stands in the text, from 0."""

    op: Op
    count: int = 1
    at: int = field(default=0, compare=False, repr=False)


@dataclass(frozen=True, kw_only=True)
class Repeat:
    """A group worked `times` times, or as often as fits where `times` is None.

    `left` is how many stitches an open repeat is said to leave at the end of the row; None if nothing is said.
    """

    items: tuple[Item | Repeat, ...]
    times: int | None
    at: int = field(default=0, compare=False, repr=False)
    left: int | None = None


@dataclass(frozen=True)
class AsSet:
    """“Knit the knits and purl the purls”, or the other way about if `changed`."""

    changed: bool = False
    at: int = field(default=0, compare=False, repr=False)


Node = Item | Repeat


_DIGITS = re.compile(r"\d{7,}")


def check_digits(text: str) -> None:
    """Raises InvalidText for a number that is far too long to be meant, before it is worked with."""
    if found := _DIGITS.search(text):
        raise InvalidText(
            (
                Problem(
                    message=f"A number of {len(found[0])} digits is too large for a chart; write a smaller one.",
                    column=found.start() + 1,
                ),
            )
        )


def stitches_in(nodes: tuple[Node, ...]) -> int:
    """How many operations a tree stands for, without writing them out; open repeats are worked once."""
    return sum(
        node.count if isinstance(node, Item) else stitches_in(node.items) * (1 if node.times is None else node.times)
        for node in nodes
    )


@dataclass(frozen=True)
class Placed:
    """Operations in working order, and where each stands in the text: apart, for a chart has hundreds of thousands."""

    ops: tuple[Op, ...] = ()
    spots: tuple[int, ...] = ()

    def __len__(self) -> int:
        return len(self.ops)

    def __add__(self, other: Placed) -> Placed:
        return Placed(self.ops + other.ops, self.spots + other.spots)

    def __mul__(self, times: int) -> Placed:
        return Placed(self.ops * times, self.spots * times)


def expand_repeats(nodes: tuple[Node, ...]) -> Placed:
    """Every operation in working order with its place in the text; open repeats are worked once.

    Raises InvalidText where there are too many, before any is written out.
    """
    if stitches_in(nodes) > MAX_ROW_STITCHES:
        raise InvalidText(
            (Problem(message=f"The row has more than {MAX_ROW_STITCHES} operations.", column=nodes[0].at + 1),)
        )
    return _expand(nodes)


def _expand(nodes: tuple[Node, ...]) -> Placed:
    ops: list[Op] = []
    spots: list[int] = []
    for node in nodes:
        if isinstance(node, Item):
            ops += (node.op,) * node.count
            spots += (node.at,) * node.count
        else:
            inside = _expand(node.items) * (1 if node.times is None else node.times)
            ops += inside.ops
            spots += inside.spots
    return Placed(tuple(ops), tuple(spots))


def format_flat(ops: tuple[Op, ...], *, hold: bool = False) -> str:
    """Operations in a line, runs joined (`k3, 2/2 LC, p2`) and nothing repeated; `parse_ops` undoes it."""
    return ", ".join(run_text(op, n, hold=hold) for op, n in equal_runs(ops))


def equal_runs(ops: tuple[Op, ...]) -> list[tuple[Op, int]]:
    """Equal neighbours counted together."""
    out: list[tuple[Op, int]] = []
    for op in ops:
        if out and out[-1][0] == op:
            out[-1] = (op, out[-1][1] + 1)
        else:
            out.append((op, 1))
    return out


def run_text(op: Op, count: int, *, hold: bool = False) -> str:
    """`k3`, `k2 tbl`, `2/2 LC`, or `(2/2 LC) 3 times`.

    >>> from cablux.core import parse_ops
    >>> run_text(parse_ops("p1")[0], 7), run_text(parse_ops("2/2 LC")[0], 3)
    ('p7', '(2/2 LC) 3 times')
    """
    if op.counted:
        return op.counted.format(count)
    token = op.hold_token if hold else op.token
    return token if count == 1 else f"({token}) {count} times"
