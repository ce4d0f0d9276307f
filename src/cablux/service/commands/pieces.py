"""Commands about the pieces of a project: their names and copies, other measures, another size, one layout for all."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..exchange import ProjectFile, checked_file
from ..forms import PLAIN
from ..pieces import matched_to, square_with
from ..projects import on_others, with_added, without_piece
from ..shapes import ShapeForm, after_layout, made_anew, measured_shape, shared_layout
from ..size_form import SizeForm, changed_file
from ..sizes import file_in
from .command import Command, Here
from .segments import PatternId


class NamePiece(Command):
    """Another name for the piece at hand, and how many times it is worked."""

    do: Literal["name piece"] = "name piece"
    name: Annotated[str, Field(max_length=80)] = ""
    copies: Annotated[int, Field(ge=1, le=100)] = 1

    def label(self, here: Here) -> str:
        return f"{self.name or 'the piece'} × {self.copies}"

    def apply(self, here: Here) -> ProjectFile:
        return checked_file(here.file.with_own(name=self.name, copies=self.copies))


class CopyPiece(Command):
    """One more piece that begins as the one at hand is."""

    do: Literal["copy piece"] = "copy piece"

    def label(self, here: Here) -> str:
        return f"copy {_name(here)}"

    def apply(self, here: Here) -> ProjectFile:
        return with_added(here.file, _name(here), here.piece, spent=here.spent())


class RemovePiece(Command):
    """Takes the piece at hand out, and its joins; a project keeps one piece."""

    do: Literal["remove piece"] = "remove piece"

    def label(self, here: Here) -> str:
        return f"remove {_name(here)}"

    def apply(self, here: Here) -> ProjectFile:
        return without_piece(here.file)


class AddSquare(Command):
    """A new square like the piece at hand with another panel, in a ready arrangement."""

    do: Literal["add square"] = "add square"
    pattern: PatternId
    arrangement: str = "one wide in the middle"
    name: Annotated[str, Field(max_length=80, pattern=PLAIN)] = ""

    def label(self, here: Here) -> str:
        return f"add {self.name or here.pattern(self.pattern).name}"

    def apply(self, here: Here) -> ProjectFile:
        pattern = here.pattern(self.pattern)
        square = square_with(here.piece, pattern, self.arrangement)
        return with_added(here.file, self.name or pattern.name, square, spent=here.spent())


class MatchSquares(Command):
    """Gives all other squares the size, edges and borders of the one at hand, with their own counts: all or none."""

    do: Literal["match squares"] = "match squares"

    def label(self, here: Here) -> str:
        return f"match {_name(here)}"

    def apply(self, here: Here) -> ProjectFile:
        return on_others(matched_to(here.piece))(here.file)


def _name(here: Here) -> str:
    return str(here.file.own.name or here.file.name)


class ShareLayout(Command):
    """All pieces made after the layout of the one that shows the project best."""

    do: Literal["share layout"] = "share layout"

    def label(self, here: Here) -> str:
        return f"all pieces after the layout of {shared_layout(here.file)}"

    def apply(self, here: Here) -> ProjectFile:
        return after_layout(here.file)


class TakeSize(Command):
    """The project made in another size of its table."""

    do: Literal["take size"] = "take size"
    size: str

    def label(self, here: Here) -> str:
        return f"Size {self.size}"

    def apply(self, here: Here) -> ProjectFile:
        return file_in(here.file, self.size)


class SetSizeAndYarn(Command):
    """Size, yarn and gauge as they are typed; the layout stays, or is fitted to them."""

    do: Literal["set size and yarn"] = "set size and yarn"
    form: SizeForm
    fit: bool = False

    def label(self, here: Here) -> str:
        f = self.form
        size = f"size {f.width.strip()} × {f.height.strip()} {f.unit}, gauge {f.stitches.strip()}"
        return size + (", layout fitted" if self.fit else "")

    def apply(self, here: Here) -> ProjectFile:
        return changed_file(here.file, self.form, fit=self.fit)


class SetMeasures(Command):
    """Other measures of the project's shape, by the names of what it asks, and other panels; none given stay."""

    do: Literal["set measures"] = "set measures"
    form: ShapeForm
    panels: Annotated[tuple[PatternId, ...], Field(max_length=20)] = ()

    def label(self, here: Here) -> str:
        return f"{measured_shape(here.file).name}: other measures"

    def apply(self, here: Here) -> ProjectFile:
        return made_anew(self.form, tuple(map(here.pattern, self.panels)))(here.file)


COMMANDS = (
    NamePiece,
    CopyPiece,
    RemovePiece,
    AddSquare,
    MatchSquares,
    ShareLayout,
    TakeSize,
    SetSizeAndYarn,
    SetMeasures,
)
