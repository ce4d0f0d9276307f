"""Parts that follow: a change of one piece's count is made in the pieces that go on from its held stitches."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from itertools import accumulate

from ..ends.cast_on import plan_cast_on
from ..errors import IllegalPiece
from ..piece.parts import Source
from ..piece.piece import Band, Piece
from ..piece.segment import Segment
from ..piece.tied import with_tied_band
from .holders import end_problems, held_counts

MOST_STEPS = 24
"""Our choice: more than a garment has parts; a circle of parts would go on for ever."""


@dataclass(frozen=True, kw_only=True)
class _Change:
    """A held group before and after: its counts, and its segments where it is made of whole ones."""

    before: int
    after: int
    old: tuple[Segment, ...] = ()
    new: tuple[Segment, ...] = ()


def follow_parts(before: Mapping[int, Piece], after: Mapping[int, Piece], changed: int) -> dict[int, Piece]:
    """The pieces, by their numbers, after one of them was changed and all that go on from it have followed.

    Raises IllegalPiece where a piece cannot follow, or where the stitches then do not agree.
    """
    pieces, waiting = dict(after), [changed]
    for _ in range(MOST_STEPS):
        if not waiting:
            break
        number = waiting.pop(0)
        changes = _changes(before[number], pieces[number])
        pieces[number] = _with_groups(pieces[number], changes)
        for other, piece in pieces.items():
            followed = piece
            for source in piece.begins:
                change = changes.get(source.name) if (source.kind, source.piece) == ("held", number) else None
                if change is not None and change.after != source.stitches:
                    followed = _begun_with(followed, source, change)
            if followed is not piece:
                pieces[other] = followed
                waiting.append(other)
    problems = [text for piece in pieces.values() for text in end_problems(piece)]
    if problems:
        raise IllegalPiece(" ".join(problems))
    return pieces


def _changes(before: Piece, after: Piece) -> dict[str, _Change]:
    """Every held group of a piece, before and after."""
    told = held_counts(before)
    now = held_counts(after) | _groups(before, after)
    segments = _group_segments(before, after)
    out = {}
    for name, count in now.items():
        old, new = segments.get(name, ((), ()))
        out[name] = _Change(before=told.get(name, count), after=count, old=old, new=new)
    return out


def _ranges(piece: Piece) -> dict[str, range]:
    """The segments of each group that a piece leaves at its end, where groups are made of whole ones."""
    ends = [0, *accumulate(s.stitches for s in piece.band_views[-1].segments)]
    out, at = {}, 0
    for group in piece.ends.groups:
        if at not in ends or at + group.stitches not in ends:
            return {}
        out[group.name] = range(ends.index(at), ends.index(at + group.stitches))
        at += group.stitches
    return out


def _group_segments(before: Piece, after: Piece) -> dict[str, tuple[tuple[Segment, ...], tuple[Segment, ...]]]:
    old, new = before.band_views[-1].segments, after.band_views[-1].segments
    if len(old) != len(new):
        return {}
    return {
        name: (tuple(old[i] for i in places), tuple(new[i] for i in places)) for name, places in _ranges(before).items()
    }


def _groups(before: Piece, after: Piece) -> dict[str, int]:
    """What a piece leaves for each group now: by its segments, else what is more or fewer goes to the first."""
    if not after.ends.groups:
        return {}
    found = _group_segments(before, after)
    count = plan_cast_on(after).top.count
    if len(found) == len(after.ends.groups):
        by_segments = {name: sum(s.stitches for s in new) for name, (_, new) in found.items()}
        if sum(by_segments.values()) == count:
            return by_segments
    first, *others = after.ends.groups
    return {first.name: count - sum(g.stitches for g in others), **{g.name: g.stitches for g in others}}


def _with_groups(piece: Piece, changes: Mapping[str, _Change]) -> Piece:
    groups = tuple(replace(g, stitches=changes[g.name].after) if g.name in changes else g for g in piece.ends.groups)
    return replace(piece, ends=replace(piece.ends, groups=groups))


def _begun_with(piece: Piece, source: Source, change: _Change) -> Piece:
    """A piece that begins with more or fewer held stitches: the same segments in it, or a background, are changed."""
    begins = tuple(replace(s, stitches=change.after) if s == source else s for s in piece.begins)
    out = replace(piece, begins=begins)
    for at in range(len(piece.bands)):
        band = out.bands[at]
        if band == piece.bands[at]:  # else it has followed already, tied to one below
            out = with_tied_band(out, _wider(band, change, piece.name), at)
    return out


def _wider(band: Band, change: _Change, name: str) -> Band:
    own, more = list(band.segments), change.after - change.before
    many = len(change.old)
    for at in range(len(own) - many + 1 if many else 0):
        if tuple(own[at : at + many]) == change.old:
            own[at : at + many] = change.new
            return replace(band, own=tuple(own), symmetric=False, middle=True)
    backgrounds = [at for at, s in enumerate(own) if s.is_background and s.chart.repeats_for(s.stitches + more)]
    same = [at for at in backgrounds if own[at].stitches == change.before]
    if not backgrounds:
        raise IllegalPiece(
            f"{name} would begin with {change.after} held stitches, and no background in it takes {abs(more)} "
            f"{'more' if more > 0 else 'fewer'}: choose another count, or another background there."
        )
    at = same[0] if same else max(backgrounds, key=lambda i: own[i].stitches)
    own[at] = replace(own[at], repeats=own[at].chart.repeats_for(own[at].stitches + more) or own[at].repeats)
    return replace(band, own=tuple(own), symmetric=False, middle=True)
