"""What the bench shows: a band of the piece with its fan, its cautions and what is chosen on it, or the whole stack."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from ...core.library import StitchPattern
from ...core.piece.piece import Band, BandView
from ...core.piece.segment import Segment
from ...core.shaping.wander import wanders
from ...render.fan import Fan, draw_fan
from ...render.schematic import draw_schematic
from ...render.stack import Stack, draw_stack
from ..answers import PieceOnBench
from ..projects import Project
from .told import bench_answer


@dataclass(frozen=True, kw_only=True)
class BenchView:
    """One band on the bench; `band_view` is the band as it stands in the piece, `selected` the chosen segments.

    `whole`: the stack of all bands is shown in place of the band's fan.
    """

    project: Project
    at: int
    band_view: BandView
    selected: tuple[int, ...]
    whole: bool = False

    @property
    def band(self) -> Band:
        """The band itself."""
        return self.band_view.band

    @cached_property
    def told(self) -> PieceOnBench:
        """What it tells."""
        return bench_answer(self.project.file, self.project.piece, self.at, selected=self.selected)

    @property
    def first(self) -> int:
        """The segment chosen first."""
        return self.selected[0]

    @property
    def segment(self) -> Segment:
        """The segment chosen first, itself."""
        return self.band_view.segments[self.first]

    @cached_property
    def below(self) -> int:
        """The stitches below the band: those cast on, or those of the band under it."""
        return (
            self.project.numbers.cast_on.cast_on
            if self.at == 0
            else self.project.piece.band_views[self.at - 1].stitches
        )

    @cached_property
    def fan(self) -> Fan:
        """The fan."""
        return draw_fan(self.band_view, self.below, self.project.unit, yarn=self.project.paint)

    @cached_property
    def stack(self) -> Stack:
        """The whole piece."""
        n = self.project.numbers
        return draw_stack(self.project.piece, n.cast_on, n.rows)

    @cached_property
    def schematic(self) -> str:
        """The whole piece in outline, where it changes its count or its ends meet; else empty."""
        piece = self.project.piece
        changes = piece.meets or any(b.shaping for b in piece.bands) or any(map(wanders, piece.band_views))
        return draw_schematic(piece, self.project.unit) if changes else ""


def bench_view(project: Project, band: int = 0, selected: Iterable[int] = (), *, whole: bool = False) -> BenchView:
    """The view of a band with some segments chosen; what is no longer there falls back on what is."""
    band_views = project.piece.band_views
    at = max(0, min(band, len(band_views) - 1))
    last = len(band_views[at].segments) - 1
    chosen = tuple(dict.fromkeys(max(0, min(n, last)) for n in selected)) or (min(1, last),)
    return BenchView(project=project, at=at, band_view=band_views[at], selected=chosen, whole=whole)


def added_at(band_view: BandView, pattern: StitchPattern, near: int) -> int:
    """Where a pattern that was put in near a place lies: the nearest of its kind."""
    twins = {s.pattern_id for s in (Segment(role="panel", pattern=pattern, repeats=1),)} | {
        Segment(role="panel", pattern=pattern, repeats=1).reflected().pattern_id
    }
    places = [i for i, s in enumerate(band_view.segments) if s.pattern_id in twins]
    return min(places, key=lambda i: (abs(i - near), i)) if places else near


def widest_background(band_view: BandView) -> int:
    """The widest background, where a new panel finds room; the middle segment if there is none."""
    backgrounds = [(s.stitches, -i) for i, s in enumerate(band_view.segments) if s.is_background]
    return -max(backgrounds)[1] if backgrounds else len(band_view.segments) // 2
