"""The relief as SVG: tiles that repeat, and small pieces whole, drawn loop by loop and lit from the upper left."""

from __future__ import annotations

import hashlib
import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from ..core.fabric.draw_in import model_fingerprint, relaxed_tile
from ..core.fabric.network import Floats
from ..core.fabric.relax import Relaxed
from ..core.notation import Chart
from ..core.piece.segment import Role, Segment
from .light import bump_tone, leg_tone
from .strokes import SCALE, arc_path, drop_path, new_path, shine_path
from .svg import Element, number, picture_root
from .visible_loops import HOLE, KNIT, KNOB, NEW, PURL, SLIPPED, VisibleLoops, visible_loops
from .yarn import Paint, Yarn, tone_level, yarn_paint

_LEG = 0.60  # half a leg's length in row heights, a little over half so that legs link
_SPREAD = 0.27  # how far a leg's top lies to the side, in stitch widths
_RIDGE = 0.12  # purl bumps that stand out further lie over the knit rows
_FRONT = 0.3  # a strand that stands out further lies before the plane, one as far back behind it

_LIT = 0.36  # legs darker than that lie in the shade
_SHINE = {"fill": "none", "stroke_width": 0.9, "stroke_opacity": "0.4", "stroke_linecap": "round"}

Point = tuple[float, float]


@dataclass(frozen=True, kw_only=True)
class Leg:
    """One leg of a loop: from its foot to its head, its layer and its tone (0 dark … 1 light)."""

    foot: Point
    head: Point
    layer: str
    tone: float


@dataclass(frozen=True, kw_only=True)
class Bump:
    """The bump of a purl loop: its middle, half width and tone; on a `ridge` it lies over the knit rows.

    `turn`: by how much it is turned, in radians to the right.
    """

    at: Point
    half: float
    tone: float
    ridge: bool = False
    turn: float = 0.0


@dataclass(frozen=True)
class Knob:
    """A bobble: its middle and its radius."""

    at: Point
    radius: float


@dataclass(frozen=True, kw_only=True)
class Drawn:
    """Cloth as primitives, in picture units: x to the right, y down, the first stitch at the right."""

    width: float
    height: float
    legs: tuple[Leg, ...]
    bumps: tuple[Bump, ...]
    knobs: tuple[Knob, ...] = ()
    holes: tuple[Point, ...] = ()
    bars: tuple[Point, ...] = ()


def draw_loops(cloth: Relaxed, *, behind: bool = False, across: float = math.inf) -> Drawn:
    """The cloth's loops as legs, bumps, bobbles and holes; those that lie within `across` stitches of the right."""
    s = visible_loops(cloth, behind=behind)
    places = np.stack((s.x * SCALE, -s.y * SCALE, np.zeros(len(s.x))), axis=1)
    return draw_placed(s, places, s.x >= s.x.max() - across)


def draw_placed(s: VisibleLoops, places: Floats, kept: NDArray[np.bool_]) -> Drawn:
    """Loops at their places, shape (loops, 3): x, y in picture units, and by how much each is turned to the right."""
    points: list[Point] = [(float(a), float(b)) for a, b, _ in places]
    turns = places[:, 2]
    legs = list(_legs(s, points, kept, turns=turns))
    legs += [_under(s, points, int(loop), parent=int(parent)) for loop, parent in s.under if kept[loop]]
    tones, purl = bump_tone(s), np.flatnonzero((s.kind == PURL) & kept)
    bumps = [_bump(points[i], float(tones[i]), bool(s.stands[i] > _RIDGE), turn=float(turns[i])) for i in purl]
    knobs = [Knob(points[i], (0.42 + 0.06 * float(s.size[i])) * SCALE) for i in np.flatnonzero((s.size > 0) & kept)]
    return Drawn(
        width=s.width * SCALE,
        height=s.height * SCALE,
        legs=tuple(legs),
        bumps=tuple(bumps),
        knobs=tuple(knobs),
        holes=tuple(points[i] for i in np.flatnonzero((s.kind == HOLE) & kept)),
        bars=tuple(points[i] for i in np.flatnonzero((s.kind == NEW) & kept)),
    )


