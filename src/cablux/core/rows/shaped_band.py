"""A shaped band row by row: which columns each row makes and takes, and which chart rows its lanes are worked in."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache

from ..needle.columns import ActiveColumns, Column
from ..needle.stations import Begin, PatternStretch, StationPlan
from ..piece.own_outline import OwnOutline
from ..piece.piece import BandView, Shaping, station_plan, stations_below
from ..shaping.plane import Plane
from ..shaping.row_ends import RowEnds
from ..shaping.wander import wandered_view, wanders
from .heights import chart_offset, first_row, last_crossings, plan_rows


@dataclass(frozen=True, kw_only=True)
class ShapedBand:
    """A shaped band: its stations, the lives of its columns, and for each row the chart rows of its lanes.

    `numbers[r]` are those of row r + 1: less than 0 where a lane is worked in the background beside it.
    """

    view: BandView
    shaping: Shaping
    stations: StationPlan
    active: ActiveColumns
    numbers: tuple[tuple[int, ...], ...]

    @cached_property
    def plane(self) -> Plane:
        """Its plane."""
        return Plane(self.view)

    @property
    def rows(self) -> int:
        """Its rows."""
        return len(self.active.rows)

    @property
    def row_ends(self) -> RowEnds:
        """Its outline: after some of its rows the left and the right end, micrometres from the middle."""
        return self.shaping.row_ends(self.view, self.stations, self.active)

    @property
    def own_outline(self) -> OwnOutline | None:
        """Its outline where its rows do not lie level; None where they do."""
        return self.shaping.own_outline(self.view, self.stations, self.active, numbers=self.numbers)

    def sentences(self) -> Iterator[PatternStretch]:
        """What is done, as printed books tell it."""
        return self.shaping.sentences(self.view, self.stations, self.active, first=first_row(self.view))


def worked_view(view: BandView) -> BandView:
    """The band as its rows are worked: where a panel wanders, the backgrounds beside it are shaped.

    Raises IllegalPiece where a panel has no background to wander in.
    """
    if not wanders(view):
        return view
    rows = plan_rows(view.piece).bands[view.at]
    return wandered_view(view, rows.body, rows.lead)


def plan_stations(view: BandView) -> StationPlan:
    """The stations of a shaped band and what is done between them. Raises IllegalPiece or Infeasible."""
    return station_plan(view, Begin(first_row(view), chart_offset(view)))


@lru_cache(maxsize=64)
def shape_band(view: BandView) -> ShapedBand:
    """A band with shaping, row by row. Raises IllegalPiece or Infeasible, as the stations do."""
    shaping, stations = view.shaping, plan_stations(view)
    if shaping is None:
        raise ValueError("a band that is not shaped has no rows of its own: see rows.heights")
    begin = Begin(first_row(view), chart_offset(view))
    active = shaping.columns(view, stations, begin, begun=_left_below(view))
    numbers = shaping.chart_rows(view, active, begin, last_crossings=last_crossings(view))
    return ShapedBand(view=view, shaping=shaping, stations=stations, active=active, numbers=numbers)


def _left_below(view: BandView) -> tuple[Column, ...]:
    """The columns that the band below has left, where the band goes on with the same ones; else none."""
    return shape_band(view.piece.band_views[view.at - 1]).active.columns[-1] if stations_below(view) else ()
