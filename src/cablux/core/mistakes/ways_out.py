"""What can be done about a mistake, each way in loops to be worked again, or why it cannot be done."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from ..notation import Crossing, Face, Side
from ..pattern import WorkedPattern, WorkedRow
from .altered import altered_pattern, can_be_left
from .mistake import COUNTS, Mistake
from .places import crossing_at, loops_before, nearest_plain, placed, row_of

WayOutKind = Literal["leave", "drop", "unknit", "rip", "lifeline", "duplicate"]
Risk = Literal["none", "low", "some", "high"]
MOST_COLUMNS = 16
"""Our choice: more columns than two wide cables are not let down side by side; they tangle."""
COVERED_ROWS = 3
"""Common practice: embroidered over, a strand crosses within about three rows."""


@dataclass(frozen=True, kw_only=True)
class WayOut:
    """A way out: whether it can be taken, the loops to be undone and worked again, and what it asks of the hands.

    `columns`: from the right, the first and the last stitch on the needle that are let down; `rows` how deep. `needle`:
    live loops that are put back on the needle. `crossings`: those to be worked again on the way up.
    """

    kind: WayOutKind
    possible: bool
    reason: str
    loops: int = 0
    risk: Risk = "none"
    columns: tuple[int, int] = (0, 0)
    rows: int = 0
    crossings: int = 0
    needle: int = 0
    to_row: int = 0


def find_ways_out(pattern: WorkedPattern, mistake: Mistake, lifelines: Sequence[int] = ()) -> tuple[WayOut, ...]:
    """Every way, the gentlest first. `pattern` is the piece without the mistake. Raises UnlikelyMistake."""
    row_of(pattern, mistake)
    cloth = altered_pattern(pattern, [mistake]) if can_be_left(mistake) else pattern
    return tuple(_answers(pattern, cloth, mistake, lifelines=lifelines))


def _answers(
    pattern: WorkedPattern, cloth: WorkedPattern, mistake: Mistake, *, lifelines: Sequence[int]
) -> Iterator[WayOut]:
    yield _leave(mistake)
    yield _drop(pattern, cloth, mistake)
    yield _duplicate(pattern, mistake)
    row, seen = mistake.row, mistake.seen_at
    whole = sum(r.after for r in cloth.rows[row:seen])
    back = whole + _worked_since(cloth.row(row), mistake)
    yield WayOut(kind="unknit", possible=True, reason="", loops=back, risk="low", rows=seen - row + 1, to_row=row)
    ripped = sum(r.after for r in cloth.rows[row - 1 : seen])
    below = cloth.row(row).before
    yield WayOut(
        kind="rip",
        possible=True,
        reason="",
        loops=ripped,
        risk="some",
        rows=seen - row + 1,
        needle=below,
        to_row=row - 1,
    )
    lines = [line for line in lifelines if line < row]
    if lines:
        line = max(lines)
        loops = sum(r.after for r in cloth.rows[line:seen])
        yield WayOut(
            kind="lifeline",
            possible=True,
            reason="",
            loops=loops,
            risk="low",
            rows=seen - line,
            needle=cloth.row(line + 1).before,
            to_row=line,
        )


def _leave(mistake: Mistake) -> WayOut:
    if not can_be_left(mistake):
        return WayOut(
            kind="leave",
            possible=False,
            reason="A dropped stitch runs down as far as it can: catch it before anything else.",
        )
    later = mistake.kind in COUNTS
    reason = f"The count is put right in row {mistake.seen_at + 1}." if later else ""
    return WayOut(kind="leave", possible=True, reason=reason, loops=1 if later else 0, risk="none")


def _made_by(row: WorkedRow, mistake: Mistake) -> tuple[int, int]:
    """The loops, from the right and from 0, that the operation of a mistake made: first, and one past the last."""
    part, start = row.parts[mistake.segment], loops_before(row, mistake.segment)[1]
    if mistake.kind in ("wrong-lean", "wrong-group", "crossing-early"):
        found = crossing_at(part, mistake.stitch)
        if found:
            return start + found[1], start + found[1] + found[2].makes
    if mistake.kind == "ridge-missed":
        return start, start + part.makes
    if mistake.kind in ("knit-for-purl", "dropped"):
        chosen = nearest_plain(part.ops, max(0, mistake.stitch - 1))
        at = next((made for n, made, _ in placed(part.ops) if n == chosen), max(0, mistake.stitch - 1))
        return start + at, start + at + 1
    at = max(0, mistake.stitch - 1)
    return start + at, start + at + 1


def _start(pattern: WorkedPattern, cloth: WorkedPattern, mistake: Mistake) -> set[int]:
    """The loops of its row that have to be made anew: those that other operations made than was planned."""
    if mistake.kind == "dropped":
        return set(range(*_made_by(cloth.row(mistake.row), mistake)))
    planned, made = (
        [(op, part) for op in each.row(mistake.row).ops for part in range(op.makes)] for each in (pattern, cloth)
    )
    return {at for at, (one, other) in enumerate(zip(planned, made, strict=True)) if one != other}


def _drop(pattern: WorkedPattern, cloth: WorkedPattern, mistake: Mistake) -> WayOut:
    """Columns let down to the mistake and worked up again: with a crossing all of its strands come down."""
    if mistake.kind in COUNTS:
        why = "A stitch more or fewer changes the length of yarn in every row above; there is none to spare there."
        return WayOut(kind="drop", possible=False, reason=why)
    loops = _start(pattern, cloth, mistake)
    total, crossings = len(loops), 0
    if mistake.kind == "dropped":
        total -= 1  # the loop itself is there still: it is caught, and the bars above it are worked
    for row in cloth.rows[mistake.row : mistake.seen_at]:
        above, crossed, changed = _above(row, loops)
        if changed:
            why = f"In row {row.number} stitches are made or taken among these columns, so they do not run up alone."
            return WayOut(kind="drop", possible=False, reason=why)
        loops, total, crossings = above, total + len(above), crossings + crossed
    columns = (min(loops) + 1, max(loops) + 1)
    wide, deep = len(loops), mistake.seen_at - mistake.row + 1
    if wide > MOST_COLUMNS:
        why = f"The crossings above it bind {wide} columns together: all of them would have to come down."
        return WayOut(kind="drop", possible=False, reason=why, columns=columns, rows=deep)
    risk: Risk = "low" if crossings == 0 and deep <= 8 else "some" if crossings <= 2 and deep <= 20 else "high"
    again = crossings + (mistake.kind in ("crossing-missed", "wrong-lean", "wrong-group"))
    return WayOut(
        kind="drop", possible=True, reason="", loops=total, risk=risk, columns=columns, rows=deep, crossings=again
    )


def _above(row: WorkedRow, below: set[int]) -> tuple[set[int], int, bool]:
    """What of a row stands on loops of the row below: every loop of each operation that takes one of them.

    Also how many of those are crossings, and whether one makes more or fewer loops than it takes.
    """
    out, crossings, changed, taken, made = set[int](), 0, False, 0, 0
    for op in row.ops:
        if any(loop in below for loop in range(taken, taken + op.takes)):
            out |= set(range(made, made + op.makes))
            crossings += isinstance(op, Crossing)
            changed = changed or op.makes != op.takes
        taken, made = taken + op.takes, made + op.makes
    return out, crossings, changed


def _worked_since(row: WorkedRow, mistake: Mistake) -> int:
    """Loops of the mistake's row that were made since, itself among them; each row is worked from its own end."""
    first, last = _made_by(row, mistake)
    return row.after - first if row.side is Side.RS else last


