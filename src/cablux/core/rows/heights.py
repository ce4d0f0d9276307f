"""Rows from the height wanted: borders, set-up rows and bodies in which the panels end well."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from itertools import accumulate

from ..errors import IllegalPiece
from ..needle.stations import Begin
from ..piece.piece import BandView, Piece, count_stations
from ..piece.widths import body_row_um
from .endings import Ending, panel_ending
from .narrowing import Narrowing, narrowed_endings, narrowing_score, narrowing_views, narrowings
from .row_room import HEIGHT_TOLERANCE_MM, Room, border_row_um, check_meeting, counts_return, lead_rows, rows_for_bands

NEAR = 1 / 20
"""Our choice: for a better end of its cables a crown may begin a twentieth of the height too low or too high."""


@dataclass(frozen=True, kw_only=True)
class BandRows:
    """The rows of one body band: those that lead into it, those of its charts, the height of one, and its panels' ends.

    `lead` counts the set-up rows, and in a band above another the rows in which the count changes.
    """

    lead: int
    body: int
    row_um: float
    endings: tuple[Ending, ...]

    @property
    def rows(self) -> int:
        """All its rows."""
        return self.lead + self.body

    @property
    def height_um(self) -> float:
        """Its height."""
        return self.rows * self.row_um


@dataclass(frozen=True, kw_only=True)
class RowPlan:
    """Rows of each part from cast-on to bind-off, and the height they come to."""

    bottom: int
    top: int
    bands: tuple[BandRows, ...]
    bottom_row_um: float
    top_row_um: float

    @property
    def body(self) -> int:
        """The rows of all charts."""
        return sum(b.body for b in self.bands)

    @property
    def setup(self) -> int:
        """The rows that lead into the bands."""
        return sum(b.lead for b in self.bands)

    @property
    def total(self) -> int:
        """All rows from cast-on to bind-off."""
        return self.bottom + self.top + sum(b.rows for b in self.bands)

    @property
    def height_um(self) -> float:
        """The finished height."""
        borders = self.bottom * self.bottom_row_um + self.top * self.top_row_um
        return borders + sum(b.height_um for b in self.bands)

    @cached_property
    def endings(self) -> tuple[Ending, ...]:
        """Each kind of ending once, in the order of the panels."""
        return tuple(dict.fromkeys(e for b in self.bands for e in b.endings))


def band_endings(view: BandView, rows: int, lead: int) -> tuple[Ending, ...]:
    """How each panel of a band ends."""
    return tuple(panel_ending(s, rows, lead) for s in view.inner if s.is_panel)


def ending_score(ends: tuple[Ending, ...]) -> tuple[int, int]:
    """Stitches of panels that are cut, and of those that do not end as they begin: the fewer the better."""
    return sum(e.stitches for e in ends if e.look == "cut"), sum(e.stitches for e in ends if e.look != "alike")


def row_heights_um(piece: Piece) -> tuple[float, ...]:
    """How high a piece is after none of its rows, after one, and so on to all."""
    plan = plan_rows(piece)
    parts = [(plan.bottom, plan.bottom_row_um), *((b.rows, b.row_um) for b in plan.bands), (plan.top, plan.top_row_um)]
    return tuple(accumulate((um for rows, um in parts for _ in range(rows)), initial=0.0))


def _offset(piece: Piece, below: Sequence[BandRows]) -> int:
    """How many rows of its charts a band has behind it where those of the bands below run on into it."""
    offset = 0
    for at, rows in enumerate(below, start=1):
        offset = offset + rows.body if at < len(piece.bands) and piece.bands[at].runs_on else 0
    return offset


def chart_offset(view: BandView) -> int:
    """How many rows of its charts a band has behind it, from the bands below that run on into it."""
    return _offset(view.piece, plan_rows(view.piece).bands[: view.at]) if view.band.runs_on else 0


def first_row(view: BandView) -> int:
    """The number of the band's first row, from the cast-on, those that lead into it past."""
    if not view.at and view.shaping is not None:
        return view.piece.bottom.rows + view.shaping.lead_rows + 1
    plan = plan_rows(view.piece)
    return plan.bottom + sum(b.rows for b in plan.bands[: view.at]) + plan.bands[view.at].lead + 1


def _given_rows(view: BandView) -> int:
    """The rows that a band was given, 0 where they are to be found. Raises IllegalPiece for a number it cannot have."""
    given = view.band.rows
    if given and not counts_return(view, given):
        raise IllegalPiece(
            f"After {given} rows some panels are not back at their own counts; choose another number of rows."
        )
    return given


