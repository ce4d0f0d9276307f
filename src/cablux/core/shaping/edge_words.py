"""Edges in words: what is bound off or crossed away, and how often the edges are shaped, as printed books tell it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..needle.schedule import gaps_text, number_list
from ..needle.stations import PatternStretch, Stretch
from ..piece.piece import BandView
from .edge_steps import EdgeStep
from .manner import Manner, ShapedEdges

_ENDS = {"both": "at each end", "right": "at the right edge", "left": "at the left edge"}


def stretch_in_pattern(stretch: Stretch, sentence: str) -> PatternStretch:
    """A stretch with its sentence and the rows that are shaped."""
    calendar = tuple(stretch.first + row - 1 for row in stretch.schedule.at)
    last = stretch.first + stretch.schedule.rows - 1
    return PatternStretch(
        first=stretch.first, last=last, sentence=sentence, calendar=calendar, before=stretch.before, after=stretch.after
    )


def steps_in_pattern(view: BandView, steps: Sequence[EdgeStep], first: int, *, count: int) -> Iterator[PatternStretch]:
    """What goes in the steps after a station, from row `first` and of `count` stitches: bound off, or crossed away."""
    rows: dict[int, tuple[str, int]] = {}
    for step in steps:
        if step.kind == "crossed":
            yield _crossed_away(view, step, first, count=count)
            return
        rows |= {row: each[0] for row, each in step.rows(first).items()}
    if not rows:
        return
    numbers = sorted(rows)
    each = [rows[n][1] for n in numbers]
    alike = len(set(each)) == 1
    many = f"{each[0]} stitches" if alike else ", ".join(map(str, each[:-1])) + f" and {each[-1]} stitches"
    where = f"{view.piece.row_word}s {number_list(tuple(numbers))}" if len(each) > 1 else f"row {numbers[0]}"
    text = f"At the beginning of {where} bind off {many}{', each time' if alike and len(each) > 1 else ''}: "
    left = count - sum(each)
    yield PatternStretch(
        first=numbers[0],
        last=numbers[-1],
        sentence=f"{text}{left} stitches.",
        calendar=tuple(numbers),
        before=count,
        after=left,
    )


def _crossed_away(view: BandView, step: EdgeStep, first: int, *, count: int) -> PatternStretch:
    """Crossings that decrease at the edges, in the rows of a step; those of one width are told together."""
    rows = step.rows(first)
    inside = view.sides[0].stitches if view.sides else 0
    where = f"Inside {inside} edge stitch{'es' if inside > 1 else ''} " if inside else ""
    end = "at both ends" if step.edge == "both" else f"at the {step.edge} end"
    told = []
    for n in dict.fromkeys(step.counts):
        lines = tuple(row for row, each in rows.items() if each[0][1] == n)
        told.append(f"{n} over {n} in row{'s' if len(lines) > 1 else ''} {number_list(lines)}")
    left = count - step.stitches
    text = f"{where}{end}, leaning to the edge, cross and decrease {' and '.join(told)}: {left} stitches."
    return PatternStretch(
        first=first,
        last=max(rows),
        sentence=text[:1].upper() + text[1:],
        calendar=tuple(rows),
        before=count,
        after=left,
    )


def edges_sentence(view: BandView, stretch: Stretch, edges: ShapedEdges, *, manner: Manner, count: int) -> str:
    """What is done at the edges on the way to `count` stitches."""
    rows, what = stretch.schedule.rows, view.piece.row_word
    if stretch.before == count:
        return f"Work {rows} {what}{'s' if rows > 1 else ''} in pattern: {count} stitches."
    verb = "increasing" if stretch.grows else "decreasing"
    where, how = _ENDS.get(edges, "at the beginning"), _how(view, manner, grows=stretch.grows)
    often = gaps_text(stretch.schedule, what)
    if edges == "in turn" and not stretch.twice:
        at = stretch.schedule.at
        every = len(at) == at[-1] - at[0] + 1
        often = f"every {what}, {len(at)} times" if every else f"each of these {what}s"
    lines = f"Work in pattern, {verb} 1 stitch {how}{where} of {often}: {stretch.before} → {count} stitches."
    if stretch.twice:
        twice = number_list(tuple(stretch.first + row - 1 for row in stretch.twice))
        lines += f" In {what}s {twice} do so at both ends."
    return lines


def _how(view: BandView, manner: Manner, *, grows: bool) -> str:
    """Inside how many edge stitches, and by what, told once."""
    inside = view.sides[0].stitches if view.sides else 0
    edge = f"inside {inside} edge stitch{'es' if inside > 1 else ''} " if inside else ""
    return manner.words(grows=grows) + edge
