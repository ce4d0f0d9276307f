"""Files that come in and go out: projects, swatches, patterns and charts, in open formats."""

from .chart_files import ChartForm, ChartReport, chart_as, chart_source, check_chart, convert_chart
from .evidence import MeasuredFile, UsedSwatch, piece_reading
from .file_units import file_in_unit
from .join_file import EdgeFile, JoinFile, join_file, join_of
from .own_pattern import OWN, PanelFile, PatternFile, own_files
from .piece_file import PieceFile, SizeFile
from .project_file import (
    MOST_PANELS,
    GaugeFile,
    ProjectFile,
    ShapeFile,
    checked_file,
    fresh_project,
    opened_at_piece,
    read_at_piece,
    read_project,
)
from .swatch_file import KINDS, PRECISION, Kind, Precision, SwatchFile, SwatchPart, SwatchReading

__all__ = [
    "KINDS",
    "MOST_PANELS",
    "OWN",
    "PRECISION",
    "ChartForm",
    "ChartReport",
    "EdgeFile",
    "GaugeFile",
    "JoinFile",
    "Kind",
    "MeasuredFile",
    "PanelFile",
    "PatternFile",
    "PieceFile",
    "Precision",
    "ProjectFile",
    "ShapeFile",
    "SizeFile",
    "SwatchFile",
    "SwatchPart",
    "SwatchReading",
    "UsedSwatch",
    "chart_as",
    "chart_source",
    "check_chart",
    "checked_file",
    "convert_chart",
    "file_in_unit",
    "fresh_project",
    "join_file",
    "join_of",
    "opened_at_piece",
    "own_files",
    "piece_reading",
    "read_at_piece",
    "read_project",
]
