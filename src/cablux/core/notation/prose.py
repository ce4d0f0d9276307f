"""Reads rows as books and papers print them: which way they are worked, in which size, with the names they explain."""

from __future__ import annotations

import re
from dataclasses import dataclass

from ..errors import AmbiguousText, Problem
from .charts import Chart, place_in
from .charttext import ChartReader, ChartWork, is_ours
from .definitions import NO_NAMES, Definition, Names
from .plainprose import in_size, sizes_in_text


@dataclass(frozen=True, kw_only=True)
class Prose:
    """What was read: the chart, how its unmarked rows were taken, what wants a second look, and the names explained."""

    chart: Chart
    work: ChartWork
    notes: tuple[str, ...] = ()
    definitions: tuple[Definition, ...] = ()


def read_prose(
    text: str, *, work: ChartWork | None = None, size: int = 0, names: Names = NO_NAMES, rest: int = 0
) -> Prose:
    """A chart out of a text as it was printed, or as we write it.

    Without `work` unmarked rows are worked flat, in turn from either side; in a text of ours they are as seen from the
    right side. `size`: which of several sizes, from 1. `names` were kept from other texts. `rest`: rows that are not
    given, up to so many, are worked as they appear. Raises InvalidText, or AmbiguousText where a name or the size
    can mean several things.
    """
    how: ChartWork = work or ("marked" if is_ours(text) else "flat")
    many = 1 if is_ours(text) else sizes_in_text(text)
    if many > 1:
        if not 1 <= size <= many:
            raise AmbiguousText((_which_size(text, many),))
        text = in_size(text, size)
    reader = ChartReader(text, how, names=names, rest=rest)
    chart = reader.chart()
    return Prose(chart=chart, work=how, notes=tuple(dict.fromkeys(reader.notes)), definitions=tuple(reader.definitions))


def _which_size(text: str, many: int) -> Problem:
    found = re.search(r"\d+\s*[(\[]\s*\d+[^)\]\n]*[)\]]", text)
    at, said = (found.start(), found[0]) if found else (0, "")
    line, column = place_in((0, *(m.end() for m in re.finditer("\n", text))), at)
    message = f"The text is written in {many} sizes, as in “{said}”: choose which to read."
    return Problem(message=message, line=line, column=column)
