"""Whole layouts: ready arrangements, filling a width with panels, other edges, and fitting a layout to another size."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

from ...core.counts.arrange import IN_ORDER, Arrangement, in_their_order, ready_arrangements
from ...core.counts.solver import solve_layout
from ...core.errors import IllegalPiece, Infeasible
from ...core.library import LIBRARY, StitchPattern, find_pattern
from ...core.piece.piece import BandView, Piece
from ...core.piece.problems import SIZE_MM
from ...core.piece.segment import Segment, proposed_purl_margin
from ...core.units import Unit, from_mm, to_mm
from ..errors import NotFound
from ..forms import FormReader
from .piece_edits import set_target
from .segment_edits import BACKGROUND, PieceEdit, band_view, in_band, set_sides

START = ("honeycomb", "rope-3-3-right", "braid-9")
"""Our choice of panels to arrange where a band has none yet: an all-over one, a rope and a braid."""


@dataclass(frozen=True)
class Plan:
    """What a band is to be laid out with: its panels in their order, its background, and its gaps if they are given."""

    panels: tuple[StitchPattern, ...]
    background: StitchPattern
    gap: int = 0


def plan_of(view: BandView) -> Plan:
    """The panels and the background that a band has."""
    return Plan(panels_of(view), background_pattern(view))


def panels_of(view: BandView) -> tuple[StitchPattern, ...]:
    """The kinds of panels of a band, from the right edge inward; a start where it has none."""
    found = dict.fromkeys(s.pattern for s in view.band.own if s.is_panel)
    return tuple(found) or tuple(map(find_pattern, START))


def background_pattern(view: BandView) -> StitchPattern:
    """The background of a band: its first background's."""
    return next((s.pattern for s in view.segments if s.is_background), find_pattern(BACKGROUND))


def all_backgrounds() -> tuple[StitchPattern, ...]:
    """Everything that can lie between panels."""
    return tuple(p for p in LIBRARY.values() if "background" in p.uses)


def arrangements_for(view: BandView, wanted: Plan | None = None) -> tuple[Arrangement, ...]:
    """The arrangements that a band can have at the width at hand."""
    wanted = wanted or plan_of(view)
    own = {s.pattern_id: s for s in view.segments if s.is_panel}
    placed = [
        replace(own[p.id], locked=False, placed=False)
        if p.id in own
        else Segment(role="panel", pattern=p, repeats=1, purl_margin=proposed_purl_margin(p))
        for p in wanted.panels
    ]
    first = in_their_order(view, placed, wanted.background, gap=wanted.gap)
    return (*((first,) if first else ()), *ready_arrangements(view, wanted.panels, wanted.background))


def take_arrangement(band: int, name: str, wanted: Plan | None = None) -> PieceEdit:
    """Takes an arrangement; what is held in its place has to be let go first."""

    def change(piece: Piece) -> Piece:
        view = band_view(piece, band)
        if any(s.placed for s in view.segments):
            raise IllegalPiece("Some segments keep their place; press “Keep place” again to free them, then rearrange.")
        found = next((a for a in arrangements_for(view, wanted) if a.name == name), None)
        if found is None and name == IN_ORDER:
            raise Infeasible(
                "These panels do not fit the width; choose fewer, or make the piece wider.", clash=("panels", "width")
            )
        if found is None:
            raise NotFound("That arrangement does not fit this width.")
        return in_band(band, lambda _, now: replace(found.band, rows=now.rows, share=now.share, shaping=now.shaping))(
            piece
        )

    return change


def refitted(piece: Piece) -> Piece:
    """The same panels in every band, with the backgrounds that come nearest to the width wanted."""
    bands = []
    for view in piece.band_views:
        found = solve_layout(view, "closest", any_width=True)
        bands.append(view.band.with_segments(found.segments) if found else view.band)
    return replace(piece, bands=tuple(bands))


def set_edges(pattern: StitchPattern, role: Literal["edge", "seam"], stitches: int) -> PieceEdit:
    """Other edges, or the stitches of a seam, which are plain."""
    return set_sides(find_pattern("stockinette") if role == "seam" else pattern, role, stitches)


def size_limits(unit: Unit) -> tuple[float, float]:
    """The smallest and the largest size there can be, in the person's unit, in whole numbers."""
    return float(math.ceil(from_mm(SIZE_MM[0], unit))), float(math.floor(from_mm(SIZE_MM[1], unit)))


def typed_target(width: str, tolerance: str, height: str, *, unit: Unit) -> PieceEdit:
    """A size as it was typed; what is empty stays. Raises IllegalPiece."""
    typed, (least, most) = FormReader(), size_limits(unit)
    lengths = {
        "width_mm": typed.number(width, "Width", "width", least=least, most=most) if width.strip() else None,
        "tolerance_mm": typed.number(tolerance, "The tolerance", "tolerance") if tolerance.strip() else None,
        "height_mm": typed.number(height, "Height", "height", least=least, most=most) if height.strip() else None,
    }
    typed.done()
    return set_target(**{name: None if value is None else to_mm(value, unit) for name, value in lengths.items()})
