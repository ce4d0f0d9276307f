"""The symbols of operations: one drawing for each, in the cells of the loops it makes.

Symbols follow the trade's published conventions (blank for knit, dot for purl, a slanted strand for each
group of a crossing, a stroke for a decrease, a ring for a yarn over); the drawing is our own.
"""

from __future__ import annotations

from typing import Any, Protocol

from ..core.notation import (
    BindOff,
    Bobble,
    CastOnLoop,
    CrossedDecrease,
    Crossing,
    Decrease,
    DoubleStitch,
    Face,
    HalfCrossing,
    Hold,
    Increase,
    Into,
    Lean,
    Leave,
    NoStitch,
    Op,
    Slip,
    Stitch,
    Turn,
    WrapTurn,
    YarnOver,
)
from .svg import Element, Point, number

CELL = 16.0
CROSSED = Crossing | CrossedDecrease | HalfCrossing


class _Draw(Protocol):
    """How operations of one kind are drawn."""

    def __call__(self, body: Element, op: Any, right: float, *, y: float) -> None: ...


def draw_symbol(body: Element, op: Op, right: float, *, y: float) -> None:
    """Draws one operation whose rightmost cell ends at `right` and whose row begins at `y`."""
    _DRAW[type(op)](body, op, right, y=y)


def _line(body: Element, *points: Point, css: str = "chart-line") -> None:
    d = "M" + "L".join(f"{number(x)} {number(y)}" for x, y in points)
    body.add("path", d=d, class_=css)


def _dot(body: Element, x: float, y: float, *, r: float) -> None:
    body.add("circle", cx=x, cy=y, r=r, class_="chart-ink")


def _ring(body: Element, x: float, y: float, *, r: float) -> None:
    body.add("circle", cx=x, cy=y, r=r, class_="chart-line")


def _stitch(body: Element, op: Stitch, right: float, *, y: float) -> None:
    middle = right - CELL / 2
    if op.face is Face.PURL:
        _dot(body, middle, y + CELL / 2, r=2.1)
    if op.tbl:
        left, foot = right - CELL, number(y + CELL - 3)
        d = f"M{number(left + 4)} {foot}Q{number(middle)} {number(y - 6)} {number(right - 4)} {foot}"
        body.add("path", d=d, class_="chart-line")


def _slip(body: Element, op: Slip, right: float, *, y: float) -> None:
    middle = right - CELL / 2
    _line(body, (middle - 4, y + 4), (middle, y + CELL - 4), (middle + 4, y + 4))
    if op.yarn == "front":
        _line(body, (middle - 5, y + 8), (middle + 5, y + 8))


def _yarn_over(body: Element, op: YarnOver, right: float, *, y: float) -> None:
    for i in range(op.count):
        _ring(body, right - (i + 0.5) * CELL, y + CELL / 2, r=4.4)
    if op.count == 2:
        _line(body, (right - CELL - 3.6, y + CELL / 2), (right - CELL + 3.6, y + CELL / 2))


def _increase(body: Element, op: Increase, right: float, *, y: float) -> None:
    middle, tick = right - CELL / 2, -3.0 if op.lean is Lean.LEFT else 3.0
    _line(body, (middle, y + CELL - 3), (middle, y + 4), (middle + tick, y + 8))
    if op.face is Face.PURL:
        _dot(body, middle - tick, y + CELL - 5, r=1.7)


def _into(body: Element, op: Into, right: float, *, y: float) -> None:
    """Strokes that fan out of one foot, one for each loop; a ring for a yarn over, a dot for a purl."""
    n = len(op.parts)
    foot = (right - n * CELL / 2, y + CELL - 2)
    for i, part in enumerate(op.parts):
        x = right - (i + 0.5) * CELL
        _line(body, foot, (x, y + 7))
        if part is None:
            _ring(body, x, y + 5, r=2.4)
        elif part.face is Face.PURL:
            _dot(body, x, y + 4.5, r=1.7)
        if part and part.tbl:
            _line(body, (x - 3, y + 3), (x + 3, y + 3))


