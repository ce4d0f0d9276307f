"""How many examples a property is tried on: few in `make test`, twenty times as many and new ones in `make wander`."""

from __future__ import annotations

from hypothesis import settings

HOUSE, WANDER = 30, 600
"""Examples where a test names no number of its own."""


def examples(few: int) -> settings:
    """So many in `make test`, in proportion in `make wander`."""
    return settings(max_examples=max(1, few * settings.default.max_examples // HOUSE))
