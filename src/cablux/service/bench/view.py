"""What the bench shows: a band of the piece with its fan, its cautions and what is chosen on it, or the whole stack."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from ...core.garment.cautions import Caution, layout_cautions
from ...core.library import LIBRARY, StitchPattern
from ...core.piece.piece import Band, BandView
from ...core.piece.segment import Segment
from ...core.piece.symmetry import describe_asymmetry
from ...core.piece.widths import segment_um
from ...core.shaping.wander import wander_angle, wanders
from ...render.fan import Fan, draw_fan
from ...render.schematic import draw_schematic
from ...render.stack import Stack, draw_stack
from ..answers import PieceCounts
from ..projects import BandWidth, Project, piece_counts
from .shaping_edits import ShapingView, shaping_view


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

    @property
    def counts(self) -> PieceCounts:
        """The counts of the piece."""
        return piece_counts(self.project.piece)

    @property
    def width(self) -> BandWidth:
        """How wide it will be."""
        return self.project.numbers.bands[self.at]

    @property
    def first(self) -> int:
        """The segment chosen first."""
        return self.selected[0]

    @property
    def segment(self) -> Segment:
        """The segment chosen first, itself."""
        return self.band_view.segments[self.first]

    @cached_property
    def segment_um(self) -> int:
        """Its width by all that is known."""
        return segment_um(self.segment, self.band_view.outlook)

    @property
    def bare(self) -> bool:
        """Whether no panel has been laid yet."""
        return all(not s.is_panel for s in self.band_view.segments)

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

    @property
    def on_the_way(self) -> bool:
        """Whether it is shaped in sections and wider than the band whose width is the piece's, as a yoke is."""
        shaping, piece = self.band.shaping, self.project.piece
        if shaping is None or not shaping.in_sections or piece.main_view.at == self.at:
            return False
        return self.width.width_um > 1000.0 * (piece.width_mm + piece.tolerance_mm)

    @property
    def wander_angle(self) -> float:
        """How far from upright the chosen panel runs, in degrees; 0 where it does not wander."""
        return wander_angle(self.band_view, self.first) if self.segment.wander else 0.0

    @cached_property
    def shaping(self) -> ShapingView | None:
        """How it is shaped; None where it is not."""
        return shaping_view(self.band_view)

    @cached_property
    def cautions(self) -> tuple[Caution, ...]:
        """What to warn of."""
        return layout_cautions(
            self.band_view,
            self.project.numbers.rows.bands[self.at],
            self.project.file.cord * 10.0,
            unit=self.project.unit,
        )

    @cached_property
    def warned(self) -> frozenset[int]:
        """The segments that a caution points at."""
        return frozenset(at for c in self.cautions if c.kind != "heights" for at in c.at)

    @cached_property
    def partners(self) -> frozenset[int]:
        """The mirrored partners of the chosen segments, which change with them."""
        found = {self.band.partner(at) for at in self.selected}
        return frozenset(at for at in found if at is not None) - set(self.selected)

    @cached_property
    def unlike(self) -> str:
        """What would change if both halves were made alike; empty where nothing would."""
        return describe_asymmetry(self.band_view.segments) if not self.band.symmetric else ""

    @cached_property
    def others(self) -> tuple[StitchPattern, ...]:
        """What else could stand in place of the chosen edge or background."""
        use = "background" if self.segment.is_seam else self.segment.role
        return tuple(p for p in LIBRARY.values() if use in p.uses) if use != "panel" else ()


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