def _duplicate(pattern: WorkedPattern, mistake: Mistake) -> WayOut:
    """Embroidered over: knit stitches can be covered, and nothing else."""
    part = pattern.row(mistake.row).parts[mistake.segment]
    if mistake.kind in ("crossing-missed", "wrong-lean"):
        found = crossing_at(part, mistake.stitch)
        if found and all(_knit(group) for group in (found[2].over, found[2].under)) and not found[2].ribbed:
            return WayOut(
                kind="duplicate", possible=True, reason="", loops=COVERED_ROWS * len(found[2].over), risk="low"
            )
        return WayOut(
            kind="duplicate",
            possible=False,
            reason="Only strands of knit stitches can be embroidered over; these are not.",
        )
    if mistake.kind == "knit-for-purl":
        chosen = nearest_plain(part.ops, max(0, mistake.stitch - 1))
        face = getattr(part.ops[chosen], "face", Face.PURL) if chosen is not None else Face.PURL
        if face is Face.KNIT:
            return WayOut(kind="duplicate", possible=True, reason="", loops=1, risk="low")
        return WayOut(
            kind="duplicate", possible=False, reason="A purl bump cannot be embroidered; let the stitch down instead."
        )
    return WayOut(kind="duplicate", possible=False, reason="Embroidery covers what is seen; it does not mend this.")


def _knit(group: Sequence[object]) -> bool:
    return all(getattr(stitch, "face", None) is Face.KNIT for stitch in group)
