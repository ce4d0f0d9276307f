"""How the piece begins and ends: the choices at each edge, the rows that change the count, how the edge will lie."""

from __future__ import annotations

from dataclasses import dataclass

from ...core.ends.cast_on import EdgePlan, as_style, edge_plan
from ...core.ends.transition import Transition
from ...core.errors import CabluxError
from ...core.garment.cautions import needle_lengths
from ...core.gauge.model import cloth_kind
from ...core.library import LIBRARY, StitchPattern
from ...core.pattern import WorkedRow, compile_piece
from ...core.pattern.words import row_words
from ...core.piece.border import CastOn
from ...core.piece.piece import BandView
from ...core.piece.widths import body_um, plain_um, segment_draw_in, segment_um
from ...core.rows.row_search import Alignment, RowChoice, panel_alignment, row_choices
from ..bench import End
from ..pattern import begin_sentence, end_sentence
from ..projects import PieceNumbers, Project


@dataclass(frozen=True, kw_only=True)
class WidthLine:
    """A segment's stitches, its draw-in and the width that comes of them, and the stitches that lie under it."""

    name: str
    family: str
    stitches: int
    draw_in: float
    um: int
    below: int


@dataclass(frozen=True, kw_only=True)
class BandStory:
    """A body band segment by segment, what it comes to, and the stitches below it: of the border or of a band."""

    lines: tuple[WidthLine, ...]
    stitches: int
    um: int
    plain_um: int
    below: int

    @property
    def difference(self) -> int:
        """Stitches that the band has more than what is below it (fewer: less than none)."""
        return self.stitches - self.below


@dataclass(frozen=True, kw_only=True)
class Choice:
    """Stepped or straight, with what each would mean; `refusal` says why one cannot be had."""

    style: CastOn
    chosen: bool
    plan: EdgePlan | None
    refusal: str = ""


@dataclass(frozen=True)
class ChangeWords:
    """A row that changes the count, as worked, with its counts."""

    row: WorkedRow
    text: str


@dataclass(frozen=True, kw_only=True)
class EndStory:
    """One edge of the piece: its plan, the choices, the rows that change the count, and how to work the edge.

    `instead` tells what is done where nothing is cast on, or bound off, since another piece lies there or will.
    """

    end: End
    name: str
    plan: EdgePlan
    choices: tuple[Choice, ...]
    changes: tuple[ChangeWords, ...]
    advice: tuple[str, ...]
    instead: str = ""


@dataclass(frozen=True, kw_only=True)
class Story:
    """All that the cast-on page says."""

    numbers: PieceNumbers
    bands: tuple[BandStory, ...]
    ends: tuple[EndStory, EndStory]
    between: tuple[ChangeWords, ...]
    borders: tuple[StitchPattern, ...]
    ways: tuple[RowChoice, ...]
    alignments: tuple[Alignment, ...]
    cords: tuple[int, ...]

    @property
    def bottom(self) -> EndStory:
        """The cast-on edge."""
        return self.ends[0]


def cast_on_story(project: Project) -> Story:
    """The derivation for a project."""
    piece, n = project.piece, project.numbers
    below = (n.cast_on.bottom.change, *n.cast_on.between)
    rows = compile_piece(piece).rows
    return Story(
        numbers=n,
        bands=tuple(_band(*each) for each in zip(piece.band_views, below, strict=True)),
        ends=(_end(project, "bottom", rows), _end(project, "top", rows)),
        between=_changes(rows, "change row"),
        borders=tuple(p for p in LIBRARY.values() if "border" in p.uses),
        ways=row_choices(piece),
        alignments=tuple(
            panel_alignment(each, band.body) for each, band in zip(piece.band_views, n.rows.bands, strict=True)
        ),
        cords=needle_lengths(piece.band_views[0]),
    )


def _band(view: BandView, change: Transition | None) -> BandStory:
    side, measure = [s.stitches for s in view.sides], view.measure
    under = (*side[:1], *(change.shares if change else [s.stitches for s in view.inner]), *side[1:])
    lines = tuple(
        WidthLine(
            name=s.name,
            family=s.pattern.family,
            stitches=s.stitches,
            draw_in=segment_draw_in(s, measure),
            um=segment_um(s, measure),
            below=share,
        )
        for s, share in zip(view.segments, under, strict=True)
    )
    return BandStory(
        lines=lines,
        stitches=view.stitches,
        um=body_um(view),
        plain_um=plain_um(view.stitches, measure.gauge),
        below=sum(under),
    )


def _end(project: Project, end: End, rows: tuple[WorkedRow, ...]) -> EndStory:
    piece, plan = project.piece, project.numbers.cast_on
    bottom = end == "bottom"
    mine = plan.bottom if bottom else plan.top
    view = piece.band_views[0 if bottom else -1]
    if piece.begins if bottom else piece.ends.kind != "bound off":
        name, said = ("How it begins", begin_sentence) if bottom else ("How it ends", end_sentence)
        return EndStory(end=end, name=name, plan=mine, choices=(), changes=(), advice=(), instead=said(project.file))
    return EndStory(
        end=end,
        name="The cast-on edge" if bottom else "The bind-off edge",
        plan=mine,
        choices=tuple(_choice(view, mine, style) for style in ("stepped", "straight")),
        changes=_changes(rows, "bottom change row" if bottom else "top change row"),
        advice=edge_advice(view, mine, bottom=bottom),
    )


def _changes(rows: tuple[WorkedRow, ...], section: str) -> tuple[ChangeWords, ...]:
    return tuple(ChangeWords(r, row_words(r)) for r in rows if r.section == section and r.before != r.after)


def _choice(view: BandView, mine: EdgePlan, style: CastOn) -> Choice:
    chosen = mine.border.style == style and not mine.border.count
    if not mine.border.rows:
        return Choice(
            style=style,
            chosen=chosen,
            plan=mine if style == "straight" else None,
            refusal="There is no border to step from.",
        )
    try:
        return Choice(style=style, chosen=chosen, plan=edge_plan(view, as_style(mine.border, style)))
    except CabluxError as error:
        return Choice(style=style, chosen=chosen, plan=None, refusal=str(error))


def edge_advice(view: BandView, edge: EdgePlan, *, bottom: bool) -> tuple[str, ...]:
    """How to cast on or bind off here, in words (common practice)."""
    border = edge.border
    stretchy = view.round or border.factor < 1.0 or (border.rows > 0 and cloth_kind(border.pattern) == "rib")
    loose = "over two needles held together, or on a needle a size or two larger"
    said = []
    if bottom and stretchy:
        said.append(
            "The edge has to stretch: a long-tail or thumb cast-on worked loosely, " + loose + ", or a knitted-on one."
        )
    elif bottom:
        said.append(f"A firm edge suits it: long-tail or thumb. Cast on loosely all the same, {loose}.")
    elif stretchy:
        said.append("The edge has to stretch: bind off loosely in pattern on a larger needle, or sew the stitches off.")
    else:
        said.append("Bind off in pattern, loosely; a larger needle helps. A tight edge draws the cables together.")
    if not border.rows:
        what = "crosses close above the cast-on" if bottom else "ends at the bind-off"
        said.append(f"Without a border what {what} gathers the edge: leave a row or two plain.")
    return tuple(said)
