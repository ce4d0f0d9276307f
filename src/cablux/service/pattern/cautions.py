"""What to mind: what the shape warns of, and the usual cautions in plain words."""

from __future__ import annotations

from ..exchange import ProjectFile
from ..shapes import shape_cautions

BLANKET_MM = 500.0
"""Our choice: a flat piece that is so wide and so high may come to lie on a small child."""
BLANKET = (
    "As a baby blanket: for supervised use in the pram or on the floor, not for unattended sleep; ask first whether "
    "wool irritates."
)
HANDS = "If your hands hurt or tingle, stop; if it does not pass, ask a health professional."


def pattern_cautions(file: ProjectFile) -> tuple[str, ...]:
    """The cautions of a project, those that everyone is told last."""
    pieces = file.all_pieces()
    blanket = any(not p.round and min(p.width_mm, p.height_mm) >= BLANKET_MM for p in pieces) and not file.joins
    return (*shape_cautions(file), *((BLANKET,) if blanket else ()), HANDS)
