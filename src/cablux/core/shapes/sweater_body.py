"""The body of a sweater: back, front and its two shoulders, planned together from what was asked."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..errors import Infeasible
from ..layout.heights import plan_rows
from ..layout.parts import PartEnd
from ..layout.piece import Band, Border, Piece, is_symmetric
from ..layout.room import border_row_um
from ..layout.silhouette import edge_path, path_um
from ..layout.widths import body_row_um, body_um
from .asks import millimetres
from .panel_cuts import check_cuts, cut_panels, laid_between
from .shape import Wanted, border_rows
from .sweater_asks import CUTS, SHOULDERS
from .torso import RIB, Torso, back_bands, back_end, fit_neck, front_bands, front_end, lay_out_body, shoulder_piece

MODIFIED_MM = 50.0
"""Common practice: a modified armhole binds off 2.5 to 8 cm, and the sleeve is that much longer."""
UNDERARM_MM = 25.0
"""Common practice: a set-in armhole begins with 2 to 4 cm bound off at each side."""
NECK_DEPTH = {"crew": 1.0, "V": 2.0, "boat": 0.4}
"""Our choice: a V is twice as deep as a crew neck of the depth that is asked, a boat neck less than half."""
NECK_HELD = {"crew": 0.5, "V": 0.0, "boat": 0.7}
"""Our choice: what of the front neck is held in its middle; the rest is decreased to both sides."""
LEAST_SHOULDER = 3
HEM = 0.95
"""Our choice: a hem is a twentieth narrower than the body, so that it lies close."""


@dataclass(frozen=True)
class SweaterBody:
    """Back, front, and what goes on from the front beside its neck, on the right as one looks at it and on the left."""

    torso: Torso
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
        under, over = (level_um(self.back, self.torso.body + rows) for rows in (0, self.torso.depth))
        lines = (
            edge_path(self.back, "right", under, over),
            edge_path(self.front, "right", under),
            edge_path(self.right, "right", 0.0, level_um(self.right, self.torso.neck_rows)),
        )
        return sum(map(path_um, lines)) / 1000.0


def make_body(wanted: Wanted, construction: str) -> SweaterBody:
    """The body as it is wanted. Raises Infeasible where its measures leave no shoulder, no neck or no armhole."""
    answers = wanted.answers
    half = (millimetres(answers, "chest") + millimetres(answers, "ease")) / 2.0
    body = lay_out_body(wanted, "Back", half, tolerance_mm=max(15.0, half / 20.0))
    body = replace(body, bottom=Border(RIB, border_rows(RIB, millimetres(answers, "hem"), wanted.evidence), factor=HEM))
    torso = plan_torso(wanted, body, construction)
    if answers["cuts"] != CUTS[2] and _armholes_cut(torso):
        again = laid_between(wanted, body, torso)
        found = plan_torso(wanted, again, construction) if again else torso
        if again and not _armholes_cut(found):
            body, torso = again, found
    check_cuts(wanted, torso)
    back, front = _back(body, torso), _front(body, torso)
    paced = answers["neckline"] != "V"
    right, left = (shoulder_piece(front, torso, 2, right=side, paced=paced) for side in (True, False))
    return SweaterBody(torso, back, front, right, left)


def _armholes_cut(torso: Torso) -> bool:
    return any(what == "armholes" for _, what in cut_panels(torso.segments, torso.armhole, torso.neck))


def plan_torso(wanted: Wanted, body: Piece, construction: str) -> Torso:
    """The counts and the rows of a body. Raises Infeasible where its measures leave no shoulder or no neck."""
    answers, view = wanted.answers, body.band_views[0]
    row_mm, stitch = body_row_um(view) / 1000.0, wanted.evidence.gauge.stitch_mm
    segments, count, wide = view.segments, view.stitches, body_um(view) / 1000.0
    each = wide / count
    across = millimetres(answers, "cross_back")
    mm = {"drop": 0.0, "modified-drop": MODIFIED_MM, "set-in": UNDERARM_MM}[construction]
    bound = round(mm / stitch)
    narrower = max(0, round((wide - across) / 2.0 / each) - bound) if construction == "set-in" else 0
    if construction == "set-in" and narrower < 1:
        bound, narrower = max(1, bound - 1), 1
    neck = fit_neck(segments, millimetres(answers, "neck_width") / each, each, LEAST_SHOULDER, bound + narrower)
    shoulder = (count - neck) // 2 - bound - narrower
    if shoulder < LEAST_SHOULDER:
        raise Infeasible(
            f"A neck of {wanted.length(millimetres(answers, 'neck_width'))} leaves no shoulders in a body of "
            f"{wanted.length(body.width_mm)}: make the neck narrower, or the body wider."
        )
    held = 2 * round(NECK_HELD[str(answers["neckline"])] * neck / 2.0) + neck % 2
    depth = 2 * round(millimetres(answers, "armhole_depth") / row_mm / 2.0)
    hem_mm = body.bottom.rows * border_row_um(body, body.bottom) / 1000.0
    whole = 2 * round((millimetres(answers, "length") - hem_mm) / row_mm / 2.0)
    deep = NECK_DEPTH[str(answers["neckline"])] * millimetres(answers, "neck_depth")
    neck_rows = max(4, 2 * round(deep / row_mm / 2.0))
    slow = 1 if answers["neckline"] == "boat" else 2  # a boat neck is decreased in every row
    least = slow * ((neck - held) // 2) + 2
    neck_rows = max(neck_rows, least + least % 2)
    below = 2 + 2 * narrower if bound else 0
    if whole - depth < 4:
        raise Infeasible("The armholes are as deep as the body is long: make it longer, or the armholes less deep.")
    if answers["neckline"] == "V" and bound and depth - below >= least:
        neck_rows = min(neck_rows, depth - below)  # twice as deep is our choice: as deep as the armholes leave it
    room = (depth - neck_rows - 2) // 2
    if bound and 1 <= room < narrower and 2 * room >= narrower - bound:  # wide bodies bind off more, and decrease less
        bound, narrower, below = bound + narrower - room, room, 2 + 2 * room
    if bound and depth - neck_rows < below:
        raise Infeasible(
            "The front neck would begin before the armholes are shaped: make the armholes deeper, or the neck less "
            "deep."
        )
    sloped = answers["shoulders"] == SHOULDERS[1]
    return Torso(segments, wide, bound, narrower, shoulder, neck, whole - depth, depth, neck_rows, held, sloped)


def _back(body: Piece, torso: Torso) -> Piece:
    return _high(replace(body, name="Back", bands=_alike(back_bands(torso)), ends=back_end(torso)))


def _front(body: Piece, torso: Torso) -> Piece:
    return _high(replace(body, name="Front", bands=_alike(front_bands(torso)), ends=front_end(torso)))


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
