"""A chart in words, row by row: flat or in the round, right side or inside out, alike rows written together."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from ..notation import Chart, ChartRow, Side, shortest, takes
from ..notation.repeats import until_text
from ..notation.transform import worked
from .wording import PLAIN_WORDS, Wording
from .words import number_list

Work = Literal["flat", "round", "inside out"]


@dataclass(frozen=True)
class ChartWords:
    """Rows that are worked alike: their numbers, the side that faces, the text, and what they leave."""

    numbers: tuple[int, ...]
    side: Side
    text: str
    leaves: str
    label: str


def chart_words(
    chart: Chart, wording: Wording = PLAIN_WORDS, work: Work = "flat", repeats: int = 0
) -> tuple[ChartWords, ...]:
    """The set-up and the rows of a chart; with `repeats` its box is written out so often, with 0 it stays open."""
    setup = _rows(chart, chart.setup, wording, work, repeats, "Set-up ")
    return setup + _rows(chart, chart.rows, wording, work, repeats, "")


def _rows(
    chart: Chart, rows: tuple[ChartRow, ...], wording: Wording, work: Work, repeats: int, prefix: str
) -> tuple[ChartWords, ...]:
    groups: dict[tuple[Side, str, str], list[int]] = {}
    for number, row in enumerate(rows, start=1):
        shown = worked(row, number, flat=work == "flat", inside=work == "inside out", left_handed=wording.left_handed)
        text = _row_text(shown, wording, repeats)
        groups.setdefault((shown.side, text, _leaves(row, repeats)), []).append(number)
    word = "row" if work == "flat" else "round"
    return tuple(
        ChartWords(tuple(numbers), side, text, leaves, _label(prefix, word, tuple(numbers), side, work))
        for (side, text, leaves), numbers in groups.items()
    )


def _label(prefix: str, word: str, numbers: tuple[int, ...], side: Side, work: Work) -> str:
    noun = word + ("s" if len(numbers) > 1 else "")
    noun = f"{prefix}{noun}" if prefix else noun.capitalize()
    return f"{noun} {number_list(numbers)}" + (f" ({side})" if work == "flat" else "")


def row_words(row: ChartRow, number: int) -> str:
    """Row `number` of a chart as it is worked flat, in the shortest words."""
    return _row_text(worked(row, number), PLAIN_WORDS, 0)


def _row_text(row: ChartRow, wording: Wording, repeats: int) -> str:
    """The worked row; the mirror for the left hand has been held up to it already."""
    plain = replace(wording, left_handed=False, markers=False)
    if repeats or not (row.before or row.after):
        return plain.row((row.ops(max(repeats, 1)),))
    row = _least(row)
    before, box, after = (shortest(p, hold=wording.hold) if p else "" for p in (row.before, row.box, row.after))
    end = f"rep from * {until_text(takes(row.after))}" if wording.until else "rep from *"
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