def _bump(at: Point, tone: float, ridge: bool, *, turn: float) -> Bump:
    """On a ridge a bump is as broad as its stitch, and hides the foot of the row above."""
    place = _turned((at[0], at[1] - 0.1 * SCALE), at, turn) if ridge else at
    return Bump(at=place, half=(0.55 if ridge else 0.5) * SCALE, tone=tone, ridge=ridge, turn=turn)


def _turned(point: Point, about: Point, turn: float) -> Point:
    """A point turned to the right about another."""
    if not turn:
        return point
    x, y = point[0] - about[0], point[1] - about[1]
    c, s = math.cos(turn), math.sin(turn)
    return about[0] + c * x - s * y, about[1] + s * x + c * y


def _legs(s: VisibleLoops, points: list[Point], kept: NDArray[np.bool_], *, turns: Floats) -> list[Leg]:
    """Two legs for each knit loop, turned along its strand; a slipped one reaches down over the row it was passed."""
    out = []
    length = np.hypot(s.lean, s.row)
    for hand in (-1.0, 1.0):
        # the head lies to the side of the foot, across the strand
        dx = 2.0 * _LEG * s.lean + hand * _SPREAD * 1.1 * s.row / length
        dy = 2.0 * _LEG * s.row - hand * _SPREAD * 1.1 * s.lean / length
        tones = leg_tone(dx, dy, s.stands, lean=s.lean)
        for i in np.flatnonzero(np.isin(s.kind, (KNIT, NEW, SLIPPED, KNOB)) & kept):
            if s.kind[i] == KNOB and s.size[i] > 0:
                continue
            layer = "front" if s.stands[i] > _FRONT else "back" if s.stands[i] < -_FRONT else "plain"
            foot, head = _leg(points[i], float(s.lean[i]), s.row, hand=hand, long=2.0 if s.kind[i] == SLIPPED else 1.0)
            foot, head = (_turned(end, points[i], float(turns[i])) for end in (foot, head))
            out.append(Leg(foot=foot, head=head, layer=layer, tone=float(tones[i])))
    return out


def _leg(at: Point, lean: float, row: float, *, hand: float, long: float) -> tuple[Point, Point]:
    length = math.hypot(lean, row)
    along = (lean / length, -row / length)
    across = (-along[1], along[0])
    half = _LEG * max(length, row) * SCALE
    aside = _SPREAD * SCALE * hand
    down = half * (2.0 * long - 1.0)
    foot = (at[0] - along[0] * down + across[0] * aside * 0.35, at[1] - along[1] * down + across[1] * aside * 0.35)
    head = (at[0] + along[0] * half + across[0] * aside * 1.45, at[1] + along[1] * half + across[1] * aside * 1.45)
    return foot, head


def _under(s: VisibleLoops, points: list[Point], loop: int, *, parent: int) -> Leg:
    """The strand that a decrease lies over: it runs from its own column into the loop that takes it in."""
    (x, y), (px, py) = points[loop], points[parent]
    if abs(x - px) > 6 * SCALE or py < y:  # it comes round the tile's edge: draw it as it would come straight
        px, py = x + math.copysign(0.8 * SCALE, px - x), y + s.row * SCALE
    return Leg(foot=(px, py), head=(x + 0.15 * (px - x), y - 0.1 * SCALE), layer="back", tone=0.3)


def segment_relief(
    chart: Chart, role: Role, repeats: int, *, ratio: float, tall: float, behind: bool = False, yarn: Yarn | None = None
) -> str:
    """A segment's cloth: a panel whole, a texture as much of its endless box as the repeats come to."""
    if role == "panel" and chart.balance:
        drawn = draw_loops(relaxed_tile(chart, ratio, repeats), behind=behind)
        return relief_svg(drawn, drawn.width, tall, yarn=yarn)
    drawn = draw_loops(relaxed_tile(chart, ratio, 1 if role == "panel" else 0), behind=behind)
    across = drawn.width * chart.width(repeats) / chart.multiple
    return relief_svg(drawn, across, tall, yarn=yarn)


_DRAWING = ("relief", "visible_loops", "light", "yarn", "strokes", "svg")


@lru_cache(maxsize=1)
def relief_version() -> str:
    """Changes whenever the drawing or the fabric model does: browsers keep pictures for good."""
    sources = b"".join(Path(__file__).with_name(f"{n}.py").read_bytes() for n in _DRAWING)
    return hashlib.sha256(sources + model_fingerprint().encode()).hexdigest()[:8]


