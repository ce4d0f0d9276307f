"""The body of a sweater: back, front and its two shoulders, planned together from what was asked."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...errors import Infeasible
from ...garment.silhouette import edge_path, path_um, pulled_um
from ...piece.border import Border
from ...piece.parts import PartEnd
from ...piece.piece import Band, Piece
from ...piece.symmetry import is_symmetric
from ...piece.widths import body_row_um, body_um, stitch_widths
from ...rows.heights import plan_rows
from ...rows.row_room import border_row_um
from ..shape import Wanted, border_rows
from .ease import wanted_ease_mm
from .front_torso import front_beside, with_neck
from .panel_cuts import check_cuts, cut_panels, laid_between
from .sweater_answers import SweaterAnswers
from .sweater_asks import COLLARS, CUTS, SHOULDERS
from .torso import RIB, ShoulderKind, Torso, fit_neck, lay_out_body
from .upper_body import back_bands, back_end, front_bands, front_end, shoulder_piece

MODIFIED_MM = 50.0
"""Common practice: a modified armhole binds off 2.5 to 8 cm, and the sleeve is that much longer."""
UNDERARM_MM = 25.0
"""Common practice: a set-in armhole begins with 2 to 4 cm bound off at each side."""
LEAST_SHOULDER = 3
_KINDS: dict[str, ShoulderKind] = dict(zip(SHOULDERS, ("steps", "short rows", "crossed"), strict=True))
HEM = 0.95
"""Our choice: a hem is a twentieth narrower than the body, so that it lies close."""


@dataclass(frozen=True, kw_only=True)
class SweaterBody:
    """Back, front, and what goes on from the front beside its neck, on the right as one looks at it and on the left.

    `torso` has the counts and rows of the back, `front_torso` those of the front.
    """

    torso: Torso
    front_torso: Torso
    back: Piece
    front: Piece
    right: Piece
    left: Piece

    @property
    def pieces(self) -> tuple[Piece, Piece, Piece, Piece]:
        """In the order in which they are worked; others count on it."""
        return self.back, self.front, self.right, self.left

    @property
    def sides(self) -> tuple[Piece, Piece]:
        """The two shoulders of the front."""
        return self.right, self.left

    @property
    def armhole_mm(self) -> float:
        """An armhole's way round: the back's edge, and the front's with what goes on from it beside the neck."""
        front = self.front_torso
        lines = (
            edge_path(self.front, "right", level_um(self.front, front.body)),
            edge_path(self.right, "right", 0.0, end_um=level_um(self.right, front.neck_rows)),
        )
        return self.back_armhole_mm + sum(map(path_um, lines)) / 1000.0

    @property
    def back_armhole_mm(self) -> float:
        """What of an armhole's way round is the back's."""
        under, over = (level_um(self.back, self.torso.body + rows) for rows in (0, self.torso.depth))
        return path_um(edge_path(self.back, "right", under, end_um=over)) / 1000.0

    @property
    def shoulder_um(self) -> float:
        """How long a shoulder of the back is: across, or along the slope of one that crossings decrease."""
        torso = self.torso
        across = sum(stitch_widths(torso.segments, self.back.measure)[torso.armhole :][: torso.shoulder])
        above = torso.body + torso.depth
        rise = level_um(self.back, above + torso.slope_rows) - level_um(self.back, above)
        stitch = self.back.measure.gauge.stitch_mm * 1000.0
        return pulled_um(math.hypot(across, rise), stitch) if torso.kind == "crossed" else across

    @property
    def back_seam_mm(self) -> tuple[float, float]:
        """From where to where a side of the back is sewn: what hangs below the front stays free."""
        under = level_um(self.back, self.torso.body)
        hangs = under - level_um(self.front, self.front_torso.body) if self.torso.body > self.front_torso.body else 0.0
        return max(0.0, hangs / 1000.0), under / 1000.0


def make_body(wanted: Wanted[SweaterAnswers], construction: str) -> SweaterBody:
    """The body as it is wanted. Raises Infeasible where its measures leave no shoulder, no neck or no armhole."""
    answers = wanted.answers
    body = _laid_out(wanted, wanted_ease_mm(answers))
    more = wanted_ease_mm(answers, body.band_views[0].segments, body.measure)
    if more > wanted_ease_mm(answers):
        body = _laid_out(wanted, more)
    body = replace(
        body,
        bottom=Border(pattern_id=RIB, rows=border_rows(RIB, answers.hem_mm, wanted.evidence), factor=HEM),
    )
    back, front = plan_torsos(wanted, body, construction)
    if answers.cuts != CUTS[2] and _armholes_cut(back) and not wanted.layout:
        again = laid_between(wanted, body, back)
        found = plan_torsos(wanted, again, construction) if again else (back, front)
        if again and not _armholes_cut(found[0]):
            body, (back, front) = again, found
    check_cuts(wanted, back)
    pieces = _back(body, back), _front(body, front, split=answers.collar == COLLARS[1])
    paced = answers.neckline != "V"
    right, left = (shoulder_piece(pieces[1], front, 2, right=side, paced=paced) for side in (True, False))
    return SweaterBody(torso=back, front_torso=front, back=pieces[0], front=pieces[1], right=right, left=left)


