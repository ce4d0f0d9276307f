"""What a project knows of its draw-in beyond the charts: swatches that it goes by, measures of the piece itself."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated

from pydantic import Field

from ...core.errors import IllegalPiece
from ...core.gauge import Along, Part, Reading, State
from ...core.piece.piece import BandView, Piece
from ...core.piece.widths import segment_um
from ...core.rows.heights import plan_rows
from ...core.rows.shaped_band import shape_band
from ...core.units import Unit, to_mm
from .field_types import scaled_length
from .swatch_file import StrictModel, SwatchFile, Value

LEAST_BODY_ROWS = 12  # our choice: fewer rows of cable lie as the border below makes them lie


class UsedSwatch(StrictModel):
    """A swatch that the project goes by, as it was when it was taken in; `book` is its number in the swatch book.

    `same`: knitted in the piece's own yarn, on its needle; otherwise it tells of the hands only.
    """

    swatch: SwatchFile
    book: Annotated[int, Field(ge=0)] = 0
    same: bool = True

    @property
    def readings(self) -> tuple[Reading, ...]:
        """Its readings, for the estimate."""
        return self.swatch.core_readings("" if self.same else self.swatch.yarn_key)


class MeasuredFile(StrictModel):
    """What was measured on the piece itself after `row`: its width, or the height of its body; in the file's unit."""

    row: Annotated[int, Field(ge=1, le=10_000)]
    along: Along = "width"
    values: Annotated[tuple[Value, ...], Field(min_length=1, max_length=12)]
    state: State = "as knitted"
    on_needle: bool = True

    def scaled(self, by: float) -> MeasuredFile:
        """With every length so many times what it is."""
        return self.model_copy(update={"values": tuple(scaled_length(value, by) for value in self.values)})


def piece_reading(piece: Piece, measured: MeasuredFile, unit: Unit) -> Reading:
    """What was measured on a piece as a reading for its estimate. Raises IllegalPiece where the row says too little."""
    begins = piece.bottom.rows + LEAST_BODY_ROWS
    if measured.row < begins:
        raise IllegalPiece(
            f"After row {measured.row} most of the piece is border; measure after row {begins} or later, "
            f"best after {'6 in' if unit == 'in' else '15 cm'}."
        )
    mm = to_mm(sum(measured.values) / len(measured.values), unit)
    rows = measured.row - piece.bottom.rows
    view = _band_at(piece, rows)
    if measured.along == "height" and view.at > 0:
        raise IllegalPiece("Measure the height within the first band; above it the height is shared by two bands.")
    return Reading(
        parts=tuple(_parts(view, rows, measured.along)),
        mm=mm,
        along=measured.along,
        precision=0.0,
        places=len(measured.values),
        state=measured.state,
        on_piece=True,
        on_needle=measured.on_needle and measured.along == "width",
        name=f"the piece itself after row {measured.row}",
    )


def _parts(view: BandView, rows: int, along: Along) -> Iterator[Part]:
    """What lies along the measure: all segments, or of a shaped band what of them lives after that row."""
    active_now = shape_band(view).active.columns if view.shaping is not None else None
    first, last = len(view.sides[:1]), len(view.segments) - len(view.sides[1:])
    for at, s in enumerate(view.segments):
        if along == "height" and not first <= at < last:
            continue
        many = s.stitches
        if active_now is not None:
            many = sum(lane == at for lane, _ in active_now[min(rows, len(active_now) - 1)])
        if many:
            whole = many == s.stitches
            weight = float(segment_um(s, view.piece.estimate)) * (1.0 if whole else many / s.stitches)
            count = float(rows if along == "height" else many)
            yield Part(pattern=s.cloth, count=count, whole=s.is_panel and whole, weight=weight)


def _band_at(piece: Piece, rows: int) -> BandView:
    """The band in which a row lies, counted from the first row above the bottom border."""
    for view, band in zip(piece.band_views, plan_rows(piece).bands, strict=True):
        if rows <= band.rows:
            return view
        rows -= band.rows
    return piece.band_views[-1]
