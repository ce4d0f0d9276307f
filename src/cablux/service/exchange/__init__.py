"""Files that come in and go out: projects, swatches, patterns and charts, in open formats."""

from .chart_files import ChartForm, ChartReport, chart_as, chart_source, check_chart, convert_chart
from .evidence import MeasuredFile, UsedSwatch, piece_reading
from .own_pattern import OWN, PanelFile, PatternFile, own_files
from .piece_file import PieceFile, SizeFile
from .project_file import GaugeFile, ProjectFile, checked_file, fresh_project, read_project
from .swatch_file import KINDS, PRECISION, Kind, Precision, SwatchFile, SwatchPart, SwatchReading

__all__ = [
    "KINDS",
    "OWN",
    "PRECISION",
    "ChartForm",
    "ChartReport",
    "GaugeFile",
    "Kind",
    "MeasuredFile",
    "PanelFile",
    "PatternFile",
    "PieceFile",
    "Precision",
    "ProjectFile",
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
    "fresh_project",
    "own_files",
    "piece_reading",
    "read_project",
]
