"""Sections in words: what is put on holders, and how often which ends are shaped, as printed books tell it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..needle.columns import ActiveColumns
from ..needle.schedule import gaps_text
from ..needle.stations import PatternStretch, StationCount, StationPlan, Stretch
from .edge_words import stretch_in_pattern
from .manner import Manner
from .section_places import Holder, Section, Sections, first_in_turn


def section_name(sections: Sequence[Section], holders: Sequence[Holder], at: int) -> str:
    """What a section is called: by its name, by the holder that it is put on, or by its number from the right."""
    held = next((h.name for h in holders if h.section == at), "")
    own = sections[at].name or held
    return f"the {own}" if own else f"section {at + 1}"


def section_names(sections: Sequence[Section], holders: Sequence[Holder], places: Sequence[int]) -> str:
    """What several sections are called: by their names, or by how many they are where they have none."""
    if len(places) > 1 and not all(sections[n].name for n in places):
        return f"each of the {len(places)} sections"
    return _listed([section_name(sections, holders, n) for n in places])


def _listed(names: list[str]) -> str:
    return f"{', '.join(names[:-1])}{' and ' if len(names) > 1 else ''}{names[-1]}"


def held_in_pattern(
    asked: Sections, plan: StationPlan, active: ActiveColumns, *, first: int, station: int
) -> Iterator[PatternStretch]:
    """What is put on holders in the row after a station; the band's first row is `first`."""
    at = plan.stations[station].row
    row, what = first + at, asked.plane.view.piece.row_word
    if at < len(active.rows) and active.rows[at].held:
        for h in (h for h in asked.holders if h.station == station):
            inside = asked.own[h.section]
            many = sum(inside.first <= lane <= inside.last for lane, _ in active.rows[at].held)
            text = f"In {what} {row} put the {many} stitches of the {h.name} on a holder"
            text += f" and cast on {h.cast_on} in their place." if h.cast_on else "."
            yield PatternStretch(first=row, last=row, sentence=text, calendar=(row,), before=many, after=h.cast_on)


def sections_in_pattern(
    asked: Sections,
    manner: Manner,
    here: Sequence[Stretch],
    *,
    stations: tuple[StationCount, StationCount],
    active: ActiveColumns,
    first: int,
) -> Iterator[PatternStretch]:
    """What is done between two stations; sections that are shaped alike are told together."""
    what, (a, b) = asked.plane.view.piece.row_word, stations
    alike: dict[tuple[object, ...], list[Stretch]] = {}
    for stretch in here:
        if stretch.schedule.changes:
            edges = asked.own[stretch.section or 0].edges
            key = (stretch.first, stretch.schedule, stretch.grows, edges, stretch.before)
            alike.setdefault(key, []).append(stretch)
    if not alike:
        rows = b.row - a.row
        text = f"Work {rows} {what}{'s' if rows > 1 else ''} in pattern: {b.count} stitches."
        yield PatternStretch(
            first=here[0].first,
            last=here[0].first + here[0].schedule.rows - 1,
            sentence=text,
            calendar=(),
            before=b.count,
            after=b.count,
        )
    for group in alike.values():
        one = group[0]
        where = _place_in(asked, group)
        verb = "increasing" if one.grows else "decreasing"
        how = manner.words(grows=one.grows).replace("edge", "line")
        often, many = gaps_text(one.schedule, what), "each " if len(group) > 1 else ""
        text = f"Work in pattern, {verb} 1 stitch {how}{where} {often}: {many}{one.before} → {one.after} stitches"
        text += f", the last time at the {_single_end(asked, active, one, first=first)} end only" if one.single else ""
        total = f", {b.count} in all." if len(alike) == 1 else "."
        yield stretch_in_pattern(one, text + total)


def _place_in(asked: Sections, group: list[Stretch]) -> str:
    """At which ends of which sections."""
    at = [s.section or 0 for s in group]
    section = asked.own[at[0]]
    first = "right" if group[0].grows else first_in_turn(asked.plane, section)
    turns = f"at the {first} and the {'left' if first == 'right' else 'right'} end in turn"
    ends = {"both": "at each end", "right": "at the right end", "left": "at the left end"}.get(section.edges, turns)
    if len(at) == len(asked.own) and len(at) > 1 and not all(asked.own[n].name for n in at):
        return f"{ends} of each of the {len(at)} sections"
    return f"{ends} of {_listed([section_name(asked.own, asked.holders, n) for n in at])}"


def _single_end(asked: Sections, active: ActiveColumns, stretch: Stretch, *, first: int) -> str:
    """The end at which the last change of a stretch is made, where it is made at one only."""
    row = stretch.first + stretch.schedule.at[-1] - 1 - first
    made = [m.column for m in active.rows[row].made]
    section = asked.own[stretch.section or 0]
    inside = [c for c in active.columns[row] if section.first <= c[0] <= section.last]
    new = [c for c in made if section.first <= c[0] <= section.last]
    return "left" if new and inside and new[0] > inside[-1] else "right"
