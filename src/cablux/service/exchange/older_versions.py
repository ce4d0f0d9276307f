"""Project files of earlier versions, brought step by step to the form of today."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pydantic_core import from_json

Document = dict[str, Any]

_MOVED = ("segments", "border", "cast_on", "spread", "symmetric", "body_rows")
_OF_THE_PIECE = (
    *("size", "round", "bottom", "bands", "top", "gaps", "least_background", "total_multiple", "total_plus"),
    *("setup_rows", "dense", "short_rows", "measured"),
)


def _from_first(data: Document) -> Document:
    """Version 1 had one body band and one kind of border."""
    border = data.get("border", {})
    edge = (dict(border) if isinstance(border, dict) else {"pattern": border}) | {
        new: data[old] for old, new in (("cast_on", "style"), ("spread", "spread")) if old in data
    }
    kept = {name: value for name, value in data.items() if name not in _MOVED}
    band = {"segments": data.get("segments"), "rows": data.get("body_rows", 0)}
    return kept | {"cablux": 2, "bottom": edge, "top": edge, "bands": [band]}


def _from_second(data: Document) -> Document:
    """Version 2 had one piece, whose fields stood among the project's; `squares` named a set of such projects."""
    piece = {name: data[name] for name in _OF_THE_PIECE if name in data}
    kept = {name: value for name, value in data.items() if name not in (*_OF_THE_PIECE, "squares")}
    return kept | {"cablux": 3, "pieces": [piece]}


def _from_third(data: Document) -> Document:
    """Version 3 had one record for every kind of shaping, whose fields excluded each other."""
    return data | {"cablux": 4} | _each(data, "pieces", lambda piece: piece | _each(piece, "bands", _kind_told))


_MANNER = {"increase": "increase", "lean": "lean", "manner": "schedule", "every_row": "every_row", "sewn": "sewn"}
_MANNER |= {"whole_panels": "whole_panels"}
_KIND_OF = (("bend", "bend"), ("heel", "heel"), ("short", "short rows"), ("sections", "sections"))
_KEPT = {
    "edges": ("edges", "steps", "rates"),
    "sections": ("sections", "holders", "cabled", "rates"),
    "bend": ("bend",),
    "heel": ("heel",),
    "short rows": ("short", "sections"),
}
_IDLE = {"edges", "cabled", "rates", *_MANNER}
"""What had no say in some kinds; anything else that a kind does not have stays, and is refused by its name."""


def _kind_told(band: Document) -> Document:
    old = band.get("shaping")
    if not isinstance(old, dict):
        return band
    kind = next((kind for name, kind in _KIND_OF if old.get(name)), "edges")
    stays = {name: value for name, value in old.items() if value and name not in _IDLE and name not in _KEPT[kind]}
    new = {"kind": kind} | stays | {name: old[name] for name in _KEPT[kind] if name in old}
    if kind in ("edges", "sections"):
        new["manner"] = {name: old[was] for was, name in _MANNER.items() if was in old}
    if "bend" in new and isinstance(new["bend"], dict):
        new |= new.pop("bend")
    if "short" in new:
        new["rows"] = new.pop("short")
    return band | {"shaping": new}


_NEW_NAMES = {"school": "method", "gutter": "purl_margin"}
"""What version 4 called otherwise: a project's method, and a panel's purl margin."""


def _from_fourth(data: Document) -> Document:
    """Version 4 called a method a school, a panel's purl margin its gutter, and parts of an edge half and whole."""
    renamed = _renamed(data)
    pieces, joins = _each(renamed, "pieces", _with_purl_margins), _each(renamed, "joins", _with_parts)
    return _without_strays(renamed | {"cablux": 5} | pieces | joins)


def _without_strays(data: Document) -> Document:
    """Without joins that go on along a piece that is gone: its removal used to leave them, and no page could open."""
    if not isinstance(data.get("pieces"), list) or not isinstance(data.get("joins"), list):
        return data
    numbers = [piece.get("number", 1) for piece in data["pieces"] if isinstance(piece, dict)]
    return data | {"joins": [join for join in data["joins"] if not _strays(join, numbers)]}


def _strays(join: Any, numbers: list[Any]) -> bool:
    more = join.get("more") if isinstance(join, dict) else None
    edges = more if isinstance(more, list) else []
    return any(isinstance(edge, dict) and edge.get("piece") not in numbers for edge in edges)


def _with_parts(join: Document) -> Document:
    edges = {name: _part(join[name]) for name in ("one", "other") if isinstance(join.get(name), dict)}
    return join | edges | _each(join, "more", _part)


def _part(edge: Document) -> Document:
    over = edge.get("over")
    return edge | {"over": {"": 0.0, "half": 0.5, "whole": 1.0}.get(over, over)} if isinstance(over, str) else edge


def _with_purl_margins(piece: Document) -> Document:
    return piece | _each(piece, "bands", lambda band: band | _each(band, "segments", _renamed))


def _renamed(data: Document) -> Document:
    return {_NEW_NAMES.get(name, name): value for name, value in data.items()}


def _each(data: Document, listed: str, change: Callable[[Document], Document]) -> Document:
    """The list of that name with its documents changed; nothing where there is none, for whoever reads it to refuse."""
    if not isinstance(found := data.get(listed), list):
        return {}
    return {listed: [change(each) if isinstance(each, dict) else each for each in found]}


UPGRADES: dict[int, Callable[[Document], Document]] = {
    1: _from_first,
    2: _from_second,
    3: _from_third,
    4: _from_fourth,
}
"""From each version to the next."""


@dataclass(frozen=True)
class Upgraded:
    """A file's text in today's version, and the version in which it was written.

    `folds`: its body was wished to be symmetric, which version 1 did not enforce.
    """

    text: str | bytes
    version: int = max(UPGRADES) + 1
    folds: bool = False

    def place(self, sentence: str) -> str:
        """What is wrong, with the place as it stands in the file that was read."""
        if self.version <= 4:
            for old, new in _NEW_NAMES.items():
                sentence = sentence.replace(f"{new}”", f"{old}”")
        return sentence if self.version > 2 else sentence.replace("“pieces.1.", "“")


def upgraded(text: str | bytes) -> Upgraded:
    """The text in today's version.

    What cannot be read comes back as it is: what is wrong with it is found by whoever reads it.
    """
    try:
        data = from_json(text)
    except ValueError:
        return Upgraded(text)
    if not isinstance(data, dict):
        return Upgraded(text)
    written = version = data.get("cablux", 1)
    if not isinstance(version, int) or version not in UPGRADES:
        return Upgraded(text)
    wished = version == 1 and bool(data.get("symmetric", True))
    while version in UPGRADES:
        data = UPGRADES[version](data)
        version += 1
    return Upgraded(json.dumps(data), written, wished)
