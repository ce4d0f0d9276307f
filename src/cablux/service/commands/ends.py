"""Commands about how a piece begins and ends, and how many rows it has."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .. import bench
from ..exchange import ProjectFile
from ..gauge import set_body_rows
from .command import Command, Here, PieceCommand, PieceEdit


class SetBorder(PieceCommand):
    """The bottom or the top border; what is not given stays. `count` 0: it follows from the style again."""

    do: Literal["set border"] = "set border"
    end: Literal["bottom", "top"] = "bottom"
    pattern: str = ""
    rows: int | None = None
    style: Literal["", "stepped", "straight"] = ""
    spread: Literal["", "cables", "even"] = ""
    percent: Annotated[float | None, Field(allow_inf_nan=False)] = None
    count: int | None = None

    def label(self, here: Here) -> str:
        return bench.border_difference(here.piece, self.edit(here)(here.piece), self.end)

    def edit(self, here: Here) -> PieceEdit:
        return bench.set_border(
            self.end,
            pattern=self.pattern,
            rows=self.rows,
            style=self.style,
            spread=self.spread,
            factor=None if self.percent is None else self.percent / 100.0,
            count=self.count,
        )


class SetDense(PieceCommand):
    """Whether a row that changes the count may make a stitch in every gap, or only after every other stitch."""

    do: Literal["set increases"] = "set increases"
    dense: bool

    def label(self, here: Here) -> str:
        return "increases in every gap" if self.dense else "increases after every other stitch"

    def edit(self, here: Here) -> PieceEdit:
        return bench.set_making(dense=self.dense)


class TakeRows(PieceCommand):
    """Takes one of the ways to end the piece, by its name."""

    do: Literal["take rows"] = "take rows"
    name: str

    def label(self, here: Here) -> str:
        return f"rows: {self.name}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.take_row_choice(self.name)


class SetBodyRows(Command):
    """So many rows of the first band; 0 lets them follow from the height again."""

    do: Literal["set rows"] = "set rows"
    rows: Annotated[int, Field(ge=0, le=5000)]

    def label(self, here: Here) -> str:
        return f"{self.rows} rows of body" if self.rows else "rows of body from the height"

    def apply(self, here: Here) -> ProjectFile:
        return set_body_rows(self.rows)(here.file)


COMMANDS = (SetBorder, SetDense, TakeRows, SetBodyRows)
