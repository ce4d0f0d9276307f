"""The counts of a piece: what the bench, the cast-on page and the command line begin with."""

from __future__ import annotations

from functools import lru_cache

from ...core.piece.piece import Piece
from ..answers import PieceCounts
from .numbers import piece_numbers


@lru_cache(maxsize=128)
def piece_counts(piece: Piece) -> PieceCounts:
    """The counts of a piece."""
    numbers = piece_numbers(piece)
    edges = numbers.cast_on
    return PieceCounts(
        cast_on=edges.cast_on,
        body=edges.body,
        bands=tuple(band.stitches for band in numbers.bands),
        widest=piece.band_views[0].stitches,
        bind_off=edges.top.count,
        difference=edges.difference,
        change_rows=edges.bottom.rows,
        begun=bool(piece.begins),
        shaped=tuple(band.shaping is not None for band in piece.bands),
        panels=any(s.is_panel for s in piece.everything),
        round=piece.round,
        steady=numbers.steady,
    )
