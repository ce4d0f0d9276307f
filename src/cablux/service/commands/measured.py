"""Commands about what was measured: swatches that a project goes by, its method, measurements of the piece."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...core.gauge import Along, Method, State
from .. import gauge
from ..exchange import ProjectFile
from .command import Command, Here

At = Annotated[int, Field(ge=0, le=100)]


class UseSwatch(Command):
    """Lets the project go by a swatch of the book."""

    do: Literal["use swatch"] = "use swatch"
    swatch: Annotated[int, Field(ge=1)]

    def label(self, here: Here) -> str:
        return f"use swatch {here.swatch(self.swatch).name}"

    def apply(self, here: Here) -> ProjectFile:
        return gauge.use_swatch(here.swatch(self.swatch))(here.file)


class _OfUsed(Command):
    """An edit of a swatch that the project goes by, by its place among those."""

    at: At

    def named(self, here: Here) -> str:
        used = here.file.swatches
        return used[self.at].swatch.name if self.at < len(used) else "a swatch"


class LeaveSwatch(_OfUsed):
    """Leaves a swatch out again."""

    do: Literal["leave swatch"] = "leave swatch"

    def label(self, here: Here) -> str:
        return f"stop using {self.named(here)}"

    def apply(self, here: Here) -> ProjectFile:
        return gauge.leave_out_swatch(self.at)(here.file)


class ToggleYarn(_OfUsed):
    """Says that a swatch is in the piece's own yarn, or that it is not."""

    do: Literal["toggle yarn"] = "toggle yarn"

    def label(self, here: Here) -> str:
        return f"same yarn or not: {self.named(here)}"

    def apply(self, here: Here) -> ProjectFile:
        return gauge.same_yarn(self.at)(here.file)


class RenewSwatch(_OfUsed):
    """Takes a swatch over anew, as it is in the book now."""

    do: Literal["renew swatch"] = "renew swatch"

    def label(self, here: Here) -> str:
        return f"new measurements of {self.named(here)}"

    def apply(self, here: Here) -> ProjectFile:
        return gauge.renew_swatch(self.at, here.swatch)(here.file)


class ChooseMethod(Command):
    """Sizes the project by another method."""

    do: Literal["choose method"] = "choose method"
    method: Method

    def label(self, here: Here) -> str:
        return f"sized {gauge.METHOD_NAMES[self.method][0].lower()}"

    def apply(self, here: Here) -> ProjectFile:
        return gauge.choose_method(self.method)(here.file)


class AddMeasurement(Command):
    """What was measured on the piece itself after a row, in one place or several, in the project's unit."""

    do: Literal["add measurement"] = "add measurement"
    row: Annotated[int, Field(ge=1, le=10_000)]
    values: str
    along: Along = "width"
    state: State = "as knitted"
    on_needle: bool = True

    def label(self, here: Here) -> str:
        return f"measurement after row {self.row}"

    def apply(self, here: Here) -> ProjectFile:
        values = gauge.read_lengths(self.values)
        return gauge.add_measure(self.row, self.along, values, state=self.state, on_needle=self.on_needle)(here.file)


class RemoveMeasurement(Command):
    """Takes a measurement of the piece back, by its place."""

    do: Literal["remove measurement"] = "remove measurement"
    at: At

    def label(self, here: Here) -> str:
        return "remove a measurement"

    def apply(self, here: Here) -> ProjectFile:
        return gauge.remove_measure(self.at)(here.file)


COMMANDS = (UseSwatch, LeaveSwatch, ToggleYarn, RenewSwatch, ChooseMethod, AddMeasurement, RemoveMeasurement)
