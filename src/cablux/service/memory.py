"""Keeps computed draw-ins between runs in the data folder, so that a start need not relax everything again."""

from __future__ import annotations

import json
from dataclasses import asdict
from pathlib import Path

from ..core.fabric.tile import Draw, model_fingerprint, remember, remembered

FILE = "draw-in-cache.json"


def recall(folder: Path) -> None:
    """Takes back what earlier runs computed; a file that cannot be read is ignored, it is only a memory."""
    try:
        data = json.loads((folder / FILE).read_text("utf-8"))
        remember({key: Draw(**value) for key, value in data.items()})
    except (OSError, ValueError, TypeError, AttributeError):
        return


def store(folder: Path) -> None:
    """Writes down what this model has computed; what an older model computed is dropped."""
    mine = {key: asdict(value) for key, value in remembered().items() if key.startswith(model_fingerprint())}
    fresh = folder / f"{FILE}.new"
    fresh.write_text(json.dumps(mine), "utf-8")
    fresh.replace(folder / FILE)
