"""What a band's counts are chosen by: which are free, what must hold, and how wide each is, in whole micrometres."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from ..piece.piece import BandView
from ..piece.problems import MAX_STITCHES
from ..piece.segment import Segment
from ..piece.widths import segment_unit

Free = Literal["backgrounds", "panels", "both"]
WishKind = Literal["width", "locked", "least", "bounds", "by", "total", "halves", "outside"]

WIDER = 2  # our choice: an all-over panel may grow by two repeats before it is another design


@dataclass(frozen=True)
class Wish:
    """Something that has to hold; `at` is the segment it speaks of, −1 where it speaks of the whole band."""

    kind: WishKind
    at: int = -1


def grows_sideways(segment: Segment) -> bool:
    """Whether a panel is meant to be repeated sideways: an all-over pattern, or one between its own purl margins."""
    return segment.pattern.chart.balance > 0 or "background" in segment.pattern.uses or segment.repeats > 1


def wishes_of(view: BandView) -> tuple[Wish, ...]:
    """All that a band is to keep to, besides its panels and its multiples."""
    out = [Wish("width")]
    for i, s in enumerate(view.segments):
        home, mirrored = view.band.home(i)
        if mirrored:
            continue
        if s.locked:
            out.append(Wish("locked", home))
        elif s.is_background:
            out += [Wish("bounds", home)] if s.most or s.least else []
            out += [Wish("by", home)] if s.by > 1 else []
    if view.piece.least_background > 1 and any(s.is_background and not s.locked for s in view.segments):
        out.append(Wish("least"))
    if view.piece.total != (1, 0):
        out.append(Wish("total"))
    if view.symmetric:
        out.append(Wish("halves"))
    if view.piece.gaps == "outside" and len(_gaps(view)) > 2 and not view.round:
        out.append(Wish("outside"))
    return tuple(out)


def _gaps(view: BandView) -> list[int]:
    return [i for i, s in enumerate(view.segments) if s.is_background]


@dataclass(frozen=True)
class Program:
    """The choice of a band's counts under some of the wishes for it."""

    view: BandView
    active: frozenset[Wish]
    free: Free = "backgrounds"

    @cached_property
    def n(self) -> int:
        return len(self.view.segments)

    @cached_property
    def limits(self) -> tuple[tuple[int, int], ...]:
        """Fewest and most repeats of each segment."""
        return tuple(self._limit(i, s) for i, s in enumerate(self.view.segments))

    def has(self, kind: WishKind, at: int = -1) -> bool:
        """Whether a wish is active; `at` is the place in the whole band."""
        return Wish(kind, self.view.band.home(at)[0] if at >= 0 else -1) in self.active

    def _limit(self, i: int, s: Segment) -> tuple[int, int]:
        m, b = s.chart.multiple, s.chart.balance
        held = (s.locked and self.has("locked", i)) or s.is_side
        if s.is_panel:
            held = held or self.free == "backgrounds" or not grows_sideways(s)
            if not held:
                return (s.repeats, s.repeats + WIDER) if self.free == "both" else (1, max(1, (MAX_STITCHES - b) // m))
        if held or (s.is_background and self.free == "panels"):
            return s.repeats, s.repeats
        least = self.view.piece.least_background if self.has("least") else 1
        most = MAX_STITCHES
        if self.has("bounds", i):
            least, most = max(least, s.least), s.most or most
        low, high = max(1, -(-(least - b) // m)), (most - b) // m
        by = s.by if self.has("by", i) else 1
        return -(-low // by) * by, high // by * by

    @cached_property
    def gaps(self) -> tuple[int, ...]:
        """The backgrounds whose counts are free."""
        return tuple(i for i in _gaps(self.view) if self.limits[i][0] < self.limits[i][1])

    @cached_property
    def groups(self) -> tuple[tuple[int, ...], ...]:
        """The gaps as the eye sees them: in the round the first and the last background meet and are one."""
        last = self.n - 1
        if self.view.round and self.gaps[:1] == (0,) and self.gaps[-1:] == (last,) and last:
            return ((0, last), *((i,) for i in self.gaps[1:-1]))
        return tuple((i,) for i in self.gaps)

    @cached_property
    def outer(self) -> tuple[int, ...]:
        """The outermost gaps, where more is to lie outside."""
        return (self.gaps[0], self.gaps[-1]) if self.has("outside") and len(self.gaps) > 2 else ()

    @cached_property
    def units(self) -> tuple[tuple[int, int], ...]:
        """Fixed and repeated width of each segment, µm."""
        found = [segment_unit(s, self.view.measure) for s in self.view.segments]
        return tuple((u.fixed_um, u.repeat_um) for u in found)

    @cached_property
    def reach(self) -> tuple[tuple[int, int], ...]:
        """The limits, less what would make the band too wide by itself: the narrower, the sooner it is solved."""
        if not self.has("width"):
            return self.limits
        room = (
            (self.view.piece.width_mm + self.view.piece.tolerance_mm) * 1000.0
            + 1.0
            - self.width(low for low, _ in self.limits)
        )
        out = []
        for (low, high), (_, each) in zip(self.limits, self.units, strict=True):
            out.append((low, min(high, low + int(max(0.0, room) // each)) if each else high))
        return tuple(out)

    def width(self, repeats: Iterable[int]) -> int:
        """The band's width with so many repeats, µm."""
        return sum(fixed + each * r for (fixed, each), r in zip(self.units, repeats, strict=True))

    @cached_property
    def slack_um(self) -> float:
        """An error of half a step counts as none: our choice, so that nobody pays for it with uneven backgrounds.

        A step is one stockinette stitch, or two where both halves must stay alike.
        """
        return self.view.measure.gauge.stitch_mm * (1000.0 if self.has("halves") else 500.0)
