"""Reads and writes charts as text, the format of docs/formats.md; pasted prose is read as well."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import replace
from typing import Literal

from ..errors import AmbiguousText, InvalidText, Problem
from .charts import Chart, ChartPlace, ChartRow, Counts, place_in
from .definitions import NO_NAMES, Definition, Names
from .explained import read_definition, usual_meaning
from .lint import NAMES
from .operations import Op, Side, side_of, wrong_side_row
from .plainprose import plain_prose
from .resolve import ReadRow, Resolver
from .rowparser import PROPOSALS, read_row
from .rowtext import MAX_CHART, MAX_ROW_STITCHES, AsSet, Item, Node, Repeat, check_digits, format_flat, stitches_in
from .statements import (
    AS_ROWS,
    CAST_ON,
    REPEATED,
    STITCH_COUNT,
    RowMark,
    Statement,
    read_size,
    read_statements,
    row_numbers,
)
from .stitches import Turn, WrapTurn

ChartWork = Literal["marked", "flat", "round"]


MAX_NAMES = 100  # our choice: a book's whole list
_OURS = re.compile(r"^[ \t]*(?:name|multiple)[ \t]*:", re.I | re.M)


def is_ours(text: str) -> bool:
    """Whether a text is a chart as we write it, and not prose out of a book."""
    return bool(_OURS.search(text))


def parse_chart(text: str, *, work: ChartWork = "marked") -> Chart:
    """A chart from its text. Raises InvalidText with every place that cannot be read; counts are for `audit`.

    Rows without (RS) or (WS) are as seen from the right side, unless some row is marked (RS) or `work` is flat:
    then even rows are as worked from the wrong side. With `work` round all rows are as seen.

    >>> rope = parse_chart("row 1: p2, 2/2 LC, p2\\nrow 2 (WS): k2, p4, k2")
    >>> rope.width(), rope.height, rope.crossing_rows
    (8, 2, (1,))
    """
    return ChartReader(text, work).chart()


class ChartReader:
    """Reads one text; problems are collected, and nothing is returned if there are any.

    `names` are defined beforehand, by another text. With `rest` rows that are not given rest: they are worked as they
    appear, up to that many. `notes` says what was passed over, and what wants a second look; `definitions` are the
    text's own.
    """

    def __init__(self, text: str, work: ChartWork, *, names: Names = NO_NAMES, rest: int = 0) -> None:
        self.original = text.lstrip("\ufeff").replace("\r\n", "\n").replace("\r", "\n")
        self.text = self.original if is_ours(text) else plain_prose(self.original)
        self.work, self.names, self.rest = work, names, rest
        self.notes: list[str] = []
        self.definitions: list[Definition] = []
        self.cast_on: tuple[int, int] | None = None
        self.lines = (0, *(m.end() for m in re.finditer("\n", self.text)))
        self.problems: list[Problem] = []
        self.name = ""
        self.size: Counts | None = None
        self.allow: tuple[str, ...] = ()
        self.rows: dict[int, ReadRow] = {}
        self.setup: dict[int, ReadRow] = {}
        self.every: list[tuple[Statement, ReadRow]] = []
        self.marked: set[int] = set()  # rows whose side is given
        self.counts: list[tuple[int, int, int]] = []  # row, stitches it says it leaves, where it says so

    def chart(self) -> Chart:
        try:
            check_digits(self.text)
            found = list(read_statements(self.text))
        except InvalidText as error:
            raise InvalidText(tuple(self.located(p) for p in error.problems)) from None
        marked = any(s.side == "RS" for s in found if s.kind == "row")
        self.alternate = self.work == "flat" or (self.work == "marked" and marked)
        for statement in sorted(found, key=lambda s: s.kind != "definition"):  # they may stand below the rows
            try:
                self.read(statement)
            except (InvalidText, AmbiguousText) as error:
                self.problems += [self.located(p) for p in error.problems]
        self.fill_rows()
        self.rest_rows()
        self.turn_rows()
        self.check_rows()
        self.check_size()
        if self.problems:
            self.fail()
        resolver = Resolver(self.rows, self.size, self.lines)
        size, setup, rows = resolver.chart_rows(self.setup)
        self.problems += resolver.problems
        chart = Chart(
            name=self.name or "Unnamed", multiple=size[0], rows=rows, balance=size[1], setup=setup, allow=self.allow
        )
        self.check_counts(chart)
        self.check_cast_on(chart)
        if self.problems:
            self.fail()
        return chart

    def fail(self) -> None:
        problems = tuple(sorted(self.problems, key=lambda p: (p.line, p.column)))
        ambiguous = all(" can mean " in p.message for p in problems)
        raise (AmbiguousText if ambiguous else InvalidText)(problems)

    def located(self, problem: Problem) -> Problem:
        """The problem with line and column instead of a position in the whole text."""
        line, column = self.place(problem.column - 1)
        return replace(problem, line=line, column=column)

    def place(self, at: int) -> ChartPlace:
        return place_in(self.lines, max(0, min(at, len(self.text))))

    def read(self, s: Statement) -> None:
        body = self.text[s.start : s.end].split("#", 1)[0].strip() if s.kind != "row" else ""
        if s.kind == "name":
            self.name = self.original[s.start : s.end].split("#", 1)[0].strip()
        elif s.kind == "definition":
            self.define(s)
        elif s.kind == "cast on":
            self.read_cast_on(body, s.start)
        elif s.kind == "note" and not REPEATED.fullmatch(body):
            self.passed_over(s)
        elif s.kind == "size":
            self.size = read_size(body, s.start)
        elif s.kind == "allow":
            self.read_allow(body, s.start)
        elif s.kind in ("row", "setup"):
            self.read_row(s)
        elif s.kind == "unknown":
            if not self.name and not self.rows and not re.search(r"[:*]", body):
                self.name = self.original[s.start : s.end].split("#", 1)[0].strip()  # a title above the first row
            elif not is_ours(self.text) and not _STITCHES.search(body):
                self.passed_over(s)
            else:
                text = "This line is neither “name: …”, “multiple: …” nor “row 1: …”."
                self.problems.append(self.located(Problem(message=text, column=s.at + 1)))

    def passed_over(self, s: Statement) -> None:
        said = " ".join(self.original[s.at : s.end].split()).rstrip(".")
        self.notes.append(f"Passed over: “{said[:60]}{'…' if len(said) > 60 else ''}”.")

    def read_cast_on(self, body: str, at: int) -> None:
        found = CAST_ON.fullmatch(body)
        assert found, "the statement was found by the same pattern"
        if found["m"]:
            self.size = self.size or read_size(body, at)
        else:
            self.cast_on = int(found["n"]), at

    def define(self, s: Statement) -> None:
        """A name of the text's own, pointed out where it says something else than usual."""
        if len(self.definitions) >= MAX_NAMES:
            raise InvalidText(
                (Problem(message=f"A text explains up to {MAX_NAMES} names; this one has more.", column=s.at + 1),)
            )
        end = s.start + len(self.text[s.start : s.end].rstrip(" \t\n."))
        ops, problems = read_definition(self.text, s.start, end, names=self.names)
        for name in s.names:
            usual = usual_meaning(name)
            if ops:
                self.definitions.append(Definition(name, ops, s.at))
                if usual and usual != ops:
                    self.notes.append(
                        f"“{name}” is explained here as {format_flat(ops)}; usually it means {format_flat(usual)}."
                    )
            elif usual:
                self.notes.append(
                    f"What is said of “{name}” was not understood; it is taken as usual: {format_flat(usual)}."
                )
            else:
                named = f"“{name}” is explained, but the explanation could not be read: "
                self.problems += [self.located(replace(p, message=named + p.message)) for p in problems[:1]]
        own = {d.name: d.ops for d in self.definitions}
        self.names = Names({**self.names.ops, **own})

    def read_allow(self, body: str, at: int) -> None:
        names = tuple(" ".join(n.lower().split()) for n in body.split(",") if n.strip())
        for unknown in sorted(set(names) - set(NAMES)):
            text = f"There is no warning “{unknown}”; there are: {', '.join(sorted(NAMES))}."
            self.problems.append(self.located(Problem(message=text, column=at + 1)))
        self.allow = tuple(sorted(set(names)))

    def side(self, mark: RowMark, number: int) -> Side:
        if self.work == "round" or not (mark or self.alternate):
            return Side.RS
        return Side(mark) if mark else side_of(number)

    def read_row(self, s: Statement) -> None:
        end = s.end
        while end > s.start and self.text[end - 1] in " \t\n":
            end -= 1
        count = STITCH_COUNT.search(self.text, max(s.start, end - 60), end)
        if count:
            end = count.start()
        same = AS_ROWS.fullmatch(self.text[s.start : end].strip())
        if same:
            self.copy_rows(s, row_numbers(same["a"] or same["b"], s.start), 2 if same["two"] else int(same["n"] or 0))
            return
        nodes, problems = read_row(
            self.text, s.start, end, names=self.names, propose=max(0, PROPOSALS - len(self.problems))
        )
        if nodes == () and not problems:
            problems = [Problem(message="The row is empty.", column=s.start + 1)]
        if problems:
            label = "set-up row" if s.kind == "setup" else "row"
            named = f"{label} {', '.join(map(str, s.numbers)) or s.every}: "
            self.problems += [self.located(replace(p, message=named + p.message)) for p in problems]
            nodes = ()
        if s.kind == "setup":
            if max(s.numbers) > 2:
                raise InvalidText((Problem(message="There are at most two set-up rows.", column=s.at + 1),))
            for n in s.numbers:
                self.setup[n] = ReadRow(nodes, self.side(s.side, n), s.at)
            return
        if s.every:
            self.every.append((s, ReadRow(nodes, self.side(s.side, 1 if s.every == "odd" else 2), s.at)))
        self.marked |= set(s.numbers) if s.side and self.work != "round" else set()
        for n in s.numbers:
            self.put(n, ReadRow(nodes, self.side(s.side, n), s.at), s.at)
            if count:
                self.counts.append((n, int(count[1]), count.start(1)))

    def put(self, number: int, row: ReadRow, at: int) -> None:
        if number in self.rows:
            text = f"Row {number} is given twice (the first time on line {self.place(self.rows[number].at)[0]})."
            raise InvalidText((Problem(message=text, column=at + 1),))
        self.rows[number] = row

    def copy_rows(self, s: Statement, sources: tuple[int, ...], times: int = 0) -> None:
        """“Rows 5–8: as rows 1–4”, “rows 3–6: repeat rows 1 and 2 twice”."""
        if len(s.numbers) % len(sources) or times not in (0, len(s.numbers) // len(sources)):
            text = f"{len(s.numbers)} rows cannot be worked as {len(sources)} others."
            raise InvalidText((Problem(message=text, column=s.start + 1),))
        for i, number in enumerate(s.numbers):
            source = sources[i % len(sources)]
            if source not in self.rows:
                text = f"Row {number} is to be as row {source}, but there is no row {source} above it."
                raise InvalidText((Problem(message=text, column=s.start + 1),))
            self.put(number, replace(self.rows[source], at=s.at), s.at)

    def fill_rows(self) -> None:
        """“All wrong-side rows”: every row of that parity which is not given otherwise."""
        top = max(self.rows, default=0)
        for s, row in self.every:
            parity = 1 if s.every == "odd" else 0
            last = top if top % 2 == parity or parity else top + 1  # a last right-side row is followed by one more
            for number in range(max(s.numbers, default=0) + 1, last + 1):
                if number % 2 == parity and number not in self.rows:
                    self.rows[number] = row

    def rest_rows(self) -> None:
        """Rows that are not given are worked as they appear."""
        top = max(self.rows, default=0)
        for number in range(2, max(top, self.rest) + 1):
            if self.rest and 1 in self.rows and number not in self.rows:
                side = side_of(number) if self.alternate else Side.RS
                self.rows[number] = ReadRow(AsSet(False, self.rows[top].at), side, self.rows[top].at)

    def turn_rows(self) -> None:
        """Where rows are not worked to and fro, the row after a turn comes back on the other side."""
        if self.alternate:
            return
        for number in sorted(self.rows):
            below = self.rows.get(number - 1)
            if below and _turns(below.nodes) and number not in self.marked:
                self.rows[number] = replace(self.rows[number], side=below.side.other)

    def check_rows(self) -> None:
        if not self.rows and not self.problems:
            text = "No row was found; a chart needs at least “row 1: …”."
            self.problems.append(Problem(message=text, line=1, column=1))
        missing = [n for n in range(1, max(self.rows, default=0) + 1) if n not in self.rows]
        if missing and not self.problems:
            text = f"{_rows_name(missing)} missing: rows run from 1 without a gap."
            self.problems.append(Problem(message=text, line=self.place(self.rows[max(self.rows)].at)[0], column=1))

    def check_size(self) -> None:
        """Limits, before anything is written out."""
        rows = [r for r in (*self.rows.values(), *self.setup.values()) if not isinstance(r.nodes, AsSet)]
        wide = max(sum(self.size or (0, 0)), self.cast_on[0] if self.cast_on else 0)
        most = max((stitches_in(r.nodes) for r in rows if not isinstance(r.nodes, AsSet)), default=0)
        total = max(wide * len(self.rows), sum(stitches_in(r.nodes) for r in rows if not isinstance(r.nodes, AsSet)))
        if max(wide, most) > MAX_ROW_STITCHES or total > MAX_CHART:
            limits = f"we read up to {MAX_ROW_STITCHES} in a row and {MAX_CHART} in all"
            text = f"This chart would have {total} stitches or more; {limits}."
            self.problems.append(Problem(message=text, line=1, column=1))
        if self.cast_on and self.size is None and not any(_boxed(r.nodes) for r in rows):
            self.size = self.cast_on[0], 0

    def check_cast_on(self, chart: Chart) -> None:
        """The rows' repeat has to fit into the stitches that are cast on."""
        if self.cast_on and chart.repeats_for(self.cast_on[0]) is None:
            count, at = self.cast_on
            text = (
                f"{count} stitches are cast on, but the rows are a multiple of {chart.size_text}, which {count} is not."
            )
            self.problems.append(self.located(Problem(message=text, column=at + 1)))

    def check_counts(self, chart: Chart) -> None:
        """“(24 sts)” at the end of a row; a chart that repeats can have any number of whole repeats."""
        for number, wanted, at in self.counts:
            box, outside = chart.row(number).counts[1]
            repeats, rest = divmod(wanted - outside, box) if box else (0, wanted)
            fits = repeats >= 1 and rest == 0 and (repeats == 1 or chart.balance or self.size is None)
            if not fits:
                text = f"Row {number} says {wanted} stitches, but it leaves {outside + box}."
                self.problems.append(self.located(Problem(message=text, column=at + 1)))


_STITCHES = re.compile(r"\*|\b[kp]\s?\d|\b\d+/\d+\s|\b[ct]\d+[fb]", re.I)


def _boxed(nodes: tuple[Node, ...] | AsSet) -> bool:
    """Whether a row marks a repeat of more than one kind of stitch that goes on as often as fits."""
    return not isinstance(nodes, AsSet) and any(
        isinstance(n, Repeat) and n.times is None and stitches_in(n.items) > 1 for n in nodes
    )


def _turns(nodes: tuple[Node, ...] | AsSet) -> bool:
    """Whether the work is turned somewhere in a row."""
    if isinstance(nodes, AsSet):
        return False
    return any(isinstance(n.op, Turn | WrapTurn) if isinstance(n, Item) else _turns(n.items) for n in nodes)


def _rows_name(numbers: list[int]) -> str:
    shown = ", ".join(map(str, numbers[:8])) + (" …" if len(numbers) > 8 else "")
    return f"Row {shown} is" if len(numbers) == 1 else f"Rows {shown} are"


def format_chart(chart: Chart, *, hold: bool = False) -> str:
    """The chart as text; `parse_chart` gives it back. Equal rows are written together."""
    lines = [f"name: {chart.name}", f"multiple: {chart.size_text}"]
    if chart.allow:
        lines.append(f"allow: {', '.join(chart.allow)}")
    lines += _row_lines("set-up row", chart.setup, hold)
    lines += _row_lines("row", chart.rows, hold)
    return "\n".join(lines) + "\n"


def _row_lines(label: str, rows: Iterable[ChartRow], hold: bool) -> list[str]:
    groups: dict[ChartRow, list[int]] = {}
    for number, row in enumerate(rows, start=1):
        groups.setdefault(row, []).append(number)
    lines = []
    for row, numbers in groups.items():
        side = " (WS)" if row.side is Side.WS else ""
        plural = "s" if len(numbers) > 1 else ""
        lines.append(f"{label}{plural} {', '.join(map(str, numbers))}{side}: {format_row(row, hold=hold)}")
    return lines


def format_row(row: ChartRow, *, hold: bool = False) -> str:
    """One row in the order in which it is worked on the side where it was written."""
    parts: list[tuple[Op, ...]] = [row.before, row.box, row.after]
    if row.side is Side.WS:
        parts = [wrong_side_row(p) for p in reversed(parts)]
    before, box, after = (format_flat(p, hold=hold) for p in parts)
    if not before and not after:
        return box
    return (f"{before}, " if before else "") + f"*{box}; rep from *" + (f", {after}" if after else "")
