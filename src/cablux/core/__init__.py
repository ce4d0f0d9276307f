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
    from .fabric.draw_in import compute_draw_in
    from .gauge import Evidence, Gauge, Reading, estimate
    from .layout.caston import plan_cast_on
    from .layout.clash import explain_clash
    from .layout.heights import plan_rows
    from .layout.piece import Band, BandView, Border, Piece
    from .layout.problems import checked_piece
    from .layout.segment import Segment, library_segment
    from .layout.solver import solve_answers
    from .layout.transition import increase_rows
    from .library import LIBRARY, Pattern, find_pattern
    from .notation import Chart, audit_chart, crossing, format_chart, lint_chart, parse_chart, parse_ops
    from .notation.crossings import permute_crossing
    from .pattern import WorkedPattern, compile_piece
    from .pattern.cloth import relax_pattern
    from .pattern.words import pattern_words, row_words
    from .shaping.spread import even_runs

_HOME = {
    "Band": "layout.piece",
    "BandView": "layout.piece",
    "Border": "layout.piece",
    "Chart": "notation",
    "Evidence": "gauge",
    "Gauge": "gauge",
    "LIBRARY": "library",
    "Pattern": "library",
    "Piece": "layout.piece",
    "Reading": "gauge",
    "Segment": "layout.segment",
    "WorkedPattern": "pattern",
    "audit_chart": "notation",
    "checked_piece": "layout.problems",
    "compile_piece": "pattern",
    "compute_draw_in": "fabric.draw_in",
    "crossing": "notation",
    "estimate": "gauge",
    "even_runs": "shaping.spread",
    "explain_clash": "layout.clash",
    "find_pattern": "library",
    "format_chart": "notation",
    "increase_rows": "layout.transition",
    "library_segment": "layout.segment",
    "lint_chart": "notation",
    "parse_chart": "notation",
    "parse_ops": "notation",
    "pattern_words": "pattern.words",
    "permute_crossing": "notation.crossings",
    "plan_cast_on": "layout.caston",
    "plan_rows": "layout.heights",
    "relax_pattern": "pattern.cloth",
    "row_words": "pattern.words",
    "solve_answers": "layout.solver",
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