def relief_query(
    role: Role, repeats: int, ratio: float, *, tall: int, mirrored: bool = False, yarn: Yarn | None = None
) -> str:
    """What a relief picture's address says after the pattern's name."""
    query = f"ratio={ratio:.4f}&role={role}&repeats={repeats}&tall={tall}&v={relief_version()}"
    if yarn and yarn != Yarn():
        query += f"&colour={yarn.colour.removeprefix('#')}&thick={yarn.thick:g}"
    return query + ("&mirrored=1" if mirrored else "")


def segment_query(s: Segment, ratio: float, tall: int, *, repeats: int = 0, yarn: Yarn | None = None) -> str:
    """The same for a segment as it is placed, or with other `repeats`."""
    query = relief_query(s.role, repeats or s.repeats, ratio, tall=tall, mirrored=s.mirrored, yarn=yarn)
    query += f"&purl_margin={s.purl_margin}" if s.purl_margin else ""
    return query + (f"&phase={s.phase}" if s.phase else "")


def relief_svg(drawn: Drawn, across: float, up: float, *, yarn: Yarn | None = None) -> str:
    """The fabric `across` × `up` picture units, the tile repeated from the lower right corner."""
    root, layers = _page(drawn, across, up, yarn=yarn or Yarn())
    cols, rows = math.ceil(across / drawn.width), math.ceil(up / drawn.height)
    for name in layers:
        for r in range(-1, rows + 1):
            for c in range(-1, cols + 1):
                root.add("use", href=f"#{name}", x=across - c * drawn.width, y=up - r * drawn.height)
    return root.write()


def piece_svg(cloth: Relaxed, *, behind: bool = False, yarn: Yarn | None = None, across: float = math.inf) -> str:
    """A small piece with its own edges, on no ground but its own; of a wide one the right side, `across` stitches."""
    return drawn_svg(draw_loops(cloth, behind=behind, across=across), yarn or Yarn())


def drawn_svg(drawn: Drawn, yarn: Yarn) -> str:
    """Primitives on a page that holds them all."""
    return labelled_svg(drawn, yarn, ())


def labelled_svg(drawn: Drawn, yarn: Yarn, labels: Sequence[tuple[float, float, str]]) -> str:
    """The same with words beside it, each at its place on the cloth."""
    points = [leg.head for leg in drawn.legs] + [bump.at for bump in drawn.bumps]
    right, top = max(x for x, _ in points) + SCALE, min(y for _, y in points) - SCALE
    left, foot = min(x for x, _ in points) - SCALE, max(y for _, y in points) + SCALE
    right = max([right, *(x + SCALE for x, _, _ in labels)])
    root, layers = _page(drawn, right - left, foot - top, yarn=yarn)
    for name in layers:
        root.add("use", href=f"#{name}", x=-left, y=-top)
    for x, y, words in labels:
        text = root.add("text", x=x - left, y=y - top, font_size=6.4, font_family="sans-serif", fill="#fff")
        text.text = words
    return root.write()


def _page(drawn: Drawn, across: float, up: float, *, yarn: Yarn) -> tuple[Element, list[str]]:
    root = picture_root(across, up, width=across, height=up)
    colours = yarn_paint(yarn.colour)
    root.add("rect", width=across, height=up, fill=colours.ground)
    return root, _layers(root.add("defs"), drawn, colours, thick=yarn.thick)


def _layers(defs: Element, drawn: Drawn, colours: Paint, *, thick: float) -> list[str]:
    """Symbols in drawing order: bumps, back strands, plain loops, ridges, shadows, front strands, bobbles."""
    names = _bumps(defs, "purl", [b for b in drawn.bumps if not b.ridge], colours=colours, thick=thick)
    for layer in ("back", "plain", "front"):
        mine = [leg for leg in drawn.legs if leg.layer == layer]
        if layer == "front" and mine:
            shade = defs.add("g", id="shade", fill=colours.dark, fill_opacity="0.42", transform="translate(1.8 2.2)")
            shade.add("path", d="".join(drop_path(leg.foot, leg.head, thick, grow=0.9) for leg in mine))
            names.append("shade")
        if mine:
            names += _strands(defs, layer, mine, colours=colours, thick=thick)
        if layer == "plain":
            names += _bumps(defs, "ridge", [b for b in drawn.bumps if b.ridge], colours=colours, thick=thick)
            names += _openings(defs, drawn, colours)
    if drawn.knobs:
        _knobs(defs, drawn.knobs, colours)
        names.append("knob")
    return names


