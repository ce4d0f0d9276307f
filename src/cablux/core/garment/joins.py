"""Joins: which edge of which piece meets which, how, what each side loses in it, and what stays open."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Literal

from ..declared import Choosing, FromOne, Ge, Le, Len, LengthAlong, Name
from ..ends.cast_on import plan_cast_on
from ..errors import IllegalPiece
from ..piece.piece import BandView, Piece
from ..piece.widths import body_row_um, body_um
from ..rows.heights import plan_rows, row_heights_um
from ..units import Unit, length_text
from .cautions import EASED
from .silhouette import PieceSide, crossed_away, edge_path, path_um, pulled_um, top_um

EdgeName = Literal["cast-on", "bind-off", "right edge", "left edge"]
ENDS: tuple[EdgeName, ...] = ("cast-on", "bind-off")
HELD_JOINS = {"three-needle": "three needles want", "grafted": "a graft wants"}
JoinKind = Literal["mattress", "grafted", "three-needle", "picked up", "tacked", "button and loop"]


@dataclass(frozen=True, kw_only=True)
class PieceEdge(Choosing):
    """An edge of a piece (`piece`: its place among the project's; a file numbers them from 1), or a part of it.

    `start_mm`, `end_mm`: from where to where, up a side from the cast-on, along an end from the right; 0 is the edge's
    own end. `over`: a side goes on over such a part of the top, 0.5 to the middle of the bind-off, 1 to its far end.
    """

    piece: Annotated[int, FromOne(), Ge(1), Le(9_999)]
    edge: EdgeName
    start_mm: LengthAlong = 0.0
    end_mm: LengthAlong = 0.0
    over: Annotated[float, Ge(0), Le(1)] = 0.0

    @property
    def whole(self) -> bool:
        """Whether it is the edge from end to end."""
        return not (self.start_mm or self.end_mm or self.over)


@dataclass(frozen=True)
class Opening:
    """What a join leaves open, and what for: from where to where along it."""

    name: Name
    start_mm: LengthAlong
    end_mm: LengthAlong


@dataclass(frozen=True, kw_only=True)
class Join(Choosing):
    """Two edges that meet. Each side loses `swallows` stitches (or rows, where ends meet) in it.

    `more`: edges with which the other one goes on, such as a front above the beginning of its neck.
    """

    one: PieceEdge
    other: PieceEdge
    how: JoinKind = "mattress"
    swallows: Annotated[int, Ge(0), Le(4)] = 0
    openings: Annotated[tuple[Opening, ...], Len(0, 6)] = ()
    more: Annotated[tuple[PieceEdge, ...], Len(0, 4)] = ()

    @property
    def edges(self) -> tuple[PieceEdge, ...]:
        """All edges that meet in it."""
        return (self.one, self.other, *self.more)


@dataclass(frozen=True)
class JoinLengths:
    """How long both edges of a join are, in micrometres, and what of them is sewn."""

    join: Join
    one_um: float
    other_um: float

    @property
    def open_um(self) -> float:
        """What stays open."""
        return sum(o.end_mm - o.start_mm for o in self.join.openings) * 1000.0


def edge_um(piece: Piece, edge: PieceEdge) -> float:
    """How long an edge of a piece lies, or the part of it: its ends by their width, its sides along their line."""
    start, end = edge.start_mm * 1000.0, edge.end_mm * 1000.0 or math.inf
    if edge.edge in ("right edge", "left edge"):
        side: PieceSide = "right" if edge.edge == "right edge" else "left"
        long = path_um(edge_path(piece, side, start, end_um=end))
        low, high = crossed_away(piece)
        if low < min(high, end) and start < high:
            crossed = path_um(edge_path(piece, side, max(start, low), end_um=min(end, high)))
            long += pulled_um(crossed, piece.measure.gauge.stitch_mm * 1000.0) - crossed
        return long + top_um(piece) * edge.over
    at = plan_cast_on(piece).bottom if edge.edge == "cast-on" else plan_cast_on(piece).top
    view = piece.band_views[0 if edge.edge == "cast-on" else -1]
    whole = float(at.border_um if at.border.rows else at.body_um or body_um(view))
    if edge.edge == "bind-off" and not at.border.rows and _ends_at_its_edges(view):
        whole = top_um(piece)
    return min(end, whole) - start


def _ends_at_its_edges(view: BandView) -> bool:
    """Whether a band is shaped at its edges alone, so that its last row is known column by column."""
    return view.shaping is not None and view.shaping.at_edges and not view.round


def join_lengths(pieces: Sequence[Piece], join: Join) -> JoinLengths:
    """The lengths of a join's edges."""
    one, other, *more = (edge_um(pieces[e.piece], e) for e in join.edges)
    return JoinLengths(join, one, other + sum(more))


def lost_rows(join: Join) -> int:
    """The rows by which a ring is shorter than the strip it is made of: swallowed at both ends, less a graft's own row.

    Common practice: a seam takes a row of each end, and a graft makes one row more.
    """
    return 2 * join.swallows - (join.how == "grafted")


def way_round_um(piece: Piece, joins: Iterable[Join], at: int = 0) -> float | None:
    """The way round of a piece (at that place) whose ends are joined to each other; None where they are not."""
    both = {PieceEdge(piece=at, edge="cast-on"), PieceEdge(piece=at, edge="bind-off")}
    join = next((j for j in joins if {j.one, j.other} == both), None)
    return None if join is None else plan_rows(piece).height_um - lost_rows(join) * body_row_um(piece.band_views[0])


def edge_rows(piece: Piece, edge: PieceEdge) -> int | None:
    """The rows of a side of a piece, or of the part of it; None for an end, and for what goes on over the top."""
    if edge.edge in ENDS or edge.over:
        return None
    first, last = rows_between(piece, edge.start_mm * 1000.0, edge.end_mm * 1000.0 or math.inf)
    return last - first


def rows_between(piece: Piece, low_um: float, high_um: float) -> tuple[int, int]:
    """After which row of a piece a height is reached, and after which another: of rows that lie in it by half."""
    middles = [(a + b) / 2.0 for a, b in pairwise(row_heights_um(piece))]
    first, last = (sum(middle < um for middle in middles) for um in (low_um, high_um))
    return first, max(first, last)


def _parts_meet(pieces: Sequence[Piece], found: JoinLengths) -> bool:
    """Whether parts of edges meet although one lies longer: within a stitch, or as sides of as many rows, row to row.

    A part begins and ends at a whole stitch or row, so that a short one can come no nearer. Edges from end to end are
    held to what a seam eases in.
    """
    edges = found.join.edges
    if all(edge.whole for edge in edges):
        return False
    if abs(found.one_um - found.other_um) <= pieces[edges[0].piece].measure.gauge.stitch_mm * 1000.0:
        return True
    rows = [n for n in (edge_rows(pieces[e.piece], e) for e in edges) if n is not None]
    return len(rows) == len(edges) and abs(rows[0] - sum(rows[1:])) <= max(2, EASED * rows[0])


def _held_stitches(piece: Piece, edge: PieceEdge) -> int | None:
    """The stitches of the held group that lies in the middle of an edge; None where the edge is not held."""
    if edge.edge != "bind-off" or piece.ends.kind != "held":
        return None
    whole = edge_um(piece, PieceEdge(piece=edge.piece, edge=edge.edge))
    middle = (edge.start_mm * 1000.0 + min(edge.end_mm * 1000.0 or whole, whole)) / 2.0 / whole
    total, at = sum(group.stitches for group in piece.ends.groups), 0
    for group in piece.ends.groups:
        at += group.stitches
        if middle * total <= at:
            return group.stitches
    return None


class UnmadeJoin(IllegalPiece):
    """A join that cannot be made as it is wanted."""


def join_problems(pieces: Sequence[Piece], join: Join, unit: Unit = "cm") -> Iterator[str]:
    """Each reason why a join cannot be made, as a sentence with what would mend it."""
    found = join_lengths(pieces, join)
    one, other = (f"the {e.edge} of {pieces[e.piece].name}" for e in (join.one, join.other))
    if join.one == join.other:
        yield f"An edge cannot be joined to itself: choose another edge than {one}."
        return
    longest = max(found.one_um, found.other_um)
    held = [n for n in (_held_stitches(pieces[e.piece], e) for e in join.edges) if n is not None]
    if join.how in HELD_JOINS and len(held) == len(join.edges):
        if held[0] != sum(held[1:]):
            told, how = f"{held[0]} and {sum(held[1:])}", HELD_JOINS[join.how]
            yield f"{one[:1].upper()}{one[1:]} and {other} have {told} stitches: {how} as many on both."
    elif abs(found.one_um - found.other_um) > EASED * longest and not _parts_meet(pieces, found):
        a, b = (length_text(um / 1000.0, unit) for um in (found.one_um, found.other_um))
        yield f"{one[:1].upper()}{one[1:]} is {a} long and {other} {b}: bring them within 5 %, which a seam eases in."
    shortest, at = min(found.one_um, found.other_um) / 1000.0, 0.0
    for opening in sorted(join.openings, key=lambda o: o.start_mm):
        begin, end, seam = (length_text(mm, unit) for mm in (opening.start_mm, opening.end_mm, shortest))
        if opening.end_mm <= opening.start_mm:
            yield f"The {opening.name} opening ends at {end}, before it begins at {begin}: type a greater end."
        elif opening.end_mm > shortest + 0.5:
            yield f"The {opening.name} opening ends at {end}, but the seam is {seam} long: let it end lower."
        elif opening.start_mm < at:
            yield f"The {opening.name} opening begins at {begin}, inside the one before it: move it along."
        at = max(at, opening.end_mm)
