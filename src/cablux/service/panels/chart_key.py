"""The key to a chart: each operation with its symbol, its names, and every way of working it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from ...core.notation import Crossing, Op, Stitch
from ...core.pattern.howto import Way, ways_to_work
from ...render.chart import symbol_svg


@dataclass(frozen=True, kw_only=True)
class KeyEntry:
    """One operation: its symbol, its names in both dialects, and what it is called on a wrong-side row.

    `other_name` is empty where both dialects agree.
    """

    symbol: str
    name: str
    other_name: str
    behind: str
    ways: tuple[Way, ...]


def key_of(ops: Iterable[Op]) -> tuple[KeyEntry, ...]:
    """Each operation once: plain stitches first, then what changes them, crossings last, narrow before wide."""
    found = sorted(set(ops), key=lambda op: (not isinstance(op, Stitch), isinstance(op, Crossing), op.takes, op.token))
    return tuple(_entry(op) for op in found)


def _entry(op: Op) -> KeyEntry:
    other = op.hold_token if op.hold_token != op.token else ""
    return KeyEntry(
        symbol=symbol_svg(op), name=op.token, other_name=other, behind=op.wrong_side().token, ways=ways_to_work(op)
    )
