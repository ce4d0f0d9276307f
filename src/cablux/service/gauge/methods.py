"""The methods of sizing side by side: what each would cast on, and how wide that would really be."""

from __future__ import annotations

from ...core.counts.method_layouts import method_verdicts
from ...core.gauge import Method
from ...core.piece.piece import Piece
from ..answers import MethodVerdict

METHOD_NAMES: dict[Method, tuple[str, str]] = {
    "estimate": ("Charts and swatches", "the draw-in computed from the chart, corrected by what you measured"),
    "swatches": ("By swatch", "each pattern’s own swatch, the widths added; what has none counts as stockinette"),
    "thumb": ("By rule of thumb", "one to three extra stitches for each cable, by its width"),
    "percent": ("By percentage", "one extra stitch for every four cable stitches"),
    "straight": ("Straight", "as if cables did not draw in"),
}


def methods_table(piece: Piece) -> tuple[MethodVerdict, ...]:
    """Every method's cast-on for a piece, and how wide it would really come out."""
    return tuple(
        MethodVerdict(
            method=v.method,
            cast_on=v.plan.count if v.plan else None,
            body=v.plan.body if v.plan else None,
            claimed_mm=v.claimed_um / 1000.0,
            real_mm=v.real_um / 1000.0,
            wider_mm=v.off_um / 1000.0,
            missing=v.missing,
            refusal=v.refusal,
        )
        for v in method_verdicts(piece)
    )
