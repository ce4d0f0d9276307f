"""Bands whose charts run on from one to the next: a change of one band's segments is made in all of them."""

from __future__ import annotations

from dataclasses import replace
from difflib import SequenceMatcher

from .piece import Band, Piece
from .segment import Segment


def tied_bands(piece: Piece, at: int) -> range:
    """The bands that run on into each other, that one among them."""
    first = last = at
    while first and piece.bands[first].runs_on:
        first -= 1
    while last + 1 < len(piece.bands) and piece.bands[last + 1].runs_on:
        last += 1
    return range(first, last + 1)


def with_tied_band(piece: Piece, band: Band, at: int) -> Piece:
    """The piece with another band in a place, and the bands tied to it changed alike.

    A segment that another band has otherwise stays so there. Raises IllegalPiece where a section would be lost.
    """
    before = piece.bands[at]
    bands = list(piece.bands)
    for other in tied_bands(piece, at):
        own = band if other == at else _followed(before, band, bands[other])
        bands[other] = _with_sections(before, band, own)
    return replace(piece, bands=tuple(bands))


def _spared(before: tuple[Segment, ...], after: tuple[Segment, ...]) -> tuple[int, int]:
    """How many segments at the right, and how many at the left, are the same; all of them where the number is."""
    if len(before) == len(after):
        return len(before), 0
    shorter = min(len(before), len(after))
    right = next((i for i in range(shorter) if before[i] != after[i]), shorter)
    left = next((i for i in range(shorter - right) if before[-1 - i] != after[-1 - i]), shorter - right)
    return right, left


def _followed(before: Band, after: Band, other: Band) -> Band:
    old, new, own = before.segments, after.segments, other.segments
    if len(own) != len(old):
        runs = _runs_followed(old, new, own)
        return replace(other, own=runs, symmetric=False, middle=True) if runs != own else other
    right, left = _spared(old, new)

    def kept(i: int, j: int) -> Segment:
        return new[j] if own[i] == old[i] else own[i]

    made = [kept(i, i) for i in range(right)] + list(new[right : len(new) - left])
    made += [kept(len(old) - left + i, len(new) - left + i) for i in range(left)]
    return replace(other, own=tuple(made), symmetric=False, middle=True) if tuple(made) != own else other


def _runs_followed(old: tuple[Segment, ...], new: tuple[Segment, ...], own: tuple[Segment, ...]) -> tuple[Segment, ...]:
    """A band of another number of segments, such as a body below a yoke: the runs that both have change alike."""
    right, left = _spared(old, new)
    more, beyond = len(new) - len(old), len(old) - left
    out = list(own)
    for run in reversed(SequenceMatcher(None, old, own, autojunk=False).get_matching_blocks()):
        start, end = run.a, run.a + run.size
        whole = not more or end <= right or start >= beyond or (start <= right and end >= beyond)
        if run.size and whole:
            shift = more if start >= beyond else 0
            grown = more if not shift and start <= right and end >= beyond else 0
            out[run.b : run.b + run.size] = new[start + shift : end + shift + grown]
    return tuple(out)


def _with_sections(before: Band, after: Band, own: Band) -> Band:
    """A band with its sections moved to where their segments are now."""
    shaping = own.shaping
    many, now = len(before.segments), len(after.segments)
    if shaping is None or many == now or len(own.segments) != now:
        return own
    right, left = _spared(before.segments, after.segments)
    return replace(own, shaping=shaping.moved(right, many - left, now - many))