def _decrease(body: Element, op: Decrease, right: float, *, y: float) -> None:
    """A stroke that leans the way the decrease does, a second one for a third stitch, a stem where it is centred."""
    left, bottom = right - CELL, y + CELL
    middle = (left + right) / 2
    hand = 1.0 if op.lean is Lean.RIGHT else -1.0
    if op.kind == "centred":
        _line(body, (left + 3, bottom - 3), (middle, y + 3), (right - 3, bottom - 3))
        _line(body, (middle, y + 3), (middle, bottom - 3))
    else:
        _line(body, (middle - 5 * hand, bottom - 3), (middle + 5 * hand, y + 3))
        if op.kind == "passed":
            _line(body, (middle, y + CELL / 2), (middle + 5 * hand, bottom - 3))
        elif op.count == 3:
            _line(body, (middle - 1 * hand, bottom - 3), (middle + 5 * hand, y + 8))
        if op.kind == "twisted":
            _ring(body, middle - 3.6 * hand, bottom - 4.6, r=1.9)
    if op.face is Face.PURL:
        _dot(body, middle - 4.6 * hand, y + 4.6, r=1.7)


def _bobble(body: Element, op: Bobble, right: float, *, y: float) -> None:
    x, middle, r = right - CELL / 2, y + CELL / 2, 3.0 + 0.5 * op.size
    if op.behind:
        _ring(body, x, middle, r=r)
        _dot(body, x, middle, r=1.7)
    else:
        _dot(body, x, middle, r=r)


def _wrap_turn(body: Element, op: WrapTurn, right: float, *, y: float) -> None:
    left, bottom = number(right - CELL + 4), number(y + CELL - 3)
    d = f"M{left} {bottom}V{number(y + 8)}Q{left} {number(y + 3)} {number(right - 8)} {number(y + 3)}"
    body.add("path", d=f"{d}T{number(right - 4)} {number(y + 9)}H{left}", class_="chart-line")


def _turn(body: Element, op: Turn, right: float, *, y: float) -> None:
    _line(body, (right + 3, y + 3), (right, y + CELL / 2), (right + 3, y + CELL - 3))
    _line(body, (right, y + 2), (right, y + CELL - 2))


def _double(body: Element, op: DoubleStitch, right: float, *, y: float) -> None:
    middle = right - CELL / 2
    for aside in (-2.4, 2.4):
        _line(body, (middle + aside, y + CELL - 3), (middle + aside / 2, y + 4))


def _leave(body: Element, op: Leave, right: float, *, y: float) -> None:
    _line(body, (right - CELL + 4, y + CELL / 2), (right - 4, y + CELL / 2))


def _hold(body: Element, op: Hold, right: float, *, y: float) -> None:
    """A stroke through an eye: the loop hangs on something else."""
    _ring(body, right - CELL / 2, y + CELL / 2, r=3.2)
    _line(body, (right - CELL + 3, y + CELL / 2), (right - 3, y + CELL / 2))


def _bind_off(body: Element, op: BindOff, right: float, *, y: float) -> None:
    """A bar across the cell, above a loop that goes no further."""
    _line(body, (right - CELL + 2, y + 5), (right - 2, y + 5))
    _line(body, (right - CELL / 2, y + 5), (right - CELL / 2, y + CELL - 4))


def _cast_on(body: Element, op: CastOnLoop, right: float, *, y: float) -> None:
    """A loop that stands on the cell's foot."""
    left, bottom = right - CELL, y + CELL - 3
    d = f"M{number(left + 4)} {number(bottom)}Q{number(right - CELL / 2)} {number(y - 4)} {number(right - 4)}"
    body.add("path", d=f"{d} {number(bottom)}", class_="chart-line")


def _no_stitch(body: Element, op: NoStitch, right: float, *, y: float) -> None:
    body.add("path", d=f"M{number(right)} {number(y)}h-{CELL:g}v{CELL:g}h{CELL:g}z", class_="chart-none")


