"""Shaped rows as printed books write them: what is done at the edges and how often, beside a calendar of those rows."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from ..layout.bend import bent_rows
from ..layout.heights import first_row, last_crossings
from ..layout.piece import BandView
from ..layout.sections import first_in_turn
from ..layout.shaped import ShapedBand, shape_band
from ..layout.stations import StationCount
from ..layout.stretches import Stretch
from ..shaping.outline import Shaping, Step
from ..shaping.schedule import gaps_text
from .words import number_list


@dataclass(frozen=True)
class PatternStretch:
    """The rows between two stations, in words; `calendar` has the numbers of the rows that are shaped."""

    first: int
    last: int
    sentence: str
    calendar: tuple[int, ...]
    before: int
    after: int


def stretches_in_pattern(view: BandView) -> tuple[PatternStretch, ...]:
    """What a shaped band says in pattern, stretch by stretch; those without rows are left out."""
    found = shape_band(view)
    shaping = view.shaping
    assert shaping is not None, "only shaped bands come here"
    if shaping.bend is not None:
        return tuple(_bent(found))
    if shaping.writes_rows:
        return ()
    out: list[PatternStretch] = []
    for above, (a, b) in enumerate(pairwise(found.stations.stations), start=1):
        here = [s for s in found.stations.stretches if s.above == above]
        if b.row > a.row and shaping.sections:
            out += _held(found, above - 1)
            out += _of_sections(found, here, a, b)
        elif b.row > a.row:
            out += _stepped(found, above - 1)
            if here[0].schedule.rows:
                out += [_stretch(here[0], _sentence(found, here[0], b))]
    return tuple(out)


def _bent(found: ShapedBand) -> Iterator[PatternStretch]:
    """The short rows of a bent band, by the stitches that they work."""
    view, first = found.view, first_row(found.view)
    rows = bent_rows(view)
    short: dict[int, list[int]] = {}
    begins = True
    for at, reach in enumerate(rows):
        if reach is None:
            begins = True
            continue
        if begins:
            short.setdefault(reach[1] - reach[0], []).append(first + at)
        begins = not begins
    last, count = first + len(rows) - 1, view.stitches
    whole = len(rows) - 2 * sum(map(len, short.values()))
    text = f"Work in pattern, {whole} rows all the way across, with short rows between them."
    yield PatternStretch(first, last, text, (), count, count)
    for stitches, turned in sorted(short.items()):
        often = f"{len(turned)} times" if len(turned) > 1 else "once"
        text = f"Work {stitches} stitches, wrap the next and turn, then work back: {often}, as the rows come."
        yield PatternStretch(turned[0], turned[-1] + 1, text, tuple(turned), count, count)


def _stretch(stretch: Stretch, sentence: str) -> PatternStretch:
    calendar = tuple(stretch.first + row - 1 for row in stretch.schedule.at)
    last = stretch.first + stretch.schedule.rows - 1
    return PatternStretch(stretch.first, last, sentence, calendar, stretch.before, stretch.after)


def _of_sections(found: ShapedBand, here: list[Stretch], a: StationCount, b: StationCount) -> Iterator[PatternStretch]:
    """Sections that are shaped alike are told together."""
    shaping, what = found.view.shaping, found.view.piece.row_word
    assert shaping is not None, "only shaped bands come here"
    alike: dict[tuple[object, ...], list[Stretch]] = {}
    for stretch in here:
        if stretch.schedule.changes:
            edges = shaping.sections[stretch.section or 0].edges
            key = (stretch.first, stretch.schedule, stretch.grows, edges, stretch.before)
            alike.setdefault(key, []).append(stretch)
    if not alike:
        rows = b.row - a.row
        text = f"Work {rows} {what}{'s' if rows > 1 else ''} in pattern: {b.count} stitches."
        yield PatternStretch(here[0].first, here[0].first + here[0].schedule.rows - 1, text, (), b.count, b.count)
    for group in alike.values():
        one = group[0]
        where = _place_in(found, group)
        verb = "increasing" if one.grows else "decreasing"
        how = _way(shaping, grows=one.grows).replace("edge", "line")
        often, many = gaps_text(one.schedule, what), "each " if len(group) > 1 else ""
        text = f"Work in pattern, {verb} 1 stitch {how}{where} {often}: {many}{one.before} → {one.after} stitches"
        text += f", the last time at the {_single_end(found, one)} end only" if one.single else ""
        total = f", {b.count} in all." if len(alike) == 1 else "."
        yield _stretch(one, text + total)


def _place_in(found: ShapedBand, group: list[Stretch]) -> str:
    """At which ends of which sections."""
    shaping = found.view.shaping
    assert shaping is not None, "only shaped bands come here"
    at = [s.section or 0 for s in group]
    section = shaping.sections[at[0]]
    first = "right" if group[0].grows else first_in_turn(found.plane, section)
    turns = f"at the {first} and the {'left' if first == 'right' else 'right'} end in turn"
    ends = {"both": "at each end", "right": "at the right end", "left": "at the left end"}.get(section.edges, turns)
    if len(at) == len(shaping.sections) and len(at) > 1 and not all(shaping.sections[n].name for n in at):
        return f"{ends} of each of the {len(at)} sections"
    return f"{ends} of {_listed([section_name(shaping, n) for n in at])}"


def _listed(names: list[str]) -> str:
    return f"{', '.join(names[:-1])}{' and ' if len(names) > 1 else ''}{names[-1]}"


def section_names(shaping: Shaping, sections: Sequence[int]) -> str:
    """What several sections are called: by their names, or by how many they are where they have none."""
    if len(sections) > 1 and not all(shaping.sections[n].name for n in sections):
        return f"each of the {len(sections)} sections"
    return _listed([section_name(shaping, n) for n in sections])


def _single_end(found: ShapedBand, stretch: Stretch) -> str:
    """The end at which the last change of a stretch is made, where it is made at one only."""
    row = stretch.first + stretch.schedule.at[-1] - 1 - first_row(found.view)
    made = [m.column for m in found.lives.rows[row].made]
    shaping, below = found.view.shaping, found.lives.living[row]
    assert shaping is not None, "only shaped bands come here"
    section = shaping.sections[stretch.section or 0]
    inside = [c for c in below if section.first <= c[0] <= section.last]
    new = [c for c in made if section.first <= c[0] <= section.last]
    return "left" if new and inside and new[0] > inside[-1] else "right"


def section_name(shaping: Shaping, section: int) -> str:
    """What a section is called: by its name, by the holder that it is put on, or by its number from the right."""
    held = next((h.name for h in shaping.holders if h.section == section), "")
    own = shaping.sections[section].name or held
    return f"the {own}" if own else f"section {section + 1}"


def _held(found: ShapedBand, station: int) -> Iterator[PatternStretch]:
    """What is put on holders in the row after a station."""
    shaping, what = found.view.shaping, found.view.piece.row_word
    assert shaping is not None, "only shaped bands come here"
    row = first_row(found.view) + found.stations.stations[station].row
    shapings = found.lives.rows
    at = row - first_row(found.view)
    if at < len(shapings) and shapings[at].held:
        for h in (h for h in shaping.holders if h.station == station):
            inside = shaping.sections[h.section]
            many = sum(inside.first <= lane <= inside.last for lane, _ in shapings[at].held)
            text = f"In {what} {row} put the {many} stitches of the {h.name} on a holder"
            text += f" and cast on {h.cast_on} in their place." if h.cast_on else "."
            yield PatternStretch(row, row, text, (row,), many, h.cast_on)


def _stepped(found: ShapedBand, station: int) -> Iterator[PatternStretch]:
    """What goes in steps after a station: bound off at the beginnings of rows, or crossed away."""
    shaping, at = found.view.shaping, found.stations.stations[station]
    assert shaping is not None, "only shaped bands come here"
    first, count = first_row(found.view) + at.row, at.count
    rows: dict[int, tuple[str, int]] = {}
    for step in shaping.stepped(station):
        if step.kind == "crossed":
            yield _crossed_away(found, step, first, count)
            return
        rows |= {row: each[0] for row, each in step.rows(first).items()}
    if not rows:
        return
    numbers = sorted(rows)
    each = [rows[n][1] for n in numbers]
    alike = len(set(each)) == 1
    many = f"{each[0]} stitches" if alike else ", ".join(map(str, each[:-1])) + f" and {each[-1]} stitches"
    where = f"{found.view.piece.row_word}s {number_list(tuple(numbers))}" if len(each) > 1 else f"row {numbers[0]}"
    text = f"At the beginning of {where} bind off {many}{', each time' if alike and len(each) > 1 else ''}: "
    left = count - sum(each)
    yield PatternStretch(numbers[0], numbers[-1], f"{text}{left} stitches.", tuple(numbers), count, left)


def _crossed_away(found: ShapedBand, step: Step, first: int, count: int) -> PatternStretch:
    """Crossings that decrease at the edges, in the rows of a step; those of one width are told together."""
    rows = step.rows(first)
    inside = found.view.sides[0].stitches if found.view.sides else 0
    where = f"Inside {inside} edge stitch{'es' if inside > 1 else ''} " if inside else ""
    end = "at both ends" if step.edge == "both" else f"at the {step.edge} end"
    told = []
    for n in dict.fromkeys(step.counts):
        lines = tuple(row for row, each in rows.items() if each[0][1] == n)
        told.append(f"{n} over {n} in row{'s' if len(lines) > 1 else ''} {number_list(lines)}")
    left = count - step.stitches
    text = f"{where}{end}, leaning to the edge, cross and decrease {' and '.join(told)}: {left} stitches."
    return PatternStretch(first, max(rows), text[:1].upper() + text[1:], tuple(rows), count, left)


def panels_in_pattern(view: BandView) -> tuple[tuple[str, int, int, int], ...]:
    """For each panel that is worked in some rows only: its name, its first and its last row, and its chart's rows."""
    found, first = shape_band(view), first_row(view)
    out = []
    for at, s in enumerate(view.segments):
        worked = [first + r for r, numbers in enumerate(found.numbers) if numbers[at] >= 0]
        if s.is_panel and worked and len(worked) < len(found.numbers):
            out.append((s.name, worked[0], worked[-1], s.chart.height))
    return tuple(out)


