"""Where one is: a project, and which of its pieces; as addresses and forms write it."""

from __future__ import annotations

import re
from dataclasses import dataclass

from ..errors import NotFound


@dataclass(frozen=True, order=True)
class Place:
    """A project by its number, and the number of one of its pieces: 0 is its first.

    >>> str(Place(3)), str(Place(3, 2)), Place.parse("3-2")
    ('3', '3-2', Place(project=3, piece=2))
    """

    project: int
    piece: int = 0

    def __str__(self) -> str:
        return f"{self.project}-{self.piece}" if self.piece else str(self.project)

    @staticmethod
    def parse(text: str) -> Place:
        """The place that such a text names. Raises NotFound."""
        found = re.fullmatch(r"(\d{1,9})(?:-(\d{1,4}))?", text)
        if not found:
            raise NotFound("There is no such project; it may have been removed.")
        return Place(int(found[1]), int(found[2] or 0))


def place_of(where: Place | int) -> Place:
    """A place; of a project's number alone its first piece."""
    return Place(where) if isinstance(where, int) else where
