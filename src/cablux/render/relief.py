"""The relief: fabric drawn loop by loop from relaxed positions, lit from the upper left."""

from __future__ import annotations

import hashlib
import math
from collections import defaultdict
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from ..core.fabric.relax import Relaxed
from ..core.fabric.tile import model_fingerprint, relaxed_tile
from ..core.layout.piece import Role
from ..core.notation import Chart
from .svg import Element, document, number

SCALE = 10.0  # picture units to a stockinette stitch
GROUND = "#6d6454"
TONES = ("#8f836c", "#a89b82", "#beb298", "#d2c7ae", "#e3d9c3", "#f1eadb", "#fbf8f0")
BUMPS = ("#857a66", "#9a8e78", "#ada188")
EDGE = "#5d5546"
_WEIGHTS = np.array([1.0, 2.0, 3.0, 2.0, 1.0]) / 9.0  # along the strand, for the eye only
_LEG = 0.60  # half a leg's length in row heights, a little over half so that legs link
_SPREAD = 0.27  # how far a leg's top lies to the side, in stitch widths


@dataclass(frozen=True)
class Leg:
    """One leg of a loop: from its foot to its head, its layer and its tone (0 dark … 1 light)."""

    foot: tuple[float, float]
    head: tuple[float, float]
    layer: str
    tone: float


@dataclass(frozen=True)
class Bump:
    """The bump of a purl loop: its middle and half width."""

    at: tuple[float, float]
    half: float
    tone: float


@dataclass(frozen=True)
class Knob:
    """A bobble: its middle and its radius."""

    at: tuple[float, float]
    radius: float


@dataclass(frozen=True)
class Drawn:
    """A tile as primitives, in picture units: x to the right, y down, the first stitch at the right."""

    width: float
    height: float
    legs: tuple[Leg, ...]
    bumps: tuple[Bump, ...]
    knobs: tuple[Knob, ...] = ()
    holes: tuple[tuple[float, float], ...] = ()


def _smooth(tile: Relaxed) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
    """Positions smoothed along each strand, and the strand's direction (dx for one row up)."""
    net = tile.net
    parent = np.arange(net.loops)
    child = np.arange(net.loops)
    up = np.zeros(net.loops)
    side = np.zeros(net.loops)
    for (a, b), wrap, tiles in zip(net.leg[::-1], net.leg_up[::-1], net.leg_side[::-1], strict=True):
        parent[b], child[a] = a, b
        up[b], side[b] = wrap, tiles
    # the parent's position as the child sees it: a tile below or beside where the strand wraps
    px = tile.x[parent] + side * tile.width
    dx = np.where(parent == np.arange(net.loops), 0.0, tile.x - px)
    x = tile.x.copy()
    down1, up1 = -dx, dx[child]
    down2, up2 = down1 - dx[parent], up1 + dx[child[child]]
    x += _WEIGHTS[0] * down2 + _WEIGHTS[1] * down1 + _WEIGHTS[3] * up1 + _WEIGHTS[4] * up2
    slant = np.asarray((up1 - down1) / 2.0, float)
    return np.asarray(x, float), tile.y.copy(), slant


def _depths(tile: Relaxed) -> NDArray[np.float64]:
    """Depth with a crossing felt one row above and below, so that a strand rises into it and out of it."""
    net = tile.net
    own = net.depth.astype(float)
    felt = own.copy()
    for a, b in net.leg:
        felt[a] += 0.6 * own[b] if own[a] == 0 else 0.0
        felt[b] += 0.5 * own[a] if own[b] == 0 else 0.0
    return np.asarray(np.clip(felt, -1.0, 1.0), float)


