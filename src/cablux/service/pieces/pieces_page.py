"""What a project's own page and `cablux pieces` tell: its pieces, how far each copy is, how they join, what to mind."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ...core.garment.joins import Join, join_lengths, join_problems
from ...core.piece.piece import Piece
from ...core.units import Unit, length_text
from ...render.laid_garment import draw_garment, planned_piece
from ...render.schematic import draw_schematic
from ..answers import CopyDone, PieceOfProject, ProjectPieces, SeamFit
from ..chair import Tally, next_up
from ..exchange import ProjectFile
from ..pattern import begin_sentence, end_sentence, joined
from ..projects import piece_counts, piece_numbers
from ..shapes import joins_of, shape_cautions


@dataclass(frozen=True)
class PiecesPictures:
    """Each piece to scale, and all of them laid out as they are joined; empty where nothing joins two of them."""

    pieces: tuple[str, ...]
    together: str


def pieces_answer(file: ProjectFile, tallies: Sequence[Tally] = ()) -> ProjectPieces:
    """All pieces of a project, with the tallies of their copies where those are known. Raises IllegalPiece."""
    pieces, joins = file.all_pieces(), joins_of(file)
    return ProjectPieces(
        name=file.name,
        pieces=tuple(_piece(file.opened_at(own.number), tallies) for own in file.pieces),
        seams=tuple(_seam(pieces, join, told, unit=file.unit) for join, told in zip(joins, joined(file), strict=True)),
        joined=_joined(joins),
        cautions=shape_cautions(file),
    )


def _joined(joins: Sequence[Join]) -> bool:
    return any(len({edge.piece for edge in join.edges}) > 1 for join in joins)


def _piece(file: ProjectFile, tallies: Sequence[Tally]) -> PieceOfProject:
    piece, own = file.piece(), file.own
    numbers = piece_numbers(piece)
    mine = [tally for tally in tallies if tally.project.file.own.number == own.number]
    return PieceOfProject(
        number=own.number,
        name=own.name or file.name,
        named=own.name,
        copies=own.copies,
        counts=piece_counts(piece),
        rows=numbers.rows.total,
        size=numbers.size.text(file.unit),
        begin=begin_sentence(file),
        end=end_sentence(file),
        bound_off=piece.ends.kind == "bound off",
        tally=tuple(map(_copy, mine)),
        next_up=_copy(next_up(mine)) if mine else None,
    )


def _copy(tally: Tally) -> CopyDone:
    return CopyDone(copy_number=tally.which, done=tally.done, total=tally.total)


def _seam(pieces: Sequence[Piece], join: Join, told: tuple[str, ...], *, unit: Unit) -> SeamFit:
    found = join_lengths(pieces, join)
    one, other = (length_text(um / 1000.0, unit) for um in (found.one_um, found.other_um))
    lengths = one if one == other else f"{one} to {other}"
    return SeamFit(sentences=told, lengths=lengths, problem=" ".join(join_problems(pieces, join, unit)))


def pieces_pictures(file: ProjectFile, told: ProjectPieces) -> PiecesPictures:
    """The pictures of what is told of a project's pieces."""
    pieces, joins = file.all_pieces(), joins_of(file)
    drawn = []
    for at, piece in enumerate(pieces):
        own = tuple(join for join in joins if any(e.piece == at for e in join.edges))
        drawn.append(draw_schematic(piece, file.unit, own, place=at))
    names = [piece.name + (f" × {piece.copies}" if piece.copies > 1 else "") for piece in told.pieces]
    laid = [planned_piece(piece, file.unit) for piece in pieces] if told.joined else []
    return PiecesPictures(tuple(drawn), draw_garment(laid, joins, names) if told.joined else "")


def pieces_sentences(told: ProjectPieces) -> Iterator[str]:
    """The answer for reading."""
    yield told.name
    for piece in told.pieces:
        times = f" × {piece.copies}" if piece.copies > 1 else ""
        yield f"{piece.name}{times}: {piece.rows} {piece.counts.row}s, {piece.size}."
        yield f"  {piece.begin} {piece.end}"
    for number, seam in enumerate(told.seams, start=1):
        yield " ".join((f"{number}. {' '.join(seam.sentences)}", f"({seam.lengths})", seam.problem)).rstrip()
    yield from told.cautions
