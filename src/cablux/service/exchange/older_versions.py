"""Project files of earlier versions, brought to the form of today."""

from __future__ import annotations

import json
from typing import Any

from pydantic_core import from_json

_MOVED = ("segments", "border", "cast_on", "spread", "symmetric", "body_rows")


def upgrade_text(text: str | bytes) -> tuple[str | bytes, bool]:
    """The text in today's version, and whether its body was wished to be symmetric.

    What is not version 1 comes back as it is; what is wrong with it is found by whoever reads it.
    """
    if '"cablux": 2' in (text if isinstance(text, str) else text.decode("utf-8", "replace")):
        return text, False
    try:
        data = from_json(text)
    except ValueError:
        return text, False
    if not isinstance(data, dict) or data.get("cablux", 1) != 1 or "segments" not in data:
        return text, False
    return json.dumps(_from_first(data)), bool(data.get("symmetric", True))


def _from_first(data: dict[str, Any]) -> dict[str, Any]:
    """Version 1 had one body band and one kind of border."""
    border = data.get("border", {})
    edge = (dict(border) if isinstance(border, dict) else {"pattern": border}) | {
        new: data[old] for old, new in (("cast_on", "style"), ("spread", "spread")) if old in data
    }
    kept = {name: value for name, value in data.items() if name not in _MOVED}
    band = {"segments": data["segments"], "rows": data.get("body_rows", 0)}
    return kept | {"cablux": 2, "bottom": edge, "top": edge, "bands": [band]}
