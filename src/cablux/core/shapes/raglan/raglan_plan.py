"""The counts of a raglan: neck and how it is split, body and sleeves at the underarm, and the rounds between them."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ...errors import Infeasible
from ...gauge import Measure
from ...library import find_pattern
from ...piece.piece import Piece
from ...piece.segment import Segment
from ...piece.widths import body_row_um, segment_um, stitch_widths
from ..halves import panel_half
from ..shape import BACKGROUND, Wanted, plain
from ..sweater.ease import wanted_ease_mm
from ..sweater.torso import lay_out_body
from .raglan_answers import RaglanAnswers

SPLITS: Mapping[str, float] = {"thirds": 1 / 3, "40/40/10/10": 0.4}
"""Common practice: the back's part of the neck's stitches; the front has as many, each sleeve half of what is left."""
OWN_SPLIT = "by width of the neck"
LEAST_SLEEVE = 2
LINE = "twist-line"
PLAIN_LINE = "plain knit"
LINES = ("twisted", PLAIN_LINE)
NO_LINE = "none"
SIDE_LINES = (NO_LINE, *LINES)
LINE_STITCHES = 2
"""Common practice: a line of two stitches, and eight more in each round of increases."""


@dataclass(frozen=True, kw_only=True)
class Raglan:
    """A raglan at its widest: the segments of back (the front has the same) and sleeve, the underarm, the lines.

    `neck`: the counts of back and sleeve at the neck; `rounds` lie between there and the underarms. `around_mm`: what
    the body is to be round. `side`: a line down each side of the body, from the middle of the underarm.
    """

    back: tuple[Segment, ...]
    sleeve: tuple[Segment, ...]
    underarm: int
    lines: tuple[Segment, Segment]
    neck: tuple[int, int]
    rounds: int
    around_mm: float
    side: Segment | None = None

    @property
    def back_count(self) -> int:
        """The back's stitches at the underarm."""
        return sum(s.stitches for s in self.back)

    @property
    def sleeve_count(self) -> int:
        """A sleeve's stitches at the underarm, without those of the underarm itself."""
        return sum(s.stitches for s in self.sleeve)

    @property
    def neck_count(self) -> int:
        """All stitches round the neck."""
        return 2 * sum(self.neck) + 4 * LINE_STITCHES

    @property
    def changes(self) -> tuple[int, int]:
        """How often back and sleeve are shaped, at both ends, between neck and underarm."""
        return (self.back_count - self.neck[0]) // 2, -(-(self.sleeve_count - self.neck[1]) // 2)


def plan_raglan(wanted: Wanted[RaglanAnswers]) -> Raglan:
    """The counts of a raglan. Raises Infeasible where its measures leave no back, no sleeve, or too few rounds."""
    found = _plan_with(wanted, wanted_ease_mm(wanted.answers))
    more = wanted_ease_mm(wanted.answers, found.back, wanted.evidence.measure)
    return _plan_with(wanted, more) if more > wanted_ease_mm(wanted.answers) else found


def _plan_with(wanted: Wanted[RaglanAnswers], ease: float) -> Raglan:
    answers, stitch_mm = wanted.answers, wanted.evidence.gauge.stitch_mm
    around = answers.chest_mm + ease
    underarm = 2 * max(1, round(answers.underarm_mm / stitch_mm / 2.0))
    lines = _lines(answers.lines)
    line_mm = segment_um(lines[0], wanted.evidence.measure) / 1000.0
    wide = around / 2.0 - 2.0 * line_mm - underarm * stitch_mm
    if wide < 60.0:
        raise Infeasible(
            "The underarms leave no back: cast on fewer stitches under the arms, or make the body wider.",
            clash=("underarm", "chest"),
        )
    body = lay_out_body(wanted, "Body", wide, tolerance_mm=max(15.0, wide / 20.0))
    back = body.bands[0].own[1:-1]
    if wanted.layout:  # its charts begin anew, wherever those of the yoke had come to
        back = tuple(replace(s, phase=0) for s in back)
    sleeve = lay_out_raglan_sleeve(wanted, answers.upper_arm_mm - underarm * stitch_mm, back)
    neck = find_neck(wanted, answers.split, back, sleeve=sleeve)
    found = Raglan(
        back=back,
        sleeve=sleeve,
        underarm=underarm,
        lines=lines,
        neck=neck,
        rounds=_rounds(wanted, body),
        around_mm=around,
        side=_side(answers.sides),
    )
    _check(wanted, found)
    return found


