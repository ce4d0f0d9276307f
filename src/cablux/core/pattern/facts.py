"""What a knitter asks of a pattern before she takes it: size, behaviour, and how closely it must be watched."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from ..fabric.draw_in import compute_draw_in
from ..library import StitchPattern
from ..notation import Chart, CrossedDecrease, Crossing, Face
from ..notation.transform import is_reversible
from ..practice import ROWS_TO_STITCHES
from .howto import ways_to_work

CURLS = 0.8  # our choice: cloth of which nine tenths show one face rolls at its edges

Attention = Literal["from memory", "a glance now and then", "chart in hand"]
ATTENTION: tuple[Attention, ...] = ("from memory", "a glance now and then", "chart in hand")
Draws = Literal["hardly", "some", "much"]


@dataclass(frozen=True, kw_only=True)
class Facts:
    """`needles`: cable needles wanted at most, in the ways that want fewest. `attention`: how closely to watch."""

    stitches: int
    rows: int
    draw_in: float
    draw_up: float
    reversible: bool
    curls: bool
    needles: int
    attention: Attention

    @property
    def draws(self) -> Draws:
        """In a word; the limits are our choice: what a twentieth and a sixth of the width would be."""
        return "hardly" if self.draw_in > 0.95 else "some" if self.draw_in > 0.83 else "much"

    @property
    def behaviour(self) -> tuple[str, ...]:
        """What it does, in plain words."""
        out = [f"draws in {self.draws}" if self.draws != "hardly" else "hardly draws in"]
        out += ["alike on both sides"] if self.reversible else []
        out += ["curls at the edges"] if self.curls else []
        return tuple(out)


@lru_cache(maxsize=512)
def pattern_facts(pattern: StitchPattern) -> Facts:
    """The facts of a pattern, its draw-in at a common gauge."""
    chart = pattern.chart
    tile = compute_draw_in(chart, ROWS_TO_STITCHES, 1 if "panel" in pattern.uses else 0)
    crossings = {op for row in chart.rows for op in row.ops() if isinstance(op, Crossing | CrossedDecrease)}
    return Facts(
        stitches=chart.width(1),
        rows=chart.height,
        draw_in=tile.draw_in,
        draw_up=tile.draw_up,
        reversible="reversible" in pattern.tags or is_reversible(chart),
        curls=_curls(chart),
        needles=max((min(way.needles for way in ways_to_work(op)) for op in crossings), default=0),
        attention=attention_needed(chart),
    )


def _curls(chart: Chart) -> bool:
    shown = [face for number in range(1, chart.height + 1) for face in chart.faces_after(number)]
    knits = sum(face is Face.KNIT for face in shown) / len(shown)
    return abs(2.0 * knits - 1.0) > CURLS


def attention_needed(chart: Chart) -> Attention:
    """How closely it must be watched: by how many different right-side rows must be kept in mind (our choice).

    Two are kept without thinking, five with a glance. Groups that keep a rib, a centre, or counts that change
    want a glance at least.
    """
    different = len({row.ops() for number, row in chart.numbered() if number % 2})
    ops = {op for row in chart.rows for op in row.ops()}
    fussy = any(op.takes != op.makes or (isinstance(op, Crossing) and (op.centre or op.background)) for op in ops)
    level = 0 if different <= 2 else 1 if different <= 5 else 2
    return ATTENTION[max(level, 1 if fussy else 0)]
