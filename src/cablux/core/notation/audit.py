"""The audit: every place where a chart's stitches do not add up. What it passes can be knitted over and over."""

from __future__ import annotations

from collections.abc import Iterator

from ..errors import IllegalChart, Problem
from .charts import Chart, ChartRow, Counts
from .operations import Op, Side, takes, wrong_side_row
from .stitches import CastOnLoop, Hold, Leave, NoStitch, Turn, WrapTurn


def audit_chart(chart: Chart) -> tuple[Problem, ...]:
    """Every place where the chart does not add up; empty when it can be knitted over and over.

    Each row must take what the row below made, in the box and outside it, and the first what the last made.
    Where two rows disagree, the one whose count is not the chart's own is blamed. Short rows must turn once,
    leave what they do not reach, and be followed by a row that leaves the same.

    >>> from cablux.core import parse_chart
    >>> for problem in audit_chart(parse_chart("row 1: k4\\nrow 2 (WS): p5")):
    ...     print(problem.message)
    Row 2 works 5 stitches, but row 1 leaves 4: 1 too many, wanted 4, at stitch 5.
    """
    if not chart.rows:
        return (Problem(message="The chart has no rows; write “row 1: …”."),)
    if chart.multiple < 1 or chart.balance < 0:
        return (Problem(message="The multiple is a whole number from 1, as in “multiple: 8” or “multiple: 8 + 4”."),)
    problems = list(_setup_problems(chart))
    problems += _count_problems(chart)
    problems += _turn_problems(chart)
    problems += _part_problems(chart)
    return tuple(sorted(problems, key=lambda p: p.row))


def audited_chart(chart: Chart) -> Chart:
    """The chart itself, or IllegalChart with all its problems."""
    problems = audit_chart(chart)
    if problems:
        raise IllegalChart(problems)
    return chart


def _setup_problems(chart: Chart) -> Iterator[Problem]:
    for number, row in enumerate(chart.setup, start=1):
        for counts in row.counts:
            if counts != (chart.multiple, chart.balance):
                text = f"Set-up row {number} has {sum(counts)} stitches, {_box_text(counts)}; the chart has"
                line = row.written.place(0)[0] if row.written and row.written.spots else 0
                yield Problem(
                    message=f"{text} {chart.width()}, {_box_text((chart.multiple, chart.balance))}.", line=line
                )
                break


def _box_text(counts: Counts) -> str:
    return f"{counts[0]} in the repeat" + (f" and {counts[1]} outside it" if counts[1] else "")


def _count_problems(chart: Chart) -> Iterator[Problem]:
    own = (chart.multiple, chart.balance)
    have, below = own, 0  # what lies on the needle, and the number of the row that left it
    for number, row in chart.numbered():
        takes_, makes_ = row.counts
        if takes_ != have:
            if below and takes_ == own:
                yield _leaves(chart, below, have, following=number, wanted=takes_)
                have = takes_
            else:
                yield _works(row, number, takes_, wanted=have, below=below)
        # what a row makes counts from what it should have taken, so that one mistake is reported once
        have = (makes_[0] + have[0] - takes_[0], makes_[1] + have[1] - takes_[1])
        below = number
        if sum(makes_) == 0:
            yield _at(row, number, 1, message=f"Row {number} leaves no stitch on the needle.")
            return
    if have != own:
        yield _leaves(chart, below, have, following=1, wanted=own)


def _works(row: ChartRow, number: int, got: Counts, *, wanted: Counts, below: int) -> Problem:
    source = f"row {below} leaves" if below else "the multiple gives"
    if sum(got) == sum(wanted):
        return _at(row, number, 1, message=f"Row {number} repeats over {got[0]} stitches, but {source} {wanted[0]}.")
    stitch = sum(wanted) + 1 if sum(got) > sum(wanted) else sum(got)
    text = f"Row {number} works {sum(got)} stitches, but {source} {sum(wanted)}: {_off(got, wanted)}"
    return _at(row, number, stitch, message=f"{text}, wanted {sum(wanted)}, at stitch {stitch}.")


