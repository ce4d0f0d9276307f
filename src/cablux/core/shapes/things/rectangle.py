"""The rectangle: throws, scarves, cloths and runners, with borders and edges."""

from __future__ import annotations

from dataclasses import dataclass

from ...piece.border import Border
from ...practice import edge_stitches
from ..asks import Ask, ShapeAnswers, StandardSize
from ..shape import Made, MadePiece, ShapeOf, Wanted, bare_piece, border_rows, laid_out

_PRACTICE = "common practice"
_BORDER_MM = 30.0


@dataclass(frozen=True, kw_only=True)
class RectangleAnswers(ShapeAnswers):
    """What a rectangle is asked."""

    width_mm: float
    height_mm: float


def _make(wanted: Wanted[RectangleAnswers]) -> Made:
    evidence = wanted.evidence
    border = Border(rows=border_rows("garter", _BORDER_MM, evidence))
    width = wanted.answers.width_mm
    piece = bare_piece(
        wanted,
        width_mm=width,
        height_mm=wanted.answers.height_mm,
        tolerance_mm=min(15.0, width / 10),
        edge=("garter", edge_stitches(evidence.gauge.stitch_mm)),
        bottom=border,
        top=border,
    )
    return Made(
        (MadePiece(laid_out(piece, wanted, (("honeycomb", "rope-3-3-right", "braid-9"), ("rope-3-3-right",)))),)
    )


def _size(name: str, width: float, height: float) -> StandardSize:
    return StandardSize(name=name, answers={"width": width * 10.0, "height": height * 10.0}, source=_PRACTICE)


RECTANGLE = ShapeOf(
    id="rectangle",
    name="Throw, scarf or cloth",
    what="One flat piece, from the cast-on up, with a border all round.",
    record=RectangleAnswers,
    asks=(
        Ask(
            name="width",
            label="Width",
            default=1100.0,
            source=f"{_PRACTICE}: throws are 110 to 130 cm wide",
            least=50.0,
            most=10_000.0,
        ),
        Ask(
            name="height",
            label="Height",
            default=1500.0,
            source=f"{_PRACTICE}: throws are 150 to 180 cm long",
            least=50.0,
            most=10_000.0,
        ),
    ),
    make=_make,
    measured=False,
    sizes=(
        _size("Throw", 127, 152),
        _size("Lap blanket", 90, 120),
        _size("Cot blanket", 90, 120),
        _size("Scarf", 20, 180),
        _size("Afghan", 150, 180),
    ),
)
