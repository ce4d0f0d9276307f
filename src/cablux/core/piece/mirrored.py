"""A piece as its own picture in a mirror: what a right-handed knitter would work for the cloth of a left-handed one."""

from __future__ import annotations

from dataclasses import replace

from .piece import Band, Piece


def mirrored_piece(piece: Piece) -> Piece | None:
    """The piece with right and left exchanged; None where short rows slope one side only.

    Such a slope is worked in other rows at the other side, so its mirror image has other rows than the piece.
    """
    bands = [_band(band) for band in piece.bands]
    if any(band is None for band in bands):
        return None
    ends = replace(piece.ends, groups=piece.ends.groups[::-1])
    return replace(piece, bands=tuple(b for b in bands if b), begins=piece.begins[::-1], ends=ends)


def _band(band: Band) -> Band | None:
    segments = tuple(s.reflected() for s in reversed(band.segments))
    turned = replace(band.unfolded(), own=segments, middle=True)
    if band.shaping is None:
        return turned
    shaping = band.shaping.mirrored(len(segments))
    return replace(turned, shaping=shaping) if shaping else None
