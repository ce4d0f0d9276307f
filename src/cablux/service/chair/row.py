"""The row at hand as the chair shows it: its sections in working order, how each is worked, and its strip of chart."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from ...core.notation import Face, Op, Side, Slip, Stitch
from ...core.pattern import WorkedPart, WorkedPattern, WorkedRow
from ...core.pattern.howto import Way, ways_to_work
from ...core.pattern.spoken import spoken
from ...core.pattern.wording import Wording
from ...core.pattern.words import for_the_hand, part_text, plain_hint
from ...render.chart import ChartLine, chart_strip, symbol_svg
from ..answers import HowWorked, RowSection
from ..pattern import line_of, shaped_lines

CableWay = Literal["needle", "back", "without"]
CABLE_WAYS: dict[CableWay, tuple[str, tuple[str, ...]]] = {
    "needle": ("knitted off the cable needle", ("off the cable needle", "one cable needle")),
    "back": ("slipped back to the left needle first", ("slipped back first", "two cable needles")),
    "without": ("without a cable needle where it can be", ("without a cable needle", "second stitch first, in front")),
}
TextSize = Literal["normal", "large", "huge"]
MOST_RUNS = 7  # our choice: of more runs the words say less than a look
AROUND = 1  # row of chart above and below the row at hand, our choice: more would push the words off a phone


@dataclass(frozen=True, kw_only=True)
class ChairLook:
    """How a knitter likes to be told: her way with cables, her hand, the size of the words, markers between sections,
    the screen kept awake, and after how many minutes her hands are to rest (0: never told)."""

    way: CableWay = "needle"
    left_handed: bool = False
    size: TextSize = "normal"
    markers: bool = False
    awake: bool = False
    rest: int = 30

    @property
    def wording(self) -> Wording:
        """How rows are worded."""
        return Wording(left_handed=self.left_handed)


def pattern_for(pattern: WorkedPattern, look: ChairLook) -> tuple[WorkedPattern, Wording]:
    """The rows for the hand that knits; those of the right hand where the other's are not the same rows."""
    own, wording = for_the_hand(pattern, look.wording)
    return (own, wording) if len(own.rows) == len(pattern.rows) else (pattern, Wording())


def row_sections(
    pattern: WorkedPattern, row: WorkedRow, wording: Wording, *, look: ChairLook
) -> tuple[RowSection, ...]:
    """The row's sections in the order in which they are worked."""
    below, out, start, made = pattern.faces_before(row.number), list[RowSection](), 0, 0
    cells = max(1, sum(op.cells for op in row.ops))
    for part in row.parts:
        mine = below[start : start + part.takes]
        start += part.takes
        wide = sum(op.cells for op in part.ops)
        text = part_text(part, row.side, wording)
        out.append(
            RowSection(
                name=part.name,
                family=part.family,
                text=text,
                hint=plain_hint(part, row.side, mine),
                takes=part.takes,
                makes=part.makes,
                chart_row=part.chart_row,
                crossing=part in row.crossing_parts,
                say=f"{part.name}: {spoken(text)}",
                seen=_seen(mine, row.side, from_left=(row.side is Side.WS) != wording.left_handed),
                how=tuple(_how(part, row.side, wording, look=look)),
                place=1.0 - (made + wide) / cells,
                share=wide / cells,
            )
        )
        made += wide
    return tuple(out if (row.side is Side.RS) != wording.left_handed else out[::-1])


def _seen(faces: tuple[Face, ...], side: Side, *, from_left: bool) -> str:
    """Runs of stitches as they face the knitter, in the order in which she comes to them; none of a busy texture."""
    shown = faces[::-1] if from_left else faces
    runs: list[tuple[Face, int]] = []
    for face in shown:
        facing = face if side is Side.RS else Face.PURL if face is Face.KNIT else Face.KNIT
        if runs and runs[-1][0] == facing:
            runs[-1] = (facing, runs[-1][1] + 1)
        else:
            runs.append((facing, 1))
    if len(runs) > MOST_RUNS:
        return ""
    words = {Face.KNIT: "knit", Face.PURL: "purl"}
    return ", ".join(f"{n} {words[face]}" for face, n in runs)


def _how(part: WorkedPart, side: Side, wording: Wording, *, look: ChairLook) -> Iterator[HowWorked]:
    for op in uncommon_ops(part, side, wording):
        yield HowWorked(name=op.token, text=chosen_way(op, look.way).text)


def uncommon_ops(part: WorkedPart, side: Side, wording: Wording) -> tuple[Op, ...]:
    """What in a section is more than knitting and purling, each once, as it is worked."""
    worked = dict.fromkeys(op.mirrored() if wording.left_handed else op for op in part.worked(side))
    uncommon = (op for op in worked if not isinstance(op, Stitch | Slip) or (isinstance(op, Stitch) and op.tbl))
    return tuple({op.token: op for op in uncommon}.values())


def row_symbols(row: WorkedRow, wording: Wording) -> dict[str, str]:
    """The symbols of what is more than knitting and purling, by its name, as they stand in the chart."""
    ops = (op for part in row.parts for op in uncommon_ops(part, row.side, wording))
    return {op.token: symbol_svg(op if row.side is Side.RS else op.wrong_side()) for op in ops}


def chosen_way(op: Op, way: CableWay) -> Way:
    """The way of working an operation that a knitter likes, the common one where it cannot be worked so."""
    ways = ways_to_work(op)
    names = CABLE_WAYS[way][1]
    return next((each for each in ways if each.name in names), ways[0])


def strip_svg(pattern: WorkedPattern, row: WorkedRow) -> str:
    """The row with those around it as a strip of chart, marked; only of rows that are cut into sections alike."""
    near = [
        r
        for r in pattern.rows[max(0, row.number - 1 - AROUND) : row.number + AROUND]
        if r.band == row.band
        and len(r.parts) == len(row.parts)
        and bool(r.parts[0].columns) == bool(row.parts[0].columns)
    ]
    if not row.ops or not any(op.cells for op in row.ops):
        return ""
    lines: list[ChartLine]
    widths: tuple[int, ...] = ()
    if row.parts[0].columns and row.section == "body":
        lines, widths = shaped_lines(pattern.piece, [r for r in near if r.section == "body"])
    else:
        lines = [line_of(r) for r in near]
    what = pattern.piece.row_word
    return chart_strip(lines, row.number, f"Chart of {what}s {lines[0].number} to {lines[-1].number}", widths=widths)
