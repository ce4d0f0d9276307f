"""Holders: what one piece leaves waiting and another goes on from, so that no loop is lost or used twice."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ..ends.cast_on import plan_cast_on
from ..piece.piece import Piece
from ..rows.shaped_band import shape_band


def held_counts(piece: Piece) -> dict[str, int]:
    """The stitches on each holder of a piece, by its name: those put aside on the way, and those left at the end."""
    out: dict[str, int] = {}
    for view in piece.band_views:
        if view.shaping is None:
            continue
        found = shape_band(view)
        for aside in view.shaping.put_aside:
            row = found.stations.stations[aside.station].row
            held = (lane for each in found.active.rows[row : row + 1] for lane, _ in each.held)
            out[aside.name] = sum(aside.first <= lane <= aside.last for lane in held)
    return out | {group.name: group.stitches for group in piece.ends.groups}


def end_problems(piece: Piece) -> Iterator[str]:
    """Each reason why a piece cannot begin or end as it is to, as a sentence."""
    ends = plan_cast_on(piece)
    begun = sum(source.stitches for source in piece.begins)
    if piece.begins and begun != ends.cast_on:
        off = abs(begun - ends.cast_on)
        yield (
            f"{piece.name} begins with {begun} stitches from holders and edges, but its first row wants "
            f"{ends.cast_on}: change the piece that they come from, or let another segment make up for {off}."
        )
    waiting = sum(group.stitches for group in piece.ends.groups)
    if piece.ends.kind == "held" and waiting != ends.top.count:
        yield f"{piece.name} leaves {ends.top.count} stitches, but {waiting} are put on holders at its end."
    if piece.ends.kind == "grafted together" and ends.top.count % 2:
        yield f"{piece.name} ends with {ends.top.count} stitches: half of them cannot be grafted to the other half."


def holder_problems(pieces: Mapping[int, Piece]) -> Iterator[str]:
    """Each loop that waits for nobody, or is wanted and not there; the pieces by their numbers."""
    held = {number: held_counts(piece) for number, piece in pieces.items()}
    wanted: dict[tuple[int, str], int] = {}
    for piece in pieces.values():
        for source in (s for s in piece.begins if s.kind == "held"):
            key = (source.piece, source.name)
            there = held.get(source.piece, {}).get(source.name)
            if there is None:
                yield f"{piece.name} begins with the stitches of the {source.name}, which no piece puts on a holder."
            elif key in wanted:
                yield f"The held stitches of the {source.name} are used twice."
            elif there != source.stitches:
                yield (
                    f"{piece.name} begins with {source.stitches} held stitches of the {source.name}, but {there} are "
                    "put on the holder."
                )
            wanted[key] = source.stitches
    for number, found in held.items():
        joined = {group.name for group in pieces[number].ends.groups if group.joined}
        for name in found:
            if (number, name) not in wanted and name not in joined:
                yield f"The held stitches of the {name} ({pieces[number].name}) are waiting: no piece begins with them."
