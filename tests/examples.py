"""How many examples a property is tried on: few in `make test-fast`, more in `make test`, new ones in `make wander`."""

from __future__ import annotations

from collections.abc import Iterable

from hypothesis import settings

BRIEF, HOUSE, WANDER = 4, 30, 600
"""Examples where a test names no number of its own."""


def examples(few: int) -> settings:
    """So many in `make test`, in proportion in the others."""
    return settings(max_examples=max(1, few * settings.default.max_examples // HOUSE))


def each(every: Iterable[str]) -> list[str]:
    """All of them; in `make test-fast` every fifth."""
    return list(every)[:: 5 if settings.default.max_examples == BRIEF else 1]
