"""The schematic of a piece with an outline of its own, bent or in a V: to scale, its panels, what it measures."""

from __future__ import annotations

from ..core.piece.own_outline import OwnOutline
from ..core.units import Unit
from .svg import picture_root

ACROSS, UP = 440.0, 320.0
_MARGIN, _LINE = 8.0, 22.0


def draw_own_schematic(name: str, own: OwnOutline, unit: Unit, *, bare: bool = False, scale: float = 0.0) -> str:
    """The outline as SVG; `bare` leaves the words off. `scale`: picture units to a micrometre; 0 fills the picture."""
    shapes = [("schematic-body", own.corners)]
    shapes += [(f"schematic-panel family-{panel.family}", panel.corners) for panel in own.panels]
    turn = -1.0 if own.hangs else 1.0
    low, high = min(turn * x for x, _ in own.corners), max(turn * y for _, y in own.corners)
    foot = _MARGIN if bare else _MARGIN + 10.0 + _LINE * len(own.captions)
    scale = scale or min((ACROSS - 2.0 * _MARGIN) / own.span_um, (UP - _MARGIN - foot) / own.tall_um)
    across, up = own.span_um * scale + 2.0 * _MARGIN, own.tall_um * scale + _MARGIN + foot
    label = f"{name} in outline"
    root = picture_root(across if bare else ACROSS, up, class_="schematic", role="img", aria_label=label)
    left = _MARGIN if bare else (ACROSS - across) / 2.0 + _MARGIN
    for css, points in shapes:
        moved = (f"{left + (turn * x - low) * scale:.1f} {_MARGIN + (high - turn * y) * scale:.1f}" for x, y in points)
        root.add("path", class_=css, d="M" + "L".join(moved) + "Z")
    for n, caption in enumerate(() if bare else own.captions):
        at = up - 12.0 - _LINE * (len(own.captions) - 1 - n)
        root.add("text", x=ACROSS / 2.0, y=at, class_="schematic-middle").text = caption.text(unit)
    return root.write()
