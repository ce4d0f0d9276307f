"""Figures of plain knitting that several layers share, each with where it comes from."""

from __future__ import annotations

ROWS_TO_STITCHES = 1.4
"""Rows to stitches of stockinette where nobody has counted. Relaxed cloth has 1.29 to 1.31 (Munden, *J. Text. Inst.*
50, 1959, T448); yarns' bands print 1.3 to 1.5, and 1.35 to 1.4 is what hands most often knit (common practice)."""

_EDGE_MM = 25.0


def edge_stitches(stitch_mm: float) -> int:
    """How many stitches an edge of about 2.5 cm has (common practice), two at least and eight at most (our choice)."""
    return max(2, min(8, round(_EDGE_MM / stitch_mm)))


HEAD_MM = 560.0
"""Common practice: a woman's head measures 54 to 57 cm; a cowl must pass over it."""
