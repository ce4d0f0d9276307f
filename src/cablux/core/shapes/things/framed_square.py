"""The framed square: a garter frame, an increase row into the panel, a decrease row back, the same frame."""

from __future__ import annotations

from dataclasses import dataclass

from ...piece.border import Border
from ..asks import Ask, ShapeAnswers, StandardSize
from ..shape import Made, MadePiece, ShapeOf, Wanted, bare_piece, border_rows, laid_out

_SIDES = ("right side", "wrong side")

_PRACTICE = "common practice"
_STARTS = (("honeycomb",), ("braid-9",), ("rope-3-3-left",), ("rope-2-2-left",))


@dataclass(frozen=True, kw_only=True)
class FramedSquareAnswers(ShapeAnswers):
    """What a framed square is asked."""

    side_mm: float
    frame_mm: float
    first_row: str


def _make(wanted: Wanted[FramedSquareAnswers]) -> Made:
    answers, evidence = wanted.answers, wanted.evidence
    side, frame = answers.side_mm, answers.frame_mm
    odd = answers.first_row == "wrong side"
    rows = border_rows("garter", frame, evidence)
    width = evidence.measure.unit(Border().pattern, False).repeat_um / 1000.0
    edge = max(2, min(40, round(frame / width)))
    piece = bare_piece(
        wanted,
        width_mm=side,
        height_mm=side,
        tolerance_mm=float(max(5, round(0.03 * side))),  # common practice: squares may differ by 3 %
        edge=("garter", edge),
        bottom=Border(rows=rows - 1 if odd and rows > 2 else rows + 1 if odd else rows),
        top=Border(rows=rows),
        setup_rows=0 if odd else 2,
    )
    return Made((MadePiece(laid_out(piece, wanted, _STARTS)),))


FRAMED_SQUARE = ShapeOf(
    id="framed-square",
    name="Framed square",
    what="A panel in a garter frame of its own count, so that the edges lie flat: for afghans, cushions and trials.",
    record=FramedSquareAnswers,
    asks=(
        Ask(
            name="side",
            label="Side",
            default=300.0,
            source=f"{_PRACTICE}: afghan squares are 15 to 30 cm",
            least=60.0,
            most=1000.0,
        ),
        Ask(
            name="frame",
            label="Width of the frame",
            default=25.0,
            source="our choice: about six rows of edge",
            least=5.0,
            most=200.0,
        ),
        Ask(
            name="first_row",
            label="The panel begins on the",
            default="right side",
            source=_PRACTICE,
            kind="choice",
            choices=_SIDES,
        ),
    ),
    make=_make,
    sizes=tuple(
        StandardSize(name=f"{cm} cm", answers={"side": cm * 10.0}, source=_PRACTICE) for cm in (15, 20, 25, 30)
    ),
)
