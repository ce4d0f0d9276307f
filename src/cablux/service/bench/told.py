"""What the bench and `cablux bench` tell: the piece, the band at hand segment by segment, and what is chosen on it."""

from __future__ import annotations

from collections.abc import Sequence

from ...core.garment.cautions import Caution, layout_cautions
from ...core.library import LIBRARY
from ...core.piece.piece import BandView, Piece
from ...core.piece.segment import Segment
from ...core.piece.symmetry import describe_asymmetry
from ...core.piece.widths import segment_um
from ...core.shaping.wander import wander_angle
from ...core.units import length_text
from ..answers import (
    BandRowsOnBench,
    ChosenSegment,
    LayoutWarning,
    NamedPattern,
    PieceOnBench,
    SegmentOnBench,
)
from ..errors import NotFound
from ..exchange import ProjectFile, read_at_piece
from ..projects import piece_counts, piece_numbers, piece_of
from .told_shaping import band_shaping


def bench_answer(file: ProjectFile, piece: Piece, at: int, *, selected: Sequence[int]) -> PieceOnBench:
    """The piece of a file with one of its bands at hand; at least one of its segments is chosen."""
    numbers, view = piece_numbers(piece), piece.band_views[at]
    width, band = numbers.bands[at], view.band
    cautions = layout_cautions(view, numbers.rows.bands[at], file.cord * 10.0, unit=file.unit)
    warned = {place for c in cautions if c.kind != "heights" for place in c.at}
    partners = partner_places(view, selected)
    return PieceOnBench(
        name=piece.name,
        unit=file.unit,
        counts=piece_counts(piece),
        bands=tuple(
            BandRowsOnBench(shaped=b.shaping is not None, rows=r.body, set_rows=b.rows, share=b.share)
            for b, r in zip(piece.bands, numbers.rows.bands, strict=True)
        ),
        at=at,
        main=piece.main_view.at,
        on_the_way=_on_the_way(view, width.width_um),
        bare=all(not s.is_panel for s in view.segments),
        symmetric=band.symmetric,
        unlike="" if band.symmetric else describe_asymmetry(view.segments),
        segments=tuple(_segment(view, i, partner=i in partners, warned=i in warned) for i in range(len(view.segments))),
        chosen=_chosen(view, selected[0]),
        shaping=band_shaping(view),
        cautions=tuple(map(_warning, cautions)),
        stitches=view.stitches,
        width_mm=width.width_um / 1000.0,
        width_80_percent_mm=width.eighty_um / 1000.0,
        plain_mm=view.stitches * view.measure.gauge.stitch_mm,
        chance=width.chance,
        wanted_mm=piece.width_mm,
        tolerance_mm=piece.tolerance_mm,
        rows=numbers.rows.total,
        height_mm=numbers.rows.height_um / 1000.0,
        wanted_height_mm=piece.height_mm,
        finished=numbers.size.text(file.unit) if numbers.size.across else "",
        finish=piece.evidence.finish,
        method=piece.evidence.method,
        readings=len(piece.evidence.readings),
        measured=bool(piece.progress),
        meets=bool(piece.meets),
        short_rows=bool(piece.short_rows),
        row_step=piece.row_step(),
        least_background=piece.least_background,
        gaps=piece.gaps,
        multiple=piece.total[0],
        plus=piece.total[1],
        rows_to_stitches=piece.estimate.ratio,
    )


def partner_places(view: BandView, selected: Sequence[int]) -> frozenset[int]:
    """The mirrored partners of the chosen segments, which change with them."""
    found = {view.band.partner(at) for at in selected}
    return frozenset(at for at in found if at is not None) - set(selected)


def _on_the_way(view: BandView, width_um: float) -> bool:
    """Whether it is shaped in sections and wider than the band whose width is the piece's, as a yoke is."""
    shaping, piece = view.band.shaping, view.piece
    if shaping is None or not shaping.in_sections or piece.main_view.at == view.at:
        return False
    return width_um > 1000.0 * (piece.width_mm + piece.tolerance_mm)


def _segment(view: BandView, at: int, *, partner: bool, warned: bool) -> SegmentOnBench:
    s = view.segments[at]
    return SegmentOnBench(
        name=s.name,
        pattern=s.pattern_id,
        pattern_name=s.pattern.name,
        family=s.pattern.family,
        role=s.role,
        stitches=s.stitches,
        repeats=s.repeats,
        multiple=s.chart.multiple,
        locked=s.locked,
        placed=s.placed,
        mirrored=s.mirrored,
        width_mm=segment_um(s, view.outlook) / 1000.0,
        partner=partner,
        warned=warned,
    )


def _chosen(view: BandView, at: int) -> ChosenSegment:
    s = view.segments[at]
    return ChosenSegment(
        place=at,
        multiple_text=s.chart.size_text,
        repeat_rows=s.chart.height,
        purl_margin=s.purl_margin,
        first_row=s.phase + 1,
        chart_rows=s.pattern.chart.height,
        wander=s.wander,
        wander_every=s.wander_every,
        wander_degrees=wander_angle(view, at) if s.wander else 0.0,
        least=s.least or 0,
        most=s.most or 0,
        by=s.by,
        others=_others(s),
    )


def _others(segment: Segment) -> tuple[NamedPattern, ...]:
    """What else could stand in place of an edge or a background."""
    use = "background" if segment.is_seam else segment.role
    if use == "panel":
        return ()
    return tuple(NamedPattern(id=p.id, name=p.name) for p in LIBRARY.values() if use in p.uses)


def _warning(caution: Caution) -> LayoutWarning:
    return LayoutWarning(
        kind=caution.kind,
        text=caution.text,
        mend=caution.mend,
        over_mm=caution.um / 1000.0,
        short_rows=caution.short_rows,
    )


def bench_report(text: str, piece: str, band: int) -> PieceOnBench:
    """A band, from 1, of a piece of a project file. Raises NotFound where there is none such."""
    file = read_at_piece(text, piece)
    found = piece_of(file)
    if not 1 <= band <= len(found.bands):
        there = f"bands 1 to {len(found.bands)}" if len(found.bands) > 1 else "one band, 1"
        raise NotFound(f"{found.name} has {there}; there is no band {band}.")
    return bench_answer(file, found, band - 1, selected=(0,))


def bench_sentences(told: PieceOnBench) -> list[str]:
    """The answer for reading."""

    def length(mm: float) -> str:
        return length_text(mm, told.unit)

    which = f"{told.name}, band {told.at + 1} of {len(told.bands)}" if len(told.bands) > 1 else told.name
    out = [
        f"{which}: {told.stitches} stitches, {length(told.width_mm)} wide, give or take "
        f"{length(told.width_80_percent_mm)} (wanted {length(told.wanted_mm)} ± {length(told.tolerance_mm)}, "
        f"{100 * told.chance:.0f} in 100)."
    ]
    out += [f"  {s.name}: {s.stitches} stitches, {length(s.width_mm)}" for s in told.segments]
    if told.shaping:
        out += [f"  {s.name} (at {length(s.at_mm)}): {s.count}, {length(s.width_mm)}" for s in told.shaping.stations]
        out += [f"  {s.sentence}" for s in told.shaping.stretches]
    for c in told.cautions:
        over = f", by {length(c.over_mm)} over the whole body." if c.over_mm else ""
        out.append(f"Check: {c.text}{over} {c.mend}")
    return out
