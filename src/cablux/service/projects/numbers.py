"""The numbers of a piece: cast-on, rows, widths and how sure they are."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from ...core.ends.cast_on import CastOnPlan, plan_cast_on
from ...core.garment.silhouette import FinishedSize, finished_size, widest_um
from ...core.gauge import EIGHTY
from ...core.piece.piece import BandView, Piece, count_stations
from ...core.piece.widths import body_sd_um, body_um, chance_within
from ...core.rows.heights import RowPlan, plan_rows
from ...core.shaping.short_rows import ShortRowed
from ..exchange import ProjectFile


@dataclass(frozen=True, kw_only=True)
class PieceNumbers:
    """The numbers a knitter came for; every page takes them from here. Width and chance are the main band's."""

    cast_on: CastOnPlan
    rows: RowPlan
    width_um: int
    sd_um: float
    chance: float
    size: FinishedSize
    bands: tuple[BandWidth, ...] = ()

    @property
    def eighty_um(self) -> float:
        """Half of the interval in which eight of ten such pieces would lie."""
        return EIGHTY * self.sd_um

    @property
    def give_um(self) -> float:
        """The same for what the piece measures across."""
        return self.eighty_um * self.size.across_um / self.width_um

    @property
    def steady(self) -> bool:
        """Whether the count stays as it was cast on, all the way up."""
        ends = self.cast_on.bottom.count, self.cast_on.top.count
        return len({*ends, *(band.stitches for band in self.bands)}) == 1


@dataclass(frozen=True, kw_only=True)
class BandWidth:
    """How wide a body band will be, and how sure that is."""

    stitches: int
    width_um: int
    sd_um: float
    chance: float

    @property
    def eighty_um(self) -> float:
        """Half of the interval in which eight of ten such bands would lie."""
        return EIGHTY * self.sd_um


@lru_cache(maxsize=128)
def piece_of(file: ProjectFile) -> Piece:
    """The piece at which a file is open."""
    return file.piece()


@lru_cache(maxsize=128)
def piece_numbers(piece: Piece) -> PieceNumbers:
    """The numbers of a piece."""
    bands = tuple(map(band_width, piece.band_views))
    main = bands[piece.main_view.at]
    size = finished_size(piece, main.width_um)
    return PieceNumbers(
        cast_on=plan_cast_on(piece),
        rows=plan_rows(piece),
        width_um=main.width_um,
        sd_um=main.sd_um,
        chance=main.chance,
        size=size,
        bands=bands,
    )


def band_width(view: BandView) -> BandWidth:
    """The width of a band by all that is known."""
    width, sd = body_um(view, view.outlook), body_sd_um(view)
    wanted, tolerance = view.piece.width_mm * 1000.0, view.piece.tolerance_mm * 1000.0
    if isinstance(view.shaping, ShortRowed) and view.shaping.sections:  # part of its layout, all the way up
        station = count_stations(view)[0]
        part, count = station.width_um / body_um(view), station.count
        width, sd = round(part * width), part * sd
    elif view.shaping is not None and not view.shaping.in_sections:
        part, count = widest_um(view, view.outlook) / width, max(s.count for s in count_stations(view))
        width, sd = round(part * width), part * sd
    else:
        count = view.stitches
    return BandWidth(
        stitches=count,
        width_um=width,
        sd_um=sd,
        chance=chance_within(width, sd, wanted - tolerance, high_um=wanted + tolerance),
    )
