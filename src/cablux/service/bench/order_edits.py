"""Changes to the order of a band: segments put in, taken out and carried elsewhere; what stands beside them follows."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace

from ...core.errors import IllegalPiece
from ...core.library import StitchPattern, find_pattern
from ...core.pattern import compile_piece
from ...core.piece.piece import Band, BandView, Piece
from ...core.piece.segment import SIDES, Segment, proposed_purl_margin
from .segment_edits import BACKGROUND, PieceEdit, background_segment, band_view, in_band, place_checked, set_sides

BESIDE = 4  # our choice: stitches of background between two panels put side by side


def insert_pattern(band: int, pattern: StitchPattern, at: int) -> PieceEdit:
    """Puts a pattern in from the drawer at segment `at`, counted from the right.

    A panel dropped on a background parts it in two; beside another panel it brings a little background with it.
    A background dropped on a background takes its place, an edge pattern dropped on an edge replaces both edges.
    """

    def change(view: BandView, now: Band) -> Band:
        first = 0 if view.round else 1
        last = len(now.segments) - 1 - first
        home, mirrored = now.home(max(first, min(at, max(first, last))))
        here = now.own[home]
        if "panel" not in pattern.uses:
            background = background_segment(pattern, here.stitches if here.is_background else BESIDE)
            new = replace(background, locked=here.locked) if here.is_background else background
            return _splice(now, home, home + (here.is_background), new=[new])
        panel = Segment(role="panel", pattern=pattern, repeats=1, purl_margin=proposed_purl_margin(pattern))
        panel = panel.reflected() if mirrored else panel
        alone = now.symmetric and now.middle and home == len(now.own) - 1
        if here.is_background and not here.locked:
            return _splice(now, home, home + 1, new=_parted(view, here, panel, alone=alone))
        background = background_segment(find_pattern(BACKGROUND), BESIDE)
        new_ones = [panel, background]
        if home == 0 or now.own[home - 1].is_panel:
            new_ones.insert(0, background)
        return _splice(now, home, home, new=new_ones)

    def placed(piece: Piece) -> Piece:
        view = band_view(piece, band)
        on_edge = 0 <= at < len(view.segments) and view.segments[at].is_side
        if on_edge and "edge" in pattern.uses:
            return set_sides(pattern, "edge", max(2, view.segments[at].stitches))(piece)
        if not {"panel", "background"} & set(pattern.uses):
            raise IllegalPiece(f"{pattern.name} is an edge pattern: choose an edge on the needle first, then press it.")
        return _ordered(band, change)(piece)

    return placed


def _parted(view: BandView, background: Segment, panel: Segment, *, alone: bool) -> list[Segment]:
    """The background in two halves round the panel, as wide together as the background was where that can be.

    In the middle of a symmetric band the second half is the mirror image of the first.
    """
    left = max(2 * view.piece.least_background, background.stitches - panel.stitches)
    half = left // 2
    first = replace(
        background_segment(background.pattern, half if alone else left - half), least=background.least, by=background.by
    )
    return (
        [first, panel]
        if alone
        else [first, panel, replace(first, repeats=background_segment(background.pattern, half).repeats)]
    )


def _splice(band: Band, start: int, stop: int, *, new: list[Segment]) -> Band:
    return replace(band, own=(*band.own[:start], *new, *band.own[stop:]))


def _ordered(at: int, edit: Callable[[BandView, Band], Band]) -> PieceEdit:
    """A change of a band's order. Raises IllegalPiece where what is shaped could no longer be knitted."""

    def change(piece: Piece) -> Piece:
        made = in_band(at, edit)(piece)
        if any(band.shaping is not None for band in made.bands):  # those that are tied to it follow
            compile_piece(made)  # refuses columns that the shaping has and no segment
        return made

    return change


def remove_segments(band: int, places: Iterable[int]) -> PieceEdit:
    """Takes segments out; the backgrounds that meet become one, as wide as both were."""
    listed = tuple(places)

    def change(view: BandView, now: Band) -> Band:
        homes = sorted({now.home(place_checked(view, at))[0] for at in listed}, reverse=True)
        for home in homes:
            if now.own[home].is_side:
                raise IllegalPiece("The edges cannot be removed; make them narrower instead.")
            if len(now.own) == (1 if view.round else 2) and (now.symmetric or view.round):
                raise IllegalPiece("A band needs at least one segment.")
            now = _without(now, home)
        fewest = 1 if view.round else 3
        if len(now.segments) < fewest:
            raise IllegalPiece("Something has to be left between the edges.")
        return now

    return _ordered(band, change)


def _without(band: Band, home: int) -> Band:
    own = band.own
    middle = len(own) - 1 if band.symmetric and band.middle else -1
    before = own[home - 1] if home else None
    after = own[home + 1] if home + 1 < len(own) else None
    if home == middle:  # what stood beside it meets its own mirror image
        if before is not None and before.is_background:
            return replace(band, own=(*own[:-2], _joined(before, 2 * before.stitches)))
        return replace(band, own=own[:-1], middle=False)
    if before and after and _alike(before, after):
        total = (2 if home + 1 == middle else 1) * before.stitches + after.stitches
        return _splice(band, home - 1, home + 2, new=[_joined(before, total)])
    return _splice(band, home, home + 1, new=[])


def _alike(one: Segment, other: Segment) -> bool:
    return one.is_background and other.is_background and one.pattern_id == other.pattern_id


def _joined(background: Segment, stitches: int) -> Segment:
    return replace(background, repeats=background_segment(background.pattern, stitches).repeats, locked=False)


def move_segment(band: int, at: int, to: int) -> PieceEdit:
    """Takes segment `at` out and puts it where segment `to` stands; edges, and what is held in place, stay.

    A panel looks there as it did: carried over the middle of a symmetric band, its partner is the mirrored one.
    """

    def change(view: BandView, now: Band) -> Band:
        segments = view.segments
        place_checked(view, to)
        if segments[place_checked(view, at)].role in SIDES or segments[to].is_side:
            raise IllegalPiece("The edges stay at the sides; move something else.")
        for held in (segments[at], segments[to]):
            if held.placed:
                raise IllegalPiece(f"{held.name} keeps its place; press “Keep place” on it to free it first.")
        (home, was), (goal, becomes) = now.home(at), now.home(to)
        moved = now.own[home]
        rest = [*now.own[:home], *now.own[home + 1 :]]
        rest.insert(goal, moved.reflected() if was != becomes and moved.is_panel else moved)
        return replace(now, own=tuple(rest))

    return _ordered(band, change)
