"""Commands about a whole band or piece: its size, halves, bands, edges and shaping; layouts that were suggested."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...core.counts.solver import LayoutName
from ...core.library import find_pattern
from ...core.piece.piece import Gaps
from .. import bench
from .command import BandCommand, Here, PieceCommand, PieceEdit
from .segments import PatternId


class SetTarget(PieceCommand):
    """Another finished size, in the project's unit as it is typed; what is empty stays."""

    do: Literal["set size"] = "set size"
    width: str = ""
    tolerance: str = ""
    height: str = ""

    def label(self, here: Here) -> str:
        return "size wanted"

    def edit(self, here: Here) -> PieceEdit:
        return bench.typed_target(self.width, self.tolerance, self.height, unit=here.file.unit)


class TieHalves(BandCommand):
    """Ties the halves of a band together, or lets them differ."""

    do: Literal["tie halves"] = "tie halves"
    alike: bool

    def label(self, here: Here) -> str:
        return "both halves alike" if self.alike else "halves may differ"

    def edit(self, here: Here) -> PieceEdit:
        return bench.tie_halves(self.band, alike=self.alike)


class SetRules(PieceCommand):
    """What the suggestions must keep to."""

    do: Literal["set rules"] = "set rules"
    least: int
    gaps: Gaps = "equal"
    multiple: int = 1
    plus: int = 0

    def label(self, here: Here) -> str:
        return "rules for the suggestions"

    def edit(self, here: Here) -> PieceEdit:
        return bench.set_wishes(least=self.least, gaps=self.gaps, multiple=self.multiple, plus=self.plus)


class BeginShaping(BandCommand):
    """Begins to shape a band."""

    do: Literal["begin shaping"] = "begin shaping"

    def label(self, here: Here) -> str:
        return "shape the band"

    def edit(self, here: Here) -> PieceEdit:
        return bench.begin_shaping(self.band)


class EndShaping(BandCommand):
    """Makes a band straight again."""

    do: Literal["end shaping"] = "end shaping"

    def label(self, here: Here) -> str:
        return "a straight band"

    def edit(self, here: Here) -> PieceEdit:
        return bench.end_shaping(self.band)


class TypeShaping(BandCommand):
    """Stations, edges and rows of a shaped band as they are typed, by the names of their fields; the others stay."""

    do: Literal["type shaping"] = "type shaping"
    fields: dict[str, str]

    def label(self, here: Here) -> str:
        return "shaping"

    def edit(self, here: Here) -> PieceEdit:
        return bench.type_shaping(self.band, self.fields, here.file.unit)


class SetSides(PieceCommand):
    """Other edges, or seam stitches, on both sides of every band."""

    do: Literal["set edges"] = "set edges"
    pattern: PatternId
    stitches: Annotated[int, Field(ge=1, le=60)]
    role: Literal["edge", "seam"] = "edge"

    def label(self, here: Here) -> str:
        return "edges" if self.role == "edge" else "seam stitches"

    def edit(self, here: Here) -> PieceEdit:
        return bench.set_edges(here.pattern(self.pattern), self.role, self.stitches)


class MendEdges(BandCommand):
    """What is done about edges that are lower than the body."""

    do: Literal["mend edges"] = "mend edges"
    how: Literal["short rows", "plain", "slipped", "ridges"]

    @property
    def _pattern(self) -> str:
        return {"slipped": "slipped-edge", "ridges": "garter-ridge-edge"}.get(self.how, "")

    def label(self, here: Here) -> str:
        if self._pattern:
            return f"edges in {find_pattern(self._pattern).name.lower()}"
        return "short rows in the edges" if self.how == "short rows" else "no short rows"

    def edit(self, here: Here) -> PieceEdit:
        if not self._pattern:
            return bench.set_short_rows(on=self.how == "short rows")
        sides = self.view(here).sides
        return bench.set_edges(find_pattern(self._pattern), "edge", max(2, sides[0].stitches if sides else 2))


class AddBand(BandCommand):
    """One more band above this one, to be changed."""

    do: Literal["add band"] = "add band"

    def label(self, here: Here) -> str:
        return "add a band"

    def edit(self, here: Here) -> PieceEdit:
        return bench.add_band(self.band)


class RemoveBand(BandCommand):
    """Takes a band out."""

    do: Literal["remove band"] = "remove band"

    def label(self, here: Here) -> str:
        return "remove a band"

    def edit(self, here: Here) -> PieceEdit:
        return bench.remove_band(self.band)


class SetBandRows(BandCommand):
    """The rows of a band, 0 where they follow from the height; and the share of that which it takes."""

    do: Literal["set band rows"] = "set band rows"
    rows: Annotated[int, Field(ge=0, le=5000)] = 0
    share: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 0.0

    def label(self, here: Here) -> str:
        return "rows of the band"

    def edit(self, here: Here) -> PieceEdit:
        return bench.set_band_rows(self.band, self.rows, self.share)


class TakeArrangement(BandCommand):
    """Lays a band out in a ready arrangement: of these panels on this background, or of its own."""

    do: Literal["take arrangement"] = "take arrangement"
    name: str
    panels: Annotated[tuple[str, ...], Field(max_length=20)] = ()
    background: str = ""
    gap: Annotated[int, Field(ge=0, le=200)] = 0

    def label(self, here: Here) -> str:
        return self.name

    def edit(self, here: Here) -> PieceEdit:
        own = bench.plan_of(self.view(here))
        panels = tuple(map(here.pattern, self.panels)) or own.panels
        background = here.pattern(self.background) if self.background else own.background
        return bench.take_arrangement(self.band, self.name, bench.Plan(panels, background, self.gap))


class TakeAnswer(BandCommand):
    """Takes a layout that the solver suggests."""

    do: Literal["take layout"] = "take layout"
    answer: LayoutName

    def label(self, here: Here) -> str:
        return f"layout: {self.answer}"

    def edit(self, here: Here) -> PieceEdit:
        return bench.take_layout(self.band, self.answer)


class TakeCure(BandCommand):
    """Makes one of the changes that would free wishes that clash."""

    do: Literal["free clash"] = "free clash"
    number: Annotated[int, Field(ge=0, le=100)]

    def label(self, here: Here) -> str:
        return "make it fit"

    def edit(self, here: Here) -> PieceEdit:
        return bench.take_cure(self.band, self.number)


COMMANDS = (
    *(SetTarget, TieHalves, SetRules, BeginShaping, EndShaping, TypeShaping, SetSides, MendEdges),
    *(AddBand, RemoveBand, SetBandRows, TakeArrangement, TakeAnswer, TakeCure),
)
