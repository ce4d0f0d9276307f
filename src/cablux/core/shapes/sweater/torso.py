"""The torso of a sweater: the layout of a body, and where its armholes, shoulders and neck fall."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ...errors import Infeasible
from ...library import find_pattern
from ...piece.border import Border
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ..asks import ShapeAnswers
from ..shape import BACKGROUND, Wanted, laid_out

RIB = "rib-2x2"
SHOULDER_STEPS = 3
"""Our choice: a shoulder is bound off in three steps, a slope of 2 to 2.5 cm over 10 to 13 (common practice)."""
NEAR_MM = 20.0
"""Our choice: for a panel's edge, or to keep a panel whole, a neck may be two centimetres wider or narrower a side."""
_STARTS = (("braid-9", "rope-2-2-left"), ("braid-6", "rope-1-1-left"), ("rope-3-3-left",), ("rope-2-2-left",))


def seam() -> Segment:
    """The stitch of an edge that a seam, or a picked-up band, takes."""
    return Segment(role="seam", pattern=find_pattern("stockinette"), repeats=1)


def lay_out_body(wanted: Wanted[ShapeAnswers], name: str, width_mm: float, *, tolerance_mm: float) -> Piece:
    """A piece of a body as wide as wanted, panels in its middle, a seam stitch at each side; no rows yet.

    A layout that a person has arranged is taken as it is. Raises Infeasible where the chosen panels do not fit.
    """
    background = wanted.background or find_pattern(BACKGROUND)
    count = max(4, round(width_mm / wanted.evidence.gauge.stitch_mm) - 2)
    own: tuple[Segment, ...] = (
        seam(),
        Segment(role="background", pattern=background, repeats=background.chart.repeats_for(count) or count),
        seam(),
    )
    if wanted.layout:
        own = wanted.layout if wanted.layout[0].is_seam else (seam(), *wanted.layout, seam())
    bare = Piece(
        name=name,
        width_mm=width_mm,
        height_mm=600.0,
        evidence=wanted.evidence,
        bands=(Band(own=own, symmetric=False),),
        tolerance_mm=tolerance_mm,
        bottom=Border(rows=0),
        top=Border(rows=0),
        setup_rows=0,
    )
    laid = bare if wanted.layout else laid_out(bare, wanted, _STARTS, prefer="wide middle, pairs beside it")
    return replace(laid, bands=(replace(laid.bands[0], own=laid.bands[0].segments, symmetric=False),))


ShoulderKind = Literal["steps", "short rows", "crossed", "straight"]
"""How a shoulder ends: bound off in steps, in short rows, by crossings that decrease, or bound off at once."""


@dataclass(frozen=True, kw_only=True)
class Torso:
    """Counts and rows of a body: all stitches, those bound off and decreased at each armhole, of a shoulder, the neck.

    `width_mm`: what all stitches come to.
    `body`: rows of the charts to the armholes; `depth`: from there to the shoulders; `neck_rows`: of them beside the
    front neck; `held`: stitches of the front neck that are held in its middle.
    """

    segments: tuple[Segment, ...]
    width_mm: float
    bound: int
    decreased: int
    shoulder: int
    neck: int
    body: int
    depth: int
    neck_rows: int
    held: int
    kind: ShoulderKind = "steps"

    @property
    def sloped(self) -> bool:
        """Whether the shoulders are made in short rows and joined with three needles."""
        return self.kind == "short rows"

    @property
    def stitches(self) -> int:
        """All stitches of the piece."""
        return sum(s.stitches for s in self.segments)

    @property
    def armhole(self) -> int:
        """What goes at each armhole."""
        return self.bound + self.decreased

    @property
    def steps(self) -> tuple[int, ...]:
        """A shoulder's stitches in nearly equal steps, the larger ones first; or as crossings take them away."""
        if self.kind == "crossed":
            return crossed_steps(self.shoulder)
        if self.kind == "straight":
            return (self.shoulder,)
        many = max(1, min(SHOULDER_STEPS, self.shoulder // 3))
        return tuple(self.shoulder // many + (at < self.shoulder % many) for at in range(many))

    @property
    def slope_rows(self) -> int:
        """The rows in which the shoulders slope."""
        return 0 if self.kind == "straight" else 2 * len(self.steps)

    @property
    def side(self) -> int:
        """Stitches of the front beside its held ones, before the neck is shaped."""
        return (self.stitches - 2 * self.armhole - self.held) // 2


def fit_neck(segments: Sequence[Segment], neck: float, stitch_mm: float, *, least_shoulder: int, armhole: int) -> int:
    """The neck's stitches near the number wanted, of the same parity as all there are: where its ends cut no panel.

    Where no such number lies within two centimetres a side the nearest is taken. Raises Infeasible for no neck at all.
    """
    count = sum(s.stitches for s in segments)
    most = count - 2 * (armhole + least_shoulder)
    uncut, room = uncut_places(segments), 2 * round(NEAR_MM / stitch_mm)
    if most < 4 or neck > most + room:
        raise Infeasible(
            "So wide a neck leaves no shoulders beside the armholes: make the neck narrower, or the body wider.",
            clash=("neck_width", "chest"),
        )
    wanted = min(most, max(4, round(neck)))
    near = [n for n in range(max(4, wanted - room), min(most, wanted + room) + 1) if (count - n) % 2 == 0]
    whole = [n for n in near if (count - n) // 2 in uncut]
    return min(whole or near, key=lambda n: (abs(n - wanted), n))


def uncut_places(segments: Sequence[Segment]) -> set[int]:
    """The places, in stitches from the right, at which no panel is cut: in background, and where a segment ends."""
    out, at = {0}, 0
    for s in segments:
        out |= set(range(at, at + s.stitches + 1)) if s.is_background else {at, at + s.stitches}
        at += s.stitches
    return out


def crossed_steps(stitches: int) -> tuple[int, ...]:
    """A shoulder as crossings of 3 over 3 and 2 over 2 take it away, the wider ones first.

    >>> crossed_steps(10)
    (3, 3, 2, 2)
    """
    twos = -stitches % 3
    return (3,) * ((stitches - 2 * twos) // 3) + (2,) * twos
