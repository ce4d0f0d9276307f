"""The stack: the whole piece from cast-on to bind-off, its bands as wide and as high as they will lie."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..core.layout.caston import CastOnPlan
from ..core.layout.heights import RowPlan
from ..core.layout.piece import BandView, Piece
from ..core.layout.widths import body_um, segment_um

WIDTH, HEIGHT = 920.0, 380.0
_MARGIN, _LABELS = 16.0, 210.0
_LEAST = 26.0  # a border is drawn at least as high as its words


@dataclass(frozen=True)
class Slab:
    """One band of the stack: its box (x, y, width, height), its name, stitches and rows; `band` is −1 for borders.

    `parts`: its segments as (x, width, family).
    """

    name: str
    band: int
    stitches: int
    rows: int
    width_um: float
    height_um: float
    box: tuple[float, float, float, float]
    parts: tuple[tuple[float, float, str], ...] = ()


@dataclass(frozen=True)
class StackLine:
    """What happens at a line of the stack: cast on, a change of the count, bind off."""

    y: float
    text: str


@dataclass(frozen=True)
class Stack:
    """The whole picture in units of its view box; the cast-on lies at the bottom."""

    slabs: tuple[Slab, ...]
    turns: tuple[StackLine, ...]
    width: float = WIDTH
    height: float = HEIGHT
    labels: float = WIDTH - _LABELS


def draw_stack(piece: Piece, cast_on: CastOnPlan, rows: RowPlan) -> Stack:
    """The stack of a piece."""
    bottom, top = cast_on.bottom, cast_on.top
    parts: list[tuple[str, int, int, int, float, float]] = []
    if rows.bottom:
        parts.append(
            ("Bottom border", -1, bottom.count, rows.bottom, bottom.border_um, rows.bottom * rows.bottom_row_um)
        )
    for i, (view, band) in enumerate(zip(piece.band_views, rows.bands, strict=True)):
        name = "Body" if len(piece.bands) == 1 else f"Band {i + 1}"
        parts.append((name, i, view.stitches, band.rows, body_um(view, piece.outlook), band.height_um))
    if rows.top:
        parts.append(("Top border", -1, top.count, rows.top, top.border_um, rows.top * rows.top_row_um))
    drawn = _drawn(parts)
    slabs = tuple(replace(s, parts=_parts(piece.band_views[s.band], s)) if s.band >= 0 else s for s in drawn.slabs)
    return replace(drawn, slabs=slabs)


def _parts(view: BandView, slab: Slab) -> tuple[tuple[float, float, str], ...]:
    left, _, wide, _ = slab.box
    scale, right = wide / slab.width_um, left + wide
    out = []
    for s in view.segments:
        across = segment_um(s, view.outlook) * scale
        right -= across
        out.append((right, across, s.pattern.family))
    return tuple(out)


def _drawn(parts: list[tuple[str, int, int, int, float, float]]) -> Stack:
    widest, tallest = max(p[4] for p in parts), sum(p[5] for p in parts)
    room = HEIGHT - 2 * _MARGIN
    spare = room - _LEAST * len(parts)
    across = (WIDTH - _LABELS - 2 * _MARGIN) / widest
    y = HEIGHT - _MARGIN
    slabs: list[Slab] = []
    turns = [StackLine(y, f"cast on {parts[0][2]}")]
    for at, (name, band, stitches, count, width, height) in enumerate(parts):
        high = _LEAST + spare * height / tallest
        wide = width * across
        y -= high
        left = _MARGIN + (WIDTH - _LABELS - 2 * _MARGIN - wide) / 2
        slabs.append(Slab(name, band, stitches, count, width, height, (left, y, wide, high)))
        after = parts[at + 1][2] if at + 1 < len(parts) else None
        if after is None:
            turns.append(StackLine(y, f"bind off {stitches}"))
        elif after != stitches:
            by = after - stitches
            turns.append(StackLine(y, f"{abs(by)} {'more' if by > 0 else 'fewer'}: {after}"))
    return Stack(tuple(slabs), tuple(turns))
