"""The bench's offers: the solver's layouts for a band, why there are none, and taking one."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...core.counts.clash import WishClash, explain_clash
from ...core.counts.count_model import Goal
from ...core.counts.integer import Doubt
from ...core.counts.solver import GOOD_FOR, FittingLayout, LayoutName, solve_layout, solve_layouts
from ...core.errors import Infeasible
from ...core.piece.piece import BandView, Piece
from ...core.piece.widths import body_sd_um, body_um, chance_within
from ...core.rows.row_search import row_choices
from ...core.units import Unit, length_text
from ..errors import NotFound
from .segment_edits import PieceEdit, band_view, in_band


@dataclass(frozen=True, kw_only=True)
class Offer:
    """A layout of the solver as the bench shows it: what it is good for, and the width it would really come to."""

    layout: FittingLayout
    good_for: str
    width_um: int
    chance: float
    taken: bool
    costs: str
    doubt: str


@dataclass(frozen=True)
class Offers:
    """The layouts, or what clashes."""

    offers: tuple[Offer, ...]
    clash: WishClash | None = None

    @property
    def refusal(self) -> str:
        """Why there are none."""
        return self.clash.sentence if self.clash else ""


def bench_offers(view: BandView, unit: Unit = "cm") -> Offers:
    """The best different layouts for a band as it stands, each with its chance to land."""
    try:
        found = solve_layouts(view)
    except Infeasible:
        return Offers((), explain_clash(view, unit))
    low = (view.piece.width_mm - view.piece.tolerance_mm) * 1000.0
    high = (view.piece.width_mm + view.piece.tolerance_mm) * 1000.0
    return Offers(
        tuple(
            Offer(
                layout=a,
                good_for=GOOD_FOR[a.name],
                width_um=width,
                chance=chance_within(width, body_sd_um(laid), low, high_um=high),
                taken=a.segments == view.segments,
                costs=_costs(view, a),
                doubt=_doubt(a.doubt, unit) if a.doubt else "",
            )
            for a in found
            for laid in [view.with_segments(a.segments)]
            for width in [body_um(laid, view.outlook)]
        )
    )


def _costs(view: BandView, found: FittingLayout) -> str:
    """What a layout changes, in a few words."""
    said = []
    moved = [(a, b) for a, b in zip(view.segments, found.segments, strict=True) if a.repeats != b.repeats]
    if not moved:
        return "nothing changes"
    gaps = found.gaps
    if gaps:
        said.append(f"gaps of {min(gaps)}" + (f" to {max(gaps)}" if max(gaps) > min(gaps) else ""))
    panels = dict.fromkeys(f"{b.pattern.name} × {b.repeats}" for _, b in moved if b.is_panel)
    said += list(panels)
    by = found.stitches - view.stitches
    if by:
        said.append(f"{abs(by)} stitches {'more' if by > 0 else 'fewer'}")
    return ", ".join(said)


_UNSURE: dict[Goal, str] = {
    "error": "its width may be off by {} more than necessary",
    "uneven": "its gaps may be {} less even than possible",
    "outer": "its outer gaps may be {} wider than necessary",
    "change": "it may change {} more than necessary",
    "panels": "its panels may be {} narrower than possible",
}


def _doubt(doubt: Doubt, unit: Unit) -> str:
    """By what a layout is not proven to be the best, and how far off it may be."""
    if not math.isfinite(doubt.gap):
        return "how far it is from the best is not known"
    if doubt.goal == "error":
        return _UNSURE["error"].format(length_text(doubt.gap / 1000.0, unit, 2))
    return _UNSURE[doubt.goal].format(f"{doubt.gap:.0f} stitch{'' if doubt.gap == 1 else 'es'}")


def take_layout(band: int, name: LayoutName) -> PieceEdit:
    """Takes one of the solver's layouts. Raises Infeasible where it has none."""

    def change(piece: Piece) -> Piece:
        view = band_view(piece, band)
        found = solve_layout(view, name)
        if found is None:
            if clashing := explain_clash(view):
                raise Infeasible(clashing.sentence, clash=clashing.wishes)
            raise Infeasible("That suggestion no longer fits this layout.")
        return in_band(band, lambda _, now: now.with_segments(found.segments))(piece)

    return change


def take_cure(band: int, number: int) -> PieceEdit:
    """Makes one of the changes that would free a clash."""

    def change(piece: Piece) -> Piece:
        found = explain_clash(band_view(piece, band))
        if found is None or not 0 <= number < len(found.cures):
            raise NotFound("These wishes no longer clash.")
        return found.cures[number].piece

    return change


def take_row_choice(name: str) -> PieceEdit:
    """Takes one of the ways to end the piece."""

    def change(piece: Piece) -> Piece:
        for found in row_choices(piece):
            if found.name == name:
                return found.piece
        raise NotFound("That way to end the piece is no longer offered.")

    return change