def _leaves(chart: Chart, number: int, got: Counts, *, following: int, wanted: Counts) -> Problem:
    """The row that leaves too many or too few for the row after it."""
    row = chart.row(number)
    again = f"row {following} begins with {sum(wanted)}" if following == 1 else f"row {following} works {sum(wanted)}"
    if sum(got) == sum(wanted):
        text = f"Row {number} leaves {got[0]} stitches in its repeat, but row {following} wants {wanted[0]} there"
    else:
        text = f"Row {number} leaves {sum(got)} stitches, but {again}: {_off(got, wanted)}"
    if following == 1:
        text += "; the repeat does not close"
    stitch = _changing_stitch(row)
    return _at(row, number, stitch, message=f"{text}, wanted {sum(wanted)}, at stitch {stitch}.")


def _off(got: Counts, wanted: Counts) -> str:
    many = abs(sum(got) - sum(wanted))
    return f"{many} too {'many' if sum(got) > sum(wanted) else 'few'}"


def _changing_stitch(row: ChartRow) -> int:
    """The first stitch, in working order, at which the row changes its count; its last where it changes none."""
    taken = 0
    for op in _written(row):
        if op.makes != op.takes:
            return max(1, taken + min(op.takes, 1))
        taken += op.takes
    return max(1, taken)


def _written(row: ChartRow) -> tuple[Op, ...]:
    return row.ops() if row.side is Side.RS else wrong_side_row(row.ops())


def _at(row: ChartRow, number: int, stitch: int, *, message: str) -> Problem:
    """A problem at the operation that takes `stitch`, counted in the order in which the row was written."""
    taken = 0
    if not row.written or not row.written.spots:
        return Problem(message=message, row=number, stitch=stitch)
    at = 0
    for at, op in enumerate(_written(row)):  # noqa: B007 - where it stopped is what is looked for
        taken += op.takes
        if taken >= stitch:
            break
    line, column = row.written.place(min(at, len(row.written.spots) - 1))
    return Problem(message=message, line=line, column=column, row=number, stitch=stitch)


def _turn_problems(chart: Chart) -> Iterator[Problem]:
    """Short rows: after a turn nothing is worked, and the next row comes back from there."""
    short: set[type[Op]] = {Leave, Turn, WrapTurn}
    if not any(short.intersection(map(type, row.ops())) for row in chart.rows):
        return
    waiting: tuple[int, int] | None = None  # the row that turned, and how many loops it left for the next one
    first, side = None, Side.RS
    for number, row in (*chart.numbered(), (1, chart.rows[0])):
        ops = [op for op in _written(row) if not isinstance(op, NoStitch)]
        left = _leading(ops)
        if waiting and row.side is side:
            text = f"Row {number} comes back from the turn in row {waiting[0]}: write it as worked on the other side."
            yield _at(row, number, 1, message=text)
        elif waiting and left != waiting[1]:
            begin = f"row {number} must begin with “leave {waiting[1]}”"
            yield _at(row, number, 1, message=f"Row {waiting[0]} turns with {waiting[1]} stitches left; {begin}.")
        elif not waiting and left and first is not None:
            yield _at(
                row,
                number,
                1,
                message=f"Row {number} leaves {left} stitches at its beginning, but no row turned there.",
            )
        if first is not None and number == 1:
            return
        first, side = number, row.side
        turns = [i for i, op in enumerate(ops) if isinstance(op, Turn | WrapTurn)]
        waiting = None
        if not turns:
            if len(ops) > left and any(isinstance(op, Leave) for op in ops[left:]):
                yield _at(
                    row, number, 1, message=f"Row {number} leaves stitches, but it does not turn: write w&t or turn."
                )
            continue
        rest = ops[turns[0] + 1 :]
        if not all(isinstance(op, Leave) for op in rest):
            yield _at(
                row, number, takes(tuple(ops[: turns[0] + 1])), message=f"Row {number} goes on after it has turned."
            )
        waiting = (number, takes(tuple(rest)) + ops[turns[0]].takes)


def _part_problems(chart: Chart) -> Iterator[Problem]:
    """A pattern is worked over and over on its own stitches: it neither gives any away nor begins new ones."""
    for number, row in (*enumerate(chart.setup, start=1), *chart.numbered()):
        if any(isinstance(op, Hold | CastOnLoop) for op in row.ops()):
            text = (
                f"Row {number} puts stitches on hold, binds some off or casts some on, which a pattern cannot; a "
                "piece’s shaping can."
            )
            yield _at(row, number, 1, message=text)


def _leading(ops: list[Op]) -> int:
    count = 0
    for op in ops:
        if not isinstance(op, Leave):
            break
        count += 1
    return count
