"""What a use case can refuse, with a sentence for the person."""

from __future__ import annotations

from ..core.errors import CabluxError


class NotFound(CabluxError):
    """There is no such project, row or step."""


class BadFile(CabluxError):
    """A file that is not a project file of ours; the message names every fault and its place."""
