"""The shawl: from the middle of the neck, two wings that grow beside a spine, a cable on each."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...errors import Infeasible
from ...library import StitchPattern, find_pattern
from ...needle.columns import IncreaseKind
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.piece import Band, Piece
from ...piece.segment import Segment, proposed_purl_margin
from ...piece.widths import body_row_um, body_um
from ...rows.heights import plan_rows
from ...rows.shaped_band import shape_band
from ...shaping.manner import Manner
from ...shaping.sections import ALL, Section
from ...shaping.spine import Spined
from ...units import Unit, length_text
from ..asks import Ask, ShapeAnswers, StandardSize
from ..shape import Made, MadePiece, ShapeOf, Wanted

_BEGINS = 1
"""Common practice: a wing begins with a stitch, and grows by two in every right-side row."""
EDGE, SPINE = 3, 1
"""Common practice: three stitches in garter at the edges, and one knit stitch for the spine."""
_STRAIGHT = 5.0
"""Our choice: an upper edge within five degrees of a straight line looks straight, and blocks to one."""
_FEWEST = 4
"""Our choice: fewer stitches of background beside its cable, and a wing is all cable before it is a wing."""
_INCREASES: dict[str, IncreaseKind] = {"yarn over": "yo", "lifted bar": "M1", "kfb": "kfb"}
_PRACTICE = "common practice"
_START = "rope-3-3-left"


@dataclass(frozen=True, kw_only=True)
class ShawlAnswers(ShapeAnswers):
    """What a shawl is asked."""

    depth_mm: float
    increase: str


def _make(wanted: Wanted[ShawlAnswers]) -> Made:
    answers = wanted.answers
    panel = wanted.panels[0] if wanted.panels else find_pattern(_START)
    background = wanted.background or find_pattern("garter")
    manner = Manner(increase=_INCREASES[answers.increase])
    deep = answers.depth_mm
    placed = Segment(role="panel", pattern=panel, repeats=1, purl_margin=proposed_purl_margin(panel))
    least = placed.stitches // 2 + _FEWEST
    side = max(least, _nearest_side(wanted, placed, background, deep=deep, manner=manner))
    shawl = _shawl(wanted, placed, background, side=side, manner=manner)
    off = depth_um(shawl) / 1000.0 - deep
    if side == least and off > deep / 10.0:
        raise Infeasible(
            f"{panel.name} makes the shawl {wanted.length(depth_um(shawl) / 1000.0)} deep at least: choose a narrower "
            "panel, or make it deeper.",
            clash=("panels", "depth"),
            nearest=depth_um(shawl) / 1000.0,
        )
    return Made((MadePiece(shawl),))


def _nearest_side(
    wanted: Wanted[ShawlAnswers], panel: Segment, background: StitchPattern, *, deep: float, manner: Manner
) -> int:
    """How many stitches of background on either side of the cables bring the spine nearest to its length."""
    low, high = 1, max(4, math.ceil(2.0 * deep / wanted.evidence.gauge.stitch_mm))
    while low < high:  # the wider the wings, the deeper
        middle = (low + high) // 2
        if depth_um(_shawl(wanted, panel, background, side=middle, manner=manner)) < deep * 1000.0:
            low = middle + 1
        else:
            high = middle
    near = (max(1, low - 1), low)
    return min(
        near, key=lambda n: abs(depth_um(_shawl(wanted, panel, background, side=n, manner=manner)) - deep * 1000.0)
    )


def _shawl(
    wanted: Wanted[ShawlAnswers], panel: Segment, background: StitchPattern, *, side: int, manner: Manner
) -> Piece:
    """The shawl with so many stitches of background on either side of each cable."""
    edge = Segment(role="edge", pattern=find_pattern("garter"), repeats=EDGE)
    aside = [
        Segment(role="background", pattern=background, repeats=side + more) for more in (0, (panel.stitches + 1) % 2)
    ]
    wing = (aside[0], panel, aside[1])  # an odd number in all, since it begins with one and grows by two
    spine = Segment(
        role="background", pattern=find_pattern("stockinette"), repeats=SPINE, locked=True
    )  # no gap for the layouts to widen
    other = tuple(s.reflected() for s in reversed(wing))
    last = len(wing)
    sections = tuple(
        Section(first=first, last=first + last - 1, counts=(_BEGINS, ALL), edges="both", name=name)
        for first, name in ((1, "right wing"), (last + 2, "left wing"))
    )
    stations = (Station(name="Neck", width_mm=0.0, row=0), Station(name="Lower edge", width_mm=0.0, paced=True))
    band = Band(
        own=(edge, *wing, spine, *other, edge), shaping=Spined(stations=stations, sections=sections, manner=manner)
    )
    bare = Piece(
        name=wanted.name,
        width_mm=1000.0,
        height_mm=1000.0,
        evidence=wanted.evidence,
        bands=(band,),
        bottom=Border(rows=0),
        top=Border(rows=0),
        setup_rows=0,
    )
    view = bare.band_views[0]
    width, rows = body_um(view) / 1000.0, sum(s.stitches for s in wing) - _BEGINS
    high = rows * body_row_um(view) / 1000.0
    return replace(
        bare, width_mm=round(width, 1), height_mm=round(high, 1), tolerance_mm=round(max(15.0, width / 20.0))
    )


def depth_um(piece: Piece) -> float:
    """How deep a shawl is along its spine."""
    own = shape_band(piece.band_views[0]).own_outline
    return own.along.um if own is not None and own.along is not None else plan_rows(piece).height_um


def _cautions(answers: ShawlAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    """Its size, how its upper edge lies, and what its edges must give."""
    view = pieces[0].band_views[0]
    if not isinstance(view.shaping, Spined):  # made straight, or shaped otherwise, since
        return ()
    found = shape_band(view)
    own, angle = found.own_outline, view.shaping.angle(view, found.stations, found.active)
    across = length_text(own.across.um / 1000.0, unit) if own is not None and own.across is not None else ""
    out = [f"From tip to tip it is {across}, {length_text(depth_um(pieces[0]) / 1000.0, unit)} deep along the spine."]
    if abs(angle - 90.0) > _STRAIGHT:
        how = "the tips lie lower than the neck" if angle > 90.0 else "the tips rise, and the upper edge is a wide V"
        out.append(
            f"Each half of the upper edge makes {angle:.0f} degrees with the spine, not 90: {how}. Garter comes "
            "nearest to a straight edge; blocking brings in a few degrees more."
        )
    out.append("Work the edge stitches and the bind-off loosely: the outer edges are longer than the rows beside them.")
    return tuple(out)


SHAWL = ShapeOf(
    id="shawl",
    name="Shawl",
    what="From the middle of the neck, two wings beside a spine, with a cable on each and edges in garter.",
    record=ShawlAnswers,
    asks=(
        Ask(
            name="depth",
            label="Depth along the spine",
            default=550.0,
            source=f"{_PRACTICE}: small shawls are 40 to 50 cm deep, wraps 60 to 75",
            least=100.0,
            most=1500.0,
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
        StandardSize(name="Neckerchief", answers={"depth": 300.0}, source=_PRACTICE),
        StandardSize(name="Small shawl", answers={"depth": 450.0}, source=_PRACTICE),
        StandardSize(name="Wrap", answers={"depth": 650.0}, source=_PRACTICE),
    ),
    cautions=_cautions,
)
