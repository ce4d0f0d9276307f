"""The fan: below, the needle with every stitch at plain gauge; above, the fabric as wide as it will be."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from ..core.piece.piece import BandView
from ..core.piece.widths import body_um, eighty_um, plain_um, segment_um
from ..core.units import MM_PER, Unit
from .relief import segment_query
from .strokes import SCALE
from .svg import number
from .yarn import UNDYED, Yarn, yarn_paint

WIDTH = 920.0
MARGIN = 34.0  # the ruler’s unit stands in it
CLOTH_TOP, CLOTH_BOTTOM = 60.0, 188.0
BAND_TOP, BAND_BOTTOM = 193.0, 300.0
HEIGHT = 352.0
RULER = CLOTH_TOP - 4.0  # the ruler's marks stand on this line
LOSS_AT = 0.8730
"""How far a band has come from cloth to foot where its loss is written: the curve of `_band_path` at y = 271."""
TALL_STEP = 200  # picture units; cloth is drawn a little too tall and cut, so that its address seldom changes


@dataclass(frozen=True, kw_only=True)
class FanStrip:
    """A segment in the picture: its cloth above, its stitches below, and the band between them."""

    segment: int
    name: str
    family: str
    stitches: int
    loss: int
    cloth_x: float
    cloth_width: float
    middle: float
    foot_width: float
    path: str
    pattern_id: str
    image: str
    image_height: float
    multiple: int
    repeats: int
    foot_x: float

    @property
    def loss_x(self) -> float:
        """The middle of the band where its loss is written."""
        return (self.cloth_x + self.cloth_width / 2) * (1 - LOSS_AT) + self.middle * LOSS_AT

    @property
    def loss_size(self) -> Literal["", "small", "large"]:
        """In which size its loss fits into the band, if at all."""
        wide = self.cloth_width * (1 - LOSS_AT) + self.foot_width * LOSS_AT
        return "large" if wide >= 38.0 else "small" if wide >= 29.0 else ""

    @property
    def roomy(self) -> bool:
        """Whether a count fits with its unit."""
        return self.foot_width >= 32.0

    @property
    def wide_enough(self) -> bool:
        """Whether a count fits at all."""
        return self.foot_width >= 13.0


@dataclass(frozen=True)
class Tick:
    """A mark on a ruler, with a label where it has one."""

    x: float
    length: float
    label: str = ""


@dataclass(frozen=True, kw_only=True)
class Fan:
    """The whole picture in units of its view box."""

    strips: tuple[FanStrip, ...]
    ruler: tuple[Tick, ...]
    stitches: tuple[Tick, ...]
    cloth: tuple[float, float]
    needle: tuple[float, float]
    target: float
    wanted: tuple[float, float]
    soft: tuple[float, float]
    stepped: tuple[float, float] | None
    ground: str
    per_stitch: float
    width: float = WIDTH
    height: float = HEIGHT
    cloth_top: float = CLOTH_TOP
    cloth_tall: float = CLOTH_BOTTOM - CLOTH_TOP
    foot: float = BAND_BOTTOM
    line: float = RULER

    @property
    def ruler_path(self) -> str:
        """All marks of the ruler, which hang above the cloth."""
        return "".join(f"M{number(t.x)} {number(RULER)}v{number(-t.length)}" for t in self.ruler)

    @property
    def stitch_path(self) -> str:
        """All stitches on the needle."""
        return "".join(f"M{number(t.x)} {number(BAND_BOTTOM + 3)}v{number(t.length + 4)}" for t in self.stitches)


def draw_fan(view: BandView, below: int, unit: Unit, *, yarn: Yarn | None = None) -> Fan:
    """The fan of a band over `below` stitches; all widths to one scale, the first stitch at the right.

    Of a shaped band it is the widest row, with nothing below.
    """
    gauge = view.outlook.gauge
    below = view.stitches if view.shaping is not None else below  # a shaped band is drawn at its widest, by itself
    total, plain = body_um(view, view.outlook), plain_um(view.stitches, gauge)
    wanted, tolerance = view.piece.width_mm * 1000.0, view.piece.tolerance_mm * 1000.0
    half_80 = eighty_um(view)
    reach = max(total + half_80, wanted + tolerance)
    scale = (WIDTH - 2 * MARGIN) / max(plain, reach, plain_um(below, gauge))
    middle = WIDTH / 2
    # over the middle of the needle, unless its soft edge or the target would then run out of the picture
    cloth_left = min(middle - total * scale / 2, WIDTH - MARGIN - reach * scale)
    needle_left = middle - plain * scale / 2
    edge = cloth_left + total * scale
    stepped = None
    if below != view.stitches:
        half = plain_um(below, gauge) * scale / 2
        stepped = (middle - half, middle + half)
    return Fan(
        strips=tuple(
            _strips(view, scale, cloth_left + total * scale, needle_right=needle_left + plain * scale, yarn=yarn)
        ),
        ruler=tuple(_ruler(max(total, wanted), scale, cloth_left, unit=unit)),
        stitches=tuple(_stitch_ticks(view.stitches, needle_left, plain * scale)),
        cloth=(cloth_left, edge),
        needle=(needle_left, needle_left + plain * scale),
        target=cloth_left + wanted * scale,
        wanted=(cloth_left + (wanted - tolerance) * scale, cloth_left + (wanted + tolerance) * scale),
        soft=(edge - half_80 * scale, edge + half_80 * scale),
        stepped=stepped,
        ground=yarn_paint(yarn.colour if yarn else UNDYED).ground,
        per_stitch=plain * scale / view.stitches,
    )


def _strips(
    view: BandView, scale: float, cloth_right: float, *, needle_right: float, yarn: Yarn | None
) -> list[FanStrip]:
    out = []
    gauge, ratio = view.outlook.gauge, view.piece.estimate.ratio
    strip = (CLOTH_BOTTOM - CLOTH_TOP) / scale / (gauge.stitch_mm * 1000.0) * SCALE
    tall = TALL_STEP * math.ceil(strip / TALL_STEP)
    for i, s in enumerate(view.segments):
        um, plain = segment_um(s, view.outlook), plain_um(s.stitches, gauge)
        top, foot = um * scale, plain * scale
        x, f = cloth_right - top, needle_right - foot
        out.append(
            FanStrip(
                segment=i,
                name=s.name,
                family=s.pattern.family,
                stitches=s.stitches,
                loss=round(100 * (um / plain - 1)) if um else 0,
                cloth_x=x,
                cloth_width=top,
                middle=f + foot / 2,
                foot_width=foot,
                path=_band_path(x, cloth_right, f, foot_right=needle_right),
                pattern_id=s.pattern_id,
                image=segment_query(s, ratio, tall, yarn=yarn),
                image_height=tall / SCALE * gauge.stitch_mm * 1000.0 * scale,
                multiple=s.chart.multiple,
                repeats=s.repeats,
                foot_x=f,
            )
        )
        cloth_right, needle_right = x, f
    return out


def _band_path(left: float, right: float, foot_left: float, *, foot_right: float) -> str:
    bend = (BAND_TOP + BAND_BOTTOM) / 2
    points = [left, BAND_TOP, right, BAND_TOP, right, bend, foot_right, bend, foot_right, BAND_BOTTOM]
    head = "M{} {}L{} {}C{} {} {} {} {} {}".format(*map(number, points))
    tail = [foot_left, BAND_BOTTOM, foot_left, bend, left, bend, left, BAND_TOP]
    return head + "L{} {}C{} {} {} {} {} {}Z".format(*map(number, tail))


def _ruler(length_um: float, scale: float, left: float, *, unit: Unit) -> list[Tick]:
    step = MM_PER[unit] * 1000.0
    count = int(length_um / step + 1e-9)
    major = 10 if count > 15 else 5 if count > 8 else 1
    fine = 1 if count <= 160 else 5
    ticks = []
    for n in range(0, count + 1, fine):
        big = n % major == 0
        ticks.append(Tick(left + n * step * scale, 12.0 if big else 7.0 if n % 5 == 0 else 4.0, str(n) if big else ""))
    return ticks


def _stitch_ticks(stitches: int, left: float, width: float) -> list[Tick]:
    right, step = left + width, width / stitches
    out = []
    for n in range(1, stitches + 1):
        label = str(n) if n % 20 == 0 or n == 1 else ""
        out.append(Tick(right - (n - 0.5) * step, 10.0 if n % 10 == 0 else 6.0, label))
    return out
