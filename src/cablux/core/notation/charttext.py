"""Reads and writes charts as text, the format of docs/formats.md."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from ..errors import AmbiguousText, InvalidText, Problem
from .charts import Chart, ChartRow
from .operations import Op, Side, takes, wrong_side_row
from .rowtext import Item, Node, Repeat, expand, format_flat, parse_row

MAX_ROWS = 2_000  # our choice: taller than any chart; a guard against a slip such as `row 99999999`

_HEADER = re.compile(r"(name|multiple)\s*:\s*(.*)", re.I)
_ROW = re.compile(r"rows?\s+([\d\s,–-]+?)\s*(?:\(\s*(RS|WS)\s*\))?\s*:\s*(.*)", re.I)
_MULTIPLE = re.compile(r"(\d{1,4})\s*(?:\+\s*(\d{1,4}))?")
_SPAN = re.compile(r"(\d+)\s*[–-]\s*(\d+)")


@dataclass(frozen=True)
class _Header:
    name: str = ""
    multiple: int = 0
    balance: int = 0


def parse_chart(text: str) -> Chart:
    """A chart from its text. Raises InvalidText with every line that cannot be read; counts are for `audit`."""
    header, rows, problems = _Header(), dict[int, ChartRow](), list[Problem]()
    for number, line in enumerate(text.lstrip("\ufeff").splitlines(), start=1):
        bare = line.split("#", 1)[0].rstrip()
        if not bare.strip():
            continue
        try:
            header = _read_line(bare, number, header, rows)
        except (InvalidText, AmbiguousText) as error:
            problems += [replace(p, line=number) for p in error.problems]
    if not rows and not problems:
        problems.append(Problem("No row was found; a chart needs at least “row 1: …”.", line=1, column=1))
    missing = [n for n in range(1, max(rows, default=0) + 1) if n not in rows]
    if missing and not problems:
        last = rows[max(rows)].line
        problems.append(Problem(f"{_rows_name(missing)} missing: rows run from 1 without a gap.", last, 1))
    if problems:
        raise InvalidText(tuple(problems))
    ordered = tuple(rows[n] for n in sorted(rows))
    multiple = header.multiple or takes(ordered[0].ops())
    return Chart(header.name or "Unnamed", multiple, ordered, header.balance)


def _read_line(line: str, number: int, header: _Header, rows: dict[int, ChartRow]) -> _Header:
    start = len(line) - len(line.lstrip())
    if found := _HEADER.fullmatch(line.strip()):
        if found[1].lower() == "name":
            return replace(header, name=found[2].strip())
        size = _MULTIPLE.fullmatch(found[2].strip())
        if not size or int(size[1]) < 1:
            raise _bad("The multiple is a whole number from 1, as in “multiple: 8” or “multiple: 8 + 4”.", start)
        return replace(header, multiple=int(size[1]), balance=int(size[2] or 0))
    match = _ROW.fullmatch(line.strip())
    if not match:
        raise _bad("This line is neither “name: …”, “multiple: …” nor “row 1: …”.", start)
    side = Side((match[2] or "RS").upper())
    offset = start + match.start(3)
    try:
        nodes = parse_row(match[3])
        row = _chart_row(nodes, side, number, offset)
    except (InvalidText, AmbiguousText) as error:
        named = f"row {match[1].strip()}: "
        raise type(error)(
            tuple(replace(p, message=named + p.message, column=p.column + offset) for p in error.problems)
        ) from None
    for n in _row_numbers(match[1], start):
        if n in rows:
            raise _bad(f"Row {n} is given twice (the first time on line {rows[n].line}).", start)
        rows[n] = row
    return header


def _row_numbers(text: str, start: int) -> list[int]:
    out: list[int] = []
    for part in (p.strip() for p in text.split(",") if p.strip()):
        span = _SPAN.fullmatch(part)
        if span:
            low, high = int(span[1]), int(span[2])
        elif part.isdigit():
            low = high = int(part)
        else:
            raise _bad(f"“{part}” is not a row number.", start)
        if not 1 <= low <= high <= MAX_ROWS:
            raise _bad(f"Row numbers run from 1 to {MAX_ROWS}; “{part}” does not.", start)
        out += range(low, high + 1)
    if not out:
        raise _bad("The row has no number.", start)
    return out


def _chart_row(nodes: tuple[Node, ...], side: Side, line: int, offset: int) -> ChartRow:
    """The box is the open repeat (`rep from *` without a number); without one it is the whole row."""
    if not nodes:
        raise InvalidText((Problem("The row is empty.", column=1),))
    opened = [i for i, node in enumerate(nodes) if isinstance(node, Repeat) and node.times is None]
    if len(opened) > 1 or any(_hides_open_repeat(n) for n in nodes):
        raise InvalidText((Problem("Only one repeat in a row may go on “as often as fits”.", column=1),))
    cut = opened[0] if opened else -1
    parts = (nodes[:cut], nodes[cut : cut + 1], nodes[cut + 1 :]) if opened else ((), nodes, ())
    before, box, after = (expand(p) for p in parts)
    columns = tuple(offset + at + 1 for _, at in before + box + after)
    groups = [tuple(op for op, _ in part) for part in (before, box, after)]
    if side is Side.WS:
        groups = [wrong_side_row(g) for g in reversed(groups)]
    return ChartRow(groups[1], groups[0], groups[2], side, line, columns)


def _hides_open_repeat(node: Node) -> bool:
    if isinstance(node, Item):
        return False
    return any(isinstance(n, Repeat) and (n.times is None or _hides_open_repeat(n)) for n in node.items)


def _rows_name(numbers: list[int]) -> str:
    shown = ", ".join(map(str, numbers[:8])) + (" …" if len(numbers) > 8 else "")
    return f"Row {shown} is" if len(numbers) == 1 else f"Rows {shown} are"


def _bad(message: str, at: int) -> InvalidText:
    return InvalidText((Problem(message, column=at + 1),))


def format_chart(chart: Chart, *, hold: bool = False) -> str:
    """The chart as text; `parse_chart` gives it back. Equal rows are written together."""
    size = f"{chart.multiple} + {chart.balance}" if chart.balance else str(chart.multiple)
    groups: dict[ChartRow, list[int]] = {}
    for number, row in chart.numbered():
        groups.setdefault(row, []).append(number)
    lines = [f"name: {chart.name}", f"multiple: {size}"]
    for row, numbers in groups.items():
        side = " (WS)" if row.side is Side.WS else ""
        plural = "rows" if len(numbers) > 1 else "row"
        lines.append(f"{plural} {', '.join(map(str, numbers))}{side}: {format_row(row, hold=hold)}")
    return "\n".join(lines) + "\n"


def format_row(row: ChartRow, *, hold: bool = False) -> str:
    """One row in the order in which it is worked on the side where it was written."""
    parts: list[tuple[Op, ...]] = [row.before, row.box, row.after]
    if row.side is Side.WS:
        parts = [wrong_side_row(p) for p in reversed(parts)]
    before, box, after = (format_flat(p, hold=hold) for p in parts)
    if not before and not after:
        return box
    return (f"{before}, " if before else "") + f"*{box}; rep from *" + (f", {after}" if after else "")
