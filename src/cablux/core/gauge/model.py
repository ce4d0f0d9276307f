"""What the fabric model says of a pattern's size at a gauge, before anybody has measured it."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from ..errors import IllegalPiece
from ..fabric.draw_in import DrawIn, compute_draw_in
from ..library import StitchPattern
from ..notation import CrossedDecrease, Crossing
from ..notation.transform import is_reversible
from ..practice import ROWS_TO_STITCHES

ClothKind = Literal["plain", "texture", "rib", "cable", "ribbed cable"]
CABLES: tuple[ClothKind, ...] = ("cable", "ribbed cable")

_FOLDS = 0.93  # our choice: a texture that the model draws in further than this folds, as ribs do


@dataclass(frozen=True)
class ModelWidth:
    """A pattern's width as `fixed + repeats × repeat`, in stockinette stitches, and its draw-up ratio."""

    fixed_stitches: float
    repeat_stitches: float
    draw_up: float


@lru_cache(maxsize=512)
def cloth_kind(pattern: StitchPattern) -> ClothKind:
    """A cable has crossings, a ribbed one in rib or in cloth alike on both sides; plain cloth shows one face and is
    stockinette from one side or the other; a rib folds.

    >>> from cablux.core import find_pattern
    >>> [cloth_kind(find_pattern(name)) for name in ("rope-3-3-left", "stockinette", "garter")]
    ['cable', 'plain', 'texture']
    """
    ops = {op for row in pattern.chart.rows for op in row.ops()}
    crossings = [op for op in ops if isinstance(op, Crossing | CrossedDecrease)]
    if crossings:
        folds = any(isinstance(op, Crossing) and op.ribbed for op in crossings) or is_reversible(pattern.chart)
        return "ribbed cable" if folds else "cable"
    faces = {loop.face for op in ops for loop in op.made}
    if len(faces) == 1 and all(op.takes == op.makes == 1 for op in ops):
        return "plain"
    return "rib" if compute_draw_in(pattern.chart, ROWS_TO_STITCHES).draw_in < _FOLDS else "texture"


@lru_cache(maxsize=512)
def cloth_key(pattern: StitchPattern) -> str:
    """The same for a pattern, its mirror image, and both with another purl margin: they draw in alike."""
    chart = pattern.chart
    rows = [[op.token for op in row.ops(2)] for row in chart.rows]
    first, last = _background(rows), _background([row[::-1] for row in rows])
    both = [rows, [[op.token for op in row.ops(2)] for row in chart.mirrored().rows]]
    cuts = ((first, last), (last, first))
    texts = [
        " / ".join(", ".join(row[a : len(row) - b]) for row in each) for each, (a, b) in zip(both, cuts, strict=True)
    ]
    return hashlib.sha256(min(texts).encode()).hexdigest()[:12]


def _background(rows: list[list[str]]) -> int:
    """How many purl columns stand before everything else; none where there is nothing else."""
    wide = min(next((i for i, token in enumerate(row) if token != "p1"), len(row)) for row in rows)
    return wide if any(set(row) != {"p1"} for row in rows) else 0


@lru_cache(maxsize=1024)
def model_width(pattern: StitchPattern, ratio: float, *, whole: bool, drawn_open: bool = False) -> ModelWidth:
    """The width of a pattern at `ratio` rows to stitches, at ease or with its ribs `drawn_open`.

    A mirrored pattern is exactly as wide.

    Textures grow by their endless box. Panels (`whole`) are relaxed with their balance; those that have one (a
    purl margin on each side of the repeats) with one and with two repeats, and grow by the difference.
    """
    chart = pattern.chart
    tile = _settled(pattern, ratio, 1 if whole else 0, drawn_open=drawn_open)
    if not whole:
        return ModelWidth(chart.balance * tile.draw_in, chart.multiple * tile.draw_in, tile.draw_up)
    if not chart.balance:
        return ModelWidth(0.0, tile.width_stitches, tile.draw_up)
    step = _settled(pattern, ratio, 2, drawn_open=drawn_open).width_stitches - tile.width_stitches
    return ModelWidth(tile.width_stitches - step, step, tile.draw_up)


def model_ratio(pattern: StitchPattern, ratio: float) -> float:
    """Draw-in of a pattern as it is swatched: a panel whole, anything else without end."""
    whole = "panel" in pattern.uses
    unit = model_width(pattern, ratio, whole=whole)
    if not whole:
        return unit.repeat_stitches / pattern.chart.multiple
    return (unit.fixed_stitches + unit.repeat_stitches) / pattern.chart.width(1)


def _settled(pattern: StitchPattern, ratio: float, repeats: int, *, drawn_open: bool) -> DrawIn:
    """A tile's draw-in that can be relied on. Raises IllegalPiece where the relaxation did not converge."""
    tile = compute_draw_in(pattern.chart, ratio, repeats, drawn_open=drawn_open)
    if not tile.converged:
        raise IllegalPiece(
            f"The draw-in of {pattern.name} could not be computed at this gauge: it had not settled after "
            f"{tile.iterations} steps. Another gauge or panel will do."
        )
    return tile