def _bumps(defs: Element, name: str, bumps: list[Bump], *, colours: Paint, thick: float) -> list[str]:
    if not bumps:
        return []
    group = defs.add("g", id=name, stroke=colours.edge, stroke_width=0.5)
    _by_tone(group, colours.bumps, [(b.tone, arc_path(b.at, b.half, thick, turn=b.turn)) for b in bumps])
    return [name]


def _by_tone(group: Element, tones: tuple[str, ...], shapes: list[tuple[float, str]]) -> None:
    """Shapes with their brightness, gathered into one path a tone."""
    gathered: dict[int, list[str]] = defaultdict(list)
    for tone, d in shapes:
        gathered[tone_level(tone, len(tones))].append(d)
    for at in sorted(gathered):
        group.add("path", fill=tones[at], d="".join(gathered[at]))


def _openings(defs: Element, drawn: Drawn, colours: Paint) -> list[str]:
    """Yarn overs: the dark opening beneath the strand, which bows over it; new loops: the twisted bar at their foot."""
    names = []
    if drawn.holes:
        group = defs.add("g", id="hole")
        for x, y in drawn.holes:
            group.add("ellipse", cx=x, cy=y - 0.1 * SCALE, rx=0.42 * SCALE, ry=0.46 * SCALE, fill=colours.dark)
            left, right, foot = number(x - 0.5 * SCALE), number(x + 0.5 * SCALE), number(y + 0.25 * SCALE)
            d = f"M{left} {foot}Q{number(x)} {number(y - 1.1 * SCALE)} {right} {foot}"
            group.add("path", d=d, fill="none", stroke=colours.tones[3], stroke_width=0.24 * SCALE)
        names.append("hole")
    if drawn.bars:
        group = defs.add("g", id="new", fill="none", stroke_width=0.16 * SCALE)
        group.add("path", d="".join(new_path(at) for at in drawn.bars), stroke=colours.dark)
        group.add("path", d="".join(new_path((x, y - 1.2)) for x, y in drawn.bars), stroke=colours.tones[4])
        names.append("new")
    return names


def _knobs(defs: Element, knobs: tuple[Knob, ...], colours: Paint) -> None:
    """A bobble: a ball with its shadow below, a light to the upper left, and the rows that it is knitted of."""
    group = defs.add("g", id="knob")
    for knob in knobs:
        (x, y), r = knob.at, knob.radius
        group.add("circle", cx=x + 0.16 * r, cy=y + 0.2 * r, r=r * 1.05, fill=colours.dark, fill_opacity="0.45")
        group.add("circle", cx=x, cy=y, r=r, fill=colours.tones[3], stroke=colours.edge, stroke_width=0.6)
        group.add("circle", cx=x - 0.2 * r, cy=y - 0.22 * r, r=0.62 * r, fill=colours.tones[5])
        for part in (-0.42, 0.05, 0.5):
            half = math.sqrt(max(0.0, 1.0 - part * part)) * r * 0.9
            d = f"M{number(x - half)} {number(y + part * r)}q{number(half)} {number(0.36 * r)} {number(2 * half)} 0"
            group.add("path", d=d, fill="none", stroke=colours.edge, stroke_width=0.5)


def _strands(defs: Element, layer: str, legs: list[Leg], *, colours: Paint, thick: float) -> list[str]:
    group = defs.add("g", id=layer, stroke=colours.edge, stroke_width=0.55)
    _by_tone(group, colours.tones, [(leg.tone, drop_path(leg.foot, leg.head, thick)) for leg in legs])
    lit = [shine_path(leg.foot, leg.head, thick) for leg in legs if leg.tone > _LIT]
    if lit:
        group.add("path", d="".join(lit), **_SHINE, stroke=colours.shine)  # type: ignore[arg-type]
    return [layer]
