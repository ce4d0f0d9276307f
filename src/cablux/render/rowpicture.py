"""The picture of the rows: panels side by side as strips, their crossings marked, and where all begin together."""

from __future__ import annotations

from ..core.rows.row_search import Alignment, PanelStrip
from .svg import Element, number, picture_root

_NAME, _STRIP, _LEFT, _RIGHT = 170.0, 20.0, 8.0, 24.0
_WIDE = 720.0


def rows_svg(found: Alignment) -> str:
    """Rows run from left (the first) to right; each panel is a strip with its repeats and its crossing rows."""
    high = _LEFT + _STRIP * len(found.strips) + 22.0
    wide = _NAME + _WIDE + _RIGHT
    root = picture_root(wide, high, class_="rows-picture", role="img", aria_label=_words(found))
    step = _WIDE / max(1, found.rows)
    for row in found.together:
        x = _NAME + (row - 1) * step
        root.add("path", d=f"M{number(x)} {number(_LEFT)}V{number(high - 16)}", class_="rows-together")
    for at, strip in enumerate(found.strips):
        _strip(root, strip, _LEFT + at * _STRIP, step=step, rows=found.rows)
    every = next(n for n in (10, 20, 50, 100, 200, 500, 1000) if found.rows / n <= 24)
    for row in range(every, found.rows + 1, every):
        label = root.add("text", x=_NAME + (row - 0.5) * step, y=high - 3, text_anchor="middle")
        label.text = str(row)
    return root.write()


def _words(found: Alignment) -> str:
    strips = "; ".join(f"{s.name} crosses on {len(s.crossings)} rows" for s in found.strips)
    return f"{found.rows} rows: {strips}; all begin together on {len(found.together)} of them"


def _strip(root: Element, strip: PanelStrip, y: float, *, step: float, rows: int) -> None:
    name = root.add("text", x=_NAME - 8, y=y + 13, text_anchor="end")
    name.text = strip.name
    root.add("rect", x=_NAME, y=y + 2, width=rows * step, height=_STRIP - 4, class_="rows-strip")
    begins = "".join(f"M{number(_NAME + (n - 1) * step)} {number(y + 2)}v{number(_STRIP - 4)}" for n in strip.begins)
    root.add("path", d=begins, class_="rows-begin")
    marks = "".join(
        f"M{number(_NAME + (n - 0.5) * step)} {number(y + 6)}v{number(_STRIP - 12)}" for n in strip.crossings
    )
    root.add("path", d=marks, class_=f"rows-cross family-{strip.family}")
