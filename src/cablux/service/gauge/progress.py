"""What the measures of the piece itself mean for the rest of it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...core.piece.piece import Piece
from ...core.rows.heights import plan_rows
from ...core.units import Unit, length_text
from ..projects import piece_numbers

_BLOCKED = 0.05  # common practice: wet-blocking gives 5 to 10 % of the width back


@dataclass(frozen=True)
class Outlook:
    """What the measures of the piece itself say to do, in sentences; nothing where there are none.

    `body_rows` is how many rows of the body would reach the height, where that is not what is planned.
    """

    says: tuple[str, ...]
    body_rows: int


def project_outlook(piece: Piece, unit: Unit) -> Outlook:
    """What the piece will come to by everything known of it, the piece itself included."""
    numbers = piece_numbers(piece)
    off = numbers.width_um - piece.width_mm * 1000.0
    rows = _rows_wanted(piece)
    says = _advice(piece, unit, numbers.width_um, half=numbers.eighty_um, off=off) if piece.progress else ()
    return Outlook(says, rows if rows != numbers.rows.body else 0)


def _rows_wanted(piece: Piece) -> int:
    """The rows of the body that reach the height, by what was measured on the piece too."""
    if len(piece.bands) > 1 or not any(r.along == "height" for r in piece.progress):
        return plan_rows(piece).body
    free = tuple(replace(band, rows=0) for band in piece.bands)
    measured = replace(piece.evidence, readings=(*piece.evidence.readings, *piece.progress))
    return plan_rows(replace(piece, evidence=measured, progress=(), bands=free)).body


def _advice(piece: Piece, unit: Unit, width: float, *, half: float, off: float) -> tuple[str, ...]:
    def text(um: float) -> str:
        return length_text(um / 1000.0, unit)

    tolerance = piece.tolerance_mm * 1000.0
    comes = f"t will come to {text(width)}, give or take {text(half)}"
    again = "That is less than this measure is sure of: measure again a little higher up."
    if abs(off) <= tolerance:
        near = f"Go on: i{comes}; you want {text(piece.width_mm * 1000.0)}, within {text(tolerance)}."
        return (near, again) if half > tolerance else (near,)
    out = [f"I{comes}: {text(abs(off))} {'narrower' if off < 0 else 'wider'} than wanted."]
    if abs(off) < half:
        out.append(again)
    if off < 0 and abs(off) < _BLOCKED * width and piece.evidence.finish != "blocked":
        out.append("Pinned out wet, cabled cloth gives about a twentieth of its width; that would mend it.")
    stitches, what = round(abs(off) / (1000.0 * piece.outlook.gauge.stitch_mm)), "more" if off < 0 else "fewer"
    out.append(f"Or rip back to the set-up rows and give the backgrounds about {stitches} stitches {what} in all.")
    return tuple(out)