def draw(tile: Relaxed) -> Drawn:
    """The tile's loops as legs and bumps."""
    net = tile.net
    x, y, slant = _smooth(tile)
    depth = _depths(tile)
    row = tile.height / net.rows
    legs: list[Leg] = []
    bumps: list[Bump] = []
    knobs: list[Knob] = []
    holes: list[tuple[float, float]] = []
    for i in range(net.loops):
        at = (-x[i] * SCALE, -y[i] * SCALE)
        if net.hole[i]:
            holes.append(at)
            continue
        if net.knob[i] > 0:
            knobs.append(Knob(at, (0.42 + 0.06 * float(net.knob[i])) * SCALE))
        if net.sign[i] < 0:
            bumps.append(Bump(at, 0.5 * SCALE, 0.5 - 0.4 * float(slant[i])))
            continue
        lean = float(-slant[i])  # to the right in the picture, stitch widths a row
        length = math.hypot(lean, row)
        along = (lean / length, -row / length)
        across = (-along[1], along[0])
        layer = "front" if depth[i] > 0.3 else "back" if depth[i] < -0.3 else "plain"
        half = _LEG * max(length, row) * SCALE
        for hand in (-1.0, 1.0):
            aside = _SPREAD * SCALE * hand
            foot = (
                at[0] - along[0] * half + across[0] * aside * 0.35,
                at[1] - along[1] * half + across[1] * aside * 0.35,
            )
            head = (
                at[0] + along[0] * half + across[0] * aside * 1.45,
                at[1] + along[1] * half + across[1] * aside * 1.45,
            )
            legs.append(Leg(foot, head, layer, _tone(foot, head, float(depth[i]), lean)))
    return Drawn(tile.width * SCALE, tile.height * SCALE, tuple(legs), tuple(bumps), tuple(knobs), tuple(holes))


def _tone(foot: tuple[float, float], head: tuple[float, float], depth: float, lean: float) -> float:
    """Raking light from the upper left: a leg across the light shines, one along it does not."""
    dx, dy = head[0] - foot[0], head[1] - foot[1]
    length = math.hypot(dx, dy) or 1.0
    across_light = abs(dx * 0.55 - dy * -0.84) / length  # |leg × light|, light from (-0.84, -0.55)
    return 0.42 + 0.34 * (across_light - 0.6) + 0.25 * depth - 0.15 * max(-1.0, min(1.0, lean))


def _drop(leg: Leg, grow: float = 0.0) -> str:
    """A drop-shaped leg: narrow at the foot, full above its middle."""
    (x0, y0), (x1, y1) = leg.foot, leg.head
    dx, dy = x1 - x0, y1 - y0
    length = math.hypot(dx, dy) or 1.0
    wide = 0.30 * SCALE + grow
    nx, ny = -dy / length * wide, dx / length * wide
    a = (x0 + 0.15 * dx + nx * 0.75, y0 + 0.15 * dy + ny * 0.75)
    b = (x0 + 0.95 * dx + nx * 1.05, y0 + 0.95 * dy + ny * 1.05)
    c = (x0 + 0.95 * dx - nx * 1.05, y0 + 0.95 * dy - ny * 1.05)
    d = (x0 + 0.15 * dx - nx * 0.75, y0 + 0.15 * dy - ny * 0.75)
    points = [f"{number(px)} {number(py)}" for px, py in (a, b, leg.head, c, d, leg.foot)]
    return f"M{number(x0)} {number(y0)}C{points[0]} {points[1]} {points[2]}C{points[3]} {points[4]} {points[5]}Z"


def _arc(bump: Bump) -> str:
    x, y, w = bump.at[0], bump.at[1], bump.half
    foot, crown, hollow = (number(y + part * SCALE) for part in (0.12, -0.68, -0.18))
    left, right = number(x - w), number(x + w)
    return f"M{left} {foot}Q{number(x)} {crown} {right} {foot}Q{number(x)} {hollow} {left} {foot}Z"


def _level(tone: float, levels: int) -> int:
    return max(0, min(levels - 1, int(tone * levels)))


def segment_relief(chart: Chart, role: Role, repeats: int, ratio: float, tall: float) -> str:
    """A segment's cloth: a panel whole, a texture as much of its endless box as the repeats come to."""
    if role == "panel" and chart.balance:
        drawn = draw(relaxed_tile(chart, ratio, repeats))
        return relief_svg(drawn, drawn.width, tall)
    drawn = draw(relaxed_tile(chart, ratio, 1 if role == "panel" else 0))
    across = drawn.width * chart.width(repeats) / chart.multiple
    return relief_svg(drawn, across, tall)


@lru_cache(maxsize=1)
def relief_version() -> str:
    """Changes whenever the drawing or the fabric model does: browsers keep pictures for good."""
    return hashlib.sha256(Path(__file__).read_bytes() + model_fingerprint().encode()).hexdigest()[:8]


