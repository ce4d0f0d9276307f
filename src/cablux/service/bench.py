"""Changes on the bench: each takes a piece and gives the next one, with a name for the history."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from ..core.errors import IllegalPiece, Infeasible
from ..core.layout.piece import Piece, Segment
from ..core.layout.solver import Answer, AnswerName, answer, answers
from ..core.layout.widths import body_sd_um, body_um, chance_within
from ..core.library import Pattern, find_pattern
from .errors import NotFound

Change = Callable[[Piece], Piece]
GROUND = "reverse-stockinette"
BESIDE = 4  # our choice: stitches of ground between two panels put side by side


def add(pattern: Pattern, at: int) -> Change:
    """Puts a pattern in from the drawer at segment `at`, counted from the right.

    A panel dropped on a background parts it in two; beside another panel it brings a little ground with it.
    A background dropped on a background takes its place.
    """

    def change(piece: Piece) -> Piece:
        place = max(1, min(at, len(piece.segments) - 2)) if len(piece.segments) > 2 else 1
        here = piece.segments[place]
        if "panel" not in pattern.uses:
            return _swap(piece, place, _ground(pattern, here.stitches if here.role == "background" else BESIDE))
        panel = Segment("panel", pattern, 1)
        if here.role == "background" and not here.locked:
            return _splice(piece, place, place + 1, _parted(piece, here, panel))
        before = piece.segments[place - 1]
        new = [panel, _ground(find_pattern(GROUND), BESIDE)]
        if before.role == "panel":
            new.insert(0, _ground(find_pattern(GROUND), BESIDE))
        return _splice(piece, place, place, new)

    return change


def roomiest(piece: Piece) -> int:
    """The widest background, where a new panel finds room; the middle segment if there is none."""
    grounds = [(s.stitches, i) for i, s in enumerate(piece.segments) if s.role == "background"]
    return max(grounds)[1] if grounds else len(piece.segments) // 2


def added_at(before: Piece, after: Piece, at: int) -> int:
    """Where a pattern lies that was put in at segment `at`: one further where it parted a background in two."""
    parted = len(after.segments) - len(before.segments) == 2 and before.segments[at].role == "background"
    return at + 1 if parted else at


def _ground(pattern: Pattern, stitches: int) -> Segment:
    """A background of about so many stitches."""
    chart = pattern.chart
    return Segment("background", pattern, max(1, round((stitches - chart.balance) / chart.multiple)))


def _parted(piece: Piece, ground: Segment, panel: Segment) -> list[Segment]:
    """The ground in two halves round the panel, as wide together as the ground was where that can be."""
    left = max(2 * piece.least_background, ground.stitches - panel.stitches)
    half = left // 2
    return [_ground(ground.pattern, left - half), panel, _ground(ground.pattern, half)]


def _swap(piece: Piece, at: int, ground: Segment) -> Piece:
    here = piece.segments[at]
    if here.role == "background":
        return _splice(piece, at, at + 1, [ground])
    return _splice(piece, at, at, [ground])


def _splice(piece: Piece, start: int, stop: int, new: list[Segment]) -> Piece:
    s = piece.segments
    return piece.with_segments((*s[:start], *new, *s[stop:]))


def remove(at: int) -> Change:
    """Takes a segment out; the backgrounds that meet become one, as wide as all three were."""

    def change(piece: Piece) -> Piece:
        gone = _segment(piece, at)
        if gone.role == "edge":
            raise IllegalPiece("The edges stay; make them narrower instead.")
        if len(piece.segments) == 3:
            raise IllegalPiece("Something has to stand between the edges.")
        before, after = piece.segments[at - 1], piece.segments[at + 1]
        if before.role == after.role == "background" and before.pattern_id == after.pattern_id:
            total = before.stitches + gone.stitches + after.stitches
            return _splice(piece, at - 1, at + 2, [replace(_ground(before.pattern, total), locked=False)])
        return _splice(piece, at, at + 1, [])

    return change


def move(at: int, to: int) -> Change:
    """Takes segment `at` out and puts it where segment `to` stands; edges stay where they are."""

    def change(piece: Piece) -> Piece:
        moved = _segment(piece, at)
        _segment(piece, to)
        last = len(piece.segments) - 1
        if moved.role == "edge" or to in (0, last):
            raise IllegalPiece("The edges stay at the sides.")
        rest = [*piece.segments[:at], *piece.segments[at + 1 :]]
        rest.insert(to, moved)
        return piece.with_segments(tuple(rest))

    return change


def set_repeats(at: int, repeats: int) -> Change:
    """So many repeats of the segment's multiple."""

    def change(piece: Piece) -> Piece:
        segment = _segment(piece, at)
        if not 1 <= repeats <= 1500:
            raise IllegalPiece(f"{segment.name} needs from 1 to 1500 repeats, not {repeats}.")
        return _put(piece, at, replace(segment, repeats=repeats))

    return change


