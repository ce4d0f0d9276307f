"""Keeps computed draw-ins between runs in the data folder, so that a start need not relax everything again."""

from __future__ import annotations

import json
from dataclasses import asdict
from pathlib import Path

from ...core.fabric.draw_in import DrawIn, known_draw_ins, model_fingerprint, restore_draw_ins

FILE = "draw-in-cache.json"


def load_draw_ins(folder: Path) -> None:
    """Takes back what earlier runs computed; a file that cannot be read is ignored, it is only a memory."""
    try:
        data = json.loads((folder / FILE).read_text("utf-8"))
        restore_draw_ins({key: DrawIn(**value) for key, value in data.items()})
    except (OSError, ValueError, TypeError, AttributeError):
        return


def save_draw_ins(folder: Path) -> None:
    """Writes down what this model has computed; what an older model computed is dropped."""
    mine = {key: asdict(value) for key, value in known_draw_ins().items() if key.startswith(model_fingerprint())}
    fresh = folder / f"{FILE}.new"
    fresh.write_text(json.dumps(mine), "utf-8")
    fresh.replace(folder / FILE)
