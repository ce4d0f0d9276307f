"""What a use case can refuse, with a sentence for the person."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.errors import CabluxError, IllegalPiece


class NotFound(CabluxError):
    """What was asked for does not exist, or no longer does."""


class TooEarly(CabluxError):
    """What was sent wants something before it that has not arrived yet; it may be sent again after that."""


class BadFile(CabluxError):
    """A file that cannot be taken in."""


class InvalidForm(IllegalPiece):
    """A form with mistakes: `fields` has a sentence for each field, by its name, that says what to type."""

    def __init__(self, fields: Mapping[str, str]) -> None:
        super().__init__(" ".join(dict.fromkeys(fields.values())))
        self.fields = dict(fields)