def _crossing(body: Element, op: Crossing, right: float, *, y: float) -> None:
    """The under-group as a broken band, the over-group as a filled strand across it, the centre where it lies."""
    o, c, u = len(op.over), len(op.centre), len(op.under)
    n = o + c + u
    left_lean = op.lean is Lean.LEFT
    over = ((0, o), (u + c, n)) if left_lean else ((u + c, n), (0, o))
    under = ((o + c, n), (0, u)) if left_lean else ((0, u), (o + c, n))
    first, last = (o, u) if left_lean else (u, o)
    centre = ((first, first + c), (last, last + c))
    group = _crossing_group(body, op.lean, n, right=right, y=y)
    strands = {
        "behind": ("centre", "under", "over"),
        "between": ("under", "centre", "over"),
        "front": ("under", "over", "centre"),
    }[op.centre_at]
    for name in strands:
        if name == "under":
            group.add("path", d=_strand(under, right, y), class_="chart-under")
        elif name == "over":
            group.add("path", d=_strand(over, right, y), class_="chart-over")
        elif c:
            css = "chart-over" if op.centre_at == "front" else "chart-under"
            group.add("path", d=_strand(centre, right, y), class_=css)
            _marks(group, op.centre, centre[0], right=right, y=y + CELL * 0.75)
    _marks(group, op.under, under[1], right=right, y=y + CELL * 0.28)
    _marks(group, op.over, over[1], right=right, y=y + CELL * 0.28)
    if op.twist:
        _line(group, (right - CELL - 3, y + CELL / 2), (right - CELL + 3, y + CELL / 2))


def _half_crossing(body: Element, op: HalfCrossing, right: float, *, y: float) -> None:
    """What of a crossing lies at this end of the round: a window onto the whole of it."""
    wide = op.takes * CELL
    left, beyond = right - wide, op.end * CELL if op.begins else 0.0
    view = " ".join(map(number, (left, y, wide, CELL)))
    window = body.add("svg", x=left, y=y, width=wide, height=CELL, viewBox=view)
    _crossing(window, op.whole, right + beyond, y=y)


def _crossed_decrease(body: Element, op: CrossedDecrease, right: float, *, y: float) -> None:
    """Both groups come together, the upper one across the lower, above a bar for what is lost."""
    n, half = op.count, op.count / 2
    left_lean = op.lean is Lean.LEFT
    over = ((0.0, half), (0.0, n)) if left_lean else ((half, n), (0.0, n))
    under = ((half, n), (0.0, n)) if left_lean else ((0.0, half), (0.0, n))
    group = _crossing_group(body, op.lean, n, right=right, y=y)
    group.add("path", d=_strand(under, right, y), class_="chart-under")
    group.add("path", d=_strand(over, right, y), class_="chart-over")
    _line(group, (right - 3, y + 3), (right - n * CELL + 3, y + 3))
    if op.face is Face.PURL:
        _marks(group, (Stitch(Face.PURL),) * n, (0, n), right=right, y=y + CELL * 0.5)


def _crossing_group(body: Element, lean: Lean, cells: int, *, right: float, y: float) -> Element:
    group = body.add("g", class_=f"chart-crossing lean-{lean.value.lower()}")
    group.add("rect", x=right - cells * CELL, y=y, width=cells * CELL, height=CELL, class_="chart-cell")
    return group


Ends = tuple[tuple[float, float], tuple[float, float]]


def _strand(ends: Ends, right: float, y: float) -> str:
    """A band from its columns at the bottom (counted from the right) to those at the top."""
    (b0, b1), (t0, t1) = ends
    inset = 1.2
    points: list[Point] = [
        (right - b0 * CELL - inset, y + CELL),
        (right - t0 * CELL - inset, y),
        (right - t1 * CELL + inset, y),
        (right - b1 * CELL + inset, y + CELL),
    ]
    return "M" + "L".join(f"{number(px)} {number(py)}" for px, py in points) + "Z"


def _marks(group: Element, stitches: tuple[Stitch, ...], span: tuple[float, float], *, right: float, y: float) -> None:
    """A dot on each purl, a small roof on each stitch worked through the back."""
    for i, stitch in enumerate(stitches):
        x = right - (span[0] + i + 0.5) * CELL
        if stitch.face is Face.PURL:
            _dot(group, x, y, r=1.7)
        if stitch.tbl:
            _line(group, (x - 3, y + 4), (x, y - 2), (x + 3, y + 4))


_DRAW: dict[type[Op], _Draw] = {
    Stitch: _stitch,
    HalfCrossing: _half_crossing,
    Slip: _slip,
    YarnOver: _yarn_over,
    Increase: _increase,
    Into: _into,
    Decrease: _decrease,
    Bobble: _bobble,
    WrapTurn: _wrap_turn,
    Turn: _turn,
    DoubleStitch: _double,
    Leave: _leave,
    Hold: _hold,
    BindOff: _bind_off,
    CastOnLoop: _cast_on,
    NoStitch: _no_stitch,
    Crossing: _crossing,
    CrossedDecrease: _crossed_decrease,
}