def last_crossings(view: BandView) -> dict[int, int]:
    """For each panel of a band that is drawn in there: the row of the piece after which it is crossed no more."""
    plan, row, offset = plan_rows(view.piece), view.piece.bottom.rows + 1, 0
    for each, rows in zip(view.piece.band_views[: view.at], plan.bands, strict=False):
        offset = offset if each.band.runs_on else 0
        if view in narrowing_views(each):
            found = narrowings(each, Begin(row + rows.lead, offset), rows.body)
            return {n.at: n.last_row for n in found}
        row, offset = row + rows.rows, offset + rows.body
    return {}


def _narrowing_rows(view: BandView, room: Room, lead: int, *, begin: Begin) -> BandRows:
    """The rows of a band whose panels are drawn in above it: those at which the fewest of their crossings are cut."""
    given, row_um = _given_rows(view), body_row_um(view)
    slack = min(HEIGHT_TOLERANCE_MM, NEAR * view.piece.height_mm) * 1000.0 / row_um
    counts = (
        [given] if given else replace(room, slack_rows=min(room.slack_rows, slack)).counts(_begun(view, begin.offset))
    )
    found: dict[int, tuple[Narrowing, ...]] = {rows: narrowings(view, begin, rows) for rows in counts}
    above = sum(count_stations(v)[-1].row for v in narrowing_views(view))

    def whole(rows: int) -> tuple[Ending, ...]:
        """The ends of the panels beside them that keep all their columns to the top."""
        kept = (s for at, s in enumerate(_begun(view, begin.offset).segments) if at not in {n.at for n in found[rows]})
        return tuple(panel_ending(s, rows + above, lead) for s in kept if s.is_panel)

    def merit(rows: int) -> tuple[float, ...]:
        return *narrowing_score(found[rows]), *ending_score(whole(rows)), abs(rows - room.exact_rows)

    rows = min(counts, key=merit)
    return BandRows(
        lead=lead, body=rows, row_um=row_um, endings=(*narrowed_endings(found[rows], rows, lead), *whole(rows))
    )


def _begun(view: BandView, offset: int) -> BandView:
    """The band as if its charts began where they stand after so many rows."""
    if not offset:
        return view
    moved = (replace(s, phase=(s.phase + offset) % s.chart.height, closed=False) for s in view.segments)
    return view.with_band(replace(view.band, own=tuple(moved), symmetric=False, middle=True))


@lru_cache(maxsize=256)
def plan_rows(piece: Piece) -> RowPlan:
    """The rows of a piece for its height, its phases and borders as they are.

    Of the counts that keep the height within two centimetres each band takes the one at which the fewest panel
    stitches are cut in mid motif, then the most end as they began, then the nearest.

    >>> from cablux.core import Band, Evidence, Gauge, Piece, library_segment
    >>> edge, background = library_segment("edge", "garter", 5), library_segment("background", "stockinette", 40)
    >>> band = Band(own=(edge, background, edge))
    >>> known = Evidence(gauge=Gauge(stitches=18, rows=25))
    >>> piece = Piece(name="Scarf", width_mm=300.0, height_mm=1500.0, evidence=known, bands=(band,))
    >>> plan_rows(piece).total
    402
    """
    bands: list[BandRows] = []
    for view, room, lead in zip(piece.band_views, rows_for_bands(piece), lead_rows(piece), strict=True):
        begin = Begin(piece.bottom.rows + sum(b.rows for b in bands) + lead + 1, _offset(piece, bands))
        if narrowing_views(view):
            bands.append(_narrowing_rows(view, room, lead, begin=begin))
            continue
        if view.shaping is not None:
            end = count_stations(view)[-1]
            bands.append(BandRows(lead=lead, body=end.row, row_um=end.at_um / max(1, end.row), endings=()))
            continue
        view = _begun(view, begin.offset)

        def merit(rows: int, view: BandView = view, room: Room = room, *, lead: int = lead) -> tuple[int, int, float]:
            return *ending_score(band_endings(view, rows, lead)), abs(rows - room.exact_rows)

        given = _given_rows(view)
        if piece.meets:
            check_meeting(view, room, given)
        rows = given or min(room.counts(view), key=merit)
        bands.append(BandRows(lead=lead, body=rows, row_um=body_row_um(view), endings=band_endings(view, rows, lead)))
    return RowPlan(
        bottom=piece.bottom.rows,
        top=piece.top.rows,
        bands=tuple(bands),
        bottom_row_um=border_row_um(piece, piece.bottom),
        top_row_um=border_row_um(piece, piece.top),
    )
