"""Changes of a project's document: of the piece at hand, of those that follow it, checked before they are kept."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

from sqlalchemy.orm import Session

from ...core.errors import CabluxError, IllegalPiece
from ...core.garment.follow import follow_parts
from ...core.piece.piece import Piece
from ...core.piece.problems import checked_piece
from ...store import repository
from ..documents import Changed, DocumentChange
from ..exchange import PieceFile, ProjectFile, checked_file, read_project
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


def on_others(change: Callable[[Piece], Piece]) -> Callable[[ProjectFile], ProjectFile]:
    """A change of all pieces but the one at hand: of all, or of none where one refuses; it is named then."""

    def others(file: ProjectFile) -> ProjectFile:
        at = file.own.number
        for own in file.pieces:
            if own.number == at:
                continue
            try:
                file = on_piece(change)(file.opened_at(own.number))
                piece_numbers(piece_of(file))
            except CabluxError as error:
                raise IllegalPiece(f"{own.name or file.name}: {error}") from error
        return file.opened_at(at)

    return others


def with_added(file: ProjectFile, name: str, piece: Piece, *, spent: int = 0) -> ProjectFile:
    """With one more piece, begun like the one at hand and then as `piece`; open at it. Raises IllegalPiece.

    Its number is above all there are, and above `spent`.
    """
    number = 1 + max(spent, *(p.number for p in file.pieces))
    own = file.own.model_copy(update={"number": number, "name": free_name(file, name), "measured": ()})
    named = file.pieces if file.pieces[0].name else named_pieces(file)
    grown = checked_file(file.model_copy(update={"pieces": (*named, own)}))
    return grown.opened_at(number).with_piece(checked_piece(piece))


def without_piece(file: ProjectFile) -> ProjectFile:
    """Without the piece at hand and its joins, open at the first. Raises IllegalPiece for the last one."""
    if len(file.pieces) == 1:
        raise IllegalPiece("A project keeps one piece; to be rid of it, remove the project.")
    number = file.own.number
    joins = tuple(j for j in file.joins if number not in {e.piece for e in (j.one, j.other, *j.more)})
    pieces = tuple(p for p in file.pieces if p.number != number)
    return file.opened_at(0).model_copy(update={"pieces": pieces, "joins": joins})


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
