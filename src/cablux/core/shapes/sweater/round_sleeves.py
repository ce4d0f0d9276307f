"""Sleeves worked in the round beside a line under the arm: their counts at both ends, and how they taper."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...ends.borders import fits_border
from ...errors import Infeasible
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.piece import Band, BandView, Piece
from ...piece.segment import Segment
from ...piece.widths import body_row_um
from ...rows.heights import plan_rows
from ...shaping.manner import CUT_PANELS
from ...shaping.sections import ALL, Section, SectionShaped
from ..shape import Wanted, border_rows
from .sweater_answers import ArmAnswers
from .torso import RIB

SLEEVE_SIDES = ("right", "left")
_CUFF = 0.9
"""Our choice: a cuff is a tenth narrower than the wrist's measure, so that it lies close."""


def bare_round(
    wanted: Wanted[ArmAnswers], name: str, bands: tuple[Band, ...], *, width_mm: float, **more: object
) -> Piece:
    """A piece in the round without edges; they and its height are given in `more`, or follow."""
    own: dict[str, object] = {"bottom": Border(rows=0), "top": Border(rows=0), "height_mm": 600.0} | more
    return Piece(
        name=name,
        width_mm=width_mm,
        evidence=wanted.evidence,
        bands=bands,
        tolerance_mm=max(15.0, width_mm / 20.0),
        round=True,
        setup_rows=0,
        **own,  # type: ignore[arg-type]
    )


def as_high_as_it_is(piece: Piece) -> Piece:
    """With the height that its rows come to."""
    return replace(piece, height_mm=max(10.0, round(plan_rows(piece).height_um / 1000.0, 1)))


@dataclass(frozen=True, kw_only=True)
class Sleeve:
    """A sleeve of a raglan below its underarm: its piece without shaping, its counts at both ends, its rows."""

    piece: Piece
    cuff: Border
    count: int
    wrist: int
    rows: int

    def tapered(self, *, up: bool) -> Piece:
        """Shaped on its way down to the cuff, or up from it."""
        shaping = taper(self.piece.bands[0].own, self.count, self.wrist, rows=self.rows, up=up)
        ends = {"bottom" if up else "top": self.cuff}
        return replace(self.piece, bands=(Band(own=self.piece.bands[0].own, shaping=shaping),), **ends)  # type: ignore[arg-type]


def round_sleeve(wanted: Wanted[ArmAnswers], piece: Piece, length: float) -> Sleeve:
    """A sleeve of such a length, cuff included, over the segments of a bare piece; their first and last are its line.

    Raises Infeasible where no count suits the cuff, or the cuff takes all of the length.
    """
    cuff = Border(
        pattern_id=RIB,
        rows=border_rows(RIB, wanted.answers.cuff_mm, wanted.evidence, step=1),
        factor=_CUFF,
    )
    view, edged, own = piece.band_views[0], plan_rows(replace(piece, bottom=cuff)), piece.bands[0].own
    rows = round((length * 1000.0 - edged.bottom * edged.bottom_row_um) / body_row_um(view))
    if rows < 4:
        raise Infeasible(
            "The cuffs are as long as the arms: make the arms longer, or the cuffs lower.", clash=("arm", "cuff")
        )
    wide, count = wanted.answers.wrist_mm * 1000.0, view.stitches
    options = [n for n in range(6, count + 1) if fits_border(view, cuff, n)]
    if not options:
        raise Infeasible(
            f"No number of stitches up to {count} suits the cuff: make the sleeve wider.", clash=("cuff", "upper_arm")
        )
    wrist = min(options, key=lambda n: abs(_width_um(view, taper(own, count, n, rows=1), n - 2) - wide))
    return Sleeve(piece=piece, cuff=cuff, count=count, wrist=wrist, rows=rows)


def _width_um(view: BandView, shaping: SectionShaped, count: int) -> float:
    """How wide a round is in which the sleeve beside its line has so many stitches."""
    return shaping.asked(view).width_um((count,))


def taper(own: tuple[Segment, ...], count: int, wrist: int, *, rows: int, up: bool = False) -> SectionShaped:
    """From the upper arm to the wrist, or from there up, beside the two stitches under the arm."""
    names, ends = ("Upper arm", "Wrist"), (ALL, wrist - 2 if wrist < count else ALL)
    if up:
        names, ends = (names[1], names[0]), (ends[1], ends[0])
    stations = (Station(name=names[0], width_mm=0.0, row=0), Station(name=names[1], width_mm=0.0, row=rows))
    sections = (Section(first=1, last=len(own) - 2, counts=ends, name="sleeve"),)
    return SectionShaped(stations=stations, sections=sections, manner=CUT_PANELS)
