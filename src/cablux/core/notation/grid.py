"""Reads and writes charts as a CSV grid: the top row first, cells from left to right as the chart is seen.

Each row begins with its number and the side it was written from. An operation stands in the leftmost of its
cells, `<` in its others, and `|` on both sides of the repeat box where stitches stand outside it.
"""

from __future__ import annotations

import csv
import io
from dataclasses import replace

from ..errors import AmbiguousText, InvalidText, Problem
from .charts import Chart, ChartRow
from .charttext import ChartWork
from .definitions import NO_NAMES, Names
from .lint import NAMES
from .operations import Op, Side
from .prose import Prose, read_prose
from .rowtext import check_digits
from .statements import MAX_CHART_ROWS
from .tokens import parse_op

_MORE, _BOX = "<", "|"
_SETUP = "set-up "


def format_grid(chart: Chart) -> str:
    """The chart as CSV; `parse_grid` gives it back.

    >>> from cablux.core import parse_chart
    >>> print(format_grid(parse_chart("name: Rope\\nrow 1: p1, 2/2 LC, p1\\nrow 2 (WS): k1, p4, k1")))
    name,Rope
    multiple,6,0
    row,side,cells from left to right
    2,WS,p1,k1,k1,k1,k1,p1
    1,RS,p1,2/2 LC,<,<,<,p1
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["name", chart.name])
    writer.writerow(["multiple", chart.multiple, chart.balance])
    if chart.allow:
        writer.writerow(["allow", *chart.allow])
    writer.writerow(["row", "side", "cells from left to right"])
    for number, row in reversed([*chart.numbered()]):
        writer.writerow([number, row.side.value, *_cells(row)])
    for number, row in reversed([*enumerate(chart.setup, start=1)]):
        writer.writerow([f"{_SETUP}{number}", row.side.value, *_cells(row)])
    return out.getvalue()


def _cells(row: ChartRow) -> list[str]:
    boxed = bool(row.before or row.after)
    out: list[str] = []
    for i, part in enumerate((row.after, row.box, row.before)):
        if boxed and i:
            out.append(_BOX)
        for op in reversed(part):
            out += [op.token, *[_MORE] * (op.cells - 1)]
    return out


def parse_grid(text: str) -> Chart:
    """A chart from its grid. Raises InvalidText with every cell that cannot be read; `column` counts cells."""
    check_digits(text)
    name, size, allow = "Unnamed", (0, 0), tuple[str, ...]()
    rows: dict[int, ChartRow] = {}
    setup: dict[int, ChartRow] = {}
    problems: list[Problem] = []
    for line, record in enumerate(csv.reader(io.StringIO(text.lstrip("\ufeff"))), start=1):
        cells = [cell.strip() for cell in record]
        head = cells[0].lower() if cells else ""
        try:
            if not any(cells) or head == "row":
                continue
            if head == "name":
                name = ",".join(record[1:]).strip() or name
            elif head == "multiple":
                size = _size(cells[1:])
            elif head == "allow":
                allow = tuple(sorted(c for c in cells[1:] if c in NAMES))
            else:
                target, number = (setup, head.removeprefix(_SETUP)) if head.startswith(_SETUP) else (rows, head)
                _put(target, number, _row(cells[1:]))
        except (InvalidText, AmbiguousText) as error:
            problems += [replace(p, line=line) for p in error.problems]
    if not rows and not problems:
        problems.append(
            Problem(
                message="No row was found; a row begins with its number and its side, as in 1,RS,k1,k1.",
                line=1,
                column=1,
            )
        )
    missing = [n for n in range(1, max(rows, default=0) + 1) if n not in rows]
    if missing and not problems:
        problems.append(
            Problem(message=f"Row {missing[0]} is missing: rows run from 1 without a gap.", line=1, column=1)
        )
    if problems:
        raise InvalidText(tuple(problems))
    made = tuple(rows[n] for n in sorted(rows))
    multiple = size[0] or sum(op.takes for op in made[0].ops())
    return Chart(
        name=name,
        multiple=multiple,
        rows=made,
        balance=size[1],
        setup=tuple(setup[n] for n in sorted(setup)),
        allow=allow,
    )


def _put(rows: dict[int, ChartRow], number: str, row: ChartRow) -> None:
    if not number.isdigit() or not 1 <= int(number) <= MAX_CHART_ROWS:
        raise _bad(f"“{number}” is not a row number.", 1)
    if int(number) in rows:
        raise _bad(f"Row {number} is given twice.", 1)
    rows[int(number)] = row


def _size(cells: list[str]) -> tuple[int, int]:
    if not all(c.isdigit() for c in cells if c) or not cells or int(cells[0] or 0) < 1:
        raise _bad("The multiple is a whole number from 1, with the balance in the next cell.", 2)
    return int(cells[0]), int(cells[1]) if len(cells) > 1 and cells[1] else 0


def _row(cells: list[str]) -> ChartRow:
    """One row, its side first; everything after it as seen."""
    if not cells or cells[0].upper() not in ("RS", "WS"):
        raise _bad("After the row's number comes its side, RS or WS.", 2)
    parts: list[list[Op]] = [[]]
    left, problems = 0, list[Problem]()
    for column, cell in enumerate(cells[1:], start=3):
        if not cell:
            continue
        if cell == _MORE:
            left -= 1
            if left < 0:
                problems.append(
                    Problem(message="“<” continues an operation, but there is none to continue.", column=column)
                )
        elif cell == _BOX:
            parts.append([])
        else:
            try:
                op = parse_op(cell)
            except (InvalidText, AmbiguousText) as error:
                problems.append(replace(error.problems[0], column=column))
                continue
            parts[-1].append(op)
            left = op.cells - 1
    if len(parts) not in (1, 3):
        problems.append(
            Problem(message="The repeat box needs two sides: write | before and after it, or leave both out.", column=3)
        )
    if problems:
        raise InvalidText(tuple(problems))
    after, box, before = parts if len(parts) == 3 else ([], parts[0], [])
    return ChartRow(
        box=tuple(box[::-1]), before=tuple(before[::-1]), after=tuple(after[::-1]), side=Side(cells[0].upper())
    )


def _bad(message: str, column: int) -> InvalidText:
    return InvalidText((Problem(message=message, column=column),))


def is_grid(text: str) -> bool:
    """Whether a text is a grid as we write it."""
    first = next((line for line in text.lstrip("\ufeff").splitlines() if line.strip()), "").lower()
    return first.startswith(("name,", "multiple,", "row,side"))


def read_source(
    text: str, *, work: ChartWork | None = None, size: int = 0, names: Names = NO_NAMES, rest: int = 0
) -> Prose:
    """What a grid, a text of ours or printed prose says; see `read_prose`. Raises InvalidText or AmbiguousText."""
    if is_grid(text):
        return Prose(chart=parse_grid(text), work="marked")
    return read_prose(text, work=work, size=size, names=names, rest=rest)


def read_any(text: str, work: ChartWork | None = None) -> Chart:
    """The chart of a grid, of a text of ours, or of prose whose unmarked rows are worked flat, or as `work` says.

    Raises InvalidText or AmbiguousText.
    """
    return read_source(text, work=work).chart
