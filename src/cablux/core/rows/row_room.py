"""Room: how many rows each body band may have, what leads into it, and the numbers at which its counts come back."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..ends.cast_on import plan_cast_on
from ..errors import IllegalPiece, Infeasible
from ..piece.border import Border
from ..piece.piece import BandView, Piece, count_stations
from ..piece.problems import MAX_ROWS
from ..piece.widths import body_row_um

HEIGHT_TOLERANCE_MM = 20.0  # our choice: two centimetres of a throw's length are not seen
FAR = 0.25
"""Our choice: a piece whose ends meet may miss its way round by a quarter; beyond that it is another piece."""


def border_row_um(piece: Piece, border: Border) -> float:
    """Height of a border's row."""
    return piece.measure.gauge.row_mm * 1000.0 * piece.measure.unit(border.pattern, False).draw_up


def counts_return(view: BandView, rows: int) -> bool:
    """Whether every segment is back at its own count after so many rows of the body."""
    return all(s.chart.count_after(rows) == s.chart.width(1) for s in view.segments)


def lead_rows(piece: Piece) -> tuple[int, ...]:
    """The rows that lead into each band: set-up rows, or as many as the changes between two bands take.

    A band above another needs no set-up where nothing crosses in it: a welt or a fold is as high as its rows.
    Where crossings would fall on wrong-side rows, since an odd number of rows lies below, one row more is set up.
    """
    if piece.meets:
        return (0,)
    changes = [0, *(2 * t.rows if t.changes else 0 for t in plan_cast_on(piece).between)]
    out, below, behind = [], piece.bottom.rows, 0
    for at, (view, change) in enumerate(zip(piece.band_views, changes, strict=True)):
        behind = behind if view.band.runs_on else 0  # rows of its charts that lie below it
        if view.shaping is not None:  # its charts begin at once, on the side on which it begins
            out.append(view.shaping.lead_rows)
            rows = count_stations(view)[-1].row
            below, behind = below + view.shaping.lead_rows + rows, behind + rows
            continue
        crosses = any(s.chart.crossing_rows for s in view.inner)
        lead = max(change, piece.setup_rows if not view.band.runs_on and (crosses or at == 0) else 0)
        lead += crosses and (below + lead - behind) % piece.row_step()
        out.append(lead)
        below, behind = below + lead + view.band.rows, behind + view.band.rows  # rows that are not given are even
    return tuple(out)


@dataclass(frozen=True)
class Room:
    """What one band may take: the exact rows for its part of the height, and how many more or fewer are not seen."""

    exact_rows: float
    slack_rows: float

    def counts(self, view: BandView) -> list[int]:
        """The numbers of rows within it at which all segments are back at their own counts; the nearest if none is."""
        step = view.piece.row_period(view.at) if view.piece.meets else view.piece.row_step()
        first, last = (
            math.ceil((self.exact_rows - self.slack_rows) / step),
            math.floor((self.exact_rows + self.slack_rows) / step),
        )
        found = [
            step * n for n in range(max(1, first), last + 1) if step * n <= MAX_ROWS and counts_return(view, step * n)
        ]
        return found or [_nearest(view, self.exact_rows, step)]


def meeting_rows(view: BandView, exact: float, many: int = 3) -> tuple[int, ...]:
    """The numbers of rows, whole repeats, that come nearest to `exact`, in order of size."""
    period = view.piece.row_period(view.at)
    near = max(1, round(exact / period))
    found = sorted(range(max(1, near - many), near + many + 1), key=lambda n: abs(n * period - exact))
    return tuple(sorted(n * period for n in found[:many]))


def check_meeting(view: BandView, room: Room, given: int) -> None:
    """A piece whose ends meet has whole repeats, and some number of them must come near to its height."""
    period = view.piece.row_period(view.at)
    if given and given % period:
        nearest = ", ".join(map(str, meeting_rows(view, given, 2)))
        raise IllegalPiece(
            f"After {given} rows the last row does not meet the first in pattern: all panels begin together every "
            f"{period} rows. Try {nearest}."
        )
    if not given and abs(_nearest(view, room.exact_rows, period) - room.exact_rows) > FAR * room.exact_rows:
        raise Infeasible(
            f"The panels begin together only every {period} rows, so no whole number of repeats comes near to "
            f"{room.exact_rows:.0f} rows. Choose panels whose repeats are alike in height, or make the piece longer.",
            clash=("panels", "height"),
        )


def _nearest(view: BandView, exact: float, step: int) -> int:
    near = max(1, round(exact / step))
    for off in range(MAX_ROWS):
        for n in (near - off, near + off):
            if n >= 1 and counts_return(view, step * n):
                return step * n
    raise IllegalPiece("The panels never come back to their own counts on the same row; remove one of them.")


def rows_for_bands(piece: Piece) -> tuple[Room, ...]:
    """The rows each body band may have: what the height leaves, shared among those whose rows are not given."""
    left = piece.height_mm * 1000.0
    left -= sum(b.rows * border_row_um(piece, b) for b in (piece.bottom, piece.top))
    rows_um, lead = [body_row_um(view) for view in piece.band_views], lead_rows(piece)
    given = [count_stations(v)[-1].row if v.shaping is not None else v.band.rows for v in piece.band_views]
    for view, n, rows, um in zip(piece.band_views, lead, given, rows_um, strict=True):
        left -= n * um + (rows * um if view.shaping is None else count_stations(view)[-1].at_um)
    shares = [0.0 if rows else band.share for rows, band in zip(given, piece.bands, strict=True)]
    whole = sum(shares) or 1.0
    return tuple(
        Room(left * share / whole / um, HEIGHT_TOLERANCE_MM * 1000.0 * share / whole / um)
        for share, um in zip(shares, rows_um, strict=True)
    )
