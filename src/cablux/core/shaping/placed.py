"""Where stations lie in rows, and what any of them must be like: what edges and sections have in common."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from ..ends.borders import fits_border
from ..errors import IllegalPiece
from ..needle.schedule import Schedule
from ..needle.stations import Station, StationCount
from ..piece.piece import BandView
from ..piece.problems import MAX_ROWS


def check_order(stations: Sequence[Station]) -> None:
    """Raises IllegalPiece for stations that are too few or out of order."""
    if len(stations) < 2:
        raise IllegalPiece("A shaped piece needs a width at its beginning and one at its end.")
    at = -1.0
    for s in stations:
        if not s.paced and s.row is None:
            if s.at_mm < at:
                raise IllegalPiece(f"“{s.name}” lies lower than the place before it; type a greater height.")
            at = s.at_mm


def shaping_step(view: BandView, *, every_row: bool) -> int:
    """Every how many rows a band may be shaped: in flat work in right-side rows only, unless all are wished for."""
    return 1 if view.round or every_row else 2


def shaping_lag(view: BandView, step: int, below: int) -> int:
    """How many rows earlier than its step's the first row is that may be shaped, `below` rows of the band done."""
    return (view.piece.bottom.rows + 1 + below) % 2 if step == 2 else 0


def given_rows(view: BandView, stations: Sequence[Station], row_um: float) -> list[int | None]:
    """The rows below each station; None where they follow from the counts."""
    out: list[int | None] = []
    for s in stations:
        row = s.row if s.row is not None else None if s.paced else round(s.at_mm * 1000.0 / row_um)
        if row is not None and s is stations[-1]:
            row += (row + view.piece.bottom.rows) % view.piece.row_step()  # what follows begins on the right side
        out.append(row)
    return out


def place_stations(
    view: BandView,
    stations: Sequence[Station],
    rows: Sequence[int | None],
    *,
    changes: Sequence[int],
    step: int,
    rows_of_steps: Callable[[int, int], int] = lambda station, below: 0,
) -> list[int]:
    """The row after which each station lies; those that are paced follow from the changes that lead to them.

    `rows_of_steps`: how many rows the steps after a station take, so many rows of the band done. Raises IllegalPiece
    for stations out of order, and for more rows than anybody knits.
    """
    placed: list[int] = []
    for i, wanted in enumerate(rows):
        if wanted is None:
            begin = placed[-1] + rows_of_steps(i - 1, placed[-1])
            wanted = begin + max(0, changes[i] * step - shaping_lag(view, step, begin))
        if placed and wanted < placed[-1]:
            name, below = stations[i].name, stations[i - 1].name
            raise IllegalPiece(
                f"“{name}” comes after row {wanted} of the band, but “{below}” only after row {placed[-1]}; "
                f"give “{name}” a greater height."
            )
        placed.append(wanted)
    if placed[-1] > MAX_ROWS:
        raise IllegalPiece(f"The shaping would take {placed[-1]} rows; the most is {MAX_ROWS}.")
    return placed


def counted(
    stations: Sequence[Station], placed: Sequence[int], counts: Sequence[int], *, widths: Sequence[float], row_um: float
) -> tuple[StationCount, ...]:
    """Stations with what they come to."""
    return tuple(
        StationCount(station=s, row=row, count=count, width_um=um, at_um=row * row_um)
        for s, row, count, um in zip(stations, placed, counts, widths, strict=True)
    )


def counts_beside_border(view: BandView, stations: Sequence[Station], at: int, *, options: list[int]) -> list[int]:
    """Those counts of a station that suit the border beside it. Raises IllegalPiece where none does."""
    lowest, highest = at == 0 and view.at == 0, at == len(stations) - 1 and view.at == len(view.piece.bands) - 1
    for border, beside in ((view.piece.bottom, lowest), (view.piece.top, highest)):
        if beside and border.rows:
            fitting = [c for c in options if fits_border(view, border, c)]
            if not fitting:
                raise IllegalPiece(
                    f"{border.pattern.name} does not fit “{stations[at].name}”, which has {options[0]} "
                    "stitches; change the count of the layout, or choose another border."
                )
            options = fitting
    return options


def check_given(schedule: Schedule, changes: int, step: int, *, lag: int, name: str) -> None:
    """Raises IllegalPiece where the rows of one's own do not make the changes that lead to a station."""
    if schedule.changes != changes:
        raise IllegalPiece(
            f"The rows you typed change the count {schedule.changes} times, but “{name}” wants {changes} times."
        )
    if any((row + lag) % step for row in schedule.at):
        raise IllegalPiece(
            f"The rows you typed on the way to “{name}” fall on wrong-side rows; type even numbers, or let wrong-side "
            "rows be shaped too."
        )


def two_ends(
    stations: Sequence[Station], begin: tuple[int, float], end: tuple[int, float], *, rows: int, high_um: float
) -> tuple[StationCount, StationCount]:
    """The beginning and the end of a band whose rows are told one by one: count and width (µm) of each, its height."""
    first, last = (
        Station(name=s.name, width_mm=um / 1000.0, at_mm=s.at_mm, count=s.count, row=s.row, paced=s.paced)
        for s, (_, um) in zip((stations[0], stations[-1]), (begin, end), strict=True)
    )
    return (
        StationCount(station=first, row=0, count=begin[0], width_um=begin[1], at_um=0.0),
        StationCount(station=last, row=rows, count=end[0], width_um=end[1], at_um=high_um),
    )
