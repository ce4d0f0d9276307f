"""Wandering panels: a stitch taken from the background on one side and made on the other, every so many rows."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise
from typing import ClassVar

from ..errors import IllegalPiece
from ..needle.schedule import Rate
from ..needle.stations import Station
from ..piece.piece import BandView
from ..piece.segment import Segment
from ..piece.widths import body_row_um, segment_um
from .manner import Manner
from .sections import Section, SectionShaped

MOST_TURNS = 60
"""Our choice: a panel that turns more often wanders by less than it is wide."""


def wanders(view: BandView) -> bool:
    """Whether any panel of a band wanders."""
    return view.shaping is None and any(s.wander for s in view.segments)


@dataclass(frozen=True, kw_only=True)
class Wandered(SectionShaped):
    """The backgrounds beside wandering panels, after so many plain rows: it follows from the layout, no file has it."""

    kind: ClassVar[str] = "wandered"

    lead: int = 0

    @property
    def lead_rows(self) -> int:
        """The set-up rows of the band."""
        return self.lead


@lru_cache(maxsize=256)
def wandered_view(view: BandView, rows: int, lead: int) -> BandView:
    """A band whose panels wander over so many rows of their charts: its backgrounds are shaped, and have room to grow.

    Raises IllegalPiece where a panel has no background to wander in.
    """
    problem = next(_problems(view, rows), "")
    if problem:
        raise IllegalPiece(problem)
    own = list(view.segments)
    paths = {at: _path(s, rows) for at, s in enumerate(view.segments) if s.wander}
    turns = sorted({row for path in paths.values() for row, _ in path})
    sections = []
    for at, path in paths.items():
        every = view.segments[at].wander_every
        offsets = [_offset(path, row, every) for row in turns]  # how far to the left it has gone at every place
        for side, background in ((1, at - 1), (-1, at + 1)):
            begin = view.segments[background].stitches
            counts = [begin + side * off for off in offsets]
            own[background] = replace(own[background], repeats=_repeats(own[background], max(counts)))
            sections.append(
                Section(first=background, last=background, counts=tuple(counts), edges="left" if side > 0 else "right")
            )
    shaping = Wandered(
        stations=tuple(
            Station(name=_name(n, len(turns)), width_mm=view.piece.width_mm, row=row) for n, row in enumerate(turns)
        ),
        sections=tuple(sections),
        lead=lead,
        rates=_rates(view, turns),
        manner=Manner(every_row=any(s.wander_every % 2 for s in view.segments if s.wander), whole_panels=False),
    )
    return view.with_band(replace(view.band, own=tuple(own), symmetric=False, middle=True, shaping=shaping))


def _name(number: int, many: int) -> str:
    return "Begins" if number == 0 else "Ends" if number == many - 1 else f"Turn {number}"


def _repeats(background: Segment, stitches: int) -> int:
    return background.chart.repeats_for(stitches) or background.repeats


def _path(s: Segment, rows: int) -> list[tuple[int, int]]:
    """(rows done, stitches to the left) at each turn: there and back, as far as the rows reach."""
    leg, out, at, off = abs(s.wander) * s.wander_every, [(0, 0)], 0, 0
    while at < rows:
        to = s.wander if off == 0 else 0
        done = min(leg, rows - at)
        moved = done // s.wander_every
        off += (1 if to > off else -1) * moved
        at += done
        out.append((at, off))
    return out


def _offset(path: list[tuple[int, int]], row: int, every: int) -> int:
    """How far to the left after so many rows, one stitch every so many rows from the turn before."""
    for (a, before), (b, after) in pairwise(path):
        if a <= row <= b:
            return before + (1 if after > before else -1) * min(abs(after - before), (row - a) // every)
    return path[-1][1]


def _rates(view: BandView, turns: list[int]) -> tuple[tuple[Rate, ...], ...]:
    """The rows of the wandering themselves, which all panels share."""
    far, every = next((abs(s.wander), s.wander_every) for s in view.segments if s.wander)
    moved = [min(far, (b - a) // every) for a, b in pairwise(turns)]
    return tuple((Rate(every, n),) if n else () for n in moved)


def _problems(view: BandView, rows: int) -> Iterator[str]:
    used: set[int] = set()
    alike = {(abs(s.wander), s.wander_every) for s in view.segments if s.wander}
    if len(alike) > 1:
        yield "Panels of one band wander alike: give them all as many stitches, and the same rows between them."
        return
    for at, s in enumerate(view.segments):
        if not s.wander:
            continue
        if s.wander_every < 1 or (not view.round and s.wander_every % 2):
            yield f"{s.name} can wander every 2, 4, 6 … rows: shaping falls on right-side rows."
        for background in (at - 1, at + 1):
            inside = 0 <= background < len(view.segments) and view.segments[background].is_background
            if not inside or view.segments[background].chart.multiple > 1 or background in used:
                yield (
                    f"{s.name} (segment {at + 1}) wanders: it needs a plain background of its own on both sides; put "
                    "reverse stockinette there."
                )
                return
            used.add(background)
        room = view.segments[at + 1 if s.wander > 0 else at - 1].stitches - 1
        if abs(s.wander) > room:
            yield f"{s.name} can wander by {room} stitches at most: so much background there is beside it, but for one."
        if len(_path(s, rows)) > MOST_TURNS:
            yield f"{s.name} would turn more than {MOST_TURNS} times; let it wander further, or less often."


def wander_angle(view: BandView, at: int) -> float:
    """How far from upright a wandering panel runs, in degrees: a stitch of background to so many rows, by the gauge."""
    s = view.segments[at]
    background = view.segments[at + 1 if s.wander > 0 else at - 1]
    stitch = segment_um(background, view.outlook) / background.stitches
    return math.degrees(math.atan2(stitch, s.wander_every * body_row_um(view)))
