"""Changes of a project's document: of the piece at hand, of those that follow it, checked before they are kept."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

from sqlalchemy.orm import Session

from ...core.garment.follow import follow_parts
from ...core.piece.piece import Piece
from ...core.piece.problems import checked_piece
from ...store import repository
from ..documents import Changed, DocumentChange
from ..exchange import PieceFile, ProjectFile, read_project
from .numbers import piece_numbers, piece_of


def free_name(file: ProjectFile, name: str) -> str:
    """The name, with a number behind it where a piece has it already."""
    taken = {(p.name or file.name).casefold() for p in file.pieces}
    tries = (name, *(f"{name} {n}" for n in range(2, 100)))
    return next(each for each in tries if each.casefold() not in taken)


def named_pieces(file: ProjectFile) -> tuple[PieceFile, ...]:
    """The pieces, the first with the project's name as its own, so that the project can be renamed."""
    return (file.pieces[0].model_copy(update={"name": file.name}), *file.pieces[1:])


def on_piece(change: Callable[[Piece], Piece]) -> Callable[[ProjectFile], ProjectFile]:
    """A change of the piece at hand as one of its file; pieces that go on from its held stitches follow."""
    return lambda file: _followed(file, checked_piece(change(piece_of(file))))


def _followed(file: ProjectFile, changed: Piece) -> ProjectFile:
    """The piece at hand changed, and with it those that go on from its held stitches. Raises IllegalPiece."""
    if not any(p.begins or p.ends.groups for p in file.pieces):
        return file.with_piece(changed)
    own = file.own.number
    before = dict(zip((p.number for p in file.pieces), file.all_pieces(), strict=True))
    found = follow_parts(before, before | {own: changed}, own)
    for number, piece in found.items():
        if piece != before[number]:
            file = file.opened_at(number).with_piece(piece)
    return file.opened_at(own)


def checked_change(change: Callable[[ProjectFile], ProjectFile], number: int) -> DocumentChange:
    """A change of a file, open at a piece, as one of its stored document; what cannot be knitted is refused."""

    def checked(document: str) -> Changed:
        before = read_stored(document).opened_at(number)
        after = change(before)
        piece_numbers(piece_of(after))  # refuses what cannot be knitted
        return Changed(after.text() if after != before else document, lambda session: keep_patterns(session, after))

    return checked


def keep_patterns(session: Session, file: ProjectFile) -> None:
    """Keeps the knitter's own patterns that a project uses, so that their pictures can be asked for by id."""
    swatched = (own for used in file.swatches for own in used.swatch.patterns)
    for own in (*file.patterns, *swatched):
        repository.keep_pattern(session, own.id, own.model_dump_json())


@lru_cache(maxsize=256)
def read_stored(document: str) -> ProjectFile:
    """A stored document as a project file."""
    return read_project(document)
