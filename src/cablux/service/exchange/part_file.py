"""How a piece begins and ends in a project file: from holders, picked up; held, drawn together."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...core.piece.parts import EndKind, HeldGroup, HeldJoin, PartEnd, Source, SourceKind
from .field_types import Name
from .swatch_file import StrictModel


class SourceFile(StrictModel):
    """Stitches that a piece begins with: from a holder of that piece, or picked up along an edge of it."""

    kind: SourceKind
    piece: Annotated[int, Field(ge=1, le=9999)]
    name: Name
    stitches: Annotated[int, Field(ge=1, le=1500)]

    def source(self) -> Source:
        """The core's source."""
        return Source(kind=self.kind, piece=self.piece, name=self.name, stitches=self.stitches)


class HeldGroupFile(StrictModel):
    """Stitches left on a holder of their own; `joined`: how they meet those of another piece in the end."""

    name: Name
    stitches: Annotated[int, Field(ge=1, le=1500)]
    joined: HeldJoin = ""


class EndFile(StrictModel):
    """How a piece ends; `groups` are what is left on holders, from the right."""

    kind: EndKind = "bound off"
    groups: Annotated[tuple[HeldGroupFile, ...], Field(max_length=12)] = ()

    def end(self) -> PartEnd:
        """The core's end."""
        return PartEnd(self.kind, tuple(HeldGroup(g.name, g.stitches, g.joined) for g in self.groups))


def source_file(source: Source) -> SourceFile:
    """A source as the file keeps it."""
    return SourceFile(kind=source.kind, piece=source.piece, name=source.name, stitches=source.stitches)


def end_file(end: PartEnd) -> EndFile:
    """An end as the file keeps it."""
    groups = (HeldGroupFile(name=g.name, stitches=g.stitches, joined=g.joined) for g in end.groups)
    return EndFile(kind=end.kind, groups=tuple(groups))
