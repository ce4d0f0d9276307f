"""The row as a tree of items and repeats, and its text: `k3, (p4, 2/2 LC) 4 times, p4, k3`."""

from __future__ import annotations

from dataclasses import dataclass, field

from ..errors import InvalidText, Problem
from .operations import Op

MAX_STITCHES = 20_000  # our choice: wider than any piece, so that a slip like `k99999999` is caught


@dataclass(frozen=True)
class Item:
    """One operation worked `count` times; `at` is where it stands in the text, from 0."""

    op: Op
    count: int = 1
    at: int = field(default=0, compare=False, repr=False)


@dataclass(frozen=True)
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


def expand(nodes: tuple[Node, ...]) -> tuple[tuple[Op, int], ...]:
    """Every operation in working order with its place in the text; open repeats are worked once."""
    out: list[tuple[Op, int]] = []
    for node in nodes:
        if isinstance(node, Item):
            out += ((node.op, node.at),) * node.count
        else:
            out += expand(node.items) * (1 if node.times is None else node.times)
        if len(out) > MAX_STITCHES:
            raise InvalidText((Problem(f"The row has more than {MAX_STITCHES} operations.", column=node.at + 1),))
    return tuple(out)


def format_flat(ops: tuple[Op, ...], *, hold: bool = False) -> str:
    """Operations in a line, runs joined (`k3, 2/2 LC, p2`) and nothing repeated; `parse_ops` undoes it."""
    return ", ".join(run_text(op, n, hold=hold) for op, n in runs(ops))


def runs(ops: tuple[Op, ...]) -> list[tuple[Op, int]]:
    """Equal neighbours counted together."""
    out: list[tuple[Op, int]] = []
    for op in ops:
        if out and out[-1][0] == op:
            out[-1] = (op, out[-1][1] + 1)
        else:
            out.append((op, 1))
    return out


def run_text(op: Op, count: int, *, hold: bool = False) -> str:
    """`k3`, `k2 tbl`, `2/2 LC`, or `(2/2 LC) 3 times`."""
    if op.counted:
        return op.counted.format(count)
    token = op.hold_token if hold else op.token
    return token if count == 1 else f"({token}) {count} times"
