"""Arrangements to start from, each computed for the width at hand: panels placed, backgrounds found by the solver."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from ..library import StitchPattern
from ..notation.closing import closed_chart
from ..piece.piece import Band, BandView
from ..piece.problems import MAX_SEGMENTS, MAX_STITCHES, band_problems
from ..piece.segment import Segment, proposed_purl_margin
from ..piece.widths import body_um, plain_um, segment_um
from .program import grows_sideways
from .solver import solve_layout

MIDDLE = 1 / 3
"""Our choice: what stands in the middle alone takes about a third of the width."""
SPARSE = 4
"""Our choice: pairs have as much background as cable, so one pair for each four widths of a panel."""
IN_ORDER = "in their order"
LEAST_GAP = 4  # our choice: less background than that no longer sets a cable off


@dataclass(frozen=True, kw_only=True)
class Arrangement:
    """A band to start from: its name, what one sees, the band, and its width and count."""

    name: str
    note: str
    band: Band
    stitches: int
    width_um: int


def ready_arrangements(
    view: BandView, panels: Sequence[StitchPattern], background: StitchPattern, *, only: str = ""
) -> tuple[Arrangement, ...]:
    """Ready arrangements of `panels` for a band; the widest all-over one, if any, is made much of.

    Those that cannot be had at this width are left out. With `only` no more than the one of that name is solved.
    """
    maker = _Maker(view, background)
    wide = max(panels, key=lambda p: (maker.all_over(p), p.least))
    rest = [p for p in dict.fromkeys(panels) if p != wide]
    pair = rest[0] if rest else wide
    how = "over a third of the width" if maker.all_over(wide) else "alone in the middle"
    tries: list[tuple[str, str, Iterator[Band]]] = [
        ("one wide in the middle", f"{wide.name} {how}", maker.middle(wide)),
        ("pairs facing in", f"{pair.name} in mirrored pairs", maker.pairs([pair])),
    ]
    if rest:
        tries += [
            ("wide middle, pairs beside it", f"{wide.name} between pairs of {_names(rest)}", maker.framed(wide, rest)),
            ("in turn", f"{_names(panels)} from the edges to the middle and back", maker.pairs(panels)),
        ]
    if maker.all_over(wide):
        tries.append(("all over", f"{wide.name} from edge to edge", maker.all_of(wide)))
    out: list[Arrangement] = []
    for name, note, bands in (each for each in tries if only in ("", each[0])):
        found = maker.nearest(bands)
        if found is not None and found.segments not in [a.band.segments for a in out]:
            out.append(_arrangement(view, name, note, band=found))
    return tuple(out)


def in_their_order(
    view: BandView, panels: Sequence[Segment], background: StitchPattern, *, gap: int = 0
) -> Arrangement | None:
    """`fill` as an arrangement, which says how many panels fit; None where they do not."""
    found = fill_width(view, panels, background, gap=gap)
    if found is None:
        return None
    many = sum(s.is_panel for s in found.segments)
    fit = f"gaps of {gap}: {many} panel{'' if many == 1 else 's'} fit"
    note = fit if gap else "with backgrounds that suit the width"
    return _arrangement(view, IN_ORDER, note, band=found)


def _arrangement(view: BandView, name: str, note: str, *, band: Band) -> Arrangement:
    laid = view.with_band(band)
    return Arrangement(name=name, note=note, band=band, stitches=laid.stitches, width_um=body_um(laid))


def _names(panels: Sequence[StitchPattern]) -> str:
    *first, last = dict.fromkeys(p.name for p in panels)
    return f"{', '.join(first)} and {last}" if first else last


def fill_width(view: BandView, panels: Sequence[Segment], background: StitchPattern, *, gap: int = 0) -> Band | None:
    """Panels in their order from the right (in a symmetric band to the middle), with background between and beside.

    The solver places the backgrounds; with `gap` they have so many stitches each, and the panels are worked in turn as
    often as fits best. None where they do not fit.
    """
    maker = _Maker(view, background)
    if not gap:
        return maker.solved(maker.row(panels, view.symmetric, middle=view.symmetric))
    bands = []
    for many in range(1, MAX_SEGMENTS // 2):
        turned = [panels[i % len(panels)] for i in range(many)]
        for middle in (True, False) if view.symmetric else (False,):
            band = maker.row(turned, view.symmetric, middle=middle, gap=gap)
            if not any(band_problems(view.with_band(band))):
                bands.append(band)
    wanted = view.piece.width_mm * 1000.0
    return min(bands, key=lambda band: abs(body_um(view.with_band(band)) - wanted), default=None)


class _Maker:
    """Makes bands for one piece on one background."""

    def __init__(self, view: BandView, background: StitchPattern) -> None:
        self.view, self.background = view, background
        self.sides = view.sides[:1]

    def panel(self, pattern: StitchPattern, repeats: int = 1) -> Segment:
        """A panel with the purl margins it needs."""
        return Segment(role="panel", pattern=pattern, repeats=repeats, purl_margin=proposed_purl_margin(pattern))

    def all_over(self, pattern: StitchPattern) -> bool:
        """Whether it is meant to be repeated sideways."""
        return grows_sideways(self.panel(pattern))

    def between(self, gap: int = 0) -> Segment:
        """A background, for the solver or of so many stitches."""
        chart = self.background.chart
        repeats = max(1, round(((gap or LEAST_GAP) - chart.balance) / chart.multiple))
        return Segment(role="background", pattern=self.background, repeats=repeats, locked=bool(gap))

    def row(self, panels: Sequence[Segment], symmetric: bool, *, middle: bool, gap: int = 0) -> Band:
        """Backgrounds and panels by turns, from the edge to the middle or, not symmetric, to the other edge."""
        own: list[Segment] = list(self.sides)
        for panel in panels:
            own += [self.between(gap), panel]
        if not (symmetric and middle):
            own.append(self.between(gap))
        if symmetric:
            return Band(own=tuple(own), symmetric=True)
        return Band(own=(*own, *(s.reflected() for s in self.sides)))

    def middle(self, wide: StitchPattern) -> Iterator[Band]:
        """One panel, as wide as looks well."""
        yield self.row([self.panel(wide, self.repeats_for(wide, MIDDLE))], True, middle=True)

    def framed(self, wide: StitchPattern, rest: Sequence[StitchPattern]) -> Iterator[Band]:
        """The wide one, and pairs of the others from the edge to it."""
        for repeats in range(self.repeats_for(wide, MIDDLE), 0, -1):
            panels = [*(self.panel(p) for p in rest), self.panel(wide, repeats)]
            yield self.row(panels, True, middle=True)

    def pairs(self, panels: Sequence[StitchPattern]) -> Iterator[Band]:
        """As many pairs as leave the background its share: from many to few."""
        room = self.view.piece.width_mm * 1000.0
        each = min(segment_um(self.panel(p), self.view.measure) for p in panels)
        most = min(MAX_SEGMENTS // 4, max(1, int(room / (SPARSE * each))))
        for many in range(most, 0, -1):
            turned = [self.panel(panels[i % len(panels)]) for i in range(many)]
            yield self.row(turned, True, middle=False)

    def all_of(self, wide: StitchPattern) -> Iterator[Band]:
        """One panel from edge to edge, as many repeats as fit, with the little background beside it that is left over.

        In the round it meets itself, and nothing stands at the join; so as many repeats as come nearest.
        """
        if self.view.round:
            if (meets := closed_chart(wide.chart)) is not None:
                each = segment_um(
                    Segment(role="panel", pattern=replace(wide, chart=meets), repeats=1), self.view.measure
                )
                most = max(1, MAX_STITCHES // meets.multiple)
                yield Band(
                    own=(
                        Segment(
                            role="panel",
                            pattern=wide,
                            repeats=min(most, max(1, round(self.view.piece.width_mm * 1000.0 / each))),
                        ),
                    )
                )
            return
        beside = [*self.sides, self.between(LEAST_GAP)]
        width = self.view.piece.width_mm * 1000.0
        room = width - 2 * sum(segment_um(s, self.view.measure) for s in beside)
        for repeats in range(self.repeats_for(wide, room / width) + 1, 0, -1):
            yield self.row([self.panel(wide, repeats)], True, middle=True)

    def repeats_for(self, pattern: StitchPattern, part: float) -> int:
        """The repeats that come nearest to a part of the width; one of a panel that is not repeated."""
        if not self.all_over(pattern):
            return 1
        one, two = (segment_um(self.panel(pattern, n), self.view.measure) for n in (1, 2))
        return max(1, round((part * self.view.piece.width_mm * 1000.0 - one) / (two - one)) + 1)

    def solved(self, band: Band) -> Band | None:
        """With the backgrounds that come nearest to the width; None where that is out of reach."""
        laid = self.view.with_band(replace(band, rows=self.view.band.rows, share=self.view.band.share))
        if any(band_problems(laid)) or self.too_wide(laid):
            return None
        found = solve_layout(laid, "closest", any_width=True)
        return laid.band.with_segments(found.segments) if found else None

    def too_wide(self, laid: BandView) -> bool:
        """Whether the panels alone, with the least of background, are wider than the piece may be."""
        return body_um(laid) > (self.view.piece.width_mm + self.view.piece.tolerance_mm) * 1000.0 + plain_um(
            2, laid.measure.gauge
        )

    def nearest(self, bands: Iterator[Band]) -> Band | None:
        """The first that fits."""
        return next((found for band in bands if (found := self.solved(band)) is not None), None)
