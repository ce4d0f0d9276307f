"""Commands: an edit of a project as a thing of its own, with the name it has in the history and what it does."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from ...core.library import StitchPattern, find_pattern
from ...core.piece.piece import BandView, Piece
from ...core.piece.segment import Segment
from ..errors import NotFound
from ..exchange import ProjectFile
from ..projects import Place as ProjectPlace
from ..projects import Project, Projects, on_piece, piece_of
from ..swatches import Swatch

PieceEdit = Callable[[Piece], Piece]
Place = Annotated[int, Field(ge=0, le=999)]
"""The place of a segment in its band, from the right; the first is 0."""
Places = Annotated[tuple[Place, ...], Field(min_length=1, max_length=60)]
BandPlace = Annotated[int, Field(ge=0, le=10)]


def _no_swatch(number: int) -> Swatch:
    raise NotFound(f"There is no swatch {number} here; it is in the swatch book.")


@dataclass(frozen=True, kw_only=True)
class Here:
    """What a command is carried out on: a project's file, open at a piece, and where patterns and swatches are found.

    Without a drawer and a swatch book, as on the command line, patterns are the library's and there are no swatches.
    `spent` finds the highest number of a piece that was ever knitted at; few commands ask.
    """

    file: ProjectFile
    pattern: Callable[[str], StitchPattern] = find_pattern
    swatch: Callable[[int], Swatch] = _no_swatch
    spent: Callable[[], int] = lambda: 0

    @property
    def piece(self) -> Piece:
        """The piece at hand."""
        return piece_of(self.file)

    def on(self, file: ProjectFile) -> Here:
        """The same of another state of the file."""
        return replace(self, file=file)


class Command(BaseModel):
    """An edit of a project. `label` names it for the history; `apply` gives the next file, or raises a CabluxError.

    Each has its own `do`, by which a script calls it.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    def label(self, here: Here) -> str:
        """What it is called in the history, told of the project as it is before."""
        raise NotImplementedError

    def apply(self, here: Here) -> ProjectFile:
        """The project after it, open at the piece at hand then. Raises a CabluxError for what cannot be done."""
        raise NotImplementedError


class PieceCommand(Command):
    """An edit of the piece at hand; those that go on from its held stitches follow."""

    def edit(self, here: Here) -> PieceEdit:
        """What it does to the piece."""
        raise NotImplementedError

    def apply(self, here: Here) -> ProjectFile:
        """The project with the piece edited."""
        return on_piece(self.edit(here))(here.file)


class BandCommand(PieceCommand):
    """An edit of one band."""

    band: BandPlace = 0

    def view(self, here: Here) -> BandView:
        """The band as it is, or the last one where it is gone."""
        views = here.piece.band_views
        return views[min(self.band, len(views) - 1)]


class SegmentCommand(BandCommand):
    """An edit of segments of one band, by their places."""

    at: Places

    def first(self, here: Here) -> Segment | None:
        """The segment named first, if it is there."""
        segments = self.view(here).segments
        return segments[self.at[0]] if self.at[0] < len(segments) else None

    def named(self, here: Here) -> str:
        """What is edited, for the history."""
        if len(self.at) > 1:
            return f"{len(self.at)} segments"
        first = self.first(here)
        return first.name if first else "a segment"


MOST_LABEL = 200  # characters of a step's name


def carry_out(
    projects: Projects,
    where: ProjectPlace | int,
    command: Command,
    *,
    pattern: Callable[[str], StitchPattern] = find_pattern,
    swatch: Callable[[int], Swatch] = _no_swatch,
) -> Project:
    """Carries a command out on a stored project, as one step that can be undone. Raises a CabluxError."""
    file = projects.open(where).file
    here = Here(file=file, pattern=pattern, swatch=swatch, spent=lambda: projects.spent_number(where))
    label, opened = command.label(here)[:MOST_LABEL], here.file.own.number

    def change(file: ProjectFile) -> ProjectFile:
        nonlocal opened
        after = command.apply(here.on(file))
        opened = after.own.number
        return after

    changed = projects.change(where, label, change)
    return changed if changed.file.own.number == opened else projects.open(ProjectPlace(changed.id, opened))
