"""A shape: what it asks, the pieces and joins it makes of the answers, and what it warns of."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Any, Generic, TypeVar

from ..counts.arrange import in_their_order, ready_arrangements
from ..errors import Infeasible
from ..garment.joins import Join
from ..gauge import Evidence
from ..library import StitchPattern, find_pattern
from ..piece.border import Border
from ..piece.piece import Band, Piece
from ..piece.segment import Segment, proposed_purl_margin
from ..piece.symmetry import is_symmetric
from ..units import Unit, length_text
from .asks import Answers, Ask, ShapeAnswers, StandardSize

BACKGROUND = "reverse-stockinette"  # common practice: cables stand out on purl


MOST_LEFT_OUT = 2
"""Our choice: so many of the chosen panels are left out at most before another arrangement is taken."""


A = TypeVar("A", bound=ShapeAnswers, covariant=True)
"""The record of what one shape, or several that are alike, was answered."""
Own = TypeVar("Own", bound=ShapeAnswers)


@dataclass(frozen=True, kw_only=True)
class Wanted(Generic[A]):
    """What a project is made of: the answers, what is known of knitter and yarn, and the patterns that were chosen.

    `panels` is empty and `background` None where the shape is to choose; `unit` is that of its sentences.
    `layout`: the segments of the piece that shows it best, as a person has arranged them; empty where there is none.
    """

    name: str
    answers: A
    evidence: Evidence
    panels: tuple[StitchPattern, ...] = ()
    background: StitchPattern | None = None
    unit: Unit = "cm"
    layout: tuple[Segment, ...] = ()

    def length(self, mm: float) -> str:
        """A length as the person reads it."""
        return length_text(mm, self.unit)


@dataclass(frozen=True)
class MadePiece:
    """A piece and how many times it is worked."""

    piece: Piece
    copies: int = 1


@dataclass(frozen=True)
class Made:
    """What a shape makes: pieces, and joins by the pieces' places."""

    pieces: tuple[MadePiece, ...]
    joins: tuple[Join, ...] = ()


@dataclass(frozen=True, kw_only=True)
class ShapeOf(Generic[Own]):
    """A thing people make. `make` raises IllegalPiece or Infeasible where it cannot be had as it is wanted.

    `record`: what its asks are answered, typed; it has a field for each of them and no other.
    `cautions` says what a skilled knitter would warn of, from the answers and the pieces as they are now. `seam_ask` is
    the ask beside which a join that cannot be made is told. `shows`: the places of the pieces that its picture shows.
    `near` tells the sizes at which it closes, about the one wanted, with what they come to. `measured`: it has more
    measures than the width and the height of its piece, and is made anew where they change. `main`: the place of the
    piece that shows it best; `layout`: the segments in which the panels that were chosen lie. `one_layout`: its other
    pieces are computed from that layout.
    """

    id: str
    name: str
    what: str
    asks: tuple[Ask, ...]
    record: type[Own]
    make: Callable[[Wanted[Own]], Made]
    sizes: tuple[StandardSize, ...] = ()
    seam_ask: str = ""
    shows: tuple[int, ...] = (0,)
    cautions: Callable[[Own, Sequence[Piece], Unit], tuple[str, ...]] = lambda answers, pieces, unit: ()
    near: Callable[[Own, Sequence[Piece], Unit], str] = lambda answers, pieces, unit: ""
    measured: bool = True
    main: Callable[[Sequence[Piece]], int] = lambda pieces: 0
    layout: Callable[[Sequence[Piece]], tuple[Segment, ...]] = lambda pieces: pieces[0].bands[0].segments
    one_layout: bool = False

    def answered(self, answers: Answers) -> Own:
        """Its record of what `read_answers` read of its asks."""
        return self.record.of(self.asks, answers)

    def thing(self, answers: Answers) -> str:
        """What it is called where it was given no name: by the choice of its first ask, or by the shape."""
        first = self.asks[0]
        choice = str(answers.get(first.name, "")) if first.kind == "choice" and first.names_it else ""
        return choice.capitalize() or self.name


