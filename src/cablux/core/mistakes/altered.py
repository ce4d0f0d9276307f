"""The piece with a mistake left in it: the row as it was worked, and the later rows as they then are."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from itertools import pairwise

from ..notation import Crossing, Decrease, Face, Increase, Lean, Op, Stitch
from ..pattern import WorkedPattern, WorkedRow
from .mistake import COUNTS, Mistake, UnlikelyMistake
from .places import crossing_at, loops_before, nearest_plain, placed, row_of, with_ops


def altered_pattern(pattern: WorkedPattern, mistakes: Iterable[Mistake]) -> WorkedPattern:
    """The rows as they are with mistakes left in, one after the other. Raises UnlikelyMistake.

    Every row takes what the row below it leaves; a count that went wrong is put right in the row after the one in
    which it was seen.
    """
    for mistake in mistakes:
        rows = list(pattern.rows)
        for row in _changed(pattern, mistake):
            rows[row.number - 1] = row
        for below, row in pairwise(rows):
            if below.after != row.before:
                raise UnlikelyMistake(f"Row {row.number} cannot be worked over that: say where it lies more exactly.")
        pattern = replace(pattern, rows=tuple(rows))
    return pattern


def left_in(pattern: WorkedPattern, mistakes: Iterable[Mistake]) -> WorkedPattern:
    """The rows with mistakes left in them; one that no longer fits, since the layout was changed, is passed over."""
    for mistake in mistakes:
        try:
            pattern = altered_pattern(pattern, [mistake])
        except UnlikelyMistake:
            continue
    return pattern


def can_be_left(mistake: Mistake) -> bool:
    """Whether the cloth holds with it: a dropped stitch runs on."""
    return mistake.kind != "dropped"


def _changed(pattern: WorkedPattern, mistake: Mistake) -> list[WorkedRow]:
    row = row_of(pattern, mistake)
    part = row.parts[mistake.segment]
    match mistake.kind:
        case "crossing-missed":
            return [_straight(pattern, row, mistake.segment, stitch=mistake.stitch)]
        case "crossing-early":
            return _early(pattern, row, mistake)
        case "wrong-lean" | "wrong-group":
            found = crossing_at(part, mistake.stitch)
            if found is None:
                raise UnlikelyMistake(f"{part.name} has no crossing in row {row.number}.")
            n, _, crossed = found
            other = _other_lean(crossed) if mistake.kind == "wrong-lean" else _other_groups(crossed)
            return [with_ops(row, mistake.segment, (*part.ops[:n], other, *part.ops[n + 1 :]))]
        case "ridge-missed":
            ops = tuple(Stitch(op.face.other) if isinstance(op, Stitch) and not op.tbl else op for op in part.ops)
            if ops == part.ops:
                raise UnlikelyMistake(f"{part.name} has no ridge in row {row.number}.")
            return [with_ops(row, mistake.segment, ops)]
        case "knit-for-purl":
            chosen = nearest_plain(part.ops, max(0, mistake.stitch - 1))
            if chosen is None:
                raise UnlikelyMistake(f"{part.name} has no plain stitch in row {row.number}.")
            op = part.ops[chosen]
            assert isinstance(op, Stitch), "only plain stitches were looked for"
            return [
                with_ops(row, mistake.segment, (*part.ops[:chosen], Stitch(op.face.other), *part.ops[chosen + 1 :]))
            ]
        case "dropped":
            return []
    return _miscounted(pattern, row, mistake)


def _straight(pattern: WorkedPattern, row: WorkedRow, segment: int, *, stitch: int) -> WorkedRow:
    """A crossing worked straight: each stitch as it appears."""
    part = row.parts[segment]
    found = crossing_at(part, stitch)
    if found is None:
        raise UnlikelyMistake(f"{part.name} has no crossing in row {row.number}.")
    n, _, op = found
    start = loops_before(row, segment)[0] + sum(each.takes for each in part.ops[:n])
    below = pattern.faces_before(row.number)[start : start + op.takes]
    return with_ops(row, segment, (*part.ops[:n], *map(Stitch, below), *part.ops[n + 1 :]))


def _early(pattern: WorkedPattern, row: WorkedRow, mistake: Mistake) -> list[WorkedRow]:
    """The next crossing worked in this row already, and none where it should have been."""
    part = row.parts[mistake.segment]
    for later in pattern.rows[row.number :]:
        if later.band != row.band or len(later.parts) != len(row.parts):
            break
        found = crossing_at(later.parts[mistake.segment], mistake.stitch)
        if found is None:
            continue
        n, _, op = found
        first = sum(each.takes for each in later.parts[mistake.segment].ops[:n])
        inside = _between(part.ops, first, first + op.takes)
        if inside is None:
            break
        early = with_ops(row, mistake.segment, (*part.ops[: inside[0]], op, *part.ops[inside[1] :]))
        if later.number <= mistake.seen_at:  # it was crossed there as well
            return [early]
        return [early, _straight(pattern, later, mistake.segment, stitch=mistake.stitch)]
    raise UnlikelyMistake(f"{part.name} is not crossed soon after row {row.number}.")


def _between(ops: tuple[Op, ...], first: int, last: int) -> tuple[int, int] | None:
    """The operations that are plain stitches and make exactly these loops; None where others are among them."""
    at = [n for n, made, op in placed(ops) if first <= made < last]
    whole = bool(at) and all(isinstance(ops[n], Stitch) for n in at) and len(at) == last - first
    return (at[0], at[-1] + 1) if whole else None


def _other_lean(op: Crossing) -> Crossing:
    """The same groups taken, held on the other side of the work."""
    first, centre, last = op.groups_taken
    return replace(op, lean=op.lean.other).regrouped(first, centre, last)


def _other_groups(op: Crossing) -> Crossing:
    """One stitch more on the cable needle, or one fewer where it held all but one."""
    first, centre, last = op.groups_taken
    if len(last) > 1:
        return op.regrouped((*first, last[0]), centre, last[1:])
    if len(first) > 1:
        return op.regrouped(first[:-1], centre, (first[-1], *last))
    raise UnlikelyMistake(f"{op.token} has one stitch in each group; a wrong number is a stitch lost or gained.")


def _miscounted(pattern: WorkedPattern, row: WorkedRow, mistake: Mistake) -> list[WorkedRow]:
    """A stitch too few or too many, row by row up to the one in which it is put right."""
    assert mistake.kind in COUNTS, "all other kinds are dealt with"
    if mistake.seen_at >= len(pattern.rows):
        raise UnlikelyMistake("No row is left in which the count could be put right; mend it where it lies.")
    part = row.parts[mistake.segment]
    gained = mistake.kind == "stitch-gained"
    if mistake.kind == "increase-forgotten":
        made = [(n, at) for n, at, op in placed(part.ops) if op.takes == 0 and op.makes == 1]
        if not made:
            raise UnlikelyMistake(f"{part.name} has no increase in row {row.number}.")
        n, place = min(made, key=lambda each: abs(each[1] - max(0, mistake.stitch - 1)))
        out = [with_ops(row, mistake.segment, (*part.ops[:n], *part.ops[n + 1 :]))]
    else:
        place = max(0, mistake.stitch - 1) if mistake.stitch else part.makes // 2
        out = [with_ops(row, mistake.segment, (_gaining if gained else _losing)(part.ops, place))]
    for later in pattern.rows[row.number : mistake.seen_at + 1]:
        ops = later.parts[mistake.segment].ops if mistake.segment < len(later.parts) else ()
        if len(later.parts) != len(row.parts):
            raise UnlikelyMistake(f"From row {later.number} on the sections are others: mend it where it lies.")
        if later.number <= mistake.seen_at:
            changed = _wider(ops, place) if gained else _narrower(ops, place)
        else:
            changed = _losing(ops, place, both=False) if gained else _mended(ops, place)
        out.append(with_ops(later, mistake.segment, changed))
    return out


def _plain_at(ops: tuple[Op, ...], place: int) -> int:
    n = nearest_plain(ops, place)
    if n is None:
        raise UnlikelyMistake("In one of the rows since then this section has no plain stitch near that place.")
    return n


def _face(ops: tuple[Op, ...], n: int) -> Face:
    op = ops[n]
    return op.face if isinstance(op, Stitch) else Face.KNIT


def _losing(ops: tuple[Op, ...], place: int, *, both: bool = True) -> tuple[Op, ...]:
    """Two worked together: two stitches of the row, or, with one stitch too many on the needle, one of it and that."""
    if not both:
        n = _plain_at(ops, place)
        return (*ops[:n], Decrease(lean=Lean.RIGHT, face=_face(ops, n)), *ops[n + 1 :])
    pairs = [n for n in range(len(ops) - 1) if _is_plain(ops[n]) and _is_plain(ops[n + 1])]
    if not pairs:
        raise UnlikelyMistake("There are no two plain stitches side by side in that section.")
    n = min(pairs, key=lambda each: abs(sum(op.makes for op in ops[:each]) - place))
    return (*ops[:n], Decrease(lean=Lean.RIGHT, face=_face(ops, n)), *ops[n + 2 :])


def _is_plain(op: Op) -> bool:
    return isinstance(op, Stitch) and not op.tbl


def _gaining(ops: tuple[Op, ...], place: int) -> tuple[Op, ...]:
    """A loop more, where the yarn was caught over the needle."""
    n = _plain_at(ops, place)
    return (*ops[:n], Increase(Lean.LEFT, _face(ops, n)), *ops[n:])


def _wider(ops: tuple[Op, ...], place: int) -> tuple[Op, ...]:
    n = _plain_at(ops, place)
    return (*ops[:n], ops[n], *ops[n:])


def _narrower(ops: tuple[Op, ...], place: int) -> tuple[Op, ...]:
    n = _plain_at(ops, place)
    return (*ops[:n], *ops[n + 1 :])


def _mended(ops: tuple[Op, ...], place: int) -> tuple[Op, ...]:
    """The missing stitch made again."""
    n = _plain_at(ops, place)
    return (*ops[:n], Increase(Lean.LEFT, _face(ops, n)), *ops[n + 1 :])