def last_crossings_in_pattern(view: BandView) -> dict[int, list[str]]:
    """The rows of a band after which panels that are drawn in are crossed no more, with the panels' names."""
    first, out = first_row(view), dict[int, list[str]]()
    for at, row in sorted(last_crossings(view).items()):
        name = view.segments[at].name
        if name not in out.setdefault(max(row, first - 1), []):
            out[max(row, first - 1)].append(name)
    return dict(sorted(out.items()))


def _sentence(found: ShapedBand, stretch: Stretch, b: StationCount) -> str:
    rows = stretch.schedule.rows
    what = found.view.piece.row_word
    count = f"{b.count} stitches"
    if stretch.before == b.count:
        return f"Work {rows} {what}{'s' if rows > 1 else ''} in pattern: {count}."
    verb = "increasing" if stretch.grows else "decreasing"
    where, how = _where(found), _how(found, stretch)
    often = gaps_text(stretch.schedule, what)
    if found.view.shaping is not None and found.view.shaping.edges == "in turn" and not stretch.twice:
        at = stretch.schedule.at
        every = len(at) == at[-1] - at[0] + 1
        often = f"every {what}, {len(at)} times" if every else f"each of these {what}s"
    lines = f"Work in pattern, {verb} 1 stitch {how}{where} of {often}: {stretch.before} → {b.count} stitches."
    if stretch.twice:
        twice = number_list(tuple(stretch.first + row - 1 for row in stretch.twice))
        lines += f" In {what}s {twice} do so at both ends."
    return lines


def _where(found: ShapedBand) -> str:
    shaping = found.view.shaping
    assert shaping is not None, "only shaped bands come here"
    return {"both": "at each end", "right": "at the right edge", "left": "at the left edge"}.get(
        shaping.edges, "at the beginning"
    )


def _how(found: ShapedBand, stretch: Stretch) -> str:
    """Inside how many edge stitches, and by what, told once."""
    shaping = found.view.shaping
    assert shaping is not None, "only shaped bands come here"
    inside = found.view.sides[0].stitches if found.view.sides else 0
    edge = f"inside {inside} edge stitch{'es' if inside > 1 else ''} " if inside else ""
    return _way(shaping, grows=stretch.grows) + edge


def _way(shaping: Shaping, *, grows: bool) -> str:
    """By which increase, or which way a decrease leans."""
    by = {"M1": "", "yo": "with a yarn over ", "kfb": "by working two into one "}[shaping.increase]
    leans = {"along": "leaning along the edge ", "against": "leaning against the edge ", "k2tog": "with k2tog "}
    return by if grows else leans[shaping.lean]
