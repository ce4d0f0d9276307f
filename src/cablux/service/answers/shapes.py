"""What a project can be made as, and what each shape asks."""

from __future__ import annotations

from .answer import Answer


class AskedFor(Answer):
    """A measure or a choice: its default in the unit asked for, and where that comes from."""

    name: str
    label: str
    default: float | str
    unit: str
    choices: tuple[str, ...]
    source: str


class ShapeAsked(Answer):
    """A shape with all that it asks."""

    id: str
    name: str
    what: str
    asks: tuple[AskedFor, ...]
