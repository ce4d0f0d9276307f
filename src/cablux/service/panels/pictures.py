"""Relief pictures of patterns and swatches, from either side and in a mirror."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

from ...core.fabric.network import build_piece
from ...core.fabric.whole import relax_piece
from ...core.gauge import Part
from ...core.notation import Face, Op, Stitch
from ...core.piece.segment import Segment
from ...core.practice import ROWS_TO_STITCHES
from ...render.relief import piece_svg, segment_relief
from ...render.yarn import Yarn

ReliefView = Literal["front", "mirrored", "behind"]


MOST_LOOPS = 2_000  # our choice: what a picture of paths can hold without being slow; the rest of a swatch is alike


@lru_cache(maxsize=64)
def swatch_picture(parts: tuple[Part, ...], rows: int, yarn: Yarn = Yarn()) -> str:  # noqa: B008
    """A swatch as a whole, its parts side by side with free edges, as many of its rows as a picture holds."""
    count = sum(int(p.count) for p in parts)
    tall = max(4, min(rows, MOST_LOOPS // count))
    worked = [[_row(p, number) for p in parts] for number in range(1, tall + 1)]
    return piece_svg(relax_piece(build_piece(worked), ROWS_TO_STITCHES), yarn=yarn)


def _row(part: Part, number: int) -> tuple[Op, ...]:
    """A row of a part; beside whole repeats a texture runs on, and what else is left is worked plain."""
    chart, stitches = part.pattern.chart, int(part.count)
    at = (number - 1) % chart.height + 1
    repeats = max(0, (stitches - chart.balance) // chart.multiple)
    longer = chart.ops(at, repeats + 1)
    if all(op.takes == op.makes == 1 for op in longer):
        return longer[:stitches]
    ops = chart.ops(at, repeats) if repeats else ()
    return ops + (Stitch(Face.KNIT),) * (stitches - (chart.width(repeats) if repeats else 0))


@lru_cache(maxsize=256)
def relief_picture(placed: Segment, view: ReliefView, ratio: float, *, tall: int, yarn: Yarn = Yarn()) -> str:  # noqa: B008
    """The SVG of a segment's cloth, `tall` picture units (tenths of a stitch) high."""
    chart = placed.chart.mirrored() if view == "mirrored" else placed.chart
    return segment_relief(
        chart, placed.role, placed.repeats, ratio=ratio, tall=float(tall), behind=view == "behind", yarn=yarn
    )
