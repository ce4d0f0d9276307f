"""The lint: what a chart that adds up may still have wrong with it, as named warnings that can be waved through."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from ..practice import ROWS_TO_STITCHES
from .charts import Chart
from .crossings import CrossedDecrease, Crossing
from .operations import Face, Op, made_loops
from .transform import is_reversible

WIDEST = 6  # common practice: wider than 6 over 6 strains the yarn and the hands
FIRST_ROWS = 2  # common practice: two plain rows before the first crossing
TWICE = 2.0
"""Our choice: how much longer than the rows it rises a strand may be; crossed every 2n rows it is a fifth longer."""
ROWS_BETWEEN = 2  # common practice: two strands are not crossed again with fewer rows between


@dataclass(frozen=True, kw_only=True)
class ChartWarning:
    """One thing to look at twice: its name, where it stands, what it is and what would mend it."""

    name: str
    message: str
    mend: str
    row: int = 0
    stitch: int = 0


@dataclass(frozen=True)
class Rule:
    """A named check, and in one line what it looks for."""

    name: str
    looks_for: str
    find: Callable[[Chart], Iterator[ChartWarning]]


def lint_chart(chart: Chart, *, flat: bool = True, allowed: bool = False) -> tuple[ChartWarning, ...]:
    """All warnings about a chart that passes the audit; those it allows only if `allowed`.

    >>> from cablux.core import parse_chart
    >>> [warning.name for warning in lint_chart(parse_chart("row 1: 2/2 LC\\nrow 2 (WS): p4"))]
    ['tight start', 'crowded']
    """
    rules = [r for r in RULES if flat or r.name not in FLAT_ONLY]
    found = [w for rule in rules if allowed or rule.name not in chart.allow for w in rule.find(chart)]
    return tuple(sorted(found, key=lambda w: (w.row, w.stitch)))


def _crossings(chart: Chart) -> Iterator[tuple[int, int, Crossing | CrossedDecrease]]:
    """(row, loops taken before it from the right, crossing), with the box worked once."""
    for number, row in chart.numbered():
        at = 0
        for op in row.ops():
            if isinstance(op, Crossing | CrossedDecrease):
                yield number, at, op
            at += op.takes


def _tight_start(chart: Chart) -> Iterator[ChartWarning]:
    rows = FIRST_ROWS - len(chart.setup)
    early = [(n, at, op) for n, at, op in _crossings(chart) if n <= rows]
    if early:
        number, at, op = early[0]
        yield ChartWarning(
            name="tight start",
            message=f"Row {number} crosses ({op.token}) right above the cast-on or the border; such a "
            "crossing is tight.",
            mend="Begin with two plain rows: shift the rows, or add set-up rows.",
            row=number,
            stitch=at + 1,
        )


def _crowded(chart: Chart) -> Iterator[ChartWarning]:
    """The same two strands crossed again, one over the other, with fewer than two rows between."""
    crossed: dict[frozenset[int], int] = {}
    strands = list(range(chart.width(1)))
    fresh = len(strands)
    found: dict[int, ChartWarning] = {}
    for number in range(1, 2 * chart.height + 1):  # once more round, for what the next repeat crosses again
        ops = chart.ops(number)
        at = 0
        for op in ops:
            if isinstance(op, Crossing) and len(strands) >= at + op.takes:
                since = min((number - crossed.get(pair, -99) for pair in _pairs(op, strands, at)), default=99)
                if since <= ROWS_BETWEEN:
                    row = (number - 1) % chart.height + 1
                    found.setdefault(row, _crowded_at(row, at + 1, since))
                crossed |= dict.fromkeys(_pairs(op, strands, at), number)
            at += op.takes
        above = []
        for loop in made_loops(ops):
            known = bool(loop.parents) and loop.parents[0] < len(strands)
            above.append(strands[loop.parents[0]] if known else fresh)
            fresh += not known
        strands = above
    yield from found.values()


def _pairs(op: Crossing, strands: list[int], at: int) -> list[frozenset[int]]:
    """Every strand of one group with every strand of the other."""
    first, _, last = (len(group) for group in op.groups_taken)
    far = at + op.takes - last
    return [frozenset((a, b)) for a in strands[at : at + first] for b in strands[far : far + last]]


def _too_quick(chart: Chart) -> Iterator[ChartWarning]:
    """Whole groups crossed again so soon that their strands would have to be twice as long as the rows they rise."""
    last: dict[frozenset[int], int] = {}
    strands = list(range(chart.width(1)))
    for number in range(1, 2 * chart.height + 1):
        ops, at = chart.ops(number), 0
        for op in ops:
            if isinstance(op, Crossing) and len(strands) >= at + op.takes:
                group, wide = frozenset(strands[at : at + op.takes]), max(len(op.over), len(op.under)) + len(op.centre)
                rows = number - last.get(group, -999)
                if math.hypot(1.0, wide * ROWS_TO_STITCHES / rows) > TWICE:
                    least = math.ceil(wide * ROWS_TO_STITCHES / math.sqrt(TWICE**2 - 1.0))
                    row = (number - 1) % chart.height + 1
                    yield ChartWarning(
                        name="too quick",
                        message=f"Row {row} crosses ({op.token}) the same stitches again after {rows} rows: too soon.",
                        mend=f"Leave {least} rows or more from crossing row to crossing row; {2 * wide} are usual.",
                        row=row,
                        stitch=at + 1,
                    )
                    return
                last[group] = number
            at += op.takes
        if any(op.takes != op.makes for op in ops):
            return
        strands = [strands[loop.parents[0]] for loop in made_loops(ops)]


def _crowded_at(row: int, stitch: int, since: int) -> ChartWarning:
    below = "in the row below" if since == 1 else f"{since} rows below"
    return ChartWarning(
        name="crowded",
        message=f"Row {row} crosses strands again that were crossed {below}.",
        mend="Leave at least two rows between.",
        row=row,
        stitch=stitch,
    )


def _mixed_lean(chart: Chart) -> Iterator[ChartWarning]:
    for number, row in chart.numbered():
        below, at = chart.faces_below(number), 0
        for op in row.ops():
            if isinstance(op, Crossing) and at + op.takes <= len(below):
                first = len(op.groups_taken[0])
                over_at = at if op.lean.value == "L" else at + first + len(op.centre)
                for i, stitch in enumerate(op.over):
                    if below[over_at + i] is Face.PURL and stitch.face is Face.KNIT:
                        yield ChartWarning(
                            name="purl on top",
                            message=f"Row {number}: {op.token} brings a purl stitch to the front and knits it; "
                            "the lean may be mixed up.",
                            mend=f"Did you mean {_other_lean(op)}?",
                            row=number,
                            stitch=over_at + i + 1,
                        )
                        break
            at += op.takes


def _other_lean(op: Crossing) -> str:
    return op.mirrored().token


def _same_lean(chart: Chart) -> Iterator[ChartWarning]:
    for number, row in chart.numbered():
        ops = row.ops()
        shapes = [_shape(op) for op in ops]
        if shapes != shapes[::-1]:
            continue
        at = 0
        for i, op in enumerate(ops[: len(ops) // 2]):
            partner = ops[-1 - i]
            if isinstance(op, Crossing) and isinstance(partner, Crossing) and op.lean is partner.lean:
                yield ChartWarning(
                    name="same lean",
                    message=f"Row {number}: two crossings that stand like a mirrored pair both lean "
                    f"{'left' if op.lean.value == 'L' else 'right'}.",
                    mend=f"Mirrored panels lean apart: write one of them as {partner.mirrored().token}.",
                    row=number,
                    stitch=at + 1,
                )
                break
            at += op.takes


def _shape(op: Op) -> object:
    """What stays of an operation when left and right are forgotten."""
    if isinstance(op, Crossing):
        return (len(op.over), len(op.centre), len(op.under), op.twist)
    return op.token if op.mirrored() == op else frozenset((op.token, op.mirrored().token))


def _wrong_side(chart: Chart) -> Iterator[ChartWarning]:
    for number, at, op in _crossings(chart):
        if number % 2 == 0 and not (isinstance(op, Crossing) and op.ribbed):
            if is_reversible(chart):
                return  # the cable shows on either side: it is worked as from the right one
            yield ChartWarning(
                name="wrong-side crossing",
                message=f"Row {number} crosses ({op.token}); worked flat that is a wrong-side row, worked "
                "without seeing it.",
                mend="Put crossings on odd rows, or work in the round.",
                row=number,
                stitch=at + 1,
            )
            return


def _wide(chart: Chart) -> Iterator[ChartWarning]:
    for number, at, op in _crossings(chart):
        size = op.count if isinstance(op, CrossedDecrease) else max(len(op.over), len(op.under))
        if size > WIDEST:
            yield ChartWarning(
                name="wide crossing",
                message=f"Row {number}: {op.token} is wider than {WIDEST} over {WIDEST}; it strains yarn and hands.",
                mend="Take fewer stitches, a softer yarn or a larger needle.",
                row=number,
                stitch=at + 1,
            )
            return


def _lopsided(chart: Chart) -> Iterator[ChartWarning]:
    """A repeat worked flat whose two sides do not end alike."""
    if chart.multiple == 1 or _ends_alike(chart, 0):
        return
    more = 0 if chart.balance else next((n for n in range(1, chart.multiple) if _ends_alike(chart, n)), 0)
    mend = (
        f"With {more} balance stitch{'es' if more > 1 else ''} the last repeat ends as the first begins."
        if more
        else "Stitches outside the repeat can make both sides alike."
    )
    yield ChartWarning(
        name="lopsided",
        message="Worked flat, the repeat does not end as it begins: the two sides will differ.",
        mend=mend,
    )


def _ends_alike(chart: Chart, more: int) -> bool:
    """Whether every row begins and ends with the same run of knits or purls, `more` stitches of a repeat added."""
    for number in range(1, chart.height + 1):
        row = chart.faces_after(number, 3)
        if more:
            row = row[: 2 * len(row) // 3 + more]
        if _run(row) != _run(row[::-1]):
            return False
    return True


def _run(faces: tuple[Face, ...]) -> tuple[Face, int]:
    return faces[0], next((i for i, face in enumerate(faces) if face is not faces[0]), len(faces))


def _open_strands(chart: Chart) -> Iterator[ChartWarning]:
    """Knit strands that do not come back under row 1: the next repeat would not continue them."""
    if not chart.setup:
        return
    below, top = chart.faces_below(1), chart.faces_after(chart.height)
    off = [i for i, (a, b) in enumerate(zip(below, top, strict=False), start=1) if a is not b]
    if off:
        yield ChartWarning(
            name="does not meet",
            message=f"Row {chart.height} ends with other knits and purls than row 1 begins with, first at "
            f"stitch {off[0]}: the next repeat will not continue this one.",
            mend="Bring the strands back to where they began, or change the set-up rows.",
            row=chart.height,
            stitch=off[0],
        )


RULES: tuple[Rule, ...] = (
    Rule("tight start", "a crossing in the first two rows", _tight_start),
    Rule("crowded", "the same strands crossed again with fewer than two rows between", _crowded),
    Rule("too quick", "the same groups crossed again faster than the yarn can follow", _too_quick),
    Rule("purl on top", "a crossing that brings purl stitches to the front as knits", _mixed_lean),
    Rule("same lean", "crossings placed like a mirrored pair that lean the same way", _same_lean),
    Rule("wrong-side crossing", "a crossing on a wrong-side row", _wrong_side),
    Rule("wide crossing", "a crossing wider than 6 over 6", _wide),
    Rule("lopsided", "a repeat that ends otherwise than it begins when it is worked flat", _lopsided),
    Rule("does not meet", "strands that end elsewhere than the next repeat begins them", _open_strands),
)
FLAT_ONLY = ("wrong-side crossing", "lopsided")
NAMES = tuple(rule.name for rule in RULES)
