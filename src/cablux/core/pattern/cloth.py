"""A compiled piece as relaxed cloth: where every loop of every row lies, and the shape that comes of it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from ..errors import IllegalPiece
from ..fabric.network import Floats, Ints, Network, build_piece
from ..fabric.profile import BandProfile, Profile, band_profile, profile_of
from ..fabric.relax import ProgressReport, Relaxed
from ..fabric.whole import relax_piece
from ..needle.columns import Column
from ..rows.shaped_band import shape_band
from .compiler import WorkedPattern
from .worked import PieceSection, WorkedPart, WorkedRow

BAND = 60
"""A loop's segment is told as its place in its band, plus so many for each band below: four bands fill a byte."""
_MAX_LOOPS = 200_000  # our choice: a bed cover in thick yarn; it takes some seconds and 300 MB

_BANDS: tuple[tuple[str, tuple[PieceSection, ...]], ...] = (
    ("bottom border", ("bottom border",)),
    ("body", ("bottom change row", "change row", "set-up rows", "body")),
    ("top border", ("top change row", "top border")),
)


@dataclass(frozen=True)
class Cloth:
    """A piece, or its rows so far, relaxed. `segment` of each loop, shape (loops,)."""

    pattern: WorkedPattern
    relaxed: Relaxed
    segment: Ints

    @cached_property
    def shape(self) -> Profile:
        """Its profile."""
        return profile_of(self.relaxed)

    @cached_property
    def bands(self) -> tuple[tuple[str, BandProfile], ...]:
        """The borders and the body, as far as they are knitted; a row between them goes with the count it makes."""
        ratio, out = self.pattern.piece.estimate.gauge.ratio, []
        for name, sections in _BANDS:
            rows = [row.number for row in self.pattern.rows[: self.relaxed.net.rows - 1] if row.section in sections]
            first = 0 if name == "bottom border" else rows[0] if rows else 0
            if rows and rows[-1] > first:
                out.append((name, band_profile(self.relaxed, self.shape, first, last=rows[-1], ratio=ratio)))
        return tuple(out)


def relax_pattern(pattern: WorkedPattern, rows: int | None = None, *, progress: ProgressReport | None = None) -> Cloth:
    """The piece relaxed up to row `rows` (all of them by default). Raises IllegalPiece where it is too large."""
    worked = pattern.rows[:rows]
    loops = sum(row.after for row in worked)
    if not worked:
        raise IllegalPiece("There is no cloth before the first row.")
    if loops > _MAX_LOOPS:
        raise IllegalPiece(f"The piece has {loops:,} loops; up to {_MAX_LOOPS:,} can be laid out.")
    net = build_piece(
        [[part.ops for part in row.parts] for row in worked],
        in_the_round=pattern.piece.round,
        meets=pattern.piece.meets and len(worked) == len(pattern.rows),
        tapers=any(b.shaping is not None for b in pattern.piece.bands),
        columns=_columns(pattern, worked) if any(p.columns for row in worked for p in row.parts) else (),
    )
    tall = _loop_heights(pattern, net)
    net = net if tall is None else replace(net, tall=tall)
    relaxed = relax_piece(net, pattern.piece.estimate.gauge.ratio, progress=progress)
    parts = [np.repeat([_place(p, row.band) for p in row.parts], [p.makes for p in row.parts]) for row in worked]
    cast_on = np.repeat([_place(p, 0) for p in worked[0].parts], [p.takes for p in worked[0].parts])
    return Cloth(pattern, relaxed, np.concatenate([cast_on, *parts]).astype(np.int64))


def _loop_heights(pattern: WorkedPattern, net: Network) -> Floats | None:
    """How high each loop is, over what the model says, where a band's shaping tells it; None where none does."""
    told = [(v, v.shaping.loop_heights(v)) for v in pattern.piece.band_views if v.shaping is not None]
    if all(tall is None for _, tall in told):
        return None
    out = np.ones(net.loops)
    rows = np.array([0, *(row.band for row in pattern.rows)])
    for view, tall in told:
        if tall is not None:
            here = np.flatnonzero(rows[net.row] == view.at)
            whole = net.counts[net.row[here]] == view.stitches
            out[here[whole]] = np.array(tall)[net.place[here[whole]]]
    return out


_LANE, _ZERO = 1 << 20, 1 << 16  # a column as one number: its lane, and its place in it, which may be less than 0


def _columns(pattern: WorkedPattern, rows: tuple[WorkedRow, ...]) -> list[Ints | None]:
    """The columns of the loops of the cast-on and of each row, as numbers that rise along the row; None without any."""
    view = pattern.piece.band_views[0]
    first = shape_band(view).active.first if view.shaping is not None and not pattern.piece.bottom.rows else ()
    out: list[Ints | None] = [_numbered(first) if first else None]
    for row in rows:
        columns = tuple((p.segment, c) for p in row.parts for c in p.columns)
        out.append(_numbered(columns) if columns else None)
    return out


def _numbered(columns: tuple[Column, ...]) -> Ints:
    return np.array([lane * _LANE + c + _ZERO for lane, c in columns], np.int64)


def _place(part: WorkedPart, band: int) -> int:
    """A number for a segment of a band, the same for all its loops."""
    return band * BAND + part.segment