def relief_query(role: Role, repeats: int, ratio: float, tall: int, *, mirrored: bool = False) -> str:
    """What a relief picture's address says after the pattern's name."""
    query = f"ratio={ratio:.4f}&role={role}&repeats={repeats}&tall={tall}&v={relief_version()}"
    return query + ("&mirrored=1" if mirrored else "")


def relief_svg(drawn: Drawn, across: float, up: float) -> str:
    """The fabric `across` × `up` picture units, the tile repeated from the lower right corner."""
    root = document(across, up, width=across, height=up)
    root.add("rect", width=across, height=up, fill=GROUND)
    layers = _layers(root.add("defs"), drawn)
    cols, rows = math.ceil(across / drawn.width), math.ceil(up / drawn.height)
    for name in layers:
        for r in range(-1, rows + 1):
            for c in range(-1, cols + 1):
                root.add("use", href=f"#{name}", x=across - c * drawn.width, y=up - r * drawn.height)
    return root.write()


def _layers(defs: Element, drawn: Drawn) -> list[str]:
    """Symbols in drawing order: bumps, back strands, plain loops, shadows, front strands."""
    bumps: dict[int, list[str]] = defaultdict(list)
    for bump in drawn.bumps:
        bumps[_level(bump.tone, len(BUMPS))].append(_arc(bump))
    group = defs.add("g", id="purl", stroke=EDGE, stroke_width=0.5)
    for tone in sorted(bumps):
        group.add("path", fill=BUMPS[tone], d="".join(bumps[tone]))
    names = ["purl"]
    for layer in ("back", "plain", "front"):
        mine = [leg for leg in drawn.legs if leg.layer == layer]
        if layer == "front" and mine:
            shade = defs.add("g", id="shade", fill="#2c261b", fill_opacity="0.42", transform="translate(1.8 2.2)")
            shade.add("path", d="".join(_drop(leg, 0.9) for leg in mine))
            names.append("shade")
        if mine:
            _legs(defs, layer, mine)
            names.append(layer)
        if layer == "plain" and drawn.holes:
            _holes(defs, drawn.holes)
            names.append("hole")
    if drawn.knobs:
        _knobs(defs, drawn.knobs)
        names.append("knob")
    return names


def _holes(defs: Element, holes: tuple[tuple[float, float], ...]) -> None:
    """A yarn over: the dark opening beneath the strand, which bows over it."""
    group = defs.add("g", id="hole")
    for x, y in holes:
        group.add("ellipse", cx=x, cy=y - 0.1 * SCALE, rx=0.42 * SCALE, ry=0.46 * SCALE, fill="#453d30")
        left, right, foot = number(x - 0.5 * SCALE), number(x + 0.5 * SCALE), number(y + 0.25 * SCALE)
        d = f"M{left} {foot}Q{number(x)} {number(y - 1.1 * SCALE)} {right} {foot}"
        group.add("path", d=d, fill="none", stroke=TONES[3], stroke_width=0.24 * SCALE)


def _knobs(defs: Element, knobs: tuple[Knob, ...]) -> None:
    """A bobble: a ball with its shadow below, a light to the upper left, and the rows that it is knitted of."""
    group = defs.add("g", id="knob")
    for knob in knobs:
        (x, y), r = knob.at, knob.radius
        group.add("circle", cx=x + 0.16 * r, cy=y + 0.2 * r, r=r * 1.05, fill="#2c261b", fill_opacity="0.45")
        group.add("circle", cx=x, cy=y, r=r, fill=TONES[3], stroke=EDGE, stroke_width=0.6)
        group.add("circle", cx=x - 0.2 * r, cy=y - 0.22 * r, r=0.62 * r, fill=TONES[5])
        for part in (-0.42, 0.05, 0.5):
            half = math.sqrt(max(0.0, 1.0 - part * part)) * r * 0.9
            d = f"M{number(x - half)} {number(y + part * r)}q{number(half)} {number(0.36 * r)} {number(2 * half)} 0"
            group.add("path", d=d, fill="none", stroke=EDGE, stroke_width=0.5)


def _legs(defs: Element, layer: str, legs: list[Leg]) -> None:
    by_tone: dict[int, list[str]] = defaultdict(list)
    for leg in legs:
        by_tone[_level(leg.tone, len(TONES))].append(_drop(leg))
    group = defs.add("g", id=layer, stroke=EDGE, stroke_width=0.55)
    for tone in sorted(by_tone):
        group.add("path", fill=TONES[tone], d="".join(by_tone[tone]))