Shape = ShapeOf[Any]
"""A shape, whatever it is answered."""


def laid_out(piece: Piece, wanted: Wanted[ShapeAnswers], starts: Sequence[Sequence[str]], *, prefer: str = "") -> Piece:
    """The piece with a ready arrangement: of the panels that were chosen, or of the first start that fits.

    The arrangement called `prefer` is taken where there is one, of as many of the panels as have room in it, else one
    that mirrors itself like it. Raises Infeasible where none of the chosen ones fits.
    """
    view = piece.band_views[0]
    background = wanted.background or find_pattern(BACKGROUND)
    for panels in (wanted.panels,) if wanted.panels else [tuple(map(find_pattern, start)) for start in starts]:
        placed = [Segment(role="panel", pattern=p, repeats=1, purl_margin=proposed_purl_margin(p)) for p in panels]
        fewer = _fewer_and_fewer(panels) if prefer else ()
        tries = next(filter(None, (ready_arrangements(view, each, background, only=prefer) for each in fewer)), ())
        if not tries:
            tries = ready_arrangements(view, panels, background)
            if len(panels) > 1 or not tries:
                ordered = in_their_order(view, placed, background)
                tries = (*((ordered,) if ordered else ()), *tries)
        if tries:
            mirrored = (each for each in tries if prefer and is_symmetric(each.band.segments))
            found = next(mirrored, tries[0])
            band = replace(found.band, rows=view.band.rows, shaping=view.band.shaping)
            return replace(piece, bands=(band,))
    names = " and ".join(p.name for p in wanted.panels)
    if names:
        raise Infeasible(
            f"{names} will not fit a width of {wanted.length(piece.width_mm)} at this gauge: make it wider, or choose "
            "a narrower panel.",
            clash=("panels", "gauge"),
        )
    return piece


def _fewer_and_fewer(panels: Sequence[StitchPattern]) -> Iterator[Sequence[StitchPattern]]:
    """All of the panels, then all but one of them, and so on, to two; or the only one."""
    for many in range(len(panels), max(1, len(panels) - MOST_LEFT_OUT - 1), -1):
        yield from combinations(panels, many)
    if len(panels) == 1:
        yield panels


def bare_piece(
    wanted: Wanted[ShapeAnswers],
    *,
    width_mm: float,
    height_mm: float,
    tolerance_mm: float,
    edge: tuple[str, int] | None,
    bottom: Border,
    top: Border,
    **more: object,
) -> Piece:
    """A piece before any panel: its edges (pattern and stitches; None in the round) and a background that fills it."""
    gauge = wanted.evidence.gauge
    background = wanted.background or find_pattern(BACKGROUND)
    sides = () if edge is None else (Segment(role="edge", pattern=find_pattern(edge[0]), repeats=edge[1]),)
    taken = 2 * edge[1] if edge else 0
    chart = background.chart
    repeats = max(1, round((width_mm / gauge.stitch_mm - taken - chart.balance) / chart.multiple))
    own = (*sides, Segment(role="background", pattern=background, repeats=repeats))
    return Piece(
        name=wanted.name,
        width_mm=width_mm,
        height_mm=height_mm,
        evidence=wanted.evidence,
        bands=(Band(own=own, symmetric=True),),
        tolerance_mm=tolerance_mm,
        bottom=bottom,
        top=top,
        round=edge is None,
        **more,  # type: ignore[arg-type]
    )


def plain(stitches: int) -> Segment:
    """So many stitches of stockinette."""
    return Segment(role="background", pattern=find_pattern("stockinette"), repeats=stitches)


def border_rows(pattern: str, height_mm: float, evidence: Evidence, *, step: int = 2) -> int:
    """The rows of a border of such a height, a multiple of `step`."""
    unit = evidence.measure.unit(find_pattern(pattern), False)
    row_mm = evidence.measure.gauge.row_mm * unit.draw_up
    return max(step, min(60, step * round(height_mm / row_mm / step)))
