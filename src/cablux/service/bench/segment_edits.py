"""Changes to the segments of a piece where they stand: each takes a piece and gives the next one.

A segment is named by its band and its place from the right. In a symmetric band a change to one of a mirrored pair
changes both.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace
from typing import Literal

from ...core.errors import IllegalPiece
from ...core.library import StitchPattern
from ...core.piece.piece import Band, BandView, Piece
from ...core.piece.problems import MAX_STITCHES
from ...core.piece.segment import Segment, proposed_purl_margin
from ...core.piece.tied import with_tied_band
from ...core.piece.widths import segment_unit
from ..errors import NotFound

PieceEdit = Callable[[Piece], Piece]
Flag = Literal["mirrored", "locked", "placed"]
BACKGROUND = "reverse-stockinette"


def band_view(piece: Piece, band: int) -> BandView:
    """One band of a piece. Raises NotFound."""
    if not 0 <= band < len(piece.bands):
        raise NotFound("That band is no longer there.")
    return piece.band_views[band]


def in_band(at: int, edit: Callable[[BandView, Band], Band]) -> PieceEdit:
    """A change of one body band; the sides, which run through all bands, follow in the others."""

    def change(piece: Piece) -> Piece:
        band = edit(band_view(piece, at), piece.bands[at])
        changed = with_tied_band(piece, band, at)
        if piece.round or len(piece.bands) == 1:
            return changed
        first, last = band.segments[0], band.segments[-1]
        return replace(changed, bands=tuple(_with_sides(b, first, last) for b in changed.bands))

    return change


def _with_sides(band: Band, first: Segment, last: Segment) -> Band:
    if band.symmetric:
        return replace(band, own=(first, *band.own[1:]))
    return replace(band, own=(first, *band.own[1:-1], last))


def edit_segments(band: int, places: Iterable[int], edit: Callable[[Segment], Segment]) -> PieceEdit:
    """The same edit of several segments; of a mirrored pair once."""

    def change(view: BandView, now: Band) -> Band:
        homes = sorted({now.home(place_checked(view, at))[0] for at in places})
        own = list(now.own)
        for home in homes:
            own[home] = edit(own[home])
        return replace(now, own=tuple(own))

    return in_band(band, change)


def place_checked(view: BandView, at: int) -> int:
    """The place, if there is a segment. Raises NotFound."""
    if not 0 <= at < len(view.segments):
        raise NotFound("That segment is no longer there.")
    return at


def set_repeats(band: int, places: Iterable[int], repeats: int) -> PieceEdit:
    """So many repeats of the segments' multiples."""
    return edit_segments(band, places, lambda s: _repeated(s, repeats))


def step_repeats(band: int, places: Iterable[int], by: int) -> PieceEdit:
    """Some repeats more or fewer than there are; quick presses add up, since each starts from the last."""
    return edit_segments(band, places, lambda s: _repeated(s, s.repeats + by))


def _repeated(s: Segment, repeats: int) -> Segment:
    if not 1 <= repeats <= MAX_STITCHES:
        what = "stitches" if s.chart.width(repeats) == repeats else "repeats"
        raise IllegalPiece(f"{s.name} can have 1 to {MAX_STITCHES} {what}.")
    return replace(s, repeats=repeats)


