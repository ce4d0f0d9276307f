"""Squares that must match: different panels, one finished size, and the same edges to be joined by."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from ..ends.cast_on import plan_cast_on
from ..piece.piece import Band, BandView, Piece
from ..piece.widths import body_um
from ..rows.heights import plan_rows
from ..rows.row_search import row_choices
from .program import grows_sideways
from .solver import solve_layout

_ALIKE = 0.03
"""Common practice: squares may differ by 3 % (a centimetre on 30); the rest is eased in and blocked."""


@dataclass(frozen=True, kw_only=True)
class Square:
    """One square as it will be: counts, rows and finished size; `edge` names its sides and borders."""

    name: str
    cast_on: int
    body: int
    rows: int
    width_um: int
    height_um: float
    edge: str


@dataclass(frozen=True, kw_only=True)
class Match:
    """How well squares match: the largest difference of their widths and heights, as parts, and whether edges agree."""

    squares: tuple[Square, ...]
    width_off: float
    height_off: float
    same_edges: bool
    same_cast_on: bool

    @property
    def fits(self) -> bool:
        """Whether they can be joined without one of them puckering."""
        return max(self.width_off, self.height_off) <= _ALIKE and self.same_edges


def matched_square(piece: Piece, like: Piece) -> Piece:
    """The piece with the size, the edges and the borders of another, its own panels fitted to them.

    Backgrounds are found by the solver; rows by the way to end that cuts no panel and comes nearest to the height.
    """
    sized = replace(
        piece,
        width_mm=like.width_mm,
        height_mm=like.height_mm,
        tolerance_mm=like.tolerance_mm,
        bottom=replace(like.bottom, count=0),
        top=replace(like.top, count=0),
        bands=tuple(replace(_edged(band, like), rows=0) for band in piece.bands),
    )
    fitted = replace(sized, bands=tuple(_nearest(view) for view in sized.band_views))
    wanted = fitted.height_mm * 1000.0
    ways = [w for w in row_choices(fitted) if w.name != "other borders"]  # the borders are what is shared

    def merit(rows_um: float, cut: int) -> tuple[bool, int, float]:
        off = abs(rows_um - wanted)
        return off > _ALIKE / 2 * wanted, cut, off

    return min(ways, key=lambda w: merit(w.rows.height_um, w.cut)).piece


def _nearest(view: BandView) -> Band:
    """The backgrounds that come nearest to the width, with a repeat more or fewer of an all-over panel."""
    found = []
    for band in _variants(view.band):
        laid = view.with_band(band)
        best = solve_layout(laid, "closest", any_width=True)
        if best is not None:
            found.append((abs(best.width_um - view.piece.width_mm * 1000.0), laid.band.with_segments(best.segments)))
    return min(found, key=lambda pair: pair[0])[1] if found else view.band


def _variants(band: Band) -> Iterator[Band]:
    yield band
    for at, s in enumerate(band.own):
        if s.is_panel and grows_sideways(s) and not s.locked:
            for by in (-1, 1):
                if s.repeats + by >= 1:
                    yield replace(band, own=(*band.own[:at], replace(s, repeats=s.repeats + by), *band.own[at + 1 :]))


def _edged(band: Band, like: Piece) -> Band:
    sides = like.band_views[0].sides
    if not sides or not band.own[0].is_side:
        return band
    own = (sides[0], *band.own[1:])
    return replace(band, own=own if band.symmetric else (*own[:-1], sides[1]))


def compare_squares(pieces: Sequence[Piece]) -> Match:
    """How squares compare, each by all that is known of it."""
    squares = tuple(_square(p) for p in pieces)
    widths, heights = [s.width_um for s in squares], [s.height_um for s in squares]
    return Match(
        squares=squares,
        width_off=(max(widths) - min(widths)) / min(widths),
        height_off=(max(heights) - min(heights)) / min(heights),
        same_edges=len({s.edge for s in squares}) == 1,
        same_cast_on=len({s.cast_on for s in squares}) == 1,
    )


def _square(piece: Piece) -> Square:
    rows, ends, body = plan_rows(piece), plan_cast_on(piece), piece.band_views[0]
    sides = " and ".join(f"{s.stitches} of {s.pattern.name.lower()}" for s in body.sides[:1]) or "no edges"
    border = f"{piece.bottom.rows} rows of {piece.bottom.pattern.name.lower()}"
    return Square(
        name=piece.name,
        cast_on=ends.cast_on,
        body=body.stitches,
        rows=rows.total,
        width_um=body_um(body, piece.outlook),
        height_um=rows.height_um,
        edge=f"{sides}, {border}",
    )
