"""On how many examples a thing is tried: few in `make test-fast`, more in `make test`, all and new in `make wander`."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from typing import TypeVar

import pytest
from hypothesis import settings

BRIEF, HOUSE, WANDER = 4, 20, 600
"""Examples where a test names no number of its own."""
Value = TypeVar("Value")
Test = TypeVar("Test", bound=Callable[..., None])


def examples(few: int) -> settings:
    """So many in `make test`, in proportion in the others."""
    return settings(max_examples=max(1, few * settings.default.max_examples // HOUSE))


def wandering() -> bool:
    """Whether all is tried that could be: in `make wander`."""
    return settings.default.max_examples >= WANDER


def each(every: Iterable[Value], of: int = 1) -> list[Value]:
    """All of them in `make wander`, every so many-th in `make test`, of those every fifth in `make test-fast`."""
    step = 1 if wandering() else of
    return list(every)[:: 5 * step if settings.default.max_examples == BRIEF else step]


def turn_of(at: int, choices: Sequence[Value]) -> Sequence[Value]:
    """What the so many-th is tried with: all of the choices in `make wander`, else the one whose turn it is."""
    return choices if wandering() else (choices[at % len(choices)],)


def over(names: str | tuple[str, ...], every: Iterable[object], of: int = 1) -> Callable[[Test], Test]:
    """Tries a test on every so many-th of these, and on all of them in `make wander`."""

    def mark(test: Test) -> Test:
        return pytest.mark.breadth(pytest.mark.parametrize(names, each(every, of), ids=_called)(test))

    return mark


def _called(value: object) -> str | None:
    return str(value)[:60] if isinstance(value, dict | tuple) else None
