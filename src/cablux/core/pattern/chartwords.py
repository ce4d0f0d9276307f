"""A chart in words, row by row: flat or in the round, right side or inside out, alike rows written together."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from ..needle.schedule import number_list
from ..notation import Chart, ChartRow, Side, shortest_text, side_of
from ..notation.closing import closed_chart
from ..notation.repeats import until_text
from ..notation.transform import sides_facing, worked_row
from .wording import PLAIN_WORDS, Wording

Work = Literal["flat", "round", "inside out"]


@dataclass(frozen=True, kw_only=True)
class ChartWords:
    """Rows that are worked alike: their numbers, the side that faces, the text, and what they leave."""

    numbers: tuple[int, ...]
    side: Side
    text: str
    leaves: str
    label: str


def chart_words(
    chart: Chart, wording: Wording = PLAIN_WORDS, work: Work = "flat", *, repeats: int = 0
) -> tuple[ChartWords, ...]:
    """The set-up and the rows of a chart; with `repeats` its box is written out so often, with 0 it stays open.

    Row 1 is a right-side row: one row of set-up is worked from the wrong side, and a chart with an odd number of
    rows is written twice, since its rows change sides.
    """
    flat, inside = work == "flat", work == "inside out"
    rows = chart.rows * 2 if flat and chart.height % 2 else chart.rows
    faced = sides_facing((*chart.setup, *rows), flat=flat, inside=inside)
    if flat and len(chart.setup) % 2:
        faced = tuple(side.other for side in faced)
    at = len(chart.setup)
    setup = _rows(chart.setup, faced[:at], wording, work=work, repeats=repeats, prefix="Set-up ")
    return setup + _rows(rows, faced[at:], wording, work=work, repeats=repeats, prefix="")


def laid_for_work(chart: Chart, work: Work) -> Chart:
    """The chart as it is laid for a way of working: in the round a texture closes on itself without balance stitches.

    A chart with crossings keeps them, since it may stand in a tube as one panel.
    """
    return chart if work == "flat" or chart.crossing_rows else closed_chart(chart) or chart


def _rows(
    rows: tuple[ChartRow, ...], faced: tuple[Side, ...], wording: Wording, *, work: Work, repeats: int, prefix: str
) -> tuple[ChartWords, ...]:
    groups: dict[tuple[Side, str, str], list[int]] = {}
    for number, (row, side) in enumerate(zip(rows, faced, strict=True), start=1):
        text = _row_text(worked_row(row, side, left_handed=wording.left_handed), wording, repeats)
        groups.setdefault((side, text, _leaves(row, repeats)), []).append(number)
    word = "row" if work == "flat" else "round"
    marked = work == "flat" or len(set(faced)) > 1
    return tuple(
        ChartWords(
            numbers=tuple(numbers),
            side=side,
            text=text,
            leaves=leaves,
            label=_label(prefix, word, tuple(numbers), side=side if marked else None),
        )
        for (side, text, leaves), numbers in groups.items()
    )


def _label(prefix: str, word: str, numbers: tuple[int, ...], *, side: Side | None) -> str:
    noun = word + ("s" if len(numbers) > 1 else "")
    noun = f"{prefix}{noun}" if prefix else noun.capitalize()
    return f"{noun} {number_list(numbers)}" + (f" ({side})" if side else "")


def chart_row_words(row: ChartRow, number: int) -> str:
    """Row `number` of a chart as it is worked flat, in the shortest words."""
    return _row_text(worked_row(row, side_of(number)), PLAIN_WORDS, 0)


def _row_text(row: ChartRow, wording: Wording, repeats: int) -> str:
    """The worked row; the mirror for the left hand has been held up to it already."""
    if repeats:
        return replace(wording, left_handed=False, markers=False).row((row.ops(repeats),))
    if not (row.before or row.after):  # worked as often as fits, so nothing in it can be counted down to the row's end
        return shortest_text(row.box, hold=wording.hold)
    row = _least(row)
    before, box, after = (shortest_text(p, hold=wording.hold) if p else "" for p in (row.before, row.box, row.after))
    end = f"rep from * {until_text(row.after)}" if wording.until else "rep from *"
    return ", ".join(part for part in (before, f"*{box}; {end}", after) if part)


def _least(row: ChartRow) -> ChartRow:
    """The open repeat in its smallest form, and no copies of it beside it: it is worked as often as fits."""
    box = row.box
    unit = next(n for n in range(1, len(box) + 1) if len(box) % n == 0 and box[:n] * (len(box) // n) == box)
    box, before, after = box[:unit], row.before, row.after
    while before[-unit:] == box:
        before = before[:-unit]
    while after[:unit] == box:
        after = after[unit:]
    return replace(row, box=box, before=before, after=after)


def _leaves(row: ChartRow, repeats: int) -> str:
    """`12 stitches`, or `8 a repeat and 4`."""
    box, outside = row.counts[1]
    if repeats or not outside:
        return f"{outside + box * max(repeats, 1)} stitches"
    return f"{box} a repeat and {outside}"
