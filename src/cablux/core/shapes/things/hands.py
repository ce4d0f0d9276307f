"""The layout of a hand: a panel on its back, a plain palm, and the stitches of the thumb between the two."""

from __future__ import annotations

from dataclasses import dataclass

from ...errors import Infeasible
from ...library import find_pattern
from ...piece.segment import Segment
from ...piece.widths import segment_um
from ..asks import ShapeAnswers
from ..halves import limb_tolerance_mm, panel_half
from ..shape import BACKGROUND, Wanted, plain

SLIT = "slit in a side seam"
THUMBS = ("gusset", "straight", SLIT)
THUMB = 1 / 3
"""Common practice: a gusset is a third of the hand, 30 to 36 %."""
_STRAIGHT = 1 / 5
"""Our choice: without a gusset a fifth of the hand is held, and as much is cast on, which goes round a thumb."""
GAP = 1 / 12
"""Our choice: of the hand's stitches so many are cast on where the thumb has been put aside; 3 of 36."""
_STARTS = ("rope-3-3-left", "braid-9", "rope-2-2-left", "braid-6", "rope-1-1-left", "twist-columns")


@dataclass(frozen=True, kw_only=True)
class MittsAnswers(ShapeAnswers):
    """What mitts are asked."""

    kind: str
    hand_mm: float
    ease_percent: float
    cuff_mm: float
    length_mm: float
    thumb: str
    thumb_length_mm: float


@dataclass(frozen=True, kw_only=True)
class HandLayout:
    """The layout of a hand: its back, the thumb's stitches at their widest and elsewhere, the palm."""

    back: tuple[Segment, ...]
    palm: Segment
    thumb: int
    before: int
    gap: int

    def segments(self, thumb: int, *, left: bool) -> tuple[Segment, ...]:
        """From the right, for either hand; the left one mirrors the right one."""
        own = (*self.back, plain(thumb), self.palm)
        return tuple(s.reflected() for s in reversed(own)) if left else own


def lay_out_hand(wanted: Wanted[MittsAnswers], around: float) -> HandLayout:
    """Half of the way round for the back, with a panel in its middle; the palm is plain."""
    measure, background = wanted.evidence.measure, wanted.background or find_pattern(BACKGROUND)
    panels = wanted.panels[:1] or tuple(map(find_pattern, _STARTS))
    found = next((b for b in (panel_half(p, background, measure, half_um=around * 500.0) for p in panels) if b), None)
    if found is None:
        names = " or ".join(p.name for p in panels)
        raise Infeasible(
            f"{names} will not fit on the back of a hand of {wanted.length(around)} at this gauge: choose a "
            "narrower one.",
            clash=("panels", "hand"),
        )
    stitch = segment_um(plain(1), measure)
    back = sum(segment_um(s, measure) for s in found)
    rest = max(6, round((around * 1000.0 - back) / stitch))
    nearest = (back + rest * stitch) / 1000.0
    if abs(nearest - around) > limb_tolerance_mm(around):
        raise Infeasible(
            f"At this gauge a hand comes to {wanted.length(nearest)} round, not {wanted.length(around)}: choose a "
            "narrower panel, or a finer yarn.",
            clash=("panels", "hand"),
            nearest=nearest,
        )
    total = rest + sum(s.stitches for s in found)
    if wanted.answers.thumb == SLIT:
        return HandLayout(back=found, palm=plain(rest), thumb=0, before=0, gap=0)
    if wanted.answers.thumb == "straight":
        thumb = max(3, round(_STRAIGHT * total))
        return HandLayout(back=found, palm=plain(max(2, rest - thumb)), thumb=thumb, before=thumb, gap=thumb)
    thumb = max(5, 2 * round((THUMB * total - 1) / 2) + 1)
    return HandLayout(
        back=found, palm=plain(rest - 1), thumb=thumb, before=1, gap=max(1, 2 * round((GAP * total - 1) / 2) + 1)
    )