def _laid_out(wanted: Wanted[SweaterAnswers], ease: float) -> Piece:
    half = (wanted.answers.chest_mm + ease - wanted.answers.front_wider_mm) / 2.0
    return lay_out_body(wanted, "Back", half, tolerance_mm=max(15.0, half / 20.0))


def _armholes_cut(torso: Torso) -> bool:
    return any(what == "armholes" for _, what in cut_panels(torso.segments, torso.armhole, torso.neck))


def plan_torsos(wanted: Wanted[SweaterAnswers], body: Piece, construction: str) -> tuple[Torso, Torso]:
    """The counts and the rows of a back and of its front.

    Raises Infeasible where its measures leave no shoulder, no neck or no armhole.
    """
    row_mm = body_row_um(body.band_views[0]) / 1000.0
    back = _plan_back(wanted, body, construction, row_mm=row_mm)
    before = front_beside(wanted, back, row_mm, construction=construction)
    front = with_neck(wanted, before, row_mm)
    at_once = min(front.bound - before.bound, back.decreased - 1)  # the back's armholes are as the front's are
    if at_once > 0:
        back = replace(back, bound=back.bound + at_once, decreased=back.decreased - at_once)
    if back.depth < 2 + 2 * back.decreased and back.bound:
        raise Infeasible(
            "The armholes are too shallow for such shoulders: make them deeper, or the neck wider.",
            clash=("armhole_depth", "neck_width"),
        )
    return back, front


def _plan_back(wanted: Wanted[SweaterAnswers], body: Piece, construction: str, *, row_mm: float) -> Torso:
    answers, view, stitch = wanted.answers, body.band_views[0], wanted.evidence.gauge.stitch_mm
    count, wide = view.stitches, body_um(view) / 1000.0
    each = wide / count
    across = answers.cross_back_mm
    mm = {"drop": 0.0, "modified-drop": MODIFIED_MM, "set-in": UNDERARM_MM}[construction]
    bound = round(mm / stitch)
    narrower = max(0, round((wide - across) / 2.0 / each) - bound) if construction == "set-in" else 0
    if construction == "set-in" and narrower < 1:
        bound, narrower = max(1, bound - 1), 1
    neck = fit_neck(
        view.segments,
        answers.neck_width_mm / each,
        each,
        least_shoulder=LEAST_SHOULDER,
        armhole=bound + narrower,
    )
    shoulder = (count - neck) // 2 - bound - narrower
    if shoulder < LEAST_SHOULDER:
        raise Infeasible(
            f"A neck of {wanted.length(answers.neck_width_mm)} leaves no shoulders in a body of "
            f"{wanted.length(body.width_mm)}: make the neck narrower, or the body wider.",
            clash=("neck_width", "chest"),
        )
    depth = 2 * round(answers.armhole_depth_mm / row_mm / 2.0)
    hem_mm = body.bottom.rows * border_row_um(body, body.bottom) / 1000.0
    whole = 2 * round((answers.length_mm - hem_mm) / row_mm / 2.0)
    if whole - depth < 4:
        raise Infeasible(
            "The armholes are as deep as the body is long: make it longer, or the armholes less deep.",
            clash=("length", "armhole_depth"),
        )
    kind = _KINDS[answers.shoulders]
    back = Torso(
        segments=view.segments,
        width_mm=wide,
        bound=bound,
        decreased=narrower,
        shoulder=shoulder,
        neck=neck,
        body=whole - depth,
        depth=depth,
        neck_rows=0,
        held=0,
        kind=kind,
    )
    # its own slope begins so much lower as the front's shoulder lies higher
    return replace(back, depth=depth - back.slope_rows + 2 * round(back.slope_rows / 4)) if kind == "crossed" else back


def _back(body: Piece, torso: Torso) -> Piece:
    return _high(replace(body, name="Back", bands=_alike(back_bands(torso)), ends=back_end(torso)))


def _front(body: Piece, torso: Torso, *, split: bool) -> Piece:
    wider = torso.width_mm - body_um(body.band_views[0]) / 1000.0
    width = replace(body, name="Front", width_mm=body.width_mm + wider)
    return _high(replace(width, bands=_alike(front_bands(torso)), ends=front_end(torso, split=split)))


def _alike(bands: Sequence[Band]) -> tuple[Band, ...]:
    """Bands whose halves mirror each other, tied so: a change on one side is made on both, and the count stays even."""
    return tuple(band.folded() if is_symmetric(band.own) else band for band in bands)


def _high(piece: Piece) -> Piece:
    return replace(piece, height_mm=round(plan_rows(replace(piece, ends=PartEnd())).height_um / 1000.0, 1))


def level_um(piece: Piece, rows: int) -> float:
    """The height of a piece after so many rows of its charts."""
    plan = plan_rows(piece)
    at, left = plan.bottom * plan.bottom_row_um, rows
    for band in plan.bands:
        here = min(left, band.body)
        at += (band.lead + here) * band.row_um
        left -= here
    return at