def _rounds(wanted: Wanted[RaglanAnswers], body: Piece) -> int:
    return 2 * round(wanted.answers.yoke_depth_mm * 1000.0 / body_row_um(body.band_views[0]) / 2.0)


def _lines(kind: str) -> tuple[Segment, Segment]:
    """The line at the right of a front or back, and the one at its left: mirrored."""
    if kind == PLAIN_LINE:
        return plain(LINE_STITCHES), plain(LINE_STITCHES)
    right, left = (
        Segment(role="panel", pattern=find_pattern(f"{LINE}-{lean}"), repeats=1) for lean in ("right", "left")
    )
    return right, left


def _side(kind: str) -> Segment | None:
    return _lines(kind)[0] if kind != NO_LINE else None


def lay_out_raglan_sleeve(
    wanted: Wanted[RaglanAnswers], width_mm: float, back: Sequence[Segment]
) -> tuple[Segment, ...]:
    """The upper sleeve: the body's panel that has the most room in it, else plain."""
    measure, background = wanted.evidence.measure, wanted.background or find_pattern(BACKGROUND)
    wide = width_mm * 1000.0
    panels = dict.fromkeys(s.pattern for s in sorted(back, key=lambda s: -s.stitches) if s.is_panel)
    for panel in panels:
        found = panel_half(panel, background, measure, half_um=wide)
        cable = sum(s.stitches for s in found or () if s.is_panel) * measure.gauge.stitch_mm * 1000.0
        if found is not None and cable < 0.6 * wide:
            return found
    return (plain(max(4, round(width_mm / measure.gauge.stitch_mm))),)


def find_neck(
    wanted: Wanted[RaglanAnswers], split: str, back: Sequence[Segment], *, sleeve: Sequence[Segment]
) -> tuple[int, int]:
    """The neck's stitches of the back and of a sleeve, as wide round as is asked with what the panels draw in there."""
    measure = wanted.evidence.measure
    wide, stitch = (1000.0 * mm for mm in (wanted.answers.neck_mm, measure.gauge.stitch_mm))
    plain_count = round(wide / stitch)
    back_um, sleeve_um = (_middle_widths(each, measure) for each in (back, sleeve))

    def off(count: int) -> float:
        b, s = split_neck(wanted, split, count, back=len(back_um) - 1)
        if b >= len(back_um) or s >= len(sleeve_um):
            return math.inf
        return abs(2.0 * (back_um[b] + sleeve_um[s]) + 4 * LINE_STITCHES * stitch - wide)

    counts = range(plain_count, 2 * plain_count, 2)
    return split_neck(wanted, split, min(counts, key=off), back=len(back_um) - 1)


def _middle_widths(segments: Sequence[Segment], measure: Measure) -> list[float]:
    """How wide the middle stitches of a run of segments lie: none of them, one, and so on to all, in micrometres."""
    each = stitch_widths(segments, measure)
    return [sum(each[(len(each) - n) // 2 : (len(each) + n) // 2]) for n in range(len(each) + 1)]


def split_neck(wanted: Wanted[RaglanAnswers], split: str, count: int, *, back: int) -> tuple[int, int]:
    """So many stitches of a neck, the lines among them, for the back and for a sleeve, nearest to the split.

    The back's parity is that of its underarm, and the sleeve's that of the back, so that all are a multiple of four.
    """
    rest = count - 4 * LINE_STITCHES
    own = wanted.answers.neck_width_mm / wanted.evidence.gauge.stitch_mm
    of_back = _near(own if split == OWN_SPLIT else SPLITS[split] * rest, back)
    return of_back, _near((rest - 2 * of_back) / 2.0, of_back)


def _near(wanted: float, parity: int) -> int:
    """The whole number nearest to the one wanted that is odd or even as another is."""
    return max(LEAST_SLEEVE + (LEAST_SLEEVE + parity) % 2, 2 * round((wanted - parity % 2) / 2.0) + parity % 2)


def _check(wanted: Wanted[RaglanAnswers], plan: Raglan) -> None:
    names = ("The body", "The sleeves")
    for name, change, neck in zip(names, plan.changes, plan.neck, strict=True):
        if change < 0:
            raise Infeasible(
                f"{name} would be narrower at the underarm than at the neck, which has {neck} stitches there: make the "
                "neck smaller, or split it otherwise.",
                clash=("neck", "split"),
            )
        if change > plan.rounds:
            raise Infeasible(
                f"{name} must be increased {change} times, but the yoke has only {plan.rounds} rounds: make the yoke "
                f"deeper than {wanted.length(wanted.answers.yoke_depth_mm)}, or the neck wider.",
                clash=("yoke_depth", "neck"),
            )
