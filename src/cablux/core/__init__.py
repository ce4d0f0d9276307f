"""The rules and the computation of cabled knitting: no interface, no database, no clock.

The names below are its public face. A scarf of 30 cm with one rope, and how many stitches to cast on for it:

>>> from cablux.core import Band, Evidence, Gauge, Piece, library_segment, plan_cast_on, solve_answers
>>> edge = library_segment("edge", "garter", 5)
>>> ground = library_segment("background", "reverse-stockinette", 20)
>>> rope = library_segment("panel", "rope-3-3-left", 1)
>>> band = Band((edge, ground, rope, ground, edge))
>>> scarf = Piece("Scarf", width_mm=300.0, height_mm=1500.0, evidence=Evidence(Gauge(18, 25)), bands=(band,))
>>> [(answer.name, answer.stitches) for answer in solve_answers(scarf.band_views[0])]
[('closest', 55), ('most even', 56), ('least change', 58)]
>>> plan_cast_on(scarf).cast_on, plan_cast_on(scarf).body
(56, 60)
"""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from .counts.clash import explain_clash
    from .counts.solver import solve_answers
    from .ends.cast_on import plan_cast_on
    from .ends.transition import increase_rows
    from .fabric.draw_in import compute_draw_in
    from .gauge import Evidence, Gauge, Reading, estimate
    from .library import LIBRARY, Pattern, find_pattern
    from .needle.spread import even_runs
    from .notation import Chart, audit_chart, crossing, format_chart, lint_chart, parse_chart, parse_ops
    from .notation.crossings import permute_crossing
    from .pattern import WorkedPattern, compile_piece
    from .pattern.cloth import relax_pattern
    from .pattern.words import pattern_words, row_words
    from .piece.border import Border
    from .piece.piece import Band, BandView, Piece
    from .piece.problems import checked_piece
    from .piece.segment import Segment, library_segment
    from .rows.heights import plan_rows

_HOME = {
    "Band": "piece.piece",
    "BandView": "piece.piece",
    "Border": "piece.piece",
    "Chart": "notation",
    "Evidence": "gauge",
    "Gauge": "gauge",
    "LIBRARY": "library",
    "Pattern": "library",
    "Piece": "piece.piece",
    "Reading": "gauge",
    "Segment": "piece.segment",
    "WorkedPattern": "pattern",
    "audit_chart": "notation",
    "checked_piece": "piece.problems",
    "compile_piece": "pattern",
    "compute_draw_in": "fabric.draw_in",
    "crossing": "notation",
    "estimate": "gauge",
    "even_runs": "needle.spread",
    "explain_clash": "counts.clash",
    "find_pattern": "library",
    "format_chart": "notation",
    "increase_rows": "ends.transition",
    "library_segment": "piece.segment",
    "lint_chart": "notation",
    "parse_chart": "notation",
    "parse_ops": "notation",
    "pattern_words": "pattern.words",
    "permute_crossing": "notation.crossings",
    "plan_cast_on": "ends.cast_on",
    "plan_rows": "rows.heights",
    "relax_pattern": "pattern.cloth",
    "row_words": "pattern.words",
    "solve_answers": "counts.solver",
}

__all__ = [
    "LIBRARY",
    "Band",
    "BandView",
    "Border",
    "Chart",
    "Evidence",
    "Gauge",
    "Pattern",
    "Piece",
    "Reading",
    "Segment",
    "WorkedPattern",
    "audit_chart",
    "checked_piece",
    "compile_piece",
    "compute_draw_in",
    "crossing",
    "estimate",
    "even_runs",
    "explain_clash",
    "find_pattern",
    "format_chart",
    "increase_rows",
    "library_segment",
    "lint_chart",
    "parse_chart",
    "parse_ops",
    "pattern_words",
    "permute_crossing",
    "plan_cast_on",
    "plan_rows",
    "relax_pattern",
    "row_words",
    "solve_answers",
]


def __getattr__(name: str) -> object:
    """A public name, fetched when it is first asked for: the command line wants few of them, and at once."""
    if name not in _HOME:
        raise AttributeError(f"cablux.core has no public name {name}")
    return getattr(import_module(f".{_HOME[name]}", __name__), name)
