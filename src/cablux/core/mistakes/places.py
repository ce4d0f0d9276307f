"""Places in a row: the operation at a stitch of a section, and plain stitches near it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from ..notation import Crossing, Op, Stitch
from ..pattern import WorkedPart, WorkedPattern, WorkedRow
from .mistake import Mistake, UnlikelyMistake


def row_of(pattern: WorkedPattern, mistake: Mistake) -> WorkedRow:
    """The row of a mistake. Raises UnlikelyMistake where it, its section or its stitch is not there."""
    if not 1 <= mistake.row <= len(pattern.rows):
        raise UnlikelyMistake(f"This piece has rows 1 to {len(pattern.rows)}; there is no row {mistake.row}.")
    if not mistake.row <= mistake.seen_at <= len(pattern.rows):
        raise UnlikelyMistake(
            f"The mistake lies in row {mistake.row}, so the last row worked is that one or a later one, "
            f"up to {len(pattern.rows)}."
        )
    row = pattern.row(mistake.row)
    if not 0 <= mistake.segment < len(row.parts):
        raise UnlikelyMistake(f"Row {mistake.row} has sections 1 to {len(row.parts)}, counted from the right.")
    part = row.parts[mistake.segment]
    if not 0 <= mistake.stitch <= max(part.makes, 1):
        raise UnlikelyMistake(f"{part.name} has stitches 1 to {part.makes} after row {mistake.row}.")
    return row


def with_ops(row: WorkedRow, segment: int, ops: tuple[Op, ...]) -> WorkedRow:
    """The row with other operations in a section; columns follow where their number is another."""
    part = row.parts[segment]
    more = sum(op.makes for op in ops) - part.makes
    columns = part.columns  # not always as many as its loops: what is worked across a line is counted beyond it
    if columns:
        columns = columns[:more] if more < 0 else (*columns, *(columns[-1],) * more)
    changed = WorkedPart(
        segment=part.segment,
        name=part.name,
        family=part.family,
        ops=ops,
        chart_row=part.chart_row,
        columns=columns,
        held=part.held,
    )
    return replace(row, parts=(*row.parts[:segment], changed, *row.parts[segment + 1 :]))


def placed(ops: tuple[Op, ...]) -> Iterator[tuple[int, int, Op]]:
    """Each operation with its place in the list, and with the first of the loops that it makes."""
    at = 0
    for n, op in enumerate(ops):
        yield n, at, op
        at += op.makes


def crossing_at(part: WorkedPart, stitch: int) -> tuple[int, int, Crossing] | None:
    """The crossing that made a stitch (from 1), or for 0 the first of all: its place, its first loop, itself."""
    for n, at, op in placed(part.ops):
        if isinstance(op, Crossing) and (not stitch or at < stitch <= at + op.makes):
            return n, at, op
    return None


def nearest_plain(ops: tuple[Op, ...], place: int) -> int | None:
    """The place in the list of the plain stitch that lies nearest to a loop (from 0); None where there is none."""
    plain = [(abs(at - place), n) for n, at, op in placed(ops) if isinstance(op, Stitch) and not op.tbl]
    return min(plain)[1] if plain else None


def loops_before(row: WorkedRow, segment: int) -> tuple[int, int]:
    """How many loops a row takes, and makes, to the right of a section."""
    parts = row.parts[:segment]
    return sum(p.takes for p in parts), sum(p.makes for p in parts)
