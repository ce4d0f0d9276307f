"""Changes that belong to the whole piece: its halves, bands, borders, and whether it is flat or round."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from ...core.errors import IllegalPiece
from ...core.library import find_pattern
from ...core.piece.border import Border
from ...core.piece.piece import Band, Gaps, Piece
from ...core.piece.segment import Segment
from ...core.piece.tied import with_tied_band
from ...core.practice import edge_stitches
from ..errors import NotFound
from .segment_edits import PieceEdit
from .shaping_edits import rescaled

End = Literal["bottom", "top"]


def tie_halves(band: int, *, alike: bool) -> PieceEdit:
    """Ties the halves of a band together, the left becoming the mirror image of the right; or lets them differ."""

    def change(piece: Piece) -> Piece:
        now = _band(piece, band)
        return with_tied_band(piece, now.folded() if alike else now.unfolded(), band)

    return change


def set_wishes(
    *, least: int | None = None, gaps: Gaps | None = None, multiple: int | None = None, plus: int = 0
) -> PieceEdit:
    """What the solver must keep to; what is not given stays."""

    def change(piece: Piece) -> Piece:
        piece = piece if least is None else replace(piece, least_background=least)
        piece = piece if gaps is None else replace(piece, gaps=gaps)
        return piece if multiple is None else replace(piece, total=(multiple, plus))

    return change


def set_target(
    *, width_mm: float | None = None, height_mm: float | None = None, tolerance_mm: float | None = None
) -> PieceEdit:
    """Another finished size."""

    def change(piece: Piece) -> Piece:
        wanted = {"width_mm": width_mm, "height_mm": height_mm, "tolerance_mm": tolerance_mm}
        sized = replace(piece, **{name: value for name, value in wanted.items() if value is not None})  # type: ignore[arg-type]
        return rescaled(sized, piece)

    return change


def set_border(
    end: End,
    *,
    pattern: str = "",
    rows: int | None = None,
    style: str = "",
    spread: str = "",
    factor: float | None = None,
    count: int | None = None,
) -> PieceEdit:
    """How a piece begins or ends; what is not given stays. Another pattern or style lets the count follow again."""

    def edit(now: Border) -> Border:
        if pattern:
            now = replace(now, pattern_id=find_pattern(pattern).id, count=0)
        if style:
            now = replace(now, style="straight" if style == "straight" else "stepped", count=0)
        if spread:
            now = replace(now, spread="even" if spread == "even" else "cables")
        now = now if rows is None else replace(now, rows=rows)
        now = now if factor is None else replace(now, factor=factor, count=0)
        return now if count is None else replace(now, count=count)

    def change(piece: Piece) -> Piece:
        return replace(piece, bottom=edit(piece.bottom)) if end == "bottom" else replace(piece, top=edit(piece.top))

    return change


def border_difference(before: Piece, after: Piece, end: End) -> str:
    """What a change does to an edge, as a name for the history."""
    old, new = (piece.bottom if end == "bottom" else piece.top for piece in (before, after))
    said = {
        "pattern_id": new.pattern.name.lower(),
        "rows": f"{new.rows} rows",
        "style": new.style,
        "spread": "increases where the cables draw in" if new.spread == "cables" else "increases evenly",
        "factor": f"{100 * new.factor:g} % wide",
        "count": f"{new.count} stitches" if new.count else "automatic count",
    }
    changed = (text for name, text in said.items() if getattr(old, name) != getattr(new, name))
    return f"{'cast-on' if end == 'bottom' else 'bind-off'} edge: {', '.join(changed) or 'as it is'}"


def set_making(*, dense: bool) -> PieceEdit:
    """Whether a row that changes the count may make a stitch in every gap, or only after every other stitch."""
    return lambda piece: replace(piece, dense=dense)


def set_short_rows(*, on: bool) -> PieceEdit:
    """Fills lower edges in with short rows as the body grows, or lets them be."""
    return lambda piece: replace(piece, short_rows=on)


def add_band(after: int) -> PieceEdit:
    """One more body band above band `after`, with the same segments, to be changed; rows are shared anew."""

    def change(piece: Piece) -> Piece:
        copy = replace(_band(piece, after), rows=0, share=1.0, shaping=None)
        return replace(piece, bands=(*piece.bands[: after + 1], copy, *piece.bands[after + 1 :]))

    return change


def remove_band(at: int) -> PieceEdit:
    """Takes a body band out."""

    def change(piece: Piece) -> Piece:
        _band(piece, at)
        if len(piece.bands) == 1:
            raise IllegalPiece("A piece needs at least one band.")
        return replace(piece, bands=(*piece.bands[:at], *piece.bands[at + 1 :]))

    return change


def set_band_rows(at: int, rows: int, share: float = 0.0) -> PieceEdit:
    """The rows of a band's charts, 0 where they follow from the height; and the share of it that the band takes."""

    def change(piece: Piece) -> Piece:
        band = replace(_band(piece, at), rows=rows)
        return piece.with_band(replace(band, share=share) if share else band, at)

    return change


def set_round(*, on: bool) -> PieceEdit:
    """Knits the piece as a tube, without sides; or flat again, with garter edges of about 2.5 cm."""

    def change(piece: Piece) -> Piece:
        if piece.round == on:
            return piece
        side = find_pattern("garter")
        edge = Segment(role="edge", pattern=side, repeats=edge_stitches(piece.gauge.stitch_mm))
        bands = tuple(_round(b) if on else _flat(b, edge) for b in piece.bands)
        ends = {} if on else _ends(piece)
        setup = piece.setup_rows + (0 if on else piece.setup_rows % 2)
        return replace(piece, round=on, bands=bands, setup_rows=setup, **ends)  # type: ignore[arg-type]

    return change


def _ends(piece: Piece) -> dict[str, Border]:
    return {"bottom": replace(piece.bottom, count=0), "top": replace(piece.top, count=0)}


def _round(band: Band) -> Band:
    own = tuple(s for s in band.own if not s.is_side)
    return replace(band, own=own)


def _flat(band: Band, edge: Segment) -> Band:
    own = (edge, *(replace(s, phase=s.phase - s.phase % 2) for s in band.own))
    return replace(band, own=own if band.symmetric else (*own, edge))


def _band(piece: Piece, at: int) -> Band:
    if not 0 <= at < len(piece.bands):
        raise NotFound("That band is no longer there.")
    return piece.bands[at]
