"""The audit of worked rows: every loop is taken exactly once, and columns begin and end where it was planned."""

from __future__ import annotations

from collections.abc import Iterator

from ..needle.chart_columns import steady_counts, widest_block
from ..needle.columns import PLAIN_ROW, Column, RowShaping
from ..piece.piece import BandView, Piece
from ..rows.shaped_band import shape_band, worked_view
from .worked import WorkedRow


def audit_worked_rows(rows: tuple[WorkedRow, ...], cast_on: int, bound_off: int) -> Iterator[str]:
    """Every row must take what the row below left, part by part; and the piece must end with what is bound off."""
    below = cast_on
    last: WorkedRow | None = None
    for row in rows:
        if row.before != below:
            yield f"Row {row.number} works {row.before} stitches, but {below} are on the needle."
        taken = tuple(p.takes for p in row.parts)
        made = tuple(p.makes for p in last.parts) if last else ()
        # what is worked together may lie on both sides of a section's end, and a panel may have wandered
        shaped = any(p.columns for each in (last, row) if each for p in each.parts)
        if last and last.band == row.band and len(taken) == len(made) and taken != made and not shaped:
            yield f"Row {row.number}: the sections' counts {taken} do not follow {made}."
        below, last = row.after, row
    if below != bound_off:
        yield f"The last row leaves {below} stitches, but {bound_off} are bound off."


def audit_columns(piece: Piece, rows: tuple[WorkedRow, ...]) -> Iterator[str]:
    """In shaped bands each operation must give back the columns it takes, but for those made or taken in its row."""
    for view in map(worked_view, piece.band_views):
        if view.shaping is not None:
            yield from _audit_band(view, [row for row in rows if row.band == view.at and row.section == "body"])


def _audit_band(view: BandView, rows: list[WorkedRow]) -> Iterator[str]:
    active = shape_band(view).active
    steady = {at for at, s in enumerate(view.segments) if steady_counts(s.chart)}
    wide = {at: widest_block(view.segments[at].chart) for at in steady}
    below, same = active.first, list[tuple[int, ...]]()
    for row, shaping, active_now in zip(rows, active.rows, active.columns[1:], strict=True):
        mine = [p.columns for p in row.parts]
        if shaping is PLAIN_ROW and mine == same:  # nothing begins or ends: each part gives back what it takes
            if any(p.takes != len(p.columns) or p.makes != len(p.columns) for p in row.parts):
                yield f"Row {row.number} does not give back the columns that it takes."
            continue
        same = mine
        above = tuple((p.segment, c) for p in row.parts for c in p.columns)
        if len(above) != row.after or (above != active_now and _kept(above, steady) != _kept(active_now, steady)):
            yield f"Row {row.number} leaves other columns than the shaping wants."
        if above != below:
            yield from _audit_row(row, shaping, below, above=above, wide=wide)
        below = above


def _kept(columns: tuple[Column, ...], lanes: set[int]) -> list[Column]:
    return [c for c in columns if c[0] in lanes]


def _audit_row(
    row: WorkedRow, shaping: RowShaping, below: tuple[Column, ...], *, above: tuple[Column, ...], wide: dict[int, int]
) -> Iterator[str]:
    """`wide` has, for each lane that keeps its columns, the columns of its widest block, such as a yarn over with its
    decrease: within it an operation may give back another's."""
    made, taken = {m.column for m in shaping.made}, set(shaping.gone)
    i = j = 0
    for part in row.parts:
        under, over = set[Column](), set[Column]()
        for op in part.ops:
            under |= {*below[i : i + op.takes]}
            over |= {*above[j : j + op.makes]}
            i, j = i + op.takes, j + op.makes
            if part.segment not in wide or (over - under <= made and under - over <= taken):
                under, over = set(), set()
            elif max(len(under), len(over)) > wide[part.segment]:
                yield f"Row {row.number}: “{op.token}” does not give back the columns that it takes."
                under, over = set(), set()
        if under or over:
            yield f"Row {row.number} ends a section with other columns than it takes."
