"""Raking light from the upper left: how bright a strand is by the way it runs and how far it stands out."""

from __future__ import annotations

import numpy as np

from ..core.fabric.network import Floats
from .visible_loops import PURL, VisibleLoops

_LIGHT = (0.84, 0.55)  # where the light comes from: left, and up
_PLAIN = 0.5  # the brightness of a strand that runs straight up in the plane: the yarn's own colour


def leg_tone(dx: Floats, dy: Floats, stands: Floats, *, lean: Floats) -> Floats:
    """Brightness 0 to 1 of legs that run (dx right, dy up): one across the light shines, one along it does not."""
    across = np.abs(dx * _LIGHT[1] - dy * _LIGHT[0]) / np.hypot(dx, dy)
    return np.asarray(_PLAIN + 0.26 * (across - 0.85) + 0.3 * stands - 0.12 * np.clip(lean, -1.0, 1.0), float)


def loop_tone(loops: VisibleLoops) -> Floats:
    """Brightness of whole loops; purl ones by how far their bumps stand out of a ground of purl."""
    up = np.full(loops.x.size, loops.row)
    legs = leg_tone(loops.lean, up, loops.stands, lean=loops.lean)
    return np.where(loops.kind == PURL, bump_tone(loops), legs)


def bump_tone(loops: VisibleLoops) -> Floats:
    """Brightness of a purl bump: dark in the depth of a purl ground, as light as a knit stitch on a ridge."""
    return np.asarray(0.42 + 0.5 * np.clip(loops.stands, -0.6, 1.0) - 0.1 * loops.ground + 0.1 * -loops.lean, float)
