"""The cloth from corner to corner: one stitch more each row to the widest, then one fewer."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...library import find_pattern
from ...needle.columns import IncreaseKind
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.piece import Piece
from ...rows.shaped_band import plan_stations
from ...shaping.edges import EdgeShaped
from ...shaping.manner import Manner
from ...units import Unit, length_text
from ..asks import Ask, ShapeAnswers, StandardSize
from ..shape import Made, MadePiece, ShapeOf, Wanted, bare_piece, laid_out

_BEGINS = 3
"""Common practice: cast on 3 stitches."""
_EDGE = 2
"""Common practice: increase inside two edge stitches."""
SQUARE = 3.0
"""Our choice: a corner within three degrees of a right angle is square to the eye."""
_INCREASES: dict[str, IncreaseKind] = {"yarn over": "yo", "kfb": "kfb", "lifted bar": "M1"}
EVERY_ROW, TO_A_SQUARE = "one each row", "as a square needs"

_PRACTICE = "common practice"
_STARTS = (("braid-9",), ("rope-3-3-left",), ("rope-2-2-left",))


@dataclass(frozen=True, kw_only=True)
class CornerAnswers(ShapeAnswers):
    """What a corner is asked."""

    side_mm: float
    growth: str
    increase: str


def _make(wanted: Wanted[CornerAnswers]) -> Made:
    answers = wanted.answers
    across = float(round(answers.side_mm * math.sqrt(2.0)))  # in whole millimetres, as one types it
    background = wanted.background or find_pattern("garter")
    none = Border(rows=0)
    least = _BEGINS * wanted.evidence.gauge.stitch_mm
    paced = answers.growth == EVERY_ROW
    stations = (
        Station(name="First corner", width_mm=least, count=_BEGINS, row=0),
        Station(name="Where it begins to grow", width_mm=least, count=_BEGINS, row=1),
        Station(name="Widest", width_mm=across, at_mm=across / 2.0, paced=paced),
        Station(name="Last corner", width_mm=least, at_mm=across, count=_BEGINS, paced=paced),
    )
    manner = Manner(increase=_INCREASES[answers.increase], lean="k2tog", schedule="mixed")
    shaping = EdgeShaped(stations=stations, edges="in turn", manner=manner)
    piece = bare_piece(
        replace(wanted, background=background),
        width_mm=across,
        height_mm=across,
        tolerance_mm=float(max(8, round(across / 30.0))),
        edge=("garter", _EDGE),
        bottom=none,
        top=none,
        setup_rows=0,
    )
    laid = laid_out(piece, replace(wanted, background=background), _STARTS)
    return Made((MadePiece(replace(laid, bands=(replace(laid.bands[0], shaping=shaping),))),))


def corner_geometry(piece: Piece) -> tuple[float, float]:
    """The side that comes out, in millimetres, and the angle of the first corner, in degrees."""
    plan = plan_stations(piece.band_views[0])
    widest = max(plan.stations, key=lambda s: s.count)
    half, high = widest.width_um / 2000.0, widest.at_um / 1000.0
    return math.hypot(half, high), math.degrees(2.0 * math.atan2(half, high))


def growth_wanted(piece: Piece) -> float:
    """Stitches a row by which the cloth must grow so that its corner is square.

    The width must grow twice as fast as the height: 2 · row height ÷ stitch width, both of the cloth as it is.
    """
    plan = plan_stations(piece.band_views[0])
    widest = max(plan.stations, key=lambda s: s.count)
    stitch, row = widest.width_um / widest.count, widest.at_um / widest.row
    return 2.0 * row / stitch


def growth_cure(growth: float) -> str:
    """What to do in the rows so that they grow by so much on average."""
    if growth > 1.0:
        return f"increase twice, at both ends, in every {max(2, round(1.0 / (growth - 1.0)))}th row or so"
    return f"work a plain row after every {max(1, round(growth / (1.0 - growth)))} rows or so"


def _cautions(answers: CornerAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    shaping = pieces[0].band_views[0].shaping
    if not isinstance(shaping, EdgeShaped) or shaping.edges != "in turn":  # made straight, or shaped otherwise, since
        return ()
    side, angle = corner_geometry(pieces[0])
    wanted = length_text(pieces[0].width_mm / math.sqrt(2.0), unit)
    out = [f"The side comes out at {length_text(side, unit)}; you want {wanted}."]
    if abs(angle - 90.0) > SQUARE:
        long_way = "tall and narrow" if angle < 90.0 else "wide and low"
        growth = growth_wanted(pieces[0])
        out.append(
            f"Its corner has {angle:.0f} degrees, not 90: the cloth becomes a kite, {long_way}. A square wants "
            f"{growth:.2f} stitches more a row; {growth_cure(growth)}. Choose “{TO_A_SQUARE}” and it is worked out."
        )
    return tuple(out)


CORNER = ShapeOf(
    id="corner",
    name="Cloth from corner to corner",
    what="Begun with three stitches, one more each row to the widest, then one fewer; a motif of cables in the middle.",
    record=CornerAnswers,
    asks=(
        Ask(
            name="side",
            label="Side",
            default=250.0,
            source=f"{_PRACTICE}: dishcloths and squares are 20 to 30 cm",
            least=80.0,
            most=2000.0,
        ),
        Ask(
            name="growth",
            label="It grows",
            default=EVERY_ROW,
            source=_PRACTICE,
            kind="choice",
            choices=(EVERY_ROW, TO_A_SQUARE),
        ),
        Ask(
            name="increase",
            label="Increase",
            default="yarn over",
            source=_PRACTICE,
            kind="choice",
            choices=tuple(_INCREASES),
        ),
    ),
    make=_make,
    sizes=(
        StandardSize(name="Dishcloth", answers={"side": 230.0}, source=_PRACTICE),
        StandardSize(name="Square for an afghan", answers={"side": 300.0}, source=_PRACTICE),
        StandardSize(name="Lap blanket", answers={"side": 900.0}, source=_PRACTICE),
    ),
    cautions=_cautions,
)