def set_stitches(band: int, places: Iterable[int], stitches: int) -> PieceEdit:
    """So many stitches, which must suit the multiple. Raises IllegalPiece with the nearest that do."""

    def edit(s: Segment) -> Segment:
        if stitches > MAX_STITCHES:
            raise IllegalPiece(f"{s.name} can have 1 to {MAX_STITCHES} stitches.")
        repeats = s.chart.repeats_for(stitches)
        if repeats is None:
            low = max(1, (stitches - s.chart.balance) // s.chart.multiple)
            near = (s.chart.width(n) for n in (low, low + 1))
            suits = " or ".join(str(count) for count in near if count <= MAX_STITCHES)
            raise IllegalPiece(f"{s.name} is a multiple of {s.chart.size_text}; try {suits}.")
        return _repeated(s, repeats)

    return edit_segments(band, places, edit)


def set_width(band: int, places: Iterable[int], mm: float) -> PieceEdit:
    """The repeats that come nearest to a width in the fabric."""

    def change(piece: Piece) -> Piece:
        def edit(s: Segment) -> Segment:
            unit = segment_unit(s, piece.measure)
            return _repeated(s, max(1, round((mm * 1000.0 - unit.fixed_um) / max(1, unit.repeat_um))))

        return edit_segments(band, places, edit)(piece)

    return change


def toggle_flag(band: int, places: Iterable[int], flag: Flag) -> PieceEdit:
    """Turns a flag over; of several segments all get what the first of them had not."""
    listed = sorted(places)

    def change(piece: Piece) -> Piece:
        view = band_view(piece, band)
        first = view.segments[place_checked(view, listed[0])]
        if flag == "mirrored":
            return edit_segments(band, listed, lambda s: replace(s, mirrored=not s.mirrored))(piece)
        on = not getattr(first, flag)

        def edit(s: Segment) -> Segment:
            return replace(s, locked=on) if flag == "locked" else replace(s, placed=on)

        return edit_segments(band, listed, edit)(piece)

    return change


def place_panel(
    band: int, places: Iterable[int], *, phase: int | None = None, purl_margin: int | None = None
) -> PieceEdit:
    """The row of its repeat at which a panel begins (0: the first), and the purl stitches beside it."""

    def edit(s: Segment) -> Segment:
        if not s.is_panel:
            raise IllegalPiece(f"{s.name} is not a panel; only panels have a start row and a purl margin.")
        s = s if phase is None else replace(s, phase=phase % s.pattern.chart.height)
        return s if purl_margin is None else replace(s, purl_margin=purl_margin)

    return edit_segments(band, places, edit)


def wander_panel(band: int, places: Iterable[int], stitches: int, *, every: int) -> PieceEdit:
    """How far a panel wanders to the left (less than 0: to the right) and back, and every how many rows it moves."""

    def edit(s: Segment) -> Segment:
        if not s.is_panel:
            raise IllegalPiece(f"{s.name} is not a panel; only panels wander.")
        return replace(s, wander=stitches, wander_every=every)

    def change(piece: Piece) -> Piece:
        if stitches and band_view(piece, band).shaping is not None:
            raise IllegalPiece("Panels wander in a straight band only; this one is shaped.")
        return edit_segments(band, places, edit)(piece)

    return change


def set_bounds(band: int, places: Iterable[int], least: int, *, most: int, by: int) -> PieceEdit:
    """Bounds of backgrounds for the solver; 0 and 1 where there are none."""

    def edit(s: Segment) -> Segment:
        if not s.is_background:
            raise IllegalPiece(f"{s.name} is not a background; only backgrounds have limits.")
        return replace(s, least=least, most=most, by=by)

    return edit_segments(band, places, edit)


def background_segment(pattern: StitchPattern, stitches: int) -> Segment:
    """A background of about so many stitches."""
    chart = pattern.chart
    return Segment(
        role="background", pattern=pattern, repeats=max(1, round((stitches - chart.balance) / chart.multiple))
    )


def set_pattern(band: int, places: Iterable[int], pattern: StitchPattern) -> PieceEdit:
    """Another pattern in the same places, about as wide; what it is used for stays."""

    def edit(s: Segment) -> Segment:
        if s.role not in pattern.uses and not (s.is_seam and "background" in pattern.uses):
            raise IllegalPiece(f"{pattern.name} cannot be used as {'an edge' if s.role == 'edge' else f'a {s.role}'}.")
        new = background_segment(pattern, s.stitches)
        purl_margin = proposed_purl_margin(pattern) if s.is_panel else 0
        return replace(s, pattern=pattern, repeats=new.repeats, phase=0, purl_margin=purl_margin, mirrored=False)

    return edit_segments(band, places, edit)


def set_sides(pattern: StitchPattern, role: Literal["edge", "seam"], stitches: int) -> PieceEdit:
    """Other edges, or stitches that a seam will take, on both sides of every band."""

    def change(piece: Piece) -> Piece:
        if piece.round:
            raise IllegalPiece("A piece worked in the round has no edges.")
        side = replace(background_segment(pattern, stitches), role=role)
        return replace(piece, bands=tuple(_with_sides(b, side, side.reflected()) for b in piece.bands))

    return change
