"""What keeps a piece from being knitted, each as a sentence."""

from __future__ import annotations

from collections.abc import Iterator

from ..errors import IllegalPiece
from ..notation import Turn, WrapTurn
from .border import Border
from .piece import BandView, Piece
from .segment import MOST_PURL_MARGIN, SIDES, Segment

MAX_STITCHES = 1_500  # our choice: three times the widest bed cover in the thinnest yarn we accept for one
MAX_SEGMENTS = 60
MAX_BANDS = 4  # our choice: more than a throw with a middle of its own needs
SIZE_MM = (10.0, 10_000.0)  # our choice: from a thumb to a runner for the longest table
MAX_ROWS = 5_000
MAX_BORDER = 60  # our choice: wider than any border; more is a band of its own
FACTORS = (0.5, 1.5)


def piece_problems(piece: Piece) -> Iterator[str]:
    """Each reason why the piece cannot be knitted as it is, as a sentence."""
    yield from _sizes(piece)
    if not 1 <= len(piece.bands) <= MAX_BANDS:
        yield f"A piece can have 1 to {MAX_BANDS} bands."
        return
    for number, view in enumerate(piece.band_views, start=1):
        where = f"Band {number}: " if len(piece.bands) > 1 else ""
        yield from (where + problem for problem in band_problems(view))
    sides = {view.sides for view in piece.band_views if view.segments}
    if len(sides) > 1:
        yield "All bands must have the same edges, which run from cast-on to bind-off."
    for border, name in ((piece.bottom, "bottom"), (piece.top, "top")):
        yield from _border(piece, border, name)
    if not 1 <= piece.least_background <= 40:
        yield "The narrowest background must be 1 to 40 stitches."
    if piece.meets and (piece.round or len(piece.bands) > 1 or piece.bottom.rows or piece.top.rows):
        yield "Where the last row meets the first, a piece is worked flat, in one band, without borders; take them off."
    multiple, plus = piece.total
    if not (1 <= multiple <= 100 and 0 <= plus < multiple):
        yield f"The body count must be a multiple of 1 to 100, plus fewer than that; {multiple} + {plus} is not."
    if piece.setup_rows % piece.row_step() or not 0 <= piece.setup_rows <= MAX_BORDER:
        yield f"There can be up to {MAX_BORDER} set-up rows, and flat an even number of them."


def _sizes(piece: Piece) -> Iterator[str]:
    for size, what in ((piece.width_mm, "Width"), (piece.height_mm, "Height")):
        if not SIZE_MM[0] <= size <= SIZE_MM[1]:
            yield f"{what} must be {SIZE_MM[0] / 10:g} to {SIZE_MM[1] / 10:g} cm, not {size / 10:g}."
    if not 0 < piece.tolerance_mm <= piece.width_mm / 2:
        yield "The tolerance must be more than 0 and no more than half the width."


def band_problems(view: BandView) -> Iterator[str]:
    """Each reason why a band cannot be knitted as it is."""
    fewest = 1 if view.round else 3
    if not fewest <= len(view.segments) <= MAX_SEGMENTS:
        between = "" if view.round else "an edge on each side, something between them, and "
        yield f"A band needs {between}no more than {MAX_SEGMENTS} segments."
        return
    roles = [s.role for s in view.segments]
    if view.round and any(role in SIDES for role in roles):
        yield "A piece in the round has neither edges nor seam stitches; take them out."
    elif not view.round and (roles[0] not in SIDES or roles[-1] not in SIDES or any(r in SIDES for r in roles[1:-1])):
        yield "The first and the last segment must be edges, and no others may be."
    for at, s in enumerate(view.segments, start=1):
        yield from (f"Segment {at}: {problem}" for problem in _segment(view.piece, s))
    if view.stitches > MAX_STITCHES:
        yield f"{view.stitches} stitches are too many; the most is {MAX_STITCHES}."
    band = view.band
    if not 0 <= band.rows <= MAX_ROWS:
        yield f"A band can have up to {MAX_ROWS} rows, not {band.rows}."
    if not 0.05 <= band.share <= 20:
        yield "A band’s share of the height must be 0.05 to 20."


def _segment(piece: Piece, s: Segment) -> Iterator[str]:
    if s.role not in s.pattern.uses and not (s.is_seam and "background" in s.pattern.uses):
        yield f"{s.pattern.name} cannot be used as {_a(s.role)}."
    if s.repeats < 1:
        yield f"{s.pattern.name} needs at least {s.chart.width(1)} {'stitch' if s.chart.width(1) == 1 else 'stitches'}."
    if any(isinstance(op, Turn | WrapTurn) for row in s.chart.rows for op in row.ops()):
        yield f"{s.pattern.name} has short rows, which cannot be worked beside other patterns."
    if not 0 <= s.phase < s.chart.height:
        yield f"{s.pattern.name} cannot start at row {s.phase + 1}: its repeat has {s.chart.height} rows."
    elif s.phase % piece.row_step():
        yield f"{s.pattern.name} cannot start at row {s.phase + 1}: its right-side rows would fall on wrong-side rows."
    if not 0 <= s.purl_margin <= MOST_PURL_MARGIN or (s.purl_margin and not s.is_panel):
        yield f"the purl margin must be 0 to {MOST_PURL_MARGIN} stitches, and only panels have one."
    if s.most and s.most < max(1, s.least):
        yield f"at least {s.least} and at most {s.most} stitches leave no count."
    if s.by < 1 or min(s.least, s.most) < 0:
        yield "the limits of its stitches must be whole numbers above 0."


def _border(piece: Piece, border: Border, name: str) -> Iterator[str]:
    if "border" not in border.pattern.uses:
        yield f"{border.pattern.name} cannot be used as a border."
    if not 0 <= border.rows <= MAX_BORDER:
        yield f"The {name} border can have up to {MAX_BORDER} rows, not {border.rows}."
    if not FACTORS[0] <= border.factor <= FACTORS[1]:
        yield f"The {name} border must be 50 to 150 % as wide as the body."
    if border.count and not 2 <= border.count <= MAX_STITCHES:
        yield f"The {name} border must have 2 to {MAX_STITCHES} stitches."


def _a(role: str) -> str:
    return f"an {role}" if role == "edge" else f"a {role}"


def checked_piece(piece: Piece) -> Piece:
    """The piece itself, or IllegalPiece with every reason."""
    found = list(piece_problems(piece))
    if found:
        raise IllegalPiece(" ".join(found))
    return piece
