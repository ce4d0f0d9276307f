"""How the cast-on came about, line by line: the same numbers as everywhere else, with where each came from."""

from __future__ import annotations

from dataclasses import dataclass

from ..core.errors import CabluxError
from ..core.layout.caston import CastOnPlan, plan
from ..core.layout.piece import CastOn
from ..core.layout.widths import draw_in, plain_um, segment_um
from ..core.library import LIBRARY, Pattern
from ..core.pattern import WorkedRow, compile_piece
from ..core.pattern.words import row_text
from .projects import Numbers, Project


@dataclass(frozen=True)
class WidthLine:
    """A segment's stitches, its draw-in and the width that comes of them."""

    name: str
    family: str
    stitches: int
    draw_in: float
    um: int
    cast_on: int


@dataclass(frozen=True)
class Choice:
    """Stepped or straight, with what each would mean; `refusal` says why one cannot be had."""

    style: CastOn
    chosen: bool
    plan: CastOnPlan | None
    refusal: str = ""


@dataclass(frozen=True)
class TransitionWords:
    """A row that changes the count, as worked, with its counts."""

    row: WorkedRow
    text: str


@dataclass(frozen=True)
class Story:
    """All that the cast-on page says."""

    numbers: Numbers
    lines: tuple[WidthLine, ...]
    plain_um: int
    choices: tuple[Choice, ...]
    increase: TransitionWords
    decrease: TransitionWords
    borders: tuple[Pattern, ...]


def cast_on_story(project: Project) -> Story:
    """The derivation for a project."""
    piece, numbers = project.piece, project.numbers
    lines = tuple(
        WidthLine(
            name=s.name,
            family=s.pattern.family,
            stitches=s.stitches,
            draw_in=draw_in(s, piece.measure),
            um=segment_um(s, piece.measure),
            cast_on=share,
        )
        for s, share in zip(piece.segments, numbers.cast_on.shares, strict=True)
    )
    rows = compile_piece(piece).rows
    up = next(r for r in rows if r.section == "increase row")
    down = next(r for r in rows if r.section == "decrease row")
    return Story(
        numbers=numbers,
        lines=lines,
        plain_um=plain_um(piece.stitches, piece.measure.gauge),
        choices=tuple(_choice(project, style) for style in ("stepped", "straight")),
        increase=TransitionWords(up, row_text(up)),
        decrease=TransitionWords(down, row_text(down)),
        borders=tuple(p for p in LIBRARY.values() if "border" in p.uses),
    )


def _choice(project: Project, style: CastOn) -> Choice:
    chosen = project.piece.cast_on == style
    try:
        return Choice(style, chosen, plan(project.piece, style))
    except CabluxError as error:
        return Choice(style, chosen, None, str(error))
