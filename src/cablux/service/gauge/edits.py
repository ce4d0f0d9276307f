"""Changes by what was measured: swatches taken in and left out, measures of the piece, methods, rows."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from ...core.errors import IllegalPiece
from ...core.gauge import Along, Method, State
from ...core.rows.heights import plan_rows
from ...core.units import length_text
from ..bench import set_band_rows
from ..errors import BadFile, NotFound
from ..exchange import MeasuredFile, ProjectFile, SwatchFile, UsedSwatch, checked_file, piece_reading
from ..forms import FormReader
from ..swatches import Swatch

FULL = "A project cannot hold any more measurements; remove one first."
ProjectEdit = Callable[[ProjectFile], ProjectFile]
T = TypeVar("T")


def without_photo(swatch: Swatch) -> SwatchFile:
    """A swatch as a project keeps it: its photo stays in the book."""
    return swatch.file.model_copy(update={"photo": ""})


def use_swatch(swatch: Swatch) -> ProjectEdit:
    """Lets the project go by a swatch of the book; it is taken for the same yarn if the needles agree."""

    def change(file: ProjectFile) -> ProjectFile:
        if not swatch.file.readings:
            raise IllegalPiece(f"“{swatch.name}” has not been measured yet; add a measurement first.")
        if any(u.book == swatch.id for u in file.swatches):
            return file
        same = not file.needle or abs(file.needle - swatch.file.needle) < 0.01
        taken = UsedSwatch(swatch=without_photo(swatch), book=swatch.id, same=same)
        return _changed(file, swatches=(*file.swatches, taken))

    return change


def leave_out_swatch(at: int) -> ProjectEdit:
    """Leaves a swatch out again."""
    return lambda file: _changed(file, swatches=_without(file.swatches, at))


def same_yarn(at: int) -> ProjectEdit:
    """Says that a swatch is in the piece's own yarn, or that it is not."""

    def change(file: ProjectFile) -> ProjectFile:
        used = _at(file.swatches, at)
        turned = used.model_copy(update={"same": not used.same})
        return _changed(file, swatches=(*file.swatches[:at], turned, *file.swatches[at + 1 :]))

    return change


def renew_swatch(at: int, find: Callable[[int], Swatch]) -> ProjectEdit:
    """Takes a swatch over anew, as it is in the book now."""

    def change(file: ProjectFile) -> ProjectFile:
        used = _at(file.swatches, at)
        renewed = used.model_copy(update={"swatch": without_photo(find(used.book))})
        return _changed(file, swatches=(*file.swatches[:at], renewed, *file.swatches[at + 1 :]))

    return change


def choose_method(method: Method) -> ProjectEdit:
    """Sizes the project by one of the methods."""
    return lambda file: _changed(file, method=method)


def add_measure(row: int, along: Along, values: tuple[float, ...], *, state: State, on_needle: bool) -> ProjectEdit:
    """Keeps what was measured on the piece itself. Raises IllegalPiece where the row says too little."""

    def change(file: ProjectFile) -> ProjectFile:
        new = MeasuredFile(row=row, along=along, values=values, state=state, on_needle=on_needle)
        piece = file.piece()
        if row > plan_rows(piece).total:
            raise IllegalPiece(f"The piece has {plan_rows(piece).total} rows; there is no row {row}.")
        reading = piece_reading(piece, new, file.unit)
        planned = sum(base for base, _ in piece.outlook.terms(reading))
        if not 0.6 < reading.mm / planned < 1.7:
            raise IllegalPiece(
                f"After row {row} we expect about {length_text(planned, file.unit, 0)}, "
                f"you measured {length_text(reading.mm, file.unit, 0)}. "
                "Is it the right row, the right unit, the whole width?"
            )
        return _measured(file, (*file.own.measured, new))

    return change


def read_lengths(text: str) -> tuple[float, ...]:
    """Lengths as a person types them, in one place or several. Raises IllegalPiece."""
    typed = FormReader()
    read = typed.places(text, "The length you measured", "values", example="108.5, 109")
    typed.done()
    return read


def remove_measure(at: int) -> ProjectEdit:
    """Takes a measure of the piece back."""
    return lambda file: _measured(file, _without(file.own.measured, at))


def set_body_rows(rows: int) -> ProjectEdit:
    """Knits so many rows of the body; 0 lets them follow from the height again."""
    return lambda file: file.with_piece(set_band_rows(0, rows)(file.piece()))


def _measured(file: ProjectFile, measured: tuple[MeasuredFile, ...]) -> ProjectFile:
    return _full(file.with_own(measured=measured))


def _changed(file: ProjectFile, **changes: object) -> ProjectFile:
    return _full(file.model_copy(update=changes))


def _full(file: ProjectFile) -> ProjectFile:
    """The file checked through again. Raises IllegalPiece where it holds more than it can."""
    try:
        return checked_file(file)
    except BadFile:
        raise IllegalPiece(FULL) from None


def _at(items: tuple[T, ...], at: int) -> T:
    if not 0 <= at < len(items):
        raise NotFound("That is no longer there.")
    return items[at]


def _without(items: tuple[T, ...], at: int) -> tuple[T, ...]:
    _at(items, at)
    return items[:at] + items[at + 1 :]