def step_repeats(at: int, by: int) -> Change:
    """Some repeats more or fewer than there are; quick presses add up, since each starts from the last."""

    def change(piece: Piece) -> Piece:
        return set_repeats(at, _segment(piece, at).repeats + by)(piece)

    return change


def set_stitches(at: int, stitches: int) -> Change:
    """So many stitches, which must suit the multiple. Raises IllegalPiece with the nearest that do."""

    def change(piece: Piece) -> Piece:
        segment = _segment(piece, at)
        repeats = segment.chart.repeats_for(stitches)
        if repeats is None:
            m, b = segment.chart.multiple, segment.chart.balance
            low = max(1, (stitches - b) // m)
            suits = " or ".join(str(segment.chart.width(n)) for n in (low, low + 1))
            plus = f" + {b}" if b else ""
            raise IllegalPiece(f"{segment.name} is a multiple of {m}{plus}: {stitches} does not fit, {suits} would.")
        return _put(piece, at, replace(segment, repeats=repeats))

    return change


def toggle(at: int, field: str) -> Change:
    """Turns `mirrored` or `locked` over."""

    def change(piece: Piece) -> Piece:
        segment = _segment(piece, at)
        if field == "mirrored":
            return _put(piece, at, replace(segment, mirrored=not segment.mirrored))
        return _put(piece, at, replace(segment, locked=not segment.locked))

    return change


def choose(
    *,
    symmetric: bool | None = None,
    cast_on: str = "",
    spread: str = "",
    least: int = 0,
    border: str = "",
    rows: int = 0,
) -> Change:
    """The choices that belong to the whole piece; what is not given stays."""

    def change(piece: Piece) -> Piece:
        if symmetric is not None:
            piece = replace(piece, symmetric=symmetric)
        if cast_on:
            piece = replace(piece, cast_on="straight" if cast_on == "straight" else "stepped")
        if spread:
            piece = replace(piece, spread="even" if spread == "even" else "cables")
        if least:
            piece = replace(piece, least_background=least)
        if border:
            piece = replace(piece, border_id=find_pattern(border).id)
        return replace(piece, border_rows=rows) if rows else piece

    return change


def take(name: AnswerName) -> Change:
    """Takes one of the solver's answers. Raises Infeasible where it has none."""

    def change(piece: Piece) -> Piece:
        found = answer(piece, name, tolerance_um=piece.tolerance_mm * 1000.0)
        if found is None:
            answers(piece)  # says why there is none
            raise Infeasible("There is no such answer for this layout.")
        return piece.with_segments(found.segments)

    return change


@dataclass(frozen=True)
class Offer:
    """An answer of the solver as the bench shows it, with the width it would really come to."""

    answer: Answer
    width_um: int
    chance: float
    taken: bool


@dataclass(frozen=True)
class Offers:
    """The answers, or why there are none."""

    offers: tuple[Offer, ...]
    refusal: str = ""


def offers(piece: Piece) -> Offers:
    """The solver's best different answers for the piece as it stands, each with its chance to land."""
    try:
        found = answers(piece)
    except Infeasible as error:
        return Offers((), str(error))
    low = (piece.width_mm - piece.tolerance_mm) * 1000.0
    high = (piece.width_mm + piece.tolerance_mm) * 1000.0
    return Offers(
        tuple(
            Offer(a, width, chance_within(width, body_sd_um(laid), low, high), a.segments == piece.segments)
            for a in found
            for laid in [piece.with_segments(a.segments)]
            for width in [body_um(laid, piece.outlook)]
        )
    )


def _segment(piece: Piece, at: int) -> Segment:
    if not 0 <= at < len(piece.segments):
        raise NotFound("That segment is no longer there.")
    return piece.segments[at]


def _put(piece: Piece, at: int, segment: Segment) -> Piece:
    return _splice(piece, at, at + 1, [segment])
