"""Commands about the segments of a band: what stands where, how often, and how."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...core.units import to_mm
from .. import bench
from .command import BandCommand, Here, PieceEdit, Place, SegmentCommand

PatternId = Annotated[str, Field(pattern=r"^[a-z0-9-]{1,60}$")]


class AddPattern(BandCommand):
    """Puts a pattern in at a place: parts the background there, or stands beside what is there."""

    do: Literal["add pattern"] = "add pattern"
    pattern: PatternId
    at: Place

    def label(self, here: Here) -> str:
        return f"add {here.pattern(self.pattern).name}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.insert_pattern(self.band, here.pattern(self.pattern), self.at)


class RemoveSegments(SegmentCommand):
    """Takes segments out; the backgrounds that meet become one."""

    do: Literal["remove segments"] = "remove segments"

    def label(self, here: Here) -> str:
        return f"remove {self.named(here)}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.remove_segments(self.band, self.at)


class MoveSegment(SegmentCommand):
    """Puts a segment where another stands."""

    do: Literal["move segment"] = "move segment"
    to: Annotated[int, Field(ge=0, le=100)]

    def label(self, here: Here) -> str:
        return f"move {self.named(here)}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.move_segment(self.band, self.at[0], self.to)


class SetRepeats(SegmentCommand):
    """How often the segments' multiples are worked."""

    do: Literal["set repeats"] = "set repeats"
    repeats: int

    def label(self, here: Here) -> str:
        return f"{self.repeats} × {self.named(here)}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.set_repeats(self.band, self.at, self.repeats)


class StepRepeats(SegmentCommand):
    """Some repeats more or fewer."""

    do: Literal["step repeats"] = "step repeats"
    by: Annotated[int, Field(ge=-100, le=100)]

    def label(self, here: Here) -> str:
        return f"{'more' if self.by > 0 else 'fewer'} repeats of {self.named(here)}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.step_repeats(self.band, self.at, self.by)


class SetStitches(SegmentCommand):
    """So many stitches, which must suit the multiple."""

    do: Literal["set stitches"] = "set stitches"
    stitches: int

    def label(self, here: Here) -> str:
        return f"{self.stitches} stitches in {self.named(here)}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.set_stitches(self.band, self.at, self.stitches)


class SetWidth(SegmentCommand):
    """The repeats that come nearest to a width in the fabric, in the project's unit."""

    do: Literal["set width"] = "set width"
    width: Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)]

    def label(self, here: Here) -> str:
        return f"{self.named(here)} {self.width:g} {here.file.unit} wide"

    def edit(self, here: Here) -> PieceEdit:
        return bench.set_width(self.band, self.at, to_mm(self.width, here.file.unit))


class ToggleFlag(SegmentCommand):
    """Mirrors segments, keeps their counts or their places, or frees them again."""

    do: Literal["toggle"] = "toggle"
    field: Literal["mirrored", "locked", "placed"]

    def label(self, here: Here) -> str:
        words = {"mirrored": "mirror", "locked": "keep the count of", "placed": "keep the place of"}[self.field]
        off = self.field != "mirrored" and getattr(self.first(here), self.field, False)
        return f"{words.replace('keep', 'free') if off else words} {self.named(here)}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.toggle_flag(self.band, self.at, self.field)


class PlacePanel(SegmentCommand):
    """The row of its repeat at which a panel begins (from 1), and the purl stitches beside it; none given stays."""

    do: Literal["place panel"] = "place panel"
    begin: Annotated[int | None, Field(ge=1, le=2000)] = None
    purl_margin: Annotated[int | None, Field(ge=0, le=20)] = None

    def label(self, here: Here) -> str:
        return f"start row and purl margin of {self.named(here)}"

    def edit(self, here: Here) -> PieceEdit:
        phase = None if self.begin is None else self.begin - 1
        return bench.place_panel(self.band, self.at, phase=phase, purl_margin=self.purl_margin)


class WanderPanel(SegmentCommand):
    """How far a panel wanders and back, which way first, and every how many rows it moves by a stitch."""

    do: Literal["wander"] = "wander"
    stitches: Annotated[int, Field(ge=0, le=200)] = 0
    to: Literal["left", "right"] = "left"
    every: Annotated[int, Field(ge=1, le=200)] = 4

    def label(self, here: Here) -> str:
        return f"let {self.named(here)} wander"

    def edit(self, here: Here) -> PieceEdit:
        far = self.stitches if self.to == "left" else -self.stitches
        return bench.wander_panel(self.band, self.at, far, every=self.every)


class SetBounds(SegmentCommand):
    """Limits of backgrounds for the suggestions; 0 is none."""

    do: Literal["set limits"] = "set limits"
    least: Annotated[int, Field(ge=0, le=1500)] = 0
    most: Annotated[int, Field(ge=0, le=1500)] = 0
    by: Annotated[int, Field(ge=1, le=50)] = 1

    def label(self, here: Here) -> str:
        return f"limits of {self.named(here)}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.set_bounds(self.band, self.at, self.least, most=self.most, by=self.by)


class SetPattern(SegmentCommand):
    """Another edge or background in the same place."""

    do: Literal["set pattern"] = "set pattern"
    pattern: PatternId

    def label(self, here: Here) -> str:
        return f"{here.pattern(self.pattern).name} for {self.named(here)}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.set_pattern(self.band, self.at, here.pattern(self.pattern))


COMMANDS = (
    *(AddPattern, RemoveSegments, MoveSegment, SetRepeats, StepRepeats, SetStitches),
    *(SetWidth, ToggleFlag, PlacePanel, WanderPanel, SetBounds, SetPattern),
)
