from .counts.clash import explain_clash as explain_clash
from .counts.solver import solve_layouts as solve_layouts
from .ends.cast_on import plan_cast_on as plan_cast_on
from .ends.transition import increase_rows as increase_rows
from .fabric.draw_in import compute_draw_in as compute_draw_in
from .gauge import Evidence as Evidence
from .gauge import Gauge as Gauge
from .gauge import Reading as Reading
from .gauge import estimate as estimate
from .library import LIBRARY as LIBRARY
from .library import StitchPattern as StitchPattern
from .library import find_pattern as find_pattern
from .needle.spread import even_runs as even_runs
from .notation import Chart as Chart
from .notation import audit_chart as audit_chart
from .notation import crossing as crossing
from .notation import format_chart as format_chart
from .notation import lint_chart as lint_chart
from .notation import parse_chart as parse_chart
from .notation import parse_ops as parse_ops
from .notation.crossings import permute_crossing as permute_crossing
from .pattern import WorkedPattern as WorkedPattern
from .pattern import compile_piece as compile_piece
from .pattern.cloth import relax_pattern as relax_pattern
from .pattern.words import pattern_words as pattern_words
from .pattern.words import row_words as row_words
from .piece.border import Border as Border
from .piece.piece import Band as Band
from .piece.piece import BandView as BandView
from .piece.piece import Piece as Piece
from .piece.problems import checked_piece as checked_piece
from .piece.segment import Segment as Segment
from .piece.segment import library_segment as library_segment
from .rows.heights import plan_rows as plan_rows

__all__ = [
    "LIBRARY",
    "Band",
    "BandView",
    "Border",
    "Chart",
    "Evidence",
    "Gauge",
    "Piece",
    "Reading",
    "Segment",
    "StitchPattern",
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
    "solve_layouts",
]
