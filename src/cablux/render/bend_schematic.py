"""The schematic of a bent band: its sector to scale, with its panels, its radius and the lengths of its edges."""

from __future__ import annotations

import math
from itertools import accumulate

from ..core.layout.heights import plan_rows
from ..core.layout.piece import Piece
from ..core.layout.widths import segment_um
from ..core.shaping.outline import Bend
from ..core.units import Unit, length_text
from .svg import Point, picture_root

ACROSS, UP = 440.0, 320.0
_STEPS = 48


def draw_bend_schematic(piece: Piece, bend: Bend, unit: Unit, *, bare: bool = False) -> str:
    """The band along its bend as SVG; `bare` leaves the words off."""
    view = piece.band_views[0]
    widths = [segment_um(s, view.outlook) / 1000.0 for s in view.segments]
    order = range(len(widths)) if bend.inside == "right" else range(len(widths) - 1, -1, -1)
    ends = [0.0, *accumulate(widths[at] for at in order)]
    length, radius, wide = plan_rows(piece).height_um / 1000.0, bend.radius_mm, ends[-1]
    angle = min(length / radius, 2.0 * math.pi - 0.02)
    hand = -1.0 if bend.inside == "right" else 1.0

    def place(away: float, turn: float) -> Point:
        return hand * (radius + away) * math.cos(turn), -(radius + away) * math.sin(turn)

    def sector(low: float, high: float) -> list[Point]:
        turns = [angle * n / _STEPS for n in range(_STEPS + 1)]
        return [place(low, t) for t in turns] + [place(high, t) for t in reversed(turns)]

    shapes = [("schematic-body", sector(0.0, wide))]
    for n, at in enumerate(order):
        if view.segments[at].is_panel:
            shapes.append((f"schematic-panel family-{view.segments[at].pattern.family}", sector(ends[n], ends[n + 1])))
    xs, ys = zip(*shapes[0][1], strict=True)
    foot = 8.0 if bare else 62.0
    scale = min((ACROSS - 16.0) / (max(xs) - min(xs)), (UP - 8.0 - foot) / (max(ys) - min(ys)))
    across, up = (max(xs) - min(xs)) * scale + 16.0, (max(ys) - min(ys)) * scale + 8.0 + foot
    label = f"{piece.name} in outline"
    root = picture_root(across if bare else ACROSS, up, class_="schematic", role="img", aria_label=label)
    left = 8.0 if bare else (ACROSS - across) / 2.0 + 8.0
    for css, points in shapes:
        moved = (f"{left + (x - min(xs)) * scale:.1f} {8.0 + (y - min(ys)) * scale:.1f}" for x, y in points)
        root.add("path", class_=css, d="M" + "L".join(moved) + "Z")
    if not bare:
        outside = length * (radius + wide) / radius
        said = (
            f"inside {length_text(length, unit)}, outside {length_text(outside, unit)}",
            f"{length_text(wide, unit)} wide, radius inside {length_text(radius, unit)}",
        )
        for n, words in enumerate(said):
            root.add("text", x=ACROSS / 2.0, y=up - 34.0 + 22.0 * n, class_="schematic-middle").text = words
    return root.write()
