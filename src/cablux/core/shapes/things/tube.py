"""The tube: cowls and leg warmers worked in the round, with ribs at both ends."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...ends.cast_on import plan_cast_on
from ...piece.border import Border
from ...piece.piece import Piece
from ...practice import HEAD_MM
from ...units import Unit, length_text
from ..asks import Ask, ShapeAnswers, StandardSize
from ..shape import Made, MadePiece, ShapeOf, Wanted, bare_piece, border_rows, laid_out

_WORN = ("cowl", "leg warmer", "wrist warmer")
RIBS = {"1×1": "rib-1x1", "2×2": "rib-2x2", "garter": "garter"}
_PRACTICE = "common practice"
_STARTS = (("honeycomb", "rope-3-3-left"), ("honeycomb",), ("braid-9",), ("rope-3-3-left",), ("rope-2-2-left",))


@dataclass(frozen=True, kw_only=True)
class TubeAnswers(ShapeAnswers):
    """What a tube is asked."""

    worn: str
    around_mm: float
    ease_percent: float
    height_mm: float
    rib: str
    rib_height_mm: float


def _make(wanted: Wanted[TubeAnswers]) -> Made:
    answers, evidence = wanted.answers, wanted.evidence
    rib = RIBS[answers.rib]
    around = answers.around_mm * (1.0 + answers.ease_percent / 100.0)
    height = answers.rib_height_mm
    border = Border(pattern_id=rib, rows=border_rows(rib, height, evidence, step=1) if height else 0)
    piece = bare_piece(
        wanted,
        width_mm=around,
        height_mm=answers.height_mm,
        tolerance_mm=float(max(6, round(around / 40.0))),
        edge=None,
        bottom=border,
        top=border,
    )
    return Made((MadePiece(laid_out(piece, wanted, _STARTS), 1 if answers.worn == "cowl" else 2),))


def stretched_ends_um(piece: Piece) -> tuple[float, float]:
    """How wide the first and the last round can be drawn: as wide as so many stitches of stockinette at the least.

    Common practice: a rib pulls out to the width of its stitches in stockinette, and a loose edge goes with it.
    """
    ends = plan_cast_on(piece)
    stitch = piece.measure.gauge.stitch_mm * 1000.0
    return ends.cast_on * stitch, ends.top.count * stitch


def _cautions(answers: TubeAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    if answers.worn != "cowl":
        return ("Cast on and bind off loosely: the edges go over the heel or the hand.",)
    widest = min(stretched_ends_um(pieces[0])) / 1000.0
    if widest >= HEAD_MM:
        return (
            f"Drawn out, its edges are {length_text(widest, unit, 0)} or more round: it passes over a head of "
            f"{length_text(HEAD_MM, unit, 0)}. Bind off loosely.",
        )
    return (
        f"Drawn out, its edge is about {length_text(widest, unit, 0)} round: too little for a head of "
        f"{length_text(HEAD_MM, unit, 0)}. Make it wider, or leave off the rib.",
    )


TUBE = ShapeOf(
    id="tube",
    name="Tube in the round",
    what="Worked in the round without a seam: cowl, leg warmers, wrist warmers.",
    record=TubeAnswers,
    asks=(
        Ask(
            name="worn",
            label="Worn as",
            default="cowl",
            source="our choice",
            kind="choice",
            choices=_WORN,
            names_it=True,
        ),
        Ask(
            name="around",
            label="Way round",
            default=600.0,
            source=f"{_PRACTICE}: close cowls are 55 to 66 cm round",
            least=100.0,
            most=2000.0,
            hint="Of the neck, the calf or the wrist, where it will sit.",
            by={"leg warmer": 360.0, "wrist warmer": 160.0},
        ),
        Ask(
            name="ease",
            label="Ease",
            default=0.0,
            source=f"{_PRACTICE}: cowls none; on arms and legs 0 to −10 %",
            kind="percent",
            least=-25.0,
            most=60.0,
            by={"leg warmer": -5.0, "wrist warmer": -5.0},
        ),
        Ask(
            name="height",
            label="Height",
            default=250.0,
            source=f"{_PRACTICE}: close cowls are 18 to 28 cm high",
            least=50.0,
            most=1000.0,
            by={"leg warmer": 400.0, "wrist warmer": 150.0},
        ),
        Ask(
            name="rib", label="Rib at both ends", default="2×2", source="our choice", kind="choice", choices=tuple(RIBS)
        ),
        Ask(name="rib_height", label="Height of the rib", default=30.0, source="our choice", least=0.0, most=300.0),
    ),
    make=_make,
    sizes=(
        StandardSize(name="Close", answers={"around": 600.0, "height": 230.0}, source=_PRACTICE, choice="cowl"),
        StandardSize(name="Long", answers={"around": 900.0, "height": 250.0}, source=_PRACTICE, choice="cowl"),
        StandardSize(name="Twice round", answers={"around": 1400.0, "height": 220.0}, source=_PRACTICE, choice="cowl"),
    ),
    cautions=_cautions,
)
