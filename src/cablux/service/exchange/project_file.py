"""The project file: JSON with a version and a published schema (docs/project.schema.json)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field, PrivateAttr, StringConstraints, ValidationError, create_model, model_validator

from ...core.gauge import Evidence, Fibre, Gauge, Method, State
from ...core.piece.piece import Piece
from ...core.piece.symmetry import is_symmetric
from ...core.practice import edge_stitches
from ...core.units import Unit, to_mm
from ...render.yarn import UNDYED
from ..errors import BadFile, NotFound
from ..forms import PLAIN, field_faults
from .declared import fields_codec
from .evidence import UsedSwatch
from .field_types import Finite, Id, Name
from .join_file import JoinFile
from .older_versions import upgraded
from .own_pattern import PatternFile
from .piece_file import BandFile, BorderFile, PieceFile, SegmentFile, SizeFile, patterns_of
from .swatch_file import StrictModel

Text = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200, pattern=PLAIN)]
AskName = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
MOST_PIECES = 60  # our choice: an afghan of sixty different squares


_GAUGE = fields_codec(Gauge)

if TYPE_CHECKING:

    class GaugeFile(StrictModel):
        """What a gauge declares, for those who make one."""

        stitches: float
        rows: float
        band: bool = False

else:
    GaugeFile = create_model(
        "GaugeFile",
        __base__=StrictModel,
        __doc__="""Stitches and rows of stockinette, over 10 cm where the unit is cm, over 4 in where it is in.

`band`: they were taken from the yarn's band.""",
        **_GAUGE.declared,
    )


MOST_PANELS = 20
"""Our choice: so many panels are remembered as chosen; no layout that we have seen has half as many."""


class ShapeFile(StrictModel):
    """What the project is made as, and what was asked for, by name: lengths in the file's unit, or a choice.

    `panels`: those that were chosen, by their ids in their order; `left_out`: those of them that had no room.
    """

    id: Id
    asked: Annotated[dict[AskName, Finite | Text], Field(default_factory=dict)]
    panels: Annotated[tuple[Id, ...], Field(max_length=MOST_PANELS)] = ()
    left_out: Annotated[tuple[Id, ...], Field(max_length=MOST_PANELS)] = ()

    def __hash__(self) -> int:
        asked = sorted((name, str(value)) for name, value in self.asked.items())
        return hash((self.id, self.panels, self.left_out, *asked))


class ProjectFile(StrictModel):
    """A project as it is exchanged and stored: what belongs to the knitter and the yarn, and its pieces.

    It is open at one of its pieces, the first unless another is asked for: `own`, `piece` and `with_piece` are about
    that one.
    """

    cablux: Literal[5] = 5
    name: Name
    unit: Unit = "cm"
    yarn: Text = ""
    gauge: GaugeFile
    fibre: Fibre = Evidence.fibre
    needle: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 0.0
    cord: Annotated[float, Field(ge=0, le=400, allow_inf_nan=False)] = 0.0
    finish: State = Evidence.finish
    method: Method = Evidence.method
    swatches: Annotated[tuple[UsedSwatch, ...], Field(max_length=24)] = ()
    patterns: Annotated[tuple[PatternFile, ...], Field(max_length=60)] = ()
    colour: Annotated[str, StringConstraints(pattern=r"^#[0-9a-f]{6}$")] = UNDYED
    thick: Annotated[float, Field(ge=0.6, le=1.3)] = 1.0
    shape: ShapeFile | None = None
    pieces: Annotated[tuple[PieceFile, ...], Field(min_length=1, max_length=MOST_PIECES)]
    joins: Annotated[tuple[JoinFile, ...], Field(max_length=60)] = ()
    _open: int = PrivateAttr(default=0)

    @model_validator(mode="after")
    def _pieces_differ(self) -> ProjectFile:
        numbers = [p.number for p in self.pieces]
        names = [(p.name or self.name).casefold() for p in self.pieces]
        twice = next(
            (p.name or self.name for p in self.pieces if names.count((p.name or self.name).casefold()) > 1), ""
        )
        if twice:
            raise ValueError(f"two pieces are called “{twice}”; give each a name of its own")
        if len(set(numbers)) < len(numbers):
            raise ValueError("two pieces have one number; number them 1, 2, 3 …")
        strangers = [e.piece for j in self.joins for e in (j.one, j.other, *j.more) if e.piece not in numbers]
        if strangers:
            raise ValueError(f"a join names piece {strangers[0]}, which is not there")
        return self

    @property
    def evidence(self) -> Evidence:
        """What the project knows of the knitter and the yarn."""
        return Evidence(
            gauge=core_gauge(self.gauge, self.unit),
            readings=tuple(reading for used in self.swatches for reading in used.readings),
            finish=self.finish,
            fibre=self.fibre,
            method=self.method,
        )

    def opened_at(self, number: int) -> ProjectFile:
        """The same file open at the piece of that number; 0 is the first. Raises NotFound."""
        at = next((i for i, p in enumerate(self.pieces) if p.number == number), 0 if number == 0 else -1)
        if at < 0:
            raise NotFound(f"“{self.name}” has no piece {number}; it may have been removed.")
        if at == self._open:
            return self
        found = self.model_copy()
        found._open = at
        return found

    @property
    def own(self) -> PieceFile:
        """The piece at which it is open."""
        return self.pieces[self._open]

    def with_own(self, **changed: object) -> ProjectFile:
        """With fields of the piece at hand exchanged."""
        return self.with_piece_file(self.own.model_copy(update=changed))

    def with_piece_file(self, own: PieceFile) -> ProjectFile:
        """With the piece at hand exchanged."""
        pieces = (*self.pieces[: self._open], own, *self.pieces[self._open + 1 :])
        return self.model_copy(update={"pieces": pieces})

    def piece(self) -> Piece:
        """The core's piece. Raises IllegalPiece where sizes, gauge or layout cannot be knitted."""
        return self.own.piece(self.name, self.unit, self.evidence, patterns=self.patterns)

    def all_pieces(self) -> tuple[Piece, ...]:
        """All pieces, those worked several times once. Raises IllegalPiece where one cannot be knitted."""
        evidence = self.evidence
        return tuple(p.piece(self.name, self.unit, evidence, patterns=self.patterns) for p in self.pieces)

    def with_piece(self, piece: Piece) -> ProjectFile:
        """This file with the layout and the choices of `piece` in the piece at hand."""
        changed = self.with_piece_file(self.own.with_piece(piece, self.unit))
        others = [p for i, p in enumerate(self.all_pieces()) if i != self._open] if len(self.pieces) > 1 else []
        return changed.model_copy(update={"patterns": patterns_of([*others, piece])})

    def text(self) -> str:
        """The file's text."""
        return self.model_dump_json(indent=2) + "\n"


