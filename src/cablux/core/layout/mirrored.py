"""A piece as its own picture in a mirror: what a right-handed knitter would work for the cloth of a left-handed one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from ..shaping.outline import Holder, Section, ShapedEdges, Shaping, Step
from .piece import Band, Piece

_OTHER: dict[ShapedEdges, ShapedEdges] = {"right": "left", "left": "right", "both": "both", "in turn": "in turn"}


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
    shaping = _shaping(band.shaping, len(segments))
    return replace(turned, shaping=shaping) if shaping else None


def _shaping(shaping: Shaping, segments: int) -> Shaping | None:
    if not _even(shaping.short):
        return None
    many = len(shaping.sections)
    sections = tuple(
        Section(segments - 1 - s.last, segments - 1 - s.first, s.counts, _OTHER[s.edges], s.name)
        for s in reversed(shaping.sections)
    )
    holders = tuple(Holder(h.name, many - 1 - h.section, h.station, h.cast_on) for h in shaping.holders)
    bend = shaping.bend and replace(shaping.bend, inside="left" if shaping.bend.inside == "right" else "right")
    return replace(
        shaping,
        edges=_OTHER[shaping.edges],
        sections=sections,
        holders=holders,
        bend=bend,
        steps=tuple(map(_step, shaping.steps)),
    )


def _step(step: Step) -> Step:
    match step.edge:
        case "right":
            return replace(step, edge="left")
        case "left":
            return replace(step, edge="right")
    return step


def _even(short: Sequence[tuple[int, int]]) -> bool:
    """Whether short rows leave as much at one side as at the other, so that they are the same rows from either end."""
    lows, highs = {low for low, _ in short}, {high for _, high in short}
    right, left = sorted(lows - {0}), sorted(highs - {max(highs, default=0)})
    return [b - a for a, b in pairwise(right)] == [b - a for a, b in pairwise(left)] and len(right) == len(left)
