"""What stations and steps must be like before any count is looked for."""

from __future__ import annotations

from ..errors import IllegalPiece
from ..shaping.outline import CROSSED, Shaping
from .piece import BandView


def check_stations(view: BandView, shaping: Shaping) -> None:
    """Raises IllegalPiece for stations that are too few or out of order, and for steps that cannot be."""
    _check_order(shaping)
    _check_steps(view, shaping)


def _check_steps(view: BandView, shaping: Shaping) -> None:
    if not shaping.steps:
        return
    if view.round or shaping.sections or shaping.bend is not None or shaping.writes_rows:
        raise IllegalPiece("Steps lie at the edges of flat pieces, without sections or short rows.")
    for step in shaping.steps:
        if not 0 <= step.station < len(shaping.stations) - 1 or not step.counts or min(step.counts) < 1:
            raise IllegalPiece("Steps are bound off above a place with a width, one stitch or more at a time.")
        if shaping.edges == "both" and step.edge != "both":
            raise IllegalPiece("Where both edges are shaped alike, steps are bound off at both of them.")
        if step.kind == "crossed" and not set(step.counts) <= set(CROSSED):
            raise IllegalPiece("A crossing takes away 2 stitches, or 3: type those.")
        if step.kind == "crossed" and len(shaping.stepped(step.station)) > 1:
            raise IllegalPiece("Where crossings take stitches away, none are bound off in the same rows.")


def _check_order(shaping: Shaping) -> None:
    if len(shaping.stations) < 2:
        raise IllegalPiece("A shaped piece needs a width at its beginning and one at its end.")
    at = -1.0
    for s in shaping.stations:
        if not s.paced and s.row is None:
            if s.at_mm < at:
                raise IllegalPiece(f"“{s.name}” lies lower than the place before it; type a greater height.")
            at = s.at_mm
