"""Three marks on a line: what the model says, what the swatches say, and what both come to."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from .svg import number, picture_root

WIDTH = 420.0
HEIGHT = 46.0
MARGIN = 14.0
STEP = 0.05
MIDDLE = 23.0

Interval = tuple[float, float, float]


@dataclass(frozen=True)
class Scale:
    """One scale for all lines of a page, so that patterns can be compared down the page."""

    low: float
    high: float

    def x(self, ratio: float) -> float:
        """Where a draw-in ratio lies: wide cloth to the right."""
        part = (ratio - self.low) / (self.high - self.low)
        return MARGIN + min(1.0, max(0.0, part)) * (WIDTH - 2 * MARGIN)


def scale_of(values: Iterable[float]) -> Scale:
    """A scale that holds all values and 1, in steps of five hundredths."""
    listed = [*values, 1.0]
    low = math.floor((min(listed) - 0.01) / STEP) * STEP
    return Scale(low, math.ceil((max(listed) + 0.01) / STEP) * STEP)


def draw_mark_line(scale: Scale, model: Interval, readings: tuple[float, ...], *, result: Interval, label: str) -> str:
    """The line of one pattern as SVG; `label` says it in words."""
    root = picture_root(WIDTH, HEIGHT, width=WIDTH, height=HEIGHT, role="img", aria_label=label, class_="marks")
    ends = (MARGIN, WIDTH - MARGIN)
    root.add("line", x1=ends[0], x2=ends[1], y1=MIDDLE, y2=MIDDLE, class_="mark-axis")
    plain = scale.x(1.0)
    root.add("line", x1=plain, x2=plain, y1=MIDDLE - 9, y2=MIDDLE + 9, class_="mark-plain")
    low, high = scale.x(result[0]), scale.x(result[2])
    root.add("rect", x=low, y=MIDDLE - 5, width=max(1.0, high - low), height=10, rx=5, class_="mark-span")
    root.add("line", x1=scale.x(model[0]), x2=scale.x(model[2]), y1=8, y2=8, class_="mark-whisker")
    root.add("circle", cx=scale.x(model[1]), cy=8, r=4.5, class_="mark-model")
    for reading in readings:
        x = scale.x(reading)
        d = f"M{number(x)} {number(MIDDLE + 8)}l5.5 10h-11Z"
        root.add("path", d=d, class_="mark-reading")
    x = scale.x(result[1])
    root.add("path", d=f"M{number(x)} {number(MIDDLE - 8)}l6.5 8l-6.5 8l-6.5 -8Z", class_="mark-result")
    return root.write()


def draw_axis(scale: Scale) -> str:
    """The scale's own line, with a number at every tenth."""
    root = picture_root(WIDTH, 18.0, width=WIDTH, height=18, aria_hidden="true", class_="marks")
    for tenth in range(math.ceil(scale.low * 10 - 1e-9), math.floor(scale.high * 10 + 1e-9) + 1):
        x = scale.x(tenth / 10)
        root.add("line", x1=x, x2=x, y1=13, y2=18, class_="mark-axis")
        root.add("text", x=x, y=11, text_anchor="middle").text = f"{tenth / 10:.1f}"
    return root.write()
