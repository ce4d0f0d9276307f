"""The shapes of the relief as SVG path data, in picture units: ten to a stockinette stitch, y downwards."""

from __future__ import annotations

import math

from .svg import Point, number

SCALE = 10.0
_HALF = 0.30  # half of a strand's width in stitch widths, where the yarn just fills a stitch


def drop_path(foot: Point, head: Point, thick: float = 1.0, *, grow: float = 0.0) -> str:
    """A drop-shaped leg: narrow at the foot, full above its middle."""
    (x0, y0), (x1, y1) = foot, head
    dx, dy = x1 - x0, y1 - y0
    length = math.hypot(dx, dy) or 1.0
    wide = _HALF * SCALE * thick + grow
    nx, ny = -dy / length * wide, dx / length * wide
    a = (x0 + 0.15 * dx + nx * 0.75, y0 + 0.15 * dy + ny * 0.75)
    b = (x0 + 0.95 * dx + nx * 1.05, y0 + 0.95 * dy + ny * 1.05)
    c = (x0 + 0.95 * dx - nx * 1.05, y0 + 0.95 * dy - ny * 1.05)
    d = (x0 + 0.15 * dx - nx * 0.75, y0 + 0.15 * dy - ny * 0.75)
    points = [f"{number(px)} {number(py)}" for px, py in (a, b, head, c, d, foot)]
    return f"M{number(x0)} {number(y0)}C{points[0]} {points[1]} {points[2]}C{points[3]} {points[4]} {points[5]}Z"


def shine_path(foot: Point, head: Point, thick: float = 1.0) -> str:
    """The light on the upper left of a leg: a thin stroke along it."""
    (x0, y0), (x1, y1) = foot, head
    dx, dy = x1 - x0, y1 - y0
    length = math.hypot(dx, dy) or 1.0
    aside = 0.1 * SCALE * thick
    nx, ny = dy / length * aside, -dx / length * aside  # to the left of the way up
    a, b = ((x0 + part * dx + nx, y0 + part * dy + ny) for part in (0.42, 0.84))
    return f"M{number(a[0])} {number(a[1])}L{number(b[0])} {number(b[1])}"


def arc_path(at: Point, half: float, thick: float = 1.0, *, turn: float = 0.0) -> str:
    """The bump of a purl loop: a low arch, as thick as the yarn, turned to the right by so many radians."""
    x, y = at
    if turn:
        low, high, inner = 0.16 * SCALE, (-0.3 - 0.42 * thick) * SCALE, (0.36 - 0.38 * thick) * SCALE
        c, s = math.cos(turn), math.sin(turn)
        corners = ((-half, low), (0.0, high), (half, low), (0.0, inner))
        a, b, e, f = (f"{number(x + c * u - s * v)} {number(y + s * u + c * v)}" for u, v in corners)
        return f"M{a}Q{b} {e}Q{f} {a}Z"
    foot, crown, hollow = (number(y + part * SCALE) for part in (0.16, -0.3 - 0.42 * thick, 0.36 - 0.38 * thick))
    left, right = number(x - half), number(x + half)
    return f"M{left} {foot}Q{number(x)} {crown} {right} {foot}Q{number(x)} {hollow} {left} {foot}Z"


def new_path(at: Point) -> str:
    """The twisted bar at the foot of a loop that is made of none: a small cross."""
    x, y = at
    left, right = number(x - 0.28 * SCALE), number(x + 0.28 * SCALE)
    low, high = number(y + 0.62 * SCALE), number(y + 0.3 * SCALE)
    return f"M{left} {low}L{right} {high}M{left} {high}L{right} {low}"
