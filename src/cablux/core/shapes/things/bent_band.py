"""The bent band: a strip that short rows bend, so that its outside cables cross more often than its inside ones."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...errors import Infeasible
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.piece import Piece
from ...shaping.bend import Bent, turning_places
from ...shaping.manner import Edge
from ...units import Unit, length_text
from ..asks import Ask, ShapeAnswers, StandardSize
from ..shape import Made, MadePiece, ShapeOf, Wanted, bare_piece, laid_out

USES = ("collar", "yoke ring", "curved front", "round edging")
INSIDE: dict[str, Edge] = {"right edge": "right", "left edge": "left"}
_PRACTICE = "common practice"
_STARTS = (("rope-2-2-left", "rope-2-2-right"), ("rope-3-3-left",), ("rope-2-2-left",), ("rope-1-1-left",))
_OFF = 0.1
"""Our choice: where the outside edge would come out a tenth off its length, it is said."""


@dataclass(frozen=True, kw_only=True)
class BentBandAnswers(ShapeAnswers):
    """What a bent band is asked."""

    use: str
    inside_length_mm: float
    width_mm: float
    turn: float
    inside_at: str


def _make(wanted: Wanted[BentBandAnswers]) -> Made:
    answers = wanted.answers
    inside, width = answers.inside_length_mm, answers.width_mm
    radius = inside / math.radians(answers.turn)
    none = Border(rows=0)
    piece = bare_piece(
        wanted,
        width_mm=width,
        height_mm=inside,
        tolerance_mm=float(max(6, round(width / 12.0))),
        edge=("garter", 2),
        bottom=none,
        top=none,
        setup_rows=0,
    )
    laid = laid_out(piece, wanted, _STARTS)
    ends = (Station(name="One end", width_mm=width), Station(name="Other end", width_mm=width, at_mm=inside))
    shaping = Bent(stations=ends, radius_mm=radius, inside=INSIDE[answers.inside_at])
    bent = replace(laid, bands=(replace(laid.bands[0].unfolded(), shaping=shaping),))
    if not turning_places(bent.band_views[0]):
        raise Infeasible(
            "No background lies between the panels, so short rows cannot turn: choose narrower panels.",
            clash=("panels", "width"),
        )
    return Made((MadePiece(bent),))


def crossings_ratio(piece: Piece) -> float:
    """How often the outermost stitches are worked, over the innermost: so often a panel there crosses as well."""
    bent = piece.bands[0].shaping
    if not isinstance(bent, Bent):
        raise ValueError("only a bent band has wedges")
    wedges = bent.wedges(piece.band_views[0])
    return len(wedges.rows) / wedges.whole


def _cautions(answers: BentBandAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    piece = pieces[0]
    shaping = piece.bands[0].shaping
    if not isinstance(shaping, Bent):
        return ()
    wide, radius = piece.width_mm, shaping.radius_mm
    ratio = crossings_ratio(piece)
    outside = length_text(answers.inside_length_mm * (radius + wide) / radius, unit)
    out = [
        f"The inside edge has a radius of {length_text(radius, unit)}, the outside edge is {outside} long: there the "
        f"same cable crosses {ratio:.1f} times as often as inside.",
        "Lift each wrap and work it with its stitch when you come to it; in purl and garter it may stay.",
    ]
    if abs(ratio / ((radius + wide) / radius) - 1.0) > _OFF:
        out.append("Few places to turn make the bend uneven: put more background between the panels.")
    return tuple(out)


BENT_BAND = ShapeOf(
    id="bent-band",
    name="Bent band",
    what="A strip bent by short rows: collars, curved fronts, rings and round edgings.",
    record=BentBandAnswers,
    asks=(
        Ask(name="use", label="For", default="collar", source="our choice", kind="choice", choices=USES, names_it=True),
        Ask(
            name="inside_length",
            label="Length of the inside edge",
            default=420.0,
            source=f"{_PRACTICE}: necks are 38 to 46 cm round",
            least=30.0,
            most=5000.0,
            by={"yoke ring": 560.0, "curved front": 300.0, "round edging": 600.0},
            hint="Along the shorter edge.",
        ),
        Ask(name="width", label="Width", default=90.0, source="our choice", least=30.0, most=600.0),
        Ask(
            name="turn",
            label="Turn, in degrees",
            default=180.0,
            source="our choice: a collar lies in half a ring",
            kind="number",
            least=10.0,
            most=720.0,
            by={"yoke ring": 360.0, "curved front": 90.0, "round edging": 360.0},
        ),
        Ask(
            name="inside_at",
            label="Inside edge",
            default="right edge",
            source="our choice",
            kind="choice",
            choices=tuple(INSIDE),
        ),
    ),
    make=_make,
    sizes=(
        StandardSize(
            name="Neck of 40 cm", answers={"inside_length": 400.0, "turn": 180.0}, source=_PRACTICE, choice="collar"
        ),
    ),
    cautions=_cautions,
)