def core_gauge(file: GaugeFile, unit: Unit) -> Gauge:
    """The core's gauge. Raises IllegalPiece for what nobody can knit."""
    return Gauge(**_GAUGE.read(file, unit, ()))


def read_project(text: str | bytes) -> ProjectFile:
    """A project file checked through and through. Raises BadFile or IllegalPiece; nothing is half read."""
    newer = upgraded(text)
    try:
        file = ProjectFile.model_validate_json(newer.text)
    except ValidationError as error:
        raise BadFile(
            "This is not a Cablux project: " + newer.place(" ".join(field_faults(error, "the file")))
        ) from None
    piece = file.all_pieces()[0]
    if newer.folds and is_symmetric(piece.band_views[0].segments):
        return file.with_piece(piece.with_band(piece.bands[0].folded(), 0))
    return file


def opened_at_piece(file: ProjectFile, name: str) -> ProjectFile:
    """A project open at the piece of that name, its first one without a name. Raises NotFound where there is none."""
    names = {(p.name or file.name).casefold(): p.number for p in file.pieces}
    if name and name.casefold() not in names:
        raise NotFound(
            f"There is no piece “{name}”; these are there: {', '.join(p.name or file.name for p in file.pieces)}."
        )
    return file.opened_at(names[name.casefold()]) if name else file.opened_at(0)


def read_at_piece(text: str | bytes, name: str) -> ProjectFile:
    """A project file read and opened at the piece of that name. Raises what reading and opening it do."""
    return opened_at_piece(read_project(text), name)


def checked_file(file: ProjectFile) -> ProjectFile:
    """The file itself, open where it was. Raises BadFile where a copy with changes would not be read again."""
    try:
        return ProjectFile.model_validate(file.model_dump()).opened_at(file.own.number)
    except ValidationError as error:
        raise BadFile(" ".join(field_faults(error, "The project"))) from None


def fresh_project(
    *,
    name: str,
    unit: Unit,
    yarn: str,
    width: float,
    height: float,
    tolerance: float,
    stitches: float,
    rows: float,
    in_the_round: bool = False,
) -> ProjectFile:
    """A new piece before any panel: garter edges and a purl background that fills the width. Raises IllegalPiece."""
    written, mm = GaugeFile(stitches=stitches, rows=rows), to_mm(width, unit)
    gauge = core_gauge(written, unit)
    edge = edge_stitches(gauge.stitch_mm)
    background = max(1, min(1400, round(mm / gauge.stitch_mm) - (0 if in_the_round else 2 * edge)))
    border = max(2, min(60, 2 * round(15.0 / gauge.row_mm / 0.73)))  # 3 cm of garter, whose rows are shorter
    sides = () if in_the_round else (SegmentFile(role="edge", pattern="garter", repeats=edge),)
    middle = SegmentFile(role="background", pattern="reverse-stockinette", repeats=background)
    file = ProjectFile(
        name=name,
        unit=unit,
        yarn=yarn,
        gauge=written,
        pieces=(
            PieceFile(
                size=SizeFile(width=width, height=height, tolerance=tolerance),
                round=in_the_round,
                bottom=BorderFile(rows=border),
                top=BorderFile(rows=border),
                bands=(BandFile(segments=(*sides, middle), symmetric=True),),
            ),
        ),
    )
    file.piece()
    return file
