"""What keeps a piece from being knitted, each as a sentence."""

from __future__ import annotations

from collections.abc import Iterator

from ..errors import IllegalPiece
from ..notation import Turn, WrapTurn
from .piece import BandView, Border, Piece
from .segment import MOST_GUTTER, SIDES, Segment

MAX_STITCHES = 1_500  # our choice: three times the widest bed cover in the thinnest yarn we accept for one
MAX_SEGMENTS = 60
MAX_BANDS = 4  # our choice: more than a throw with a middle of its own needs
SIZE_MM = (50.0, 4_000.0)
MAX_ROWS = 5_000
MAX_BORDER = 60  # our choice: wider than any border; more is a band of its own
FACTORS = (0.5, 1.5)


def piece_problems(piece: Piece) -> Iterator[str]:
    """Each reason why the piece cannot be knitted as it is, as a sentence."""
    yield from _sizes(piece)
    if not 1 <= len(piece.bands) <= MAX_BANDS:
        yield f"A piece has from 1 to {MAX_BANDS} body bands."
        return
    for number, view in enumerate(piece.band_views, start=1):
        where = f"Band {number}: " if len(piece.bands) > 1 else ""
        yield from (where + problem for problem in band_problems(view))
    sides = {view.sides for view in piece.band_views if view.segments}
    if len(sides) > 1:
        yield "All bands have the same edges, since these run through from cast-on to bind-off."
    for border, name in ((piece.bottom, "bottom"), (piece.top, "top")):
        yield from _border(piece, border, name)
    if not 1 <= piece.least_background <= 40:
        yield f"A background of at least {piece.least_background} stitches makes no sense; give 1 to 40."
    multiple, plus = piece.total
    if not (1 <= multiple <= 100 and 0 <= plus < multiple):
        yield f"A body count of a multiple of {multiple} + {plus} makes no sense; the rest is less than the multiple."
    if piece.setup_rows % piece.row_step() or not 0 <= piece.setup_rows <= 12:
        yield f"{piece.setup_rows} set-up rows cannot be; give an even number up to 12."


def _sizes(piece: Piece) -> Iterator[str]:
    for size, what in ((piece.width_mm, "width"), (piece.height_mm, "height")):
        if not SIZE_MM[0] <= size <= SIZE_MM[1]:
            between = f"between {SIZE_MM[0] / 10:g} and {SIZE_MM[1] / 10:g} cm"
            yield f"The {what} of {size / 10:g} cm cannot be; it lies {between}."
    if not 0 < piece.tolerance_mm <= piece.width_mm / 2:
        tolerance = f"A tolerance of {piece.tolerance_mm / 10:g} cm"
        yield f"{tolerance} is of no use; give more than 0 and less than half the width."


def band_problems(view: BandView) -> Iterator[str]:
    """Each reason why a band cannot be knitted as it is."""
    fewest = 1 if view.round else 3
    if not fewest <= len(view.segments) <= MAX_SEGMENTS:
        between = "" if view.round else "an edge on each side and something between, and "
        yield f"A body has {between}at most {MAX_SEGMENTS} segments."
        return
    roles = [s.role for s in view.segments]
    if view.round and any(role in SIDES for role in roles):
        yield "A view in the round has neither edges nor seam stitches; take them out."
    elif not view.round and (roles[0] not in SIDES or roles[-1] not in SIDES or any(r in SIDES for r in roles[1:-1])):
        yield "The first and the last segment are the edges, and there are no others."
    for at, s in enumerate(view.segments, start=1):
        yield from (f"Segment {at}: {problem}" for problem in _segment(view.piece, s))
    if view.stitches > MAX_STITCHES:
        yield f"{view.stitches} stitches on the needle are more than the {MAX_STITCHES} we can plan."
    band = view.band
    if not 0 <= band.rows <= MAX_ROWS:
        yield f"The body has up to {MAX_ROWS} rows, not {band.rows}."
    if not 0.05 <= band.share <= 20:
        yield "A band's share of the height lies between 0.05 and 20."


def _segment(piece: Piece, s: Segment) -> Iterator[str]:
    if s.role not in s.pattern.uses and not (s.is_seam and "background" in s.pattern.uses):
        yield f"{s.pattern.name} is not made to be used as {_a(s.role)}."
    if s.repeats < 1:
        yield f"{s.pattern.name} needs at least one repeat of {s.chart.multiple} stitches."
    if any(isinstance(op, Turn | WrapTurn) for row in s.chart.rows for op in row.ops()):
        yield f"{s.pattern.name} has short rows, which cannot be worked beside other patterns."
    if not 0 <= s.phase < s.chart.height:
        yield f"{s.pattern.name} cannot begin {s.phase} rows later: it repeats after {s.chart.height}."
    elif s.phase % piece.row_step():
        yield f"{s.pattern.name} cannot begin {s.phase} rows later: its right-side rows would be wrong-side rows."
    if not 0 <= s.gutter <= MOST_GUTTER or (s.gutter and not s.is_panel):
        yield f"a gutter of {s.gutter} stitches cannot be; a panel has from 0 to {MOST_GUTTER} purl stitches beside it."
    if s.most and s.most < max(1, s.least):
        yield f"at least {s.least} and at most {s.most} stitches contradict each other."
    if s.by < 1 or min(s.least, s.most) < 0:
        yield "bounds of its stitches are written as positive numbers."


def _border(piece: Piece, border: Border, name: str) -> Iterator[str]:
    if "border" not in border.pattern.uses:
        yield f"{border.pattern.name} is not made to be used as a border."
    if not 0 <= border.rows <= MAX_BORDER:
        yield f"The {name} border has up to {MAX_BORDER} rows, not {border.rows}."
    if not FACTORS[0] <= border.factor <= FACTORS[1]:
        yield f"The {name} border as wide as {border.factor:g} of the body makes no sense; give 0.5 to 1.5."
    if border.count and not 2 <= border.count <= MAX_STITCHES:
        yield f"{border.count} stitches for the {name} border cannot be planned; give 2 to {MAX_STITCHES}."


def _a(role: str) -> str:
    return f"an {role}" if role == "edge" else f"a {role}"


def checked_piece(piece: Piece) -> Piece:
    """The piece itself, or IllegalPiece with every reason."""
    found = list(piece_problems(piece))
    if found:
        raise IllegalPiece(" ".join(found))
    return piece
