"""The stack: the whole piece from cast-on to bind-off, its bands as wide and as high as they will lie."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..core.ends.cast_on import CastOnPlan
from ..core.piece.piece import BandView, Piece
from ..core.piece.widths import body_um, segment_um
from ..core.rows.heights import RowPlan

WIDTH, HEIGHT = 920.0, 460.0
_MARGIN, _LABELS = 16.0, 380.0
_APART = 18.0  # a line of words is as high


@dataclass(frozen=True, kw_only=True)
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


@dataclass(frozen=True, kw_only=True)
class StackLine:
    """Words beside the stack: where they point (`y`), and the height of their own line, which keeps clear of others.

    A `turn` is what happens at a line of the piece: cast on, a change of the count, bind off.
    """

    y: float
    text_y: float
    text: str = ""
    slab: int = -1

    @property
    def turn(self) -> bool:
        """Whether it is no slab that it speaks of."""
        return self.slab < 0


@dataclass(frozen=True, kw_only=True)
class Stack:
    """The whole picture in units of its view box, to one scale; the cast-on lies at the bottom."""

    slabs: tuple[Slab, ...]
    lines: tuple[StackLine, ...]
    width: float = WIDTH
    height: float = HEIGHT
    labels: float = WIDTH - _LABELS

    @property
    def right(self) -> float:
        """Where the widest slab ends."""
        return max(s.box[0] + s.box[2] for s in self.slabs)


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
    room = WIDTH - _LABELS - 2 * _MARGIN
    scale = min(room / widest, (HEIGHT - 2 * _MARGIN) / tallest)
    y = (HEIGHT + tallest * scale) / 2
    slabs: list[Slab] = []
    lines = [StackLine(y=y, text_y=y, text=f"cast on {parts[0][2]}")]
    for at, (name, band, stitches, count, width, height) in enumerate(parts):
        wide, high = width * scale, height * scale
        y -= high
        slabs.append(
            Slab(
                name=name,
                band=band,
                stitches=stitches,
                rows=count,
                width_um=width,
                height_um=height,
                box=(_MARGIN + (room - wide) / 2, y, wide, high),
            )
        )
        lines.append(StackLine(y=y + high / 2, text_y=y + high / 2, slab=at))
        after = parts[at + 1][2] if at + 1 < len(parts) else None
        if after is None:
            lines.append(StackLine(y=y, text_y=y, text=f"bind off {stitches}"))
        elif after != stitches:
            by = after - stitches
            lines.append(StackLine(y=y, text_y=y, text=f"{abs(by)} {'more' if by > 0 else 'fewer'}: {after}"))
    return Stack(slabs=tuple(slabs), lines=_clear(lines))


def _clear(lines: list[StackLine]) -> tuple[StackLine, ...]:
    """The words moved apart, from the bottom up and back down, so that none lies on another."""
    ys = [min(line.y, HEIGHT - _MARGIN) for line in lines]
    for i in range(1, len(ys)):
        ys[i] = min(ys[i], ys[i - 1] - _APART)
    ys[-1] = max(ys[-1], _MARGIN)
    for i in range(len(ys) - 2, -1, -1):
        ys[i] = max(ys[i], ys[i + 1] + _APART)
    return tuple(replace(line, text_y=y) for line, y in zip(lines, ys, strict=True))
